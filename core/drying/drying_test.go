package drying

import (
	"math"
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
	class := studio.DryingClass{FirmMinutes: 30, DryMinutes: 240, StiffMinutes: 120, Thickness: 1000, Spread: 200}
	assert.EqualValues(t, 240_000, Need(class, 1000, studio.Dry, 0, 50))
	assert.EqualValues(t, 120_000, Need(class, 1000, studio.Stiff, 1000, 50))
	assert.EqualValues(t, 96_000, Need(class, 1000, studio.Stiff, 800, 50), "CMC in the paste")
	assert.EqualValues(t, 30_000, Need(class, 1000, studio.Firm, 0, 50))
	assert.EqualValues(
		t,
		1_920_000,
		Need(class, 4000, studio.Dry, 0, 50),
		"four times as thick takes eight times as long",
	)
	assert.InDelta(t, 240_000*1.1834, Need(class, 1000, studio.Dry, 0, 80), 50, "e^(0.8416 × 0.2) = 1.1834")
}

func clockOf(t require.TestingT, climate []studio.Air, days int64) Clock {
	calendar, err := studio.NewCalendar(time.Date(2027, 9, 1, 0, 0, 0, 0, time.UTC), "UTC")
	require.NoError(t, err)
	return NewClock(0, Hourly(&studio.Document{Climate: climate}, calendar, "", 0, studio.Minute(days*1440)), 800)
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
		DryingClasses: []studio.DryingClass{
			{ID: "petal", FirmMinutes: 30, DryMinutes: 240, Thickness: 1000, StallHumidity: 800},
		}}
	calendar, err := studio.NewCalendar(time.Date(2027, 9, 1, 0, 0, 0, 0, time.UTC), "UTC")
	require.NoError(t, err)
	room := NewRoom(doc, calendar)
	wait := studio.Wait{Drying: studio.Drying{Class: "petal", Thickness: 1000}, State: studio.Dry}
	dry := wait.Longest()
	assert.EqualValues(t, 240_000, room.Need(dry), "without a spread every percentile is the median")
	end, ok := room.End(dry, 1000)
	assert.True(t, ok)
	assert.EqualValues(t, 1480, end, "twice 240 minutes later")
	end, ok = room.End(studio.Length{Minutes: 45}, 1000)
	assert.True(t, ok)
	assert.EqualValues(t, 1045, end, "a fixed wait takes no notice of the air")
	_, ok = room.End(dry, doc.Horizon()-10)
	assert.False(t, ok, "not before the horizon")

	recipe := &studio.Recipe{Kind: studio.KindPart, Steps: []studio.Step{
		{
			Key:  "cut",
			Work: &studio.Work{Setup: 6_000, PerPiece: 500},
		}, {Key: "dry", Wait: &wait}, {Key: "dust", Work: &studio.Work{PerPiece: 250}}}}
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
	clock := NewClock(0, Hourly(&studio.Document{Climate: climate}, calendar, "", 0, 1440), 800)
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
		require.LessOrEqual(
			t,
			Need(class, thin, studio.Dry, 0, percentile),
			Need(class, thick, studio.Dry, 0, percentile),
		)
		require.LessOrEqual(
			t,
			Need(class, thin, studio.Firm, 0, percentile),
			Need(class, thin, studio.Dry, 0, percentile),
		)
		require.LessOrEqual(
			t,
			Need(class, thin, studio.Dry, 0, percentile),
			Need(class, thin, studio.Dry, 0, percentile+1),
		)
	})
}

func days(n int, air studio.Air) []studio.Air {
	hours := make([]studio.Air, 24*n)
	for i := range hours {
		hours[i] = air
	}
	return hours
}

// rest is what is left of a need after lying on a clock over [from, to).
func rest(c Clock, need int64, from, to studio.Minute) int64 {
	return max(0, need-(c.At(to)-c.At(from)))
}

func TestAMovedPieceCarriesTheRestOfItsNeedAlong(t *testing.T) {
	damp, warm := NewClock(
		0,
		days(3, studio.Air{TenthsCelsius: 200, HumidityPerMille: 650}),
		800,
	), NewClock(
		0,
		days(3, studio.Air{TenthsCelsius: 200, HumidityPerMille: 500}),
		800,
	)
	left := rest(damp, 240_000, 100, 220) // two hours at half speed are one hour's worth
	assert.EqualValues(t, 180_000, left)
	ready, ok := warm.Ready(220, left)
	assert.True(t, ok)
	assert.EqualValues(t, 400, ready)
	assert.Zero(t, rest(damp, 240_000, 100, 2000), "dry long since")
	rapid.Check(t, func(t *rapid.T) { // moving there and back in the same air changes nothing
		need, at := rapid.Int64Range(1, 500_000).Draw(t, "need"), studio.Minute(rapid.Int64Range(0, 900).Draw(t, "at"))
		stayed, _ := damp.Ready(0, need)
		if at < stayed {
			moved, ok := damp.Ready(at, rest(damp, need, 0, at))
			require.True(t, ok)
			require.Equal(t, stayed, moved)
		}
	})
}

func TestAStalledWeekAnswersAtOnceAndThenDries(t *testing.T) {
	air := append(
		days(7, studio.Air{TenthsCelsius: 180, HumidityPerMille: 880}),
		days(2, studio.Air{TenthsCelsius: 200, HumidityPerMille: 500})...)
	clock := NewClock(0, air, 800)
	ready, ok := clock.Ready(30, 60_000)
	assert.True(t, ok)
	assert.EqualValues(t, 7*1440+60, ready)
}

func TestDryPiecesGoLimpInDampAir(t *testing.T) {
	air := days(2, studio.Air{TenthsCelsius: 200, HumidityPerMille: 600})
	for _, hour := range []int{3, 4, 20} {
		air[hour].HumidityPerMille = 850
	}
	clock := NewClock(0, air, 800)
	for _, c := range []struct{ from, patience, limp studio.Minute }{
		{0, 60, 240}, {0, 90, 270}, {0, 150, 1230}, {200, 100, 300}, {300, 60, 1260}} {
		at, ok := clock.Limp(c.from, c.patience)
		assert.True(t, ok)
		assert.Equal(t, c.limp, at, c)
	}
	_, ok := clock.Limp(300, 61)
	assert.False(t, ok, "only an hour of damp is left")
	_, ok = clock.Limp(0, 0)
	assert.False(t, ok, "this class does not mind")
	doc := &studio.Document{Climate: days(1, studio.Air{HumidityPerMille: 900}), Settings: studio.DefaultSettings(),
		Surroundings: []studio.Surroundings{
			{ID: "box", Hours: days(1, studio.Air{HumidityPerMille: 900}), Closed: true},
		},
		DryingClasses: []studio.DryingClass{
			{
				ID:             "petal",
				FirmMinutes:    1,
				StiffMinutes:   1,
				DryMinutes:     1,
				Thickness:      1000,
				StallHumidity:  800,
				SoftensMinutes: 30,
			},
		}}
	calendar, err := studio.NewCalendar(time.Date(2027, 9, 1, 0, 0, 0, 0, time.UTC), "UTC")
	require.NoError(t, err)
	at, ok := NewRoom(doc, calendar).Limp("petal", "", 100)
	assert.True(t, ok)
	assert.EqualValues(t, 130, at)
	_, ok = NewRoom(doc, calendar).Limp("petal", "box", 100)
	assert.False(t, ok, "a closed box keeps the damp out")
}

func TestReadingsAndSurroundingsTakeThePlaceOfTheRoomsProfile(t *testing.T) {
	doc := &studio.Document{Climate: days(1, studio.Air{TenthsCelsius: 200, HumidityPerMille: 500}),
		Surroundings: []studio.Surroundings{
			{ID: "cellar", Hours: days(1, studio.Air{TenthsCelsius: 200, HumidityPerMille: 650})},
		},
		Readings: []studio.Reading{
			{Hour: 2, Air: studio.Air{TenthsCelsius: 200, HumidityPerMille: 800}},
			{Hour: 3, In: "cellar", Air: studio.Air{TenthsCelsius: 200, HumidityPerMille: 500}},
		}}
	calendar, err := studio.NewCalendar(time.Date(2027, 9, 1, 0, 0, 0, 0, time.UTC), "UTC")
	require.NoError(t, err)
	room, cellar := NewClock(
		0,
		Hourly(doc, calendar, "", 0, 600),
		800,
	), NewClock(
		0,
		Hourly(doc, calendar, "cellar", 0, 600),
		800,
	)
	assert.EqualValues(t, 120_000, room.At(180), "the third hour was too damp")
	assert.EqualValues(t, 150_000, cellar.At(240), "three hours at half speed, one at full")
}

// A class with a spread: firm by P80 for the lower limit, stiff by P20 for the upper.
func TestWindowsBetweenStates(t *testing.T) {
	petal := studio.DryingClass{
		ID:            "petal",
		FirmMinutes:   30,
		StiffMinutes:  60,
		DryMinutes:    240,
		Thickness:     1000,
		Spread:        200,
		StallHumidity: 800,
	}
	doc := &studio.Document{
		Climate:       days(1, studio.Air{TenthsCelsius: 200, HumidityPerMille: 500}),
		Settings:      studio.DefaultSettings(),
		DryingClasses: []studio.DryingClass{petal},
	}
	calendar, err := studio.NewCalendar(time.Date(2027, 9, 1, 0, 0, 0, 0, time.UTC), "UTC")
	require.NoError(t, err)
	dries := func(state studio.State) *studio.Length {
		return &studio.Length{Dries: &studio.Dries{Class: "petal", Thickness: 1000, State: state}}
	}
	lag := studio.Lag{Least: dries(studio.Firm), Most: dries(studio.Stiff)}
	first, last, narrow, ok := NewRoom(doc, calendar).Window(lag, 100)
	assert.True(t, ok)
	assert.False(t, narrow)
	assert.Equal(
		t,
		[2]studio.Minute{136, 150},
		[2]studio.Minute{first, last},
		"30 × e^0.168 = 35.5 and 60 × e^-0.168 = 50.7 minutes on",
	)

	doc.DryingClasses[0].StiffMinutes = 40 // nearly all are firm only after the first are stiff
	first, last, narrow, ok = NewRoom(doc, calendar).Window(lag, 100)
	assert.True(t, ok)
	assert.True(t, narrow)
	assert.Equal(t, [2]studio.Minute{130, 139}, [2]studio.Minute{first, last}, "the medians")

	doc.DryingClasses[0].Percentile = 50 // the lead's choice for this class
	assert.False(t, NewRoom(doc, calendar).Crossed(lag))
	most := studio.Minute(20)
	first, last, _, _ = NewRoom(
		doc,
		calendar,
	).Window(studio.Lag{Least: &studio.Length{Minutes: 5}, Most: &studio.Length{Minutes: most}}, 100)
	assert.Equal(t, [2]studio.Minute{105, 120}, [2]studio.Minute{first, last})
	doc.Climate = days(1, studio.Air{TenthsCelsius: 200, HumidityPerMille: 900})
	_, _, _, ok = NewRoom(doc, calendar).Window(lag, 100)
	assert.False(t, ok, "never firm")
	_, last, _, ok = NewRoom(doc, calendar).Window(studio.Lag{Most: dries(studio.Stiff)}, 100)
	assert.True(t, ok)
	assert.Equal(t, Never, last, "what does not dry does not stiffen")
}

func TestARoomTakesOffWhatAPieceHasDriedBeforeItWasMoved(t *testing.T) {
	doc := &studio.Document{
		Climate:  days(1, studio.Air{TenthsCelsius: 200, HumidityPerMille: 650}),
		Settings: studio.DefaultSettings(),
		Surroundings: []studio.Surroundings{
			{ID: "cupboard", Name: "Cupboard", Hours: days(1, studio.Air{TenthsCelsius: 200, HumidityPerMille: 500})},
		},
		DryingClasses: []studio.DryingClass{
			{ID: "petal", FirmMinutes: 30, StiffMinutes: 60, DryMinutes: 240, Thickness: 1000, StallHumidity: 800},
		},
	}
	calendar, err := studio.NewCalendar(time.Date(2027, 9, 1, 0, 0, 0, 0, time.UTC), "UTC")
	require.NoError(t, err)
	room := NewRoom(doc, calendar)
	dry := studio.Length{Dries: &studio.Dries{Class: "petal", Thickness: 1000, State: studio.Dry, In: "cupboard"}}
	end, ok := room.End(
		dry,
		300,
		studio.Lain{Span: studio.Span{From: 200, To: 300}, In: ""},
		studio.Lain{Span: studio.Span{From: 100, To: 200}, In: "cupboard"},
	)
	assert.True(t, ok)
	assert.EqualValues(t, 300+240-50-100, end, "a hundred minutes at half speed, a hundred at full")
	end, _ = room.End(dry, 900, studio.Lain{Span: studio.Span{From: 100, To: 900}, In: ""})
	assert.EqualValues(t, 900, end, "dry long since")
}

// Eight weeks of air too damp to dry in, and one dry hour at their end.
func BenchmarkStalled(b *testing.B) {
	air := append(
		days(56, studio.Air{TenthsCelsius: 180, HumidityPerMille: 900}),
		days(1, studio.Air{TenthsCelsius: 200, HumidityPerMille: 500})...)
	clock := NewClock(0, air, 800)
	for b.Loop() {
		if _, ok := clock.Ready(10, 60_000); !ok {
			b.Fatal("never dry")
		}
	}
}

// Of many pieces that were not there after so much, the percentile is by what is found
// beyond: drawn from the distribution itself.
func TestBeyondIsThePercentileOfThoseThatAreLeft(t *testing.T) {
	const median, spread, pieces = 240_000, 250, 400_000
	for _, c := range []struct{ percentile, passed int64 }{{80, 150_000}, {80, 240_000}, {50, 240_000}, {20, 330_000}, {90, 400_000}} {
		var left, by int
		need := Beyond(median, spread, c.percentile, c.passed)
		for i := range pieces { // quantiles of the log-normal, one by one
			takes := median * math.Exp(0.25*math.Sqrt2*math.Erfinv(2*(float64(i)+0.5)/pieces-1))
			if takes > float64(c.passed) {
				left++
				if takes <= float64(need) {
					by++
				}
			}
		}
		if need > c.passed+again {
			assert.InDelta(t, float64(c.percentile)/100, float64(by)/float64(left), 0.01, "%+v", c)
		}
	}
	assert.EqualValues(t, 240_000, Beyond(median, 0, 80, 100_000), "without a spread it is the median")
	assert.EqualValues(t, 310_000, Beyond(median, 0, 80, 300_000), "and past it a little more")
	assert.EqualValues(
		t,
		24_010_000,
		Beyond(median, 100, 80, 24_000_000),
		"a hundred times the median is past all reckoning",
	)
	rapid.Check(t, func(t *rapid.T) {
		passed, more := rapid.Int64Range(0, 900_000).Draw(t, "passed"), rapid.Int64Range(0, 300_000).Draw(t, "more")
		spread := studio.PerMille(rapid.Int64Range(1, 600).Draw(t, "spread"))
		percentile := rapid.Int64Range(5, 95).Draw(t, "percentile")
		require.LessOrEqual(
			t,
			Beyond(median, spread, percentile, passed),
			Beyond(median, spread, percentile, passed+more),
			"later checks never make it sooner",
		)
		require.GreaterOrEqual(
			t,
			Beyond(median, spread, percentile, passed),
			Need(
				studio.DryingClass{FirmMinutes: 1, DryMinutes: 240, Thickness: 1000, Spread: spread},
				1000,
				studio.Dry,
				0,
				percentile,
			),
		)
	})
}
