// Package api is what the application can be asked over HTTP: it decodes, calls
// the store and the core, and encodes. It holds no rule of the job.
//
// Errors are RFC 9457 problems with the place of the field they are about.
package api

import (
	"context"
	"errors"
	"fmt"
	"log"
	"net/http"
	"slices"
	"sync"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/count"
	"bractum/core/drying"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/outside"
	"bractum/store"
)

// Clock gives now from the calendar and, in the demo, the minute at which the
// studio's clock stands.
type Clock func(calendar studio.Calendar, standing *studio.Minute) studio.Minute

// Service answers operations from one store. It is safe for concurrent use.
type Service struct {
	store  *store.Store
	clock  Clock
	listen func(n int64) // told of every new journal number
	out    outside.Services

	mu      sync.Mutex
	latest  *situation
	counter count.Counter
}

// situation is the studio at one journal number: what is in force, and what
// would be if the lead's pending wishes were accepted.
type situation struct {
	n        int64
	now      studio.Minute
	standing bool
	calendar studio.Calendar
	version  int64
	inForce  answer
	wished   *answer // nil when nothing is pending
	orders   []store.OrderState
}

// answer is a document with its count and plan.
type answer struct {
	doc   *studio.Document
	air   drying.Room
	book  *studio.Book
	count *count.Result
	plan  *studio.Plan
	// activities are what each task of the plan has to be.
	activities map[studio.ID]*studio.Activity
}

// Register adds all operations to an API. The listener may be nil.
func Register(to huma.API, s *store.Store, clock Clock, listen func(n int64), out outside.Services) *Service {
	if listen == nil {
		listen = func(int64) {}
	}
	service := &Service{store: s, clock: clock, listen: listen, out: out}
	service.registerStudio(to)
	service.registerOrders(to)
	service.registerQuantities(to)
	service.registerCount(to)
	service.registerStores(to)
	service.registerWeighing(to)
	service.registerPlan(to)
	service.registerBench(to)
	service.registerBook(to)
	service.registerJournal(to)
	return service
}

// situation answers for the latest journal number and minute, computing it once.
// On a clock that runs, what has not begun is laid anew from now.
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
	fixed := func(studio.Calendar, *studio.Minute) studio.Minute { return now }
	if at.orders, err = s.store.Orders(ctx); err != nil {
		return nil, err
	}
	if at.inForce, err = s.answer(ctx, store.Accepted, fixed); err != nil {
		return nil, err
	}
	pending, err := s.store.Decisions(ctx)
	if err != nil {
		return nil, err
	}
	if pending || slices.ContainsFunc(at.orders, store.OrderState.Pending) {
		wished, err := s.answer(ctx, store.Wished, fixed)
		if err != nil {
			return nil, err
		}
		at.wished = &wished
	}
	if err := s.store.KeepPlan(ctx, n, at.inForce.plan); err != nil && !errors.Is(err, store.ErrBusy) {
		return nil, err
	}
	if _, at.version, _, err = s.store.PlanInForce(ctx); err != nil {
		at.version = 0
	}
	s.latest = at
	return at, nil
}

// answer counts and plans a view; the caller holds the lock.
func (s *Service) answer(ctx context.Context, view store.View, now Clock) (answer, error) {
	doc, _, err := s.store.Document(ctx, view, now)
	if err != nil {
		return answer{}, err
	}
	counted, err := s.counter.Up(doc)
	if err != nil {
		return answer{}, err
	}
	from, _, _, _ := s.store.PlanInForce(ctx)
	made, err := plan.Make(doc, counted, plan.Options{From: from})
	if err != nil {
		return answer{}, err
	}
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	book := studio.NewBook(doc)
	activities := studio.Route(doc, book, made.Lots, made.Links, made.Pegs).Activities()
	return answer{doc, drying.NewRoom(doc, calendar), book, counted, made, activities}, err
}

// latestAnswer is the plan for all wishes, accepted or not.
func (at *situation) latestAnswer() *answer {
	if at.wished != nil {
		return at.wished
	}
	return &at.inForce
}

// Who is what every command names: an id made by the client, and the person.
type Who struct {
	CommandID string `header:"Command-Id" required:"true" format:"uuid" doc:"made by the client; a command sent twice answers as the first did"`
	Person    string `header:"Person" required:"true" minLength:"1" doc:"who is at this bench"`
}

// Sees names the version of a thing that a write has seen.
type Sees struct {
	IfMatch int64 `header:"If-Match" required:"true" minimum:"1" doc:"the version that was seen"`
}

// do runs a command and lets the listener know.
func (s *Service) do(ctx context.Context, who Who, kind string, run func(*store.Tx) (any, error)) (store.Done, error) {
	at, err := s.situation(ctx)
	if err != nil {
		return store.Done{}, err
	}
	if err := at.knows(who.Person); err != nil {
		return store.Done{}, err
	}
	done, err := s.store.Do(ctx, store.Command{ID: who.CommandID, Kind: kind, Person: studio.ID(who.Person), Now: at.now}, run)
	s.told(done, err)
	return done, err
}

func (s *Service) told(done store.Done, err error) {
	if err == nil && !done.Repeated {
		s.listen(done.N)
	}
}

// errOvertaken says that something was recorded between reasoning and writing.
var errOvertaken = errors.New("something else was recorded just now; try again")

// facts runs what was reasoned from a situation, anew while others are quicker.
func facts[T any](ctx context.Context, s *Service, run func(*situation) (T, error)) (T, error) {
	const tries = 8
	for try := 1; ; try++ {
		at, err := s.situation(ctx)
		if err != nil {
			var none T
			return none, err
		}
		answer, err := run(at)
		if try == tries || !errors.Is(err, errOvertaken) {
			return answer, err
		}
	}
}

// unchanged refuses a fact that was reasoned from a state that is gone.
func (at *situation) unchanged(tx *store.Tx) error {
	if tx.Base() != at.n {
		return errOvertaken
	}
	return nil
}

// knows refuses a person who does not work here.
func (at *situation) knows(person string) error {
	for _, p := range at.inForce.doc.People {
		if string(p.ID) == person {
			return nil
		}
	}
	return huma.Error422UnprocessableEntity("nobody with this id works here", &huma.ErrorDetail{
		Message: "choose who is at this bench", Location: "header.Person", Value: person})
}

// problem turns an error into an RFC 9457 problem: what happened, what is safe,
// what to do.
func problem(err error) error {
	var status huma.StatusError
	var refusal studio.Refusal
	var stale store.Stale
	var missing store.NotFound
	var fixed store.CannotUndo
	var problems studio.Problems
	switch {
	case err == nil || errors.As(err, &status):
		return err
	case errors.As(err, &refusal):
		if refusal.Confirm != "" {
			return huma.Error409Conflict(refusal.Message, &huma.ErrorDetail{Message: "confirm", Location: "body." + refusal.Confirm, Value: false})
		}
		return huma.Error409Conflict(refusal.Message)
	case errors.Is(err, errOvertaken):
		return huma.Error409Conflict(err.Error())
	case errors.As(err, &stale):
		return huma.Error412PreconditionFailed(stale.Error()+"; nothing of yours was written", staleVersion(stale))
	case errors.As(err, &missing):
		return huma.Error404NotFound(missing.Error())
	case errors.As(err, &fixed):
		return huma.Error409Conflict(fixed.Error())
	case errors.As(err, &problems):
		return invalid(problems)
	case outside.IsTrouble(err):
		return huma.NewError(http.StatusBadGateway, err.Error())
	case errors.Is(err, store.ErrBusy):
		return huma.NewError(http.StatusServiceUnavailable, store.ErrBusy.Error()+". Close the other program and try again.")
	}
	log.Printf("api: %v", err) // for whoever looks after the program; not for clients
	return huma.Error500InternalServerError("something failed that should not; nothing was written")
}

// staleVersion tells which version a refused write would have to see.
func staleVersion(s store.Stale) error {
	return &huma.ErrorDetail{Location: "header.If-Match", Message: "the version it stands at", Value: s.Now}
}

func invalid(problems studio.Problems) error {
	details := make([]error, len(problems))
	for i, p := range problems {
		details[i] = &huma.ErrorDetail{Message: p.Message, Location: "body." + p.Place}
	}
	return huma.Error422UnprocessableEntity(fmt.Sprintf("%s %s", problems[0].Place, problems[0].Message), details...)
}

// body wraps an answer for huma.
type body[T any] struct{ Body T }

func get[I, O any](to huma.API, path, id, summary string, run func(context.Context, *I) (O, error)) {
	huma.Register(to, huma.Operation{OperationID: id, Method: http.MethodGet, Path: "/api" + path, Summary: summary},
		func(ctx context.Context, in *I) (*body[O], error) {
			out, err := run(ctx, in)
			if err != nil {
				return nil, problem(err)
			}
			return &body[O]{out}, nil
		})
}

func command[I, O any](to huma.API, method, path, id, summary string, run func(context.Context, *I) (O, error)) {
	huma.Register(to, huma.Operation{OperationID: id, Method: method, Path: "/api" + path, Summary: summary, Errors: []int{404, 409, 412, 422, 503}},
		func(ctx context.Context, in *I) (*body[O], error) {
			out, err := run(ctx, in)
			if err != nil {
				return nil, problem(err)
			}
			return &body[O]{out}, nil
		})
}

type nothing struct{}
