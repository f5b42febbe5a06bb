package web_test

import (
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/demo"
)

// What is said at a bench is seen by the lead and stays in the log; what cannot be is said in words, and leaves
// nothing.
func TestWhatIsSaidAtABench(t *testing.T) {
	d := newDeskOf(t, demo.Document())
	d.person = demo.ID("Teun")
	_, view := d.ask("GET", "/api/bench/"+string(d.person), nil, nil)
	card := view["task"].(map[string]any)
	assert.NotEmpty(t, view["card"].(map[string]any)["steps"])
	assert.NotEmpty(t, view["ahead"], "a tablet knows what comes next, whole")
	path := "/api/tasks/" + url.PathEscape(card["id"].(string))
	said := func(status int, what string, body any, words string) {
		t.Helper()
		got, answer := d.ask("POST", path+what, body, nil)
		assert.Equal(t, status, got, "%s %v: %v", what, body, answer)
		if words != "" {
			assert.Contains(t, answer["detail"], words)
		}
	}
	said(409, "/count", object{"good": 1, "second": 0, "broken": 0}, "start it first")
	said(409, "/give", object{"to": demo.ID("Brisa")}, "cannot do all")
	said(409, "/give", object{"to": "nobody"}, "choose who takes it up")
	said(200, "/start", object{}, "")
	said(404, "/remark", object{"says": "bent", "picture": "none such"}, "the picture")
	said(409, "/remark", object{"says": "  "}, "take a photo")
	said(200, "/remark", object{"says": "the wires are bent"}, "")
	said(200, "/ask", object{"says": "come and look"}, "")
	said(422, "/ask", object{"says": 7}, "")
	_, benches := d.ask("GET", "/api/benches", nil, nil)
	for _, one := range benches["list"].([]any) {
		if bench := one.(object); bench["person"] == string(d.person) {
			assert.Equal(t, "come and look", bench["asks"])
			assert.Equal(t, true, bench["there"])
		}
	}
	_, remarks := d.ask("GET", "/api/log/remarks", nil, nil)
	require.Len(t, remarks["list"], 1)
	assert.Equal(t, "the wires are bent", remarks["list"].([]any)[0].(object)["says"])
	said(200, "/give", object{"to": demo.ID("Odalys")}, "")
	_, view = d.ask("GET", "/api/bench/"+string(demo.ID("Odalys"))+"/day", nil, nil)
	ids := []any{}
	for _, sitting := range view["sittings"].([]any) {
		for _, task := range sitting.(object)["tasks"].([]any) {
			ids = append(ids, task.(object)["id"])
		}
	}
	assert.Contains(t, ids, card["id"], "it is in the day of who it was given to")
	status, _ := d.ask("GET", "/api/tasks/gone/card", nil, nil)
	assert.Equal(t, 404, status)
	status, whole := d.ask("GET", path+"/card", nil, nil)
	require.Equal(t, 200, status)
	assert.Equal(t, "paused", whole["task"].(object)["state"])
}
