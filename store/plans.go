package store

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"errors"

	"github.com/klauspost/compress/gzip"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// keptVersions is how many of the latest versions of the plan are kept; older ones are
// only where somebody put them in force.
const keptVersions = 100

func packed(plan *studio.Plan) ([]byte, error) {
	var body bytes.Buffer
	pack, err := gzip.NewWriterLevel(&body, gzip.BestSpeed) // one is kept each time something happens
	err = errors.Join(err, json.NewEncoder(pack).Encode(plan), pack.Close())
	return body.Bytes(), err
}

func unpacked(body []byte) (plan *studio.Plan, err error) {
	pack, err := gzip.NewReader(bytes.NewReader(body))
	if err != nil {
		return nil, err
	}
	return plan, json.NewDecoder(pack).Decode(&plan)
}

// KeepPlan stores the plan in force for a journal number, or what it has become since for
// the same number; where one was put in force at that number or a later one, that stays.
func (s *Store) KeepPlan(ctx context.Context, base int64, plan *studio.Plan) error {
	body, err := packed(plan)
	if err != nil {
		return err
	}
	return s.writing(ctx, func(q *sqlcgen.Queries) error {
		return errors.Join(q.ImprovePlan(ctx, sqlcgen.ImprovePlanParams{Base: base, Body: body}),
			q.AddPlan(ctx, sqlcgen.AddPlanParams{Base: base, Body: body}), q.DropOldPlans(ctx, keptVersions))
	})
}

// PlanInForce is the latest version of the plan, with its number and its base;
// sql.ErrNoRows before the first.
func (s *Store) PlanInForce(ctx context.Context) (plan *studio.Plan, version, base int64, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		row, err := q.LatestPlan(ctx)
		if err != nil {
			return err
		}
		version, base = row.Version, row.Base
		plan, err = unpacked(row.Body)
		return err
	})
	return plan, version, base, err
}

// PlanVersion is an earlier version of the plan.
func (s *Store) PlanVersion(ctx context.Context, version int64) (plan *studio.Plan, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		row, err := q.PlanVersion(ctx, version)
		if errors.Is(err, sql.ErrNoRows) {
			return NotFound{"this version of the plan"}
		}
		if err != nil {
			return err
		}
		plan, err = unpacked(row.Body)
		return err
	})
	return plan, err
}

// Version is a version of the plan in force, and the line of the journal that it answers.
type Version struct {
	Version  int64         `json:"version"`
	At       studio.Minute `json:"at"`
	Summary  string        `json:"summary"`
	Person   string        `json:"person"`
	Accepted bool          `json:"accepted" doc:"true where somebody put it in force; else it follows what happened"`
}

// PlanVersions lists the latest versions of the plan, newest first.
func (s *Store) PlanVersions(ctx context.Context, most int64) ([]Version, error) {
	versions := []Version{}
	err := s.reading(ctx, func(q *sqlcgen.Queries) error {
		rows, err := q.PlanVersions(ctx, most)
		for _, r := range rows {
			versions = append(
				versions,
				Version{
					Version:  r.Version,
					At:       studio.Minute(r.AtMinute),
					Summary:  r.Summary,
					Person:   r.Person,
					Accepted: r.Accepted != 0,
				},
			)
		}
		return err
	})
	return versions, err
}

// PutInForce makes a plan the one in force, from this command on.
func (t *Tx) PutInForce(plan *studio.Plan) error {
	before, err := t.q.LatestPlan(t.ctx)
	if err != nil {
		return err
	}
	body, err := packed(plan)
	if err != nil {
		return err
	}
	t.touch("plan", "in force", before.Version, before.Version+1)
	return t.q.AddPlan(t.ctx, sqlcgen.AddPlanParams{Base: t.n, Body: body})
}

// restorePlan puts the version in force again that was before.
func (t *Tx) restorePlan(touched sqlcgen.JournalTouch) error {
	var before int64
	if err := json.Unmarshal([]byte(touched.Before), &before); err != nil {
		return err
	}
	row, err := t.q.PlanVersion(t.ctx, before)
	if errors.Is(err, sql.ErrNoRows) {
		return CannotUndo{studio.Say("the plan before it is too long ago and not kept")}
	}
	if err != nil {
		return err
	}
	plan, err := unpacked(row.Body)
	return errors.Join(err, t.PutInForce(plan))
}

// How an offered plan came about.
const (
	Searched = "searched" // the plan at hand, made better
	Anew     = "anew"     // made without regard to what people were told
	Earlier  = "earlier"  // an earlier version
	Promised = "promised" // found when an order was asked for
)

// Offer is a plan that awaits the lead's word, and the journal number it was made for.
type Offer struct {
	ID    studio.ID
	Base  int64
	How   string
	Steps int64
	Plan  *studio.Plan
}

// keptOffers is how many plans await the lead's word at the most; older ones go.
const keptOffers = 6

// OfferedPlan is the plan of an offer.
func (s *Store) OfferedPlan(ctx context.Context, id studio.ID) (plan *studio.Plan, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		row, err := q.OfferedPlan(ctx, string(id))
		if errors.Is(err, sql.ErrNoRows) {
			return NotFound{"this plan"}
		}
		if err != nil {
			return err
		}
		plan, err = unpacked(row.Body)
		return err
	})
	return plan, err
}

// PutOffer keeps a plan that was found and awaits the lead's word.
func (s *Store) PutOffer(ctx context.Context, o Offer) error {
	body, err := packed(o.Plan)
	if err != nil {
		return err
	}
	return s.writing(ctx, func(q *sqlcgen.Queries) error { return putOffer(ctx, q, o, body) })
}

func putOffer(ctx context.Context, q *sqlcgen.Queries, o Offer, body []byte) error {
	return errors.Join(q.PutOfferedPlan(ctx, sqlcgen.PutOfferedPlanParams{ID: string(o.ID), Base: o.Base, How: o.How,
		Steps: o.Steps, Body: body}),
		q.DropOldOffers(ctx, keptOffers))
}

// FollowOffer keeps what an offered plan has become since; one that was dropped meanwhile
// stays dropped.
func (s *Store) FollowOffer(ctx context.Context, o Offer) error {
	body, err := packed(o.Plan)
	if err != nil {
		return err
	}
	return s.writing(ctx, func(q *sqlcgen.Queries) error {
		return q.MakeOfferFollow(ctx, sqlcgen.MakeOfferFollowParams{ID: string(o.ID), Base: o.Base, Body: body})
	})
}

// PutOffer keeps a plan that awaits the lead's word.
func (t *Tx) PutOffer(o Offer) error {
	body, err := packed(o.Plan)
	if err != nil {
		return err
	}
	return putOffer(t.ctx, t.q, o, body)
}

// DropOffer forgets an offered plan.
func (t *Tx) DropOffer(id studio.ID) error {
	if _, err := t.q.OfferedPlan(t.ctx, string(id)); errors.Is(err, sql.ErrNoRows) {
		return NotFound{"this plan"}
	} else if err != nil {
		return err
	}
	return t.q.DropOfferedPlan(t.ctx, string(id))
}

// DropOffers forgets all offered plans.
func (t *Tx) DropOffers() error { return t.q.DropOfferedPlans(t.ctx) }

// keptFalls is how many of the latest falls are kept.
const keptFalls = 400

// KeepFalls stores which orders lost slack, and what made them, the latest last.
func (s *Store) KeepFalls(ctx context.Context, falls []studio.Fall) error {
	return s.writing(ctx, func(q *sqlcgen.Queries) (err error) {
		for _, f := range falls {
			err = errors.Join(
				err,
				q.AddFall(ctx, sqlcgen.AddFallParams{AtMinute: int64(f.At), OrderID: string(f.Order), Body: asJSON(f)}),
			)
		}
		return errors.Join(err, q.DropOldFalls(ctx, keptFalls))
	})
}

// Falls are those that are kept, the latest first.
func (s *Store) Falls(ctx context.Context) (falls []studio.Fall, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		rows, err := q.LatestFalls(ctx, keptFalls)
		if err != nil {
			return err
		}
		falls = make([]studio.Fall, len(rows))
		for i, body := range rows {
			err = errors.Join(err, json.Unmarshal([]byte(body), &falls[i]))
		}
		return err
	})
	return falls, err
}
