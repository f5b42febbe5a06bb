package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/studio"
	"bractum/store"
)

func (s *Service) registerJournal(to huma.API) {
	get(to, "/journal", "get-journal", "The latest commands, newest first", func(ctx context.Context, _ *nothing) ([]store.Entry, error) {
		return s.store.Journal(ctx, 30)
	})
	type undo struct {
		Who
		N int64 `path:"n"`
	}
	command(to, http.MethodPost, "/journal/{n}/undo", "undo", "Take back what a command did", func(ctx context.Context, in *undo) (Moved, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return Moved{}, err
		}
		if err := at.knows(in.Person); err != nil {
			return Moved{}, err
		}
		done, err := s.store.Undo(ctx, store.Command{ID: in.CommandID, Person: studio.ID(in.Person), Now: at.now}, in.N)
		s.told(done, err)
		return Moved{done.N}, err
	})
}
