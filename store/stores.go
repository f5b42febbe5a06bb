package store

import (
	"database/sql"
	"encoding/json"
	"errors"
	"slices"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// Touched notes that a command is about a shelf lot, a material or its cut wires, so that
// it can be undone, and not once a later one was about the same.
func (t *Tx) Touched(things ...studio.ID) {
	slices.Sort(things)
	for _, id := range slices.Compact(things) { // a wire and what lies cut of it are one thing
		t.touch("stock", string(id), nil, nil)
	}
}

// Keeping is where a shelf lot lies and in what air, how it is kept and until when.
type Keeping struct {
	Place string
	In    studio.ID
	Kept  studio.Kept
	UseBy *studio.Minute
}

// Keep writes where a shelf lot lies, how it is kept and how long it lives there.
func (t *Tx) Keep(lot studio.ID, after Keeping) error {
	row, err := t.q.StockLot(t.ctx, string(lot))
	if errors.Is(err, sql.ErrNoRows) {
		return NotFound{"this on the shelf"}
	}
	if err != nil {
		return err
	}
	before := Keeping{Place: row.Place, In: studio.ID(row.Surroundings), Kept: studio.Kept(row.Kept)}
	if row.UseByMinute.Valid {
		by := studio.Minute(row.UseByMinute.Int64)
		before.UseBy = &by
	}
	return t.keep(string(lot), before, after)
}

func (t *Tx) keep(lot string, before, after Keeping) error {
	t.touch("stock", lot, before, after)
	p := sqlcgen.KeepStockLotParams{
		ID:           lot,
		Place:        after.Place,
		Kept:         string(after.Kept),
		Surroundings: string(after.In),
	}
	if after.UseBy != nil {
		p.UseByMinute = sql.NullInt64{Int64: int64(*after.UseBy), Valid: true}
	}
	return t.q.KeepStockLot(t.ctx, p)
}

// PurchaseState is a purchase with the version that a change of it has to see.
type PurchaseState struct {
	Purchase studio.Purchase `json:"purchase"`
	Version  int64           `json:"version"`
}

// openPurchases lists what was ordered and has not all come, the oldest first.
func (a *assembler) openPurchases() []PurchaseState {
	open := []PurchaseState{}
	for _, row := range rows(a, a.q.Purchases) {
		state := PurchaseState{Version: row.Version}
		a.decode(row.Body, &state.Purchase)
		if state.Purchase.State == studio.PurchaseSent || state.Purchase.State == studio.PurchaseConfirmed {
			open = append(open, state)
		}
	}
	return open
}

// Purchase is a purchase as it stands within the command.
func (t *Tx) Purchase(id studio.ID) (PurchaseState, error) {
	row, err := t.q.Purchase(t.ctx, string(id))
	if errors.Is(err, sql.ErrNoRows) {
		return PurchaseState{}, NotFound{"the purchase"}
	}
	state := PurchaseState{Version: row.Version}
	if err == nil {
		err = json.Unmarshal([]byte(row.Body), &state.Purchase)
	}
	return state, err
}

// PutPurchase writes a purchase: a new one at seen 0, else a change of the version seen.
func (t *Tx) PutPurchase(p studio.Purchase, seen int64) error {
	var before any
	if seen > 0 {
		was, err := t.Purchase(p.ID)
		if err != nil {
			return err
		}
		if was.Version != seen {
			return Stale{Thing: "the purchase", Seen: seen, Now: was.Version}
		}
		before = was
	}
	return t.putPurchase(before, PurchaseState{Purchase: p, Version: seen + 1})
}

func (t *Tx) putPurchase(before any, after PurchaseState) error {
	t.touch("purchase", string(after.Purchase.ID), before, after)
	return t.q.PutPurchase(
		t.ctx,
		sqlcgen.PutPurchaseParams{
			ID:         string(after.Purchase.ID),
			SupplierID: string(after.Purchase.Supplier),
			Version:    after.Version,
			Body:       asJSON(after.Purchase),
		},
	)
}

// restoreStock takes a shelf lot back to where it lay; amounts come back by the ledger.
func (t *Tx) restoreStock(touched sqlcgen.JournalTouch) error {
	if touched.Before == "null" && touched.After == "null" {
		t.touch(touched.Thing, touched.ID, nil, nil)
		return nil
	}
	var before, after Keeping
	if err := errors.Join(json.Unmarshal([]byte(touched.Before), &before), json.Unmarshal([]byte(touched.After), &after)); err != nil {
		return err
	}
	return t.keep(touched.ID, after, before)
}

// restorePurchase takes a purchase back to what it was.
func (t *Tx) restorePurchase(touched sqlcgen.JournalTouch) error {
	var before *PurchaseState
	if err := json.Unmarshal([]byte(touched.Before), &before); err != nil {
		return err
	}
	now, err := t.Purchase(studio.ID(touched.ID))
	if err != nil {
		return err
	}
	if before == nil {
		return CannotUndo{studio.Say("the supplier has the order; cancel it there, and then here")}
	}
	before.Version = now.Version + 1
	return t.putPurchase(now, *before)
}

// ofSupplier is what of a supplier no query asks for.
type ofSupplier struct {
	CutOff  studio.TimeOfDay `json:"cutOff,omitzero"`
	Comes   []studio.Weekday `json:"comes,omitempty"`
	Takes   studio.OrderWay  `json:"takes,omitempty"`
	Address string           `json:"address,omitempty"`
}

func (a *assembler) suppliers() {
	for _, r := range rows(a, a.q.Suppliers) {
		var more ofSupplier
		a.decode(r.Beyond, &more)
		a.doc.Suppliers = append(a.doc.Suppliers, studio.Supplier{ID: studio.ID(r.ID), Name: r.Name, Days: r.Days,
			CutOff: more.CutOff, Comes: more.Comes, Takes: more.Takes, Address: more.Address,
			OutOfUse: r.OutOfUse == 1})
	}
}
