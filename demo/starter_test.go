package demo_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/demo"
)

// What a studio begins from holds, with the book and without, and has nothing of anybody in it.
func TestAStudioBeginsFromWhatHolds(t *testing.T) {
	for _, book := range []bool{true, false} {
		d := demo.Starter(book)
		d.Name = "Own"
		require.Empty(t, d.Validate())
		assert.Empty(t, d.People)
		assert.Empty(t, d.Orders)
		assert.NotEmpty(t, d.DryingClasses)
		for _, m := range d.Materials {
			assert.Zero(t, m.OnHand, m.Name)
		}
		flowers := 0
		for _, r := range d.Recipes {
			if r.Kind == studio.KindFlower {
				flowers++
			}
		}
		assert.Equal(t, book, flowers >= 17, "%d flowers", flowers)
	}
}
