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
	"sync"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/count"
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
	listen Listener
	out    outside.Services

	mu      sync.Mutex
	latest  *situation
	counter count.Counter

	searching searching

	breathing sync.Mutex    // while the air is taken
	breathed  studio.Minute // the hour at which it was taken last
}

// Listener is told of every new journal number, and whenever a search is further.
type Listener func(event string, n int64)

// Events that a listener is told of.
const (
	EventJournal = "journal"
	EventSearch  = "search"
	EventAir     = "air"
)

// Register adds all operations to an API. The listener may be nil.
func Register(to huma.API, s *store.Store, clock Clock, listen Listener, out outside.Services) *Service {
	if listen == nil {
		listen = func(string, int64) {}
	}
	service := &Service{store: s, clock: clock, listen: listen, out: out}
	service.registerStudio(to)
	service.registerOrders(to)
	service.registerQuantities(to)
	service.registerCount(to)
	service.registerStores(to)
	service.registerWeighing(to)
	service.registerPlan(to)
	service.registerProposal(to)
	service.registerSearch(to)
	service.registerPins(to)
	service.registerBench(to)
	service.registerAir(to)
	service.registerRoom(to)
	service.registerTimers(to)
	service.registerLabels(to)
	service.registerPlaces(to)
	service.registerLog(to)
	service.registerBook(to)
	service.registerJournal(to)
	return service
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
		s.listen(EventJournal, done.N)
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
