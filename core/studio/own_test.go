package studio_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/studio"
	"bractum/demo"
)

// mixed is the demo whose magnolias take an anemone, which is white by default, in a line of ivory.
func mixed(own bool) *studio.Document {
	doc := demo.Document()
	magnolia, anemone := recipe(doc, "Magnolia"), recipe(doc, "Anemone")
	anemone.OwnColours, anemone.Defaults = own, map[string]studio.ID{}
	_, missing := studio.NewBook(doc).Resolve(studio.Made{Recipe: anemone.ID}, nil)
	for _, slot := range missing {
		anemone.Defaults[slot] = demo.ID("Petal white")
	}
	magnolia.Parts = append(magnolia.Parts,
		studio.PartInput{Step: magnolia.Steps[0].Key, Recipe: anemone.ID, Count: 1, Join: studio.JoinTaped})
	doc.Orders, doc.Shelf, doc.Work = doc.Orders[:1], nil, nil
	doc.Orders[0].Lines = []studio.OrderLine{
		{ID: "line", Recipe: magnolia.ID, Colourway: demo.ID("Oyster"), Quantity: 2, ServiceLevel: 900},
	}
	return doc
}

func mixesOf(t *testing.T, doc *studio.Document, of string) []map[string]studio.ID {
	require.Empty(t, doc.Validate())
	counted, err := count.Up(doc)
	require.NoError(t, err)
	var all []map[string]studio.ID
	for _, l := range counted.Lots {
		if l.Recipe == demo.ID(of) {
			all = append(all, l.Mixes)
		}
	}
	require.NotEmpty(t, all)
	return all
}

// A colourway that gives the magnolia's petals a mix leaves alone those of an anemone whose colours
// are its own, until it names them.
func TestAFlowerKeepsItsOwnColoursInAnother(t *testing.T) {
	doc := mixed(true)
	for _, mixes := range mixesOf(t, doc, "Anemone petal") {
		assert.Equal(t, demo.ID("Petal white"), mixes["petal"])
	}
	for _, mixes := range mixesOf(t, doc, "Magnolia outer petal") {
		assert.Equal(t, demo.ID("Oyster ivory"), mixes["petal"])
	}
	assert.Contains(t, studio.NewBook(doc).Slots(studio.Made{Recipe: demo.ID("Magnolia")}), "Anemone: petal")

	i := slices.IndexFunc(doc.Colourways, func(c studio.Colourway) bool { return c.ID == demo.ID("Oyster") })
	doc.Colourways[i].Slots["Anemone: petal"] = demo.ID("Slate leaf")
	for _, mixes := range mixesOf(t, doc, "Anemone petal") {
		assert.Equal(t, demo.ID("Slate leaf"), mixes["petal"])
	}
}

// Without colours of its own it is painted as the line says.
func TestAFlowerTakesTheColoursOfALine(t *testing.T) {
	for _, mixes := range mixesOf(t, mixed(false), "Anemone petal") {
		assert.Equal(t, demo.ID("Oyster ivory"), mixes["petal"])
	}
}
