package studio_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/demo"
)

// built is the demo with magnolias whose outer petals are made in the run, from cut to wired.
func built(t *testing.T) (doc *studio.Document, magnolia, petal *studio.Recipe) {
	doc = demo.Document()
	magnolia, petal = recipe(doc, "Magnolia"), recipe(doc, "Magnolia outer petal")
	petal.Steps = petal.Steps[:petal.OutputStep()+1]
	var worked []studio.Step
	for _, s := range petal.Steps {
		if s.Work != nil {
			s.Windows, s.Holds = nil, nil
			worked = append(worked, s)
		}
	}
	petal.Steps = worked
	for i := range magnolia.Parts {
		magnolia.Parts[i].InRun = magnolia.Parts[i].Recipe == petal.ID
	}
	require.Empty(t, doc.Validate())
	return doc, magnolia, petal
}

// What a part takes that is made in the run is taken by what it goes into, as often as there
// are pieces, and a piece for each that is expected to break.
func TestAPartMadeInTheRunBelongsToWhatItGoesInto(t *testing.T) {
	doc, magnolia, petal := built(t)
	book := studio.NewBook(doc)
	made := book.Recipe(magnolia.ID)
	require.Len(t, made.Parts, len(magnolia.Parts)-1)
	require.Len(t, made.Steps, len(magnolia.Steps)+len(petal.Steps))

	first, past := made.Task(0)
	assert.Equal(t, 0, first)
	assert.Equal(t, len(petal.Steps)+1, past, "one task with the step that takes it up")
	key := made.Steps[0].Key
	assert.EqualValues(t, 10, made.Passing(0, 10), "magnolias pass through it")
	kept := 0.92 * (1 - 0.015/10)
	assert.InDelta(t, 60/kept, made.At(key, 10), 1)

	step, _, _, _ := made.TaskOf(key)
	assert.Equal(t, magnolia.Steps[0].Name, step.Name)
	var wired int64
	for _, w := range made.Wires {
		if w.Material == petal.Wires[0].Material && w.Step != magnolia.Steps[0].Key {
			wired += w.Number * made.At(w.Step, 1)
		}
	}
	assert.EqualValues(t, 7, wired, "six wires, and one for what breaks")
	assert.Contains(t, book.Slots(studio.Made{Recipe: magnolia.ID}), petal.Pastes[0].Slot)

	magnolia.Parts[2].Slots = map[string]string{petal.Pastes[0].Slot: "deep"}
	slots := map[string]bool{}
	for _, p := range studio.NewBook(doc).Recipe(magnolia.ID).Pastes {
		slots[p.Slot] = true
	}
	assert.True(t, slots["deep"], "in the colour that the magnolia gives it")
}

// A fixed number of spares is made once a lot, in its first run.
func TestAFixedNumberOfSparesIsMadeInTheFirstRun(t *testing.T) {
	doc, magnolia, petal := built(t)
	petal.Spares = studio.Spares{Rule: studio.SparesByNumber, Number: 2}
	made := studio.NewBook(doc).Recipe(magnolia.ID)
	cut, perFlower := made.Steps[0].Key, magnolia.Parts[2].Count
	require.Equal(t, petal.ID, magnolia.Parts[2].Recipe)
	assert.Equal(t, 10*perFlower+2, made.At(cut, 10))
	assert.Zero(t, made.At(cut, 0))

	magnolia.Steps[0].Work.Run = 4
	lot := studio.Lot{ID: "m", Recipe: magnolia.ID, Started: 10, Alive: 10}
	var cutIn []int64 // run after run
	for _, e := range studio.Tasks(doc, studio.NewBook(doc), []studio.Lot{lot}, nil).Lots[0].Tasks[0].Work {
		if e.Run == len(cutIn) {
			cutIn = append(cutIn, e.Pieces)
		}
	}
	assert.Equal(t, []int64{4*perFlower + 2, 4 * perFlower, 2 * perFlower}, cutIn)
}

// A recipe that is being written may make itself in its run, twice even.
func TestWhatIsMadeInItsOwnRunEnds(t *testing.T) {
	doc, magnolia, _ := built(t)
	for range 2 {
		magnolia.Parts = append(magnolia.Parts,
			studio.PartInput{Step: magnolia.Steps[0].Key, Recipe: magnolia.ID, Count: 2, InRun: true})
	}
	assert.NotNil(t, studio.NewBook(doc).Recipe(magnolia.ID))
}

func TestWhatCannotBeMadeInTheRunIsSaid(t *testing.T) {
	doc, _, petal := built(t)
	petal.Forms = []studio.Form{{Name: "left", Share: 500}}
	recipe(doc, "Magnolia").Parts[2].Form = "left"
	assert.ErrorContains(t, doc.Validate(), "only a lot has forms")

	doc, _, petal = built(t)
	petal.Steps = append(petal.Steps[:1:1], studio.Step{Key: "set", Name: "Set", Wait: &studio.Wait{Minutes: 20}},
		studio.Step{Key: "cup", Name: "Cup", Work: petal.Steps[0].Work})
	assert.ErrorContains(t, doc.Validate(), `waits at "Set" before it is taken up, and nothing waits within a run`)
}

// A run asks for all skills of one maker.
func TestSkillsThatNobodyHasTogetherAreFound(t *testing.T) {
	doc, magnolia, petal := built(t)
	petal.Steps[0].Work.Skill = "shaping"
	people := []studio.Person{{Skills: []studio.Skill{{Skill: "assembly", Pace: 100}, {Skill: "dusting", Pace: 100}}},
		{Skills: []studio.Skill{{Skill: "shaping", Pace: 100}, {Skill: "wiring", Pace: 100}}}}
	beyond := studio.NewBook(doc).Recipe(magnolia.ID).Beyond(people)
	require.Len(t, beyond, 1)
	assert.Subset(t, beyond[0].Skills, []string{"assembly", "shaping"})
	people[0].Skills = append(people[0].Skills, people[1].Skills...)
	assert.Empty(t, studio.NewBook(doc).Recipe(magnolia.ID).Beyond(people))
}

// In version 1 a yield in the midst of a stint counted from the next task on.
func TestAYieldWithinAStintOfVersionOneMeansWhatItMeant(t *testing.T) {
	work := func(key string) studio.Step {
		return studio.Step{Key: key, Work: &studio.Work{Skill: "all", PerPiece: 1000, Stint: "petals"}}
	}
	r := studio.Recipe{Kind: studio.KindPart, Steps: []studio.Step{work("cut"), work("halve"), work("lay")},
		Yield: &studio.Yield{Step: "halve", Gives: 2}}
	assert.EqualValues(t, 96, r.Pieces(2, 96))
	r.Lift(1)
	assert.EqualValues(t, 48, r.Pieces(2, 96))
	assert.Equal(t, "lay", r.Yield.Step)
}

// Petals in three sizes are one recipe; a flower that takes all sizes takes as many of each as
// the table says, each cut to its own size on its own wire.
func TestAPartInSeveralSizesIsOneTable(t *testing.T) {
	doc := demo.Document()
	magnolia, petal := recipe(doc, "Magnolia"), recipe(doc, "Magnolia outer petal")
	own := petal.Pastes[0].Shape
	row := func(name string, count, length int64) studio.Size {
		shape := own
		shape.Length, shape.Dried = studio.Micrometres(length), 0
		return studio.Size{
			Name:  name,
			Count: count,
			Shape: shape,
			Stem:  studio.Micrometres(length),
			Tool:  "cutter " + name,
		}
	}
	petal.Sizes = []studio.Size{row("small", 3, 40_000), row("middle", 4, 50_000), row("large", 5, 60_000)}
	magnolia.Parts[2].Sizes, magnolia.Parts[2].Rows, magnolia.Parts[2].Count = true, nil, 1
	require.Empty(t, doc.Validate())

	book := studio.NewBook(doc)
	made := book.Recipe(magnolia.ID)
	require.Len(t, made.Parts, 5)
	for i, p := range made.Parts[2:] {
		size := petal.Sizes[i]
		assert.Equal(t, []any{size.Name, size.Count}, []any{p.Variant, p.Count})
		as := book.Of(p.Made())
		assert.Equal(t, size.Shape, as.Pastes[0].Shape)
		assert.Equal(t, size.Stem, as.Wires[0].Stem)
		assert.Equal(t, "Magnolia outer petal, "+size.Name, as.Name)
	}

	petal.Sizes[1].Tool, petal.Sizes[2].Name = "", "small"
	assert.ErrorContains(t, doc.Validate(), `sizes[1].tool: is said of some sizes and not of others`)
	assert.ErrorContains(t, doc.Validate(), `sizes[2].name: "small" is empty, or used twice`)
	petal.Sizes = nil
	assert.ErrorContains(t, doc.Validate(), "a part with a table of sizes")
}
