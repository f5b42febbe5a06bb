package demo_test

import (
	"bytes"
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/demo"
)

func TestTheSeasonIsAsLargeAsItSays(t *testing.T) {
	for seed := range uint64(8) {
		doc := demo.Season(seed, 1, 75)
		book := studio.NewBook(doc)
		var under func(m studio.Made) int64
		under = func(m studio.Made) (pieces int64) {
			for _, p := range book.Of(m).Parts {
				pieces += p.Count * (1 + under(p.Made()))
			}
			return pieces
		}
		var flowers, parts int64
		first, last := doc.Orders[0].Leaves.String(), doc.Orders[0].Leaves.String()
		for _, o := range doc.Orders {
			first, last = min(first, o.Leaves.String()), max(last, o.Leaves.String())
			for _, l := range o.Lines {
				flowers += l.Quantity
				parts += l.Quantity * under(l.Made())
			}
		}
		assert.Len(t, doc.Orders, 60)
		assert.Len(t, doc.People, 8)
		assert.InDelta(t, 1500, flowers, 150)
		assert.InDelta(t, 30_000, parts, 3_000)
		assert.Less(t, first, "2027-10-01", "it begins within the first week")
		assert.Greater(t, last, "2027-10-28", "and goes on for six")
	}
}

func TestASeasonIsAValidDocumentAndTheSameEveryTime(t *testing.T) {
	for _, scale := range []float64{0.1, 1, 2} {
		one, err := json.Marshal(demo.Season(5, scale, 75))
		require.NoError(t, err)
		again, err := json.Marshal(demo.Season(5, scale, 75))
		require.NoError(t, err)
		require.Equal(t, string(one), string(again))
		_, err = studio.Read(bytes.NewReader(one))
		require.NoError(t, err)
	}
	assert.Len(t, demo.Season(5, 2, 75).Orders, 120)
	assert.NotEqual(t, demo.Season(5, 1, 75).Orders, demo.Season(6, 1, 75).Orders)
}
