package situation

import (
	"context"
	"errors"
	"log/slog"
	"reflect"
	"runtime/debug"
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
	took    time.Duration // until the last answers were published
	owed    bool          // orders have become later, and no search since has come to its end
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
	first := &Situation{Snapshot: facts, Planned: Moment{N: -1, Now: -1}}
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
	var err error
	if at.Falls, err = w.store.Falls(ctx); err != nil {
		return nil, err
	}
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
				w.rest(min(longestRest, w.work.took))
			}
		}
	}
}

// longestRest is for how long, at the most, the facts that came meanwhile are gathered
// before they are worked out, else for as long as the last took: readers and writers have
// the processors too, and what is worked out has every view of it made anew.
const longestRest = time.Second

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
	begun, before := time.Now(), w.settledPlan(at)
	limit, cancel := context.WithTimeout(w.living, mostPlanning)
	made, err := w.answers(at, before, limit.Done())
	cancel()
	if err != nil {
		return err
	}
	w.work.inForce = made.InForce
	late := made.InForce.Plan.Objective.Lateness
	w.work.owed = late > 0 && (w.work.owed || before == nil || late > before.Objective.Lateness) ||
		before != nil && plan.Fell(before, made.InForce.Plan)
	if err := w.keep(made); err != nil {
		return err
	}
	w.bring(made)
	w.work.took = time.Since(begun)
	if better := w.improved(made, before); better != nil {
		made, w.work.inForce = better, better.InForce
		if err := w.keep(made); err != nil {
			return err
		}
		w.bring(made)
	}
	return w.named(made, before)
}

// Falls of less are not told: leastFall. Of older ones keptFalls are known.
const (
	leastFall studio.Minute = 60
	keptFalls int           = 400
)

// named publishes and keeps which orders lost slack by what was worked out, and what made them.
func (w *Worker) named(made *Situation, before *studio.Plan) error {
	if before == nil {
		return nil
	}
	falls := plan.Falls(before, made.InForce.Plan, leastFall)
	if len(falls) == 0 {
		return nil
	}
	told := *made
	told.Falls = append(falls, made.Falls[:min(len(made.Falls), keptFalls)]...)
	w.bring(&told)
	if err := w.store.KeepFalls(context.Background(), falls); err != nil && !errors.Is(err, store.ErrBusy) {
		return err
	}
	return nil
}

// mostPlanning and mostSearching are how long it takes at the most until facts are worked
// out, and until no better plan is looked for. Limits of effort come long before on most
// machines; these hold on any.
const (
	mostPlanning  = 8 * time.Second
	mostSearching = 20 * time.Second
)

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
		taken: at.taken, Falls: at.Falls}
	if at.Snapshot.InForce.Base < at.N {
		made.Version++ // it is kept as the next
	}
	var err error
	if made.InForce, err = w.repaired(at.Accepted, at.Calendar, before, plan.Repair, abandon); err != nil {
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
		made.Wished, err = w.repaired(at.Snapshot.Wished, at.Calendar, made.InForce.Plan, plan.Propose, abandon)
		if err != nil {
			return nil, err
		}
	}
	return made, w.offers(at, made, abandon)
}

// repaired counts a document and plans it from another plan.
func (w *Worker) repaired(
	doc *studio.Document,
	calendar studio.Calendar,
	from *studio.Plan,
	repair func(*studio.Document, *count.Result, *studio.Plan, <-chan struct{}) (*studio.Plan, error),
	abandon <-chan struct{},
) (*Answer, error) {
	if known := w.work.inForce; known != nil && known.Plan == from && reflect.DeepEqual(known.Doc, doc) {
		return known, nil // what was recorded changes nothing of it
	}
	counted, err := w.work.counter.Up(doc)
	if err != nil {
		return nil, err
	}
	made, err := repair(doc, counted, from, abandon)
	if err != nil {
		return nil, err
	}
	if counted, err = count.As(doc, counted, made.Divided); err != nil {
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
		counted, err := count.As(latest.Doc, latest.Count, offer.Plan.Divided)
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
		made.Offers = append(
			made.Offers,
			Offer{Offer: offer, Answer: NewAnswer(latest.Doc, at.Calendar, counted, offer.Plan)},
		)
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
