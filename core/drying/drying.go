// Package drying answers when a piece that was put down is firm or dry.
//
// The answer is read off a drying clock: standard drying time accumulated over
// the hours of real air. In standard air (20 °C, 50 % relative humidity) the
// clock runs one minute a minute; in warm dry air faster, in damp air slower,
// above the stall humidity it stands still. A piece put down at t is ready when
// the clock has advanced by the piece's need. The clock runs at night and on
// Sundays, and never backwards.
//
// The formulas are a studio's starting point, to be corrected by its own
// checks; nothing here replaces touching the piece.
package drying

import (
	"math"
	"sort"

	"bractum/core/studio"
)

// Speed is the drying speed relative to standard air, in thousandths, rounded
// up: min(1.6, max(0, (h₀ − h)/(h₀ − 50 %)) · 1.05^(T − 20 °C)).
func Speed(air studio.Air, stall studio.PerMille) int64 {
	if air.HumidityPerMille >= stall {
		return 0
	}
	damp := float64(stall-air.HumidityPerMille) / float64(stall-500)
	warm := math.Pow(1.05, float64(air.TenthsCelsius-200)/10)
	return int64(math.Ceil(1000*math.Min(1.6, damp*warm) - 1e-9))
}

// Need is the standard drying time, in thousandths of a minute rounded up, by
// which the given percentile of pieces has reached the state:
// median × (thickness ÷ standard thickness)^1.5 × e^(z·spread), waiting times
// being log-normal. Percentile is from 1 to 99; 50 is the median.
func Need(class studio.DryingClass, thickness studio.Micrometres, state studio.State, percentile int64) int64 {
	median := class.DryMinutes
	if state == studio.Firm {
		median = class.FirmMinutes
	}
	z := math.Sqrt2 * math.Erfinv(2*float64(percentile)/100-1)
	scale := math.Pow(float64(thickness)/float64(class.Thickness), 1.5) * math.Exp(z*float64(class.Spread)/1000)
	return int64(math.Ceil(float64(median)*1000*scale - 1e-6))
}

// Clock is the drying clock of one stall humidity from the document's epoch to
// the end of its horizon: hour i runs at speeds[i], and before[i] is what the
// clock shows at the start of hour i. Look-ups take O(log n). It is immutable
// and safe for concurrent use.
type Clock struct {
	speeds []int64
	before []int64
}

// NewClock lays the daily profile of the climate over the hours [0, until).
// The local hour at the start of each UTC hour sets its air.
func NewClock(climate []studio.Air, calendar studio.Calendar, stall studio.PerMille, until studio.Minute) Clock {
	hours := int(studio.CeilDiv(max(until, 60), 60))
	c := Clock{make([]int64, hours), make([]int64, hours+1)}
	for i := range hours {
		c.speeds[i] = Speed(climate[calendar.Time(studio.Minute(i)*60).Hour()], stall)
		c.before[i+1] = c.before[i] + 60*c.speeds[i]
	}
	return c
}

// At is what the clock shows at minute t, in thousandths of a standard minute.
// Before the epoch it shows nothing, past its end it stands.
func (c Clock) At(t studio.Minute) int64 {
	if t <= 0 {
		return 0
	}
	hour := int(t / 60)
	if hour >= len(c.speeds) {
		return c.before[len(c.speeds)]
	}
	return c.before[hour] + int64(t%60)*c.speeds[hour]
}

// Ready is the first minute at or after t by which the clock has advanced by
// need. It is false when that does not happen before the clock ends: the air is
// not dry enough.
func (c Clock) Ready(t studio.Minute, need int64) (studio.Minute, bool) {
	goal := c.At(t) + need
	if need <= 0 {
		return t, true
	}
	hour := sort.Search(len(c.speeds), func(i int) bool { return c.before[i+1] >= goal })
	if hour == len(c.speeds) {
		return 0, false
	}
	return studio.Minute(hour)*60 + studio.Minute(studio.CeilDiv(goal-c.before[hour], c.speeds[hour])), true
}

// Room answers for waits: it keeps one clock for each stall humidity in use.
type Room struct {
	classes    map[studio.ID]studio.DryingClass
	clocks     map[studio.PerMille]Clock
	percentile int64
}

// NewRoom makes the clocks of a valid document up to its horizon.
func NewRoom(doc *studio.Document, calendar studio.Calendar) Room {
	r := Room{map[studio.ID]studio.DryingClass{}, map[studio.PerMille]Clock{}, doc.Settings.PlanningPercentile}
	for _, class := range doc.DryingClasses {
		r.classes[class.ID] = class
		if _, made := r.clocks[class.StallHumidity]; !made {
			r.clocks[class.StallHumidity] = NewClock(doc.Climate, calendar, class.StallHumidity, doc.Horizon())
		}
	}
	return r
}

// Need is the standard time of a wait in thousandths of a minute: its drying
// need at the studio's planning percentile, or its fixed minutes.
func (r Room) Need(w studio.Wait) int64 {
	if w.Minutes > 0 {
		return int64(w.Minutes) * 1000
	}
	return Need(r.classes[w.Class], w.Thickness, w.State, r.percentile)
}

// End is when a wait begun at t is over; false when it is not before the horizon.
func (r Room) End(w studio.Wait, t studio.Minute) (studio.Minute, bool) {
	if w.Minutes > 0 {
		return t + w.Minutes, true
	}
	return r.clocks[r.classes[w.Class].StallHumidity].Ready(t, r.Need(w))
}

// Elapsed is the standard time from the start of a step to the end of its recipe
// for a quantity: work at the recipe's own pace, waits in standard air, no nights.
func (r Room) Elapsed(recipe *studio.Recipe, from int, quantity int64) studio.Minute {
	var sum studio.Minute
	for _, s := range recipe.Steps[from:] {
		if s.Work != nil {
			sum += studio.WorkMinutes(s.Work.Setup, s.Work.PerPiece, recipe.Pieces(quantity), 100)
		} else {
			sum += studio.Minute(studio.CeilDiv(r.Need(*s.Wait), 1000))
		}
	}
	return sum
}
