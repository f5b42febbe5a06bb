package studio_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/demo"
)

// What no studio ever enters is refused in words, at its field, before it costs anything.
func TestWhatNoStudioEntersIsRefused(t *testing.T) {
	doc := demo.Document()
	order := func(change func(*studio.Order)) studio.Order {
		o := studio.Order{
			ID:         demo.ID("order"),
			Name:       "Harvest supper",
			Leaves:     studio.MustWallTime("2027-10-04T10:00"),
			Importance: 10,
			State:      studio.OrderOpen,
			Lines: []studio.OrderLine{{ID: demo.ID("line"), Recipe: demo.ID("Dahlia"), Colourway: demo.ID("Oyster"),
				Quantity: 3, ServiceLevel: 950}},
		}
		change(&o)
		return o
	}
	require.Empty(t, doc.CheckOrder(order(func(*studio.Order) {})))
	for name, c := range map[string]struct {
		change func(*studio.Order)
		place  string
		says   string
	}{
		"thousands of a large flower": {func(o *studio.Order) { o.Lines[0].Quantity = 4000 }, "lines[0].quantity",
			"more than 60000 pieces"},
		"a date in the year 9999": {func(o *studio.Order) { o.Leaves = studio.MustWallTime("9999-10-04T10:00") }, "leaves",
			"ten years ahead"},
		"a blank name":      {func(o *studio.Order) { o.Name = " \t" }, "name", "empty"},
		"a name with a NUL": {func(o *studio.Order) { o.Name = "Supper\x00" }, "name", "cannot be seen"},
		"a name that turns round": {func(o *studio.Order) { o.Name = "Supper \u202etxt" }, "name",
			"cannot be seen"},
		"a name as long as a book": {func(o *studio.Order) { o.Name = strings.Repeat("a", 300_000) }, "name",
			"too long"},
	} {
		problems := doc.CheckOrder(order(c.change))
		require.NotEmpty(t, problems, name)
		assert.Equal(t, c.place, problems[0].Place, name)
		assert.Contains(t, problems[0].Message, c.says, name)
	}
	many := demo.Document()
	for i := range many.Recipes {
		for k := range many.Recipes[i].Parts {
			many.Recipes[i].Parts[k].Count, many.Recipes[i].Parts[k].Between, many.Recipes[i].Parts[k].Rows, many.Recipes[i].Parts[k].At = 2000, nil, nil, nil
			many.Recipes[i].Parts[k].Least, many.Recipes[i].Parts[k].Sequence = nil, nil
		}
	}
	found := many.Validate()
	require.NotEmpty(t, found)
	assert.Contains(t, found.Error(), "up to 20000 would be right")
}

// The whole demo comes to what its count-up makes without spares.
func TestPiecesAreCountedThroughAllLevels(t *testing.T) {
	doc := demo.Document()
	book := studio.NewBook(doc)
	var cone, magnolia studio.Made
	for _, r := range doc.Recipes {
		switch r.Name {
		case "Magnolia":
			magnolia = studio.Made{Recipe: r.ID}
		case "Magnolia cone":
			cone = studio.Made{Recipe: r.ID}
		}
	}
	assert.EqualValues(t, 1, book.Pieces(cone))
	var parts int64 = 1
	for _, p := range book.Of(magnolia).Parts {
		parts += p.Count * book.Pieces(p.Made())
	}
	assert.Equal(t, parts, book.Pieces(magnolia))
	assert.Greater(t, parts, int64(9))
}

// Of two inputs that are alike, a variant changes the one that it names by its key; where
// it names none, that is refused and not guessed.
func TestAVariantChangesTheInputItNames(t *testing.T) {
	doc := demo.Document()
	i := 0
	for doc.Recipes[i].Name != "Magnolia" {
		i++
	}
	r := &doc.Recipes[i]
	again := r.Parts[0]
	again.Count = 2
	r.Parts = append(r.Parts, again)
	r.Variants = []studio.Variant{{Name: "fuller",
		Parts: []studio.PartInput{{Step: again.Step, Recipe: again.Recipe, Form: again.Form, Count: 7}}}}
	assert.ErrorContains(t, doc.CheckRecipes([]studio.Recipe{*r})[r.ID], "give each a key")

	r.Parts[0].Key, r.Parts[len(r.Parts)-1].Key = "inner", "outer"
	r.Variants[0].Parts[0].Key = "outer"
	require.Empty(t, doc.CheckRecipes([]studio.Recipe{*r})[r.ID])
	made, ok := r.As("fuller")
	require.True(t, ok)
	assert.Equal(t, r.Parts[0].Count, made.Parts[0].Count)
	assert.EqualValues(t, 7, made.Parts[len(made.Parts)-1].Count)

	r.Parts[0].Key = "outer"
	assert.ErrorContains(t, doc.CheckRecipes([]studio.Recipe{*r})[r.ID], "used twice")
}
