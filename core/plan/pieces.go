package plan

import (
	"bractum/core/drying"
	"bractum/core/studio"
)

// passageAt is how the pieces of a job pass through it at a spot; of one that is under way and
// of which nothing was counted, from its start on.
func (j *job) passageAt(at *spot) studio.Passage {
	p := studio.Passage{Start: at.start, Pieces: max(1, j.Pieces), Pauses: at.pauses(), Whole: j.Wait != nil}
	if j.Fact.Passes() {
		return j.Fact.Passed(p, at.end)
	}
	p.Rest = p.Worked(at.end)
	if i := j.wayOf(int(at.maker)); i >= 0 {
		p.Setup = min(p.Rest, j.ways[i].setup+studio.Minute(at.setup))
	}
	p.Rest -= p.Setup
	return p
}

// spare is the share of a window of pieces that is kept for those who work slower or faster
// than the book has it, while what they come from was not begun: a fifth, as in the size of a batch.
const spare = 5

// lastTake is when pieces of a job must be taken up at the latest, by when they are done.
func (s *schedule) lastTake(k *lag, from *job) func(done studio.Minute) studio.Minute {
	if !s.spares || from.Fact != nil {
		return k.Last
	}
	return func(done studio.Minute) studio.Minute {
		last := k.Last(done)
		return last - (last-done)/spare
	}
}

// late is by how much a job takes up pieces of another too late, both being placed.
func (s *schedule) late(k *lag, from, to *job) studio.Minute {
	a, b := from.passageAt(&s.at[from.number]), to.passageAt(&s.at[to.number])
	return a.Latest(&b, s.lastTake(k, from))
}

// begunPieces is true of a job whose pieces there are already, or that somebody is at.
func (j *job) begunPieces() bool {
	return j.Fact != nil || j.inAir() && j.before != nil && j.before.Done()
}

// overdue is by how much a placed job takes up pieces of a begun one too late.
func (s *schedule) overdue(j *job) (most studio.Minute) {
	if j.Fact != nil || s.doc.Direct != nil {
		return 0
	}
	for i := range j.in {
		if k := &j.in[i]; k.each && k.other.begunPieces() && s.at[k.other.number].state == placed {
			most = max(most, s.late(k, k.other, j))
		}
	}
	return most
}

// firstDone is the last minute that a window which binds each piece leaves the first piece
// of a job that is placed.
func (s *schedule) firstDone(k *lag, from *job) studio.Minute {
	p := from.passageAt(&s.at[from.number])
	return s.lastTake(k, from)(p.Done(1))
}

// lateIfSooner is true where a follower would take up pieces of a job too late if that ended
// a minute sooner.
func (s *schedule) lateIfSooner(k *lag, from *job) bool {
	a, b := from.passageAt(&s.at[from.number]), k.other.passageAt(&s.at[k.other.number])
	a.Start--
	return a.Latest(&b, k.Last) > 0 // the whole window, as it is explained
}

// soonestAfter is when after one job ends another of its cluster can begin at the soonest, if
// nobody is busy or ever goes home, the one ending at a minute.
func (s *schedule) soonestAfter(from, to *job, end studio.Minute) studio.Minute {
	ends := map[*job]studio.Minute{from: end}
	for _, j := range to.cluster.jobs {
		if j.rank <= from.rank {
			continue
		}
		start, after := studio.Minute(0), false
		if at, known := ends[j.before]; known {
			start, after = at, true
		}
		for i := range j.in {
			if at, known := ends[j.in[i].other]; known {
				if first, _, _, ok := j.in[i].At(at); ok {
					start, after = max(start, first), true
				}
			}
		}
		switch {
		case j == to:
			return max(start, end)
		case !after:
		case j.inAir() && j.continues == nil:
			if over, ok := j.least.End(start); ok {
				ends[j] = over
			}
		default:
			ends[j] = start + j.quickest
		}
	}
	return end
}

// opensAfter is in how many hours pieces of one job could be taken up in time by another that
// begins as soon as it can: the air is another then. False where that is at no hour of a day.
func (s *schedule) opensAfter(k *lag, from, to *job) (studio.Minute, bool) {
	a, b := from.passageAt(&s.at[from.number]), to.passageAt(&s.at[to.number])
	a.Pauses, b.Pauses = nil, nil
	start := a.Start
	for shift := studio.Minute(0); shift < 1440; shift += 60 {
		a.Start = start + shift
		b.Start = s.soonestAfter(from, to, a.Start+a.Setup+a.Rest)
		if a.Latest(&b, s.lastTake(k, from)) <= 0 {
			return shift, true
		}
		if !k.drying {
			break
		}
	}
	return 0, false
}

// spoilt says which pieces a job that was placed takes up too late. What they come from is
// to begin later by that; or once the air is another, where it would be too late whoever is
// free; or never, where it would be too late at any hour.
func (s *schedule) spoilt(j *job) *fault {
	if j.Fact != nil {
		return nil
	}
	for i := range j.in {
		k := &j.in[i]
		if !k.each || s.at[k.other.number].state != placed || s.overruns && k.other.begunPieces() {
			continue
		}
		by := s.late(k, k.other, j)
		if by <= 0 {
			continue
		}
		why := fault{kind: outlasts, of: j, by: k.other, have: by}
		shift, ever := s.opensAfter(k, k.other, j)
		if !ever {
			return &why
		}
		return s.delayJob(k.other, max(by, shift), why)
	}
	return nil
}

// inRun is a window inside one run of a job done by somebody: when, since the run began,
// pieces are done by one effort and taken up by another.
type inRun struct {
	drying.Opening
	before studio.Minute // is worked of the job before the run
	pieces []passing
	dries  bool
}

type passing struct{ done, taken studio.Milliminutes }

// withinRuns are the windows inside the runs of a job that a person does in a way. It takes
// O(pieces).
func (p *problem) withinRuns(j *job, person *studio.Person, w *way) (all []inRun) {
	if j.Fact != nil || len(j.Within) == 0 {
		return nil
	}
	var before studio.Minute
	for number, run := range j.InRuns() {
		if number == len(w.runs) {
			break
		}
		for _, window := range j.Within {
			in := inRun{Opening: p.air.Opening(studio.Lag{Most: &window.Most}), before: before,
				dries: window.Most.Dries != nil}
			for i := range max(1, run[window.From].Pieces) {
				done, taken := j.Between(window, person, run, i)
				in.pieces = append(in.pieces, passing{done: done, taken: taken})
			}
			all = append(all, in)
		}
		before += w.runs[number]
	}
	return all
}

// lateInRuns is true where pieces would wait too long inside a run, were the job to begin so,
// and says from when to try again; 0 is never.
func (w *way) lateInRuns(start, setup studio.Minute, pauses []studio.Span) (next studio.Minute, late bool) {
	for i := range w.within {
		in := &w.within[i]
		begin := start + in.before + setup
		for _, pause := range pauses {
			if pause.From <= begin {
				begin += pause.To - pause.From
			}
		}
		known, most := studio.Minute(-1), studio.Minute(0)
		for _, p := range in.pieces {
			if done := begin + studio.Minute(p.done/1000); done != known {
				known, most = done, in.Last(done)-done
			}
			switch {
			case p.taken-p.done <= 1000*studio.Milliminutes(most):
			case in.dries:
				return start + 60, true
			default:
				return 0, true
			}
		}
	}
	return 0, false
}
