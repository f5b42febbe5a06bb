package studio_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"bractum/core/studio"
	"bractum/demo"
)

// Batches of the same are numbered by when the first lot of each is begun, its inputs' among them.
func TestBatchesAreNumberedAsTheyAreBegun(t *testing.T) {
	lots := []studio.Lot{{ID: "a", Key: "rose"}, {ID: "b", Key: "rose"}, {ID: "c", Key: "rose"},
		{ID: "petals of c", Key: "petal"}, {ID: "leaf", Key: "leaf"}}
	batches := map[studio.ID]studio.InBatch{
		"a": {Root: "a", Number: 1, Of: 3}, "b": {Root: "b", Number: 2, Of: 3}, "c": {Root: "c", Number: 3, Of: 3},
		"petals of c": {Root: "c", Number: 3, Of: 3}, "leaf": {Root: "leaf", Number: 1, Of: 1},
	}
	begins := map[studio.ID]studio.Minute{"b": 50, "c": 90, "petals of c": 20, "leaf": 400}
	studio.InTurn(batches, lots, func(lot studio.ID) (studio.Minute, bool) {
		at, planned := begins[lot]
		return at, planned
	})
	turn := map[studio.ID]int64{}
	for lot, in := range batches {
		turn[lot] = in.Number
	}
	assert.Equal(t, map[studio.ID]int64{"c": 1, "petals of c": 1, "b": 2, "a": 3, "leaf": 1}, turn)
}

// What was found to break changes the rates of steps in proportion where they say any, else the recipe's.
func TestWhatIsFoundToBreakGoesWhereItIsSaid(t *testing.T) {
	r := recipe(demo.Document(), "Magnolia outer petal")
	for i := range r.Steps {
		r.Steps[i].LosesPerMille = 0
	}
	r.Spares.Breakage = 80
	assert.EqualValues(t, 80, r.Breaks())
	assert.EqualValues(t, 30, r.Breaking(30).Breaks())
	r.Steps[0].LosesPerMille, r.Steps[2].LosesPerMille = 40, 20
	assert.EqualValues(t, 60, r.Breaks())
	found := r.Breaking(30)
	assert.EqualValues(t, 20, found.Steps[0].LosesPerMille)
	assert.EqualValues(t, 10, found.Steps[2].LosesPerMille)
	assert.EqualValues(t, 40, r.Steps[0].LosesPerMille, "the recipe stays as it was")
}
