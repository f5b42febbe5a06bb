package situation

import (
	"cmp"
	"context"
	"math"
	"slices"
	"time"

	"bractum/core/studio"
	"bractum/store"
)

// How facts are read and published: by what was recorded since they were read last, those of
// several writers together.

// Writing notes that somebody begins to write; done is to be called when that is published,
// or has failed.
func (w *Worker) Writing() (done func()) {
	w.writers.Add(1)
	return func() { w.writers.Add(-1) }
}

// Recorded notes what a command that is written was about, and publishes the facts.
func (w *Worker) Recorded(ctx context.Context, n int64, topics []string) (*Situation, error) {
	if _, err := w.Latest(ctx); err != nil {
		return nil, err
	}
	w.mu.Lock()
	w.recent = append(w.recent, store.Recent{N: n, Topics: topics})
	slices.SortFunc(w.recent, func(a, b store.Recent) int { return cmp.Compare(a.N, b.N) })
	w.mu.Unlock()
	return w.Refresh(ctx, n)
}

// gathers is for how long, at the most, facts of several writers are gathered before they
// are published together.
const gathers = 70 * time.Millisecond

// Refresh publishes facts of at least a journal number, and of now. It reads them only
// where nobody else has.
func (w *Worker) Refresh(ctx context.Context, n int64) (*Situation, error) {
	if _, err := w.Latest(ctx); err != nil {
		return nil, err
	}
	w.reading.Lock()
	defer w.reading.Unlock()
	at := w.published.Load()
	if at.N >= n && at.Now == w.clock(at.Calendar, at.Stands) {
		return at, nil
	}
	if w.writers.Load() > 1 {
		w.rest(gathers - time.Since(w.read))
	}
	newest, since := w.known()
	facts, err := w.store.SnapshotAfter(ctx, w.clock, newest, since)
	if err != nil {
		return nil, err
	}
	next, err := w.advance(ctx, facts)
	w.read = time.Now()
	return next, err
}

// known are the facts that were read last, and what was recorded since.
func (w *Worker) known() (*store.Snapshot, store.Recent) {
	w.mu.Lock()
	defer w.mu.Unlock()
	newest := w.published.Load().Snapshot
	if w.newest != nil && w.newest.N > newest.N {
		newest = w.newest
	}
	return newest, w.since(newest.N, math.MaxInt64)
}

// since is what was recorded after a journal number, up to another or for as far as is known
// without a gap.
func (w *Worker) since(n, until int64) store.Recent {
	all := store.Recent{N: n}
	for _, line := range w.recent {
		if line.N == all.N+1 && line.N <= until {
			all = store.Recent{N: line.N, Topics: append(all.Topics, line.Topics...)}
		}
	}
	return all
}

// seen notes facts that were read.
func (w *Worker) seen(facts *store.Snapshot) {
	if w.newest == nil || facts.N >= w.newest.N {
		w.newest = facts
	}
}

// advance publishes newer facts.
func (w *Worker) advance(ctx context.Context, facts *store.Snapshot) (*Situation, error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	at := w.published.Load()
	next, err := w.follow(ctx, at, facts)
	if err != nil {
		return nil, err
	}
	var topics []string // of which none stands for all
	if since := w.since(at.N, facts.N); since.N == facts.N {
		topics = since.Topics
	}
	w.seen(facts)
	w.recent = slices.DeleteFunc(w.recent, func(line store.Recent) bool { return line.N <= facts.N })
	w.publishLocked(next.noted(at, topics))
	return next, nil
}

// follow is a situation with newer facts; a plan that was put in force since is taken from
// the file.
func (w *Worker) follow(ctx context.Context, at *Situation, facts *store.Snapshot) (*Situation, error) {
	if facts.InForce.Base <= max(at.Planned.N, at.taken) {
		return at.on(facts), nil
	}
	made, err := w.store.PlanVersion(ctx, facts.InForce.Version)
	if err != nil {
		return nil, err
	}
	accepted := *at
	accepted.InForce = NewAnswer(facts.Accepted, facts.Calendar, at.Latest().Count, made)
	accepted.Version, accepted.taken = facts.InForce.Version, facts.InForce.Base
	return accepted.on(facts), nil
}

// At is the situation as a command finds it: the facts are those of its base.
func (w *Worker) At(ctx context.Context, tx *store.Tx) (*Situation, error) {
	at, err := w.Latest(ctx)
	if err != nil {
		return nil, err
	}
	if at.N == tx.Base() && at.Now == tx.Now() {
		return at, nil
	}
	newest, since := w.known()
	facts, err := tx.SnapshotAfter(newest, since)
	if err != nil {
		return nil, err
	}
	w.mu.Lock()
	w.seen(facts)
	w.mu.Unlock()
	return w.follow(ctx, at, facts)
}

// Now is the minute that it is in the studio.
func (w *Worker) Now(ctx context.Context) (studio.Minute, studio.Calendar, error) {
	at, err := w.Latest(ctx)
	if err != nil {
		return 0, studio.Calendar{}, err
	}
	return w.clock(at.Calendar, at.Stands), at.Calendar, nil
}
