package count_test

import (
	"maps"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/studio"
	"bractum/demo"
)

// A group divided otherwise keeps its spares, and no other lot of its key changes its id;
// no lot becomes larger than formers and the lead allow.
func TestADividedGroupIsOfAsManyPieces(t *testing.T) {
	doc := demo.Season(4, 0.2, 90)
	usual, err := count.Up(doc)
	require.NoError(t, err)
	members := map[studio.ID][]studio.Lot{}
	for _, l := range usual.Lots {
		if l.Group == "" {
			continue // of a batch, which goes by what it is made for
		}
		members[l.Group] = append(members[l.Group], l)
	}
	tried, more := 0, 0
	for _, first := range usual.Lots {
		group, lots := first.Group, members[first.Group]
		if first.ID != group || len(lots) < 2 || first.Mixes == nil || first.Started < 4 || first.Started > 1000 ||
			tried == 12 {
			continue
		}
		tried++
		for _, n := range []int64{int64(len(lots)) + 1, 1} {
			divided, err := count.Divided(doc, map[studio.ID]studio.Division{group: {Group: group, Lots: n}})
			require.NoError(t, err)
			now, ids := map[studio.ID][]studio.Lot{}, map[studio.ID]bool{}
			for _, l := range divided.Lots {
				now[l.Group] = append(now[l.Group], l)
				assert.False(t, ids[l.ID], "no two lots have one id")
				ids[l.ID] = true
			}
			var before, after int64
			for _, l := range lots {
				before += l.Started
			}
			for _, l := range now[group] {
				after += l.Started
				assert.LessOrEqual(t, l.Started, max(first.Started+1, 24))
			}
			assert.Equal(t, before, after)
			said := *doc
			said.Divided = []studio.Division{{Group: group, Lots: n}}
			again, err := count.Up(&said)
			require.NoError(t, err)
			assert.Equal(t, divided.Lots, again.Lots, "as when the document says so")
			known, err := count.As(&said, again, said.Divided)
			require.NoError(t, err)
			assert.Same(t, again, known, "what it says is not counted anew")
			if len(now[group]) > len(lots) {
				more++
				assert.Len(t, now[group], int(n))
			}
			for other, was := range members {
				if was[0].Key == first.Key && other != group {
					assert.Equal(t, was[0].ID, now[other][0].ID)
				}
			}
		}
	}
	assert.Equal(t, 12, tried)
	assert.Greater(t, more, 8, "most can be divided further")
}

// What is weighed with another is all in that one; the lots beside it stay what they are, and are apart
// again once they are too far from each other.
func TestMixesThatAreWeighedTogetherAreOneLot(t *testing.T) {
	doc := demo.Season(4, 0.2, 90)
	for i := range doc.Materials {
		doc.Materials[i].OnHand += 1_000_000 // what waits for a delivery is gathered apart
	}
	usual, err := count.Up(doc)
	require.NoError(t, err)
	book, tried := studio.NewBook(doc), 0
	for i, first := range usual.Lots {
		if book.Recipe(first.Recipe).Kind != studio.KindMix || first.Ordinal != 1 || tried == 8 {
			continue
		}
		var others []studio.ID
		need := first.Need
		for _, l := range usual.Lots[i+1:] {
			if l.Key == first.Key && l.Ordinal != 2 && len(others) < 2 {
				others, need = append(others, l.ID), need+l.Need
			}
		}
		if len(others) < 2 {
			continue
		}
		tried++
		joined := count.Joined(usual, first.ID, others)
		together, err := count.Divided(doc, joined)
		require.NoError(t, err)
		assert.LessOrEqual(t, len(together.Lots), len(usual.Lots)-2)
		for _, l := range together.Lots {
			assert.NotContains(t, others, l.ID)
			if l.ID == first.ID {
				assert.InDelta(t, need, l.Need, 1000, "what all take, give or take the rounding of their own shades")
			}
		}
		again, err := count.As(doc, usual, slices.Collect(maps.Values(joined)))
		require.NoError(t, err)
		assert.Equal(t, together.Lots, again.Lots)
		chained := count.Joined(usual, first.ID, others[:1])
		maps.Copy(chained, count.Joined(usual, others[0], others[1:]))
		inTurn, err := count.Divided(doc, chained)
		require.NoError(t, err)
		assert.Equal(t, together.Lots, inTurn.Lots, "and so is what is weighed with what is weighed with it")
		for id, d := range joined {
			d.Within = 60
			joined[id] = d
		}
		apart, err := count.Divided(doc, joined)
		require.NoError(t, err)
		assert.Equal(t, usual.Lots, apart.Lots)
	}
	assert.Positive(t, tried)
}
