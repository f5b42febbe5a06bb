package store

import (
	"database/sql"
	"encoding/json"
	"errors"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// What wishes beyond orders are about.
const (
	wishOfLot   = "decided"
	wishOfGroup = "divided"
	wishOfTask  = "pin"
)

// wish is what the lead wishes of something, and what of it is accepted.
type wish struct {
	Wished   json.RawMessage
	Accepted json.RawMessage
}

// Decide writes what the lead has decided on for a lot that is not begun, as a wish; nil
// lets it go.
func (t *Tx) Decide(lot studio.ID, d *studio.DecidedLot) error { return t.wish(wishOfLot, lot, d) }

// Pin writes how the lead wants a task, as a wish or as accepted; nil lets it go.
func (t *Tx) Pin(task studio.ID, p *studio.Pin, accepted bool) error {
	if accepted {
		return t.accepted(wishOfTask, task, p)
	}
	return t.wish(wishOfTask, task, p)
}

// Divide writes, as accepted, how a group is divided.
func (t *Tx) Divide(d studio.Division) error { return t.accepted(wishOfGroup, d.Group, d) }

func (t *Tx) accepted(thing string, id studio.ID, wanted any) error {
	before, err := t.wishOf(thing, string(id))
	if err != nil {
		return err
	}
	now := json.RawMessage(asJSON(wanted))
	return t.putWish(thing, string(id), before, wish{Wished: now, Accepted: now})
}

func (t *Tx) wish(thing string, id studio.ID, wanted any) error {
	before, err := t.wishOf(thing, string(id))
	if err != nil {
		return err
	}
	return t.putWish(thing, string(id), before, wish{Wished: json.RawMessage(asJSON(wanted)), Accepted: before.Accepted})
}

func (t *Tx) wishOf(thing, id string) (wish, error) {
	row, err := t.q.Wish(t.ctx, sqlcgen.WishParams{Thing: thing, ID: id})
	if errors.Is(err, sql.ErrNoRows) {
		return wish{Wished: json.RawMessage("null"), Accepted: json.RawMessage("null")}, nil
	}
	return wish{Wished: json.RawMessage(row.Wished), Accepted: json.RawMessage(row.Accepted)}, err
}

func (t *Tx) putWish(thing, id string, before, after wish) error {
	t.touch(thing, id, before, after)
	if string(after.Wished) == "null" && string(after.Accepted) == "null" {
		return t.q.DropWish(t.ctx, sqlcgen.DropWishParams{Thing: thing, ID: id})
	}
	return t.q.PutWish(
		t.ctx,
		sqlcgen.PutWishParams{Thing: thing, ID: id, Wished: string(after.Wished), Accepted: string(after.Accepted)},
	)
}

func (t *Tx) restoreWish(touched sqlcgen.JournalTouch) error {
	var before wish
	if err := json.Unmarshal([]byte(touched.Before), &before); err != nil {
		return err
	}
	now, err := t.wishOf(touched.Thing, touched.ID)
	return errors.Join(err, t.putWish(touched.Thing, touched.ID, now, before))
}

// AcceptWishes makes what the lead wishes of lots and tasks what the plan in force is for.
func (t *Tx) AcceptWishes() error {
	rows, err := t.q.Wishes(t.ctx)
	for _, row := range rows {
		if row.Wished != row.Accepted {
			before := wish{Wished: json.RawMessage(row.Wished), Accepted: json.RawMessage(row.Accepted)}
			err = errors.Join(err, t.putWish(row.Thing, row.ID, before, wish{Wished: before.Wished, Accepted: before.Wished}))
		}
	}
	return err
}
