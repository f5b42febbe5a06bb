package climate_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/climate"
	"bractum/core/studio"
	"bractum/standin/hygrometer"
)

func ref[T any](v T) *T { return &v }

func sample(at studio.Minute, tenths int64, perMille studio.PerMille) climate.Sample {
	return climate.Sample{At: at, Celsius: &tenths, Humidity: &perMille}
}

func TestReadingsThatCannotBeAreNamed(t *testing.T) {
	assert.NoError(t, climate.Sound(sample(100, 195, 640), 100))
	assert.NoError(
		t,
		climate.Sound(climate.Sample{At: 100, Humidity: ref(studio.PerMille(640))}, 100),
		"half a reading is one",
	)
	assert.NoError(t, climate.Sound(sample(102, 195, 640), 100), "clocks differ by a little")
	for want, s := range map[string]climate.Sample{
		"from the future":                sample(130, 195, 640),
		"before this studio":             sample(-1, 195, 640),
		"no temperature and no humidity": {At: 100},
		"-45.0 °C":                       sample(100, -450, 640),
		"0.0 % relative":                 sample(100, 195, 0),
	} {
		assert.ErrorContains(t, climate.Sound(s, 100), want)
	}
}

// An hour of readings a minute apart around a mean, with the values at some minutes replaced.
func minutes(from studio.Minute, n int, humidity func(i int) studio.PerMille) (samples []climate.Sample) {
	for i := range n {
		samples = append(samples, sample(from+studio.Minute(i), 195+int64(i%3), humidity(i)))
	}
	return samples
}

func TestWhatStandsOutIsLeftOutOfAnHour(t *testing.T) {
	calm := func(i int) studio.PerMille { return studio.PerMille(640 + i%5) }
	hours := climate.Hours(minutes(60, 60, func(i int) studio.PerMille {
		if i == 20 || i == 41 {
			return 999
		}
		return calm(i)
	}))
	require.Len(t, hours, 1)
	assert.EqualValues(t, 1, hours[0].Hour)
	assert.Equal(t, 2, hours[0].Outliers)
	assert.InDelta(t, 642, int64(hours[0].HumidityPerMille), 1)
	assert.Equal(t, 58, hours[0].Samples)

	// Somebody opens the loft door: a step is air, not error.
	hours = climate.Hours(minutes(60, 60, func(i int) studio.PerMille {
		if i >= 30 {
			return calm(i) + 150
		}
		return calm(i)
	}))
	assert.Zero(t, hours[0].Outliers)
	assert.InDelta(t, 717, int64(hours[0].HumidityPerMille), 2)

	assert.Empty(t, climate.Hours(minutes(60, 2, calm)), "two readings are no hour")
	assert.Empty(t, climate.Hours(nil))
}

func TestTwoSensorsOfOnePlace(t *testing.T) {
	one, two := climate.Hours(
		minutes(0, 180, func(int) studio.PerMille { return 600 }),
	), climate.Hours(
		minutes(60, 180, func(int) studio.PerMille { return 660 }),
	)
	both, apart := climate.Together(one, two)
	assert.False(t, apart)
	require.Len(t, both, 4)
	assert.Equal(
		t,
		[]studio.PerMille{600, 630, 630, 660},
		[]studio.PerMille{
			both[0].HumidityPerMille,
			both[1].HumidityPerMille,
			both[2].HumidityPerMille,
			both[3].HumidityPerMille,
		},
	)
	liar := climate.Hours(minutes(0, 180, func(int) studio.PerMille { return 400 }))
	_, apart = climate.Together(one, liar)
	assert.True(t, apart)
}

func TestASensorThatSaysTheVerySameIsStuck(t *testing.T) {
	same := func(int) studio.PerMille { return 640 }
	var stuck []climate.Sample
	for i := range studio.Minute(400) {
		stuck = append(stuck, sample(i, 195, 640))
	}
	assert.True(t, climate.Stuck(stuck))
	assert.False(t, climate.Stuck(stuck[:300]), "not for long enough")
	assert.False(t, climate.Stuck(minutes(0, 400, same)), "its temperature moves")
}

var dublin = func() studio.Calendar {
	c, err := studio.NewCalendar(time.Date(2027, 8, 1, 0, 0, 0, 0, time.UTC), "Europe/Dublin")
	if err != nil {
		panic(err)
	}
	return c
}()

// the harbour's hours, as a sensor sends them.
func measured(seed uint64, from, to int64) (hours []climate.Hour, truth map[int64]float64) {
	h := hygrometer.New(seed, hygrometer.Loft)
	at := func(hour int64) time.Time { return dublin.Time(studio.Minute(hour) * 60) }
	var samples []climate.Sample
	one := climate.Sample{}
	for _, r := range h.Pack(at(from), at(to)) {
		minute := studio.Minute(from*60) + studio.Minute(r.Time/60)
		if v := int64(math.Round(10 * r.Value)); r.Unit == "Cel" {
			one = climate.Sample{At: minute, Celsius: &v}
		} else {
			one.Humidity = ref(studio.PerMille(v))
			if climate.Sound(one, studio.Minute(to)*60) == nil {
				samples = append(samples, one)
			}
		}
	}
	truth = map[int64]float64{}
	for hour := from; hour < to+72; hour++ {
		for m := 5; m < 60; m += 10 {
			_, humidity := h.Air(at(hour).Add(time.Duration(m) * time.Minute))
			truth[hour] += humidity * 10 / 6
		}
	}
	return climate.Hours(samples), truth
}

func profile() (air []studio.Air) {
	for range 24 {
		air = append(air, studio.Air{TenthsCelsius: 195, HumidityPerMille: 650})
	}
	return air
}

func TestTheNoiseOfASensorIsCleanedAway(t *testing.T) {
	hours, truth := measured(1, 240, 240+14*24)
	assert.Greater(t, len(hours), 14*24-8)
	outliers := 0
	for _, h := range hours {
		assert.InDelta(t, truth[h.Hour], float64(h.HumidityPerMille), 12, "hour %d", h.Hour)
		outliers += h.Outliers
	}
	assert.Greater(t, outliers, 5, "it did send nonsense")
}

// What is expected of the air must beat both what a notebook would have: yesterday's air,
// and the air right now.
func TestTheExpectedCurveBeatsYesterdayAndNow(t *testing.T) {
	var expected, yesterday, still [25]float64
	n := 0.0
	for seed := range uint64(4) {
		hours, truth := measured(seed, 24, 24*40)
		for now := int64(24 * 15); now < 24*38; now += 7 {
			known := hours[:0:0]
			for _, h := range hours {
				if h.Hour < now {
					known = append(known, h)
				}
			}
			curve := climate.Make(
				climate.Around{Measured: known, Profile: profile()},
				dublin,
				studio.Minute(now*60),
				now,
				now+25,
			)
			for _, lead := range []int{1, 3, 6, 12, 24} {
				p, ok := curve.At(now + int64(lead) - 1)
				require.True(t, ok)
				require.Equal(t, climate.Expected, p.Kind)
				is := truth[now+int64(lead)-1]
				expected[lead] += math.Abs(is - float64(p.HumidityPerMille))
				yesterday[lead] += math.Abs(is - truth[now+int64(lead)-25])
				still[lead] += math.Abs(is - truth[now-1])
			}
			n++
		}
	}
	for _, lead := range []int{1, 3, 6, 12, 24} {
		t.Logf(
			"%2d h ahead, mean error in per mille: expected %.0f, yesterday %.0f, as now %.0f",
			lead,
			expected[lead]/n,
			yesterday[lead]/n,
			still[lead]/n,
		)
		assert.Less(t, expected[lead], yesterday[lead], "%d h", lead)
		if lead > 1 {
			assert.Less(t, expected[lead], still[lead], "%d h", lead)
		}
	}
}

func TestGapsAreBridgedAndSaid(t *testing.T) {
	hours, truth := measured(3, 24, 24*20)
	gone := func(from, to int64) (left []climate.Hour) {
		for _, h := range hours {
			if h.Hour < from || h.Hour >= to {
				left = append(left, h)
			}
		}
		return left
	}
	now := int64(24 * 20)
	for _, c := range []struct {
		from, to int64
		near     float64
	}{{300, 302, 25}, {310, 326, 70}, {now - 9, now, 90}} {
		curve := climate.Make(
			climate.Around{Measured: gone(c.from, c.to), Profile: profile()},
			dublin,
			studio.Minute(now*60),
			24*12,
			now+2,
		)
		for hour := c.from; hour < c.to; hour++ {
			p, _ := curve.At(hour)
			assert.Equal(t, climate.Bridged, p.Kind)
			assert.Positive(t, int64(p.Spread))
			assert.InDelta(t, truth[hour], float64(p.HumidityPerMille), c.near, "hour %d", hour)
		}
		before, _ := curve.At(c.from - 2)
		assert.Equal(t, climate.Measured, before.Kind)
	}
	none := climate.Make(climate.Around{Profile: profile()}, dublin, 600, 5, 20)
	for i, p := range none.Hours {
		assert.Equal(t, studio.Air{TenthsCelsius: 195, HumidityPerMille: 650}, p.Air, i)
		assert.Equal(t, i >= 5, p.Kind == climate.Expected)
	}
	_, ok := none.At(20)
	assert.False(t, ok)
}

func TestTheLeadsWordCountsWhereItGoesFurther(t *testing.T) {
	hours, _ := measured(2, 24, 24*20)
	now := int64(24 * 20)
	word := climate.Word{From: studio.Minute(now * 60), Until: studio.Minute((now + 30) * 60), Humidity: 120}
	around := climate.Around{Measured: hours, Profile: profile()}
	plain := climate.Make(around, dublin, studio.Minute(now*60), now, now+60)
	around.Words = []climate.Word{word}
	damp := climate.Make(around, dublin, studio.Minute(now*60), now, now+60)
	for hour := now; hour < now+60; hour++ {
		p, _ := plain.At(hour)
		d, _ := damp.At(hour)
		if hour < now+30 {
			local := dublin.Time(studio.Minute(hour) * 60).Hour()
			assert.GreaterOrEqual(t, d.HumidityPerMille, damp.Usual[local].HumidityPerMille+119)
			assert.GreaterOrEqual(t, d.HumidityPerMille, p.HumidityPerMille)
		} else {
			assert.Equal(t, p, d, "it is over")
		}
	}
}

func TestACurveIsWholeWhateverWasMeasured(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var hours []climate.Hour
		for hour := int64(0); hour < 200; hour++ {
			if rapid.Bool().Draw(t, "measured") {
				hours = append(
					hours,
					climate.Hour{
						Hour: hour,
						Air: studio.Air{
							TenthsCelsius:    rapid.Int64Range(climate.LeastCelsius, climate.MostCelsius).Draw(t, "T"),
							HumidityPerMille: studio.PerMille(rapid.Int64Range(climate.LeastHumidity, climate.MostHumidity).Draw(t, "h")),
						},
						Samples: 60,
					},
				)
			}
		}
		now := rapid.Int64Range(0, 220*60).Draw(t, "now")
		from := rapid.Int64Range(0, 100).Draw(t, "from")
		curve := climate.Make(
			climate.Around{Measured: hours, Profile: profile()},
			dublin,
			studio.Minute(now),
			from,
			from+150,
		)
		require.Len(t, curve.Hours, 150)
		known := map[int64]studio.Air{}
		for _, h := range hours {
			known[h.Hour] = h.Air
		}
		for i, p := range curve.Hours {
			hour := from + int64(i)
			require.GreaterOrEqual(t, int64(p.HumidityPerMille), int64(climate.LeastHumidity))
			require.LessOrEqual(t, int64(p.HumidityPerMille), int64(climate.MostHumidity))
			air, was := known[hour]
			switch past := hour < now/60; {
			case past && was:
				require.Equal(t, climate.Point{Air: air, Kind: climate.Measured}, p)
			case past:
				require.Equal(t, climate.Bridged, p.Kind)
			default:
				require.Equal(t, climate.Expected, p.Kind)
			}
		}
	})
}
