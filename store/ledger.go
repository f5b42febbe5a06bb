package store

import (
	"database/sql"
	"errors"

	"github.com/google/uuid"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// Book writes movements into the ledger. What a lot in work makes becomes a shelf lot of
// its own, and so does stock that there was none of. A movement that is nobody's work has
// no lot.
func (t *Tx) Book(w studio.WorkLot, moved []studio.Movement) error {
	for _, m := range moved {
		t.about("stock")
		line := movementParams(t.n, m)
		switch {
		case m.Made != "":
			stock, err := t.stockOf(w, m)
			if err != nil {
				return err
			}
			line.StockLotID = nullString(stock)
		case m.New != nil:
			stock, err := t.newStock(*m.New)
			if err != nil {
				return err
			}
			line.StockLotID = nullString(stock)
		}
		if err := t.q.AddMovement(t.ctx, line); err != nil {
			return err
		}
	}
	return nil
}

func movementParams(n int64, m studio.Movement) sqlcgen.AddMovementParams {
	return sqlcgen.AddMovementParams{
		N:          n,
		StockLotID: nullString(string(m.Shelf)),
		LotID:      nullString(string(m.Lot)),
		MaterialID: nullString(string(m.Material)),
		LengthUm: nullInt(
			int64(m.Length),
		),
		OrderID:  nullString(string(m.Order)),
		Movement: string(m.Kind),
		Amount:   m.Amount,
	}
}

func (t *Tx) stockOf(w studio.WorkLot, m studio.Movement) (string, error) {
	id, err := t.q.StockOfLot(
		t.ctx,
		sqlcgen.StockOfLotParams{LotID: nullString(string(w.ID)), Quality: string(m.Made)},
	)
	if !errors.Is(err, sql.ErrNoRows) {
		return id, err
	}
	return t.newStock(
		studio.ShelfLot{
			Recipe:  w.Recipe,
			Variant: w.Variant,
			Mixes:   w.Mixes,
			Quality: m.Made,
			MadeOn:  t.now,
			UseBy:   m.UseBy,
			From:    w.ID,
		},
	)
}

// newStock makes a shelf lot of nothing yet, with an id of its own.
func (t *Tx) newStock(s studio.ShelfLot) (string, error) {
	made, err := uuid.NewV7()
	if err != nil {
		return "", err
	}
	s.ID = studio.ID(made.String())
	return made.String(), t.q.AddStockLot(t.ctx, stockParams(s))
}

func stockParams(s studio.ShelfLot) sqlcgen.AddStockLotParams {
	p := sqlcgen.AddStockLotParams{
		ID:         string(s.ID),
		RecipeID:   string(s.Recipe),
		Mixes:      asJSON(s.Mixes),
		Quality:    string(s.Quality),
		MadeMinute: int64(s.MadeOn),
		LotID: nullString(
			string(s.From),
		),
		Variant:      s.Variant,
		Reached:      s.Reached,
		Place:        s.Place,
		Kept:         string(s.Kept),
		Surroundings: string(s.In),
	}
	if s.UseBy != nil {
		p.UseByMinute = sql.NullInt64{Int64: int64(*s.UseBy), Valid: true}
	}
	return p
}
