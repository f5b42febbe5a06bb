package check_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
)

// day is a direct document with something of every rule: petals that are cut,
// set and wired, cones that are dried in the dehydrator and dusted, flowers taped
// of both. Odalys, Teun and Maren work 08:00 to 12:00 and 13:00 to 17:00 on two days.
func day() *studio.Document {
	shifts := []studio.Span{
		{From: 480, To: 720},
		{From: 780, To: 1020},
		{From: 1920, To: 2160},
		{From: 2220, To: 2460},
	}
	most, opens := studio.Minute(900), studio.Minute(540)
	work := func(id studio.ID, skill string, minutes studio.Minute) studio.Activity {
		return studio.Activity{
			ID:     id,
			Step:   string(id),
			Pieces: 12,
			Work:   []studio.Effort{{Skill: skill, Minutes: minutes}},
		}
	}
	cut := work("cut", "shaping", 60)
	cut.Tools = []studio.ToolUse{{AnyOf: []studio.ID{"veiner"}, Number: 1}}
	cut.Holds = []studio.Occupation{{Place: "sleeve", Slots: 2, Until: []studio.ID{"wire"}}}
	roll := work("roll", "shaping", 40)
	roll.Tools = []studio.ToolUse{{AnyOf: []studio.ID{"veiner"}, Number: 1}}
	dust := work("dust", "dusting", 20)
	dust.Setup = &studio.ColourUse{Family: "brushes", Mix: "shell"}
	tape := work("tape", "assembly", 150)
	tape.MayPause, tape.Gates = true, []studio.ID{"tape delivery"}
	shade := work("shade", "dusting", 25)
	shade.Setup = &studio.ColourUse{Family: "brushes", Mix: "ivory"}
	settings := studio.DefaultSettings()
	settings.HorizonMinutes = 2880
	return &studio.Document{
		Format:   studio.Format,
		Version:  studio.Version,
		Name:     "Pellowen Yard",
		Epoch:    time.Date(2027, 9, 20, 0, 0, 0, 0, time.UTC),
		Zone:     "UTC",
		Now:      480,
		Settings: settings,
		Places:   []studio.Place{{ID: "sleeve", Name: "Sleeve", Slots: 3, KeepsMinutes: 400}},
		Tools:    []studio.Tool{{ID: "veiner", Name: "Large veiner", Number: 1}},
		Machines: []studio.Machine{
			{ID: "dehydrator", Name: "Dehydrator", Slots: 6},
			{ID: "oven", Name: "Oven", Slots: 6},
		},
		Gates: []studio.Gate{{ID: "tape delivery", Name: "Tape delivery", Opens: &opens}},
		Families: []studio.Family{
			{
				ID:          "brushes",
				Name:        "Brushes",
				FullMinutes: 9,
				Changes:     []studio.Change{{From: "shell", To: "ivory", Minutes: 4}},
			},
		},
		People: []studio.Person{
			{
				ID:     "odalys",
				Name:   "Odalys",
				Skills: []studio.Skill{{Skill: "shaping", Pace: 100}, {Skill: "assembly", Pace: 100}},
				Shifts: shifts,
			},
			{
				ID:             "teun",
				Name:           "Teun",
				Skills:         []studio.Skill{{Skill: "shaping", Pace: 125}, {Skill: "wiring", Pace: 125}},
				Shifts:         shifts,
				OvertimeShifts: []studio.Span{{From: 1020, To: 1140}},
			},
			{ID: "maren", Name: "Maren", Skills: []studio.Skill{{Skill: "dusting", Pace: 100}}, Shifts: shifts}},
		Direct: &studio.Instance{
			Lots: []studio.Routing{
				{
					ID: "petals",
					Tasks: []studio.Activity{
						cut,
						{
							ID:   "set",
							Step: "set",
							Wait: &studio.Stay{Least: studio.Length{Minutes: 30}, Wished: &studio.Length{Minutes: 50}},
						},
						work("wire", "wiring", 45),
					},
				},
				{ID: "cones", Tasks: []studio.Activity{roll, work("load", "shaping", 5),
					{
						ID:   "bake",
						Step: "bake",
						Wait: &studio.Stay{
							Least: studio.Length{Minutes: 60},
							Load:  &studio.MachineUse{AnyOf: []studio.ID{"dehydrator"}, Setting: "45 °C", Slots: 2},
						},
					}, dust}},
				{ID: "flowers", Tasks: []studio.Activity{tape, shade}}},
			Links: []studio.Lag{
				{From: "wire", To: "tape", Most: &studio.Length{Minutes: most}},
				{From: "dust", To: "tape", Least: &studio.Length{Minutes: 10}},
			},
			Orders: []studio.Want{{ID: "ferry", ReadyBy: 1000, Importance: 10, Lots: []studio.ID{"flowers"}}}},
	}
}

func planned(t *testing.T, doc *studio.Document) *studio.Plan {
	require.Empty(t, doc.Validate())
	counted, err := count.Up(doc)
	require.NoError(t, err)
	p, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	require.Empty(t, check.Plan(doc, p))
	data, err := json.Marshal(p) // a copy that shares nothing with the document
	require.NoError(t, err)
	var own studio.Plan
	require.NoError(t, json.Unmarshal(data, &own))
	return &own
}

// restated is a plan that says of itself what the checker makes of it, so that a
// spoilt rule is not reported again as a wrong figure.
func restated(doc *studio.Document, p *studio.Plan) *studio.Plan {
	report := check.Reckon(doc, p)
	p.Orders, p.Objective = report.Orders, report.Objective
	return p
}

func at(p *studio.Plan, id studio.ID) *studio.Task {
	return task(p, func(t studio.Task) bool { return t.ID == id })
}

func activity(d *studio.Document, id studio.ID) *studio.Activity { return d.Direct.Activities()[id] }

// done makes facts of the first tasks of a lot, done before now.
func done(d *studio.Document, person studio.ID, from, to studio.Minute, ids ...studio.ID) {
	for _, id := range ids {
		activity(d, id).Fact = &studio.Fact{State: studio.TaskDone, Person: person, Start: from, End: to}
		from = to
	}
}

func without(p *studio.Plan, id studio.ID) {
	kept := p.Tasks[:0]
	for _, t := range p.Tasks {
		if t.ID != id {
			kept = append(kept, t)
		}
	}
	p.Tasks = kept
}

func shift(t *studio.Task, by studio.Minute) { t.Start, t.End = t.Start+by, t.End+by }

// baking is the day when cones and a second tray of them go into the dehydrator
// together.
func baking(d *studio.Document) {
	buds := d.Direct.Lots[1]
	buds.ID, buds.Tasks = "buds", append([]studio.Activity{}, buds.Tasks[1:3]...)
	for i, name := range []string{"load buds", "bake buds"} {
		buds.Tasks[i].ID, buds.Tasks[i].Step = studio.ID(name), name
	}
	stay := *buds.Tasks[1].Wait
	stay.Least.Minutes = 75
	buds.Tasks[1].Wait = &stay
	d.Direct.Lots = append(d.Direct.Lots, buds)
}

// together puts cones and buds into one load, which begins when the later of the two
// is loaded.
func together(p *studio.Plan) {
	cones, buds := at(p, "bake"), at(p, "bake buds")
	start := max(at(p, "load").End, at(p, "load buds").End)
	cones.Start, cones.End, buds.Start, buds.End = start, start+75, start, start+75
	dust, tape, shade := at(p, "dust"), at(p, "tape"), at(p, "shade")
	by := max(0, start+75-dust.Start)
	shift(dust, by)
	tape.Start, tape.End, tape.Pauses = 780, 930, nil
	shade.Start, shade.End = 930, 959
}

func none(*studio.Document) {}

// petals is the day with the petals alone.
func petals(d *studio.Document) {
	d.Direct.Lots, d.Direct.Links = d.Direct.Lots[:1], nil
	d.Direct.Orders[0].Lots = []studio.ID{"petals"}
}

// later has the petals' wait and wiring come later, with what is held meanwhile.
func later(p *studio.Plan, by studio.Minute) {
	shift(at(p, "set"), by)
	shift(at(p, "wire"), by)
	at(p, "cut").Holds[0].To += by
}
