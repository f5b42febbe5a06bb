package studio_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/demo"
)

// What cannot be wanted is refused at its place, with what would be right.
func TestStatesThatCannotBeAreSaid(t *testing.T) {
	for _, c := range []struct {
		says  string
		spoil func(petal, flower *studio.Recipe)
	}{
		{`steps[0] "Roll, cut and thin".wants: is "wet"; soft, firm, dry or any would be right`,
			func(petal, _ *studio.Recipe) { petal.Steps[0].Wants = "wet" }},
		{`wants: is dry, and nothing dries "Ranunculus outer petal" before`,
			func(petal, _ *studio.Recipe) { petal.Steps[0].Wants = studio.WantsDry }},
		{`.wants: is of a wait; only work wants a piece in a state`,
			func(_, flower *studio.Recipe) {
				for i := range flower.Steps {
					if flower.Steps[i].Wait != nil {
						flower.Steps[i].Wants = studio.WantsSoft
					}
				}
			}},
		{`dries.class: no drying class "glass"`,
			func(petal, _ *studio.Recipe) { petal.Dries = &studio.Drying{Class: "glass", Thickness: 500} }},
		{`wants: is soft, and nothing says how fast "Ranunculus outer petal" dries`,
			func(petal, _ *studio.Recipe) {
				petal.Steps[0].Wants = studio.WantsSoft
				petal.Steps = petal.Steps[:1]
				petal.Steps[0].Holds, petal.Steps[0].Windows = nil, nil
			}},
	} {
		doc := demo.Document()
		c.spoil(recipe(doc, "Ranunculus outer petal"), recipe(doc, "Ranunculus"))
		assert.ErrorContains(t, doc.Validate(), c.says)
	}
}

func recipe(doc *studio.Document, name string) *studio.Recipe {
	for i := range doc.Recipes {
		if doc.Recipes[i].Name == name {
			return &doc.Recipes[i]
		}
	}
	return nil
}

// A piece goes by its paste at its own thickness, from when it is cut; a soft store holds it,
// and lets it go where it is taken out.
func TestSoftnessBeginsWhereASoftStoreEnds(t *testing.T) {
	step := func(key string, holds ...studio.Hold) studio.Step {
		return studio.Step{Key: key, Work: &studio.Work{Glyph: "thin"}, Holds: holds}
	}
	sleeve := func(place studio.ID) bool { return place == "sleeve" }
	r := &studio.Recipe{
		Dries:  &studio.Drying{Class: "petal", Thickness: 800},
		Pastes: []studio.PasteInput{{Step: "cut", Slot: "petal", Shape: studio.Sheet(30_000, 20_000, 500, 785)}},
		Steps:  []studio.Step{step("roll"), step("cut"), step("thin"), step("vein"), step("cup")},
	}
	s, ok := r.Softness(4, sleeve)
	require.True(t, ok)
	assert.Equal(t, 1, s.From)
	assert.EqualValues(t, 500, s.Thickness)
	assert.Equal(t, "petal", s.Slot)

	r.Steps[1].Holds = []studio.Hold{{Place: "sleeve", PerSlot: 10, Until: "vein"}}
	_, ok = r.Softness(3, sleeve)
	assert.False(t, ok, "it lies in the sleeve")
	s, _ = r.Softness(4, sleeve)
	assert.Equal(t, 3, s.From, "from when veining takes it out")
	_, ok = (&studio.Recipe{Steps: r.Steps}).Softness(4, sleeve)
	assert.False(t, ok, "nothing says how it dries")
}

// Ten pieces are cut in 12 minutes from 100 on, 2 of them setup, and shaped in 20 minutes from
// 112 on, with a pause from 120 to 150: the fifth has waited for 43.
func TestAPassageOfTheFormatPage(t *testing.T) {
	cut := studio.Passage{Start: 100, Setup: 2, Rest: 10, Pieces: 10}
	shape := studio.Passage{Start: 112, Rest: 20, Pieces: 10, Pauses: []studio.Span{{From: 120, To: 150}}}
	assert.EqualValues(t, 103, cut.Done(1))
	assert.EqualValues(t, 112, cut.Done(10))
	assert.EqualValues(t, 150, shape.Takes(4))
	assert.EqualValues(t, 120, shape.Done(4))
	after := func(minutes studio.Minute) func(studio.Minute) studio.Minute {
		return func(done studio.Minute) studio.Minute { return done + minutes }
	}
	assert.EqualValues(t, 1, cut.Latest(&shape, after(47)), "the tenth waits from 112 to 160, the longest")
	assert.Zero(t, cut.Latest(&shape, after(48)))
}
