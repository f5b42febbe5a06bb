package plan_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

// seated is the demo with so many half-spheres for the magnolias' outer petals, and what stands in for them.
func seated(slots int64, standIns ...studio.Seat) *studio.Document {
	doc := demo.Document()
	doc.Shelf = nil
	doc.Places = append(doc.Places, studio.Place{ID: "sleeve", Name: "Sleeve", Slots: 4, KeepsMinutes: 90})
	for i := range doc.Places {
		if doc.Places[i].Name == "Half-sphere mould 60 mm" {
			doc.Places[i].Slots = slots
		}
	}
	for i := range doc.Recipes {
		if doc.Recipes[i].ID == demo.ID("Magnolia outer petal") {
			for j := range doc.Recipes[i].Steps {
				for k := range doc.Recipes[i].Steps[j].Holds {
					if h := &doc.Recipes[i].Steps[j].Holds[k]; h.Place == demo.ID("Half-sphere mould 60 mm") {
						h.StandIns = standIns
					}
				}
			}
		}
	}
	return doc
}

// Lots that find no room in a former lie in what stands in for it, take the time that this takes, and
// are done sooner; where the former is too small for any, all of them lie there.
func TestPlacesHaveStandIns(t *testing.T) {
	petal := demo.ID("Magnolia outer petal")
	in := func(doc *studio.Document) (p *studio.Plan, used map[studio.ID]int, minutes map[studio.ID]studio.Minute) {
		p = made(t, doc)
		require.Empty(t, check.Plan(doc, p))
		used, minutes = map[studio.ID]int{}, map[studio.ID]studio.Minute{}
		for _, task := range p.Tasks {
			i := slices.IndexFunc(p.Lots, func(l studio.Lot) bool { return l.ID == task.Lot })
			for _, h := range task.Holds {
				if p.Lots[i].Recipe == petal {
					used[h.Place]++
					minutes[h.Place] += task.End - task.Start
				}
			}
		}
		return p, used, minutes
	}
	mould, spoon := demo.ID("Half-sphere mould 60 mm"), demo.ID("Spoon tray")
	_, alone, _ := in(seated(6))
	assert.Zero(t, alone[spoon])
	p, used, minutes := in(seated(6, studio.Seat{Place: spoon, PerSlot: 1, PerPiece: 10_000, Says: "flatter"}))
	assert.Positive(t, used[mould])
	assert.Positive(t, used[spoon])
	assert.Empty(t, p.Unplaced)
	assert.Greater(t, minutes[spoon]/studio.Minute(used[spoon]), minutes[mould]/studio.Minute(used[mould])+30)
	_, used, _ = in(seated(1, studio.Seat{Place: spoon}))
	assert.Positive(t, used[spoon])
}

func TestWhatCannotStandInIsSaid(t *testing.T) {
	for says, seat := range map[string]studio.Seat{
		`no place "attic"`:       {Place: "attic"},
		"stands in for itself":   {Place: demo.ID("Half-sphere mould 60 mm")},
		"keeps pieces soft":      {Place: "sleeve"},
		"is -2; from 0 to 10000": {Place: demo.ID("Spoon tray"), PerSlot: -2},
	} {
		problems := seated(36, seat).Validate()
		require.NotEmpty(t, problems, says)
		assert.Contains(t, problems.Error(), says)
	}
}
