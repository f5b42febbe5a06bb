package api

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
)

// How many dear questions are worked on at once, and how many more may wait.
const (
	mostBeside  = 1
	mostWaiting = 16
)

var errBusy = errors.New("too much is being worked out at once; try again in a moment")

// limit keeps dear questions few.
type limit struct{ working, waiting chan struct{} }

func newLimit() *limit {
	return &limit{make(chan struct{}, mostBeside), make(chan struct{}, mostBeside+mostWaiting)}
}

// within does something once there is room, unless its asker is gone by then.
func (l *limit) within(ctx context.Context, do func(context.Context) error) error {
	select {
	case l.waiting <- struct{}{}:
	default:
		return errBusy
	}
	defer func() { <-l.waiting }()
	select {
	case l.working <- struct{}{}:
	case <-ctx.Done():
		return ctx.Err()
	}
	defer func() { <-l.working }()
	return do(ctx)
}

// beside registers a question that is dear to answer. It is answered beside everything else,
// from what is worked out; the context ends when whoever asked is gone.
func beside[I, O any](s *Service, to huma.API, o operation, run func(context.Context, *moment, *I) (O, error)) {
	d := o.described(WayBeside, http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity,
		http.StatusServiceUnavailable)
	plainly(to, d, func(ctx context.Context, in *I) (out O, err error) {
		at, err := s.settled(ctx)
		if err != nil {
			return out, err
		}
		err = s.limit.within(ctx, func(ctx context.Context) error {
			if out, err = run(ctx, at, in); err == nil {
				err = ctx.Err() // stopped half way
			}
			return err
		})
		return out, err
	})
}
