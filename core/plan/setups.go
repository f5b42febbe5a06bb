package plan

import "bractum/core/studio"

// brush is the mix that a maker last worked with in a family, in a turn that ended at
// a minute, and whether other work came since; an empty mix is none yet.
type brush struct {
	mix   studio.ID
	at    studio.Minute
	other bool
}

// last is a maker's brush of a family before a place in their order of work.
func (p *placement) last(m *maker, f *studio.Family, before int) brush {
	for i := before - 1; i >= 0; i-- {
		if u := m.turns[i]; u.job.of(f) {
			return brush{u.job.Setup.Mix, max(u.start, u.end-1), i < before-1}
		}
	}
	return brush{m.Colours[f.ID], p.doc.Now, before > 0}
}

// of is true of a job that belongs to a setup family.
func (j *job) of(f *studio.Family) bool { return j.Setup != nil && j.Setup.Family == f.ID }

// change is what it costs to come from a brush to a mix at a minute.
func (p *placement) change(f *studio.Family, from brush, to studio.ID, at studio.Minute) studio.Minute {
	if from.mix != "" && (f.Reset == studio.ResetOtherWork && from.other || f.Reset == studio.ResetNight && !p.calendar.SameDay(from.at, at)) {
		from.mix = ""
	}
	return f.Cost(from.mix, to)
}

// setup is what a job is charged when a person begins it at a minute; and, where
// that would change what a later turn is charged, the end of that turn.
func (p *placement) setup(m *maker, j *job, start, end studio.Minute) (charge, later studio.Minute, fits bool) {
	at := m.turnAt(j.ID, start)
	fits = true
	for i := range p.doc.Families {
		f := &p.doc.Families[i]
		if !j.of(f) && f.Reset != studio.ResetOtherWork {
			continue
		}
		before := p.last(m, f, at)
		if j.of(f) && j.Fact == nil {
			charge = p.change(f, before, j.Setup.Mix, start)
		}
		next := at
		for next < len(m.turns) && !m.turns[next].job.of(f) {
			next++
		}
		if next == len(m.turns) || m.turns[next].job.Fact != nil {
			continue
		}
		before.other = true
		if j.of(f) {
			before = brush{j.Setup.Mix, max(start, end-1), next > at}
		}
		if u := m.turns[next]; p.change(f, before, u.job.Setup.Mix, u.start) != u.setup {
			later, fits = u.end, false
		}
	}
	return charge, later, fits
}
