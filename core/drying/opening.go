package drying

import "bractum/core/studio"

// Course is a length whose need has been worked out: how long it takes from any
// minute on. It is immutable and safe for concurrent use.
type Course struct {
	minutes studio.Minute
	clock   *Clock
	need    int64
	since   studio.Minute  // of pieces of which it is known where they have lain, up to when
	reached *studio.Minute // of pieces that were found to be there, when
}

// Course works out a length as a lower limit: until nearly all of the pieces are
// there.
func (r Room) Course(l studio.Length) Course {
	if l.Dries == nil {
		return Course{minutes: l.Minutes}
	}
	return r.course(*l.Dries, r.Late(l.Dries.Class))
}

func (r Room) course(d studio.Dries, percentile int64) Course {
	c := Course{clock: r.clock(d.Class, d.In), need: r.need(d, percentile), reached: d.Reached}
	if n := len(d.Lain); n > 0 {
		c.since, c.need = d.Lain[n-1].To, max(0, c.need-r.Passed(d.Class, d.Lain))
	}
	if c.reached != nil {
		c.need = 0
	}
	return c
}

// End is when it is over if it begins at t; false when it is not before the horizon.
func (c Course) End(t studio.Minute) (studio.Minute, bool) {
	if c.clock == nil {
		return t + c.minutes, true
	}
	if c.reached != nil {
		return max(t, *c.reached), true
	}
	return c.clock.Ready(max(t, c.since), c.need)
}

// Standard is how long it takes in standard air, rounded up to the minute.
func (c Course) Standard() studio.Minute {
	if c.clock == nil {
		return c.minutes
	}
	return studio.Milliminutes(c.need).Minutes()
}

// Quickest is the least it can take in any air.
func (c Course) Quickest() studio.Minute {
	if c.clock == nil {
		return c.minutes
	}
	return studio.CeilDiv(studio.Minute(c.need), fastest)
}

// Opening is a window whose needs have been worked out. Wall minutes count to the
// minute; a state to be reached is reached by nearly all pieces, a state to be avoided
// not yet by the first of them. Where these cross, both are taken at the median and
// the window is narrow. It is immutable and safe for concurrent use.
type Opening struct {
	least, most     Course
	from, to, state bool // it has a least, a most, and that most is a state
	narrow          bool
}

// Opening works out the window of a lag.
func (r Room) Opening(lag studio.Lag) Opening {
	o := Opening{from: lag.Least != nil, to: lag.Most != nil, narrow: r.Crossed(lag)}
	if o.from {
		o.least = r.Course(*lag.Least)
	}
	if o.to {
		o.most = Course{minutes: lag.Most.Minutes}
		if o.state = lag.Most.Dries != nil; o.state {
			o.most = r.course(*lag.Most.Dries, r.Early(lag.Most.Dries.Class))
		}
	}
	if o.narrow {
		o.least, o.most = r.course(*lag.Least.Dries, 50), r.course(*lag.Most.Dries, 50)
	}
	return o
}

// Standard is the least time of the window in standard air, as nearly all pieces
// need it.
func (o Opening) Standard() studio.Minute { return o.least.Standard() }

// Quickest is the least time of the window in any air.
func (o Opening) Quickest() studio.Minute { return o.least.Quickest() }

// Longest is the most time of the window in standard air, as the first pieces leave it,
// rounded down; false where it has no end.
func (o Opening) Longest() (studio.Minute, bool) {
	if o.most.clock == nil {
		return o.most.minutes, o.to
	}
	return studio.Minute(o.most.need / 1000), o.to
}

// At is the first and the last minute of the window measured from t. No last minute
// is one past all time; no first minute, when the air never gets dry enough, makes ok
// false.
func (o Opening) At(t studio.Minute) (first, last studio.Minute, narrow, ok bool) {
	first, last, ok = t, Never, true
	if o.from {
		if first, ok = o.least.End(t); !ok {
			return 0, 0, o.narrow, false
		}
	}
	if o.to {
		last = o.Last(t)
	}
	return first, last, o.narrow, true
}

// Last is the last minute alone.
func (o Opening) Last(t studio.Minute) studio.Minute {
	last, reached := o.most.End(t)
	switch {
	case !o.to || !reached:
		return Never
	case o.state:
		return last - 1 // the minute before that state
	}
	return last
}
