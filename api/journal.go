package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"bractum/store"
)

func (s *Service) registerJournal(to huma.API) {
	read(to, get("/journal", "get-journal", "The latest commands, newest first"),
		func(ctx context.Context, _ *none) ([]store.Entry, error) {
			return s.store.Journal(ctx, 30)
		})
	type undo struct {
		Who
		N int64 `path:"n"`
	}
	fact(s, to, post("/journal/{n}/undo", "undo", "undone", "Take back what a command did"),
		func(c *change, in *undo) (Moved, error) {
			return Moved{c.Tx.N()}, c.Undo(in.N)
		})
}
