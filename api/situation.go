package api

import (
	"context"
	"database/sql"
	"errors"
	"slices"
	"strconv"
	"sync"

	"bractum/core/count"
	"bractum/core/drying"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/store"
)

// situation is the studio at one journal number: what is in force, and what
// would be if the lead's pending wishes were accepted.
type situation struct {
	n        int64
	now      studio.Minute
	standing bool
	calendar studio.Calendar
	version  int64
	inForce  *answer
	wished   *answer // nil when nothing is pending
	offers   []offer // other plans for what is wished, or for what is in force
	orders   []store.OrderState
}

// offer is a plan that was searched for, or gone back to, and awaits the lead's word.
type offer struct {
	store.Offer
	answer *answer
}

// answer is a document with its count and plan.
type answer struct {
	doc   *studio.Document
	air   drying.Room
	book  *studio.Book
	count *count.Result
	plan  *studio.Plan
	lots  map[studio.ID]*studio.Lot
	tasks map[studio.ID]*studio.Task
	// orders are those that each lot works for.
	orders map[studio.ID][]studio.ID
	// instance is what the tasks of the plan have to be, activities the same by task, account
	// is why it is as it is: worked out when they are asked for.
	instance   func() *studio.Instance
	activities func() map[studio.ID]*studio.Activity
	account    func() (*plan.Explanation, error)
}

// planned answers a document with its count by a plan that goes on from another.
func planned(doc *studio.Document, counted *count.Result, from *studio.Plan) (*answer, error) {
	made, err := plan.Repair(doc, counted, from)
	if err != nil {
		return nil, err
	}
	return answered(doc, counted, made)
}

// answered is a document with its count and a plan.
func answered(doc *studio.Document, counted *count.Result, made *studio.Plan) (*answer, error) {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return nil, err
	}
	a := &answer{doc: doc, air: drying.NewRoom(doc, calendar), book: studio.NewBook(doc), count: counted, plan: made,
		lots: map[studio.ID]*studio.Lot{}, tasks: map[studio.ID]*studio.Task{}, orders: plan.OrdersOf(made)}
	for i := range made.Lots {
		a.lots[made.Lots[i].ID] = &made.Lots[i]
	}
	for i := range made.Tasks {
		a.tasks[made.Tasks[i].ID] = &made.Tasks[i]
	}
	a.instance = sync.OnceValue(func() *studio.Instance { return studio.Route(doc, a.book, made.Lots, made.Links, made.Pegs) })
	a.activities = sync.OnceValue(func() map[studio.ID]*studio.Activity { return a.instance().Activities() })
	a.account = sync.OnceValues(func() (*plan.Explanation, error) { return plan.Account(doc, made) })
	return a, nil
}

// situation answers for the latest journal number and minute, computing it once. What is
// in force is the plan that was, repaired for what has happened since.
func (s *Service) situation(ctx context.Context) (*situation, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	n, calendar, standing, err := s.store.LastN(ctx)
	if err != nil {
		return nil, err
	}
	now := s.clock(calendar, standing)
	if s.latest != nil && s.latest.n == n && s.latest.now == now {
		return s.latest, nil
	}
	at := &situation{n: n, now: now, standing: standing != nil, calendar: calendar}
	if at.orders, err = s.store.Orders(ctx); err != nil {
		return nil, err
	}
	from, _, base, err := s.store.PlanInForce(ctx)
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return nil, err
	}
	if s.latest != nil && s.latest.n >= base {
		from = s.latest.inForce.plan
	}
	if at.inForce, err = s.answer(ctx, at, store.Accepted, from); err != nil {
		return nil, err
	}
	pending, err := s.store.Wishes(ctx)
	if err != nil {
		return nil, err
	}
	if pending || slices.ContainsFunc(at.orders, store.OrderState.Pending) {
		if at.wished, err = s.answer(ctx, at, store.Wished, at.inForce.plan); err != nil {
			return nil, err
		}
	}
	if err := s.store.KeepPlan(ctx, n, at.inForce.plan); err != nil && !errors.Is(err, store.ErrBusy) {
		return nil, err
	}
	if versions, err := s.store.PlanVersions(ctx, 1); err == nil && len(versions) > 0 {
		at.version = versions[0].Version
	}
	if err := s.offers(ctx, at); err != nil {
		return nil, err
	}
	s.latest = at
	return at, nil
}

// answer counts and plans a view; the caller holds the lock.
func (s *Service) answer(ctx context.Context, at *situation, view store.View, from *studio.Plan) (*answer, error) {
	doc, _, err := s.store.Document(ctx, view, func(studio.Calendar, *studio.Minute) studio.Minute { return at.now })
	if err != nil {
		return nil, err
	}
	counted, err := s.counter.Up(doc)
	if err != nil {
		return nil, err
	}
	return planned(doc, counted, from)
}

// offers reads the plans that await the lead's word, repaired for what has happened since
// they were made; the caller holds the lock.
func (s *Service) offers(ctx context.Context, at *situation) error {
	kept, err := s.store.Offers(ctx)
	if err != nil {
		return err
	}
	for _, o := range kept {
		doc := at.latestAnswer().doc
		counted, err := count.Divided(doc, count.Divisions(at.latestAnswer().count, o.Plan.Lots))
		if err != nil {
			return err
		}
		a, err := planned(doc, counted, o.Plan)
		if err != nil {
			return err
		}
		o.Plan = a.plan
		if o.Base != at.n {
			o.Base = at.n
			if err := s.store.PutOffer(ctx, o); err != nil && !errors.Is(err, store.ErrBusy) {
				return err
			}
		}
		at.offers = append(at.offers, offer{o, a})
	}
	return nil
}

// earlier is a version of the plan in force that was, beside the studio as it is.
func (s *Service) earlier(ctx context.Context, at *situation, number string) (*answer, error) {
	version, err := strconv.ParseInt(number, 10, 64)
	if err != nil {
		return nil, store.NotFound{Thing: "this version of the plan"}
	}
	was, err := s.store.PlanVersion(ctx, version)
	if err != nil {
		return nil, err
	}
	a, err := answered(at.inForce.doc, at.inForce.count, was)
	if err == nil {
		a.account = func() (*plan.Explanation, error) { return &plan.Explanation{}, nil }
	}
	return a, err
}

// waits is true where a plan awaits the lead's word.
func (at *situation) waits() bool { return at.wished != nil || len(at.offers) > 0 }

// orderName is what an order is called now.
func (at *situation) orderName(order studio.ID) string {
	for _, o := range at.orders {
		if o.Order.ID == order {
			return o.Order.Name
		}
	}
	return string(order)
}

// latestAnswer is the plan for all wishes, accepted or not.
func (at *situation) latestAnswer() *answer {
	if at.wished != nil {
		return at.wished
	}
	return at.inForce
}

// forget has the next question answered anew, though nothing was recorded.
func (s *Service) forget() {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.latest != nil {
		stale := *s.latest
		stale.now = -1
		s.latest = &stale
	}
}
