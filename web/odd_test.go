package web_test

import (
	"context"
	"fmt"
	"log"
	"log/slog"
	"maps"
	"math/rand/v2"
	"net/http"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/demo"
)

// Whatever is asked, of any operation, the answer is below 500 and the studio goes on: by
// seed, requests are made of what the OpenAPI says, of ids and figures that the studio has
// said itself, and of what neither would say. BRACTUM_ODD is how many, BRACTUM_ODD_ONLY of
// which paths; make test asks few.
func TestNoRequestHoweverOddIsAFailureOfOurs(t *testing.T) {
	number := 500
	if n, err := strconv.Atoi(os.Getenv("BRACTUM_ODD")); err == nil {
		number = n
	}
	d := newDesk(t)
	faults := &faults{}
	defer log.SetFlags(log.Flags())
	defer log.SetOutput(log.Writer())
	defer slog.SetDefault(slog.Default())
	slog.SetDefault(slog.New(faults))
	o := &odd{rand.New(rand.NewPCG(1, uint64(number))),
		d.app.API.OpenAPI().Components.Schemas, map[string][]any{}, false}
	o.listen(d)
	operations := operationsOf(d.app.API.OpenAPI())
	if only := os.Getenv("BRACTUM_ODD_ONLY"); only != "" {
		of := regexp.MustCompile(only)
		operations = slices.DeleteFunc(operations, func(o operation) bool { return !of.MatchString(o.path) })
	}
	taken := map[string]int{}
	for n := range number {
		if n%500 == 499 {
			o.listen(d)
		}
		r := o.request(operations[o.IntN(len(operations))])
		status, answer := d.ask(r.method, r.path, r.body, r.headers)
		// no scale, printer or order desk is connected, and a wish does not wait for long
		if status != http.StatusBadGateway && status != http.StatusServiceUnavailable {
			said := ""
			if text := faults.said.Load(); text != nil {
				said = *text
			}
			require.Less(t, status, 500, "request %d: %s %s %v\n%v\n%s", n, r.method, r.path, r.body, answer, said)
		}
		if status < 300 {
			taken[r.name]++
		}
		if r.name == "start-search" && status < 300 {
			d.ask("POST", "/api/search/stop", "", nil)
		}
		if said := faults.said.Load(); said != nil {
			require.Failf(t, "something failed", "after request %d: %s %s %v\n%s", n, r.method, r.path, r.body, *said)
		}
	}
	assert.Greater(t, len(taken), len(operations)/4, "many operations are reached: %v", taken)
	require.Eventually(t, func() bool {
		_, studio := d.ask("GET", "/api/studio", "", nil)
		return studio["behind"] != true
	}, time.Minute, 50*time.Millisecond, "what was asked for last is planned with")
	inForceHolds(t, d)
	assert.Nil(t, faults.said.Load())
}

// faults notes what is logged as an error, as panics in the background are.
type faults struct{ said atomic.Pointer[string] }

func (f *faults) Handle(_ context.Context, r slog.Record) error {
	if r.Level >= slog.LevelError {
		text := r.Message
		r.Attrs(func(a slog.Attr) bool { text += " " + a.String(); return true })
		f.said.Store(&text)
	}
	return nil
}

func (f *faults) Enabled(context.Context, slog.Level) bool { return true }
func (f *faults) WithAttrs([]slog.Attr) slog.Handler       { return f }
func (f *faults) WithGroup(string) slog.Handler            { return f }

type operation struct {
	*huma.Operation
	method, path string
}

func operationsOf(api *huma.OpenAPI) (all []operation) {
	for path, item := range api.Paths {
		for method, o := range map[string]*huma.Operation{http.MethodGet: item.Get, http.MethodPost: item.Post,
			http.MethodPut: item.Put, http.MethodDelete: item.Delete, http.MethodPatch: item.Patch} {
			if o != nil {
				all = append(all, operation{o, method, path})
			}
		}
	}
	slices.SortFunc(all, func(a, b operation) int { return strings.Compare(a.method+a.path, b.method+b.path) })
	return all
}

// odd makes requests of what was said: values by the names of their fields.
type odd struct {
	*rand.Rand
	schemas huma.Registry
	said    map[string][]any
	strange bool // of the request that is made: something in it may be what nobody would say
}

// listen takes in what the studio says now.
func (o *odd) listen(d desk) {
	for _, path := range append(mainReads(demo.Document()), "/api/journal", "/api/book", "/api/log", "/api/air") {
		_, answer := d.ask("GET", path, "", nil)
		o.hear("", answer)
	}
}

func (o *odd) hear(name string, value any) {
	switch v := value.(type) {
	case map[string]any:
		for _, key := range slices.Sorted(maps.Keys(v)) {
			o.hear(key, v[key])
		}
	case []any:
		for _, inner := range v {
			o.hear(name, inner)
		}
	case string, float64:
		if len(o.said[name]) < 400 {
			o.said[name] = append(o.said[name], v)
		} else {
			o.said[name][o.IntN(400)] = v
		}
	}
}

type request struct {
	name, method, path string
	body               any
	headers            map[string]string
}

func (o *odd) request(of operation) request {
	r := request{of.OperationID, of.method, of.path, "",
		map[string]string{"Prefer": "", "Command-Id": uuid.NewString()}}
	o.strange = o.IntN(2) == 0
	query := []string{}
	for _, p := range of.Parameters {
		switch value := fmt.Sprint(o.value(p.Name, p.Schema, 0)); p.In {
		case "path":
			if p.Schema.Type == huma.TypeString && o.IntN(3) > 0 {
				value = fmt.Sprint(o.known([]string{p.Name, "id", "task", "lot"}[o.IntN(4)], value))
			}
			r.path = strings.ReplaceAll(r.path, "{"+p.Name+"}", strings.NewReplacer(
				"/", "", "?", "", " ", "", "\x00", "",
				"\n", "", "%", "", "#", "").Replace(value))
		case "query":
			if o.IntN(3) == 0 {
				query = append(query, p.Name+"="+strings.Map(func(c rune) rune {
					if c <= ' ' || c == '%' || c == '&' || c == '#' || c > '~' {
						return -1
					}
					return c
				}, value))
			}
		case "header":
			if p.Name == "If-Match" {
				r.headers["If-Match"] = strconv.Itoa(1 + o.IntN(2))
			}
		}
	}
	if len(query) > 0 {
		r.path += "?" + strings.Join(query, "&")
	}
	if of.RequestBody != nil {
		for _, content := range of.RequestBody.Content {
			if content.Schema != nil {
				r.body = o.value("", content.Schema, 0)
			}
		}
	}
	return r
}

func (o *odd) known(name string, otherwise any) any {
	if said := o.said[name]; len(said) > 0 {
		return said[o.IntN(len(said))]
	}
	return otherwise
}

// oddities are what no field would be.
var oddities = []any{nil, true, -1, 0, 9e18, -9e18, 1e300, 0.5, "", " ", "x", "2027-13-40T99:99",
	"\x00", "\u202e\u2066",
	strings.Repeat("x", 3000), []any{}, []any{nil}, map[string]any{}, "'; DROP TABLE journal", "../../etc", "NaN"}

// value is one that a field could have, mostly: what was said of its name, or what its
// schema allows.
func (o *odd) value(name string, s *huma.Schema, depth int) any {
	if s == nil {
		return nil
	}
	if s.Ref != "" {
		s = o.schemas.SchemaFromRef(s.Ref)
	}
	if o.strange && o.IntN(20) == 0 || depth > 8 {
		return oddities[o.IntN(len(oddities))]
	}
	if len(s.Enum) > 0 {
		return s.Enum[o.IntN(len(s.Enum))]
	}
	switch s.Type {
	case huma.TypeObject:
		made := map[string]any{}
		for _, key := range slices.Sorted(maps.Keys(s.Properties)) {
			if slices.Contains(s.Required, key) && !(o.strange && o.IntN(20) == 0) || o.IntN(3) == 0 {
				made[key] = o.value(key, s.Properties[key], depth+1)
			}
		}
		return made
	case huma.TypeArray:
		list := []any{}
		for range o.IntN(4) {
			list = append(list, o.value(name, s.Items, depth+1))
		}
		return list
	case huma.TypeBoolean:
		return o.IntN(2) == 0
	case huma.TypeInteger, huma.TypeNumber:
		if o.IntN(4) > 0 {
			return o.known(name, 1)
		}
		return []any{0, 1, 2, 3, 12, 60, 400, 5000, 30690, 1_000_000, -5}[o.IntN(11)]
	}
	if o.IntN(5) > 0 && len(o.said[name]) > 0 {
		return o.known(name, "")
	}
	return o.known([]string{"id", "name"}[o.IntN(2)], "Magnolia")
}
