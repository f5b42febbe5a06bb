package situation

import (
	"cmp"
	"context"
	"errors"
	"log/slog"
	"math"
	"reflect"
	"runtime/debug"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/core/wire"
	"bractum/store"
)

// Worker publishes the situations of one studio. It is safe for concurrent use.
type Worker struct {
	store  *store.Store
	clock  store.Clock
	listen func(*Situation)

	published atomic.Pointer[Situation]
	opening   sync.Mutex      // while the first facts are read
	reading   sync.Mutex      // while facts are read anew
	read      time.Time       // when they were read last
	writers   atomic.Int32    // who is writing, or waits for it to be published
	mu        sync.Mutex      // while something is published, and for what follows
	recent    []store.Recent  // what was recorded since the facts that are published, line by line
	newest    *store.Snapshot // that was read, published or not
	settled   chan struct{}
	failed    error // why the latest moment could not be worked out
	search    *search

	living context.Context // until the worker is closed
	end    func()
	work   *bench
}

// bench is what the one goroutine that counts and plans uses, and nobody else.
type bench struct {
	counter count.Counter
	cutting wire.Memory
	inForce *Answer      // that was worked out last
	kept    *studio.Plan // the plan in force that is in the file
	keptAt  time.Time
	owed    bool // orders have become later, and no search since has come to its end
	woken   chan struct{}
	done    sync.WaitGroup
}

// New makes a worker that is told of each situation that is published. It begins when it
// is first asked for something.
func New(s *store.Store, clock store.Clock, listen func(*Situation)) *Worker {
	living, end := context.WithCancel(context.Background())
	fromFirst := func(calendar studio.Calendar, stands *studio.Minute) studio.Minute {
		return max(0, clock(calendar, stands)) // a computer's clock may be wrong once
	}
	return &Worker{store: s, clock: fromFirst, listen: listen, settled: make(chan struct{}), living: living, end: end,
		work: &bench{woken: make(chan struct{}, 1)}}
}

// Latest is the situation that was published last. Only the very first is waited for,
// until the facts are read.
func (w *Worker) Latest(ctx context.Context) (*Situation, error) {
	if at := w.published.Load(); at != nil {
		return at, nil
	}
	w.opening.Lock()
	defer w.opening.Unlock()
	if at := w.published.Load(); at != nil {
		return at, nil
	}
	facts, err := w.store.Snapshot(ctx, w.clock)
	if err != nil {
		return nil, err
	}
	first := &Situation{Snapshot: facts, Planned: Moment{-1, -1}}
	if first, err = w.opened(ctx, first); err != nil {
		return nil, err
	}
	w.publish(first.noted(nil, nil))
	w.work.done.Go(w.run)
	w.work.done.Go(w.watch)
	return first, nil
}

// opened is a situation with the plan that the file has in force, which may be none.
func (w *Worker) opened(ctx context.Context, at *Situation) (*Situation, error) {
	at.InForce = nothing(at.Accepted, at.Calendar)
	if at.Snapshot.InForce.Version > 0 {
		made, err := w.store.PlanVersion(ctx, at.Snapshot.InForce.Version)
		if err != nil {
			return nil, err
		}
		at.Version = at.Snapshot.InForce.Version
		known := NewAnswer(at.Accepted, at.Calendar, at.InForce.Count, made)
		at.InForce = known.carried(at.Accepted, at.Calendar)
	}
	if at.Snapshot.Wished != nil {
		at.Wished = at.InForce.carried(at.Snapshot.Wished, at.Calendar)
	}
	return at, nil
}

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

// Settled waits until the facts that are published are worked out, or the context is over.
func (w *Worker) Settled(ctx context.Context) (*Situation, error) {
	at, err := w.Refresh(ctx, 0)
	for err == nil && at.Behind() {
		w.mu.Lock()
		settled, failed := w.settled, w.failed
		at = w.published.Load()
		w.mu.Unlock()
		if !at.Behind() {
			break
		}
		if failed != nil {
			return at, failed
		}
		select {
		case <-settled:
			at = w.published.Load()
		case <-ctx.Done():
			return at, ErrBehind
		case <-w.living.Done():
			return at, ErrBehind
		}
	}
	return at, err
}

// ErrBehind says that what was just recorded is not worked out yet.
var ErrBehind = errors.New("the plan is still being worked out")

func (w *Worker) publish(at *Situation) {
	w.mu.Lock()
	defer w.mu.Unlock()
	w.publishLocked(at)
}

func (w *Worker) publishLocked(at *Situation) {
	w.published.Store(at)
	w.overtake(at)
	if !at.Behind() {
		w.failed = nil
	}
	close(w.settled)
	w.settled = make(chan struct{})
	w.wake()
	if w.listen != nil {
		w.listen(at)
	}
}

func (w *Worker) wake() {
	select {
	case w.work.woken <- struct{}{}:
	default:
	}
}

// Offered has the worker take up offers that were found.
func (w *Worker) Offered(ctx context.Context) error {
	w.reading.Lock()
	defer w.reading.Unlock()
	facts, err := w.store.Snapshot(ctx, w.clock)
	if err != nil {
		return err
	}
	_, err = w.advance(ctx, facts)
	return err
}

// Close stops working, and keeps the plan in force.
func (w *Worker) Close() {
	w.end()
	w.work.done.Wait()
}

// watch sees minutes go by.
func (w *Worker) watch() {
	each := time.NewTicker(time.Second)
	defer each.Stop()
	for {
		select {
		case <-w.living.Done():
			return
		case <-each.C:
			if _, err := w.Refresh(context.Background(), 0); err != nil {
				slog.Error("the facts could not be read", "error", err)
			}
		}
	}
}

// run works out what is published until it is told to stop.
func (w *Worker) run() {
	for {
		select {
		case <-w.living.Done():
			return
		case <-w.work.woken:
		}
		for at := w.published.Load(); at.Behind() && !w.stopped(); at = w.published.Load() {
			begun := time.Now()
			if err := w.workOut(at); err != nil {
				slog.Error("a situation could not be worked out", "n", at.N, "minute", at.Now, "error", err)
				w.mu.Lock()
				w.failed = err
				close(w.settled)
				w.settled = make(chan struct{})
				w.mu.Unlock()
				break
			}
			if w.published.Load().Behind() {
				w.rest(min(longestRest, time.Since(begun)))
			}
		}
	}
}

// longestRest is for how long, at the most, the facts that came meanwhile are gathered
// before they are worked out: readers and writers have the processors too.
const longestRest = 250 * time.Millisecond

func (w *Worker) rest(length time.Duration) {
	select {
	case <-time.After(length):
	case <-w.living.Done():
	}
}

func (w *Worker) stopped() bool {
	return w.living.Err() != nil
}

// workOut counts and plans for the facts of a situation, and publishes what comes of it.
func (w *Worker) workOut(at *Situation) (err error) {
	defer func() {
		if what := recover(); what != nil {
			slog.Error("a panic while a situation was worked out", "panic", what, "stack", string(debug.Stack()))
			err = errors.New("the plan cannot be worked out; what is recorded is safe")
		}
	}()
	before := w.settledPlan(at)
	limit, cancel := context.WithTimeout(w.living, mostPlanning)
	made, err := w.answers(at, before, limit.Done())
	cancel()
	if err != nil {
		return err
	}
	w.work.inForce = made.InForce
	late := made.InForce.Plan.Objective.Lateness
	w.work.owed = late > 0 && (w.work.owed || before == nil || late > before.Objective.Lateness)
	if err := w.keep(made); err != nil {
		return err
	}
	w.bring(made)
	better := w.improved(made, before)
	if better == nil {
		return nil
	}
	w.work.inForce = better.InForce
	if err := w.keep(better); err != nil {
		return err
	}
	w.bring(better)
	return nil
}

// mostPlanning and mostSearching are how long it takes at the most until facts are worked
// out, and until no better plan is looked for. Limits of effort come long before on most
// machines; these hold on any.
const (
	mostPlanning  = 8 * time.Second
	mostSearching = 20 * time.Second
)

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
	if err != nil || found.Objective.Compare(made.InForce.Plan.Objective) >= 0 {
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
	w.search = &search{of, cancel}
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

// settledPlan is the plan that is to be repaired: nil before the first.
func (w *Worker) settledPlan(at *Situation) *studio.Plan {
	if at.Version == 0 && at.Planned.N < 0 && len(at.InForce.Settled().Plan.Tasks) == 0 {
		return nil
	}
	return at.InForce.Settled().Plan
}

// answers is what the facts of a situation come to.
func (w *Worker) answers(at *Situation, before *studio.Plan, abandon <-chan struct{}) (*Situation, error) {
	made := &Situation{Snapshot: at.Snapshot, Planned: at.Moment(), Version: at.Snapshot.InForce.Version,
		taken: at.taken}
	if at.Snapshot.InForce.Base < at.N {
		made.Version++ // it is kept as the next
	}
	var err error
	if made.InForce, err = w.repaired(at.Accepted, at.Calendar, before, abandon); err != nil {
		return nil, err
	}
	if made.InForce != w.work.inForce {
		sheets := w.work.cutting.Sheets(made.InForce.Doc, made.InForce.Plan.Lots)
		made.InForce.sheets = func() []wire.Sheet { return sheets }
	}
	if made.InForce.Plan == w.work.kept {
		made.Version = at.Snapshot.InForce.Version // and no version of its own
	}
	if at.Snapshot.Wished != nil {
		if made.Wished, err = w.repaired(at.Snapshot.Wished, at.Calendar, made.InForce.Plan, abandon); err != nil {
			return nil, err
		}
	}
	return made, w.offers(at, made, abandon)
}

// repaired counts a document and plans it from another plan.
func (w *Worker) repaired(doc *studio.Document, calendar studio.Calendar, from *studio.Plan, abandon <-chan struct{}) (*Answer, error) {
	if known := w.work.inForce; known != nil && known.Plan == from && reflect.DeepEqual(known.Doc, doc) {
		return known, nil // what was recorded changes nothing of it
	}
	counted, err := w.work.counter.Up(doc)
	if err != nil {
		return nil, err
	}
	made, err := plan.Repair(doc, counted, from, abandon)
	if err != nil {
		return nil, err
	}
	return NewAnswer(doc, calendar, counted, made), nil
}

// offers repairs the plans that await the lead's word for what has happened since they
// were made.
func (w *Worker) offers(at, made *Situation, abandon <-chan struct{}) error {
	latest := made.Latest()
	for _, head := range at.Snapshot.Offers {
		offer := head
		for _, known := range at.Offers {
			if known.ID == head.ID {
				offer.Plan = known.Answer.Settled().Plan
			}
		}
		if offer.Plan == nil {
			found, err := w.store.OfferedPlan(context.Background(), head.ID)
			var gone store.NotFound
			if errors.As(err, &gone) {
				made.Snapshot = made.Snapshot.Without(head.ID)
				continue
			}
			if err != nil {
				return err
			}
			offer.Plan = found
		}
		counted, err := count.Divided(latest.Doc, count.Divisions(latest.Count, offer.Plan.Lots))
		if err != nil {
			return err
		}
		if offer.Plan, err = plan.Repair(latest.Doc, counted, offer.Plan, abandon); err != nil {
			return err
		}
		if offer.Base != at.N {
			offer.Base = at.N
			if err := w.store.FollowOffer(context.Background(), offer); err != nil && !errors.Is(err, store.ErrBusy) {
				return err
			}
		}
		made.Offers = append(made.Offers, Offer{offer, NewAnswer(latest.Doc, at.Calendar, counted, offer.Plan)})
	}
	return nil
}

// bring publishes what was worked out, on the facts as they are by now.
func (w *Worker) bring(made *Situation) {
	w.mu.Lock()
	defer w.mu.Unlock()
	now := w.published.Load()
	if now.Snapshot != made.Snapshot {
		next, err := w.follow(context.Background(), made, now.Snapshot)
		if err != nil {
			slog.Error("what was worked out cannot be carried on", "error", err)
			return
		}
		made = next
	}
	made.Changed, made.Worked = now.Changed, now.Worked
	if !made.answersAs(now) {
		made.Worked++
	}
	w.publishLocked(made)
}

// keptEach is how often plans are kept that are overtaken already.
const keptEach = 2 * time.Second

// keep writes the plan in force into the file for its journal number; where one was
// accepted since, that stays. One that is overtaken is worked out again at once, and is kept
// only now and then.
func (w *Worker) keep(made *Situation) error {
	if w.work.kept == made.InForce.Plan || w.published.Load().N > made.N && time.Since(w.work.keptAt) < keptEach {
		return nil
	}
	err := w.store.KeepPlan(context.Background(), made.N, made.InForce.Plan)
	if errors.Is(err, store.ErrBusy) {
		return nil // it is worked out again when the file is opened
	}
	w.work.kept, w.work.keptAt = made.InForce.Plan, time.Now()
	return err
}
