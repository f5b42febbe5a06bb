package web_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"sort"
	"strings"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/api"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/store"
)

// browser is one with its cookie; nobody's at first.
type browser struct {
	desk
	cookie string
	person studio.ID
}

func (b *browser) ask(method, path string, body any, headers ...string) (int, object) {
	b.t.Helper()
	data, err := json.Marshal(body)
	require.NoError(b.t, err)
	request := httptest.NewRequest(method, "/api"+path, bytes.NewReader(data))
	request.Header.Set("Content-Type", "application/json")
	request.Header.Set("Command-Id", uuid.NewString())
	request.Header.Set("If-Match", "1")
	if b.person != "" {
		request.Header.Set("Person", string(b.person))
	}
	if b.cookie != "" {
		request.Header.Set("Cookie", api.Cookie+"="+b.cookie)
	}
	for i := 0; i < len(headers); i += 2 {
		request.Header.Set(headers[i], headers[i+1])
	}
	answer := httptest.NewRecorder()
	b.app.API.Adapter().ServeHTTP(answer, request)
	for _, c := range answer.Result().Cookies() {
		if c.Name == api.Cookie {
			assert.True(b.t, c.HttpOnly)
			assert.Equal(b.t, http.SameSiteStrictMode, c.SameSite)
			b.cookie = c.Value
		}
	}
	var said object
	_ = json.Unmarshal(answer.Body.Bytes(), &said) // a picture, say
	return answer.Code, said
}

const words = "three wet harbours"

// locks gives Odalys a password, and a browser in which she is signed in.
func locks(t testing.TB, d desk) *browser {
	lead := &browser{desk: d, person: demo.ID("Odalys")}
	code, said := lead.ask(
		"PUT",
		"/access/people/"+string(demo.ID("Odalys")),
		object{"role": "lead", "password": words},
	)
	require.Equal(t, 200, code, said)
	code, said = lead.ask("POST", "/access/sign-in", object{"name": " odalys ", "password": words})
	require.Equal(t, 200, code, said)
	require.NotEmpty(t, lead.cookie)
	return lead
}

// bringsIn has a tablet come in one for a bench.
func bringsIn(t testing.TB, lead *browser, name string) *browser {
	code, invitation := lead.ask("POST", "/access/invitations", object{"name": name})
	require.Equal(t, 200, code, invitation)
	b := &browser{desk: lead.desk}
	code, said := b.ask("POST", "/access/tablet", object{"code": strings.ToUpper(invitation["code"].(string))})
	require.Equal(t, 200, code, said)
	assert.Equal(t, "tablet", said["kind"])
	again := &browser{desk: lead.desk}
	code, _ = again.ask("POST", "/access/tablet", object{"code": invitation["code"]})
	assert.Equal(t, 401, code, "a code is good once")
	return b
}

func (b *browser) sits(name, pin string) (int, object) {
	code, said := b.ask("POST", "/access/seat", object{"person": demo.ID(name), "pin": pin})
	if code == 200 {
		b.person = demo.ID(name)
	}
	return code, said
}

// Until a lead has a password everybody is let in; from then on nobody is who is not known, and each is who they are.
func TestPeopleAreWhoTheyAre(t *testing.T) {
	d := newDesk(t)
	code, said := (&browser{desk: d}).ask("POST", "/access/invitations", object{"name": "Window"})
	assert.Equal(t, 409, code, "nobody needs to be let in yet: %v", said)
	code, _ = (&browser{desk: d, person: demo.ID("Odalys")}).ask(
		"PUT",
		"/access/people/"+string(demo.ID("Odalys")),
		object{"role": "lead", "password": "odalys-123"},
	)
	assert.Equal(t, 422, code, "a password that holds the name")
	lead := locks(t, d)
	code, _ = lead.ask("GET", "/orders", nil)
	assert.Equal(t, 200, code)
	nobody := &browser{desk: d, person: demo.ID("Odalys")}
	for _, path := range []string{"/orders", "/studio", "/backups", "/access/all", "/workshop/document", "/journal"} {
		code, said := nobody.ask("GET", path, nil)
		assert.Equal(t, 401, code, "%s: %v", path, said)
	}
	code, _ = nobody.ask("POST", "/timers", object{"name": "Oven", "minutes": 5})
	assert.Equal(t, 401, code, "a header that anybody can write is nobody")
	code, state := nobody.ask("GET", "/access", nil)
	assert.Equal(t, 200, code)
	assert.Equal(t, true, state["locked"])
	assert.NotContains(t, state, "person")
	forged := &browser{desk: d, person: demo.ID("Odalys"), cookie: "forged"}
	code, _ = forged.ask("GET", "/orders", nil)
	assert.Equal(t, 401, code)
	lead.person = demo.ID("Teun")
	code, _ = lead.ask("POST", "/timers", object{"name": "Oven", "minutes": 5})
	assert.Equal(t, 403, code, "nor is a lead somebody else")
	lead.person = demo.ID("Odalys")

	bench := bringsIn(t, lead, "Window bench")
	code, _ = bench.ask("GET", "/benches", nil)
	assert.Equal(t, 200, code, "a tablet shows what is to do")
	bench.person = demo.ID("Teun")
	code, said = bench.ask("POST", "/timers", object{"name": "Oven", "minutes": 5})
	assert.Equal(t, 401, code, "nobody has sat down: %v", said)
	code, _ = bench.sits("Teun", "")
	require.Equal(t, 200, code)
	code, said = bench.ask("POST", "/timers", object{"name": "Oven", "minutes": 5})
	assert.Equal(t, 200, code, said)
	code, _ = bench.sits("Odalys", "")
	require.Equal(t, 200, code)
	code, _ = bench.ask("PUT", "/workshop", object{})
	assert.Equal(t, 403, code, "at a tablet a lead is a maker")
	bench.person = demo.ID("Teun") // what he did without a connection, while she sits there
	code, _ = bench.ask("POST", "/timers", object{"name": "Late", "minutes": 5})
	assert.Equal(t, 200, code)
	code, journal := lead.ask("GET", "/journal", nil)
	require.Equal(t, 200, code)
	n := objects(t, journal["lines"])[0]["n"]
	bench.person = demo.ID("Odalys")
	code, _ = bench.ask("POST", fmt.Sprintf("/journal/%v/undo", n), nil)
	assert.Equal(t, 409, code, "what somebody else did is theirs to take back")

	_, all := lead.ask("GET", "/access/all", nil)
	var id any
	for _, b := range objects(t, all["browsers"]) {
		if b["kind"] == "tablet" {
			id = b["id"]
		}
	}
	code, _ = lead.ask("DELETE", fmt.Sprintf("/access/browsers/%v", id), nil)
	require.Equal(t, 200, code)
	code, _ = bench.ask("GET", "/benches", nil)
	assert.Equal(t, 401, code, "the lost tablet shows nothing more")

	other := &browser{desk: d, person: demo.ID("Odalys")}
	code, _ = other.ask("POST", "/access/sign-in", object{"name": "Odalys", "password": words})
	require.Equal(t, 200, code)
	code, said = lead.ask(
		"PUT",
		"/access/people/"+string(demo.ID("Odalys")),
		object{"role": "lead", "password": "four dry harbours", "current": "no"},
	)
	assert.Equal(t, 422, code, said)
	code, said = lead.ask(
		"PUT",
		"/access/people/"+string(demo.ID("Odalys")),
		object{"role": "lead", "password": "four dry harbours", "current": words},
	)
	require.Equal(t, 200, code, said)
	code, _ = other.ask("GET", "/orders", nil)
	assert.Equal(t, 401, code, "with the old password gone, so are those who came in by it")
	code, _ = lead.ask("GET", "/orders", nil)
	assert.Equal(t, 200, code)
	code, said = lead.ask("PUT", "/access/people/"+string(demo.ID("Odalys")), object{"role": "maker"})
	assert.Equal(t, 409, code, "somebody stays lead: %v", said)
	code, _ = lead.ask("POST", "/access/sign-out", nil)
	require.Equal(t, 200, code)
	code, _ = lead.ask("GET", "/orders", nil)
	assert.Equal(t, 401, code)

	doc, err := json.Marshal(must(locksNo(t, d).ask("GET", "/workshop/document", nil)))
	require.NoError(t, err)
	assert.NotContains(t, string(doc), "argon2", "no secret goes out with the studio")
}

// locksNo signs Odalys in by her second password.
func locksNo(t *testing.T, d desk) *browser {
	b := &browser{desk: d, person: demo.ID("Odalys")}
	code, _ := b.ask("POST", "/access/sign-in", object{"name": "Odalys", "password": "four dry harbours"})
	require.Equal(t, 200, code)
	return b
}

// Who guesses waits; nobody else does.
func TestGuessesSlowDown(t *testing.T) {
	d := newDesk(t)
	lead := locks(t, d)
	code, _ := lead.ask("PUT", "/access/people/"+string(demo.ID("Teun")), object{"role": "maker", "pin": "4711"})
	require.Equal(t, 200, code)
	code, _ = lead.ask("PUT", "/access/people/"+string(demo.ID("Teun")), object{"role": "maker", "pin": "11"})
	assert.Equal(t, 422, code)
	first, second := bringsIn(t, lead, "Window"), bringsIn(t, lead, "Door")
	codes := map[int]int{}
	for range 1000 {
		code, _ := first.sits("Teun", "0000")
		codes[code]++
	}
	assert.Equal(t, map[int]int{401: 5, 429: 995}, codes)
	code, said := first.sits("Teun", "4711")
	assert.Equal(t, 429, code, "nor is the right one tried now: %v", said)
	assert.Contains(t, said["detail"], "wait for")
	code, _ = first.sits("Maren", "")
	assert.Equal(t, 200, code, "others sit down there")
	code, _ = second.sits("Teun", "4711")
	assert.Equal(t, 200, code, "and he does elsewhere")
	for range 3 { // as long for who is unknown, and with the same words
		code, said := (&browser{desk: d}).ask("POST", "/access/sign-in", object{"name": "Nobody", "password": "guess"})
		assert.Equal(t, 401, code, said)
	}
	codes = map[int]int{}
	for range 20 {
		code, _ := (&browser{desk: d}).ask("POST", "/access/sign-in", object{"name": "Odalys", "password": "guess"})
		codes[code]++
		code, _ = (&browser{desk: d}).ask("POST", "/access/tablet", object{"code": "aaaaaaaa"})
		codes[code]++
	}
	assert.Equal(t, map[int]int{401: 9, 429: 31}, codes, "one wrong code was tried before")
}

// A key opens what it is for, and is shown once.
func TestAKeyOpensOneThing(t *testing.T) {
	d := newDesk(t)
	lead := locks(t, d)
	code, sensor := lead.ask("POST", "/access/keys", object{"name": "Loft", "purpose": "sensor"})
	require.Equal(t, 200, code)
	_, reader := lead.ask("POST", "/access/keys", object{"name": "Calendar", "purpose": "reader"})
	_, all := lead.ask("GET", "/access/all", nil)
	assert.NotContains(t, fmt.Sprint(all), sensor["secret"])
	device := &browser{desk: d}
	pack := []object{{"bn": "loft:", "n": "temperature", "u": "Cel", "v": 20}}
	code, _ = device.ask("POST", "/readings", pack, "Content-Type", "application/senml+json")
	assert.Equal(t, 401, code)
	by := func(key object) []string {
		return []string{"Content-Type", "application/senml+json", "Authorization", "Bearer " + key["secret"].(string)}
	}
	code, said := device.ask("POST", "/readings", pack, by(sensor)...)
	assert.Equal(t, 200, code, said)
	code, _ = device.ask("POST", "/readings", pack, by(reader)...)
	assert.Equal(t, 401, code)
	code, _ = device.ask("GET", "/orders", nil, by(sensor)...)
	assert.Equal(t, 401, code)
	code, _ = device.ask("GET", "/orders", nil, by(reader)...)
	assert.Equal(t, 200, code)
	code, _ = lead.ask("POST", "/access/keys", object{"name": "Phone", "purpose": "calendar"})
	assert.Equal(t, 422, code, "of which calendar")
	_, phone := lead.ask("POST", "/access/keys", object{"name": "Phone", "purpose": "calendar",
		"opens": "people/" + string(demo.ID("Teun"))})
	for path, is := range map[string]int{"/calendars/people/" + string(demo.ID("Teun")) + ".ics": 200,
		"/calendars/people/" + string(demo.ID("Maren")) + ".ics": 401, "/calendars/hand-overs.ics": 401,
		"/calendars/drying.ics": 401, "/orders": 401} {
		code, _ = device.ask("GET", fmt.Sprintf("%s?key=%v", path, phone["secret"]), nil)
		assert.Equal(t, is, code, path)
	}
	code, _ = lead.ask("DELETE", fmt.Sprintf("/access/keys/%v", sensor["id"]), nil)
	require.Equal(t, 200, code)
	code, _ = device.ask("POST", "/readings", pack, by(sensor)...)
	assert.Equal(t, 401, code)
}

// everyRole is a browser of a lead, a tablet at which a maker sits, and a browser of whoever hands over.
func everyRole(t testing.TB, d desk) (lead, maker, packer *browser) {
	lead = locks(t, d)
	code, _ := lead.ask(
		"PUT",
		"/access/people/"+string(demo.ID("Brisa")),
		object{"role": "hand-over", "password": "boxes and ribbons"},
	)
	require.Equal(t, 200, code)
	maker, packer = bringsIn(t, lead, "Window"), &browser{desk: d, person: demo.ID("Brisa")}
	code, _ = maker.sits("Teun", "")
	require.Equal(t, 200, code)
	code, _ = packer.ask("POST", "/access/sign-in", object{"name": "Brisa", "password": "boxes and ribbons"})
	require.Equal(t, 200, code)
	return lead, maker, packer
}

// Every operation is asked for as every role and as nobody: who may not gets 401 or 403 whatever is asked, and nothing
// is written; docs/security.md shows the same table.
func TestNobodyReadsOrDoesWhatTheirRoleMayNot(t *testing.T) {
	d := newDesk(t)
	lead, maker, packer := everyRole(t, d)
	all := map[string]*browser{"": {desk: d, person: demo.ID("Odalys")}, store.Maker: maker, store.HandOver: packer}
	lines := func() int { return len(objects(t, must(lead.ask("GET", "/journal", nil))["lines"])) }
	before := lines()
	code, _ := all[""].ask("GET", "/events", nil)
	assert.Equal(t, 401, code)
	var table []string
	for path, item := range d.app.API.OpenAPI().Paths {
		for method, o := range map[string]*huma.Operation{http.MethodGet: item.Get, http.MethodPost: item.Post,
			http.MethodPut: item.Put, http.MethodDelete: item.Delete} {
			if o == nil {
				continue
			}
			address := strings.NewReplacer("/api", "", "{id}", uuid.NewString(), "{n}", "1",
				"{sensor}", "1", "{version}", "1").
				Replace(path)
			address = strings.NewReplacer("{", "", "}", "").Replace(address)
			row := fmt.Sprintf("| `%s` | %s |", o.OperationID, o.Summary)
			for _, role := range []string{"", store.Maker, store.HandOver} {
				may := api.May(role, o.OperationID)
				row += map[bool]string{true: " yes |", false: " |"}[may]
				if may {
					continue
				}
				code, said := all[role].ask(method, address, object{})
				assert.Contains(t, []int{401, 403}, code, "%s %s as %q: %v", method, path, role, said)
			}
			table = append(table, row)
		}
	}
	assert.Equal(t, before, lines())
	sort.Strings(table)
	kept, err := os.ReadFile("../docs/security.md")
	require.NoError(t, err)
	is := strings.Join(table, "\n")
	if os.Getenv("BRACTUM_UPDATE") != "" {
		start := bytes.Index(kept, []byte("|---|---|---|---|---|\n"))
		require.NoError(
			t,
			os.WriteFile("../docs/security.md", append(kept[:start+len("|---|---|---|---|---|\n")], is+"\n"...), 0o600),
		)
		return
	}
	assert.True(t, strings.Contains(string(kept), is),
		"the table is old: BRACTUM_UPDATE=1 go test ./web -run NobodyReads")
}
