package plan

import (
	"slices"

	"bractum/core/studio"
)

// worth is what a schedule comes to.
func (s *schedule) worth() studio.Objective {
	o := studio.Objective{Slacks: make([]studio.Minute, 0, len(s.orders))}
	for _, w := range s.orders {
		slack := w.ReadyBy - s.readyOf(w)
		o.Lateness += w.Importance * steps(-slack)
		o.Slacks = append(o.Slacks, min(slack, studio.MostSlack))
	}
	slices.Sort(o.Slacks)
	for _, j := range s.jobs {
		t := &s.at[j.number]
		if t.state != placed || t.maker < 0 || j.Done() {
			continue
		}
		o.Setup += studio.Minute(t.setup)
		if t.overtime {
			for n := range t.stretches() {
				span := t.stretch(n)
				o.Overtime += span.To - span.From - s.makers[t.maker].regular.Worked(span)
			}
		}
	}
	o.Disturbance = s.disturbance()
	return o
}

// lateness is how late an order is, in steps times its importance.
func (s *schedule) lateness(o *order) int64 { return o.Importance * steps(s.readyOf(o)-o.ReadyBy) }

// steps are the begun steps of a lateness, none when there is none.
func steps(late studio.Minute) int64 { return int64(studio.CeilDiv(max(0, late), studio.LateStep)) }

// lateIfUnplaced is when what is unplaced counts as ready.
func (p *problem) lateIfUnplaced() studio.Minute { return p.horizon + 1440 }

// readyOf is when the last of what an order takes is ready.
func (s *schedule) readyOf(o *order) studio.Minute {
	ready := o.Since
	for _, j := range o.last {
		if s.at[j.number].state != placed {
			return s.lateIfUnplaced()
		}
		ready = max(ready, s.at[j.number].end)
	}
	return ready
}

// disturbance is how far tasks that people have seen for the next two days move,
// and change hands.
func (s *schedule) disturbance() int64 {
	var sum int64
	for i := range s.seen {
		seen := &s.seen[i]
		sum += s.departure(seen.job, seen.Start, seen.Person)
	}
	return sum
}

// departure is how far a job is from when and by whom people were told that it is begun.
func (s *schedule) departure(j *job, start studio.Minute, person studio.ID) int64 {
	t := &s.at[j.number]
	if t.state != placed {
		return int64(s.lateIfUnplaced() - start)
	}
	off := int64(max(t.start-start, start-t.start))
	if s.personOf(t) != person {
		off += studio.PersonChange
	}
	return off
}

func (s *schedule) personOf(t *spot) studio.ID {
	if t.maker < 0 {
		return ""
	}
	return s.makers[t.maker].ID
}

// leftOutCount is how many jobs are leftOutCount out.
func (s *schedule) leftOutCount() (out int) {
	for i := range s.at {
		if s.at[i].state == gone {
			out++
		}
	}
	return out
}
