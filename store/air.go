package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"bractum/core/climate"
	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// FreshAir is the air of the studio's places as sensors and the lead have it now, beside
// what plans reckon with so far. Words are the lead's, those that stand if nil.
func (s *Store) FreshAir(
	ctx context.Context,
	now studio.Minute,
	words []climate.Word,
) (fresh, inUse climate.Air, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		doc, calendar, used, err := standing(ctx, q, now)
		if err != nil {
			return err
		}
		if words == nil {
			words = used.Words
		}
		hour := int64(now / 60)
		measured, err := measuredHours(ctx, q, hour-learnsFrom, hour)
		if err != nil {
			return err
		}
		fresh, inUse = climate.Take(doc, calendar, measured, words), used
		return nil
	})
	return fresh, inUse, err
}

// Air is what is known of the air over some hours: the hours of the sensors of each place,
// each place's curve, past its end as far as the lead's words go, and what plans reckon with.
type Air struct {
	Measured map[studio.ID][][]climate.Hour
	Curves   map[studio.ID]climate.Curve
	InUse    climate.Air
}

// Air is what is known and expected of the air of all places over the hours [from, to).
func (s *Store) Air(ctx context.Context, now studio.Minute, from, to int64) (air Air, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		doc, calendar, used, err := standing(ctx, q, now)
		if err != nil {
			return err
		}
		hour := int64(now / 60)
		air.Measured, err = measuredHours(ctx, q, min(from, hour-learnsFrom), hour)
		if err != nil {
			return err
		}
		air.InUse, air.Curves = used, map[studio.ID]climate.Curve{}
		for in := range climate.Places(doc) {
			air.Curves[in] = climate.CurveOf(doc, calendar, in, air.Measured[in], used.Words, from, to)
		}
		return nil
	})
	return air, err
}

// learnsFrom is how many hours back the usual day is learnt from.
const learnsFrom = 24 * climate.Remembers

// standing is a document of the studio's places with their standing profiles, and the air
// in use.
func standing(
	ctx context.Context,
	q *sqlcgen.Queries,
	now studio.Minute,
) (*studio.Document, studio.Calendar, climate.Air, error) {
	var used climate.Air
	row, err := q.Studio(ctx)
	if err != nil {
		return nil, studio.Calendar{}, used, err
	}
	calendar, _, err := clockOf(row)
	if err != nil {
		return nil, calendar, used, err
	}
	a := &assembler{ctx: ctx, q: q, doc: &studio.Document{Now: now}}
	var kept brought
	a.decode(row.Brought, &kept)
	a.decode(row.Air, &used)
	a.doc.Readings, a.doc.Seen = kept.Readings, kept.Seen
	a.allEquipment().into(a.doc)
	a.climate()
	return a.doc, calendar, used, a.err
}

// SetAir has plans reckon with another air from now on. What the sensors measured is not
// taken back; what the lead said of it is.
func (t *Tx) SetAir(air climate.Air) error {
	before, err := t.air()
	if err != nil {
		return err
	}
	if !slices.Equal(before.Words, air.Words) {
		t.touch("air", "words", before.Words, air.Words)
	}
	return t.q.SetAir(t.ctx, asJSON(air))
}

func (t *Tx) air() (air climate.Air, err error) {
	body, err := t.q.Air(t.ctx)
	if err == nil {
		err = json.Unmarshal([]byte(body), &air)
	}
	return air, err
}

// HangSensor says where a sensor hangs; nil takes it down.
func (t *Tx) HangSensor(id int64, in *studio.ID) (Sensor, error) {
	row, err := t.q.Sensor(t.ctx, id)
	if errors.Is(err, sql.ErrNoRows) {
		return Sensor{}, NotFound{"this sensor"}
	}
	if err != nil {
		return Sensor{}, err
	}
	before := sensorOf(row)
	row.Surroundings = nullString("")
	if row.Surroundings.Valid = in != nil; in != nil {
		row.Surroundings.String = string(*in)
	}
	t.touch("sensor", fmt.Sprint(id), before.In, in)
	return sensorOf(row), t.q.HangSensor(t.ctx, sqlcgen.HangSensorParams{ID: id, Surroundings: row.Surroundings})
}

// restoreSensor hangs a sensor where it hung.
func (t *Tx) restoreSensor(touched sqlcgen.JournalTouch) error {
	var id int64
	var in *studio.ID
	if _, err := fmt.Sscan(touched.ID, &id); err != nil {
		return err
	}
	if err := json.Unmarshal([]byte(touched.Before), &in); err != nil {
		return err
	}
	_, err := t.HangSensor(id, in)
	return err
}

// restoreWords takes back what was said of the air.
func (t *Tx) restoreWords(touched sqlcgen.JournalTouch) error {
	air, err := t.air()
	if err != nil {
		return err
	}
	var words []climate.Word
	if err := json.Unmarshal([]byte(touched.Before), &words); err != nil {
		return err
	}
	air.Words = words
	return t.SetAir(air)
}

func (a *assembler) sensors() {
	for _, r := range rows(a, a.q.Sensors) {
		if r.Surroundings.Valid {
			a.doc.Sensors = append(
				a.doc.Sensors,
				studio.Sensor{Device: r.Device, In: studio.ID(r.Surroundings.String)},
			)
		}
	}
}

// lying is what is known of a lot's pieces beside the records of its tasks.
type lying struct {
	Checks []studio.Check `json:"checks,omitempty"`
	Puts   []studio.Put   `json:"puts,omitempty"`
}

// PutLying writes what was found of a lot's pieces and where they were put.
func (t *Tx) PutLying(w studio.WorkLot) error {
	return t.setLying(string(w.ID), asJSON(lying{Checks: w.Checks, Puts: w.Puts}))
}

func (t *Tx) restoreLying(touched sqlcgen.JournalTouch) error {
	return t.setLying(touched.ID, touched.Before)
}

func (t *Tx) setLying(lot, after string) error {
	before, err := t.q.LyingOf(t.ctx, lot)
	if err != nil {
		return err
	}
	t.touch("lying", lot, json.RawMessage(before), json.RawMessage(after))
	return t.q.SetLying(t.ctx, sqlcgen.SetLyingParams{ID: lot, Lying: after})
}
