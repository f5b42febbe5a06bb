package flower_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"bractum/core/flower"
	"bractum/core/studio"
	"bractum/demo"
)

// A colourway is told by the slots in which it is not like the others, whatever they are called.
func TestSwatchesTellColourwaysApart(t *testing.T) {
	doc := demo.Document()
	swatches := flower.Swatches(doc, studio.NewBook(doc))
	seen := map[string]string{}
	for _, c := range doc.Colourways {
		all := ""
		for _, colour := range swatches[c.ID] {
			all += colour
		}
		assert.NotEmpty(t, all, c.Name)
		assert.LessOrEqual(t, len(swatches[c.ID]), 3)
		assert.Empty(t, seen[all], "%s looks like %s", c.Name, seen[all])
		seen[all] = c.Name
	}
	for i := range doc.Recipes { // another studio has other words for its slots
		for k := range doc.Recipes[i].Pastes {
			doc.Recipes[i].Pastes[k].Slot = "x " + doc.Recipes[i].Pastes[k].Slot
		}
	}
	for i := range doc.Colourways {
		slots := map[string]studio.ID{}
		for slot, mix := range doc.Colourways[i].Slots {
			slots["x "+slot] = mix
		}
		doc.Colourways[i].Slots = slots
	}
	for id, colours := range flower.Swatches(doc, studio.NewBook(doc)) {
		assert.NotEmpty(t, colours, id)
	}
}
