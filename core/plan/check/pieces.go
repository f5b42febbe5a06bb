package check

import "bractum/core/studio"

// passage is how the pieces of a task pass through it: one after the other, evenly over what is
// worked after its setup.
type passage struct {
	task          *studio.Task
	pieces        int64
	setup, worked studio.Minute
	begin         studio.Minute
}

func (c *checker) passageOf(a *studio.Activity, t *studio.Task) passage {
	f := passage{task: t, pieces: max(1, a.Pieces), begin: t.Begin(), worked: t.End - t.Begin()}
	for _, p := range t.Pauses {
		f.worked -= p.To - p.From
	}
	if a.Wait == nil && !a.Done() {
		f.setup = min(f.worked, a.SetupFor(c.people[t.Person], t.Setup))
	}
	return f
}

// wall is the minute at which so much is worked; a pause that comes right then is over if
// after says so.
func (f passage) wall(worked studio.Minute, after bool) studio.Minute {
	at := f.begin + worked
	for _, p := range f.task.Pauses {
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
// the window leaves it since it was done by the other. It takes O(pieces).
func (c *checker) pieces(lag studio.Lag, from, to *studio.Task) {
	a, b := c.activities[lag.From], c.activities[lag.To]
	source, sink := c.passageOf(a, from), c.passageOf(b, to)
	for i := int64(1); i <= source.pieces; i++ {
		done, taken := from.End, to.Begin()
		if a.Wait == nil {
			done = source.done(i)
		}
		if b.Wait == nil {
			taken = sink.takes((i - 1) * sink.pieces / source.pieces)
		}
		if _, last, _, _ := c.air.Window(lag, done); taken > last {
			c.say(TooLate, lag.To, "takes up piece %d at %d; %q has it done at %d, and %d is the last minute",
				i, taken, lag.From, done, last)
			return
		}
	}
}
