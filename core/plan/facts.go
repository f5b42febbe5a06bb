package plan

import (
	"slices"

	"bractum/core/studio"
)

// recall lays down what has happened to a lot: its done tasks as recorded, and
// the waits that lie before a step somebody has begun. A wait ends early when
// somebody found the pieces ready.
func (p *planner) recall(l *lot) {
	steps := l.recipe.Steps
	begun := l.NextStep // the steps before it are over
	for i := l.NextStep; i < len(steps); i++ {
		if l.work.Record(steps[i].Key) != nil {
			begun = i
		}
	}
	var before *studio.Task
	for i := range begun {
		task := &studio.Task{ID: studio.TaskID(l.ID, steps[i].Key), Lot: l.ID, Step: steps[i].Key, State: studio.TaskDone, Pieces: l.recipe.Pieces(l.work.Started)}
		if record := l.work.Record(steps[i].Key); record != nil {
			task.Person, task.Start, task.End = record.Person, record.Start, record.End
			task.Pieces = l.recipe.Pieces(l.work.Entering(steps[i].Key))
		} else if steps[i].Wait != nil && before != nil {
			task.Start = before.End
			task.End = p.nextRecord(l, i)
			if end, ok := p.air.End(*steps[i].Wait, before.End); ok {
				task.End = min(end, task.End)
			}
		}
		l.tasks[i], before = task, task
		p.tasks[task.ID] = task
	}
	p.recallHolds(l)
}

// nextRecord is when the first recorded step after a wait was begun.
func (p *planner) nextRecord(l *lot, wait int) studio.Minute {
	for _, step := range l.recipe.Steps[wait+1:] {
		if record := l.work.Record(step.Key); record != nil {
			return record.Start
		}
	}
	return p.doc.Now
}

// recallHolds occupies what lies in places now: until the horizon at first,
// where the step that ends the hold is still to be placed.
func (p *planner) recallHolds(l *lot) {
	for i, task := range l.tasks {
		if task == nil {
			record := l.work.Record(l.recipe.Steps[i].Key)
			if record == nil {
				return
			}
			task = &studio.Task{ID: studio.TaskID(l.ID, record.Step), Start: record.Start, Pieces: l.recipe.Pieces(l.work.Entering(record.Step))}
		}
		for _, h := range l.recipe.Steps[i].Holds {
			_, until := l.recipe.Step(h.Until)
			held := studio.Held{Place: h.Place, Slots: studio.CeilDiv(task.Pieces, h.PerSlot), From: task.Start, To: p.doc.Horizon()}
			if last := l.tasks[until]; last != nil {
				if to, ok := p.everyone.Next(last.End); ok {
					held.To = to
				}
			}
			p.rooms[h.Place].hold(task.ID, held)
			task.Holds = append(task.Holds, held)
		}
	}
}

// outcomes says for each open order when it is ready, how late that is, and
// which task its date hangs on.
func (p *planner) outcomes() {
	orders := OrdersOf(p.plan)
	for _, o := range p.doc.Orders {
		if o.State != studio.OrderOpen {
			continue
		}
		out := studio.Outcome{Order: o.ID, ReadyBy: p.doc.ReadyBy(o, p.calendar, p.everyone)}
		ready, last, gone := p.lain(o.ID), (*studio.Task)(nil), false
		for _, l := range p.order {
			if !p.serves(l, o.ID) {
				continue
			}
			gone = gone || l.gone
			if end := l.tasks[len(l.tasks)-1]; end != nil && end.End > ready {
				ready, last = end.End, end
			}
		}
		if gone {
			out.Late = p.doc.Horizon() + 1440 - out.ReadyBy
		} else {
			slack := out.ReadyBy - ready
			out.Ready, out.Slack, out.Late = &ready, &slack, max(0, -slack)
			out.Limit = p.limit(last, func(t *studio.Task) bool { return slices.Contains(orders[t.Lot], o.ID) })
		}
		out.Late = max(0, out.Late)
		out.Steps = int64(studio.CeilDiv(out.Late, 15))
		p.plan.Lateness += o.Importance * out.Steps
		p.plan.Orders = append(p.plan.Orders, out)
	}
}

// lain is since when all that an order takes dry from the shelf has lain there.
func (p *planner) lain(order studio.ID) studio.Minute {
	var since studio.Minute
	for _, peg := range p.plan.Pegs {
		for _, s := range p.doc.Shelf {
			if peg.Order == order && s.ID == peg.From {
				since = max(since, s.MadeOn)
			}
		}
	}
	return since
}

// serves is true of a lot that an order line takes from directly, be it that its
// pieces lie on the shelf and still dry.
func (p *planner) serves(l *lot, order studio.ID) bool {
	named := func(peg studio.Peg) bool { return peg.Order == order }
	return slices.ContainsFunc(l.Pegs, named) ||
		slices.ContainsFunc(p.plan.Pegs, func(peg studio.Peg) bool { return named(peg) && peg.From == l.ID })
}

// limit walks the chain of causes back from the last task of an order and gives
// the one of its own that adds the most time: from the end of its own task
// before, work of other orders in between included.
func (p *planner) limit(last *studio.Task, own func(*studio.Task) bool) studio.ID {
	var longest studio.ID
	var most studio.Minute
	for task := last; task != nil; {
		cause := p.before(task)
		for cause != nil && !own(cause) {
			cause = p.before(cause)
		}
		from := p.doc.Now
		if cause != nil && cause.End < task.End {
			from = max(from, cause.End)
		}
		if added := task.End - from; added > most {
			longest, most = task.ID, added
		}
		task = cause
	}
	return longest
}

// before is the task that a task waited for, nil where the chain begins.
func (p *planner) before(task *studio.Task) *studio.Task {
	cause := p.tasks[task.CausedBy]
	if cause == nil || cause.Begin() >= task.Begin() {
		return nil
	}
	return cause
}
