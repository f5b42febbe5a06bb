package check_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/plan/check"
	"bractum/core/studio"
)

// Each case takes a plan that holds and breaks one rule.
var spoilt = []struct {
	name  string
	code  check.Code
	set   func(*studio.Document)
	spoil func(*studio.Document, *studio.Plan)
}{
	{"made at another moment", check.UnknownThing, none, func(_ *studio.Document, p *studio.Plan) { p.Now++ }},
	{
		"a task of another lot",
		check.UnknownThing,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "wire").Lot = "cones" },
	},
	{
		"work of nobody",
		check.UnknownThing,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "wire").Person = "" },
	},
	{
		"a wait of somebody",
		check.UnknownThing,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "set").Person = "teun" },
	},
	{
		"a task that ends before it begins",
		check.UnknownThing,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "wire").End = at(p, "wire").Start - 1 },
	},
	{
		"unplaced and no task",
		check.UnknownThing,
		none,
		func(_ *studio.Document, p *studio.Plan) { p.Unplaced = []studio.Unplaced{{Task: "glue"}} },
	},
	{
		"neither planned nor unplaced",
		check.MissingTask,
		none,
		func(_ *studio.Document, p *studio.Plan) { without(p, "shade") },
	},
	{"planned and unplaced", check.MissingTask, none, func(_ *studio.Document, p *studio.Plan) {
		p.Unplaced = []studio.Unplaced{{Task: "shade"}}
	}},
	{"after something unplaced", check.AfterUnplaced, none, func(_ *studio.Document, p *studio.Plan) {
		without(p, "tape")
		p.Unplaced = []studio.Unplaced{{Task: "tape"}}
	}},
	{
		"fed by something unplaced",
		check.AfterUnplaced,
		func(d *studio.Document) { activity(d, "shade").Setup = nil },
		func(_ *studio.Document, p *studio.Plan) {
			without(p, "dust")
			p.Unplaced = []studio.Unplaced{{Task: "dust"}}
		},
	},
	{
		"what was done is done otherwise",
		check.FactChanged,
		func(d *studio.Document) { done(d, "teun", 400, 470, "cut") },
		func(_ *studio.Document, p *studio.Plan) { at(p, "cut").Person = "odalys" },
	},
	{
		"what was done is unplaced",
		check.FactChanged,
		func(d *studio.Document) { done(d, "maren", 400, 470, "roll") },
		func(_ *studio.Document, p *studio.Plan) {
			without(p, "roll")
			p.Unplaced = []studio.Unplaced{{Task: "roll"}}
		},
	},
	{
		"said to be done",
		check.FactChanged,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "wire").State = studio.TaskDone },
	},
	{"begun by another", check.FactChanged, func(d *studio.Document) {
		petals(d)
		activity(d, "cut").Fact = &studio.Fact{State: studio.TaskStarted, Person: "teun", Start: 470}
	}, func(_ *studio.Document, p *studio.Plan) {
		c := at(p, "cut")
		c.Person, c.End = "odalys", *c.Resume+60
		later(p, 12)
	}},
	{"moved from its pin", check.PinMoved, func(d *studio.Document) {
		start := studio.Minute(780)
		d.Pins = []studio.Pin{{Task: "tape", Start: &start}}
	}, func(_ *studio.Document, p *studio.Plan) {
		shift(at(p, "tape"), 5)
		shift(at(p, "shade"), 5)
	}},
	{
		"not who it is pinned to",
		check.PinMoved,
		func(d *studio.Document) { d.Pins = []studio.Pin{{Task: "roll", Person: "odalys"}} },
		func(_ *studio.Document, p *studio.Plan) {
			r := at(p, "roll")
			r.Person, r.Start = "teun", r.End-32
		},
	},
	{"before now", check.BeforeNow, petals, func(_ *studio.Document, p *studio.Plan) {
		shift(at(p, "cut"), -1)
		at(p, "cut").Holds[0].From--
		shift(at(p, "set"), -1)
	}},
	{"before its gate opens", check.GateShut, none, func(d *studio.Document, p *studio.Plan) {
		opens := at(p, "tape").Start + 1
		d.Gates[0].Opens = &opens
	}},
	{
		"before a gate without a date",
		check.GateShut,
		none,
		func(d *studio.Document, _ *studio.Plan) { d.Gates[0].Opens = nil },
	},
	{"too long", check.WrongDuration, none, func(_ *studio.Document, p *studio.Plan) { at(p, "shade").End++ }},
	{"too short", check.WrongDuration, none, func(_ *studio.Document, p *studio.Plan) { at(p, "shade").End-- }},
	{
		"of too few pieces",
		check.WrongDuration,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "shade").Pieces-- },
	},
	{
		"by somebody without the skill",
		check.NoSkill,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "wire").Person = "maren" },
	},
	{"begun in a break", check.OutsideHours, none, func(_ *studio.Document, p *studio.Plan) {
		s := at(p, "shade")
		s.Start, s.End = 1030, 1059
	}},
	{"overtime that is not allowed", check.OutsideHours, none, func(_ *studio.Document, p *studio.Plan) {
		s := at(p, "shade")
		s.Start, s.End, s.Overtime = 1020, 1049, true
	}},
	{
		"on into the evening, without saying overtime",
		check.OutsideHours,
		func(d *studio.Document) { activity(d, "cut").Holds = nil },
		func(_ *studio.Document, p *studio.Plan) {
			tape, s, w := at(p, "tape"), at(p, "shade"), at(p, "wire")
			w.Start, w.End = 1030, 1066
			*tape = studio.Task{
				ID:     "tape",
				Lot:    "flowers",
				Step:   "tape",
				State:  studio.TaskPlanned,
				Person: "odalys",
				Start:  1920,
				End:    2070,
				Pieces: 12,
			}
			s.Start, s.End = 2070, 2099
		},
	},
	{"over a break it may not pause in", check.Interrupted, none, func(_ *studio.Document, p *studio.Plan) {
		s := at(p, "shade")
		s.Start, s.End, s.Pauses = 1010, 1939, []studio.Span{{From: 1020, To: 1920}}
	}},
	{"a pause in working time", check.Interrupted, none, func(_ *studio.Document, p *studio.Plan) {
		tape, s := at(p, "tape"), at(p, "shade")
		tape.Start, tape.End, tape.Pauses = 780, 940, []studio.Span{{From: 800, To: 810}}
		s.Start, s.End = 940, 969
	}},
	{"two at once", check.TwoAtOnce, func(d *studio.Document) {
		d.Direct.Lots = append(
			d.Direct.Lots,
			studio.Routing{
				ID:    "boxes",
				Tasks: []studio.Activity{{ID: "box", Work: []studio.Effort{{Skill: "assembly", Minutes: 30}}}},
			},
		)
	}, func(_ *studio.Document, p *studio.Plan) {
		b := at(p, "box")
		b.Start, b.End = at(p, "tape").Start, at(p, "tape").Start+30
	}},
	{"before the step ahead of it", check.StepOrder, none, func(_ *studio.Document, p *studio.Plan) {
		s := at(p, "shade")
		s.Start = at(p, "tape").End - 1
		s.End = s.Start + 29
	}},
	{"before its input is there long enough", check.TooEarly, none, func(d *studio.Document, p *studio.Plan) {
		d.Direct.Links[1].Least.Minutes = at(p, "tape").Start - at(p, "dust").End + 1
	}},
	{"after its window has closed", check.TooLate, none, func(d *studio.Document, p *studio.Plan) {
		tape, s := at(p, "tape"), at(p, "shade")
		tape.Start, tape.End, tape.Pauses, s.Start, s.End = 780, 930, nil, 930, 959
		d.Direct.Links[0].Most.Minutes = 780 - at(p, "wire").End - 1
	}},
	{"overdue, which it is not", check.OverdueUnsaid, none, func(d *studio.Document, p *studio.Plan) {
		at(p, "tape").Overdue = 5
	}},
	{"a piece waits too long inside a run", check.TooLate, func(d *studio.Document) {
		roll := activity(d, "roll") // ten pieces, two minutes each; the last waits as long as the first
		roll.MayPause = false
		roll.Work = []studio.Effort{
			{Skill: "shaping", Minutes: 20, Pieces: 10},
			{Skill: "shaping", Minutes: 20, Pieces: 10},
		}
		roll.Within = []studio.Within{{From: 0, To: 1, Most: studio.Length{Minutes: 18}}}
	}, func(d *studio.Document, _ *studio.Plan) {
		activity(d, "roll").Within[0].Most.Minutes = 17 - 3 // at Teun's pace they wait for 14.4
	}},
	{"longer than what is done first in it may wait", check.TooLate, none, func(d *studio.Document, p *studio.Plan) {
		d.Direct.Links[0].From, d.Direct.Links[0].To, d.Direct.Links[0].Most.Minutes = "tape", "shade", 100
	}},
	{"a wait with a setup", check.WrongWait, none, func(_ *studio.Document, p *studio.Plan) { at(p, "set").Setup = 3 }},
	{"a wait of other pieces", check.WrongDuration, none, func(_ *studio.Document, p *studio.Plan) {
		at(p, "set").Pieces++
	}},
	{"a wait that is over before it is", check.FactChanged, none, func(_ *studio.Document, p *studio.Plan) {
		at(p, "set").State = studio.TaskDone
	}},
	{"unplaced twice", check.UnknownThing, func(d *studio.Document) {
		cut := activity(d, "cut")
		cut.Work[0].Skill = "gilding"
	}, func(_ *studio.Document, p *studio.Plan) { p.Unplaced = append(p.Unplaced, p.Unplaced[0]) }},
	{
		"a wait cut short",
		check.WrongWait,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "set").End = at(p, "set").Start + 29 },
	},
	{
		"a wait neither least nor wished for",
		check.WrongWait,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "set").End = at(p, "set").Start + 31 },
	},
	{
		"a load longer than its longest",
		check.WrongWait,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "bake").End-- },
	},
	{
		"a wait begun later",
		check.WaitNotAtOnce,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "set").Start++ },
	},
	{
		"a hold of too few slots",
		check.WrongHold,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "cut").Holds[0].Slots-- },
	},
	{
		"a hold given up too soon",
		check.WrongHold,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "cut").Holds[0].To-- },
	},
	{
		"more than a place holds",
		check.PlaceOverfull,
		none,
		func(d *studio.Document, _ *studio.Plan) { d.Places[0].Slots = 1 },
	},
	{"longer than a soft store keeps", check.KeptTooLong, none, func(d *studio.Document, p *studio.Plan) {
		d.Places[0].KeepsMinutes = at(p, "wire").End - at(p, "cut").Start - 1
	}},
	{"without its tool", check.WrongTool, none, func(_ *studio.Document, p *studio.Plan) { at(p, "cut").Tools = nil }},
	{
		"with another tool",
		check.WrongTool,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "cut").Tools[0] = "steamer" },
	},
	{"two at one veiner", check.ToolOverused, none, func(d *studio.Document, p *studio.Plan) {
		activity(d, "wire").Tools = []studio.ToolUse{{AnyOf: []studio.ID{"veiner"}, Number: 2}}
		at(p, "wire").Tools = []studio.ID{"veiner"}
	}},
	{
		"in another machine",
		check.WrongLoad,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "bake").Load.Machine = "oven" },
	},
	{
		"at another setting",
		check.WrongLoad,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "bake").Load.Setting = "60 °C" },
	},
	{"work in a machine", check.WrongLoad, none, func(_ *studio.Document, p *studio.Plan) {
		at(p, "wire").Load = &studio.Share{Machine: "oven", Setting: "60 °C", Slots: 1}
	}},
	{"a load set off when nobody is there", check.WrongLoad, none, func(_ *studio.Document, p *studio.Plan) {
		b, u, tape, s := at(p, "bake"), at(p, "dust"), at(p, "tape"), at(p, "shade")
		b.Start, b.End, u.Start, u.End = 730, 790, 790, 819
		tape.Start, tape.End, tape.Pauses = 830, 980, nil
		s.Start, s.End = 980, 1009
	}},
	{"a load that is not shared to the end", check.WrongLoad, baking, func(_ *studio.Document, p *studio.Plan) {
		together(p)
		at(p, "bake").End -= 5
	}},
	{"into a machine that runs", check.MachineOverful, baking, func(_ *studio.Document, p *studio.Plan) {
		together(p)
		b := at(p, "bake buds")
		b.Start, b.End = b.Start+30, b.End+30
		at(p, "bake").End -= 15
	}},
	{"more than a machine holds", check.MachineOverful, baking, func(d *studio.Document, p *studio.Plan) {
		together(p)
		d.Machines[0].Slots = 3
	}},
	{"into a load that was closed", check.WrongLoad, func(d *studio.Document) {
		baking(d)
		done(d, "teun", 400, 470, "roll", "load")
		activity(d, "bake").Fact = &studio.Fact{State: studio.TaskStarted, Machine: "dehydrator", Start: 480}
	}, func(d *studio.Document, p *studio.Plan) {
		done(d, "teun", 400, 470, "load buds")
		b := at(p, "bake buds")
		*at(p, "load buds") = studio.Task{
			ID:     "load buds",
			Lot:    "buds",
			Step:   "load buds",
			State:  studio.TaskDone,
			Person: "teun",
			Start:  400,
			End:    470,
			Pieces: 12,
		}
		activity(d, "bake buds").Wait.Least.Minutes = 60
		b.Start, b.End = 480, 540
	}},
	{"a load begun before now", check.BeforeNow, none, func(d *studio.Document, p *studio.Plan) {
		done(d, "teun", 400, 470, "roll", "load")
		for _, id := range []studio.ID{"roll", "load"} {
			f := activity(d, id).Fact
			*at(p, id) = studio.Task{
				ID:     id,
				Lot:    "cones",
				Step:   string(id),
				State:  studio.TaskDone,
				Person: "teun",
				Start:  f.Start,
				End:    f.End,
				Pieces: 12,
			}
		}
		b := at(p, "bake")
		b.Start, b.End = 470, 530
	}},
	{"begun in another machine than it was", check.FactChanged, func(d *studio.Document) {
		activity(d, "bake").Wait.Load.AnyOf = []studio.ID{"dehydrator", "oven"}
		done(d, "teun", 400, 470, "roll", "load")
		activity(d, "bake").Fact = &studio.Fact{State: studio.TaskStarted, Machine: "oven", Start: 470}
	}, func(_ *studio.Document, p *studio.Plan) { at(p, "bake").Load.Machine = "dehydrator" }},
	{"the wrong change of colour", check.WrongSetup, none, func(d *studio.Document, p *studio.Plan) {
		s := at(p, "shade")
		s.Setup, s.End = s.Setup+5, s.End+5
	}},
	{"past the horizon", check.PastHorizon, none, func(d *studio.Document, p *studio.Plan) {
		d.Settings.HorizonMinutes = 1440
		activity(d, "shade").Wait, activity(d, "shade").Work, activity(d, "shade").Setup = &studio.Stay{
			Least: studio.Length{Minutes: 1200},
		}, nil, nil
		s := at(p, "shade")
		s.Person, s.Setup, s.Start, s.End = "", 0, at(p, "tape").End, at(p, "tape").End+1200
	}},
	{
		"a narrow window that is none",
		check.NarrowUnsaid,
		none,
		func(_ *studio.Document, p *studio.Plan) { at(p, "tape").Narrow = true },
	},
	{"the wrong outcome", check.OutcomeWrong, none, func(_ *studio.Document, p *studio.Plan) { p.Orders[0].Late++ }},
	{
		"the wrong objective",
		check.ObjectiveWrong,
		none,
		func(_ *studio.Document, p *studio.Plan) { p.Objective.Setup++ },
	},
}

// The checker names the breach of a case and no other.
func TestEachRuleBrokenIsTheOneBreachNamed(t *testing.T) {
	for _, c := range spoilt {
		t.Run(string(c.code)+", "+c.name, func(t *testing.T) {
			doc := day()
			c.set(doc)
			p := planned(t, doc)
			if c.code != check.OutcomeWrong && c.code != check.ObjectiveWrong {
				c.spoil(doc, p)
				restated(doc, p)
			} else {
				c.spoil(doc, p)
			}
			breaches := check.Plan(doc, p)
			require.Len(t, breaches, 1, "%+v", p.Tasks)
			assert.Equal(t, c.code, breaches[0].Code, breaches[0].Detail)
		})
	}
}
