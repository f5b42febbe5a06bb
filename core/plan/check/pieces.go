package check

import "bractum/core/studio"

// passage is how the pieces of a task pass through it: one after the other, evenly over what is
// worked after its setup.
type passage struct {
	pieces        int64
	setup, worked studio.Minute
	begin         studio.Minute
	pauses        []studio.Span
}

func (c *checker) passageOf(a *studio.Activity, t *studio.Task) passage {
	f := passage{pieces: max(1, a.Pieces), begin: t.Begin(), pauses: t.Pauses}
	setup := studio.Minute(0)
	switch {
	case a.Done():
		f.begin, f.pauses, setup = t.Start, a.Fact.Pauses, a.Fact.Setup
	case a.Fact != nil && a.Fact.Uncounted:
		f.begin, f.pauses, setup = t.Start, append(a.Fact.PausesBefore(t.Begin()), t.Pauses...), a.Fact.Setup
	case a.Wait == nil:
		setup = a.SetupFor(c.people[t.Person], t.Setup)
	}
	f.worked = f.workedUntil(t.End)
	f.setup = min(f.worked, setup)
	return f
}

// workedUntil is how many minutes are worked until a minute.
func (f passage) workedUntil(end studio.Minute) studio.Minute {
	end -= f.begin
	for _, p := range f.pauses {
		end -= p.To - p.From
	}
	return end
}

// wall is the minute at which so much is worked; a pause that comes right then is over if
// after says so.
func (f passage) wall(worked studio.Minute, after bool) studio.Minute {
	at := f.begin + worked
	for _, p := range f.pauses {
		if p.From < at || after && p.From == at {
			at += p.To - p.From
		}
	}
	return at
}

// done is the minute, rounded down, in which so many pieces are done.
func (f passage) done(pieces int64) studio.Minute {
	parts := int64(f.worked-f.setup) * pieces
	return f.wall(f.setup+studio.Minute(parts/f.pieces), parts%f.pieces != 0)
}

// takes is the minute, rounded up, by which a piece is taken up when so many are done.
func (f passage) takes(done int64) studio.Minute {
	parts := int64(f.worked-f.setup) * done
	return f.wall(f.setup+studio.Minute(studio.CeilDiv(parts, f.pieces)), parts%f.pieces == 0)
}

// pieces checks a window that binds every piece: each is taken up by one task no later than
// the window leaves it since it was done by the other. Of pieces that are there it notes by how much
// one is taken up too late: they cannot be made later. It takes O(pieces).
func (c *checker) pieces(lag studio.Lag, from, to *studio.Task) {
	a, b := c.activities[lag.From], c.activities[lag.To]
	source, sink := c.passageOf(a, from), c.passageOf(b, to)
	there := c.there(a)
	for i := int64(1); i <= source.pieces; i++ {
		done, taken := from.End, to.Begin()
		if a.Wait == nil {
			done = source.done(i)
		}
		if b.Wait == nil {
			taken = sink.takes((i - 1) * sink.pieces / source.pieces)
		}
		if _, last, _, _ := c.air.Window(lag, done); there {
			c.overdue[lag.To] = max(c.overdue[lag.To], taken-last)
		} else if taken > last {
			c.say(TooLate, lag.To, "takes up piece %d at %d; %q has it done at %d, and %d is the last minute",
				i, taken, lag.From, done, last)
			return
		}
	}
}

// there is true of a task whose pieces there are already, or that somebody is at.
func (c *checker) there(a *studio.Activity) bool {
	if c.doc.Direct != nil || a.Fact != nil || a.Wait == nil || a.Wait.Load != nil {
		return c.doc.Direct == nil && a.Fact != nil
	}
	for _, l := range c.instance.Lots {
		for i := 1; i < len(l.Tasks); i++ {
			if l.Tasks[i].ID == a.ID {
				return l.Tasks[i-1].Done()
			}
		}
	}
	return false
}

// runs checks the windows inside the runs of a task: each piece is taken up by one effort no
// later than the window leaves it since it was done by another. It takes O(pieces).
func (c *checker) runs(a *studio.Activity, t *studio.Task, lengths []studio.Minute) {
	if a.Fact != nil || len(a.Within) == 0 {
		return
	}
	var worked studio.Minute
	number := -1
	for first := 0; first < len(a.Work); {
		past := first
		for past < len(a.Work) && a.Work[past].Run == a.Work[first].Run {
			past++
		}
		if number++; number >= len(lengths) {
			return
		}
		before := worked
		if number == 0 {
			before += t.Setup
		}
		for _, w := range a.Within {
			c.run(a, t, w, a.Work[first:past], before)
		}
		worked += lengths[number]
		first = past
	}
}

// run checks one window inside a run of which so many minutes of the task were worked before.
func (c *checker) run(a *studio.Activity, t *studio.Task, w studio.Within, run []studio.Effort, before studio.Minute) {
	begin := passage{begin: t.Begin(), pauses: t.Pauses}.wall(before, true)
	person := c.people[t.Person]
	length := func(m studio.Milliminutes, e studio.Effort) int64 { return int64(m.AtPace(person.Pace(e.Skill))) }
	starts := make([]int64, len(run)+1) // in thousandths of a minute since the run began
	for n, e := range run {
		starts[n+1] = starts[n] + length(e.Total(), e)
	}
	source, sink := run[w.From], run[w.To]
	for i := int64(1); i <= max(1, source.Pieces); i++ {
		setup := length(source.Setup, source)
		done := starts[w.From] + setup + (starts[w.From+1]-starts[w.From]-setup)*i/max(1, source.Pieces)
		setup = length(sink.Setup, sink)
		before := (i - 1) * sink.Pieces / max(1, source.Pieces)
		taken := starts[w.To] + setup + studio.CeilDiv((starts[w.To+1]-starts[w.To]-setup)*before, max(1, sink.Pieces))
		_, last, _, _ := c.air.Window(studio.Lag{Most: &w.Most}, begin+studio.Minute(done/1000))
		if most := last - begin - studio.Minute(done/1000); taken-done > 1000*int64(most) {
			c.say(
				TooLate,
				a.ID,
				"takes up piece %d of a run that begins at %d after %d thousandths of a minute; %d minutes are the most",
				i,
				begin,
				taken-done,
				most,
			)
			return
		}
	}
}
