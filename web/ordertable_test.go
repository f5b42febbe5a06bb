package web_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/demo"
	"bractum/store"
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

// An order that is in a table again stays what it was, where the table does not say so: a quote, of the revision
// that it was promised in.
func TestATableLeavesQuotesAndRevisions(t *testing.T) {
	doc := demo.Document()
	at := slices.IndexFunc(doc.Recipes, func(r studio.Recipe) bool { return r.ID == demo.ID("Magnolia") })
	newer := doc.Recipes[at]
	newer.ID, newer.Recipe = studio.ID(uuid.NewString()), newer.Page()
	newer.Revision++
	doc.Recipes = append(doc.Recipes, newer)
	doc.Orders = append(doc.Orders, studio.Order{ID: studio.ID(uuid.NewString()), Name: "Slipway lunch",
		Leaves: studio.MustWallTime("2027-10-14T10:00"), Leaving: "posted", Importance: 30, State: studio.OrderQuote,
		Lines: []studio.OrderLine{{ID: studio.ID(uuid.NewString()), Recipe: demo.ID("Magnolia"),
			Colourway: demo.ID("Oyster"), Quantity: 3, ServiceLevel: 990}}})
	require.Empty(t, doc.Validate())
	d := newDeskOf(t, doc)
	table := object{"orders": []object{{"name": "Slipway lunch", "occasion": "", "leaves": "2027-10-15T10:00",
		"leaving": "", "lines": []object{{"recipe": newer.ID, "colourway": demo.ID("Oyster"), "quantity": 4}}}}}
	code, said := d.ask("POST", "/api/orders/many", table, nil)
	require.Equal(t, 200, code, said)
	after, _, err := d.store.Document(t.Context(), store.Wished, standing)
	require.NoError(t, err)
	was, is := doc.Orders[len(doc.Orders)-1], after.Orders[len(after.Orders)-1]
	was.Leaves, was.Lines[0].Quantity, is.Allergies = studio.MustWallTime("2027-10-15T10:00"), 4, nil
	assert.Equal(t, was, is)
}
