package flower_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/flower"
	"bractum/core/studio"
	"bractum/demo"
)

func reckoned(t *testing.T, doc *studio.Document, name, variant string, quantity int64) *flower.Sheet {
	s, err := flower.Reckon(
		doc,
		flower.Wanted{
			Made:     studio.Made{Recipe: demo.ID(name), Variant: variant},
			Colours:  doc.Colourways[0].Slots,
			Quantity: quantity,
		},
	)
	require.NoError(t, err)
	return s
}

// A magnolia by hand: a cone, three inner and six outer petals.
func TestTheTotalsOfAMagnolia(t *testing.T) {
	s := reckoned(t, demo.Document(), "Magnolia", "", 1)
	counts := map[string]int64{}
	for _, p := range s.Pieces {
		counts[p.Name] = p.Count
	}
	assert.Equal(
		t,
		map[string]int64{"Magnolia": 1, "Magnolia cone": 1, "Magnolia inner petal": 3, "Magnolia outer petal": 6},
		counts,
	)
	grams := map[string]studio.Milligrams{}
	for _, p := range s.Pastes {
		grams[p.Name] = p.Mass
	}
	// 62·38·0.9·0.76·1.4 = 2257 mg and 78·50·0.9·0.76·1.4 = 3735 mg, each rounded up; the
	// cone π/4·12²·32·1.4 = 5067 mg; dust 9·15.
	assert.Equal(
		t,
		map[string]studio.Milligrams{
			"Signal deep red": 3 * 2257,
			"Signal red":      6 * 3735,
			"Centre white":    5067,
			"Ember dust":      135,
		},
		grams,
	)
	assert.Equal(t, []flower.Wires{
		{Material: demo.ID("18 green wire"), Name: "18 green wire", Length: 172_000, Number: 1},
		{Material: demo.ID("24 white wire"), Name: "24 white wire", Length: 110_000, Number: 6},
		{Material: demo.ID("24 white wire"), Name: "24 white wire", Length: 104_000, Number: 3},
	}, s.Wires)
	// Setup: cone 10, twice 8+5+4+6, flower 10+5. Pieces: cone 2.2, nine petals 3.6 each, flower 14.4.
	assert.EqualValues(t, 71_000, s.Setup)
	assert.EqualValues(t, 2_200+9*3_600+14_400, s.Attended)
	assert.Equal(t, "Signal red", s.Portrait.Rings[2].Of.Mix)
	assert.Equal(t, []int64{6}, s.Portrait.Rings[2].Rows)
}

// The cone sets the time of one magnolia: knead 12 min and rest 30, form 13, dry by its
// P80, tape 24, steam 6, wait 45; and nothing of it lies after what it waits for.
func TestTimeAloneIsTheLongestChain(t *testing.T) {
	s := reckoned(t, demo.Document(), "Magnolia", "", 1)
	dry := studio.Minute(852) // 720 · e^(0.8416·0.2), up to the minute
	assert.Equal(t, 12+30+13+dry+24+6+45, s.Elapsed)
	for _, lane := range s.Lanes {
		for i, span := range lane.Spans {
			assert.LessOrEqual(t, span.From, span.To)
			if i > 0 {
				assert.LessOrEqual(t, lane.Spans[i-1].To, span.From)
			}
		}
	}
	assert.Zero(t, s.Lanes[0].Spans[0].From)
	assert.Equal(t, "Centre white", s.Lanes[0].Name)
}

func TestAPairIsBegunTogetherAndASlotWithoutAMixIsSaid(t *testing.T) {
	doc := demo.Document()
	three := reckoned(t, doc, "Anemone", "", 3)
	for _, p := range three.Pieces {
		if p.Name == "Anemone centre" {
			assert.EqualValues(t, 4, p.Count, "three centres come of two windings")
		}
	}
	s, err := flower.Reckon(doc, flower.Wanted{Made: studio.Made{Recipe: demo.ID("Anemone")}, Quantity: 1})
	require.NoError(t, err)
	assert.Equal(t, []string{"dust", "petal"}, s.Missing)
}

func TestAMixIsReckonedByTheHundredGrams(t *testing.T) {
	s := reckoned(t, demo.Document(), "Berry blue", "", 1)
	amounts := map[string]int64{}
	for _, m := range s.Materials {
		amounts[m.Name] = m.Amount
	}
	assert.Equal(
		t,
		map[string]int64{
			"Flower paste":     70_000,
			"Soft sugar paste": 30_000,
			"Blue gel colour":  990,
			"Red gel colour":   270,
		},
		amounts,
		"22 and 6 drops of 45 mg",
	)
	assert.EqualValues(t, 12+30, s.Elapsed)
}

func TestWhatASchoolChanges(t *testing.T) {
	doc := demo.Document()
	book := studio.NewBook(doc)
	petal := *book.Recipe(demo.ID("Anemone petal"))
	open := doc.Recipes[indexOf(doc, "Anemone petal")]
	deeper := open.In("wire depth", "a half")
	require.NotNil(t, deeper)
	changed := demo.Document()
	changed.Recipes[indexOf(changed, "Anemone petal")] = *deeper
	assert.Equal(t, petal.Name, deeper.Name)
	differ := flower.Compare(reckoned(t, doc, "Anemone", "", 1), reckoned(t, changed, "Anemone", "", 1))
	assert.Contains(
		t,
		differ,
		flower.Difference{What: flower.TotalLength, Of: "26 white wire", Unit: "µm", Was: 8 * 95_000, Is: 8 * 103_000},
	)
}

func indexOf(doc *studio.Document, name string) int {
	for i := range doc.Recipes {
		if doc.Recipes[i].ID == demo.ID(name) {
			return i
		}
	}
	return -1
}

// Each rule of proportion is broken by one figure and by nothing else, shows its
// working, and is let stand with a reason.
func TestProportionsWarnWithTheirWorking(t *testing.T) {
	for _, c := range []struct {
		rule   flower.Rule
		recipe string
		spoil  func(doc *studio.Document, r *studio.Recipe)
		broken flower.Case
		input  string
	}{
		{flower.RuleCone, "Gardenia", func(doc *studio.Document, _ *studio.Recipe) {
			doc.Recipes[indexOf(doc, "Gardenia cone")].Pastes[0].Shape.Length = 35_000
		}, flower.TooTall, "height-of-the-cone"},
		{flower.RuleWire, "Gardenia", func(doc *studio.Document, _ *studio.Recipe) {
			doc.Recipes[indexOf(doc, "Gardenia cone")].Wires[0].Material = demo.ID("24 white wire")
		}, flower.WireBend, "would-hold-gauge"},
		{flower.RuleFormer, "Camellia", func(_ *studio.Document, r *studio.Recipe) { r.Parts = r.Parts[1:2] }, "", ""},
		{flower.RuleFormer, "Camellia", func(doc *studio.Document, _ *studio.Recipe) {
			doc.Recipes[indexOf(doc, "Camellia layer, large")].Pastes[0].Shape.Length = 120_000
		}, flower.TooLarge, "across-the-cup Half-sphere mould 90 mm"},
		{flower.RuleCutter, "Anemone petal", func(_ *studio.Document, r *studio.Recipe) { r.Pastes[0].Shape.Dried = 40_000 }, flower.Other, "cutter-to-take Drop cutter 46 mm"},
	} {
		doc := demo.Document()
		r := &doc.Recipes[indexOf(doc, c.recipe)]
		before := flower.Proportions(doc, studio.NewBook(doc), []studio.Recipe{*r})
		require.Empty(t, before, c.recipe)
		c.spoil(doc, r)
		found := flower.Proportions(doc, studio.NewBook(doc), []studio.Recipe{*r})
		if c.broken == "" {
			assert.Empty(t, found, "a smaller flower still fits")
			continue
		}
		require.Len(t, found, 1, string(c.rule))
		assert.Equal(t, c.rule, found[0].Rule)
		assert.Equal(t, c.broken, found[0].Case)
		names := ""
		for _, f := range found[0].Working.Inputs {
			names += f.Name + " " + f.Of + ";"
		}
		assert.Contains(t, names, c.input)
		r.Silenced = []studio.Silence{{Rule: string(c.rule), Reason: "looked at"}}
		assert.Equal(t, "looked at", flower.Proportions(doc, studio.NewBook(doc), []studio.Recipe{*r})[0].Reason)
	}
}

// 44 mm wanted dry at 4 % is 45.84 mm to cut: the next larger cutter.
func TestTheCutterForADriedSize(t *testing.T) {
	assert.EqualValues(t, 45_834, flower.CutFor(44_000, 40))
	tools := demo.Document().Tools
	assert.Equal(t, "Drop cutter 46 mm", flower.CutterFor(tools, 44_000, 40).Name)
	assert.Equal(t, "Drop cutter 58 mm", flower.CutterFor(tools, 45_000, 40).Name)
	assert.Nil(t, flower.CutterFor(tools, 80_000, 40))
	doc := demo.Document()
	assert.Equal(
		t,
		[]flower.Cut{
			{
				Recipe: demo.ID("Anemone petal"),
				Paste:  0,
				Dried:  44_000,
				Length: 45_834,
				Tool:   "Drop cutter 46 mm",
				Size:   46_000,
			},
		},
		flower.Cuts(
			doc,
			[]studio.Recipe{doc.Recipes[indexOf(doc, "Anemone petal")], doc.Recipes[indexOf(doc, "Fern leaflet")]},
		),
	)
}

func BenchmarkReckon(b *testing.B) {
	doc := demo.Document()
	for b.Loop() {
		if _, err := flower.Reckon(doc, flower.Wanted{Made: studio.Made{Recipe: demo.ID("Harbour spray")}, Colours: doc.Colourways[0].Slots, Quantity: 1}); err != nil {
			b.Fatal(err)
		}
	}
}
