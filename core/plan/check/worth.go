package check

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// worth reckons what the plan means for each order and its objective, and
// compares both with what the plan says, if it says anything.
func (c *checker) worth() ([]studio.Outcome, studio.Objective) {
	said := map[studio.ID]studio.Outcome{}
	for _, o := range c.plan.Orders {
		said[o.Order] = o
	}
	orders := []studio.Outcome{}
	objective := studio.Objective{Slacks: []studio.Minute{}}
	gone := c.doc.Horizon() + 1440
	for _, want := range c.instance.Orders {
		ready, ok := c.readyOf(want)
		o := studio.Outcome{Order: want.ID, ReadyBy: want.ReadyBy, Late: max(0, gone-want.ReadyBy)}
		slack := want.ReadyBy - gone
		if ok {
			slack = want.ReadyBy - ready
			o.Ready, o.Slack, o.Late = &ready, &slack, max(0, -slack)
		}
		o.Steps = int64(studio.CeilDiv(o.Late, 15))
		objective.Lateness += want.Importance * o.Steps
		objective.Slacks = append(objective.Slacks, min(slack, studio.MostSlack))
		got := said[want.ID]
		same := got.ReadyBy == o.ReadyBy && got.Late == o.Late && got.Steps == o.Steps && (got.Ready == nil) == !ok
		if c.plan.Orders != nil && (!same || ok && (*got.Ready != ready || got.Slack == nil || *got.Slack != slack)) {
			c.say(
				OutcomeWrong,
				"",
				"order %q: ready by %d, late %d min in %d steps would be right",
				want.ID,
				o.ReadyBy,
				o.Late,
				o.Steps,
			)
		}
		orders = append(orders, o)
	}
	slices.Sort(objective.Slacks)
	for i := range c.plan.Tasks {
		t := &c.plan.Tasks[i]
		objective.Setup += t.Setup
		objective.Overtime += c.overtime(t)
	}
	objective.Disturbance = c.disturbance(gone)
	if p := c.plan.Objective; p.Slacks != nil && objective.Compare(p) != 0 {
		c.say(ObjectiveWrong, "", "the objective is %+v, the plan says %+v", objective, p)
	}
	return orders, objective
}

// readyOf is when the last of what an order takes is ready: a lot at its end,
// what lies on the shelf when it was made; false when a lot is unplaced.
func (c *checker) readyOf(want studio.Want) (studio.Minute, bool) {
	ready := want.Since
	for _, l := range c.instance.Lots {
		if !slices.Contains(want.Lots, l.ID) {
			continue
		}
		last := c.tasks[l.Tasks[len(l.Tasks)-1].ID]
		if last == nil {
			return 0, false
		}
		ready = max(ready, last.End)
	}
	return ready, true
}

// overtime is how much of a task is worked outside its person's hours.
func (c *checker) overtime(t *studio.Task) studio.Minute {
	if t.Person == "" || !t.Overtime || c.activities[t.ID].Done() {
		return 0
	}
	var sum studio.Minute
	from := t.Begin()
	for _, pause := range append(slices.Clone(t.Pauses), studio.Span{From: t.End, To: t.End}) {
		sum += pause.From - from - c.hours[t.Person].Worked(studio.Span{From: from, To: pause.From})
		from = pause.To
	}
	return sum
}

// disturbance is how far tasks that people have seen for the next two days move,
// and change hands.
func (c *checker) disturbance(gone studio.Minute) int64 {
	var sum int64
	for _, s := range c.doc.Seen {
		a := c.activities[s.Task]
		if a == nil || a.Fact != nil || s.Start < c.doc.Now || s.Start >= c.doc.Now+studio.SeenAhead {
			continue
		}
		t := c.tasks[s.Task]
		if t == nil {
			sum += int64(gone - s.Start)
			continue
		}
		sum += int64(max(t.Start-s.Start, s.Start-t.Start))
		if cmp.Compare(t.Person, s.Person) != 0 {
			sum += studio.PersonChange
		}
	}
	return sum
}
