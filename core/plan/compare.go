package plan

import (
	"slices"

	"bractum/core/studio"
)

// Differences are what changes when one plan takes the place of another.
type Differences struct {
	Moved  []Move        `json:"moved"`
	Added  []studio.ID   `json:"added"`
	Gone   []studio.ID   `json:"gone"`
	Orders []OrderChange `json:"orders"`
}

// Nothing is true where no task is moved, added or gone.
func (d Differences) Nothing() bool { return len(d.Moved)+len(d.Added)+len(d.Gone) == 0 }

// Change is what a plan in place of another comes to: how many of its orders are late, its
// worst slack, and how many tasks move; Told of those are tasks that people were told of.
type Change struct {
	Late  int64         `json:"late"`
	Worst studio.Minute `json:"worstSlack"`
	Moved int64         `json:"moved"`
	Told  int64         `json:"told"`
}

// Sum sums up what changes from one plan to another.
func Sum(before, after *studio.Plan) Change {
	c := Change{Worst: after.WorstSlack()}
	for _, o := range after.Orders {
		if o.Late > 0 {
			c.Late++
		}
	}
	for _, m := range Compare(before, after).Moved {
		c.Moved++
		if m.From < after.Now+studio.SeenAhead {
			c.Told++
		}
	}
	return c
}

// Best is the index of the plan that is least late, and of those as late the one whose
// orders have most slack; the first of them where that is as good, -1 where there is none.
func Best[T any](all []T, of func(T) *studio.Plan) int {
	best := -1
	for i, x := range all {
		if best < 0 || of(x).Objective.Compare(of(all[best]).Objective) < 0 {
			best = i
		}
	}
	return best
}

// Move is a task that keeps its id but not its time or person.
type Move struct {
	Task   studio.ID     `json:"task"`
	From   studio.Minute `json:"from"`
	To     studio.Minute `json:"to"`
	Before studio.ID     `json:"before"`
	After  studio.ID     `json:"after"`
}

// OrderChange is an order whose readiness changes. Nil stands for an order that
// a plan does not know, or cannot finish.
type OrderChange struct {
	Order  studio.ID       `json:"order"`
	Before *studio.Outcome `json:"before,omitempty"`
	After  *studio.Outcome `json:"after,omitempty"`
}

// Compare lists what changes from one plan to another, in the order of the
// second. A nil plan has no tasks.
func Compare(before, after *studio.Plan) Differences {
	d := Differences{Moved: []Move{}, Added: []studio.ID{}, Gone: []studio.ID{}, Orders: []OrderChange{}}
	if before == nil {
		before = &studio.Plan{}
	}
	old := map[studio.ID]studio.Task{}
	for _, t := range before.Tasks {
		old[t.ID] = t
	}
	for _, t := range after.Tasks {
		was, known := old[t.ID]
		delete(old, t.ID)
		switch {
		case t.Person == "":
		case !known:
			d.Added = append(d.Added, t.ID)
		case was.Begin() != t.Begin() || was.Person != t.Person:
			d.Moved = append(
				d.Moved,
				Move{Task: t.ID, From: was.Begin(), To: t.Begin(), Before: was.Person, After: t.Person},
			)
		}
	}
	for _, t := range before.Tasks {
		if _, gone := old[t.ID]; gone && t.Person != "" {
			d.Gone = append(d.Gone, t.ID)
		}
	}
	outcomes := func(p *studio.Plan, order studio.ID) *studio.Outcome {
		i := slices.IndexFunc(p.Orders, func(o studio.Outcome) bool { return o.Order == order })
		if i < 0 {
			return nil
		}
		return &p.Orders[i]
	}
	for _, o := range after.Orders {
		if was := outcomes(before, o.Order); was == nil || !same(*was, o) {
			d.Orders = append(d.Orders, OrderChange{Order: o.Order, Before: was, After: outcomes(after, o.Order)})
		}
	}
	for _, o := range before.Orders {
		if outcomes(after, o.Order) == nil {
			d.Orders = append(d.Orders, OrderChange{Order: o.Order, Before: outcomes(before, o.Order), After: nil})
		}
	}
	return d
}

func same(a, b studio.Outcome) bool {
	return a.ReadyBy == b.ReadyBy && a.Late == b.Late && (a.Ready == nil) == (b.Ready == nil) &&
		(a.Ready == nil || *a.Ready == *b.Ready)
}

// OrdersOf says for every lot which orders it works for, through all links.
func OrdersOf(p *studio.Plan) map[studio.ID][]studio.ID {
	orders := map[studio.ID][]studio.ID{}
	add := func(lot, order studio.ID) bool {
		if slices.Contains(orders[lot], order) {
			return false
		}
		orders[lot] = append(orders[lot], order)
		return true
	}
	into := map[studio.ID][]studio.ID{} // the lots that feed a lot
	for _, k := range p.Links {
		into[k.To] = append(into[k.To], k.From)
	}
	var spread func(lot, order studio.ID)
	spread = func(lot, order studio.ID) {
		if add(lot, order) {
			for _, from := range into[lot] {
				spread(from, order)
			}
		}
	}
	for _, l := range p.Lots {
		for _, peg := range l.Pegs {
			spread(l.ID, peg.Order)
		}
	}
	for _, peg := range p.Pegs {
		spread(peg.From, peg.Order)
	}
	return orders
}

// EarliestLeave is the earliest time at which an order that this plan finishes could leave with the safety span kept;
// false for one it cannot finish.
func EarliestLeave(doc *studio.Document, calendar studio.Calendar, o studio.Outcome) (studio.WallTime, bool) {
	by, ok := EarliestReadyBy(doc, calendar, o)
	return calendar.Wall(by + doc.Settings.SafetyMinutes), ok
}

// EarliestReadyBy is the earliest minute by which this plan could promise an order to be ready: where it is while
// nobody is at work, from their next minute on, as Document.ReadyBy has it. False for one it cannot finish.
func EarliestReadyBy(doc *studio.Document, calendar studio.Calendar, o studio.Outcome) (studio.Minute, bool) {
	if o.Ready == nil {
		return 0, false
	}
	if everyone := doc.Everyone(calendar); doc.Direct == nil && everyone.LastBefore(*o.Ready) < *o.Ready {
		next, ok := everyone.Next(*o.Ready)
		return next + 1, ok
	}
	return *o.Ready, true
}

// NextEvent is the first minute after now at which the plan has something begin
// or end; false when nothing is left.
func NextEvent(p *studio.Plan) (studio.Minute, bool) {
	var next studio.Minute
	found := false
	for _, t := range p.Tasks {
		for _, m := range []studio.Minute{t.Begin(), t.End} {
			if m > p.Now && (!found || m < next) {
				next, found = m, true
			}
		}
	}
	return next, found
}

// NextMorning is the first minute at which somebody begins work on a later day.
func NextMorning(doc *studio.Document, calendar studio.Calendar) (studio.Minute, bool) {
	return doc.Everyone(calendar).Next(calendar.At(calendar.Date(doc.Now).Next(), 0))
}
