package plan

import (
	"slices"

	"bractum/core/studio"
)

// finished puts what was placed into a plan, with what it means and is worth.
func (p *placement) finished() *studio.Plan {
	out := &studio.Plan{Format: studio.PlanFormat, Version: studio.Version, Now: p.doc.Now, Lots: p.counted.Lots, Links: p.counted.Links,
		Pegs: p.counted.Pegs, Tasks: []studio.Task{}, Unplaced: []studio.Unplaced{}, Orders: []studio.Outcome{}}
	for _, j := range p.all {
		if j.task == nil {
			continue
		}
		for i := range j.Holds {
			held, _, _ := p.heldBy(j, i)
			j.task.Holds = append(j.task.Holds, held)
		}
		out.Tasks = append(out.Tasks, *j.task)
	}
	out.Unplaced = append(out.Unplaced, p.unplaced...)
	out.Objective.Slacks = []studio.Minute{}
	for _, want := range p.instance.Orders {
		o, slack := p.outcome(want, p.feeding[want.ID])
		out.Orders = append(out.Orders, o)
		out.Objective.Lateness += want.Importance * o.Steps
		out.Objective.Slacks = append(out.Objective.Slacks, min(slack, studio.MostSlack))
	}
	slices.Sort(out.Objective.Slacks)
	for _, j := range p.all {
		if j.task == nil || j.Done() {
			continue
		}
		out.Objective.Setup += j.task.Setup
		if m := p.maker(j.task.Person); m != nil && j.task.Overtime {
			for _, span := range worked(j.task) {
				out.Objective.Overtime += span.To - span.From - m.hours.Worked(span)
			}
		}
	}
	out.Objective.Disturbance = p.disturbance()
	return out
}

// gone is when what is unplaced counts as ready.
func (p *placement) gone() studio.Minute { return p.doc.Horizon() + 1440 }

// outcome says when an order is ready, how late that is, and which task its date
// hangs on.
func (p *placement) outcome(want studio.Want, feeding []studio.ID) (studio.Outcome, studio.Minute) {
	o := studio.Outcome{Order: want.ID, ReadyBy: want.ReadyBy}
	ready, last := want.Since, (*studio.Task)(nil)
	for _, l := range p.instance.Lots {
		if !slices.Contains(want.Lots, l.ID) {
			continue
		}
		end := p.byID[l.Tasks[len(l.Tasks)-1].ID].task
		if end == nil {
			o.Late = max(0, p.gone()-want.ReadyBy)
			o.Steps = int64(studio.CeilDiv(o.Late, 15))
			return o, want.ReadyBy - p.gone()
		}
		if end.End > ready {
			ready, last = end.End, end
		}
	}
	slack := want.ReadyBy - ready
	o.Ready, o.Slack, o.Late = &ready, &slack, max(0, -slack)
	o.Steps = int64(studio.CeilDiv(o.Late, 15))
	o.Limit = p.limit(last, func(t *studio.Task) bool { return slices.Contains(feeding, t.Lot) })
	return o, slack
}

// disturbance is how far tasks that people have seen for the next two days move,
// and change hands.
func (p *placement) disturbance() int64 {
	var sum int64
	for _, seen := range p.doc.Seen {
		j := p.byID[seen.Task]
		switch {
		case j == nil || j.Fact != nil || seen.Start < p.doc.Now || seen.Start >= p.doc.Now+studio.SeenAhead:
		case j.task == nil:
			sum += int64(p.gone() - seen.Start)
		default:
			sum += int64(max(j.task.Start-seen.Start, seen.Start-j.task.Start))
			if j.task.Person != seen.Person {
				sum += studio.PersonChange
			}
		}
	}
	return sum
}

// limit walks the chain of causes back from the last task of an order and gives
// the one of its own that adds the most time: from the end of its own task
// before, work of other orders in between included.
func (p *placement) limit(last *studio.Task, own func(*studio.Task) bool) studio.ID {
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
func (p *placement) before(task *studio.Task) *studio.Task {
	cause := p.byID[task.CausedBy]
	if cause == nil || cause.task == nil || cause.task.Begin() >= task.Begin() {
		return nil
	}
	return cause.task
}
