package pattern_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/flower"
	"bractum/core/pattern"
	"bractum/core/studio"
	"bractum/demo"
)

func TestEveryPatternIsAFlowerThatCanBeReckonedAtOnce(t *testing.T) {
	assert.Len(t, pattern.All(), 11)
	for _, p := range pattern.All() {
		t.Run(p.Key, func(t *testing.T) {
			doc := demo.Document()
			n := 0
			laid, ok := pattern.Begin(
				doc,
				p.Key,
				"Harbour rose",
				func() studio.ID { n++; return studio.ID(fmt.Sprint("new ", n)) },
			)
			require.True(t, ok)
			require.Empty(t, doc.CheckRecipes(laid))
			doc.Recipes = append(doc.Recipes, laid...)
			sheet, err := flower.Reckon(
				doc,
				flower.Wanted{Made: studio.Made{Recipe: laid[0].ID}, Colours: doc.Colourways[0].Slots},
			)
			require.NoError(t, err)
			assert.Equal(t, "Harbour rose", sheet.Portrait.Name)
			assert.Len(t, sheet.Portrait.Rings, len(laid[0].Parts))
			assert.Positive(t, sheet.Elapsed)
			assert.Subset(t, []string{"centre"}, sheet.Missing, "what no colourway colours has a mix of the studio's")
			book := studio.NewBook(doc)
			assert.Empty(t, flower.Proportions(doc, book, laid), "a beginning is well proportioned")
			for _, r := range laid {
				batch, err := count.BatchOf(doc, book, studio.Made{Recipe: r.ID}, doc.Colourways[0].Slots)
				require.NoError(t, err)
				assert.False(t, batch.None, "%s: %+v", r.Name, batch.Limit)
			}
		})
	}
}

func TestAStudioWithNothingCanBeginToo(t *testing.T) {
	doc := &studio.Document{}
	for _, p := range pattern.All() {
		laid, ok := pattern.Begin(doc, p.Key, "Kelp", func() studio.ID { return "x" })
		require.True(t, ok)
		assert.NotEmpty(t, laid)
	}
	_, ok := pattern.Begin(doc, "no such", "Kelp", nil)
	assert.False(t, ok)
}
