package cake_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/cake"
	"bractum/core/studio"
	"bractum/demo"
)

// laid is the demo with one magnolia laid on a cake of two tiers, 250 and 180 mm across, as it is wished.
func laid(change func(*studio.Placing)) (*studio.Document, studio.Order) {
	doc := demo.Document()
	o := studio.Order{Name: "Choir", State: studio.OrderOpen, Leaves: studio.MustWallTime("2027-10-04T10:00"),
		Importance: 10,
		Lines: []studio.OrderLine{{ID: "line", Recipe: demo.ID("Magnolia"), Colourway: demo.ID("Oyster"),
			Quantity: 2, ServiceLevel: 950}},
		Cakes: []studio.Cake{{ID: "cake", Name: "Anniversary", Tiers: []studio.Tier{
			{Shape: studio.TierRound, Across: 250_000, Height: 100_000},
			{Shape: studio.TierSquare, Across: 120_000, Height: 80_000},
		}}}}
	p := studio.Placing{ID: "place", Line: "line", Quantity: 1, On: studio.OnTop, Out: 95_000, At: 90, Points: 0,
		Length: 40_000, Breadth: 40_000, Depth: 30_000, Holder: demo.ID("Short pick, 45 mm")}
	change(&p)
	o.Cakes[0].Placings = []studio.Placing{p}
	return doc, o
}

func cases(t *testing.T, change func(*studio.Placing)) (all []cake.Case, over []float64) {
	doc, o := laid(change)
	for _, f := range cake.Findings(doc, studio.NewBook(doc), o) {
		assert.Equal(t, studio.ID("place"), f.Placing)
		if f.Case != cake.StemWeak {
			all, over = append(all, f.Case), append(over, f.Working.Result.Value)
		}
	}
	return all, over
}

// By hand: 95 mm to the right of the middle of a tier of 250, pointing to the front, its tip is 103 mm from the middle.
// Pointing outwards it ends 10 mm over the edge; pointing inwards it runs 25 mm under a square tier of 120.
func TestWhatHasNoRoomIsSaidWithByHowMuch(t *testing.T) {
	for _, one := range []struct {
		change func(*studio.Placing)
		is     cake.Case
		over   float64
	}{
		{func(p *studio.Placing) { p.Points = 90 }, cake.OverEdge, 10},
		{func(p *studio.Placing) { p.Quantity = 5 }, cake.MoreLaid, 3},
		{func(p *studio.Placing) { p.Line = "gone" }, cake.MoreLaid, 1},
		{func(p *studio.Placing) { p.Points, p.Length = 270, 60_000 }, cake.UnderTier, 25},
		{func(p *studio.Placing) { p.On, p.Out = studio.AtSide, 80_000 }, cake.PastTop, 20},
		{func(p *studio.Placing) { p.On, p.Out, p.Points = studio.AtSide, 25_000, 180 }, cake.PastFoot, 15},
		{func(p *studio.Placing) { p.Holder = "" }, cake.NoHolder, 30},
		{func(p *studio.Placing) { p.Tier, p.Out, p.Holder = 1, 0, demo.ID("Long pick, 80 mm") }, "", 0},
		{func(p *studio.Placing) { p.Depth = 50_000 }, cake.HolderShort, 5},
		{func(p *studio.Placing) { p.Length, p.Breadth = 70_000, 150_000 }, cake.NoBox, 20},
		{func(*studio.Placing) {}, "", 0},
	} {
		is, over := cases(t, one.change)
		if one.is == "" {
			assert.Empty(t, is)
			continue
		}
		require.Equal(t, []cake.Case{one.is}, is)
		assert.InDelta(t, one.over, over[0], 0.1, one.is)
	}
}

// A stem that is to go in further than it is long is said.
func TestAStemShorterThanItGoesIn(t *testing.T) {
	is, _ := cases(t, func(p *studio.Placing) { p.Depth, p.Holder = 160_000, demo.ID("Long pick, 80 mm") })
	assert.Equal(t, []cake.Case{cake.StemShort, cake.HolderShort}, is)
}

// What makes no sense is refused by its field, and nothing of it is written.
func TestACakeThatCannotBeIsRefused(t *testing.T) {
	for field, change := range map[string]func(*studio.Order){
		"cakes[0].tiers[1].acrossMicrometres":    func(o *studio.Order) { o.Cakes[0].Tiers[1].Across = 260_000 },
		"cakes[0].tiers[0].shape":                func(o *studio.Order) { o.Cakes[0].Tiers[0].Shape = "heart" },
		"cakes[0].placings[0].depthMicrometres":  func(o *studio.Order) { o.Cakes[0].Placings[0].Depth = 101_000 },
		"cakes[0].placings[0].tier":              func(o *studio.Order) { o.Cakes[0].Placings[0].Tier = 2 },
		"cakes[0].placings[0].quantity":          func(o *studio.Order) { o.Cakes[0].Placings[0].Quantity = 0 },
		"cakes[0].placings[0].holder":            func(o *studio.Order) { o.Cakes[0].Placings[0].Holder = "nail" },
		"cakes[0].placings[0].atDegrees":         func(o *studio.Order) { o.Cakes[0].Placings[0].At = 400 },
		"client.name":                            func(o *studio.Order) { o.Client = &studio.Client{Name: string(make([]byte, 10_000))} },
		"eaten":                                  func(o *studio.Order) { o.Eaten = studio.MustWallTime("2027-10-04T09:00") },
		"cakes[0].placings[0].on":                func(o *studio.Order) { o.Cakes[0].Placings[0].On = "inside" },
		"cakes[0].placings[0].lengthMicrometres": func(o *studio.Order) { o.Cakes[0].Placings[0].Length = -1 },
	} {
		doc, o := laid(func(*studio.Placing) {})
		require.Empty(t, doc.CheckOrder(o))
		change(&o)
		problems := doc.CheckOrder(o)
		require.NotEmpty(t, problems, field)
		assert.Equal(t, field, problems[0].Place)
	}
}
