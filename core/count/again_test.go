package count_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/count"
	"bractum/core/studio"
	"bractum/demo"
)

// Whatever changes from one document to the next, a counter says what a fresh count says.
func TestCountingAgainIsCounting(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		doc := demo.Season(rapid.Uint64Range(0, 20).Draw(t, "seed"), 0.06, 75)
		var counter count.Counter
		for range rapid.IntRange(2, 6).Draw(t, "changes") {
			fresh, err := count.Up(doc)
			require.NoError(t, err)
			again, err := counter.Up(doc)
			require.NoError(t, err)
			require.Equal(t, fresh, again)
			next := *doc
			change(t, &next, fresh)
			doc = &next
		}
	})
}

func change(t *rapid.T, doc *studio.Document, counted *count.Result) {
	i := rapid.IntRange(0, len(doc.Orders)-1).Draw(t, "order")
	k := rapid.IntRange(0, len(doc.Shelf)-1).Draw(t, "shelf lot")
	lot := counted.Lots[rapid.IntRange(0, len(counted.Lots)-1).Draw(t, "lot")]
	switch rapid.IntRange(0, 7).Draw(t, "change") {
	case 0:
		doc.Orders = slices.Clone(doc.Orders)
		doc.Orders[i].Lines = slices.Clone(doc.Orders[i].Lines)
		doc.Orders[i].Lines[0].Quantity += 2
	case 1:
		doc.Orders = slices.Clone(doc.Orders)
		doc.Orders[i].State = studio.OrderCancelled
	case 2:
		doc.Shelf = slices.Clone(doc.Shelf)
		doc.Shelf[k].Amount += rapid.Int64Range(-5, 20).Draw(t, "amount")
	case 3:
		doc.Shelf = slices.Clone(doc.Shelf)
		for s := range doc.Shelf {
			doc.Shelf[s].Reserved = counted.Reserves[doc.Shelf[s].ID]
		}
	case 4:
		doc.Decided = []studio.DecidedLot{decided(lot)}
	case 5:
		doc.Now += studio.Minute(rapid.IntRange(1, 60).Draw(t, "minutes"))
	case 7: // what is left of a mixing, not for long
		book := studio.NewBook(doc)
		mixes := slices.DeleteFunc(slices.Clone(counted.Lots),
			func(l studio.Lot) bool { return book.Recipe(l.Recipe).Kind != studio.KindMix })
		of := mixes[rapid.IntRange(0, len(mixes)-1).Draw(t, "mix")]
		useBy := doc.Now + studio.Minute(rapid.IntRange(0, 90).Draw(t, "keeps"))
		doc.Shelf = append(
			slices.Clone(doc.Shelf),
			studio.ShelfLot{ID: of.ID + "rest", Recipe: of.Recipe, Mixes: of.Mixes,
				Amount: rapid.Int64Range(1, 2*of.Started).
					Draw(t, "rest"),
				Quality: studio.Good, MadeOn: doc.Now, UseBy: &useBy},
		)
	case 6:
		doc.Ordinals = map[string]int{lot.Key: 4}
	}
}
