// Package api is what the application can be asked over HTTP: it decodes, calls
// the store and the core, and encodes. It holds no rule of the job.
//
// Every operation is registered in one of these ways, and in no other:
//
//   - kept: a view of the published situation, worked out and encoded once for all who ask.
//   - read: rows of the file, or what the program itself is doing.
//   - ask: a question that is cheap to answer and writes nothing.
//   - beside: a question that is dear; few are worked on at once, and none whose asker is gone.
//   - fact, wish: commands, which pass the gate (gate.go).
//   - access: how people, tablets and devices come in (entering.go).
//   - device: what a sensor sends, which is nobody's command.
//
// Errors are RFC 9457 problems with the place of the field they are about.
package api

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"reflect"
	"sync"
	"sync/atomic"

	"github.com/danielgtaylor/huma/v2"
	lru "github.com/hashicorp/golang-lru/v2"

	"bractum/core/risk"
	"bractum/core/studio"
	"bractum/outside"
	"bractum/situation"
	"bractum/store"
)

// Service answers operations from one store. It is safe for concurrent use.
type Service struct {
	store      *store.Store
	situations *situation.Worker
	listen     Listener
	out        outside.Services
	door       door
	limit      *limit
	typed      *limit // of what is asked while somebody types
	chances    *lru.Cache[*studio.Plan, []risk.Chance]
	promised   *lru.Cache[string, found] // plans that were found for orders that were asked for, by id
	views      views
	catalogue  catalogue
	refused    *lru.Cache[string, error] // commands that were refused, by id
	beginnings Beginnings
	backups    backups

	searching searching
	last      atomic.Pointer[situation.Situation]

	breathing sync.Mutex    // while the air is taken
	breathed  studio.Minute // the hour at which it was taken last
}

// Listener is told of every new situation, and of how far a search is.
type Listener func(Event)

// Event is something that clients refetch for. Topics are what it is about.
type Event struct {
	Name   string
	N      int64
	Topics []string
}

// Names of events: something was recorded; it is worked out; a search is further; readings
// came.
const (
	EventFacts   = "facts"
	EventPlanned = "planned"
	EventSearch  = "search"
	EventAir     = "air"
)

// Register adds all operations to an API. The listener may be nil.
func Register(to huma.API, s *store.Store, clock store.Clock, listen Listener, out outside.Services) *Service {
	huma.NewError = newError
	if listen == nil {
		listen = func(Event) {}
	}
	refused, err := lru.New[string, error](mostRefused)
	if err != nil {
		panic(err) // the size is a constant
	}
	promised, err := lru.New[string, found](mostPromised)
	if err != nil {
		panic(err) // so is this
	}
	chances, err := lru.New[*studio.Plan, []risk.Chance](4)
	if err != nil {
		panic(err)
	}
	service := &Service{store: s, listen: listen, out: out, limit: newLimit(), typed: newLimit(), refused: refused,
		promised: promised, chances: chances,
		door: door{guesses: newGuesses(), hashing: make(chan struct{}, 2)}}
	service.situations = situation.New(s, clock, service.published)
	service.registerBeginning(to)
	service.registerStudio(to)
	service.registerOrders(to)
	service.registerOrderTable(to)
	service.registerPromise(to)
	service.registerFixes(to)
	service.registerWhich(to)
	service.registerRisk(to)
	service.registerScenes(to)
	service.registerHandover(to)
	service.registerFeeds(to)
	service.registerQuantities(to)
	service.registerCount(to)
	service.registerStores(to)
	service.registerHealth(to)
	service.registerWeighing(to)
	service.registerLines(to)
	service.registerPlan(to)
	service.registerProposal(to)
	service.registerSearch(to)
	service.registerBeside(to)
	service.registerPins(to)
	service.registerAir(to)
	service.registerRoom(to)
	service.registerTimers(to)
	service.registerLabels(to)
	service.registerLog(to)
	service.registerFalls(to)
	service.registerFind(to)
	service.registerBook(to)
	service.registerBench(to) // after the book, whose steps and pastes have their plain names in the description
	service.registerBenches(to)
	service.registerMany(to) // before the workshop, which takes any other word for an id
	service.registerWorkshop(to)
	service.registerJournal(to)
	service.registerWords(to)
	service.registerBackups(to)
	service.registerAccess(to)
	return service
}

// Close stops what goes on in the background, and waits until what it has found is kept.
func (s *Service) Close() {
	s.searching.halt()
	s.searching.done.Wait()
	s.situations.Close()
}

// Latest is the journal number of the situation that is published.
func (s *Service) Latest(ctx context.Context) (int64, error) {
	at, err := s.situations.Latest(ctx)
	if err != nil {
		return 0, err
	}
	return at.N, nil
}

// problem turns an error into an RFC 9457 problem: what happened, what is safe,
// what to do.
func problem(err error) error {
	var status huma.StatusError
	var refusal studio.Refusal
	var stale store.Stale
	var missing store.NotFound
	var fixed store.CannotUndo
	var broken store.Broken
	var problems studio.Problems
	var trouble outside.Trouble
	switch {
	case err == nil || errors.As(err, &status):
		return err
	case errors.As(err, &refusal):
		if refusal.Confirm != "" {
			return saying(http.StatusConflict, refusal.Said,
				&Fault{Message: "confirm", Location: "body." + refusal.Confirm, Value: false})
		}
		return saying(http.StatusConflict, refusal.Said)
	case errors.Is(err, errOvertaken):
		return huma.Error409Conflict(err.Error())
	case errors.Is(err, store.ErrReused):
		return huma.Error422UnprocessableEntity(err.Error(),
			&huma.ErrorDetail{Location: "header.Command-Id", Message: "make a new one"})
	case errors.As(err, &stale):
		return saying(http.StatusPreconditionFailed, studio.Say("%s; nothing of yours was written", stale),
			staleVersion(stale))
	case errors.Is(err, store.ErrNoPage):
		return huma.Error422UnprocessableEntity(err.Error())
	case errors.As(err, &missing):
		return saying(http.StatusNotFound, missing.Words())
	case errors.As(err, &fixed):
		return saying(http.StatusConflict, fixed.Said)
	case errors.As(err, &problems):
		return invalid(problems)
	case errors.As(err, &trouble):
		slog.Warn("a device or service does not answer as it should", "error", err)
		return saying(http.StatusBadGateway, trouble.Words())
	case errors.Is(err, situation.ErrBehind):
		return huma.NewError(
			http.StatusServiceUnavailable,
			err.Error()+"; nothing was written. Try again in a moment.",
		)
	case errors.Is(err, store.ErrEmpty):
		return huma.Error409Conflict("no studio is begun here yet; open Bractum's first page to begin one")
	case errors.Is(err, errBusy):
		return huma.NewError(http.StatusServiceUnavailable, err.Error())
	case errors.Is(err, store.ErrBusy):
		slog.Warn("another program holds the file", "error", err)
		return huma.NewError(
			http.StatusServiceUnavailable,
			store.ErrBusy.Error()+". Close the other program and try again.",
		)
	case errors.As(err, &broken):
		slog.Warn("the file cannot be used", "error", broken, "cause", errors.Unwrap(broken))
		return saying(http.StatusInsufficientStorage, broken.Said)
	case errors.Is(err, context.Canceled), errors.Is(err, context.DeadlineExceeded):
		return huma.NewError(http.StatusServiceUnavailable,
			"the answer was no longer wanted, or Bractum is closing; nothing was written")
	}
	slog.Error("an operation failed", "error", err) // for whoever looks after the program; not for clients
	return huma.Error500InternalServerError("something failed that should not; nothing was written")
}

// staleVersion tells which version a refused write would have to see.
func staleVersion(s store.Stale) error {
	return &huma.ErrorDetail{Location: "header.If-Match", Message: "the version it stands at", Value: s.Now}
}

func invalid(problems studio.Problems) error {
	details := make([]error, len(problems))
	for i, p := range problems {
		details[i] = &Fault{Message: p.Message, Says: p.Says, Location: "body." + p.Place}
	}
	first := problems[0]
	if first.Says == nil {
		return huma.Error422UnprocessableEntity(first.Place+" "+first.Message, details...)
	}
	return saying(
		http.StatusUnprocessableEntity,
		studio.Say("%s %s", studio.Location(first.Place), first.Words()),
		details...)
}

// body wraps an answer for huma.
type body[T any] struct{ Body T }

// written is an answer that is encoded already.
type written struct {
	ContentType string `header:"Content-Type"`
	Repeated    string `header:"Repeated" doc:"true where the command had been carried out before"`
	Body        []byte
}

// operation is what an operation is called and what it is for.
type operation struct {
	method, path, id, summary string
	kind                      string // of a command, as the journal has it
	most                      int64  // bytes of its body; 0 for the usual
}

func get(path, id, summary string) operation {
	return operation{method: http.MethodGet, path: path, id: id, summary: summary}
}

func post(path, id, kind, summary string) operation {
	return operation{method: http.MethodPost, path: path, id: id, kind: kind, summary: summary}
}

func put(path, id, kind, summary string) operation {
	return operation{method: http.MethodPut, path: path, id: id, kind: kind, summary: summary}
}

func remove(path, id, kind, summary string) operation {
	return operation{method: http.MethodDelete, path: path, id: id, kind: kind, summary: summary}
}

func (o operation) taking(most int64) operation {
	o.most = most
	return o
}

// Ways in which operations are registered, as their description in the API names them.
const (
	WayKept    = "kept"
	WayRead    = "read"
	WayAsk     = "ask"
	WayBeside  = "beside"
	WayCommand = "command"
	WayDevice  = "device"
	WayBegin   = "begin" // before there is anybody whom a command could name
)

// Way names the extension of an operation's description that says how it is registered.
const Way = "x-way"

// described is an operation as huma has it.
func (o operation) described(way string, errors ...int) huma.Operation {
	return huma.Operation{OperationID: o.id, Method: o.method, Path: "/api" + o.path, Summary: o.summary,
		MaxBodyBytes: o.most,
		Errors:       errors, Extensions: map[string]any{Way: way}}
}

// answering says what a written answer is, in the description.
func answering[O any](to huma.API, d *huma.Operation) {
	schema := to.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[O](), true, d.OperationID+"Response")
	d.Responses = map[string]*huma.Response{"200": {Description: http.StatusText(http.StatusOK),
		Content: map[string]*huma.MediaType{"application/json": {Schema: schema}}}}
}

// read registers a question about rows of the file, or about the program.
func read[I, O any](to huma.API, o operation, run func(context.Context, *I) (O, error)) {
	plainly(to, o.described(WayRead), run)
}

// ask registers a question that is cheap to answer and writes nothing.
func ask[I, O any](s *Service, to huma.API, o operation, run func(context.Context, *moment, *I) (O, error)) {
	plainly(to, o.described(WayAsk, http.StatusNotFound, http.StatusConflict, http.StatusUnprocessableEntity,
		http.StatusServiceUnavailable),
		func(ctx context.Context, in *I) (O, error) {
			at, err := s.now(ctx)
			if err != nil {
				var none O
				return none, err
			}
			return run(ctx, at, in)
		})
}

// plainly registers an operation whose answer is encoded each time.
func plainly[I, O any](to huma.API, d huma.Operation, run func(context.Context, *I) (O, error)) {
	huma.Register(to, d, func(ctx context.Context, in *I) (*body[O], error) {
		out, err := run(ctx, in)
		if err != nil {
			return nil, problem(err)
		}
		return &body[O]{out}, nil
	})
}

type none struct{}
