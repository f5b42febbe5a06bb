package climate

import (
	"math"
	"slices"

	"bractum/core/studio"
)

// Hour is what the samples of one sensor come to in one hour since the epoch. Outliers
// are samples that were set aside.
type Hour struct {
	Hour int64
	studio.Air
	Samples, Outliers int
}

// enough samples of an hour make it a measured one.
const enough = 3

// The filter of Hampel (1974), as recommended by Pearson, "Outliers in process modeling
// and identification" (2002): a sample is set aside when it lies further from the median of
// the samples around it than three of their scaled median deviations. A deviation below the
// floor is the sensor's own noise, never an outlier; a change that lasts longer than half
// the window moves the median and is believed. The window reaches so many samples to each
// side, but never further than Reach, so that it does not depend on how samples were sent.
const (
	around       = 7
	deviations   = 3 * 1.4826
	floorCelsius = 15 // tenths of a degree
	floorHumid   = 40 // per mille
)

// Reach is how far around a sample others have a say in whether it stands out.
const Reach studio.Minute = 40

// Hours puts samples, which are in order of time, into hours; those that stand out are
// left out of them. An hour with too few samples is none.
func Hours(samples []Sample) []Hour {
	type sum struct {
		celsius, humidity   float64
		measured, moistured int
		outliers            int
	}
	sums := map[int64]*sum{}
	in := func(at studio.Minute) *sum {
		hour := int64(at / 60)
		if sums[hour] == nil {
			sums[hour] = &sum{}
		}
		return sums[hour]
	}
	each(
		samples,
		func(s Sample) (float64, bool) { return part(s.Celsius) },
		floorCelsius,
		func(at studio.Minute, v float64, out bool) {
			if s := in(at); out {
				s.outliers++
			} else {
				s.celsius, s.measured = s.celsius+v, s.measured+1
			}
		},
	)
	each(
		samples,
		func(s Sample) (float64, bool) { return part(s.Humidity) },
		floorHumid,
		func(at studio.Minute, v float64, out bool) {
			if s := in(at); out {
				s.outliers++
			} else {
				s.humidity, s.moistured = s.humidity+v, s.moistured+1
			}
		},
	)
	var hours []Hour
	for hour, s := range sums {
		if s.measured >= enough && s.moistured >= enough {
			hours = append(
				hours,
				Hour{Hour: hour, Air: studio.Air{TenthsCelsius: int64(math.Round(s.celsius / float64(s.measured))),
					HumidityPerMille: studio.PerMille(
						math.Round(s.humidity / float64(s.moistured)),
					)}, Samples: min(s.measured, s.moistured), Outliers: s.outliers},
			)
		}
	}
	slices.SortFunc(hours, func(a, b Hour) int { return int(a.Hour - b.Hour) })
	return hours
}

func part[T ~int64](v *T) (float64, bool) {
	if v == nil {
		return 0, false
	}
	return float64(*v), true
}

// each says of every value of one kind whether it stands out among those around it.
func each(
	samples []Sample,
	of func(Sample) (float64, bool),
	floor float64,
	say func(at studio.Minute, v float64, out bool),
) {
	var at []studio.Minute
	var values []float64
	for _, s := range samples {
		if v, sent := of(s); sent {
			at, values = append(at, s.At), append(values, v)
		}
	}
	var window []float64
	for i, v := range values {
		window = window[:0]
		for j := max(0, i-around); j < min(len(values), i+around+1); j++ {
			if at[j] >= at[i]-Reach && at[j] <= at[i]+Reach {
				window = append(window, values[j])
			}
		}
		middle := median(window)
		off := math.Abs(v - middle)
		for j := range window {
			window[j] = math.Abs(window[j] - middle)
		}
		say(at[i], v, off > max(floor, deviations*median(window)))
	}
}

// median of values, which it puts in order.
func median(values []float64) float64 {
	slices.Sort(values)
	n := len(values)
	return (values[(n-1)/2] + values[n/2]) / 2
}

// Together is the air of one place hour by hour, the mean of its sensors; each sensor's
// hours are in order. Apart is true when two of them differ by more than a tenth of
// relative humidity in most of the hours they share: one of them does not tell the truth.
func Together(sensors ...[]Hour) (hours []Hour, apart bool) {
	of := map[int64][]Hour{}
	for _, sensor := range sensors {
		for _, h := range sensor {
			of[h.Hour] = append(of[h.Hour], h)
		}
	}
	var shared, differ int
	for hour, all := range of {
		mean := Hour{Hour: hour}
		least, most := all[0].HumidityPerMille, all[0].HumidityPerMille
		for _, h := range all {
			mean.TenthsCelsius += h.TenthsCelsius
			mean.HumidityPerMille += h.HumidityPerMille
			mean.Samples, mean.Outliers = mean.Samples+h.Samples, mean.Outliers+h.Outliers
			least, most = min(least, h.HumidityPerMille), max(most, h.HumidityPerMille)
		}
		n := int64(len(all))
		mean.TenthsCelsius = int64(math.Round(float64(mean.TenthsCelsius) / float64(n)))
		mean.HumidityPerMille = studio.PerMille(math.Round(float64(mean.HumidityPerMille) / float64(n)))
		hours = append(hours, mean)
		if n > 1 {
			shared++
			if most-least > 100 {
				differ++
			}
		}
	}
	slices.SortFunc(hours, func(a, b Hour) int { return int(a.Hour - b.Hour) })
	return hours, shared > 0 && 2*differ > shared
}

// How long a sensor may be silent, or say the very same, before something is wrong with it.
const (
	Patience  = studio.Minute(30)
	Unchanged = studio.Minute(360)
)

// Quiet is true of a sensor that was last heard of longer ago than should be.
func Quiet(last, now studio.Minute) bool { return now-last > Patience }

// Stuck is true of a sensor whose samples, in order of time and over at least Unchanged
// minutes, all say the very same: real air does not.
func Stuck(samples []Sample) bool {
	if len(samples) < 20 || samples[len(samples)-1].At-samples[0].At < Unchanged {
		return false
	}
	same := func(a, b Sample) bool {
		t, sent := part(a.Celsius)
		u, also := part(b.Celsius)
		h, moist := part(a.Humidity)
		i, too := part(b.Humidity)
		return t == u && h == i && sent == also && moist == too
	}
	return !slices.ContainsFunc(samples, func(s Sample) bool { return !same(s, samples[0]) })
}

// Since is the index of the first sample, in order of time, at or after a minute.
func Since(samples []Sample, from studio.Minute) int {
	i, _ := slices.BinarySearchFunc(samples, from, func(s Sample, at studio.Minute) int { return int(s.At - at) })
	return i
}

// Latest is what samples of the last minutes say: the median of each part; nil where one
// was not sent.
func Latest(samples []Sample) *studio.Air {
	var celsius, humidity []float64
	for _, s := range samples {
		if v, sent := part(s.Celsius); sent {
			celsius = append(celsius, v)
		}
		if v, sent := part(s.Humidity); sent {
			humidity = append(humidity, v)
		}
	}
	if len(celsius) == 0 || len(humidity) == 0 {
		return nil
	}
	return &studio.Air{TenthsCelsius: int64(median(celsius)), HumidityPerMille: studio.PerMille(median(humidity))}
}
