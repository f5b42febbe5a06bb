package reference

import (
	"fmt"
	"time"

	"bractum/core/studio"
)

// tiny makes a valid direct document of so many tasks with any of the rules in it,
// drawn by pick, which gives a number from 0 up to n−1. A tight one is of a dozen
// minutes, few enough to try them all.
func tiny(pick func(n int) int, tasks int, tight bool) *studio.Document {
	g := &generator{pick: pick, tight: tight, tasks: tasks}
	settings := studio.DefaultSettings()
	settings.HorizonMinutes = 2880
	opens := studio.Minute(101 + pick(8))
	g.doc = &studio.Document{
		Format:   studio.Format,
		Version:  studio.Version,
		Name:     "Pellowen Yard, a few minutes",
		Epoch:    time.Date(2027, 9, 20, 0, 0, 0, 0, time.UTC),
		Zone:     "UTC",
		Now:      100,
		Settings: settings,
		Places: []studio.Place{
			{
				ID:           "tray",
				Name:         "Spoon tray",
				Slots:        1 + int64(pick(3)),
				KeepsMinutes: []studio.Minute{0, 0, 9, 14}[pick(4)],
			},
		},
		Tools: []studio.Tool{{ID: "veiner", Name: "Veiner", Number: 1}, {ID: "roller", Name: "Roller", Number: 1}},
		Machines: []studio.Machine{
			{ID: "dehydrator", Name: "Dehydrator", Slots: 2},
			{ID: "oven", Name: "Oven", Slots: 1},
		},
		Gates: []studio.Gate{{ID: "delivery", Name: "Tape delivery", Opens: &opens}},
		Families: []studio.Family{
			{
				ID:          "brushes",
				Name:        "Brushes",
				FullMinutes: 2,
				Reset:       []studio.Reset{studio.ResetNever, studio.ResetNight, studio.ResetOtherWork}[pick(3)],
				Changes: []studio.Change{
					{From: "oyster", To: "kelp", Minutes: 1},
					{From: "kelp", To: "oyster", Minutes: 3},
				},
			},
		},
		Direct: &studio.Instance{},
	}
	g.people()
	for lot := 0; tasks > 0; lot++ {
		n := min(tasks, 1+pick(3))
		tasks -= n
		g.lot(lot, n)
	}
	g.wants()
	return g.doc
}

type generator struct {
	pick  func(n int) int
	tight bool
	tasks int
	doc   *studio.Document
}

// one is true once in n times.
func (g *generator) one(n int) bool { return g.pick(n) == 0 }

func (g *generator) minutes(from, to int) studio.Minute {
	return studio.Minute(from + g.pick(to-from+1))
}

func (g *generator) people() {
	for i := range 1 + g.pick(2) {
		id := studio.ID([]string{"teun", "maren"}[i])
		p := studio.Person{
			ID:     id,
			Name:   []string{"Teun", "Maren"}[i],
			Skills: []studio.Skill{{Skill: "wiring", Pace: []int64{100, 125, 80}[g.pick(3)]}},
			Shifts: []studio.Span{
				{From: 98, To: g.minutes(106, 112)},
				{From: 114, To: g.minutes(118, 124)},
				{From: 1540, To: 1552 + studio.Minute(max(0, 8*(g.tasks-12)))},
			},
		}
		if g.tight {
			p.Shifts = []studio.Span{{From: 99, To: g.minutes(104, 106)}, {From: 107, To: g.minutes(109, 112)}}
		}
		if i == 0 || g.one(2) {
			p.Skills = append(p.Skills, studio.Skill{Skill: "dusting", Pace: 100})
		}
		if g.one(4) {
			p.OvertimeShifts = []studio.Span{{From: p.Shifts[1].To, To: p.Shifts[1].To + 3}}
		}
		if g.one(4) {
			p.Colours = map[studio.ID]studio.ID{"brushes": "kelp"}
		}
		g.doc.People = append(g.doc.People, p)
	}
}

func (g *generator) lot(lot, n int) {
	l := studio.Routing{ID: studio.ID(fmt.Sprintf("lot %d", lot))}
	happened := g.one(5) // something of it, before now
	for k := range n {
		a := studio.Activity{ID: studio.ID(fmt.Sprintf("task %d.%d", lot, k))}
		switch {
		case k > 0 && l.Tasks[k-1].Wait == nil && g.one(3):
			a.Wait = &studio.Stay{Least: studio.Length{Minutes: g.minutes(1, 5)}}
			if g.one(2) {
				a.Wait.Wished = &studio.Length{Minutes: a.Wait.Least.Minutes + g.minutes(0, 4)}
			}
		case k > 0 && l.Tasks[k-1].Wait == nil && g.one(3):
			a.Wait = &studio.Stay{
				Least: studio.Length{Minutes: g.minutes(2, 6)},
				Load: &studio.MachineUse{
					AnyOf:   []studio.ID{"dehydrator"},
					Setting: []string{"45 °C", "60 °C"}[g.pick(2)],
					Slots:   1,
				},
			}
			if g.one(3) {
				a.Wait.Load.AnyOf = append(a.Wait.Load.AnyOf, "oven")
			}
		default:
			g.work(&a)
		}
		if g.one(5) {
			a.Holds = []studio.Occupation{{Place: "tray", Slots: 1, Until: []studio.ID{a.ID}}}
		}
		if g.one(6) {
			a.Gates = []studio.ID{"delivery"}
		}
		l.Tasks = append(l.Tasks, a)
	}
	for k := range l.Tasks {
		if h := l.Tasks[k].Holds; len(h) > 0 {
			h[0].Until = []studio.ID{l.Tasks[k+g.pick(n-k)].ID}
		}
	}
	if happened {
		g.happen(&l)
	}
	g.link(l)
	g.doc.Direct.Lots = append(g.doc.Direct.Lots, l)
	if g.one(5) && l.Tasks[0].Fact == nil {
		pin := studio.Pin{Task: l.Tasks[0].ID, Person: g.doc.People[0].ID}
		if g.one(2) {
			start := g.minutes(100, 104)
			pin.Start = &start
		}
		g.doc.Pins = append(g.doc.Pins, pin)
	}
}

func (g *generator) work(a *studio.Activity) {
	skill := []string{"wiring", "dusting"}[g.pick(2)]
	a.Work = []studio.Effort{{Skill: skill, Minutes: g.minutes(1, 5)}}
	if g.tight {
		a.Work[0].Minutes = g.minutes(1, 3)
	}
	switch {
	case g.one(3):
		a.MayPause = true
	case g.one(3):
		a.Work = append(a.Work, studio.Effort{Skill: skill, Minutes: g.minutes(1, 2), Run: 1})
	}
	if g.one(4) {
		a.Tools = []studio.ToolUse{{AnyOf: []studio.ID{"veiner"}, Number: 1}}
		if g.one(3) {
			a.Tools[0].AnyOf = append(a.Tools[0].AnyOf, "roller")
		}
	}
	if skill == "dusting" && g.one(2) {
		a.Setup = &studio.ColourUse{Family: "brushes", Mix: []studio.ID{"oyster", "kelp"}[g.pick(2)]}
	}
}

// happen has the first task of a lot done, its load set off, or it begun.
func (g *generator) happen(l *studio.Routing) {
	who := g.doc.People[0].ID
	begun := len(g.doc.Direct.Lots) > 0 // one person is at one thing
	if begun && g.one(2) || len(l.Tasks) == 1 && begun {
		return
	}
	if g.one(2) || len(l.Tasks) == 1 {
		l.Tasks[0].Fact = &studio.Fact{
			State:  []studio.TaskState{studio.TaskStarted, studio.TaskPaused}[g.pick(2)],
			Person: who,
			Start:  98,
		}
		if g.one(3) && len(g.doc.People) > 1 && len(g.doc.People[1].Skills) > 1 {
			g.doc.Pins = append(g.doc.Pins, studio.Pin{Task: l.Tasks[0].ID, Person: g.doc.People[1].ID})
		}
		return
	}
	l.Tasks[0].Fact = &studio.Fact{State: studio.TaskDone, Person: who, Start: 95, End: 98}
	if w := l.Tasks[1].Wait; w != nil && w.Load != nil && !begun {
		l.Tasks[1].Fact = &studio.Fact{State: studio.TaskStarted, Machine: "dehydrator", Start: 99}
	}
}

// link feeds what a lot makes of earlier ones, within limits.
func (g *generator) link(l studio.Routing) {
	lots := g.doc.Direct.Lots
	for _, earlier := range lots[max(0, len(lots)-3):] {
		to := g.pick(len(l.Tasks))
		if l.Tasks[to].Fact != nil || !g.one(3) {
			continue
		}
		from := earlier.Tasks[g.pick(len(earlier.Tasks))]
		k := studio.Lag{From: from.ID, To: l.Tasks[to].ID}
		if g.one(2) {
			k.Least = &studio.Length{Minutes: g.minutes(0, 3)}
		}
		if g.one(2) {
			k.Most = &studio.Length{Minutes: g.minutes(4, 12)}
		}
		g.doc.Direct.Links = append(g.doc.Direct.Links, k)
	}
}

func (g *generator) wants() {
	lots := g.doc.Direct.Lots
	for i := range 1 + g.pick(2) {
		want := studio.Want{
			ID:         studio.ID(fmt.Sprintf("order %d", i)),
			ReadyBy:    g.minutes(85, 125),
			Importance: int64(1 + g.pick(3)),
		}
		for k := range lots {
			if k%2 == i%2 || g.one(2) {
				want.Lots = append(want.Lots, lots[k].ID)
			}
		}
		if want.Lots == nil {
			want.Lots = []studio.ID{lots[0].ID}
		}
		g.doc.Direct.Orders = append(g.doc.Direct.Orders, want)
	}
}
