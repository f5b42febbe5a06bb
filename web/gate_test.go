package web_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/api"
	"bractum/core/studio"
	"bractum/demo"
)

// Every operation of the API is registered in one of the ways that there are. Those that
// write pass the gate, whatever they are about: a command that was carried out before answers
// as it did then, somebody unknown may nothing, and neither leaves a line in the journal.
func TestEveryOperationThatWritesPassesTheGate(t *testing.T) {
	d := newDesk(t)
	first := uuid.NewString()
	status, answer := d.ask("POST", "/api/timers", object{"name": "Oven", "minutes": 15},
		map[string]string{"Command-Id": first})
	require.Equal(t, 200, status)
	lines := func() int {
		_, journal := d.ask("GET", "/api/journal", "", nil)
		return len(objects(t, journal["lines"]))
	}
	before, commands, asks := lines(), 0, 0
	for path, item := range d.app.API.OpenAPI().Paths {
		for method, o := range map[string]*struct{ way any }{
			http.MethodGet: way(item.Get), http.MethodPost: way(item.Post), http.MethodPut: way(item.Put), http.MethodDelete: way(item.Delete), http.MethodPatch: way(item.Patch),
		} {
			if o == nil {
				continue
			}
			name := method + " " + path
			address := strings.NewReplacer("{id}", uuid.NewString(), "{n}", "1", "{sensor}", "1", "{version}",
				"1").Replace(path)
			address = strings.NewReplacer("{", "", "}", "").Replace(address)
			switch o.way {
			case api.WayKept, api.WayRead:
				assert.Equal(t, http.MethodGet, method, name)
			case api.WayAsk, api.WayBeside:
				asks++
			case api.WayAccess: // its own tests are in access_test.go
				assert.True(t, strings.HasPrefix(path, "/api/access"), name)
			case api.WayDevice:
				assert.Equal(t, "/api/readings", path)
			case api.WayBegin:
				status, refused := d.ask(
					method,
					address,
					object{"name": "x", "zone": "UTC", "person": "x", "book": false,
						"skills": []any{}, "hours": []any{}, "breaks": []any{}},
					nil,
				)
				assert.Contains(t, []int{409, 422}, status, "%s: a studio is begun once: %v", name, refused)
				assert.True(t, strings.HasPrefix(path, "/api/beginning"), name)
			case api.WayCommand:
				commands++
				status, refused := d.ask(method, address, object{},
					map[string]string{"Command-Id": uuid.NewString(), "Person": string(demo.ID("nobody")),
						"If-Match": "1"})
				assert.Equal(t, 422, status, name)
				assert.Contains(t, refused["detail"], "nobody with this id works here", name)
				status, again := d.ask(method, address, object{},
					map[string]string{"Command-Id": first, "If-Match": "1"})
				if path == "/api/timers" {
					assert.Equal(t, 200, status, name)
					assert.Equal(t, answer, again, "as the first did, whatever is sent")
				} else {
					assert.Equal(t, 422, status, name)
					assert.Contains(t, again["detail"], "another command was carried out with this id", name)
				}
			default:
				t.Errorf("%s is registered in no way that there is: %v", name, o.way)
			}
		}
	}
	assert.Equal(t, before, lines(), "nothing was written")
	assert.Greater(t, commands, 35)
	assert.Greater(t, asks, 10)
}

func way(o *huma.Operation) *struct{ way any } {
	if o == nil {
		return nil
	}
	return &struct{ way any }{o.Extensions[api.Way]}
}

// Each kind of command that writes answers the second time as it did the first.
func TestARepeatedCommandAnswersAsTheFirstDid(t *testing.T) {
	d := newDesk(t)
	d.ask("GET", "/api/studio", "", nil)
	_, stores := d.ask("GET", "/api/stores", "", nil)
	stock := objects(t, stores["shelf"])[0]["id"].(string)
	tray := studio.Place{ID: studio.ID(uuid.NewString()), Name: "Another tray", Slots: 4}
	for _, c := range []struct {
		path string
		body any
	}{
		{"/api/orders", order(3, "Magnolia")},
		{"/api/workshop/places/many", object{"things": []any{object{"id": tray.ID, "is": tray}}}},
		{"/api/workshop/closed", object{"day": "2027-12-24", "closed": true}},
		{"/api/search", object{"seconds": 1}},
		{"/api/plan/versions/1/propose", object{}},
		{"/api/stock/" + stock + "/keep", object{"place": "Cupboard"}},
		{"/api/clock", object{"by": "minutes", "minutes": 7}},
		{"/api/journal/2/undo", object{}},
	} {
		id := map[string]string{"Command-Id": uuid.NewString()}
		status, first := d.ask("POST", c.path, c.body, id)
		require.Equal(t, 200, status, "%s %v", c.path, first)
		status, again := d.ask("POST", c.path, c.body, id)
		assert.Equal(t, 200, status, c.path)
		assert.Equal(t, first, again, c.path)
	}
}
