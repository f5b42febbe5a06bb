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

// done is the minute, rounded down, by which so many pieces are done: a pause that comes
// right then has not begun.
func (f passage) done(pieces int64) studio.Minute {
	worked := f.setup + studio.Minute(int64(f.worked-f.setup)*pieces/f.pieces)
	at := f.begin + worked
	for _, p := range f.task.Pauses {
		if p.From < at {
			at += p.To - p.From
		}
	}
	return at
}

// takes is the minute, rounded up, at which a piece is taken up when so many are done: a
// pause that comes right then is over.
func (f passage) takes(after int64) studio.Minute {
	worked := f.setup + studio.Minute(studio.CeilDiv(int64(f.worked-f.setup)*after, f.pieces))
	at := f.begin + worked
	for _, p := range f.task.Pauses {
		if p.From <= at {
			at += p.To - p.From
		}
	}
	return at
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
