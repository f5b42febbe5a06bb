package climate

import (
	"math"

	"bractum/core/studio"
)

// How the coming air is expected: the same local hour of past days, where a day counts half
// as much as one that is fallsBy days younger and the studio's standing profile counts as
// much as one day; a departure from it dies away over the hours that weather lasts. That is
// an autoregression of the first order around a daily course (Box and Jenkins, "Time Series
// Analysis"); the constants are what came out best on the simulated harbour of the tests.
const (
	fallsBy    = 4.0  // days
	profileFor = 1.0  // days
	lasts      = 20.0 // hours
	recent     = 3    // hours from which the departure is taken
	ownNoise   = 10.0 // per mille, what an hour departs by of itself
	shortGap   = 3    // hours that a straight line bridges
)

// Remembers is how many days back the usual day is learnt from.
const Remembers = 21

// Around is the air of places as sensors, sky and lead have it: what Make needs of one.
type Around struct {
	Measured []Hour       // in order
	Profile  []studio.Air // of the 24 local hours, where nothing is known yet
	Words    []Word
}

// Make lays out the curve of a place over the hours [from, to): what was measured before the
// hour of now, bridged where nothing was, and expected from then on.
func Make(a Around, calendar studio.Calendar, now studio.Minute, from, to int64) Curve {
	m := maker{local: localHours(calendar, from, to, a.Measured), hours: map[int64]Hour{}, now: int64(now / 60)}
	for _, h := range a.Measured {
		if h.Hour < m.now {
			m.hours[h.Hour] = h
			m.last, m.any = h.Hour, true
		}
	}
	m.daily(a)
	c := Curve{From: from, Usual: make([]studio.Air, 24)}
	for hour := range c.Usual {
		c.Usual[hour] = m.usual[hour].air()
	}
	departed := m.departed()
	for hour := from; hour < to; hour++ {
		if h, measured := m.hours[hour]; measured {
			c.Hours = append(c.Hours, Point{Air: h.Air, Kind: Measured, Spread: 0})
			continue
		}
		if hour < m.now {
			c.Hours = append(c.Hours, m.bridge(hour))
			continue
		}
		c.Hours = append(c.Hours, m.ahead(hour, departed, a.Words))
	}
	return c
}

// state is an air in real numbers.
type state struct{ celsius, humidity float64 }

func stateOf(a studio.Air) state {
	return state{celsius: float64(a.TenthsCelsius), humidity: float64(a.HumidityPerMille)}
}
func (s state) plus(o state, times float64) state {
	return state{celsius: s.celsius + times*o.celsius, humidity: s.humidity + times*o.humidity}
}
func (s state) air() studio.Air {
	clamp := func(v float64, least, most int64) int64 { return max(least, min(most, int64(math.Round(v)))) }
	return studio.Air{
		TenthsCelsius:    clamp(s.celsius, LeastCelsius, MostCelsius),
		HumidityPerMille: studio.PerMille(clamp(s.humidity, LeastHumidity, MostHumidity)),
	}
}

type maker struct {
	hours map[int64]Hour
	local map[int64]int
	now   int64
	last  int64 // the last hour that was measured, if any
	any   bool

	usual  [24]state
	spread [24]float64 // standard deviation of the relative humidity over the days
}

func localHours(calendar studio.Calendar, from, to int64, measured []Hour) map[int64]int {
	local := map[int64]int{}
	know := func(hour int64) { local[hour] = calendar.Time(studio.Minute(hour) * 60).Hour() }
	for hour := from; hour < to; hour++ {
		know(hour)
	}
	for _, h := range measured {
		know(h.Hour)
	}
	return local
}

// daily is the usual course of a day.
func (m *maker) daily(a Around) {
	var weight, squares [24]float64
	var sum [24]state
	for hour := range sum {
		if len(a.Profile) == 24 {
			sum[hour], weight[hour] = sum[hour].plus(stateOf(a.Profile[hour]), profileFor), profileFor
			squares[hour] = profileFor * math.Pow(float64(a.Profile[hour].HumidityPerMille), 2)
		}
	}
	for _, h := range m.hours {
		age := float64(m.now-h.Hour) / 24
		if age > Remembers {
			continue
		}
		w, hour := math.Pow(0.5, age/fallsBy), m.local[h.Hour]
		sum[hour] = sum[hour].plus(stateOf(h.Air), w)
		squares[hour] += w * math.Pow(float64(h.HumidityPerMille), 2)
		weight[hour] += w
	}
	for hour := range sum {
		if weight[hour] > 0 {
			m.usual[hour] = state{}.plus(sum[hour], 1/weight[hour])
			m.spread[hour] = math.Sqrt(max(0, squares[hour]/weight[hour]-math.Pow(m.usual[hour].humidity, 2)))
		}
	}
}

func (m *maker) departure(h Hour) state { return stateOf(h.Air).plus(m.usual[m.local[h.Hour]], -1) }

// departed is by how much the last hours that were measured depart from the usual.
func (m *maker) departed() (mean state) {
	n := 0
	for hour := m.last; m.any && hour > m.last-recent; hour-- {
		if h, known := m.hours[hour]; known {
			mean, n = mean.plus(m.departure(h), 1), n+1
		}
	}
	if n == 0 {
		return mean
	}
	return state{}.plus(mean, 1/float64(n))
}

// ahead is what is expected of an hour. Where the lead said something, the further from
// the usual of what was said and what is measured counts.
func (m *maker) ahead(hour int64, departed state, words []Word) Point {
	lead := float64(hour - m.now + 1)
	if m.any {
		lead = float64(hour - m.last)
	}
	fades := math.Exp(-lead / lasts)
	off := state{}.plus(departed, fades)
	for _, w := range words {
		if at := studio.Minute(hour) * 60; at+60 > w.From && at < w.Until {
			off = state{
				celsius:  further(off.celsius, float64(w.Celsius)),
				humidity: further(off.humidity, float64(w.Humidity)),
			}
		}
	}
	spread := math.Sqrt(ownNoise*ownNoise + math.Pow(m.spread[m.local[hour]], 2)*(1-fades*fades))
	return Point{
		Air:    m.usual[m.local[hour]].plus(off, 1).air(),
		Kind:   Expected,
		Spread: studio.PerMille(math.Round(spread)),
	}
}

func further(measured, said float64) float64 {
	switch {
	case said > 0:
		return max(measured, said)
	case said < 0:
		return min(measured, said)
	}
	return measured
}

// bridge is what an hour without readings is taken for: on the straight line between its
// neighbours if they are close, else the usual with what they depart from it by.
func (m *maker) bridge(hour int64) Point {
	before, after := hour, hour
	left, right, hasLeft, hasRight := Hour{}, Hour{}, false, false
	for range Remembers * 24 {
		before--
		if left, hasLeft = m.hours[before]; hasLeft || before < m.now-Remembers*24 {
			break
		}
	}
	for after < m.now {
		after++
		if right, hasRight = m.hours[after]; hasRight {
			break
		}
	}
	share := func() float64 { return float64(hour-before) / float64(after-before) }
	usual := m.usual[m.local[hour]]
	spread := math.Sqrt(
		ownNoise*ownNoise + math.Pow(m.spread[m.local[hour]], 2)*min(1, float64(min(hour-before, after-hour))/lasts),
	)
	var s state
	switch {
	case hasLeft && hasRight && after-before <= shortGap+1:
		s = stateOf(left.Air).plus(stateOf(left.Air), -share()).plus(stateOf(right.Air), share())
	case hasLeft && hasRight:
		s = usual.plus(m.departure(left), 1-share()).plus(m.departure(right), share())
	case hasLeft:
		s = usual.plus(m.departure(left), math.Exp(-float64(hour-before)/lasts))
	case hasRight:
		s = usual.plus(m.departure(right), math.Exp(-float64(after-hour)/lasts))
	default:
		s = usual
	}
	return Point{Air: s.air(), Kind: Bridged, Spread: studio.PerMille(math.Round(spread))}
}

// Readings are a curve as a document states it: its hours, in surroundings.
func (c Curve) Readings(in studio.ID) []studio.Reading {
	readings := make([]studio.Reading, 0, len(c.Hours))
	for i, p := range c.Hours {
		readings = append(readings, studio.Reading{Hour: c.From + int64(i), In: in, Air: p.Air})
	}
	return readings
}
