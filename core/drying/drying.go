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
	return int64(math.Ceil(1000*math.Min(fastest/1000., damp*warm) - 1e-9))
}

// fastest is the highest speed, in thousandths of that in standard air.
const fastest = 1600

// tally is what accumulates over the hours since a minute: hour i adds rates[i] a minute,
// and before[i] has accumulated when it begins. Before that minute it shows nothing, past
// its end it stands.
type tally struct {
	since         studio.Minute
	rates, before []int64
}

func newTally(since studio.Minute, rates []int64) tally {
	t := tally{since: since, rates: rates, before: make([]int64, len(rates)+1)}
	for i, rate := range rates {
		t.before[i+1] = t.before[i] + 60*rate
	}
	return t
}

func (t tally) at(m studio.Minute) int64 {
	if m -= t.since; m <= 0 {
		return 0
	}
	hour := int(m / 60)
	if hour >= len(t.rates) {
		return t.before[len(t.rates)]
	}
	return t.before[hour] + int64(m%60)*t.rates[hour]
}

// reached is the first minute by which so much has accumulated, which is more than
// nothing; false when that does not happen before the end.
func (t tally) reached(goal int64) (studio.Minute, bool) {
	hour := sort.Search(len(t.rates), func(i int) bool { return t.before[i+1] >= goal })
	if hour == len(t.rates) {
		return 0, false
	}
	return t.since + studio.Minute(hour)*60 + studio.Minute(studio.CeilDiv(goal-t.before[hour], t.rates[hour])), true
}

// Clock is the drying clock of one stall humidity from some minute on: the standard time
// that has passed since, and the minutes in which nothing dried. Look-ups take O(log n).
// It is immutable and safe for concurrent use.
type Clock struct{ dries, damp tally }

// NewClock makes the clock of the air of successive hours from a minute on.
func NewClock(since studio.Minute, air []studio.Air, stall studio.PerMille) Clock {
	speeds, damp := make([]int64, len(air)), make([]int64, len(air))
	for i, a := range air {
		if speeds[i] = Speed(a, stall); speeds[i] == 0 {
			damp[i] = 1
		}
	}
	return Clock{dries: newTally(since, speeds), damp: newTally(since, damp)}
}

// Hourly is the air of each hour of surroundings in [since, until), since being a whole
// hour: the reading of that hour where there is one, else the daily profile of the local
// hour at its start. Empty surroundings are the room.
func Hourly(doc *studio.Document, calendar studio.Calendar, in studio.ID, since, until studio.Minute) []studio.Air {
	profile := doc.Climate
	for _, s := range doc.Surroundings {
		if s.ID == in {
			profile = s.Hours
		}
	}
	first := int64(since / 60)
	air := make([]studio.Air, studio.CeilDiv(max(until-since, 60), 60))
	for i := range air {
		air[i] = profile[calendar.Time(since+studio.Minute(i)*60).Hour()]
	}
	for _, r := range doc.Readings {
		if r.In == in && r.Hour >= first && r.Hour < first+int64(len(air)) {
			air[r.Hour-first] = r.Air
		}
	}
	return air
}

// At is what the clock shows at minute t, in thousandths of a standard minute.
// Before its first minute it shows nothing, past its end it stands.
func (c Clock) At(t studio.Minute) int64 { return c.dries.at(t) }

// Ready is the first minute at or after t by which the clock has advanced by
// need. It is false when that does not happen before the clock ends: the air is
// not dry enough.
func (c Clock) Ready(t studio.Minute, need int64) (studio.Minute, bool) {
	if need <= 0 {
		return t, true
	}
	return c.dries.reached(c.At(t) + need)
}

// Limp is the first minute at or after t by which a dry piece has lain for so
// many minutes, not counting those that dry, in air too damp to dry in: it has
// gone soft. False when that does not happen before the clock ends. Patience of
// nothing or less never ends.
func (c Clock) Limp(t, patience studio.Minute) (studio.Minute, bool) {
	if patience <= 0 {
		return 0, false
	}
	return c.damp.reached(c.damp.at(t) + int64(patience))
}
