package count_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/studio"
	"bractum/demo"
)

// Lots that wait for no wire take no more than lies there, however short their pieces are: several petals
// come of one wire. Lots that are all spares are due with their group.
func TestWhatDoesNotWaitIsThere(t *testing.T) {
	doc := demo.Season(1, 0.12, 90)
	counted, err := count.Up(doc)
	require.NoError(t, err)
	book, free, waits := studio.NewBook(doc), map[studio.ID]int64{}, map[studio.ID]int{}
	for _, l := range counted.Lots {
		assert.Positive(t, l.Due, l.ID)
		for _, w := range book.Of(l.Made()).Wires {
			if len(l.Awaits) > 0 {
				waits[w.Material]++
				continue
			}
			free[w.Material] += int64(w.Depth+w.Stem+w.Allowance) * w.Number * book.Of(l.Made()).At(w.Step, l.Alive)
		}
	}
	short := 0
	for _, m := range doc.Materials {
		if m.Wire == nil || waits[m.ID] == 0 {
			continue
		}
		short++
		there := m.OnHand * int64(m.Wire.Length)
		for _, o := range doc.Offcuts {
			if o.Material == m.ID {
				there += int64(o.Length) * o.Number
			}
		}
		assert.LessOrEqual(t, free[m.ID], there, m.Name)
	}
	assert.Positive(t, short)
}
