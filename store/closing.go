package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"sync"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// A lot is closed once its pieces are made and none of them is left on the shelf. What came
// of it is summed up then, and it is no longer part of the document; what opens it again, such
// as an undo, takes that off the sums.

// closeLots closes, or opens again, the lots that a command was about.
func (t *Tx) closeLots() error {
	ids, err := t.q.LotsAbout(t.ctx, t.n)
	if err != nil {
		return err
	}
	return closer{ctx: t.ctx, q: t.q, recipes: &t.store.recipes}.each(ids)
}

// closeOld closes the lots of a file that an older program wrote, which did not.
func (s *Store) closeOld(ctx context.Context) error {
	return s.writing(ctx, func(q *sqlcgen.Queries) error { return s.closeAll(ctx, q) })
}

// closeAll closes every lot that can be.
func (s *Store) closeAll(ctx context.Context, q *sqlcgen.Queries) error {
	ids, err := q.LotsNotClosed(ctx)
	if err != nil {
		return err
	}
	return closer{ctx: ctx, q: q, recipes: &s.recipes}.each(ids)
}

type closer struct {
	ctx     context.Context
	q       *sqlcgen.Queries
	recipes *sync.Map
}

func (c closer) each(lots []string) error {
	for _, id := range lots {
		if err := c.one(id); err != nil {
			return err
		}
	}
	return nil
}

func (c closer) one(id string) error {
	row, err := c.q.Lot(c.ctx, id)
	if err != nil {
		return err
	}
	a := &assembler{ctx: c.ctx, q: c.q, known: c.recipes, doc: &studio.Document{}}
	var records []studio.TaskRecord
	for _, r := range rows(a, func(ctx context.Context) ([]sqlcgen.Task, error) { return a.q.TasksOfLot(ctx, id) }) {
		records = append(records, a.record(r))
	}
	w := a.lot(row, records)
	a.doc.Recipes = append(a.doc.Recipes, a.recipe(row.RecipeID))
	if a.err != nil {
		return a.err
	}
	came, made := w.Turnout(studio.NewBook(a.doc).Of(w.Made()))
	left, err := c.q.StockLeftOf(c.ctx, nullString(id))
	if err != nil {
		return err
	}
	closed := made && left == 0 && len(records) > 0
	switch {
	case closed == row.ClosedMinute.Valid:
		return nil
	case closed:
		return c.q.CloseLot(
			c.ctx,
			sqlcgen.CloseLotParams{ID: id, ClosedMinute: sql.NullInt64{Int64: int64(came.Ended), Valid: true},
				Good: came.Good, Lost: came.Lost, Minutes: int64(came.Minutes)},
		)
	}
	return c.q.CloseLot(c.ctx, sqlcgen.CloseLotParams{ID: id})
}

// recipe is a revision of the book, which never changes: it is read once.
func (a *assembler) recipe(id string) (r studio.Recipe) {
	if known, ok := a.known.Load(id); ok {
		return known.(studio.Recipe)
	}
	if a.err != nil {
		return r
	}
	row, err := a.q.RecipeBody(a.ctx, id)
	if a.err = err; err != nil {
		return r
	}
	if a.err = json.Unmarshal([]byte(row.Body), &r); a.err == nil {
		r.Lift(int(row.Format))
		a.known.Store(id, r)
	}
	return r
}
