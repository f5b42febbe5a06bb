package web_test

import (
	"fmt"
	"math/rand/v2"
	"net/http"
	"os"
	"sort"
	"strconv"
	"strings"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"bractum/demo"
)

// Requests of any shape, as each role and as nobody: each is answered, none by a failure of ours, and the studio holds
// together afterwards. BRACTUM_REQUESTS says how many.
func TestWhateverIsAskedIsAnswered(t *testing.T) {
	number := 600
	if n, err := strconv.Atoi(os.Getenv("BRACTUM_REQUESTS")); err == nil {
		number = n
	}
	d := newDesk(t)
	lead, maker, packer := everyRole(t, d)
	askers := []*browser{lead, maker, packer, {desk: d, person: demo.ID("Odalys")}, {desk: d, cookie: "forged"}}
	type one struct {
		method, path string
		o            *huma.Operation
	}
	var all []one
	for path, item := range d.app.API.OpenAPI().Paths {
		for method, o := range map[string]*huma.Operation{http.MethodGet: item.Get, http.MethodPost: item.Post,
			http.MethodPut: item.Put, http.MethodDelete: item.Delete} {
			if o != nil && !strings.HasPrefix(path, "/api/access") { // what signs the askers out
				all = append(all, one{method, strings.TrimPrefix(path, "/api"), o})
			}
		}
	}
	sort.Slice(all, func(i, j int) bool { return all[i].path+all[i].method < all[j].path+all[j].method })
	seed := rand.Uint64()
	r := rand.New(rand.NewPCG(seed, 1))
	codes := map[int]int{}
	for range number {
		o := all[r.IntN(len(all))]
		path := filled(r, o.path)
		var body any = anything(r, 3)
		if o.o.RequestBody != nil && r.IntN(3) > 0 {
			if media := o.o.RequestBody.Content["application/json"]; media != nil {
				body = shaped(r, media.Schema, d.app.API.OpenAPI().Components.Schemas, 5)
			}
		}
		asker := askers[r.IntN(len(askers))]
		code, said := asker.ask(
			o.method,
			path,
			body,
			"If-Match",
			strconv.Itoa(r.IntN(4)),
			"Person",
			string(asker.person),
		)
		codes[code]++
		if code >= 500 && code != 502 && code != 503 { // a device that is not there
			t.Fatalf("%s %s answers %d %v to %v (seed %d)", o.method, path, code, said, body, seed)
		}
	}
	t.Log(codes)
	require.NoError(t, d.store.Verify(t.Context(), standing))
	code, _ := lead.ask("GET", "/orders", nil)
	require.Equal(t, 200, code)
}

var knownIDs = []string{
	string(demo.ID("Teun")),
	string(demo.ID("Magnolia")),
	string(demo.ID("Oyster")),
	string(demo.ID("Lighthouse")),
}

func filled(r *rand.Rand, path string) string {
	parts := strings.Split(path, "/")
	for i, part := range parts {
		if strings.HasPrefix(part, "{") {
			parts[i] = []string{uuid.NewString(), knownIDs[r.IntN(len(knownIDs))], "1", "-1", "people", "%00",
				"..%2F..", strings.Repeat("x", 300)}[r.IntN(8)]
		}
	}
	return strings.Join(parts, "/")
}

// anything is some JSON.
func anything(r *rand.Rand, deep int) any {
	switch n := r.IntN(9); {
	case n == 0 && deep > 0:
		return []any{anything(r, deep-1), anything(r, deep-1)}
	case n == 1 && deep > 0:
		return object{"name": anything(r, deep-1), "x": anything(r, deep-1)}
	case n == 2:
		return nil
	case n == 3:
		return r.IntN(2) == 0
	case n == 4:
		return []any{0, -1, 1 << 53, 0.5, 1e300}[r.IntN(5)]
	case n == 5:
		return knownIDs[r.IntN(len(knownIDs))]
	}
	return []string{"", "x", "2027-09-20", "09:00", "2027-10-02T14:00",
		"'; DROP TABLE lot;--", "<script>", strings.Repeat("ä", 500), "\x00"}[r.IntN(9)]
}

// shaped is JSON nearly as a description wants it.
func shaped(r *rand.Rand, s *huma.Schema, all huma.Registry, deep int) any {
	if s.Ref != "" {
		s = all.SchemaFromRef(s.Ref)
	}
	if deep == 0 || r.IntN(14) == 0 {
		return anything(r, 1)
	}
	switch s.Type {
	case "object":
		out := object{}
		for name, of := range s.Properties {
			if r.IntN(8) > 0 {
				out[name] = shaped(r, of, all, deep-1)
			}
		}
		return out
	case "array":
		out := []any{}
		for range r.IntN(4) {
			out = append(out, shaped(r, s.Items, all, deep-1))
		}
		return out
	case "integer", "number":
		return r.IntN(200) - 5
	case "boolean":
		return r.IntN(2) == 0
	}
	if len(s.Enum) > 0 {
		return s.Enum[r.IntN(len(s.Enum))]
	}
	if s.Format == "uuid" {
		return []string{uuid.NewString(), knownIDs[r.IntN(len(knownIDs))]}[r.IntN(2)]
	}
	return fmt.Sprint(anything(r, 0))
}
