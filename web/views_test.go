package web_test

import (
	"fmt"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/demo"
)

type object = map[string]any

func objects(t *testing.T, list any) []object {
	var out []object
	for _, one := range list.([]any) {
		out = append(out, one.(object))
	}
	require.NotEmpty(t, out)
	return out
}

func find(t *testing.T, list any, field string, value any) object {
	for _, one := range objects(t, list) {
		if one[field] == value {
			return one
		}
	}
	t.Fatalf("nothing with %s %v", field, value)
	return nil
}

func TestTheStudioTellsItsClockPeopleAndFlowers(t *testing.T) {
	_, v := newDesk(t).ask("GET", "/api/studio", "", nil)
	assert.Equal(t, "Pellowen Yard", v["name"])
	assert.Equal(t, "Europe/Dublin", v["zone"])
	assert.Equal(t, true, v["standing"])
	assert.Len(t, v["people"], 5)
	assert.Len(t, v["flowers"], 19)
	assert.Len(t, v["colourways"], 6)
	sprig := find(t, v["flowers"], "name", "Eucalyptus sprig")
	for _, colour := range sprig["colours"].(object) {
		assert.Equal(t, "#7f9585", colour, "a leaf is green in every colourway")
	}
	magnolia := find(t, v["flowers"], "name", "Magnolia")
	assert.Equal(t, "#b8343a", magnolia["colours"].(object)[string(demo.ID("Signal"))])
}

func TestOrdersComeByLeaveTimeWithWhatLimitsThem(t *testing.T) {
	d := newDesk(t)
	_, v := d.ask("GET", "/api/orders", "", nil)
	var names []any
	for _, o := range objects(t, v["list"]) {
		names = append(names, o["order"].(object)["name"])
		outcome := o["outcome"].(object)
		assert.LessOrEqual(t, outcome["ready"], outcome["readyBy"])
		assert.NotEmpty(t, o["limit"].(object)["name"])
		_, limit := d.ask("GET", "/api/tasks/"+o["limit"].(object)["id"].(string), "", nil)
		assert.Contains(t, limit["orders"], o["order"].(object)["id"], "the limit is a task of the order itself")
		assert.Positive(t, o["tasksAll"])
	}
	assert.Equal(t, []any{"Ferry crew", "Lighthouse", "Choir", "Library"}, names)
}

func TestTheMatrixNamesFlowersMixesAndWorkings(t *testing.T) {
	d := newDesk(t)
	_, v := d.ask("GET", "/api/count", "", nil)
	petal := openedCell(t, d, "Magnolia outer petal", false)
	assert.Equal(t, []any{"Magnolia"}, petal["flowers"])
	assert.Equal(t, "Oyster ivory", petal["mix"])
	var lots float64
	for _, l := range objects(t, petal["lotList"]) {
		lots += l["started"].(float64)
	}
	assert.Equal(t, petal["started"], lots)
	rules := map[any]bool{}
	for _, w := range objects(t, petal["workings"]) {
		rules[w["rule"]] = true
	}
	assert.Equal(t, map[any]bool{"batch": true, "net": true, "spares-for-remaking": true, "split": true}, rules)
	assert.EqualValues(t, 20, find(t, v["cells"], "name", "Eucalyptus leaf")["fromShelf"])
}

// openedCell is a cell of the count as it opens.
func openedCell(t *testing.T, d desk, name string, wished bool) object {
	t.Helper()
	of := fmt.Sprintf("wished=%v", wished)
	_, v := d.ask("GET", "/api/count?"+of, "", nil)
	key := escaped(find(t, v["cells"], "name", name)["key"].(string))
	status, cell := d.ask("GET", "/api/count/cell?"+of+"&key="+key, "", nil)
	require.Equal(t, 200, status, cell)
	return cell
}

func TestMixingSaysWhenWhoAndWhatToWeigh(t *testing.T) {
	d := newDesk(t)
	_, v := d.ask("GET", "/api/mixing?days=60", "", nil)
	shown := find(t, v["mixes"], "name", "Signal red")
	_, red := d.ask("GET", "/api/mixing/"+shown["lot"].(string), "", nil)
	for field, value := range shown {
		assert.Equal(t, value, red[field], "it opens as it is shown")
	}
	_, today := d.ask("GET", "/api/mixing?days=1", "", nil)
	later := len(objects(t, v["mixes"])) - len(objects(t, today["mixes"]))
	for _, day := range today["later"].([]any) {
		day := day.(object)
		later -= int(day["mixings"].(float64))
	}
	assert.Zero(t, later, "what is not shown is counted by its days")
	weigh := objects(t, red["weigh"])
	require.Len(t, weigh, 2)
	assert.Equal(t, "Signal deep red", weigh[0]["name"])
	assert.EqualValues(t, 3, weigh[0]["share"])
	assert.InDelta(
		t,
		3,
		weigh[0]["weighMilligrams"].(float64)/weigh[1]["weighMilligrams"].(float64),
		0.02,
		"three to one",
	)
	assert.NotEmpty(t, red["task"].(object)["person"])
	var used float64
	for _, u := range objects(t, red["for"]) {
		used += u["usedMilligrams"].(float64)
	}
	assert.Equal(t, red["usedMilligrams"], used)
	for _, w := range objects(t, red["workings"]) {
		assert.Contains(t, []any{"net", "mix"}, w["rule"])
	}
	assert.Equal(t, "Centre white", find(t, v["onShelf"], "what", "Centre white")["what"])
}

func TestWiresAreCutToTheRecipesLength(t *testing.T) {
	_, v := newDesk(t).ask("GET", "/api/wires", "", nil)
	sheet := find(t, v["sheets"], "name", "24 white wire")
	inner := find(t, sheet["parts"], "name", "Magnolia inner petal")
	assert.EqualValues(t, 104_000, inner["lengthMicrometres"])
	assert.EqualValues(t, 24_000, inner["depthMicrometres"])
	assert.EqualValues(t, 80_000, inner["stemMicrometres"])
	cone := find(t, find(t, v["sheets"], "name", "18 green wire")["parts"], "name", "Magnolia cone")
	assert.EqualValues(t, 14_000, cone["depthMicrometres"])
	assert.EqualValues(t, 150_000, cone["stemMicrometres"])
	assert.EqualValues(t, 8_000, cone["allowanceMicrometres"])
	cutting := sheet["cutting"].(object)
	assert.LessOrEqual(t, cutting["lowerBound"], cutting["fullWires"])
}

func TestThePlanHasLanesForPeopleAndPlaces(t *testing.T) {
	_, v := newDesk(t).ask("GET", "/api/plan", "", nil)
	assert.Len(t, v["people"], 5)
	assert.Len(t, v["places"], 5)
	assert.Empty(t, v["unplaced"])
	assert.Equal(t, false, v["waits"])
	for _, c := range objects(t, v["blocks"]) {
		if c["kind"] == "wait" {
			assert.Nil(t, c["person"])
			continue
		}
		assert.NotEmpty(t, c["person"])
		assert.NotEmpty(t, c["colour"], c["of"])
		assert.NotEmpty(t, c["orders"], c["of"])
	}
	set := find(t, v["blocks"], "name", "Vein and set in moulds")
	assert.Len(t, set["holds"], 1)
}

func TestTheBenchShowsOneTaskTheNextAndWhatDries(t *testing.T) {
	d := newDesk(t)
	_, v := d.ask("GET", "/api/bench/"+string(demo.ID("Odalys")), "", nil)
	task := v["task"].(object)
	assert.Equal(t, "Weigh and knead", task["name"])
	assert.Equal(t, "Flower paste", objects(t, v["card"].(object)["blend"])[0]["name"])
	assert.Len(t, v["next"], 2)
	assert.Empty(t, v["drying"])
	status, answer := d.ask("POST", "/api/tasks/"+task["id"].(string)+"/start", object{}, nil)
	require.Equal(t, 200, status, answer)
	status, answer = d.ask(
		"POST",
		"/api/tasks/"+task["id"].(string)+"/finish",
		object{"good": task["quantity"], "second": 0, "broken": 0},
		nil,
	)
	require.Equal(t, 200, status, answer)
	_, v = d.ask("GET", "/api/bench/"+string(demo.ID("Odalys")), "", nil)
	assert.Equal(t, "Rest wrapped", objects(t, v["drying"])[0]["name"])
	_, journal := d.ask("GET", "/api/journal", "", nil)
	assert.Equal(t, "Weigh and knead, "+task["of"].(string)+": done", objects(t, journal["lines"])[0]["summary"])
	assert.Equal(t, "Odalys", objects(t, journal["lines"])[0]["person"])
}

func TestAnUndoneAcceptanceTakesTheOrderOutOfForce(t *testing.T) {
	d := newDesk(t)
	status, entered := d.ask("POST", "/api/orders", order(3, "Magnolia"), nil)
	require.Equal(t, 200, status)
	status, accepted := d.ask("POST", "/api/proposal/accept", object{"n": entered["n"]}, nil)
	require.Equal(t, 200, status)
	_, before := d.ask("GET", "/api/plan", "", nil)
	status, _ = d.ask("POST", "/api/journal/3/undo", "", nil)
	require.Equal(t, 200, status)
	assert.EqualValues(t, 3, accepted["n"])
	_, after := d.ask("GET", "/api/plan", "", nil)
	assert.Len(t, after["orders"], len(before["orders"].([]any))-1)
	assert.Equal(t, true, after["waits"])
	assert.Greater(t, after["version"], before["version"])
}

func TestAnOrderStaysUntilItsFlowersAreFinished(t *testing.T) {
	d := newDesk(t)
	path := "/api/orders/" + string(demo.ID("order Choir")) + "/hand-over"
	status, answer := d.ask("POST", path, "", map[string]string{"If-Match": "1"})
	assert.Equal(t, 409, status)
	assert.Contains(t, answer["detail"], "9 of 9 Ranunculus are not finished")
}

// What is there leaves, the rest stays owed; the order's version is asked for, and a change of the order
// keeps what has left.
func TestAPartOfAnOrderLeaves(t *testing.T) {
	d := newDesk(t)
	doc := demo.Document()
	var choir studio.Order
	for _, o := range doc.Orders {
		if o.Name == "Choir" {
			choir = o
		}
	}
	line := choir.Lines[0]
	status, answer := d.ask("POST", "/api/stores/stock", object{"recipe": line.Recipe, "colourway": line.Colourway,
		"amount": object{"value": 4, "unit": "pieces"}, "madeOn": doc.Now - 60, "quality": "good"}, nil)
	require.Equal(t, 200, status, answer)
	at := func() object {
		_, orders := d.ask("GET", "/api/orders", "", nil)
		for _, o := range orders["list"].([]any) {
			if o.(object)["order"].(object)["name"] == "Choir" {
				return o.(object)
			}
		}
		return nil
	}
	d.ask("GET", "/api/studio", "", nil) // until it is worked out
	there := at()["lines"].([]any)[0].(object)
	assert.EqualValues(t, 4, there["there"])
	assert.EqualValues(t, line.Quantity, there["owed"])
	path := "/api/orders/" + string(choir.ID)
	part := func(n int64, version string) (int, object) {
		return d.ask("POST", path+"/hand-over-part", object{"lines": []object{{"line": line.ID, "quantity": n}}},
			map[string]string{"If-Match": version})
	}
	status, answer = part(5, "1")
	assert.Equal(t, 409, status)
	assert.Contains(t, answer["detail"], "1 of 5 Ranunculus are not finished")
	status, answer = part(3, "1")
	require.Equal(t, 200, status, answer)
	status, _ = part(1, "1")
	assert.Equal(t, 412, status)
	left := at()
	assert.EqualValues(t, line.Quantity-3, left["lines"].([]any)[0].(object)["owed"])
	assert.Equal(t, "open", left["order"].(object)["state"])
	assert.Equal(t, false, left["pending"])

	body := left["order"].(object)
	lines := body["lines"].([]any)[0].(object)
	delete(lines, "gone")
	body["lines"] = []any{lines}
	lines["quantity"] = 2
	for _, key := range []string{"id", "importance"} {
		delete(body, key)
	}
	status, answer = d.ask("PUT", path, body, map[string]string{"If-Match": "2"})
	assert.Equal(t, 422, status)
	assert.Contains(t, fmt.Sprint(answer["errors"]), "is 2, and 3 have left already")
	body["lines"] = []any{object{"recipe": lines["recipe"], "colourway": lines["colourway"], "quantity": 2}}
	status, answer = d.ask("PUT", path, body, map[string]string{"If-Match": "2"})
	assert.Equal(t, 422, status)
	assert.Contains(t, fmt.Sprint(answer["errors"]), "misses a line of which 3 have left")
	lines["quantity"], body["lines"] = 7, []any{lines}
	status, answer = d.ask("PUT", path, body, map[string]string{"If-Match": "2"})
	require.Equal(t, 200, status, answer)
	assert.EqualValues(t, 4, at()["lines"].([]any)[0].(object)["owed"])
	status, answer = part(1, "3")
	assert.Equal(t, 409, status)
	assert.Contains(t, answer["detail"], "awaits acceptance")
}

func escaped(text string) string { return url.QueryEscape(text) }

// What is to be begun by some hour of the night is to be begun by the last at which anybody is at work.
func TestNobodyIsToBeginInTheNight(t *testing.T) {
	d := newDesk(t)
	doc := demo.Document()
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	everyone := doc.Everyone(calendar)
	_, counted := d.ask("GET", "/api/count", "", nil)
	for _, cell := range objects(t, counted["cells"]) {
		by := studio.Minute(cell["latestStart"].(float64))
		if by > everyone[0].From {
			assert.Equal(t, by, everyone.LastBefore(by), cell["name"])
		}
	}
}
