package situation

import (
	"context"
	"time"

	"bractum/core/plan"
	"bractum/core/studio"
)

// How the worker looks for something better where orders have become later, for as long as
// nothing else is to be worked out.

// quiet is how long nothing is recorded before a search is worth its while.
const quiet = time.Second

// improved looks for a better plan in force for as long as the facts are what they are; nil
// where none is owed or found. What is given up for newer facts stays owed.
func (w *Worker) improved(made *Situation, before *studio.Plan) *Situation {
	stop, begun := w.searching(made.Moment())
	if !begun {
		return nil
	}
	defer w.searched()
	select {
	case <-stop:
		return nil
	case <-time.After(quiet):
	}
	from := before
	if from == nil {
		from = made.InForce.Plan
	}
	found, err := plan.Improve(made.InForce.Doc, made.InForce.Count, from, stop)
	if now := w.published.Load(); now.Moment() == made.Moment() && !now.Behind() {
		w.work.owed = false
	}
	if err != nil || !plan.Mends(from, made.InForce.Plan, found) {
		return nil
	}
	better := *made
	better.InForce = NewAnswer(made.InForce.Doc, made.Calendar, made.InForce.Count, found)
	better.InForce.sheets = made.InForce.sheets // of the same lots
	return &better
}

// searching is what is closed once there is more to work out than what was for a moment;
// false where there is already, or nothing is owed.
func (w *Worker) searching(of Moment) (stop <-chan struct{}, begun bool) {
	w.mu.Lock()
	defer w.mu.Unlock()
	if now := w.published.Load(); !w.work.owed || now.Moment() != of || now.Behind() || w.stopped() {
		return nil, false
	}
	limit, cancel := context.WithTimeout(w.living, mostSearching)
	w.search = &search{of: of, stop: cancel}
	return limit.Done(), true
}

func (w *Worker) searched() {
	w.mu.Lock()
	defer w.mu.Unlock()
	if w.search != nil {
		w.search.stop()
		w.search = nil
	}
}

// search is one that goes on for what was worked out for a moment.
type search struct {
	of   Moment
	stop func()
}

// overtake ends a search for a moment that is gone, or that keeps something from being
// worked out.
func (w *Worker) overtake(at *Situation) {
	if w.search != nil && (w.search.of != at.Moment() || at.Behind()) {
		w.search.stop()
		w.search = nil
	}
}
