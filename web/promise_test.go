package web_test

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/demo"
)

// asked is an answer to an order.
func (d desk) asked(t *testing.T, path string, body object) object {
	t.Helper()
	status, answer := d.ask("POST", path, body, nil)
	require.Equal(t, 200, status, answer)
	return answer
}

// standing of an order among the orders, and whether a plan awaits a word.
func (d desk) ordered(t *testing.T, name string) object {
	t.Helper()
	_, all := d.ask("GET", "/api/orders", "", nil)
	for _, o := range objects(t, all["list"]) {
		if o["order"].(object)["name"] == name {
			return o
		}
	}
	return nil
}

func (d desk) accept(t *testing.T) {
	t.Helper()
	_, proposal := d.ask("GET", "/api/proposal", "", nil)
	status, answer := d.ask("POST", "/api/proposal/accept", object{"n": proposal["n"]}, nil)
	require.Equal(t, 200, status, answer)
}

// A date that is named is kept: the order is entered by the answer, its plan is offered, and is in time once it is
// accepted. Nothing was written before.
func TestANamedDateIsKeptOnceItIsAccepted(t *testing.T) {
	d := newDesk(t)
	_, before := d.ask("GET", "/api/journal", "", nil)
	wish := with(order(30, "Magnolia"), "leaves", "2027-09-29T10:00")
	said := d.asked(t, "/api/promise/look", wish)
	require.Equal(t, "not", said["verdict"])
	require.NotEmpty(t, said["fewer"])
	_, after := d.ask("GET", "/api/journal", "", nil)
	require.Equal(t, before["list"], after["list"])

	wish["leaves"], wish["promise"] = said["earliest"], said["id"]
	d.asked(t, "/api/orders", wish)
	_, proposal := d.ask("GET", "/api/proposal", "", nil)
	hows := []any{}
	for _, c := range objects(t, proposal["choices"]) {
		hows = append(hows, c["how"])
	}
	assert.Contains(t, hows, "promised")
	d.accept(t)
	o := d.ordered(t, "Harvest supper")
	assert.False(t, o["pending"].(bool))
	assert.Zero(t, o["outcome"].(object)["late"])
	again := with(order(1, "Magnolia"), "promise", said["id"])
	assert.NotEqual(t, o["order"].(object)["id"], d.asked(t, "/api/orders", again)["id"], "an answer is used once")
}

// What is promised of whatever is asked for holds when it is entered, and when its plan is accepted: in time, or as
// late as was said. BRACTUM_PROMISES asks for as many, from BRACTUM_SEED on.
func TestWhatIsPromisedHoldsWhenItIsAccepted(t *testing.T) {
	seed := int64(number("BRACTUM_SEED", 1))
	for n := range int64(number("BRACTUM_PROMISES", 2)) {
		r := rand.New(rand.NewPCG(uint64(seed+n), 0))
		d := newDesk(t)
		lines := []any{}
		for range 1 + r.IntN(3) {
			lines = append(lines, object{"recipe": demo.ID([]string{"Magnolia", "Waxflower stem", "Cosmos", "Gardenia",
				"Dahlia", "Anemone"}[r.IntN(6)]), "colourway": demo.ID([]string{"Oyster", "Signal"}[r.IntN(2)]),
				"quantity": 1 + r.IntN(30)})
		}
		wish := with(with(order(1, "Magnolia"), "lines", lines), "leaves",
			time.Date(2027, 9, 24+r.IntN(20), 10, 0, 0, 0, time.UTC).Format("2006-01-02T15:04"))
		said := d.asked(t, "/api/promise", wish)
		for said["verdict"] == "not" && said["earliest"] != nil {
			wish["leaves"], wish["promise"] = said["earliest"], said["id"]
			said = d.asked(t, "/api/promise/look", wish)
		}
		if said["verdict"] == "not" {
			continue
		}
		about := fmt.Sprint("seed ", seed+n, ": ", wish)
		wish["promise"] = said["id"]
		d.asked(t, "/api/orders", wish)
		late := said["outcome"].(object)["late"]
		assert.LessOrEqual(t, d.ordered(t, "Harvest supper")["outcome"].(object)["late"], late, about)
		d.accept(t)
		assert.LessOrEqual(t, d.ordered(t, "Harvest supper")["outcome"].(object)["late"], late, about)
	}
}

// A yes is what is planned when the order is entered.
func TestAYesIsWhatIsPlannedThen(t *testing.T) {
	d := newDesk(t)
	said := d.asked(t, "/api/promise", order(3, "Waxflower stem"))
	require.Equal(t, "yes", said["verdict"])
	d.asked(t, "/api/orders", order(3, "Waxflower stem"))
	o := d.ordered(t, "Harvest supper")
	assert.Equal(t, said["outcome"].(object)["ready"], o["outcome"].(object)["ready"])
	status, chance := d.ask("GET", "/api/promise/"+said["id"].(string)+"/chance", "", nil)
	require.Equal(t, 200, status, chance)
	assert.Greater(t, chance["inTime"].(float64), 0.95*chance["replays"].(float64))
	status, _ = d.ask("GET", "/api/promise/"+uuid.NewString()+"/chance", "", nil)
	assert.Equal(t, 404, status)
}

// What helps is done with the order in one line of the journal, and taken back in one.
func TestHelpIsTakenBackWithItsOrder(t *testing.T) {
	d := newDesk(t)
	slots := func() (n float64) {
		_, shop := d.ask("GET", "/api/workshop", "", nil)
		for _, p := range objects(t, shop["places"]) {
			n += p["slots"].(float64)
		}
		return n
	}
	before := slots()
	wish := with(order(12, "Gardenia"), "leaves", "2027-09-25T12:00")
	status, answer := d.ask("POST", "/api/promise/fixes", wish, nil)
	require.Equal(t, 200, status, answer)
	first := objects(t, answer["list"])[0]
	require.True(t, first["kept"].(bool))
	require.Equal(t, "places", objects(t, first["changes"])[0]["kind"])

	entered := d.asked(t, "/api/promise/fixes/"+first["id"].(string)+"/take", wish)
	assert.Greater(t, slots(), before)
	assert.Zero(t, d.ordered(t, "Harvest supper")["outcome"].(object)["late"])
	d.asked(t, fmt.Sprintf("/api/journal/%.0f/undo", entered["n"]), nil)
	assert.Equal(t, before, slots())
	assert.Nil(t, d.ordered(t, "Harvest supper"))

	other := newDesk(t)
	status, answer = other.ask("POST", "/api/promise/fixes/"+uuid.NewString()+"/take", wish, nil)
	assert.Equal(t, 409, status)
	assert.Contains(t, answer["detail"], "ask again")
}

// Scenes are kept, read, changed by whoever saw them, dropped and taken back; what makes no sense is refused by its
// place.
func TestScenesAreKept(t *testing.T) {
	d := newDesk(t)
	damp := object{"kind": "air", "number": 160, "from": "2027-09-20", "until": "2027-09-24"}
	tried := d.asked(t, "/api/scenes/try", object{"changes": []any{damp}})
	late := 0
	for _, o := range objects(t, tried["orders"]) {
		if o["is"].(object)["ready"] != o["was"].(object)["ready"] {
			late++
		}
	}
	assert.Positive(t, late, "damp air moves something")

	id := uuid.NewString()
	keep := func(seen string, changes ...any) (int, object) {
		return d.ask("PUT", "/api/scenes/"+id, object{"name": "Damp", "changes": changes},
			map[string]string{"If-Match": seen})
	}
	status, kept := keep("0", damp)
	require.Equal(t, 200, status, kept)
	status, _ = keep("0", damp)
	assert.Equal(t, 412, status)
	status, _ = keep("1", damp,
		object{"kind": "away", "of": demo.ID("Teun"), "from": "2027-09-21", "until": "2027-09-21"})
	assert.Equal(t, 200, status)
	_, all := d.ask("GET", "/api/scenes", "", nil)
	assert.Len(t, objects(t, all["list"])[0]["changes"], 2)
	status, dropped := d.ask("POST", "/api/scenes/"+id+"/drop", nil, map[string]string{"If-Match": "2"})
	require.Equal(t, 200, status, dropped)
	_, all = d.ask("GET", "/api/scenes", "", nil)
	assert.Empty(t, all["list"])
	status, undone := d.ask("POST", "/api/journal/4/undo", nil, nil)
	require.Equal(t, 200, status, undone)
	_, all = d.ask("GET", "/api/scenes", "", nil)
	assert.Len(t, objects(t, all["list"]), 1)

	for says, c := range map[string]object{
		"no kind of change":  {"kind": "snow"},
		"not there any more": {"kind": "away", "of": "nobody", "from": "2027-09-21", "until": "2027-09-21"},
		"from which day":     {"kind": "air", "number": 80},
	} {
		status, answer := d.ask("POST", "/api/scenes/try", object{"changes": []any{c}}, nil)
		assert.Equal(t, 409, status)
		assert.Contains(t, answer["detail"], says)
	}
	status, answer := d.ask("POST", "/api/scenes/real", object{"changes": []any{damp}}, nil)
	assert.Equal(t, 409, status)
	assert.Contains(t, answer["detail"], "not the studio's to make real")
}

// What a scene says of people and orders is made so: hours at once, orders as wishes.
func TestASceneIsMadeReal(t *testing.T) {
	d := newDesk(t)
	choir := demo.ID("order Choir")
	status, answer := d.ask("POST", "/api/scenes/real", object{"changes": []any{
		object{"kind": "away", "of": demo.ID("Teun"), "from": "2027-09-22", "until": "2027-09-22"},
		object{"kind": "cancelled", "of": choir},
	}}, nil)
	require.Equal(t, 200, status, answer)
	_, shop := d.ask("GET", "/api/workshop", "", nil)
	for _, p := range objects(t, shop["people"]) {
		if p["name"] == "Teun" {
			assert.Contains(t, p["away"], "2027-09-22")
		}
	}
	assert.True(t, d.ordered(t, "Choir")["pending"].(bool), "that it is cancelled awaits a word")
	_, chances := d.ask("GET", "/api/chances", "", nil)
	assert.Len(t, objects(t, chances["list"]), 3)
}
