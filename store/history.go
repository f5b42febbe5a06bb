package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"strings"

	"bractum/core/climate"
	"bractum/core/learn"
	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// History is the studio with all lots that were worked on since a minute, also those that
// are used up, and the air of every hour since.
func (s *Store) History(ctx context.Context, now, since studio.Minute) (doc *studio.Document, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		doc, err = s.document(ctx, q, Accepted, func(studio.Calendar, *studio.Minute) studio.Minute { return now })
		if err != nil {
			return err
		}
		a := &assembler{ctx: ctx, q: q, doc: doc}
		a.history(since)
		if a.err != nil {
			return a.err
		}
		at, calendar, used, err := standing(ctx, q, now)
		if err != nil {
			return err
		}
		from, to := max(0, int64(since/60)), int64(now/60)
		measured, err := measuredHours(ctx, q, from, to)
		if err != nil || len(measured) == 0 {
			return err
		}
		doc.Readings = nil
		for in := range climate.Places(at) {
			doc.Readings = append(
				doc.Readings,
				climate.CurveOf(at, calendar, in, measured[in], used.Words, from, to).Readings(in)...)
		}
		return nil
	})
	return doc, err
}

// history reads all lots that were worked on since a minute as work.
func (a *assembler) history(since studio.Minute) {
	records := map[string][]studio.TaskRecord{}
	tasks := func(ctx context.Context) ([]sqlcgen.Task, error) { return a.q.TasksSince(ctx, int64(since)) }
	for _, r := range rows(a, tasks) {
		records[r.LotID] = append(records[r.LotID], a.record(r))
	}
	a.doc.Work = nil
	for _, r := range rows(a, func(ctx context.Context) ([]sqlcgen.Lot, error) { return a.q.LotsSince(ctx, int64(since)) }) {
		a.doc.Work = append(a.doc.Work, a.lot(r, records[r.ID]))
	}
}

// Refusals are the proposals that somebody did not want, by their keys.
func (s *Store) Refusals(ctx context.Context) (refusals map[string]learn.Refused, err error) {
	refusals = map[string]learn.Refused{}
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		rows, err := q.Refusals(ctx)
		for _, r := range rows {
			var refused learn.Refused
			err = errors.Join(err, json.Unmarshal([]byte(r.Body), &refused))
			refusals[r.Key] = refused
		}
		return err
	})
	return refusals, err
}

// RefuseProposal notes that a proposal is not wanted; nil takes that back.
func (t *Tx) RefuseProposal(key string, refused *learn.Refused) error {
	before, err := t.q.Refusal(t.ctx, key)
	if errors.Is(err, sql.ErrNoRows) {
		before, err = "null", nil
	}
	if err != nil {
		return err
	}
	t.touch("refusal", key, json.RawMessage(before), refused)
	if refused == nil {
		return t.q.DropRefusal(t.ctx, key)
	}
	return t.q.PutRefusal(t.ctx, sqlcgen.PutRefusalParams{Key: key, Body: asJSON(refused)})
}

// SetPace changes how fast somebody is at a skill.
func (t *Tx) SetPace(person studio.ID, skill string, pace int64) error {
	before, err := t.q.PaceOf(t.ctx, sqlcgen.PaceOfParams{PersonID: string(person), Skill: skill})
	if errors.Is(err, sql.ErrNoRows) {
		return NotFound{"this skill"}
	}
	if err != nil {
		return err
	}
	t.touch("person", string(person)+"/"+skill, before, pace)
	return t.q.SetPace(t.ctx, sqlcgen.SetPaceParams{PersonID: string(person), Skill: skill, PaceHundredths: pace})
}

// SetSettings changes the studio's own starting points.
func (t *Tx) SetSettings(settings studio.Settings) error {
	row, err := t.q.Studio(t.ctx)
	if err != nil {
		return err
	}
	t.touch("settings", "settings", json.RawMessage(row.Settings), settings)
	return t.q.SetSettings(t.ctx, asJSON(settings))
}

// restoreRefusal takes back that a proposal was not wanted, or is wanted after all.
func (t *Tx) restoreRefusal(touched sqlcgen.JournalTouch) error {
	var before *learn.Refused
	if err := json.Unmarshal([]byte(touched.Before), &before); err != nil {
		return err
	}
	return t.RefuseProposal(touched.ID, before)
}

func (t *Tx) restoreSettings(touched sqlcgen.JournalTouch) error {
	settings := studio.DefaultSettings()
	if err := json.Unmarshal([]byte(touched.Before), &settings); err != nil {
		return err
	}
	return t.SetSettings(settings)
}

func (t *Tx) restorePace(touched sqlcgen.JournalTouch) error {
	person, skill, _ := strings.Cut(touched.ID, "/")
	var pace int64
	if err := json.Unmarshal([]byte(touched.Before), &pace); err != nil {
		return err
	}
	return t.SetPace(studio.ID(person), skill, pace)
}

// SeedHistory writes lots that were made and used up before the file was begun.
func (s *Store) SeedHistory(ctx context.Context, lots []studio.WorkLot) error {
	return s.writing(ctx, func(q *sqlcgen.Queries) error {
		w := &seeder{ctx: ctx, q: q}
		for _, l := range lots {
			w.lot(l)
		}
		if w.err != nil {
			return w.err
		}
		// what was planned without it was never in force
		return errors.Join(s.closeAll(ctx, q), q.DropPlans(ctx), q.DropFalls(ctx))
	})
}
