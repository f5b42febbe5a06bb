package modules_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// A list of orders is read by its headings: further flowers stand below their order, and what cannot be read is told by
// its line.
func TestAListOfOrdersIsRead(t *testing.T) {
	read := func(text string) object {
		return run[object](
			load(t),
			`ui.ordersPasted(v.text, {flowers: [{id: "m", name: "Magnolia"}, {id: "e", name: "Eucalyptus sprig"}],
			colourways: [{id: "o", name: "Oyster"}]})`,
			object{"text": text},
		)
	}
	table := read("Order\tLeaves\tHow many\tFlower\tColours\tTable\n" +
		"Regatta supper\t2027-10-12 10:00\t3\tmagnolia\toyster\t4\n\t\t12\tEucalyptus  sprig\t\t\n" +
		"Slipway lunch\t2027-10-14T09:30\t1\tMagnolia\tOyster\t\n")
	assert.Equal(t, []any{"Table"}, table["unknown"])
	assert.Empty(t, table["unread"])
	orders := table["orders"].([]any)
	assert.Len(t, orders, 2)
	first := orders[0].(object)
	assert.Equal(t, "2027-10-12T10:00", first["leaves"])
	assert.Equal(t, []any{object{"recipe": "m", "variant": "", "colourway": "o", "quantity": 3.0},
		object{"recipe": "e", "variant": "", "colourway": "", "quantity": 12.0}}, first["lines"])
	wrong := read(
		"order;leaves;how many;flower;colours\n;;3;Magnolia;\nSupper;tomorrow;x;Magnolia;Oyster\n" +
			"Lunch;2027-10-14 09:30;2;Peony;\n;;2;Magnolia;Fog",
	)
	says := ""
	for _, u := range wrong["unread"].([]any) {
		says += u.(object)["says"].(string) + "|"
	}
	assert.Equal(
		t,
		"names no order|“tomorrow” is no time; 2027-10-02 14:00 would be right|“x” is no number of flowers|"+
			"“Peony” is not in the flower book|“Fog” is no colourway|",
		says,
	)
}

// What stands between the cells of a table is found, and can be said to be something else.
func TestCellsArePartedAsIsSaid(t *testing.T) {
	for by, text := range map[string]string{";": "order;leaves\nSupper, late;x", ",": "order,leaves\n\"Supper; late\",x",
		"\t": "order\tleaves\nSupper\tx", "|": "order|leaves\nSupper|x"} {
		assert.Equal(t, by, run[string](load(t), `ui.separatorOf(v.text)`, object{"text": text}), text)
	}
	assert.Equal(t, "a, b\tc\n1\t\"2\t3\"", run[string](load(t), `ui.parted(v.text, ";")`,
		object{"text": "a, b;c\n1;\"2\t3\"\n"}))
}
