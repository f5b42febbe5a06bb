package web_test

import (
	"fmt"
	"net/url"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/demo"
)

// mostRows is how many rows of a list are sent at once.
const mostRows = 200

// A season is seen by what matters now: what is late asks for a decision, what is made, weighed and cut comes by when, the
// rest is a sum, and what is left out of one answer is in another.
func TestASeasonIsSeenByWhatMattersNow(t *testing.T) {
	d := newDeskOf(t, demo.Season(1, 1, 90))
	get := func(path string, query ...string) object {
		t.Helper()
		values := url.Values{}
		for i := 0; i < len(query); i += 2 {
			values.Set(query[i], query[i+1])
		}
		status, v := d.ask("GET", "/api/"+path+"?"+values.Encode(), "", map[string]string{"Prefer": "wait=10"})
		require.Equal(t, 200, status, "%s: %v", path, v)
		return v
	}
	sum := func(list any, field string) (all float64) {
		for _, one := range objects(t, list) {
			all += one[field].(float64)
		}
		return all
	}

	orders := objects(t, get("orders")["list"])
	require.Len(t, orders, 60)
	for _, o := range orders {
		late := o["outcome"].(object)["late"].(float64) > 0
		assert.Equal(t, late, slices.Contains(o["asks"].([]any), any("late")), o["order"])
	}

	count := get("count")
	assert.LessOrEqual(t, len(objects(t, count["cells"])), 100)
	assert.Less(t, count["days"], 400.0, "as many days as are seen at once")
	whole := get("count", "days", "400")
	cells := objects(t, whole["cells"])
	assert.Len(t, cells, mostRows)
	assert.Positive(t, whole["later"])
	assert.True(t, slices.IsSortedFunc(cells, func(a, b object) int {
		return int(a["latestStart"].(float64) - b["latestStart"].(float64))
	}))
	for _, c := range objects(t, get("count", "days", "400", "text", "olive KELP")["cells"]) {
		assert.Contains(t, fmt.Sprint(c["name"], c["flowers"]), "Olive")
		assert.Contains(t, c["mix"], "Kelp")
	}

	today, all := get("mixing", "days", "1"), get("mixing", "days", "400")
	assert.EqualValues(t, len(objects(t, all["mixes"])),
		float64(len(objects(t, today["mixes"])))+sum(today["later"], "mixings"))
	for _, m := range objects(t, today["mixes"]) {
		if task, timed := m["task"].(object); timed {
			assert.Less(t, task["start"], today["to"])
		}
	}
	wires := func(v object) (all float64) {
		for _, s := range objects(t, v["sheets"]) {
			all += sum(s["pieces"], "number")
		}
		return all
	}
	soon := get("wires", "days", "2")
	assert.InDelta(t, wires(get("wires")), wires(soon)+sum(soon["later"], "wires"), 0)
	assert.Positive(t, wires(soon))

	ends := get("plan/whole")
	bands := objects(t, ends["orders"])
	assert.Len(t, bands, 60)
	for _, b := range bands {
		if begins, any := b["begins"]; any {
			assert.LessOrEqual(t, begins, b["outcome"].(object)["ready"], b["name"])
			assert.GreaterOrEqual(t, begins.(float64), ends["from"].(float64))
		}
	}
	for _, p := range objects(t, ends["people"]) {
		for _, l := range objects(t, p["loads"]) {
			assert.LessOrEqual(t, l["takenMinutes"], l["thereMinutes"], "%v %v", p["name"], l["day"])
		}
	}

	found := objects(t, get("find", "text", "cake 1")["list"])
	require.NotEmpty(t, found)
	assert.True(t, strings.HasPrefix(found[0]["name"].(string), "Cake 1"))
}
