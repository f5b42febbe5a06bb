package plan

import "bractum/core/studio"

// brush is the mix that a maker last worked with in a family, in a turn that ended at
// a minute, and whether other work came since; an empty mix is none yet.
type brush struct {
	mix   studio.ID
	at    studio.Minute
	other bool
}

// lastBrush is a maker's brush of a family before a place in their order of work.
func (s *schedule) lastBrush(m *maker, f *studio.Family, before int) brush {
	for i := before - 1; i >= 0; i-- {
		if u := &m.turns[i]; s.jobs[u.job].family == f {
			return brush{mix: s.jobs[u.job].mix, at: max(u.start, u.end-1), other: i < before-1}
		}
	}
	return brush{mix: m.Colours[f.ID], at: s.now, other: before > 0}
}

// setupCost is what it costs to come from a brush to a mix at a minute.
func (s *schedule) setupCost(f *studio.Family, from brush, to studio.ID, at studio.Minute) studio.Minute {
	if from.mix != "" &&
		(f.Reset == studio.ResetOtherWork && from.other || f.Reset == studio.ResetNight && !s.calendar.SameDay(from.at, at)) {
		from.mix = ""
	}
	return f.Cost(from.mix, to)
}

// setupBetween is what a job is charged when a person begins it at a minute; and, where
// that would change what a later turn is charged, the end of that turn.
func (s *schedule) setupBetween(m *maker, j *job, start, end studio.Minute) (charge, later studio.Minute, fits bool) {
	at := m.turnAt(j, start)
	fits = true
	for i := range s.doc.Families {
		f := &s.doc.Families[i]
		if j.family != f && f.Reset != studio.ResetOtherWork {
			continue
		}
		before := s.lastBrush(m, f, at)
		if j.family == f && j.Fact == nil {
			charge = s.setupCost(f, before, j.mix, start)
		}
		next := at
		for next < len(m.turns) && s.jobs[m.turns[next].job].family != f {
			next++
		}
		if next == len(m.turns) || s.jobs[m.turns[next].job].Fact != nil {
			continue
		}
		before.other = true
		if j.family == f {
			before = brush{mix: j.mix, at: max(start, end-1), other: next > at}
		}
		if u := &m.turns[next]; s.setupCost(f, before, s.jobs[u.job].mix, u.start) != u.setup {
			later, fits = u.end, false
		}
	}
	return charge, later, fits
}

// mischarged is a planned turn of a maker that is not charged what the turns before it
// make it cost, nil where there is none.
func (s *schedule) mischarged(m *maker) *job {
	for i := range m.turns {
		u := &m.turns[i]
		j := s.jobs[u.job]
		if j.family != nil && j.Fact == nil &&
			s.setupCost(j.family, s.lastBrush(m, j.family, i), j.mix, u.start) != u.setup {
			return j
		}
	}
	return nil
}
