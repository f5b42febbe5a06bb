package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"

	"bractum/core/handover"
	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// PackingState is how an order is packed and handed over, as it stands in the file: version 0 where nothing is.
type PackingState struct {
	Order   studio.ID        `json:"order"`
	Version int64            `json:"version"`
	Packing handover.Packing `json:"packing"`
}

func putClient(ctx context.Context, q *sqlcgen.Queries, order studio.ID, c *studio.Client) error {
	if c == nil {
		return q.DropClient(ctx, string(order))
	}
	return q.PutClient(ctx, sqlcgen.PutClientParams{OrderID: string(order), Name: c.Name, Contact: c.Contact})
}

// SetClient notes who asked for an order, or forgets them: it is in no version of the order and in no journal line.
func (t *Tx) SetClient(order studio.ID, c *studio.Client) error {
	t.about("order")
	return putClient(t.ctx, t.q, order, c)
}

// PackedOrder is an order as it stands, who asked for it and how it is packed, whether it has left or not.
func (s *Store) PackedOrder(ctx context.Context, id studio.ID) (o OrderState, p PackingState, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		row, err := q.CustomerOrder(ctx, string(id))
		if errors.Is(err, sql.ErrNoRows) {
			return NotFound{"the order"}
		}
		if err != nil {
			return err
		}
		if o, err = orderState(ctx, q, row); err != nil {
			return err
		}
		switch client, err := q.ClientOf(ctx, string(id)); {
		case err == nil:
			o.Order.Client = &studio.Client{Name: client.Name, Contact: client.Contact}
		case !errors.Is(err, sql.ErrNoRows):
			return err
		}
		p, err = packingOf(ctx, q, id)
		return err
	})
	return o, p, err
}

func packingOf(ctx context.Context, q *sqlcgen.Queries, id studio.ID) (PackingState, error) {
	p := PackingState{Order: id, Packing: handover.Packing{Lines: []handover.Packed{}, Out: []handover.Tally{},
		Boxes: []handover.Boxed{}, Returned: []handover.Tally{}, After: []handover.Afterward{}}}
	row, err := q.Packing(ctx, string(id))
	if errors.Is(err, sql.ErrNoRows) {
		return p, nil
	}
	if err != nil {
		return p, err
	}
	p.Version = row.Version
	return p, json.Unmarshal([]byte(row.Body), &p.Packing)
}

// Packing is how an order is packed, as it stands within the command.
func (t *Tx) Packing(order studio.ID) (PackingState, error) { return packingOf(t.ctx, t.q, order) }

// PutPacking writes how an order is packed, in place of the version that the writer saw.
func (t *Tx) PutPacking(p PackingState, seen int64) error {
	before, err := t.Packing(p.Order)
	if err != nil {
		return err
	}
	if before.Version != seen {
		return Stale{Thing: "how it is packed", Seen: seen, Now: before.Version}
	}
	p.Version = before.Version + 1
	return t.writePacking(p, before)
}

func (t *Tx) writePacking(p, before PackingState) error {
	t.touch("packing", string(p.Order), before, p)
	return t.q.PutPacking(t.ctx, sqlcgen.PutPackingParams{OrderID: string(p.Order), Version: p.Version,
		Body: asJSON(p.Packing)})
}

// restorePacking takes how an order is packed back to what it was.
func (t *Tx) restorePacking(touched sqlcgen.JournalTouch) error {
	var wanted PackingState
	if err := json.Unmarshal([]byte(touched.Before), &wanted); err != nil {
		return err
	}
	now, err := t.Packing(studio.ID(touched.ID))
	if err != nil {
		return err
	}
	wanted.Version = now.Version + 1
	return t.writePacking(wanted, now)
}
