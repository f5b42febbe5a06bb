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

// Clock is the drying clock of one stall humidity from the document's epoch on:
// hour i runs at speeds[i], before[i] is what the clock shows at the start of
// hour i, and damp[i] the minutes before it in which nothing dried. Look-ups take
// O(log n). It is immutable and safe for concurrent use.
type Clock struct {
	speeds []int64
	before []int64
	damp   []int64
}

// NewClock makes the clock of the air of successive hours from the epoch on.
func NewClock(air []studio.Air, stall studio.PerMille) Clock {
	c := Clock{make([]int64, len(air)), make([]int64, len(air)+1), make([]int64, len(air)+1)}
	for i, a := range air {
		c.speeds[i] = Speed(a, stall)
		c.before[i+1] = c.before[i] + 60*c.speeds[i]
		c.damp[i+1] = c.damp[i]
		if c.speeds[i] == 0 {
			c.damp[i+1] += 60
		}
	}
	return c
}

// Hourly is the air of each hour [0, until) of surroundings: the reading of that
// hour where there is one, else the daily profile of the local hour at its start.
// Empty surroundings are the room.
func Hourly(doc *studio.Document, calendar studio.Calendar, in studio.ID, until studio.Minute) []studio.Air {
	profile := doc.Climate
	for _, s := range doc.Surroundings {
		if s.ID == in {
			profile = s.Hours
		}
	}
	air := make([]studio.Air, studio.CeilDiv(max(until, 60), 60))
	for i := range air {
		air[i] = profile[calendar.Time(studio.Minute(i)*60).Hour()]
	}
	for _, r := range doc.Readings {
		if r.In == in && r.Hour < int64(len(air)) {
			air[r.Hour] = r.Air
		}
	}
	return air
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
	if need <= 0 {
		return t, true
	}
	goal := c.At(t) + need
	hour := sort.Search(len(c.speeds), func(i int) bool { return c.before[i+1] >= goal })
	if hour == len(c.speeds) {
		return 0, false
	}
	return studio.Minute(hour)*60 + studio.Minute(studio.CeilDiv(goal-c.before[hour], c.speeds[hour])), true
}

// Rest is what is left of a need after lying on this clock over [from, to): a
// piece that is moved carries it to the clock of its new place.
func (c Clock) Rest(need int64, from, to studio.Minute) int64 {
	return max(0, need-(c.At(to)-c.At(from)))
}

// Limp is the first minute at or after t by which a dry piece has lain for so
// many minutes, not counting those that dry, in air too damp to dry in: it has
// gone soft. False when that does not happen before the clock ends. Patience of
// nothing or less never ends.
func (c Clock) Limp(t, patience studio.Minute) (studio.Minute, bool) {
	if patience <= 0 {
		return 0, false
	}
	goal := c.dampAt(t) + int64(patience)
	hour := sort.Search(len(c.speeds), func(i int) bool { return c.damp[i+1] >= goal })
	if hour == len(c.speeds) {
		return 0, false
	}
	return studio.Minute(hour)*60 + studio.Minute(goal-c.damp[hour]), true
}

func (c Clock) dampAt(t studio.Minute) int64 {
	if t <= 0 {
		return 0
	}
	hour := int(t / 60)
	if hour >= len(c.speeds) {
		return c.damp[len(c.speeds)]
	}
	if c.speeds[hour] == 0 {
		return c.damp[hour] + int64(t%60)
	}
	return c.damp[hour]
}
