package drying

import (
	"math"

	"bractum/core/studio"
)

// Need is the standard drying time, in thousandths of a minute rounded up, by
// which the given percentile of pieces has reached the state:
// median × (thickness ÷ standard thickness)^1.5 × factor × e^(z·spread), waiting
// times being log-normal. Percentile is from 1 to 99; 50 is the median. Factor is
// what mix and method make of it, in thousandths; 0 counts as 1000.
func Need(
	class studio.DryingClass,
	thickness studio.Micrometres,
	state studio.State,
	factor studio.PerMille,
	percentile int64,
) int64 {
	median := class.DryMinutes
	switch state {
	case studio.Firm:
		median = class.FirmMinutes
	case studio.Stiff:
		median = class.StiffMinutes
	}
	if factor == 0 {
		factor = 1000
	}
	z := math.Sqrt2 * math.Erfinv(2*float64(percentile)/100-1)
	scale := math.Pow(float64(thickness)/float64(class.Thickness), 1.5) * math.Exp(z*float64(class.Spread)/1000)
	return int64(math.Ceil(float64(median)*float64(factor)*scale - 1e-6))
}

// again is the least that a piece needs which was just found not to be there yet, in
// thousandths of a standard minute: sooner nobody looks again.
const again = 10_000

// Beyond is the need of a percentile of those pieces that were not there after so much:
// the time to dry being log-normal with a median and a spread, its quantile given that it
// is longer than what has passed, and at least a little more than that.
func Beyond(median int64, spread studio.PerMille, percentile, passed int64) int64 {
	if spread == 0 {
		return max(passed+again, median)
	}
	sigma := float64(spread) / 1000
	longer := math.Erfc(
		math.Log(float64(passed)/float64(median))/sigma/math.Sqrt2,
	) / 2 // of all pieces take longer than that
	left := longer * (1 - float64(percentile)/100)
	need := float64(median) * math.Exp(sigma*math.Sqrt2*math.Erfcinv(2*left))
	if math.IsInf(need, 0) || math.IsNaN(need) { // further out than there are pieces
		need = 0
	}
	return max(passed+again, int64(math.Ceil(need-1e-6)))
}

// Room answers for waits and windows: it keeps one clock for each stall humidity
// and surroundings in use. It is immutable and safe for concurrent use.
type Room struct {
	machines   map[key]int64 // what dries in a minute in a machine, by machine and class, in thousandths
	classes    map[studio.ID]studio.DryingClass
	clocks     map[key]*Clock
	closed     map[studio.ID]bool
	percentile int64
}

type key struct {
	in    studio.ID // surroundings, or a machine
	stall studio.PerMille
	class studio.ID // of a machine
}

// NewRoom is the room of a valid document, with clocks from Since to its horizon. Documents
// of the same air within an hour share them.
func NewRoom(doc *studio.Document, calendar studio.Calendar) Room {
	return NewRoomSince(doc, calendar, doc.Since())
}

// NewRoomSince is the room of a document that looks further back, or less far, to a whole
// hour.
func NewRoomSince(doc *studio.Document, calendar studio.Calendar, since studio.Minute) Room {
	r := Room{
		machines:   map[key]int64{},
		classes:    map[studio.ID]studio.DryingClass{},
		clocks:     map[key]*Clock{},
		closed:     map[studio.ID]bool{},
		percentile: doc.Settings.PlanningPercentile,
	}
	for _, s := range doc.Surroundings {
		r.closed[s.ID] = s.Closed
	}
	for _, class := range doc.DryingClasses {
		r.classes[class.ID] = class
	}
	if len(doc.DryingClasses) == 0 {
		return r
	}
	for _, m := range doc.Machines {
		for _, d := range m.Dries {
			r.machines[key{in: m.ID, class: d.Class}] = 1000 * r.classes[d.Class].DryMinutes / int64(d.Minutes)
		}
	}
	r.clocks = clocksOf(doc, calendar, since)
	return r
}

// Clock is the clock of a class in surroundings.
func (r Room) Clock(class, in studio.ID) Clock { return *r.clock(class, in) }

func (r Room) clock(class, in studio.ID) *Clock {
	if clock := r.clocks[key{in: in, stall: r.classes[class].StallHumidity}]; clock != nil {
		return clock
	}
	return &Clock{}
}

// Late is the percentile by which lower limits are planned, Early the one for
// upper limits: 80 and 20 where the studio and the class leave it at that.
func (r Room) Late(class studio.ID) int64 {
	if p := r.classes[class].Percentile; p != 0 {
		return p
	}
	return r.percentile
}

// Early is the percentile by which upper limits are planned.
func (r Room) Early(class studio.ID) int64 { return 100 - r.Late(class) }

// Need is the standard time of a lower limit in thousandths of a minute: until
// nearly all of the pieces are there.
func (r Room) Need(l studio.Length) int64 {
	if l.Dries == nil {
		return int64(l.Minutes) * 1000
	}
	return r.need(*l.Dries, r.Late(l.Dries.Class))
}

// When is when a percentile of pieces, put down at t, reaches what they dry to; false when
// that is not before the horizon.
func (r Room) When(d studio.Dries, percentile int64, t studio.Minute) (studio.Minute, bool) {
	return r.course(d, percentile).End(t)
}

// Standard is the standard time, in thousandths of a minute, that a percentile of pieces
// needs in all.
func (r Room) Standard(d studio.Dries, percentile int64) int64 { return r.need(d, percentile) }

// Class is a drying class by its id.
func (r Room) Class(id studio.ID) studio.DryingClass { return r.classes[id] }

// need is that of all pieces or, of pieces that were found not to be there yet, of such.
func (r Room) need(d studio.Dries, percentile int64) int64 {
	class := r.classes[d.Class]
	for i := len(d.Lain) - 1; i >= 0; i-- {
		if d.Lain[i].NotYet {
			return Beyond(
				Need(class, d.Thickness, d.State, d.Factor, 50),
				class.Spread,
				percentile,
				r.Passed(d.Class, d.Lain[:i+1]),
			)
		}
	}
	return Need(class, d.Thickness, d.State, d.Factor, percentile)
}

// Passed is the standard time, in thousandths of a minute, that pieces have dried for. In a
// machine the need passes evenly over the minutes that the class needs there, nothing in one
// that says nothing of it.
func (r Room) Passed(class studio.ID, lain []studio.Lain) (passed int64) {
	for _, l := range lain {
		if l.Machine != "" {
			passed += int64(l.To-l.From) * r.machines[key{in: l.Machine, class: class}]
			continue
		}
		clock := r.clock(class, l.In)
		passed += clock.At(l.To) - clock.At(l.From)
	}
	return passed
}

// InMachine is how many minutes pieces need in a machine that have so much of their need left,
// in thousandths of a standard minute; false where it says nothing of their class.
func (r Room) InMachine(machine, class studio.ID, left int64) (studio.Minute, bool) {
	rate := r.machines[key{in: machine, class: class}]
	if rate == 0 {
		return 0, false
	}
	return max(1, studio.Minute(studio.CeilDiv(left, rate))), true
}

// End is when something unattended begun at t is over; false when it is not
// before the horizon. Of a piece that was moved, what it has dried where it lay
// before is taken off its need. Where it is known of pieces where they have lain, that is
// what they have dried.
func (r Room) End(l studio.Length, t studio.Minute, before ...studio.Lain) (studio.Minute, bool) {
	if l.Dries == nil || len(before) == 0 || len(l.Dries.Lain) > 0 || l.Dries.Reached != nil {
		return r.Course(l).End(t)
	}
	return r.clock(l.Dries.Class, l.Dries.In).Ready(t, max(0, r.Need(l)-r.Passed(l.Dries.Class, before)))
}

// Window is the first and the last minute at which something may begin that is
// limited by a lag measured from t, as Opening has them.
func (r Room) Window(lag studio.Lag, t studio.Minute) (first, last studio.Minute, narrow, ok bool) {
	return r.Opening(lag).At(t)
}

// Crossed is true of a window between two states in which the last pieces reach
// the first state only after the first pieces have reached the other.
func (r Room) Crossed(lag studio.Lag) bool {
	if lag.Least == nil || lag.Most == nil || lag.Least.Dries == nil || lag.Most.Dries == nil ||
		lag.Least.Dries.Reached != nil || lag.Most.Dries.Reached != nil {
		return false
	}
	return r.need(
		*lag.Least.Dries,
		r.Late(lag.Least.Dries.Class),
	) >= r.need(
		*lag.Most.Dries,
		r.Early(lag.Most.Dries.Class),
	)
}

// Never is later than any minute of a document.
const Never = studio.Minute(1) << 40

// Limp is when dry pieces of a class that lie in surroundings since t go soft;
// false when they do not before the horizon, or nothing gets at them.
func (r Room) Limp(class, in studio.ID, t studio.Minute) (studio.Minute, bool) {
	if r.closed[in] {
		return 0, false
	}
	return r.Clock(class, in).Limp(t, r.classes[class].SoftensMinutes)
}

// Most is how long the first pieces take to reach a state in standard air, rounded down: so
// long others may wait that are not to reach it.
func (r Room) Most(d studio.Dries) studio.Minute {
	return studio.Minute(r.need(d, r.Early(d.Class)) / 1000)
}

// OpenTime is how long pieces may wait under a window in standard air: its most minutes,
// or until the first of them reach the state to be avoided; false where nothing is too
// late.
func (r Room) OpenTime(w studio.Window) (most studio.Minute, limited bool) {
	most = Never
	if w.AtMost != nil {
		most = *w.AtMost
	}
	if w.Before != "" {
		need := r.need(
			studio.Dries{Class: w.Class, Thickness: w.Thickness, State: w.Before, Factor: 1000},
			r.Early(w.Class),
		)
		most = min(most, studio.Minute(need/1000))
	}
	return most, most < Never
}

// Elapsed is the standard time from the start of a step to the end of its recipe
// for a quantity: work at the recipe's own pace, waits as long as one would wish
// in standard air, least times of windows, no nights.
func (r Room) Elapsed(recipe *studio.Recipe, from int, quantity int64) studio.Minute {
	var sum studio.Milliminutes
	for i := from; i < len(recipe.Steps); i++ {
		s := recipe.Steps[i]
		if s.Work != nil {
			sum += 1000 * studio.Milliminutes(
				max(1, recipe.Effort(s.Work, true, recipe.Pieces(i, quantity)).Minutes()),
			)
			continue
		}
		sum += studio.Milliminutes(studio.CeilDiv(r.Need(s.Wait.Longest()), 1000) * 1000)
	}
	return sum.Minutes()
}
