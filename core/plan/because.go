package plan

import (
	"slices"

	"bractum/core/studio"
)

// because is what a job waited for before it began, whose doing that was, and which place,
// tool, machine or skill was short.
type because struct {
	cause studio.Cause
	by    *job
	of    studio.ID
}

// because works out what keeps a job from beginning earlier, everything else staying
// where it is: what it needs; its person's other work or hours, or a tool; a place
// that is full until then; or something after it that could not follow in time.
func (s *schedule) because(j *job) because {
	at := &s.at[j.number]
	if j.Done() || j.running() {
		return because{cause: studio.CauseNow}
	}
	r, why := s.readinessOf(j, 0)
	switch {
	case j.inAir():
		return because{cause: studio.CauseStep, by: j.before}
	case why != nil || at.start <= r.needs:
		return because{cause: r.cause, by: r.by}
	case r.fixed:
		return because{cause: studio.CausePin}
	case j.Wait != nil:
		return s.loadBecause(j, at, r)
	}
	way := &j.ways[j.wayOf(int(at.maker))]
	m := s.makers[at.maker]
	was := *at
	m.free(j, &was)
	s.occupyTools(j, &was, -1)
	found, failed := s.earliestSlot(way, j, &r, was.overtime, was.end)
	m.occupy(j, &was)
	s.occupyTools(j, &was, 1)
	if failed == noFault && found.start < was.start {
		if b := s.crowd(j, found.start); b.by != nil {
			return b
		}
		if b := s.window(j); b.by != nil {
			return b
		}
	}
	if found.tool {
		return because{cause: studio.CauseTool, by: s.holder(j, &was), of: s.doc.Tools[was.tools()[0]].ID}
	}
	if before := m.busyAfter(was.start) - 1; before >= 0 && m.busy[before].To > r.needs {
		return because{cause: studio.CausePerson, by: s.jobs[m.busy[before].job], of: studio.ID(j.Work[0].Skill)}
	}
	return because{cause: studio.CauseHours, by: r.by}
}

// longestBreak is the longest time away from work on one day that is a break, not an end of work.
const longestBreak = 3 * 60

// away is what keeps somebody from doing a job in a way at the minute that it is pinned to: they are not at
// work then, at something else that stays, or not for as long as it takes in one go.
func (s *schedule) away(j *job, w *way) fault {
	at, m := *j.pin.Start, s.makers[w.maker]
	why := fault{of: j, person: m.Name, most: w.total, pinned: true}
	hours := s.hours[w.maker]
	next, ok := hours.Next(at)
	if !ok || next > at {
		why.kind, why.have = offWork, next
		if last := hours.LastBefore(at); ok && last < at && next-last <= longestBreak &&
			s.calendar.SameDay(last, next) {
			why.kind = onBreak
		}
		return why
	}
	why.kind, why.have = tooShort, hours[hours.At(at)].To
	if i := m.busyAfter(at); i < len(m.busy) && m.busy[i].From < at+w.total {
		why.by, why.have = s.jobs[m.busy[i].job], m.busy[i].From
		if m.busy[i].From <= at {
			why.kind, why.have = atWork, m.busy[i].To
		}
	}
	return why
}

// loadBecause is why a wait in a machine did not begin earlier: its machine was in use.
func (s *schedule) loadBecause(j *job, at *spot, r readiness) because {
	m := s.machines[at.machine]
	i := slices.IndexFunc(m.loads, func(l *load) bool { return l.From == at.start })
	if i > 0 && s.firstShiftAfter(m.loads[i-1].To) > r.needs {
		return because{cause: studio.CauseTool, by: m.loads[i-1].jobs[0], of: m.ID}
	}
	for _, other := range m.loads[i].jobs {
		if other != j && s.at[other.before.number].end > r.needs {
			return because{cause: studio.CauseTool, by: other.before}
		}
	}
	return because{cause: studio.CauseHours, by: r.by}
}

// holder is who else had one of a job's tools until about its start.
func (s *schedule) holder(j *job, at *spot) *job {
	var last *job
	for _, kind := range at.tools() {
		for _, other := range s.gripping[kind] {
			to := &s.at[other.number]
			if other == j || to.state != placed || to.start >= at.start || !slices.Contains(to.tools(), kind) {
				continue
			}
			if to.end <= at.start && (last == nil || to.end > s.at[last.number].end) {
				last = other
			}
		}
	}
	return last
}

// crowd finds a place of a job's hold that is full if it begins at an earlier minute,
// and who frees it.
func (s *schedule) crowd(j *job, earlier studio.Minute) because {
	at := &s.at[j.number]
	for _, h := range s.sets(j) {
		for i := range h.holds {
			own := &h.holds[i]
			span, _ := s.heldSpan(h, i)
			begin := span.From - (at.start - earlier)
			room := s.rooms[own.place]
			if _, full := room.blocked(studio.Span{From: begin, To: span.From}, own.slots); begin >= span.From ||
				!full {
				continue
			}
			var last *job
			var freed studio.Minute
			for _, other := range s.holding[own.place] {
				for k := range other.holds {
					if other == h || other.holds[k].place != own.place || s.at[other.number].state != placed {
						continue
					}
					if until, _ := s.heldSpan(other, k); until.To <= span.From && until.To > freed && until.To > begin {
						last, freed = other, until.To
					}
				}
			}
			if last != nil {
				return because{cause: studio.CausePlace, by: last, of: s.doc.Places[own.place].ID}
			}
		}
	}
	return because{}
}

// sets are the jobs whose start a job's start sets: its own, and of the waits that
// begin when it ends.
func (s *schedule) sets(j *job) []*job {
	all := []*job{j}
	for k := j.after; k != nil && k.inAir(); k = k.after {
		all = append(all, k)
	}
	return all
}

// window finds what follows a job and would come too late if it began earlier.
func (s *schedule) window(j *job) because {
	for _, h := range s.sets(j) {
		end := s.at[h.number].end
		for i := range h.out {
			k := &h.out[i]
			to := &s.at[k.other.number]
			if !k.limited || to.state != placed || k.other.Fact != nil {
				continue
			}
			closes := k.Last(end-1) < to.start
			if k.each {
				closes = s.lateIfSooner(k, h)
			}
			if closes {
				return because{cause: studio.CauseWindow, by: k.other}
			}
		}
		for i := range h.holds {
			if until, known := s.heldUntil(h, i); known && h.holds[i].keeps > 0 &&
				until-s.at[h.number].start+1 > h.holds[i].keeps {
				for _, last := range h.holds[i].until {
					if s.at[last.number].end == until {
						return because{cause: studio.CauseWindow, by: last}
					}
				}
			}
		}
	}
	return because{}
}
