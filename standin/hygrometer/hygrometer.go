// Package hygrometer stands in for the sensors of a studio: it knows the air of a harbour
// town, with its day, its fronts and its calm, and sends what a cheap sensor would make of
// it, minute by minute, as SenML (RFC 8428) over HTTP: with noise, gaps, and now and then a
// value that cannot be.
package hygrometer

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"math/rand/v2"
	"net/http"
	"time"
)

// Spot is where a sensor hangs: how much of the harbour's damp gets in there, and what
// it is like of itself.
type Spot struct {
	Device    string  // base name of what it sends
	Lets      float64 // of the weather's ups and downs, 0 to 1
	Celsius   float64 // warmer than the loft
	Humidity  float64 // damper than the loft, in per cent
	Dampening float64 // of the daily course, 0 to 1
}

// The two spots of Pellowen Yard.
var (
	Loft     = Spot{Device: "loft", Lets: 1, Dampening: 1}
	Cupboard = Spot{Device: "dry-cupboard", Lets: 0.35, Celsius: 4, Humidity: -20, Dampening: 0.3}
)

// Hygrometer is one simulated sensor. The same seed sends the same.
type Hygrometer struct {
	seed uint64
	spot Spot
}

// New makes the sensor of a spot.
func New(seed uint64, spot Spot) Hygrometer { return Hygrometer{seed: seed, spot: spot} }

// Harbour are the sensors of Pellowen Yard.
func Harbour() []Hygrometer { return []Hygrometer{New(1, Loft), New(1, Cupboard)} }

// chance is a generator for one hour since the Unix epoch and one purpose.
func (h Hygrometer) chance(hour int64, of string) *rand.Rand {
	key := uint64(hour)
	for _, c := range of {
		key = key*1099511628211 ^ uint64(c)
	}
	return rand.New(rand.NewPCG(h.seed, key))
}

// weather is by how much the harbour departs from its usual day in an hour: what is left
// of the shocks of the last days, and a front every few of them.
func (h Hygrometer) weather(hour int64) (celsius, humidity float64) {
	const memory, keeps = 96, 0.95
	for back := range int64(memory) {
		random := h.chance(hour-back, "sky")
		fade := math.Pow(keeps, float64(back))
		humidity += fade * 1.1 * random.NormFloat64()
		celsius += fade * 0.2 * random.NormFloat64()
		if random.Float64() < 1.0/130 { // a front comes in, and stays for a day or so
			humidity += 13 * math.Min(1, float64(back+1)/4) * math.Exp(-math.Max(0, float64(back-14))/8)
			celsius -= 1.2 * math.Min(1, float64(back+1)/4) * math.Exp(-math.Max(0, float64(back-14))/8)
		}
	}
	return celsius, humidity
}

// Air is the true air at the spot, in °C and per cent relative humidity; t is in
// the harbour's own time.
func (h Hygrometer) Air(t time.Time) (celsius, humidity float64) {
	return h.under(t, h.skyOf(t.Unix()/3600))
}

// sky is the weather at the beginning and at the end of an hour.
type sky struct {
	hour               int64
	celsius, humidity  float64
	celsiusTo, humidTo float64
}

func (h Hygrometer) skyOf(hour int64) sky {
	s := sky{hour: hour}
	s.celsius, s.humidity = h.weather(hour)
	s.celsiusTo, s.humidTo = h.weather(hour + 1)
	return s
}

func (h Hygrometer) under(t time.Time, s sky) (celsius, humidity float64) {
	day := math.Cos(2 * math.Pi * (float64(t.Hour()) + float64(t.Minute())/60 - 15) / 24)
	part := float64(t.Unix()%3600) / 3600
	celsius = 19.5 + h.spot.Celsius + 2.5*day*h.spot.Dampening + h.spot.Lets*(s.celsius*(1-part)+s.celsiusTo*part)
	humidity = 65 + h.spot.Humidity - 7*day*h.spot.Dampening + h.spot.Lets*(s.humidity*(1-part)+s.humidTo*part)
	return celsius, math.Max(20, math.Min(97, humidity))
}

// Record is one record of a SenML pack.
type Record struct {
	BaseName string  `json:"bn,omitempty"`
	BaseTime float64 `json:"bt,omitempty"`
	Name     string  `json:"n"`
	Unit     string  `json:"u"`
	Time     float64 `json:"t"`
	Value    float64 `json:"v"`
}

// Pack is what the sensor has measured in the minutes [from, to).
func (h Hygrometer) Pack(from, to time.Time) []Record {
	pack := []Record{}
	base := from.Truncate(time.Minute)
	var over sky
	for t := base; t.Before(to); t = t.Add(time.Minute) {
		hour := t.Unix() / 3600
		faults := h.chance(hour, "faults")
		gapFrom, gapLong := faults.IntN(60), faults.IntN(60)
		gap := faults.Float64() < 0.05 && t.Minute() >= gapFrom && t.Minute() < gapFrom+gapLong
		wrong := faults.Float64() < 0.08 && t.Minute() == faults.IntN(60)
		if gap {
			continue
		}
		if over.hour != hour {
			over = h.skyOf(hour)
		}
		noise := h.chance(t.Unix()/60, "noise")
		celsius, humidity := h.under(t, over)
		celsius, humidity = celsius+0.1*noise.NormFloat64(), humidity+0.4*noise.NormFloat64()
		if wrong {
			celsius, humidity = h.nonsense(faults, celsius, humidity)
		}
		at := t.Sub(base).Seconds()
		pack = append(pack, Record{Name: "temperature", Unit: "Cel", Time: at, Value: math.Round(10*celsius) / 10},
			Record{Name: "humidity", Unit: "%RH", Time: at, Value: math.Round(10*math.Min(100, humidity)) / 10})
	}
	if len(pack) > 0 {
		pack[0].BaseName, pack[0].BaseTime = h.spot.Device+":", float64(base.Unix())
	}
	return pack
}

// nonsense is what a sensor says when it has not understood its own chip.
func (h Hygrometer) nonsense(faults *rand.Rand, celsius, humidity float64) (float64, float64) {
	switch faults.IntN(4) {
	case 0:
		return -45, 0
	case 1:
		return celsius, 99.9
	case 2:
		return 85, humidity
	}
	return celsius + 9, humidity - 30
}

// most minutes that go into one pack.
const most = 1440

// Recall hands over what was measured over [from, to), pack by pack.
func (h Hygrometer) Recall(from, to time.Time, take func(pack []byte) error) error {
	for from.Before(to) {
		until := from.Add(most * time.Minute)
		if to.Before(until) {
			until = to
		}
		pack, err := json.Marshal(h.Pack(from, until))
		if err == nil {
			err = take(pack)
		}
		if err != nil {
			return err
		}
		from = until
	}
	return nil
}

// Follow sends what is measured as the studio's clock goes on until the context ends, to
// the readings of the application at an address.
func (h Hygrometer) Follow(ctx context.Context, address string, now func() (time.Time, error)) {
	from, err := now()
	if err != nil {
		return
	}
	tick := time.NewTicker(400 * time.Millisecond)
	defer tick.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
		to, err := now()
		if err != nil {
			continue
		}
		until := to.Truncate(time.Minute)
		if h.Recall(from, until, func(pack []byte) error { return send(ctx, address, pack) }) == nil {
			from = until
		}
	}
}

func send(ctx context.Context, address string, pack []byte) error {
	request, err := http.NewRequestWithContext(ctx, http.MethodPost, address+"/api/readings", bytes.NewReader(pack))
	if err != nil {
		return err
	}
	request.Header.Set("Content-Type", "application/senml+json")
	answer, err := http.DefaultClient.Do(request)
	if err != nil {
		return err
	}
	defer answer.Body.Close()
	_, _ = io.Copy(io.Discard, answer.Body)
	if answer.StatusCode >= 300 {
		return fmt.Errorf("the readings were answered with %s", answer.Status)
	}
	return nil
}
