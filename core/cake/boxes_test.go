package cake_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/cake"
	"bractum/core/studio"
)

func boxed(boxes []studio.Box, placings ...studio.Placing) (*studio.Document, studio.Order) {
	doc := &studio.Document{}
	for i := range boxes {
		doc.Materials = append(doc.Materials, studio.Material{ID: studio.ID([]string{"small", "large"}[i]), OnHand: 3,
			Box: &boxes[i]})
	}
	o := studio.Order{Lines: []studio.OrderLine{{ID: "a", Quantity: 200}}, Cakes: []studio.Cake{{Placings: placings}}}
	return doc, o
}

// By hand: three sprays of 150 by 60 mm in a box of 340 by 160: two in a row, one in the next; four need the large one.
func TestTheSmallestBoxIsTakenThatHoldsAll(t *testing.T) {
	boxes := []studio.Box{
		{Length: 340_000, Width: 160_000, Height: 100_000},
		{Length: 400_000, Width: 300_000, Height: 100_000},
	}
	spray := studio.Placing{Line: "a", Quantity: 3, Length: 150_000, Breadth: 60_000}
	doc, o := boxed(boxes, spray)
	filled, left := cake.Boxes(doc, o)
	require.Len(t, filled, 1)
	assert.Equal(t, studio.ID("small"), filled[0].Box)
	assert.Equal(
		t,
		cake.Lies{Line: "a", Along: 10_000, Across: 80_000, Length: 150_000, Breadth: 60_000},
		filled[0].Lies[2],
	)
	assert.Equal(t, map[studio.ID]int64{"a": 197}, left)

	o.Cakes[0].Placings[0].Quantity = 5
	filled, _ = cake.Boxes(doc, o)
	require.Len(t, filled, 1)
	assert.Equal(t, studio.ID("large"), filled[0].Box)
	o.Cakes[0].Placings[0].Length = 500_000
	filled, left = cake.Boxes(doc, o)
	assert.Empty(t, filled)
	assert.Equal(t, map[studio.ID]int64{"a": 200}, left)
}

// Whatever is packed into whatever boxes, nothing touches anything, nothing is lost, and no box is used twice.
func TestNothingTouchesInABox(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		size := func(most int) studio.Micrometres {
			return studio.Micrometres(rapid.IntRange(15, most).Draw(t, "mm")) * 1000
		}
		boxes := []studio.Box{{Length: size(400), Width: size(400), Height: size(200)},
			{Length: size(500), Width: size(500), Height: size(200)}}
		var placings []studio.Placing
		var ordered int64
		for range rapid.IntRange(1, 6).Draw(t, "places") {
			p := studio.Placing{Line: "a", Quantity: rapid.Int64Range(1, 12).Draw(t, "many"), Length: size(250),
				Breadth: size(120)}
			placings, ordered = append(placings, p), ordered+p.Quantity
		}
		doc, o := boxed(boxes, placings...)
		filled, left := cake.Boxes(doc, o)
		var packed int64
		used := map[studio.ID]int{}
		for _, f := range filled {
			used[f.Box]++
			b := doc.Materials[map[studio.ID]int{"small": 0, "large": 1}[f.Box]].Box
			packed += int64(len(f.Lies))
			for i, l := range f.Lies {
				require.GreaterOrEqual(t, min(l.Along, l.Across), studio.Micrometres(10_000))
				require.LessOrEqual(t, l.Along+l.Length+10_000, max(b.Length, b.Width))
				require.LessOrEqual(t, l.Across+l.Breadth+10_000, min(b.Length, b.Width))
				require.LessOrEqual(t, l.Breadth+10_000, b.Height)
				for _, other := range f.Lies[:i] {
					apart := l.Along >= other.Along+other.Length+10_000 || other.Along >= l.Along+l.Length+10_000 ||
						l.Across >= other.Across+other.Breadth+10_000 || other.Across >= l.Across+l.Breadth+10_000
					require.True(t, apart, "%v and %v", l, other)
				}
			}
		}
		require.EqualValues(t, 200, packed+left["a"])
		require.LessOrEqual(t, packed, ordered)
		for _, n := range used {
			require.LessOrEqual(t, n, 3)
		}
	})
}
