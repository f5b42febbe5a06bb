package api

import (
	"context"
	"errors"
	"net/http"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
)

// How many dear questions are worked on at once, and how many more may wait. What somebody asks as they type has a
// place of its own, so that nothing dearer is in its way.
const (
	mostBeside  = 1
	mostWaiting = 16
)

var errBusy = errors.New("too much is being worked out at once; try again in a moment")

// limit keeps dear questions few, and knows how far the one is that is worked on.
type limit struct {
	working, waiting chan struct{}

	mu    sync.Mutex
	begun time.Time
	view  BesideView
}

// BesideView is how far the dear question is that is worked on.
type BesideView struct {
	Question string  `json:"question" doc:"its operation; empty where none is worked on"`
	Done     int     `json:"done" doc:"of the steps that it takes, where it says so"`
	Of       int     `json:"of" doc:"how many those are, else 0"`
	Seconds  float64 `json:"seconds" doc:"for which it has been worked on"`
	Waiting  int     `json:"waiting" doc:"how many wait for it"`
}

func newLimit() *limit {
	return &limit{working: make(chan struct{}, mostBeside), waiting: make(chan struct{}, mostBeside+mostWaiting)}
}

// begin notes the question that is worked on, empty for none.
func (l *limit) begin(question string) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.begun, l.view = time.Now(), BesideView{Question: question}
}

// tell notes how far it is.
func (l *limit) tell(done, of int) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.view.Done, l.view.Of = done, of
}

func (l *limit) now() BesideView {
	l.mu.Lock()
	defer l.mu.Unlock()
	v := l.view
	if v.Question != "" {
		v.Seconds, v.Waiting = time.Since(l.begun).Seconds(), len(l.waiting)-1
	}
	return v
}

func (s *Service) registerBeside(to huma.API) {
	read(to, get("/beside", "get-beside", "How far the dear question is that is worked on beside everything else"),
		func(context.Context, *none) (BesideView, error) { return s.limit.now(), nil })
}

// within does something once there is room, unless its asker is gone by then.
func (l *limit) within(ctx context.Context, question string, do func(context.Context) error) error {
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
	l.begin(question)
	defer l.begin("")
	return do(ctx)
}

// beside registers a question that is dear to answer. It is answered beside everything else,
// from what is worked out; the context ends when whoever asked is gone.
func beside[I, O any](s *Service, to huma.API, o operation, run func(context.Context, *moment, *I) (O, error)) {
	besideIn(s.limit, s, to, o, run)
}

// typing registers a question that is asked anew with every key: it takes a second at most, and is given up where the
// next is asked.
func typing[I, O any](s *Service, to huma.API, o operation, run func(context.Context, *moment, *I) (O, error)) {
	besideIn(s.typed, s, to, o, run)
}

func besideIn[I, O any](l *limit, s *Service, to huma.API, o operation,
	run func(context.Context, *moment, *I) (O, error)) {
	d := o.described(WayBeside, http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity,
		http.StatusServiceUnavailable)
	plainly(to, d, func(ctx context.Context, in *I) (out O, err error) {
		at, err := s.settled(ctx)
		if err != nil {
			return out, err
		}
		err = l.within(ctx, d.OperationID, func(ctx context.Context) error {
			if out, err = run(ctx, at, in); err == nil {
				err = ctx.Err() // stopped half way
			}
			return err
		})
		return out, err
	})
}
