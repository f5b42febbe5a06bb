package web_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/demo"
)

// A table of orders is looked at one by one, and entered all or none; entered again it is the same, and with another
// number it changes what is promised.
func TestATableOfOrders(t *testing.T) {
	d := newDesk(t)
	order := func(name, leaves string, quantity int) object {
		return object{"name": name, "occasion": "", "leaves": leaves, "leaving": "posted", "lines": []object{
			{"recipe": demo.ID("Magnolia"), "colourway": demo.ID("Oyster"), "quantity": quantity},
			{"recipe": demo.ID("Eucalyptus sprig"), "colourway": demo.ID("Oyster"), "quantity": 2}}}
	}
	states := func(body object) (all []any) {
		code, view := d.ask("POST", "/api/orders/many/preview", body, nil)
		require.Equal(t, 200, code, view)
		for _, r := range objects(t, view["rows"]) {
			all = append(all, r["state"])
		}
		return all
	}
	orders := func() []object {
		_, all := d.ask("GET", "/api/orders", "", nil)
		return objects(t, all["list"])
	}
	before := len(orders())
	bad := object{
		"orders": []object{
			order("Regatta supper", "2027-10-12T10:00", 3),
			order("Slipway lunch", "2027-09-01T10:00", 3),
			order("Regatta supper", "2027-10-13T10:00", 1),
		},
	}
	assert.Equal(t, []any{"new", "wrong", "wrong"}, states(bad))
	code, said := d.ask("POST", "/api/orders/many", bad, nil)
	assert.Equal(t, 422, code)
	assert.Contains(t, said["detail"], "orders[1].leaves")
	assert.Len(t, orders(), before, "all or none")

	good := object{
		"orders": []object{
			order("Regatta supper", "2027-10-12T10:00", 3),
			order("Slipway lunch", "2027-10-14T10:00", 3),
		},
	}
	assert.Equal(t, []any{"new", "new"}, states(good))
	code, said = d.ask("POST", "/api/orders/many", good, nil)
	require.Equal(t, 200, code, said)
	assert.Len(t, orders(), before+2)
	assert.Equal(t, []any{"same", "same"}, states(good))
	code, _ = d.ask("POST", "/api/orders/many", good, nil)
	assert.Equal(t, 409, code)
	good["orders"].([]object)[1] = order("Slipway lunch", "2027-10-14T10:00", 5)
	assert.Equal(t, []any{"same", "changed"}, states(good))
	code, done := d.ask("POST", "/api/orders/many", good, nil)
	require.Equal(t, 200, code, done)
	all := orders()
	assert.Len(t, all, before+2)
	quantities := func() []any {
		for _, o := range orders() {
			if o["order"].(object)["name"] == "Slipway lunch" {
				return []any{objects(t, o["order"].(object)["lines"])[0]["quantity"], o["version"]}
			}
		}
		return nil
	}
	assert.Equal(t, []any{5.0, 2.0}, quantities())
	supper := order("Regatta supper", "2027-10-12T10:00", 3)
	supper["allergies"], supper["occasion"] = []string{"egg"}, "a regatta"
	assert.Equal(t, []any{"changed"}, states(object{"orders": []object{supper}}), "an allergy is a change")
	code, said = d.ask("POST", "/api/orders/many", object{"orders": []object{supper}}, nil)
	require.Equal(t, 200, code, said)
	bare := order("Regatta supper", "2027-10-12T10:00", 4)
	bare["leaving"] = ""
	code, said = d.ask("POST", "/api/orders/many", object{"orders": []object{bare}}, nil)
	require.Equal(t, 200, code, said)
	for _, o := range orders() {
		if is := o["order"].(object); is["name"] == "Regatta supper" {
			assert.Equal(t, []any{"egg"}, is["allergies"], "a table that leaves it out does not take it away")
			assert.Equal(t, "posted", is["leaving"])
			assert.Equal(t, "a regatta", is["occasion"])
		}
	}
	code, said = d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", done["n"]), "", nil)
	require.Equal(t, 200, code, said)
	assert.Equal(t, 3.0, quantities()[0], "one touch takes it back")
}
