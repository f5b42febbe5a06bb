package plan

import "bractum/core/studio"

// charges reckons the colour setup of each of a person's turns in order.
func (p *placement) charges(m *maker, turns []turn) []studio.Minute {
	type last struct {
		mix   studio.ID
		at    studio.Minute
		other bool
	}
	out := make([]studio.Minute, len(turns))
	for i := range p.doc.Families {
		f := &p.doc.Families[i]
		var state *last
		if mix, known := m.Colours[f.ID]; known {
			state = &last{mix, p.doc.Now, false}
		}
		for k, u := range turns {
			use := u.job.Setup
			if use == nil || use.Family != f.ID {
				if state != nil {
					state.other = true
				}
				continue
			}
			var from studio.ID
			if state != nil && !(f.Reset == studio.ResetNight && !p.calendar.SameDay(state.at, u.start)) && !(f.Reset == studio.ResetOtherWork && state.other) {
				from = state.mix
			}
			if u.job.Fact == nil {
				out[k] = f.Cost(from, use.Mix)
			}
			state = &last{use.Mix, max(u.start, u.end-1), false}
		}
	}
	return out
}

// setup is what a job is charged when a person begins it at a minute; and, where
// that would change what a later turn is charged, the end of that turn.
func (p *placement) setup(m *maker, j *job, start, end studio.Minute) (charge, later studio.Minute, fits bool) {
	if len(p.doc.Families) == 0 {
		return 0, 0, true
	}
	at := m.turnAt(j.ID, start)
	turns := make([]turn, 0, len(m.turns)+1)
	turns = append(turns, m.turns[:at]...)
	turns = append(turns, turn{job: j, start: start, end: end})
	turns = append(turns, m.turns[at:]...)
	charges := p.charges(m, turns)
	for i := at + 1; i < len(turns); i++ {
		if charges[i] != turns[i].setup {
			return charges[at], turns[i].end, false
		}
	}
	return charges[at], 0, true
}
