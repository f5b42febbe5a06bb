package plan

import "bractum/core/studio"

// passage is how the pieces of a job pass through where it is placed: one after the other, in
// the order in which they came, evenly over what is worked after its setup.
type passage struct {
	start, setup, rest studio.Minute // rest is worked on the pieces
	pieces             int64
	pauses             []studio.Span
	whole              bool // a wait: all of them at once
}

// passageAt is that of a job at a spot.
func (j *job) passageAt(at *spot) passage {
	p := passage{start: at.start, pieces: max(1, j.Pieces), pauses: at.pauses(), whole: j.Wait != nil}
	p.rest = at.end - at.start
	for _, pause := range p.pauses {
		p.rest -= pause.To - pause.From
	}
	if i := j.wayOf(int(at.maker)); i >= 0 && !j.Done() {
		p.setup = min(p.rest, j.ways[i].setup+studio.Minute(at.setup))
		p.rest -= p.setup
	}
	return p
}

// done is when so many pieces are done, rounded down.
func (p *passage) done(pieces int64) studio.Minute {
	if p.whole {
		return p.start + p.rest
	}
	at := p.start + p.setup + studio.Minute(int64(p.rest)*pieces/p.pieces)
	for _, pause := range p.pauses {
		if pause.From < at {
			at += pause.To - pause.From
		}
	}
	return at
}

// takes is when a piece is taken up once so many are done, rounded up.
func (p *passage) takes(after int64) studio.Minute {
	if p.whole {
		return p.start
	}
	at := p.start + p.setup + studio.Minute(studio.CeilDiv(int64(p.rest)*after, p.pieces))
	for _, pause := range p.pauses {
		if pause.From <= at {
			at += pause.To - pause.From
		}
	}
	return at
}

// tooLate is by how many minutes a job takes up a piece too late under a window that binds
// each of them, at most; not more than nothing where it is in time. It takes O(pieces).
func (k *lag) tooLate(from, to *passage) (by studio.Minute) {
	last, since := studio.Minute(0), studio.Minute(-1)<<62
	for i := range from.pieces {
		if done := from.done(i + 1); done != since {
			last, since = k.Last(done), done
		}
		by = max(by, to.takes(i*to.pieces/from.pieces)-last)
	}
	return by
}

// late is by how much a job takes up pieces of another too late, both being placed.
func (s *schedule) late(k *lag, from, to *job) studio.Minute {
	a, b := from.passageAt(&s.at[from.number]), to.passageAt(&s.at[to.number])
	return k.tooLate(&a, &b)
}

// firstDone is the last minute that a window which binds each piece leaves the first piece
// of a job that is placed.
func (s *schedule) firstDone(k *lag, from *job) studio.Minute {
	p := from.passageAt(&s.at[from.number])
	return k.Last(p.done(1))
}

// lateIfSooner is true where a follower would take up pieces of a job too late if that ended
// a minute sooner.
func (s *schedule) lateIfSooner(k *lag, from *job) bool {
	a, b := from.passageAt(&s.at[from.number]), k.other.passageAt(&s.at[k.other.number])
	a.start--
	return k.tooLate(&a, &b) > 0
}

// tightest is by how much pieces are too late where one job follows right on the other and
// nobody pauses: no way of placing the two would be better, in that air.
func (s *schedule) tightest(k *lag, from, to *job) studio.Minute {
	a, b := from.passageAt(&s.at[from.number]), to.passageAt(&s.at[to.number])
	a.pauses, b.pauses = nil, nil
	b.start = a.start + a.setup + a.rest
	return k.tooLate(&a, &b)
}

// spoilt says which pieces a job that was placed takes up too late. What they come from is
// to begin later by that, unless it would be too late even right behind it: then it is for
// good, or until the air is another.
func (s *schedule) spoilt(j *job) *fault {
	if j.Fact != nil {
		return nil
	}
	for i := range j.in {
		k := &j.in[i]
		if !k.each || s.at[k.other.number].state != placed {
			continue
		}
		by := s.late(k, k.other, j)
		if by <= 0 {
			continue
		}
		why := fault{kind: outlasts, of: j, by: k.other, have: by}
		if s.tightest(k, k.other, j) > 0 {
			if !k.drying {
				return &why
			}
			by = max(by, 60)
		}
		return s.delayJob(k.other, by, why)
	}
	return nil
}
