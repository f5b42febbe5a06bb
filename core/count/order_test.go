package count_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/studio"
	"bractum/demo"
)

// In whatever order a document lists its orders, recipes and shelf, the same is counted.
func TestTheOrderOfListsCountsForNothing(t *testing.T) {
	doc := demo.Season(1, 0.3, 90)
	doc.Shelf = append(doc.Shelf, demo.Document().Shelf...)
	want := up(t, doc)
	for seed := range uint64(4) {
		random := rand.New(rand.NewPCG(seed, 1))
		mixed := *doc
		mixed.Orders, mixed.Recipes, mixed.Shelf = slices.Clone(
			doc.Orders,
		), slices.Clone(
			doc.Recipes,
		), slices.Clone(
			doc.Shelf,
		)
		random.Shuffle(
			len(mixed.Orders),
			func(i, j int) { mixed.Orders[i], mixed.Orders[j] = mixed.Orders[j], mixed.Orders[i] },
		)
		random.Shuffle(
			len(mixed.Recipes),
			func(i, j int) { mixed.Recipes[i], mixed.Recipes[j] = mixed.Recipes[j], mixed.Recipes[i] },
		)
		random.Shuffle(
			len(mixed.Shelf),
			func(i, j int) { mixed.Shelf[i], mixed.Shelf[j] = mixed.Shelf[j], mixed.Shelf[i] },
		)
		got := up(t, &mixed)
		require.Equal(t, lotsByID(want), lotsByID(got))
		require.Equal(t, served(want), served(got), "who gets what of the shelf")
	}
}

func lotsByID(counted *count.Result) map[studio.ID][3]int64 {
	lots := map[studio.ID][3]int64{}
	for _, l := range counted.Lots {
		lots[l.ID] = [3]int64{l.Started, l.Need, int64(l.Due)}
	}
	return lots
}

func served(counted *count.Result) map[studio.Peg]bool {
	pegs := map[studio.Peg]bool{}
	for _, p := range counted.Pegs {
		pegs[p] = true
	}
	return pegs
}

// Of two orders for the same time the more important one gets what lies there.
func TestTheMoreImportantOrderGetsTheStock(t *testing.T) {
	doc := soft(2, 5000)
	other := doc.Orders[0]
	other.ID, other.Name, other.Importance = "library", "Library", 30
	other.Lines = slices.Clone(other.Lines)
	other.Lines[0].ID = "other line"
	doc.Shelf = []studio.ShelfLot{
		{ID: "roses", Recipe: "rose", Mixes: map[string]studio.ID{"petal": "white"}, Amount: 2,
			Quality: studio.Good},
	}
	for range 2 {
		slices.Reverse(doc.Orders)
		if len(doc.Orders) == 1 {
			doc.Orders = append(doc.Orders, other)
		}
		counted := up(t, doc)
		require.Len(t, counted.Pegs, 1)
		require.Equal(t, studio.ID("library"), counted.Pegs[0].Order)
	}
}
