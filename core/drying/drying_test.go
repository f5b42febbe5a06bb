package drying

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/studio"
)

func TestSpeed(t *testing.T) {
	for _, c := range []struct {
		name    string
		celsius int64
		humid   studio.PerMille
		want    int64
	}{
		{"standard air", 200, 500, 1000},
		{"damp evening", 200, 650, 500},
		{"at the stall humidity nothing dries", 300, 800, 0},
		{"above it neither", 200, 900, 0},
		{"ten degrees warmer is 1.05^10 faster", 300, 650, 815},
		{"never more than 1.6", 350, 300, 1600},
	} {
		assert.Equal(t, c.want, Speed(studio.Air{TenthsCelsius: c.celsius, HumidityPerMille: c.humid}, 800), c.name)
	}
}

func TestNeed(t *testing.T) {
	class := studio.DryingClass{FirmMinutes: 30, DryMinutes: 240, Thickness: 1000, Spread: 200}
	assert.EqualValues(t, 240_000, Need(class, 1000, studio.Dry, 50))
	assert.EqualValues(t, 30_000, Need(class, 1000, studio.Firm, 50))
	assert.EqualValues(t, 1_920_000, Need(class, 4000, studio.Dry, 50), "four times as thick takes eight times as long")
	assert.InDelta(t, 240_000*1.1834, Need(class, 1000, studio.Dry, 80), 50, "e^(0.8416 × 0.2) = 1.1834")
}

func clockOf(t require.TestingT, climate []studio.Air, days int64) Clock {
	calendar, err := studio.NewCalendar(time.Date(2027, 9, 1, 0, 0, 0, 0, time.UTC), "UTC")
	require.NoError(t, err)
	return NewClock(climate, calendar, 800, studio.Minute(days*1440))
}

var anyClimate = rapid.Custom(func(t *rapid.T) []studio.Air {
	climate := make([]studio.Air, 24)
	for i := range climate {
		climate[i] = studio.Air{TenthsCelsius: rapid.Int64Range(100, 300).Draw(t, "T"),
			HumidityPerMille: studio.PerMille(rapid.Int64Range(400, 900).Draw(t, "h"))}
	}
	return climate
})

// The clock against the definition: add up minute by minute.
func TestClockAgreesWithMinuteByMinute(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		climate := anyClimate.Draw(t, "climate")
		clock := clockOf(t, climate, 5)
		from := studio.Minute(rapid.Int64Range(0, 2*1440).Draw(t, "from"))
		need := rapid.Int64Range(1, 3_000_000).Draw(t, "need")
		var sum int64
		minute := from
		for sum < need && minute < 5*1440 {
			sum += Speed(climate[int(minute/60)%24], 800)
			minute++
		}
		ready, ok := clock.Ready(from, need)
		require.Equal(t, sum >= need, ok)
		if ok {
			require.Equal(t, minute, ready)
		}
	})
}

func TestLaterIsNeverEarlierAndDamperNeverSooner(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		climate := anyClimate.Draw(t, "climate")
		damper := append([]studio.Air{}, climate...)
		for i := range damper {
			damper[i].HumidityPerMille += studio.PerMille(rapid.Int64Range(0, 50).Draw(t, "more"))
		}
		from := studio.Minute(rapid.Int64Range(0, 1440).Draw(t, "from"))
		need := rapid.Int64Range(1, 500_000).Draw(t, "need")
		clock := clockOf(t, climate, 9)
		now, ok := clock.Ready(from, need)
		later, okLater := clock.Ready(from+7, need)
		if okLater {
			require.True(t, ok)
			require.GreaterOrEqual(t, later, now)
		}
		if damp, okDamp := clockOf(t, damper, 9).Ready(from, need); okDamp {
			require.True(t, ok)
			require.GreaterOrEqual(t, damp, now)
		}
	})
}

func TestAStalledRoomSaysSo(t *testing.T) {
	climate := make([]studio.Air, 24)
	for i := range climate {
		climate[i] = studio.Air{TenthsCelsius: 180, HumidityPerMille: 850}
	}
	_, ok := clockOf(t, climate, 50).Ready(10, 1)
	assert.False(t, ok)
}

func TestARoomAnswersForWaitsAndElapsedTime(t *testing.T) {
	climate := make([]studio.Air, 24)
	for i := range climate {
		climate[i] = studio.Air{TenthsCelsius: 200, HumidityPerMille: 650} // half the standard speed
	}
	doc := &studio.Document{Climate: climate, Settings: studio.DefaultSettings(),
		DryingClasses: []studio.DryingClass{{ID: "petal", FirmMinutes: 30, DryMinutes: 240, Thickness: 1000, StallHumidity: 800}}}
	calendar, err := studio.NewCalendar(time.Date(2027, 9, 1, 0, 0, 0, 0, time.UTC), "UTC")
	require.NoError(t, err)
	room := NewRoom(doc, calendar)
	dry := studio.Wait{Class: "petal", Thickness: 1000, State: studio.Dry}
	assert.EqualValues(t, 240_000, room.Need(dry), "without a spread every percentile is the median")
	end, ok := room.End(dry, 1000)
	assert.True(t, ok)
	assert.EqualValues(t, 1480, end, "twice 240 minutes later")
	end, ok = room.End(studio.Wait{Minutes: 45}, 1000)
	assert.True(t, ok)
	assert.EqualValues(t, 1045, end, "a fixed wait takes no notice of the air")
	_, ok = room.End(dry, doc.Horizon()-10)
	assert.False(t, ok, "not before the horizon")

	recipe := &studio.Recipe{Kind: studio.KindPart, Steps: []studio.Step{
		{Key: "cut", Work: &studio.Work{Setup: 6_000, PerPiece: 500}}, {Key: "dry", Wait: &dry}, {Key: "dust", Work: &studio.Work{PerPiece: 250}}}}
	assert.EqualValues(t, 16+240+5, room.Elapsed(recipe, 0, 20))
	assert.EqualValues(t, 240+5, room.Elapsed(recipe, 1, 20))
}

func TestTheAirOfAnHourIsThatOfTheStudiosOwnDay(t *testing.T) {
	climate := make([]studio.Air, 24)
	for i := range climate {
		climate[i] = studio.Air{TenthsCelsius: 200, HumidityPerMille: 900}
	}
	climate[12].HumidityPerMille = 500 // only noon is dry
	calendar, err := studio.NewCalendar(time.Date(2027, 9, 1, 0, 0, 0, 0, time.UTC), "Europe/Dublin")
	require.NoError(t, err)
	clock := NewClock(climate, calendar, 800, 1440)
	assert.Zero(t, clock.At(11*60), "summer time: local noon is eleven UTC")
	assert.EqualValues(t, 60_000, clock.At(12*60))
	assert.EqualValues(t, 60_000, clock.At(1440))
	assert.EqualValues(t, 60_000, clock.At(5000), "past its end the clock stands")
	assert.Zero(t, clock.At(-5))
	ready, ok := clock.Ready(0, 1)
	assert.True(t, ok)
	assert.EqualValues(t, 11*60+1, ready)
}

func TestThickerIsNeverSooner(t *testing.T) {
	class := studio.DryingClass{FirmMinutes: 30, DryMinutes: 300, Thickness: 800, Spread: 200}
	rapid.Check(t, func(t *rapid.T) {
		thin := studio.Micrometres(rapid.Int64Range(100, 30_000).Draw(t, "thin"))
		thick := thin + studio.Micrometres(rapid.Int64Range(0, 30_000).Draw(t, "more"))
		percentile := rapid.Int64Range(1, 98).Draw(t, "percentile")
		require.LessOrEqual(t, Need(class, thin, studio.Dry, percentile), Need(class, thick, studio.Dry, percentile))
		require.LessOrEqual(t, Need(class, thin, studio.Firm, percentile), Need(class, thin, studio.Dry, percentile))
		require.LessOrEqual(t, Need(class, thin, studio.Dry, percentile), Need(class, thin, studio.Dry, percentile+1))
	})
}
