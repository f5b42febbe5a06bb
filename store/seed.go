package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"

	"bractum/core/count"
	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// Seed writes a whole valid document into an empty file, as one journal line.
// A standing clock stays at the document's now until it is moved.
func (s *Store) Seed(ctx context.Context, doc *studio.Document, standing bool) error {
	if doc.Direct != nil {
		return errors.New(
			"a direct document states a scheduling problem and no studio; it can be planned and checked, not stored",
		)
	}
	if err := onlyUUIDs(doc); err != nil {
		return err
	}
	tx, err := s.write.BeginTx(ctx, nil)
	if err != nil {
		return plain(err)
	}
	defer func() { _ = tx.Rollback() }() // after a commit it does nothing
	w := &seeder{ctx: ctx, q: s.writes.WithTx(tx), doc: doc}
	w.studio(standing)
	b := binder{ctx: ctx, q: w.q}
	b.supplies(doc.Materials, doc.DryingClasses, doc.Places)
	for _, p := range doc.People {
		b.person(p)
	}
	for _, s := range doc.Suppliers {
		b.supplier(s)
	}
	b.recipes(doc.Recipes)
	b.colourways(doc.Colourways)
	w.try(b.err)
	w.try(
		w.q.AddEntry(
			ctx,
			sqlcgen.AddEntryParams{N: 1, AtMinute: int64(doc.Now), CommandID: uuid.NewString(), Kind: "opened",
				Summary: doc.Name + " opened", Answer: "{}"},
		),
	)
	w.facts()
	if w.err != nil {
		return plain(w.err)
	}
	if err := s.closeAll(ctx, w.q); err != nil {
		return plain(err)
	}
	return plain(tx.Commit())
}

// onlyUUIDs refuses a document whose things are named by words: stored things
// carry UUIDs.
func onlyUUIDs(doc *studio.Document) error {
	var ids []studio.ID
	for _, m := range doc.Materials {
		ids = append(ids, m.ID)
	}
	for _, r := range doc.Recipes {
		ids = append(ids, r.ID, r.Recipe)
	}
	for _, p := range doc.People {
		ids = append(ids, p.ID)
	}
	for _, o := range doc.Orders {
		ids = append(ids, o.ID)
	}
	for _, id := range ids {
		if _, err := uuid.Parse(string(id)); err != nil {
			return fmt.Errorf("%q is not a UUID; a document that is to be stored names things by UUIDs", id)
		}
	}
	return nil
}

// seeder writes one table after the other until something fails.
type seeder struct {
	ctx context.Context
	q   *sqlcgen.Queries
	doc *studio.Document
	err error
}

func (w *seeder) try(err error) {
	if w.err == nil {
		w.err = err
	}
}

func asJSON(value any) string {
	data, err := json.Marshal(value)
	if err != nil {
		panic(err) // our own plain types always marshal
	}
	return string(data)
}

func (w *seeder) studio(standing bool) {
	d := w.doc
	settings := sqlcgen.AddStudioParams{
		Name:     d.Name,
		Epoch:    d.Epoch.UTC().Format(time.RFC3339),
		Zone:     d.Zone,
		Settings: asJSON(d.Settings),
		Brought:  asJSON(brought{Readings: d.Readings, Seen: d.Seen}),
	}
	if standing {
		settings.StandingMinute.Int64, settings.StandingMinute.Valid = int64(d.Now), true
	}
	w.try(w.q.AddStudio(w.ctx, settings))
	w.try(equip(w.ctx, w.q, equipmentOf(d)))
	for _, r := range d.Recorded {
		w.try(
			w.q.AddClosedPieces(
				w.ctx,
				sqlcgen.AddClosedPiecesParams{PageID: string(r.Recipe), Good: r.Good, Lost: r.Lost},
			),
		)
	}
	for key, highest := range d.Ordinals {
		w.try(w.q.AddClosedOrdinal(w.ctx, sqlcgen.AddClosedOrdinalParams{GatherKey: key, Highest: int64(highest)}))
	}
	for _, sensor := range d.Sensors {
		row, err := w.q.AddSensor(w.ctx, sensor.Device)
		w.try(err)
		w.try(
			w.q.HangSensor(
				w.ctx,
				sqlcgen.HangSensorParams{
					ID:           row.ID,
					Surroundings: sql.NullString{String: string(sensor.In), Valid: true},
				},
			),
		)
	}
	for hour, air := range d.Climate {
		w.try(w.q.AddClimateHour(w.ctx, climateParams(hour, air)))
	}
}

func (w *seeder) facts() {
	for _, m := range w.doc.Materials {
		w.book(studio.Movement{Kind: studio.Counted, Material: m.ID, Amount: m.OnHand})
	}
	for _, o := range w.doc.Offcuts {
		w.book(studio.Movement{Kind: studio.Counted, Material: o.Material, Length: o.Length, Amount: o.Number})
	}
	for _, l := range w.doc.Work {
		w.lot(l)
	}
	for _, s := range w.doc.Shelf {
		w.try(w.q.AddStockLot(w.ctx, stockParams(s)))
		w.book(studio.Movement{Kind: studio.Counted, Shelf: s.ID, Amount: s.Amount})
	}
	for _, d := range w.doc.Decided {
		id := studio.NewBook(w.doc).IDOf(&d)
		w.try(
			w.q.PutWish(
				w.ctx,
				sqlcgen.PutWishParams{Thing: wishOfLot, ID: string(id), Wished: asJSON(d), Accepted: asJSON(d)},
			),
		)
	}
	for _, d := range w.doc.Divided {
		w.try(
			w.q.PutWish(
				w.ctx,
				sqlcgen.PutWishParams{Thing: wishOfGroup, ID: string(d.Group), Wished: asJSON(d), Accepted: asJSON(d)},
			),
		)
	}
	for _, p := range w.doc.Pins {
		w.try(
			w.q.PutWish(
				w.ctx,
				sqlcgen.PutWishParams{Thing: wishOfTask, ID: string(p.Task), Wished: asJSON(p), Accepted: asJSON(p)},
			),
		)
	}
	for _, o := range w.doc.Orders {
		w.try(w.q.PutOrder(w.ctx, sqlcgen.PutOrderParams{ID: string(o.ID), Version: 1, AcceptedVersion: nullInt(1),
			Closed: closedColumn(OrderState{Order: o, Version: 1, Accepted: 1})}))
		w.try(addOrderVersion(w.ctx, w.q, o, 1))
		w.try(putClient(w.ctx, w.q, o.ID, o.Client))
	}
	w.reservations()
}

// lot writes a lot with what has happened to it.
func (w *seeder) lot(l studio.WorkLot) {
	w.try(w.q.PutLot(w.ctx, lotParams(l)))
	w.try(
		w.q.SetLying(
			w.ctx,
			sqlcgen.SetLyingParams{ID: string(l.ID), Lying: asJSON(lying{Checks: l.Checks, Puts: l.Puts})},
		),
	)
	for i, r := range l.Records {
		w.try(w.q.AddTask(w.ctx, taskParams(string(l.ID), i, r)))
	}
}

// reservations are what the document states and, as its orders are accepted, what they
// take from the shelf.
func (w *seeder) reservations() {
	for _, s := range w.doc.Shelf {
		for _, claim := range s.Reserved {
			w.book(studio.Movement{Kind: studio.Reserved, Shelf: s.ID, Order: claim.Order, Amount: claim.Quantity})
		}
	}
	for _, l := range w.doc.Work {
		for _, claim := range l.Reserved {
			w.book(studio.Movement{Kind: studio.Reserved, Lot: l.ID, Order: claim.Order, Amount: claim.Quantity})
		}
	}
	counted, err := count.Up(w.doc)
	if w.try(err); err != nil {
		return
	}
	for _, m := range count.Reservations(w.doc, counted) {
		w.book(m)
	}
}

func (w *seeder) book(m studio.Movement) {
	if m.Amount != 0 {
		w.try(w.q.AddMovement(w.ctx, movementParams(1, m)))
	}
}
