package methods

import (
	"fmt"
	"reflect"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/card"
	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/demo"
)

// onCard says for each field of a recipe's step and of what it takes up where a card says it: a field of
// the card of that name; "" where it is the planner's or the counter's, or names what the card calls by name.
var onCard = map[string]string{
	"Step.Key": "Key", "Step.Name": "Name", "Step.Look": "Look", "Step.Mistakes": "Mistakes",
	"Step.Cautions": "Cautions", "Step.Mend": "MayMend", "Step.Wants": "Wants", "Step.Windows": "Fresh",
	"Step.Work": "Glyph", "Step.Holds": "Lay", "Step.Wait": "", "Step.Loses": "", "Step.LosesPerMille": "",
	"Step.Gates": "",

	"Work.Glyph": "Glyph", "Work.Form": "Form", "Work.Share": "Pieces", "Work.Together": "Together",
	"Work.Tool": "Tool", "Work.Tools": "Tools", "Work.Skill": "", "Work.Also": "", "Work.Setup": "", "Work.Run": "",
	"Work.PerPiece": "", "Work.MayPause": "", "Work.Stint": "", "Work.Family": "", "Work.Slot": "",

	"ToolNeed.Tool": "Name", "ToolNeed.Number": "Number",
	"Hold.Place": "Place", "Hold.PerSlot": "PerSlot", "Hold.Share": "Pieces", "Hold.Until": "Until",
	"Hold.UntilNext": "Until", "Hold.StandIns": "",
	"Window.After": "After", "Window.AtLeast": "AtLeast", "Window.AtMost": "AtMost", "Window.From": "From",
	"Window.Before": "Before", "Window.Drying": "", "Window.Whole": "",

	"PartInput.Count": "Each", "PartInput.Least": "Least", "PartInput.Between": "Between", "PartInput.Form": "Of",
	"PartInput.Wants": "Wants", "PartInput.Rows": "Rows", "PartInput.Set": "Set", "PartInput.Join": "Join",
	"PartInput.Reversed": "Reversed", "PartInput.Sequence": "Sequence", "PartInput.At": "At",
	"PartInput.Window": "", "PartInput.Key": "", "PartInput.Step": "", "PartInput.Recipe": "Name",
	"PartInput.Variant": "", "PartInput.InRun": "", "PartInput.Sizes": "", "PartInput.Slots": "",

	"PasteInput.Shape": "Shape", "PasteInput.Number": "Each", "PasteInput.Run": "Run", "PasteInput.Where": "Where",
	"PasteInput.Key": "", "PasteInput.Step": "", "PasteInput.Slot": "Mix",

	"WireInput.Number": "Each", "WireInput.Depth": "Depth", "WireInput.Stem": "Stem",
	"WireInput.Allowance": "Allowance", "WireInput.Hook": "Hook", "WireInput.Turns": "Turns",
	"WireInput.Material": "Name", "WireInput.Key": "", "WireInput.Step": "",

	"MaterialInput.Amount": "Amount", "MaterialInput.Least": "Least", "MaterialInput.Most": "Most",
	"MaterialInput.Per": "Per", "MaterialInput.Material": "Name", "MaterialInput.OutAt": "OutAt",
	"MaterialInput.Key": "", "MaterialInput.Step": "",
}

// byName is what a card calls by its name, or in numbers of the lot.
var byName = []string{"Name", "Until", "After", "OutAt", "Pieces", "Mix", "Place"}

// says requires of each field that a recipe fills that the card fills the one for it, and with the same where
// both are of one type.
func says(t *testing.T, of string, recipe, shown any) {
	from, to := reflect.Indirect(reflect.ValueOf(recipe)), reflect.Indirect(reflect.ValueOf(shown))
	for i := range from.NumField() {
		field := from.Type().Field(i)
		if !field.IsExported() {
			continue
		}
		name := from.Type().Name() + "." + field.Name
		as, known := onCard[name]
		require.True(t, known, "%s is new: say in this test where a card says it", name)
		if as == "" || from.Field(i).IsZero() {
			continue
		}
		on := to.FieldByName(as)
		require.True(t, on.IsValid(), "%s: a card has no %s", name, as)
		if assert.False(t, on.IsZero(), "%s: the card does not say %s", of, name) && on.Type() == from.Field(i).Type() &&
			!slices.Contains(byName, as) {
			assert.Equal(t, from.Field(i).Interface(), on.Interface(), "%s: %s", of, name)
		}
	}
}

// cards compares the card of each task of a plan with its recipe, and counts the steps compared.
func cards(t *testing.T, r run) (compared int) {
	activities := r.instance.Activities()
	planned := func(id studio.ID) *studio.Task {
		if i := slices.IndexFunc(r.plan.Tasks, func(t studio.Task) bool { return t.ID == id }); i >= 0 {
			return &r.plan.Tasks[i]
		}
		return nil
	}
	for i := range r.plan.Tasks {
		task := &r.plan.Tasks[i]
		at := slices.IndexFunc(r.plan.Lots, func(l studio.Lot) bool { return l.ID == task.Lot })
		lot, a := r.plan.Lots[at], activities[task.ID]
		recipe := r.book.Of(lot.Made())
		step, first, past, _ := recipe.TaskOf(task.Step)
		if step.Work == nil || task.State == studio.TaskDone {
			continue
		}
		c := card.Of(r.doc, r.book, &lot, task, planned, a)
		if _, mends := studio.MendedStep(task.Step); mends {
			continue
		}
		require.Len(t, c.Steps, past-first, "%s of %s", task.Step, recipe.Name)
		for n, s := range recipe.Steps[first:past] {
			of, shown := fmt.Sprintf("%s, %s", recipe.Name, s.Name), c.Steps[n]
			says(t, of, s, shown)
			says(t, of, *s.Work, shown)
			assert.Equal(t, recipe.Shared(s.Work, shown.Of), shown.Pieces, of)
			assert.LessOrEqual(t, shown.Of, shown.All, of)
			if past-first == 1 && recipe.Kind != studio.KindMix && task.State == studio.TaskPlanned {
				assert.Equal(t, recipe.At(s.Key, lot.Alive), shown.All, of)
			}
			each(t, of, s.Work.Tools, shown.Tools)
			each(t, of, s.Holds, shown.Lay)
			each(t, of, s.Windows, shown.Fresh[:len(s.Windows)])
			each(t, of, takenAt(recipe.Parts, s, func(p studio.PartInput) string { return p.Step }), shown.Parts)
			each(t, of, takenAt(recipe.Pastes, s, func(p studio.PasteInput) string { return p.Step }), shown.Pastes)
			each(t, of, takenAt(recipe.Wires, s, func(w studio.WireInput) string { return w.Step }), shown.Wires)
			each(t, of, takenAt(recipe.Materials, s, func(m studio.MaterialInput) string { return m.Step }), shown.Materials)
			assert.Len(t, shown.Out, len(takenAt(recipe.Materials, s,
				func(m studio.MaterialInput) string { return m.OutAt })), of)
			for _, p := range shown.Pastes {
				assert.Equal(t, p.Mass*studio.Milligrams(p.Each*shown.All), p.All, of)
			}
			for _, w := range shown.Wires {
				assert.Equal(t, w.Depth+w.Stem+w.Allowance, w.Length, of)
				assert.Equal(t, w.Each*shown.All, w.All, of)
			}
			compared++
		}
		assert.Equal(t, past < len(recipe.Steps), len(c.Then) > 0, "%s: what follows is said", recipe.Name)
	}
	return compared
}

// each compares what a step takes up, one by one.
func each[A, B any](t *testing.T, of string, recipe []A, shown []B) {
	if assert.Len(t, shown, len(recipe), of) {
		for i := range recipe {
			says(t, of, recipe[i], shown[i])
		}
	}
}

// takenAt are the inputs of a step.
func takenAt[T any](all []T, s studio.Step, step func(T) string) (here []T) {
	for _, in := range all {
		if step(in) == s.Key {
			here = append(here, in)
		}
	}
	return here
}

func TestACardSaysAllThatARecipeSays(t *testing.T) {
	for _, m := range slices.Concat(daisies(), peonies(), roses(), others()) {
		t.Run(m.row+" "+m.name, func(t *testing.T) {
			r, ok := through(t, m.document())
			require.True(t, ok)
			assert.Positive(t, cards(t, r))
		})
	}
	t.Run("the demo", func(t *testing.T) {
		doc := demo.AtWork()
		counted, err := count.Up(doc)
		require.NoError(t, err)
		p, err := plan.Make(doc, counted, plan.Options{})
		require.NoError(t, err)
		book := studio.NewBook(doc)
		r := run{doc, book, counted, studio.Route(doc, book, counted.Lots, counted.Links, counted.Pegs), p}
		assert.Greater(t, cards(t, r), 100)
	})
}
