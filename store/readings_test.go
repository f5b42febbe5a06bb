package store_test

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/climate"
	"bractum/core/studio"
	"bractum/core/workshop"
	"bractum/demo"
	"bractum/store"
)

// minutes are samples a minute apart.
func minutes(from studio.Minute, n int, celsius int64, humidity studio.PerMille) (samples []climate.Sample) {
	for i := range n {
		c, h := celsius+int64(i%2), humidity+studio.PerMille(i%3)
		samples = append(samples, climate.Sample{At: from + studio.Minute(i), Celsius: &c, Humidity: &h})
	}
	return samples
}

// hoursOf are the hours of all sensors of a place.
func hoursOf(t testing.TB, s *store.Store, in studio.ID) []climate.Hour {
	measured, err := s.Measured(ctx, 0, 1_000_000)
	require.NoError(t, err)
	return slices.Concat(measured[in]...)
}

func TestReadingsAreKeptOncePutIntoHoursAndOutliveARestart(t *testing.T) {
	s, folder := seeded(t)
	n, _, _, err := s.LastN(ctx)
	require.NoError(t, err)
	taken, err := s.TakeSamples(ctx, "loft", minutes(1380, 120, 195, 640))
	require.NoError(t, err)
	assert.Equal(t, store.Taken{Fresh: 120}, taken)
	again := minutes(1380, 130, 250, 800)
	taken, err = s.TakeSamples(ctx, "loft", again)
	require.NoError(t, err)
	assert.Equal(t, store.Taken{Fresh: 10, Repeated: 120}, taken, "what is known of a minute stays")
	hours := hoursOf(t, s, "")
	require.Len(t, hours, 3)
	assert.EqualValues(t, 23, hours[0].Hour, "over midnight")
	assert.InDelta(t, 641, int64(hours[0].HumidityPerMille), 1)
	assert.EqualValues(t, 25, hours[2].Hour)

	// A part that came late joins the rest of its minute, and its hour is reckoned anew.
	var halves []climate.Sample
	for _, sample := range minutes(3000, 60, 200, 500) {
		halves = append(halves, climate.Sample{At: sample.At, Celsius: sample.Celsius})
	}
	_, err = s.TakeSamples(ctx, "loft", halves)
	require.NoError(t, err)
	assert.Len(t, hoursOf(t, s, ""), 3, "half a reading is no hour")
	_, err = s.TakeSamples(ctx, "loft", minutes(3000, 60, 999, 500))
	require.NoError(t, err)
	hours = hoursOf(t, s, "")
	require.Len(t, hours, 4)
	assert.InDelta(t, 200, hours[3].TenthsCelsius, 1)

	require.NoError(t, s.RefuseSamples(ctx, "loft", 3, "85.0 °C cannot be", 3100))
	require.NoError(t, s.Close())
	s = opened(t, folder)
	assert.Len(t, hoursOf(t, s, ""), 4)
	sensors, err := s.Sensors(ctx)
	require.NoError(t, err)
	require.Len(t, sensors, 2)
	assert.EqualValues(t, 3, sensors[1].Refused)
	assert.EqualValues(t, 3059, sensors[1].Last)
	samples, err := s.Samples(ctx, sensors[1].ID, 1438, 1442)
	require.NoError(t, err)
	require.Len(t, samples, 4)
	assert.EqualValues(t, 195, *samples[0].Celsius)
	after, _, _, err := s.LastN(ctx)
	require.NoError(t, err)
	assert.Equal(t, n, after, "readings are no command")
}

func TestUnknownSensorsAreAskedAboutAndNotEndless(t *testing.T) {
	s, _ := seeded(t)
	for i := range 12 {
		_, err := s.TakeSamples(ctx, fmt.Sprint("stray-", i), minutes(100, 60, 195, 640))
		require.NoError(t, err)
	}
	_, err := s.TakeSamples(ctx, "stray-12", minutes(100, 1, 195, 640))
	assert.ErrorIs(t, err, store.ErrTooManySensors)
	assert.Empty(t, hoursOf(t, s, ""), "nobody said where they hang")
	sensors, err := s.Sensors(ctx)
	require.NoError(t, err)
	assert.Nil(t, sensors[3].In)
	room := studio.ID("")
	done, err := s.Do(
		ctx,
		command("sensor hung"),
		func(tx *store.Tx) (any, error) { return tx.HangSensor(sensors[3].ID, &room) },
	)
	require.NoError(t, err)
	assert.Len(t, hoursOf(t, s, ""), 2)
	_, err = undo(s, done.N)
	require.NoError(t, err)
	assert.Empty(t, hoursOf(t, s, ""))
	_, err = s.Do(ctx, command("sensor hung"), func(tx *store.Tx) (any, error) { return tx.HangSensor(99, &room) })
	assert.ErrorAs(t, err, &store.NotFound{})
}

// What is known of the air, of lots that lie and of standards is taken back as it was.
func TestWhatWasSaidInTheDryingRoomIsTakenBack(t *testing.T) {
	s, _ := seeded(t)
	before := document(t, s, store.Accepted)
	class, settings := before.DryingClasses[0], before.Settings
	class.DryMinutes, class.Percentile, settings.PlanningPercentile = 444, 90, 65
	word := climate.Word{ID: "w", From: before.Now, Until: before.Now + 600, Humidity: 80, Said: "Damp"}
	for name, do := range map[string]func(*store.Tx) error{
		"class":    func(tx *store.Tx) error { return tx.PutThing(workshop.DryingClasses, class.ID, class) },
		"settings": func(tx *store.Tx) error { return tx.SetSettings(settings) },
		"pace":     func(tx *store.Tx) error { return tx.SetPace(demo.ID("Teun"), "wiring", 160) },
		"word":     func(tx *store.Tx) error { return tx.SetAir(climate.Air{Words: []climate.Word{word}, Made: 5}) },
		"timer": func(tx *store.Tx) error {
			return tx.StartTimer(store.Timer{ID: demo.ID("timer"), Name: "Oven", Person: demo.ID("Teun"), Started: 1, Ends: 9})
		},
	} {
		done, err := s.Do(ctx, command(name), func(tx *store.Tx) (any, error) { return nil, do(tx) })
		require.NoError(t, err, name)
		_, err = undo(s, done.N)
		require.NoError(t, err, name)
		assert.Equal(t, before, document(t, s, store.Accepted), name)
	}
	timers := snapshot(t, s).Timers
	assert.Empty(t, timers)
	_, used, err := s.FreshAir(ctx, before.Now, nil)
	require.NoError(t, err)
	assert.Empty(t, used.Words)
}

// A year of readings, one a minute, from four sensors.
func yearOfReadings(b *testing.B) (*store.Store, string, *studio.Document) {
	doc := demo.Document()
	const year = 365 * 1440
	doc.Epoch, doc.Now = doc.Epoch.AddDate(0, 0, -365), doc.Now+year
	doc.Sensors = []studio.Sensor{
		{Device: "a"},
		{Device: "b"},
		{Device: "c", In: demo.ID("Dry cupboard")},
		{Device: "d", In: demo.ID("Dry cupboard")},
	}
	folder := b.TempDir()
	s := opened(b, folder)
	require.NoError(b, s.Seed(ctx, doc, true))
	for day := studio.Minute(0); day < doc.Now/1440; day++ {
		for _, sensor := range doc.Sensors {
			_, err := s.TakeSamples(
				ctx,
				sensor.Device,
				minutes(day*1440, 1440, 190+int64(day%7), studio.PerMille(600+day%50)),
			)
			require.NoError(b, err)
		}
	}
	return s, folder, doc
}

func BenchmarkAYearOfReadings(b *testing.B) {
	s, folder, doc := yearOfReadings(b)
	require.NoError(b, s.Close())
	file, err := os.Stat(filepath.Join(folder, store.FileName))
	require.NoError(b, err)
	s = opened(b, folder)
	b.Run("air", func(b *testing.B) {
		for b.Loop() {
			_, _, err := s.FreshAir(ctx, doc.Now, nil)
			require.NoError(b, err)
		}
		b.ReportMetric(float64(file.Size())/1e6, "MB")
	})
	b.Run("one", func(b *testing.B) {
		at := doc.Now
		for b.Loop() {
			_, err := s.TakeSamples(ctx, "a", minutes(at, 1, 195, 640))
			require.NoError(b, err)
			at++
		}
	})
}
