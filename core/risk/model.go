// Package risk answers how sure a plan is: it is replayed many times with drying, minutes, breakage, deliveries and
// people away drawn from their spreads, and each order is in time in so many of them.
//
// A replay reacts as a bench would, and looks at nothing that is still to come. Tasks are gone through in the order in
// which they are planned; each begins as soon as what it needs is there, its maker has time and its places, tools and
// machine are free, whether that is earlier or later than it was planned, in gaps that waiting leaves as well. What of
// a lot breaks beyond its spares is made once more by the same people, and what takes up the lot waits for that. Nobody
// takes over from anybody, and nothing is planned anew: a studio that looks at its plan does a little better.
//
// Attended minutes and drying are log-normal, breakage binomial with the share that is expected after what is recorded,
// a delivery is late by a day once in so many times, and by another as often again, and somebody is away now and then.
package risk

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"bractum/core/count"
	"bractum/core/drying"
	"bractum/core/studio"
)

// Spreads are how far things go from what is planned.
type Spreads struct {
	// Minutes is the standard deviation of the logarithm of attended time, in thousandths; the mean is what is planned.
	Minutes studio.PerMille `json:"minutesPerMille"`
	// Late is how often a delivery is a day late, and how often a day that is late is followed by another.
	Late studio.PerMille `json:"latePerMille"`
	// Away is how often somebody is not there on a day on which they should be.
	Away studio.PerMille `json:"awayPerMille"`
	// Breakage is by how much more than expected breaks, in thousandths; Steady drying goes as it is planned.
	Breakage studio.PerMille `json:"breakagePerMille"`
	Steady   bool            `json:"steady,omitempty"`
}

// UsualSpreads are a studio's until its own record says otherwise.
func UsualSpreads() Spreads { return Spreads{Minutes: 250, Late: 100, Away: 15, Breakage: 1000} }

// model is a plan as it is replayed: tasks by their turn, each after all that it needs.
type model struct {
	now, horizon studio.Minute
	calendar     studio.Calendar
	room         drying.Room
	hours        []studio.Hours // by person: with the overtime that is allowed, as the plan may use it
	days         []studio.Span  // over which somebody may be away
	tasks        []task
	lots         []lot
	orders       []order
	places       []int64 // slots, by number: of places, then of tools
	machines     int
	spreads      Spreads
	gates        []studio.Minute
}

// task is one that is not over, or whose end is known.
type task struct {
	id            studio.ID
	lot           int
	person        int // -1 of what nobody does
	start, end    studio.Minute
	done          bool // its end is known
	begun         bool // somebody is at it: what is left of it is
	length, setup studio.Minute
	ways          []way // who may do it, whom it is planned for first
	pauses        bool
	machine       int // -1 of none
	load          studio.Minute
	dries         *studio.Dries
	needs         []need
	gates         []int
	takes         []take
	frees         []int // the places that are freed once it has ended
}

// way is somebody who may do a task, and how long they take, run by run.
type way struct {
	person int
	runs   []studio.Minute
}

// need is a task that has to have ended, and for how long.
type need struct {
	of    int
	least studio.Minute
	dries *studio.Dries
}

// take is so many slots of a place, or of a tool, until some tasks have ended; of a tool, its own.
type take struct {
	place int
	slots int64
	until []int
	last  int // of those, by their turn
}

// lot is pieces of which some break.
type lot struct {
	tasks   []int
	started int64
	need    int64
	loses   float64 // the share that is expected to be lost from now on
}

// order is what is to be ready by two minutes: to keep the safety span, and to leave.
type order struct {
	id         studio.ID
	by, leaves studio.Minute
	last       []int // the last tasks of its lots
	never      bool  // something of it has no place in the plan
	ready      studio.Minute
}

// newModel lays out a plan for replays. It takes time proportional to the plan's tasks.
func newModel(doc *studio.Document, made *studio.Plan, spreads Spreads) (*model, error) {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return nil, err
	}
	book := studio.NewBook(doc)
	inst := studio.Route(doc, book, made.Lots, made.Links, made.Pegs)
	m := &model{
		now:      doc.Now,
		horizon:  doc.Horizon(),
		calendar: calendar,
		room:     drying.NewRoom(doc, calendar),
		spreads:  spreads,
	}
	l := layout{model: m, doc: doc, made: made, book: book, people: map[studio.ID]int{}, places: map[studio.ID]int{},
		machines: map[studio.ID]int{}, gates: map[studio.ID]int{}, number: map[studio.ID]int{}}
	l.resources()
	if err := l.tasks(inst); err != nil {
		return nil, err
	}
	l.orders(inst)
	return m, nil
}

// layout is what is known by id while a model is laid out.
type layout struct {
	*model
	doc                             *studio.Document
	made                            *studio.Plan
	book                            *studio.Book
	people, places, machines, gates map[studio.ID]int
	number                          map[studio.ID]int // of tasks
}

func (l *layout) resources() {
	for i := range l.doc.People {
		p := l.doc.People[i]
		l.people[p.ID] = i
		l.model.hours = append(l.model.hours, studio.Together(studio.HoursOf(p, l.calendar, l.doc.Since(), l.horizon),
			studio.OvertimeOf(p, l.calendar, l.doc.Since(), l.horizon)))
	}
	for _, p := range l.doc.Places {
		l.places[p.ID] = len(l.model.places)
		l.model.places = append(l.model.places, p.Slots)
	}
	for _, t := range l.doc.Tools {
		l.places[t.ID] = len(l.model.places)
		l.model.places = append(l.model.places, t.Number)
	}
	for i, m := range l.doc.Machines {
		l.machines[m.ID] = i
	}
	l.model.machines = len(l.doc.Machines)
	for i, g := range l.doc.Outside(l.calendar) {
		l.gates[g.ID] = i
		opens := l.horizon
		if g.Opens != nil {
			opens = *g.Opens
		}
		l.model.gates = append(l.model.gates, opens)
	}
	last := l.now
	for i := range l.made.Tasks {
		last = max(last, l.made.Tasks[i].End)
	}
	for day := l.calendar.Date(l.now).Next(); l.calendar.At(day, 0) < last+7*1440; day = day.Next() {
		l.days = append(l.days, studio.Span{From: l.calendar.At(day, 0), To: l.calendar.At(day.Next(), 0)})
	}
}

// tasks lays out the tasks by their turn.
func (l *layout) tasks(inst *studio.Instance) error {
	planned := make(map[studio.ID]*studio.Task, len(l.made.Tasks))
	for i := range l.made.Tasks {
		planned[l.made.Tasks[i].ID] = &l.made.Tasks[i]
	}
	type place struct {
		lot, index int
		t          *studio.Task
	}
	var turn []place
	for i := range inst.Lots {
		for j := range inst.Lots[i].Tasks {
			if t := planned[inst.Lots[i].Tasks[j].ID]; t != nil {
				turn = append(turn, place{i, j, t})
			}
		}
	}
	slices.SortStableFunc(turn, func(a, b place) int {
		return cmp.Or(
			cmp.Compare(a.t.Begin(), b.t.Begin()),
			cmp.Compare(a.t.End, b.t.End),
			cmp.Compare(a.index, b.index),
		)
	})
	for n, p := range turn {
		l.number[p.t.ID] = n
	}
	l.model.lots = make([]lot, len(inst.Lots))
	into := map[studio.ID][]studio.Lag{}
	for _, k := range inst.Links {
		into[k.To] = append(into[k.To], k)
	}
	for _, p := range turn {
		a := &inst.Lots[p.lot].Tasks[p.index]
		t, err := l.task(p.t, a)
		if err != nil {
			return err
		}
		t.lot = p.lot
		if p.index > 0 {
			l.after(&t, inst.Lots[p.lot].Tasks[p.index-1].ID, nil)
		}
		for _, k := range into[a.ID] {
			l.after(&t, k.From, k.Least)
		}
		l.model.lots[p.lot].tasks = append(l.model.lots[p.lot].tasks, len(l.model.tasks))
		l.model.tasks = append(l.model.tasks, t)
	}
	for i := range l.model.tasks {
		for _, k := range l.model.tasks[i].needs {
			if k.of >= i && !l.model.tasks[i].done {
				return fmt.Errorf("the plan begins %s before what it needs", l.model.tasks[i].id)
			}
		}
	}
	for i := range l.model.tasks {
		t := &l.model.tasks[i]
		for n := range t.takes {
			k := &t.takes[n]
			k.last = max(i, slices.Max(append(k.until, i)))
			l.model.tasks[k.last].frees = append(l.model.tasks[k.last].frees, k.place)
		}
	}
	l.breakage()
	return nil
}

// after has a task begin after another, where the plan has that.
func (l *layout) after(t *task, other studio.ID, least *studio.Length) {
	of, there := l.number[other]
	if !there {
		return
	}
	n := need{of: of}
	if least != nil {
		n.least, n.dries = least.Minutes, least.Dries
	}
	t.needs = append(t.needs, n)
}

// task is one of the plan as it is replayed.
func (l *layout) task(p *studio.Task, a *studio.Activity) (task, error) {
	t := task{id: p.ID, person: -1, machine: -1, start: p.Begin(), end: p.End, done: p.State == studio.TaskDone,
		begun: p.State == studio.TaskStarted || p.State == studio.TaskPaused}
	t.length = p.End - p.Begin()
	for _, pause := range p.Pauses {
		t.length -= pause.To - pause.From
	}
	switch {
	case a.Wait == nil:
		who, known := l.people[p.Person]
		if !known {
			return t, fmt.Errorf("nobody of the studio does %s", p.ID)
		}
		person := &l.doc.People[who]
		t.person, t.pauses = who, a.Pauses()
		t.setup = min(a.SetupFor(person, p.Setup), t.length)
		t.ways = []way{{who, a.Runs(person, p.Setup)}}
		if t.pauses || t.begun {
			t.ways[0].runs = []studio.Minute{t.length}
		}
		for i := range l.doc.People {
			if other := &l.doc.People[i]; i != who && a.May(other, l.doc.Pinned(p.ID)) {
				t.ways = append(t.ways, way{i, a.Runs(other, p.Setup)})
			}
		}
	case p.Load != nil:
		t.machine, t.load = l.machines[p.Load.Machine], p.Begin()
	default:
		if d := a.Wait.Least.Dries; d != nil {
			t.dries = d
		} else {
			t.length = a.Wait.Least.Minutes
		}
	}
	for _, g := range a.Gates {
		t.gates = append(t.gates, l.gates[g])
	}
	for i, h := range p.Holds {
		if i >= len(a.Holds) || h.To <= l.now {
			continue
		}
		k := take{place: l.places[h.Place], slots: h.Slots}
		for _, until := range a.Holds[i].Until {
			if n, there := l.number[until]; there {
				k.until = append(k.until, n)
			}
		}
		t.takes = append(t.takes, k)
	}
	for _, tool := range p.Tools {
		t.takes = append(t.takes, take{place: l.places[tool], slots: 1, until: nil})
	}
	return t, nil
}

// breakage says of lots what share of them is still to be lost: what is expected of all of it, by how much of its work
// is still to do.
func (l *layout) breakage() {
	made := map[studio.ID]*studio.Lot{}
	for i := range l.made.Lots {
		made[l.made.Lots[i].ID] = &l.made.Lots[i]
	}
	for i := range l.model.lots {
		b := &l.model.lots[i]
		if len(b.tasks) == 0 {
			continue
		}
		lot := made[lotOf(l.made, l.model.tasks[b.tasks[0]].id)]
		if lot == nil {
			continue
		}
		r := l.book.Of(lot.Made())
		if r == nil || r.Kind == studio.KindMix {
			continue
		}
		left := 0
		for _, t := range b.tasks {
			if !l.model.tasks[t].done {
				left++
			}
		}
		b.started, b.need = lot.Alive, lot.Need
		if r.Spares.Breakage > 0 || r.Spares.GoodSoFar+r.Spares.LostSoFar > 0 {
			b.loses = count.OddsOf(r.Spares, l.doc.Settings.PriorWeight).
				Losing() *
				float64(
					left,
				) / float64(
				len(b.tasks),
			) *
				float64(
					l.spreads.Breakage,
				) / 1000
		}
	}
}

func lotOf(made *studio.Plan, task studio.ID) studio.ID {
	for i := range made.Tasks {
		if made.Tasks[i].ID == task {
			return made.Tasks[i].Lot
		}
	}
	return ""
}

// orders lays out what is to be ready.
func (l *layout) orders(inst *studio.Instance) {
	lots := map[studio.ID]int{}
	for i := range inst.Lots {
		lots[inst.Lots[i].ID] = i
	}
	leaves := map[studio.ID]studio.Minute{}
	for _, o := range l.doc.Orders {
		leaves[o.ID] = l.calendar.Minute(o.Leaves)
	}
	for _, w := range inst.Orders {
		o := order{id: w.ID, by: w.ReadyBy, leaves: w.ReadyBy, ready: l.now}
		if at, known := leaves[w.ID]; known && l.doc.Direct == nil {
			o.leaves = at
		}
		for _, id := range w.Lots {
			i := lots[id]
			all := inst.Lots[i].Tasks
			n, there := l.number[all[len(all)-1].ID]
			if !there {
				o.never = true
				continue
			}
			o.last = append(o.last, n)
		}
		l.model.orders = append(l.model.orders, o)
	}
}

// scaled is a length times a factor, a minute at least.
func scaled(length studio.Minute, factor float64) studio.Minute {
	return max(1, studio.Minute(math.Ceil(float64(length)*factor-1e-9)))
}
