package methods

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
)

// atSize is Pellowen Yard with a method taken in and one order, eleven days ahead, of 24 of each of
// its flowers, 8 of each variant and 3 of each spray.
func atSize(t require.TestingT, doc *studio.Document, recipes []studio.Recipe) *studio.Document {
	o := studio.Order{ID: "choir", Name: "Choir", Leaves: studio.MustWallTime("2027-10-01T10:00"), Importance: 10,
		State: studio.OrderOpen}
	line := func(r *studio.Recipe, variant string, quantity int64) {
		o.Lines = append(o.Lines, studio.OrderLine{ID: r.ID + studio.ID(variant), Recipe: r.ID, Variant: variant,
			Colourway: doc.Colourways[len(doc.Colourways)-1].ID, Quantity: quantity, ServiceLevel: 950})
	}
	for i := range recipes {
		switch r := &recipes[i]; r.Kind {
		case studio.KindFlower:
			line(r, "", 24)
			for _, v := range r.Variants {
				line(r, v.Name, 8)
			}
		case studio.KindSpray:
			line(r, "", 3)
		}
	}
	doc.Orders = []studio.Order{o}
	require.Empty(t, doc.Validate())
	return doc
}

// Every method, at the size of a real order, is planned whole and in time, with no lot limit
// written by hand, and every single piece is taken up as it is wanted.
func TestEveryMethodIsPlannedWhole(t *testing.T) {
	for _, m := range slices.Concat(daisies(), peonies(), roses(), others()) {
		t.Run(m.row+" "+m.name, func(t *testing.T) {
			doc, _ := taken(t, m)
			doc = atSize(t, doc, doc.Recipes[len(doc.Recipes)-len(m.recipes):])
			for i := range doc.Recipes[len(doc.Recipes)-len(m.recipes):] {
				assert.Zero(t, doc.Recipes[len(doc.Recipes)-len(m.recipes)+i].MostPerLot)
			}
			counted, err := count.Up(doc)
			require.NoError(t, err)
			for _, note := range counted.Notes {
				assert.Contains(t, []count.NoteCode{count.RemainderTooSmall, count.NobodySells}, note.Code, note.With)
			}
			p, err := plan.Make(doc, counted, plan.Options{})
			require.NoError(t, err)
			assert.Empty(t, p.Unplaced)
			assert.Empty(t, check.Plan(doc, p))
			for _, o := range p.Orders {
				require.NotNil(t, o.Ready)
				assert.LessOrEqual(t, *o.Ready, o.ReadyBy)
			}
		})
	}
}

// BenchmarkMethods counts and plans each method at the size of a real order.
func BenchmarkMethods(b *testing.B) {
	for _, m := range slices.Concat(daisies(), peonies(), roses(), others()) {
		b.Run(m.row, func(b *testing.B) {
			doc, _ := taken(b, m)
			doc = atSize(b, doc, doc.Recipes[len(doc.Recipes)-len(m.recipes):])
			for range b.N {
				counted, err := count.Up(doc)
				require.NoError(b, err)
				p, err := plan.Make(doc, counted, plan.Options{})
				require.NoError(b, err)
				b.ReportMetric(float64(len(p.Tasks)), "tasks")
			}
		})
	}
}
