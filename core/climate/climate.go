// Package climate makes one curve of the air of a place out of what sensors sent: which
// readings can be, which stand out, what a gap is bridged with, and what the coming hours
// will probably be like. The drying clock runs on that curve.
package climate

import (
	"fmt"

	"bractum/core/studio"
)

// Sample is what one sensor measured in one minute; a nil part was not sent.
type Sample struct {
	At       studio.Minute
	Celsius  *int64           // tenths of a degree
	Humidity *studio.PerMille // relative
}

// What the air of a studio can be, and how far ahead of the studio's clock a sensor's own
// may run.
const (
	LeastCelsius, MostCelsius   = -100, 500 // tenths of a degree
	LeastHumidity, MostHumidity = 10, 1000  // per mille
	Ahead                       = studio.Minute(2)
)

// Sound says why a sample cannot be; nil when it can.
func Sound(s Sample, now studio.Minute) error {
	switch {
	case s.At > now+Ahead:
		return fmt.Errorf("it is from the future, %d min from now; set the sensor's clock", s.At-now)
	case s.At < 0:
		return fmt.Errorf("it is from before this studio's records begin")
	case s.Celsius == nil && s.Humidity == nil:
		return fmt.Errorf("it holds no temperature and no humidity")
	case s.Celsius != nil && (*s.Celsius < LeastCelsius || *s.Celsius > MostCelsius):
		return fmt.Errorf("%.1f °C cannot be the air of a studio", float64(*s.Celsius)/10)
	case s.Humidity != nil && (*s.Humidity < LeastHumidity || *s.Humidity > MostHumidity):
		return fmt.Errorf("%.1f %% relative humidity cannot be", float64(*s.Humidity)/10)
	}
	return nil
}

// Kind says where the air of an hour is known from.
type Kind string

// Kinds of points: measured, bridged over a gap between readings, expected.
const (
	Measured Kind = "measured"
	Bridged  Kind = "bridged"
	Expected Kind = "expected"
)

// Point is the air of one hour. Spread is the standard deviation of its relative humidity,
// in per mille: 0 where it was measured.
type Point struct {
	studio.Air
	Kind   Kind            `json:"kind" enum:"measured,bridged,expected"`
	Spread studio.PerMille `json:"spreadPerMille"`
}

// Curve is the air of a place hour after hour from hour From since the epoch on, and the
// Usual air of its 24 local hours.
type Curve struct {
	From  int64
	Hours []Point
	Usual []studio.Air
}

// At is the point of an hour; false outside the curve.
func (c Curve) At(hour int64) (Point, bool) {
	if hour < c.From || hour >= c.From+int64(len(c.Hours)) {
		return Point{}, false
	}
	return c.Hours[hour-c.From], true
}

// Word is what the lead says of the coming air: by how much damper and warmer than usual
// it will be over [From, Until), in the room and all that is open to it.
type Word struct {
	ID       studio.ID       `json:"id"`
	From     studio.Minute   `json:"from"`
	Until    studio.Minute   `json:"until"`
	Humidity studio.PerMille `json:"humidityPerMille"`
	Celsius  int64           `json:"tenthsCelsius"`
	Said     string          `json:"said"`
}

// What "damp" means, in per mille of relative humidity beside the usual.
var feels = map[string]struct {
	humidity studio.PerMille
	said     string
}{"dry": {humidity: -80, said: "Dry"}, "damp": {humidity: 80, said: "Damp"}, "very damp": {humidity: 160, said: "Very damp"}}

// mostAhead is how far ahead anybody knows the weather.
const mostAhead = studio.Minute(14 * 1440)

// Say makes a word of what the lead expects from now until a minute.
func Say(feeling string, now, until studio.Minute) (Word, error) {
	f, known := feels[feeling]
	switch {
	case !known:
		return Word{}, studio.Refuse("dry, damp or very damp can be said of the air")
	case until <= now:
		return Word{}, studio.Refuse("say until when; that is over already")
	case until > now+mostAhead:
		return Word{}, studio.Refuse("nobody knows the weather for more than two weeks")
	}
	return Word{From: now, Until: until, Humidity: f.humidity, Said: f.said}, nil
}
