package demo_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

// Of every flower of the book 24, and 8 of each variant, or 3 of a spray, are planned whole from
// an empty shelf, each piece taken up as it is wanted.
func TestEveryFlowerIsPlannedWhole(t *testing.T) {
	doc := demo.Document()
	doc.Shelf = nil
	for _, r := range doc.Current() {
		if r.Kind != studio.KindFlower && r.Kind != studio.KindSpray {
			continue
		}
		t.Run(r.Name, func(t *testing.T) {
			order := studio.Order{
				ID:         "choir",
				Name:       "Choir",
				Leaves:     studio.MustWallTime("2027-10-01T10:00"),
				Importance: 10,
				State:      studio.OrderOpen,
			}
			line := func(variant string, quantity int64) {
				order.Lines = append(order.Lines, studio.OrderLine{ID: studio.ID("line " + variant), Recipe: r.ID,
					Variant: variant, Colourway: demo.ID("Oyster"), Quantity: quantity, ServiceLevel: 950})
			}
			switch {
			case r.Kind == studio.KindSpray:
				line("", 3)
			default:
				line("", 24)
				for _, v := range r.Variants {
					line(v.Name, 8)
				}
			}
			of := *doc
			of.Orders = []studio.Order{order}
			require.Empty(t, of.Validate())
			counted, err := count.Up(&of)
			require.NoError(t, err)
			for _, n := range counted.Notes {
				assert.NotEqual(t, count.NotEvenOne, n.Code, n.With)
			}
			p, err := plan.Make(&of, counted, plan.Options{})
			require.NoError(t, err)
			assert.Empty(t, p.Unplaced)
			assert.Empty(t, check.Plan(&of, p))
		})
	}
}
