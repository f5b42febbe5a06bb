package web_test

import (
	"fmt"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/demo"
)

// asks does something to an order's packing, whose version was seen.
func (d desk) packs(t *testing.T, id, what string, seen int, body object) (int, object) {
	t.Helper()
	return d.ask("POST", "/api/orders/"+id+"/"+what, body, map[string]string{"If-Match": fmt.Sprint(seen)})
}

// An order told as a client tells it: for whom, for which cake, with an allergy; its flowers are put on the shelf,
// counted in, signed off once, and what was lent comes back. What is not there or not packed does not leave.
func TestAnOrderGoesFromTheTelephoneToTheSignedSheet(t *testing.T) {
	d := newDesk(t)
	line := uuid.NewString()
	wish := with(order(2, "Magnolia"), "allergies", []any{"Egg", "kiwi"})
	wish["lines"].([]any)[0].(object)["id"] = line
	wish["client"], wish["goes"], wish["eaten"] = object{
		"name": "The harbour master",
	}, "The quay hall", "2027-10-04T18:00"
	place := object{"id": uuid.NewString(), "line": line, "quantity": 2, "on": "top", "tier": 0, "atDegrees": 0,
		"outMicrometres": 0, "pointsDegrees": 0, "lengthMicrometres": 140_000, "depthMicrometres": 40_000,
		"holder": demo.ID("Steel cup, lent")}
	tier := object{"shape": "round", "acrossMicrometres": 200_000, "heightMicrometres": 100_000}
	wish["cakes"] = []any{
		object{"id": uuid.NewString(), "name": "Cake", "tiers": []any{tier}, "placings": []any{place}},
	}
	said := d.asked(t, "/api/promise", wish)
	assert.Equal(t, []any{"kiwi"}, said["uncompared"])
	id := d.asked(t, "/api/orders", wish)["id"].(string)
	d.accept(t)

	sheet := func() object {
		t.Helper()
		status, view := d.ask("GET", "/api/orders/"+id+"/sheet", "", nil)
		require.Equal(t, 200, status, view)
		return view
	}
	view := sheet()
	assert.Equal(t, "The harbour master", view["order"].(object)["client"].(object)["name"])
	assert.Equal(t, "over-edge", objects(t, view["findings"])[0]["case"])
	cups := func() (n float64) {
		_, shop := d.ask("GET", "/api/workshop", "", nil)
		for _, m := range objects(t, shop["materials"]) {
			if m["name"] == "Steel cup, lent" {
				n = m["onHand"].(float64)
			}
		}
		return n
	}
	assert.EqualValues(t, 6, cups())
	var holders float64
	for _, p := range objects(t, view["contents"].(object)["notFood"]) {
		if p["name"] == "Steel cup, lent" {
			holders = p["most"].(float64)
		}
	}
	assert.EqualValues(t, 2, holders)

	status, refused := d.packs(t, id, "pack", 0, object{"line": line, "good": 2})
	require.Equal(t, 409, status, refused)
	assert.Contains(t, refused["detail"], "0 lie there")
	d.asked(
		t,
		"/api/stores/stock",
		object{"recipe": demo.ID("Magnolia"), "colourway": demo.ID("Oyster"), "quality": "good",
			"amount": object{"value": 2, "unit": "pieces"}, "madeOn": 0},
	)
	status, answer := d.packs(t, id, "pack", 0, object{"line": line, "good": 1, "second": 1})
	require.Equal(t, 200, status, answer)
	status, _ = d.packs(t, id, "pack", 0, object{"line": line, "good": 2})
	assert.Equal(t, 412, status, "somebody else packed meanwhile")
	seen := 1
	status, refused = d.packs(t, id, "count-out", seen, object{"material": demo.ID("Film squares"), "number": 1})
	assert.Equal(t, 409, status)
	assert.Contains(t, refused["detail"], "nothing of that was put into")
	status, answer = d.packs(
		t,
		id,
		"boxes",
		seen,
		object{"boxes": []any{object{"holds": "both magnolias", "dry": true}}},
	)
	require.Equal(t, 200, status, answer)
	status, answer = d.packs(
		t,
		id,
		"sign-off",
		seen+1,
		object{"receives": "the harbour master", "checked": demo.ID("Brisa")},
	)
	require.Equal(t, 200, status, answer)
	status, refused = d.packs(t, id, "sign-off", seen+2, object{})
	assert.Equal(t, 409, status)
	assert.Contains(t, refused["detail"], "signed off already")
	assert.EqualValues(t, 4, cups())

	view = sheet()
	assert.Equal(t, "left", view["order"].(object)["state"])
	assert.Equal(t, "Brisa", view["checkedBy"])
	status, answer = d.packs(t, id, "came-back", seen+2, object{"material": demo.ID("Steel cup, lent"), "number": 2})
	require.Equal(t, 200, status, answer)
	assert.EqualValues(t, 6, cups())
	status, answer = d.packs(t, id, "after", seen+3, object{"broke": 1, "says": "a petal at the quay"})
	require.Equal(t, 200, status, answer)
	d.asked(t, "/api/orders/"+id+"/forget-client", nil)
	assert.Nil(t, sheet()["order"].(object)["client"])
	d.asked(t, fmt.Sprintf("/api/journal/%.0f/undo", answer["n"]), nil)
	assert.Empty(t, sheet()["packing"].(object)["after"])
}

// Who eats no egg is told of the glue where the order is asked for, and of the ways that do without.
func TestAnAllergyIsMetAtOnce(t *testing.T) {
	d := newDesk(t)
	wish := with(order(2, "Gardenia"), "allergies", []any{"egg"})
	wish["lines"].([]any)[0].(object)["variant"] = "glue: egg white"
	said := d.asked(t, "/api/promise", wish)
	require.NotEmpty(t, said["met"])
	met := objects(t, said["met"])[0]
	assert.Equal(t, "Dried egg white", met["material"])
	assert.Equal(t, "egg", met["allergen"])
	assert.Equal(t, "water on soft, CMC glue on half dry", objects(t, met["avoided"])[0]["school"])
	d.asked(t, "/api/orders", wish)
	assert.NotEmpty(t, d.ordered(t, "Harvest supper")["met"])
	wish["allergies"] = []any{}
	assert.Empty(t, d.asked(t, "/api/promise", wish)["met"])
}
