package promise

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/scene"
	"bractum/core/studio"
	"bractum/demo"
)

// Who stays is paid their own rate for all the time that they are there, a helper what is agreed.
func TestWhoStaysIsPaidForIt(t *testing.T) {
	doc := &studio.Document{People: []studio.Person{{ID: "maren", Rate: 1800}, {ID: "teun", Rate: 2400}}}
	two := []studio.Span{{From: 0, To: 120}, {From: 1440, To: 1530}}
	assert.EqualValues(t, 8400, paid(doc, []scene.If{{Kind: scene.Stays, Of: "teun", Spans: two}}))
	assert.EqualValues(t, 7000, paid(doc, []scene.If{{Kind: scene.Helps, Number: 2000, Spans: two}}))
	assert.EqualValues(t, 8400+7000, paid(doc, []scene.If{{Kind: scene.Stays, Of: "teun", Spans: two},
		{Kind: scene.Helps, Number: 2000, Spans: two}, {Kind: scene.Places, Of: "rail", Number: 2}}))
}

// A colour that lies mixed is thought of for a line whose own colour has to be mixed, and not for one whose own lies
// there too.
func TestAColourThatLiesMixedIsThoughtOf(t *testing.T) {
	doc := demo.Document()
	book := studio.NewBook(doc)
	anemone := demo.ID("Anemone")
	lies := func(colourway studio.ID) {
		for _, c := range doc.Colourways {
			if c.ID != colourway {
				continue
			}
			mixes, missing := book.Resolve(studio.Made{Recipe: anemone}, c.Slots)
			require.Empty(t, missing)
			for _, mix := range mixes {
				doc.Shelf = append(doc.Shelf, studio.ShelfLot{Recipe: mix, Amount: 100_000, Quality: studio.Good})
			}
		}
	}
	doc.Shelf = nil
	order := studio.Order{ID: "asked", Lines: []studio.OrderLine{{ID: "one", Recipe: anemone, Quantity: 3,
		Colourway: demo.ID("Oyster")}}}
	l := lead{q: &Question{Order: order.ID}, t: &trial{doc: doc}, order: &order, until: doc.Now + 1440}
	assert.Empty(t, l.mixed(), "nothing lies mixed")
	lies(demo.ID("Signal"))
	require.Len(t, l.mixed(), 1)
	assert.Equal(
		t,
		scene.If{Kind: scene.Recolour, Of: "asked", Line: "one", Colourway: demo.ID("Signal")},
		l.mixed()[0],
	)
	lies(demo.ID("Oyster"))
	assert.Empty(t, l.mixed())
}
