package check_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

// bench is the demo, one lot of it begun, with a plan that holds.
func bench(t *testing.T) (*studio.Document, *studio.Plan) {
	doc := demo.Document()
	first, err := count.Up(doc)
	require.NoError(t, err)
	for _, lot := range first.Lots {
		if lot.Recipe == demo.ID("Magnolia inner petal") {
			doc.Work = []studio.WorkLot{{ID: lot.ID, Recipe: lot.Recipe, Mixes: lot.Mixes, Ordinal: lot.Ordinal, Need: lot.Need, Started: lot.Started,
				Records: []studio.TaskRecord{{Step: "cut", State: studio.TaskDone, Person: demo.ID("Teun"), Start: doc.Now - 60, End: doc.Now - 10, Good: lot.Started}}}}
			break
		}
	}
	counted, err := count.Up(doc)
	require.NoError(t, err)
	p, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	require.Empty(t, check.Plan(doc, p))
	data, err := json.Marshal(p) // a copy that shares nothing with the count
	require.NoError(t, err)
	var own studio.Plan
	require.NoError(t, json.Unmarshal(data, &own))
	return doc, &own
}

func task(p *studio.Plan, wanted func(studio.Task) bool) *studio.Task {
	for i := range p.Tasks {
		if wanted(p.Tasks[i]) {
			return &p.Tasks[i]
		}
	}
	panic("no such task in the plan")
}

func step(key string) func(studio.Task) bool {
	return func(t studio.Task) bool { return t.Step == key && t.State == studio.TaskPlanned }
}

// move shifts a task with what it holds.
func move(t *studio.Task, by studio.Minute) {
	t.Start, t.End = t.Start+by, t.End+by
}

// Each case takes a plan that holds and breaks one rule; the checker names it.
func TestEveryRuleIsChecked(t *testing.T) {
	for _, c := range []struct {
		code  check.Code
		spoil func(*studio.Document, *studio.Plan)
	}{
		{check.UnknownThing, func(_ *studio.Document, p *studio.Plan) { p.Tasks[0].Lot = "nowhere" }},
		{check.UnknownThing, func(_ *studio.Document, p *studio.Plan) { p.Now++ }},
		{check.UnknownThing, func(_ *studio.Document, p *studio.Plan) { task(p, step("tape")).Person = "" }},
		{check.MissingTask, func(_ *studio.Document, p *studio.Plan) { p.Tasks = p.Tasks[:len(p.Tasks)-1] }},
		{check.OrderShort, func(d *studio.Document, _ *studio.Plan) { d.Orders[0].Lines[0].Quantity++ }},
		{check.InputShort, func(_ *studio.Document, p *studio.Plan) {
			for i := range p.Links {
				if p.Links[i].Step == "tape" {
					p.Links[i].Quantity--
					return
				}
			}
		}},
		{check.InputShort, func(d *studio.Document, p *studio.Plan) {
			var kept []studio.Link
			for _, k := range p.Links {
				if k.Recipe != demo.ID("Slate leaf") {
					kept = append(kept, k)
				}
			}
			p.Links = kept
		}},
		{check.LotOverdrawn, func(d *studio.Document, p *studio.Plan) { d.Shelf[0].Amount = 1 }},
		{check.BeforeNow, func(d *studio.Document, p *studio.Plan) {
			first := task(p, func(t studio.Task) bool { return t.Begin() == d.Now && t.Person != "" })
			move(first, -5)
		}},
		{check.WrongDuration, func(_ *studio.Document, p *studio.Plan) { task(p, step("centre")).End++ }},
		{check.WrongDuration, func(_ *studio.Document, p *studio.Plan) { task(p, step("tape")).Pieces-- }},
		{check.NoSkill, func(_ *studio.Document, p *studio.Plan) { task(p, step("knead")).Person = demo.ID("Brisa") }},
		{check.OutsideHours, func(_ *studio.Document, p *studio.Plan) { move(task(p, step("steam")), 12*60) }},
		{check.Interrupted, func(d *studio.Document, p *studio.Plan) {
			cut := task(p, func(t studio.Task) bool { return len(t.Pauses) > 0 })
			for i := range d.Recipes {
				if s, at := d.Recipes[i].Step(cut.Step); at >= 0 && s.Work != nil {
					s.Work.MayPause = false
				}
			}
		}},
		{check.TwoAtOnce, func(_ *studio.Document, p *studio.Plan) {
			a := task(p, step("pull"))
			b := task(p, func(t studio.Task) bool { return t.Person == a.Person && t.Begin() == a.End })
			move(b, -1)
		}},
		{check.StepOrder, func(_ *studio.Document, p *studio.Plan) {
			wire := task(p, step("wire"))
			cut := task(p, func(t studio.Task) bool { return t.Lot == wire.Lot && t.Step == "cut" })
			move(wire, cut.Start-wire.Start)
		}},
		{check.TooEarly, func(d *studio.Document, p *studio.Plan) {
			tape := task(p, func(t studio.Task) bool { return t.Step == "tape" && t.Cause == studio.CauseInput })
			move(tape, -1)
		}},
		{check.WrongWait, func(_ *studio.Document, p *studio.Plan) { task(p, step("dry")).End-- }},
		{check.WaitNotAtOnce, func(_ *studio.Document, p *studio.Plan) { task(p, step("dry")).Start++ }},
		{check.WrongHold, func(_ *studio.Document, p *studio.Plan) { task(p, step("form")).Holds[0].Slots-- }},
		{check.PlaceOverfull, func(d *studio.Document, p *studio.Plan) {
			for i := range d.Places {
				if d.Places[i].Name == "Half-sphere mould 60 mm" {
					d.Places[i].Slots = 20
				}
			}
		}},
		{check.FactChanged, func(_ *studio.Document, p *studio.Plan) {
			task(p, func(t studio.Task) bool { return t.State == studio.TaskDone }).Person = demo.ID("Odalys")
		}},
		{check.FactChanged, func(_ *studio.Document, p *studio.Plan) { task(p, step("tape")).State = studio.TaskDone }},
		{check.OutcomeWrong, func(_ *studio.Document, p *studio.Plan) { *p.Orders[0].Ready -= 60 }},
		{check.OutcomeWrong, func(_ *studio.Document, p *studio.Plan) { *p.Orders[2].Slack += 60 }},
		{check.ObjectiveWrong, func(_ *studio.Document, p *studio.Plan) { p.Lateness++ }},
	} {
		t.Run(string(c.code), func(t *testing.T) {
			doc, p := bench(t)
			c.spoil(doc, p)
			var codes []check.Code
			for _, b := range check.Plan(doc, p) {
				codes = append(codes, b.Code)
			}
			assert.Contains(t, codes, c.code)
		})
	}
}

// Any planned task moved by any amount breaks some rule, or stays within slack
// that the plan left; the checker never panics, and never calls a wait that was
// cut short or work out of hours right.
func TestMovedTasksAreNoticed(t *testing.T) {
	doc, _ := bench(t)
	rapid.Check(t, func(t *rapid.T) {
		counted, err := count.Up(doc)
		require.NoError(t, err)
		p, err := plan.Make(doc, counted, plan.Options{})
		require.NoError(t, err)
		i := rapid.IntRange(0, len(p.Tasks)-1).Draw(t, "task")
		by := studio.Minute(rapid.Int64Range(1, 2000).Draw(t, "by"))
		spoilt := &p.Tasks[i]
		if spoilt.Person == "" {
			spoilt.End -= min(by, spoilt.End-spoilt.Start)
			if spoilt.End == spoilt.Start {
				spoilt.End--
			}
			require.NotEmpty(t, check.Plan(doc, p), "a wait cut short")
			return
		}
		spoilt.End += by
		require.NotEmpty(t, check.Plan(doc, p), "work that takes longer than it does")
	})
}

func TestAPlanForAnotherDocumentIsNoPlan(t *testing.T) {
	doc, p := bench(t)
	doc.Orders[1].Lines[0].Colourway = demo.ID("Oyster")
	breaches := check.Plan(doc, p)
	require.Len(t, breaches, 1)
	assert.Equal(t, check.OrderShort, breaches[0].Code, "what was pegged has another colour")
	doc.Recipes = doc.Recipes[1:]
	assert.NotEmpty(t, check.Plan(doc, p))
}
