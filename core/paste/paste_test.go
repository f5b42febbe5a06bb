package paste

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"bractum/core/studio"
)

func TestMass(t *testing.T) {
	for _, c := range []struct {
		name string
		g    studio.Geometry
		want studio.Milligrams
	}{
		{"an elliptic petal 40 × 30 × 0.8 mm: 753.6 mm³", studio.Geometry{Shape: studio.ShapeCut, Length: 40_000, Width: 30_000, Thickness: 800, Factor: 785}, 1056},
		{"a ball of 10 mm: 523.6 mm³", studio.Geometry{Shape: studio.ShapeBall, Diameter: 10_000}, 734},
		{"a rope 4 mm by 50 mm: 628.3 mm³", studio.Geometry{Shape: studio.ShapeRope, Diameter: 4_000, Length: 50_000}, 880},
		{"dust as weighed", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 35}, 35},
	} {
		assert.Equal(t, c.want, Mass(c.g, 1400), c.name)
	}
}

func TestWithLossSheetAndStep(t *testing.T) {
	assert.EqualValues(t, 100_000, WithLoss(92_000, 80), "92 g used from 100 g")
	assert.EqualValues(t, 100_002, WithLoss(92_001, 80), "100 001.09 is rounded up")
	assert.EqualValues(t, 24_000, Sheet(12, 1_100, 550))
	assert.Zero(t, Sheet(0, 1_100, 550))
	assert.EqualValues(t, 12_400, ToStep(12_301, 100))
	assert.EqualValues(t, 12_300, ToStep(12_300, 100))
}

func TestWeigh(t *testing.T) {
	mix := &studio.Recipe{
		Blend:     []studio.Ingredient{{Material: "flower paste", Parts: 7}, {Material: "soft paste", Parts: 3}},
		Additives: []studio.Additive{{Material: "colour", Per100g: 800}},
	}
	assert.Equal(t, []Portion{
		{Material: "flower paste", Exact: 64_750, Weigh: 64_800, Parts: 7},
		{Material: "soft paste", Exact: 27_750, Weigh: 27_800, Parts: 3},
		{Material: "colour", Exact: 740, Weigh: 740, Per100g: 800, TooLittle: true}, // 700 is 5.4 % off
	}, Weigh(mix, 92_500, 100))
}

func TestAWeighedPieceRolledThinHasItsMass(t *testing.T) {
	rolled := Rolled(studio.Geometry{Shape: studio.ShapeWeighed, Mass: 2000}, 1400)
	again := Mass(studio.Geometry{Shape: studio.ShapeCut, Length: rolled.Length, Width: rolled.Width,
		Thickness: 700, Factor: 1000}, 1400)
	assert.InDelta(t, 2000, int64(again), 2)
	ball := studio.Geometry{Shape: studio.ShapeBall, Diameter: 9000}
	assert.Equal(t, ball, Rolled(ball, 1400))
}

// What the scale shows is never further off than a twentieth: less is said to be too little,
// and the least batch that can be weighed has all of it right.
func TestSmallAmountsAreNotRoundedInSilence(t *testing.T) {
	green := &studio.Recipe{Kind: studio.KindMix, Blend: []studio.Ingredient{{Material: "paste", Parts: 1}},
		Additives: []studio.Additive{{Material: "green", Per100g: 300}, {Material: "yellow", Drops: 10, Drop: 30}}}
	portions := Weigh(green, 15_000, 100)
	assert.False(t, portions[0].TooLittle)
	assert.Equal(t, Portion{Material: "green", Exact: 45, Weigh: 45, Per100g: 300, TooLittle: true}, portions[1])
	assert.Equal(t, Portion{Material: "yellow", Exact: 45, Weigh: 45, Per100g: 300, Drops: 2, TooLittle: true},
		portions[2], "two drops of 30 mg would be a third too much")

	least, found := Least(green, 15_000, 100)
	assert.True(t, found)
	assert.EqualValues(t, 66_400, least, "of 0.2 g each: 0.2 are weighed, and seven drops are a twentieth too strong")
	for _, p := range Weigh(green, least, 100) {
		assert.False(t, p.TooLittle)
	}
}

// Of 20 : 1 never comes 14 : 1.
func TestABlendKeepsItsProportions(t *testing.T) {
	blend := &studio.Recipe{Kind: studio.KindMix, Blend: []studio.Ingredient{{Material: "dust", Parts: 20},
		{Material: "starch", Parts: 1}}}
	for amount := studio.Milligrams(200); amount < 60_000; amount += 100 {
		p := Weigh(blend, amount, 100)
		assert.InDelta(t, 20, float64(p[0].Weigh)/float64(p[1].Weigh), 2.1, "%d mg", amount)
	}
}
