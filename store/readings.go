package store

import (
	"context"
	"database/sql"
	"encoding/binary"
	"errors"
	"fmt"
	"math"
	"slices"

	"bractum/core/climate"
	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// Sensor is something that measures the air. In is where it hangs, nil until somebody has
// said so; Refused is how many of its records could not be, Refusal why the last one.
type Sensor struct {
	ID        int64         `json:"id"`
	Device    string        `json:"device"`
	In        *studio.ID    `json:"in,omitempty"`
	Last      studio.Minute `json:"last" doc:"when it was last heard of; below nothing if it never was"`
	Refused   int64         `json:"refused"`
	Refusal   string        `json:"refusal,omitempty"`
	RefusedAt studio.Minute `json:"refusedAt,omitempty"`
}

func sensorOf(r sqlcgen.Sensor) Sensor {
	s := Sensor{
		ID:        r.ID,
		Device:    r.Device,
		Last:      studio.Minute(r.LastMinute),
		Refused:   r.Refused,
		Refusal:   r.Refusal,
		RefusedAt: studio.Minute(r.RefusedMinute),
	}
	if r.Surroundings.Valid {
		in := studio.ID(r.Surroundings.String)
		s.In = &in
	}
	return s
}

// Taken is what came of samples: those that are new, and those of a minute that is known.
type Taken struct {
	Fresh    int `json:"fresh"`
	Repeated int `json:"repeated"`
}

// mostUnplaced is how many sensors may send before somebody says where they hang.
const mostUnplaced = 12

// ErrTooManySensors says that devices that nobody knows are sending.
var ErrTooManySensors = fmt.Errorf(
	"%d sensors are sending of which nobody has said where they hang; say so, or switch them off",
	mostUnplaced,
)

// TakeSamples keeps what a device sent, which must be sound and in order of time, and what
// it comes to by the hour. What is known of a minute already stays. A device that was never
// heard of becomes a sensor without a place. Readings are no command: they leave the
// journal number as it is.
func (s *Store) TakeSamples(ctx context.Context, device string, samples []climate.Sample) (taken Taken, err error) {
	err = s.writing(ctx, func(q *sqlcgen.Queries) error {
		sensor, err := sensorFor(ctx, q, device)
		if err != nil || len(samples) == 0 {
			return err
		}
		days := &days{ctx: ctx, q: q, sensor: sensor.ID, at: map[int64][]byte{}}
		touched := map[int64]bool{}
		for _, sample := range samples {
			fresh, err := days.put(sample)
			if err != nil {
				return err
			}
			if !fresh {
				taken.Repeated++
				continue
			}
			taken.Fresh++
			for hour := max(0, (sample.At-climate.Reach)/60); hour <= (sample.At+climate.Reach)/60; hour++ { // the filter looks around it
				touched[int64(hour)] = true
			}
		}
		if err := days.save(); err != nil {
			return err
		}
		if err := days.hours(touched); err != nil {
			return err
		}
		return q.HeardOf(ctx, sqlcgen.HeardOfParams{ID: sensor.ID, Minute: int64(samples[len(samples)-1].At)})
	})
	return taken, err
}

// sensorFor finds the sensor of a device, or begins it.
func sensorFor(ctx context.Context, q *sqlcgen.Queries, device string) (sqlcgen.Sensor, error) {
	sensor, err := q.SensorOf(ctx, device)
	if !errors.Is(err, sql.ErrNoRows) {
		return sensor, err
	}
	all, err := q.Sensors(ctx)
	if err != nil {
		return sensor, err
	}
	unplaced := 0
	for _, r := range all {
		if !r.Surroundings.Valid {
			unplaced++
		}
	}
	if unplaced >= mostUnplaced {
		return sensor, ErrTooManySensors
	}
	return q.AddSensor(ctx, device)
}

// RefuseSamples notes that records of a device could not be, and why the last of them.
func (s *Store) RefuseSamples(ctx context.Context, device string, records int, why string, at studio.Minute) error {
	return s.writing(ctx, func(q *sqlcgen.Queries) error {
		sensor, err := sensorFor(ctx, q, device)
		if err != nil {
			return err
		}
		return q.RefuseOf(
			ctx,
			sqlcgen.RefuseOfParams{ID: sensor.ID, Records: int64(records), Why: why, Minute: int64(at)},
		)
	})
}

// Sensors are all that were ever heard of.
func (s *Store) Sensors(ctx context.Context) (sensors []Sensor, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		rows, err := q.Sensors(ctx)
		for _, r := range rows {
			sensors = append(sensors, sensorOf(r))
		}
		return err
	})
	return sensors, err
}

// Samples are what a sensor sent over the minutes [from, to).
func (s *Store) Samples(
	ctx context.Context,
	sensor int64,
	from, to studio.Minute,
) (samples []climate.Sample, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		samples, err = (&days{ctx: ctx, q: q, sensor: sensor, at: map[int64][]byte{}}).samples(from, to)
		return err
	})
	return samples, err
}

// Measured are the hours [from, to) of the sensors of each place.
func (s *Store) Measured(ctx context.Context, from, to int64) (measured map[studio.ID][][]climate.Hour, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		measured, err = measuredHours(ctx, q, from, to)
		return err
	})
	return measured, err
}

func measuredHours(ctx context.Context, q *sqlcgen.Queries, from, to int64) (map[studio.ID][][]climate.Hour, error) {
	measured := map[studio.ID][][]climate.Hour{}
	sensors, err := q.Sensors(ctx)
	if err != nil {
		return nil, err
	}
	for _, sensor := range sensors {
		if !sensor.Surroundings.Valid {
			continue
		}
		rows, err := q.ReadingHours(ctx, sqlcgen.ReadingHoursParams{SensorID: sensor.ID, Hour: from, Hour_2: to})
		if err != nil {
			return nil, err
		}
		hours := make([]climate.Hour, 0, len(rows))
		for _, r := range rows {
			hours = append(
				hours,
				climate.Hour{
					Hour: r.Hour,
					Air: studio.Air{
						TenthsCelsius:    r.TenthsCelsius,
						HumidityPerMille: studio.PerMille(r.HumidityPerMille),
					},
					Samples:  int(r.Samples),
					Outliers: int(r.Outliers),
				},
			)
		}
		in := studio.ID(sensor.Surroundings.String)
		measured[in] = append(measured[in], hours)
	}
	return measured, nil
}

// writing runs a function within one write transaction.
func (s *Store) writing(ctx context.Context, do func(*sqlcgen.Queries) error) error {
	tx, err := s.write.BeginTx(ctx, nil)
	if err != nil {
		return plain(err)
	}
	defer func() { _ = tx.Rollback() }() // after a commit it does nothing
	if err := do(s.writes.WithTx(tx)); err != nil {
		return plain(err)
	}
	return plain(tx.Commit())
}

// A day of readings is 1,440 minutes of four bytes: tenths of a degree and per mille of
// humidity, both signed and little-endian, unsent where a part is not there.
const (
	minutesOfDay = 1440
	bytesOfDay   = 4 * minutesOfDay
	unsent       = math.MinInt16
)

// days are the days of one sensor that are at hand.
type days struct {
	ctx     context.Context
	q       *sqlcgen.Queries
	sensor  int64
	at      map[int64][]byte
	changed []int64
}

// day is the body of a day, nil where nothing was sent on it.
func (d *days) day(day int64) ([]byte, error) {
	if body, known := d.at[day]; known {
		return body, nil
	}
	body, err := d.q.ReadingDay(d.ctx, sqlcgen.ReadingDayParams{SensorID: d.sensor, Day: day})
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return nil, err
	}
	d.at[day] = body
	return body, nil
}

func word(body []byte, at int) int16 { return int16(binary.LittleEndian.Uint16(body[at:])) }

// put keeps the parts of a sample that are not known yet; fresh if there were any.
func (d *days) put(s climate.Sample) (fresh bool, err error) {
	day, at := int64(s.At)/minutesOfDay, 4*int(s.At%minutesOfDay)
	body, err := d.day(day)
	if err != nil {
		return false, err
	}
	if body == nil {
		body = make([]byte, bytesOfDay)
		for i := 0; i < bytesOfDay; i += 2 {
			set(body, i, unsent)
		}
		d.at[day] = body
	}
	if s.Celsius != nil && word(body, at) == unsent {
		set(body, at, int16(*s.Celsius))
		fresh = true
	}
	if s.Humidity != nil && word(body, at+2) == unsent {
		set(body, at+2, int16(*s.Humidity))
		fresh = true
	}
	if fresh && !slices.Contains(d.changed, day) {
		d.changed = append(d.changed, day)
	}
	return fresh, nil
}

func set(body []byte, at int, value int16) { binary.LittleEndian.PutUint16(body[at:], uint16(value)) }

func (d *days) save() error {
	for _, day := range d.changed {
		if err := d.q.PutReadingDay(d.ctx, sqlcgen.PutReadingDayParams{SensorID: d.sensor, Day: day, Body: d.at[day]}); err != nil {
			return err
		}
	}
	return nil
}

func (d *days) samples(from, to studio.Minute) (samples []climate.Sample, err error) {
	for day := max(0, int64(from)/minutesOfDay); studio.Minute(day*minutesOfDay) < to; day++ {
		body, err := d.day(day)
		if err != nil {
			return nil, err
		}
		for minute := 0; body != nil && minute < minutesOfDay; minute++ {
			at := studio.Minute(day*minutesOfDay) + studio.Minute(minute)
			celsius, humidity := word(body, 4*minute), word(body, 4*minute+2)
			if at < from || at >= to || celsius == unsent && humidity == unsent {
				continue
			}
			sample := climate.Sample{At: at}
			if celsius != unsent {
				tenths := int64(celsius)
				sample.Celsius = &tenths
			}
			if humidity != unsent {
				perMille := studio.PerMille(humidity)
				sample.Humidity = &perMille
			}
			samples = append(samples, sample)
		}
	}
	return samples, nil
}

// hours reckons hours anew, in runs of neighbours.
func (d *days) hours(wanted map[int64]bool) error {
	all := make([]int64, 0, len(wanted))
	for hour := range wanted {
		all = append(all, hour)
	}
	slices.Sort(all)
	for i := 0; i < len(all); {
		past := i + 1
		for past < len(all) && all[past] == all[past-1]+1 {
			past++
		}
		samples, err := d.samples(studio.Minute(all[i]*60)-climate.Reach,
			studio.Minute(all[past-1]*60+60)+climate.Reach)
		if err != nil {
			return err
		}
		for _, h := range climate.Hours(samples) {
			if !wanted[h.Hour] {
				continue
			}
			if err := d.q.PutReadingHour(d.ctx, sqlcgen.PutReadingHourParams{SensorID: d.sensor, Hour: h.Hour, TenthsCelsius: h.TenthsCelsius,
				HumidityPerMille: int64(h.HumidityPerMille), Samples: int64(h.Samples), Outliers: int64(h.Outliers)}); err != nil {
				return err
			}
		}
		i = past
	}
	return nil
}
