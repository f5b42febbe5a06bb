package find_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/studio"
	"bractum/demo"
	"bractum/find"
)

const tray studio.ID = "lot-0123456789abcdef"

func things(t *testing.T) []find.Hit {
	t.Helper()
	doc := demo.Document()
	doc.Work = append(doc.Work, studio.WorkLot{ID: tray, Recipe: doc.Recipes[0].ID})
	orders := append([]studio.Order{}, doc.Orders...)
	orders = append(orders, studio.Order{ID: "fete", Name: "Fête du port", Client: &studio.Client{Name: "Ragna"}})
	return find.Things(doc, orders)
}

func TestAFewLettersFindIt(t *testing.T) {
	all := things(t)
	first := func(text string) find.Hit {
		found := find.Of(all, text, 24)
		require.NotEmpty(t, found, text)
		return found[0]
	}
	for text, name := range map[string]string{
		"ferry": "Ferry crew", "FETE": "Fête du port", "ragna": "Fête du port", "magn": "Magnolia", "oyster sh": "Oyster shell",
		"petal inner magnolia": "Magnolia inner petal", "teun": "Teun", "sailcloth": "Sailcloth and wire",
		"24 wh": "24 white wire",
	} {
		assert.Equal(t, name, first(text).Name, text)
	}
	assert.Empty(t, find.Of(all, "  ", 24))
	assert.Empty(t, find.Of(all, "ferry zebra", 24), "all words count")
	assert.Equal(t, tray, first("http://bench:8080/drying?lot="+string(tray)).ID, "what its label says")
}

// Whatever thing is looked for by a piece of its name is among what is found, unless there are more that fit as well; and
// what is found has every word.
func TestWhatIsThereIsFound(t *testing.T) {
	all := things(t)
	rapid.Check(t, func(t *rapid.T) {
		thing := rapid.SampledFrom(all).Draw(t, "thing")
		letters := []rune(thing.Name)
		from := rapid.IntRange(0, len(letters)-1).Draw(t, "from")
		text := string(letters[from:rapid.IntRange(from+1, len(letters)).Draw(t, "to")])
		found := find.Of(all, text, len(all))
		if strings.TrimSpace(text) == "" {
			assert.Empty(t, found)
			return
		}
		assert.Contains(t, found, thing, text)
		assert.LessOrEqual(t, len(find.Of(all, text, 3)), 3)
	})
}
