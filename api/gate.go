package api

import (
	"bytes"
	"context"
	"errors"
	"io"
	"log/slog"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/studio"
	"bractum/store"
)

// Every command passes the gate, in this order:
//
//  1. its id: one that was carried out before answers as it did then;
//  2. who gives it: they were admitted (access.go), and work here;
//  3. its body is what the description says;
//  4. the base it saw: a version named by If-Match, and for a wish the situation that it was
//     reasoned from;
//  5. the reasons why not;
//  6. what it writes, with
//  7. its line of the journal and its answer, in one transaction.

// Who is what every command names: an id made by the client, and the person.
type Who struct {
	CommandID string `header:"Command-Id" required:"true" format:"uuid" doc:"made by the client; a command sent twice answers as the first did"`
	Person    string `header:"Person" required:"true" minLength:"1" doc:"who is at this bench"`
}

func (w Who) who() Who { return w }

// commander is the input of a command.
type commander interface{ who() Who }

// Sees names the version of a thing that a write has seen.
type Sees struct {
	IfMatch int64 `header:"If-Match" required:"true" minimum:"1" doc:"the version that was seen"`
}

// change is a command in progress: the studio as it finds it, and what it writes.
type change struct {
	*store.Tx
	asker  Asker
	at     *moment                     // the facts are those of the command's base
	after  func(context.Context) error // once it is written
	failed func()                      // if it is not
}

// fact registers a command that is reasoned from what is recorded and the plan as people
// see it: it waits for nothing to be worked out.
func fact[I commander, O any](s *Service, to huma.API, o operation, run func(c *change, in *I) (O, error)) {
	s.throughGate(to, o, func(d huma.Operation) {
		answering[O](to, &d)
		huma.Register(to, d, func(ctx context.Context, in *I) (*written, error) {
			return s.carryOut(ctx, o.kind, (*in).who(), func(c *change) (any, error) { return run(c, in) })
		})
	})
}

// wish registers a command that is reasoned from what the facts come to. It is prepared
// beside everything else; what that gives is written if nothing else was recorded
// meanwhile, else it is prepared anew.
func wish[I commander, O any](
	s *Service,
	to huma.API,
	o operation,
	prepare func(ctx context.Context, at *moment, in *I) (func(*change) (O, error), error),
) {
	s.throughGate(to, o, func(d huma.Operation) {
		answering[O](to, &d)
		huma.Register(to, d, func(ctx context.Context, in *I) (*written, error) {
			const tries = 8
			for try := 1; ; try++ {
				at, err := s.settled(ctx)
				if err != nil {
					return nil, problem(err)
				}
				var write func(*change) (O, error)
				if err := s.limit.within(ctx, d.OperationID, func(ctx context.Context) (err error) {
					write, err = prepare(ctx, at, in)
					return err
				}); err != nil {
					return nil, problem(err)
				}
				out, err := s.carryOut(ctx, o.kind, (*in).who(), func(c *change) (any, error) {
					if c.Base() != at.N {
						return nil, errOvertaken
					}
					return write(c)
				})
				if try == tries || !errors.Is(err, errOvertaken) {
					return out, err
				}
			}
		})
	})
}

// errand registers a command of which a part is done outside the file: it is done once, and
// what came of it is written on whatever was recorded meanwhile.
func errand[I commander, O any](
	s *Service,
	to huma.API,
	o operation,
	run func(ctx context.Context, at *moment, in *I) (func(*change) (O, error), error),
) {
	s.throughGate(to, o, func(d huma.Operation) {
		answering[O](to, &d)
		huma.Register(to, d, func(ctx context.Context, in *I) (*written, error) {
			at, err := s.now(ctx)
			if err != nil {
				return nil, problem(err)
			}
			write, err := run(ctx, at, in)
			if err != nil {
				return nil, problem(err)
			}
			return s.carryOut(ctx, o.kind, (*in).who(), func(c *change) (any, error) { return write(c) })
		})
	})
}

// throughGate gives an operation's description the gate, and registers it.
func (s *Service) throughGate(to huma.API, o operation, register func(huma.Operation)) {
	d := o.described(WayCommand, http.StatusNotFound, http.StatusConflict, http.StatusPreconditionFailed,
		http.StatusRequestEntityTooLarge,
		http.StatusUnprocessableEntity, http.StatusServiceUnavailable, http.StatusInsufficientStorage)
	d.Middlewares = huma.Middlewares{func(ctx huma.Context, next func(huma.Context)) {
		if answered := s.atTheGate(to, o, ctx); !answered {
			next(ctx)
		}
	}}
	register(d)
}

// atTheGate answers a command that was carried out before, and refuses who may not give it;
// false where it may go on.
func (s *Service) atTheGate(to huma.API, o operation, ctx huma.Context) bool {
	refuse := func(err error) bool {
		var status huma.StatusError
		errors.As(problem(err), &status)
		answerWith(ctx, status)
		return true
	}
	if strings.HasPrefix(ctx.Header("Content-Type"), "application/json") && holdsNUL(ctx.BodyReader()) {
		return refuse(
			huma.Error422UnprocessableEntity("a text holds a NUL character; type it anew. Nothing was written"),
		)
	}
	id, person := ctx.Header("Command-Id"), ctx.Header("Person")
	if id == "" || person == "" {
		return false // what is missing is said by its place
	}
	done, known, err := s.store.Carried(ctx.Context(), id, o.kind)
	if err != nil {
		return refuse(err)
	}
	if known {
		ctx.SetHeader("Content-Type", "application/json")
		ctx.SetHeader("Repeated", "true")
		ctx.SetStatus(http.StatusOK)
		_, _ = ctx.BodyWriter().Write(done.Answer) // the client is gone if this fails
		return true
	}
	if before, is := s.refused.Get(id); is {
		return refuse(before)
	}
	at, err := s.now(ctx.Context())
	if err == nil {
		err = at.refuseStranger(person)
	}
	if err != nil {
		return refuse(err)
	}
	return false
}

// holdsNUL is true of JSON with a NUL in it, which no text of a studio has.
func holdsNUL(body io.Reader) bool {
	data, _ := io.ReadAll(body) // what cannot be read is said later
	if text := bytes.TrimSpace(data); len(text) == 0 || text[0] != '{' {
		return false
	}
	return bytes.IndexByte(data, 0) >= 0 || bytes.Contains(data, []byte(`\u0000`))
}

// mostRefused is how many refusals are remembered.
const mostRefused = 10_000

// remember keeps for a while that a command was refused for what the studio is: a network that brings it a
// second time, later, does not carry it out then.
func (s *Service) remember(command string, err error) {
	var status huma.StatusError
	if errors.As(err, &status) && status.GetStatus() == http.StatusConflict && !errors.Is(err, errOvertaken) {
		s.refused.Add(command, err)
	}
}

// carryOut writes a command with its line of the journal, and publishes the facts.
func (s *Service) carryOut(
	ctx context.Context,
	kind string,
	who Who,
	run func(*change) (any, error),
) (*written, error) {
	out, c, err := s.written(ctx, kind, who, run)
	if err != nil {
		s.remember(who.CommandID, err)
		return nil, err
	}
	if out.Repeated == "" && c.after != nil {
		if err := c.after(ctx); err != nil {
			return nil, problem(err)
		}
	}
	return out, nil
}

func (s *Service) written(
	ctx context.Context,
	kind string,
	who Who,
	run func(*change) (any, error),
) (*written, *change, error) {
	defer s.situations.Writing()()
	minute, _, err := s.situations.Now(ctx)
	if err != nil {
		return nil, nil, problem(err)
	}
	var c *change
	command := store.Command{ID: who.CommandID, Kind: kind, Person: studio.ID(who.Person), Now: minute}
	done, err := s.store.Do(ctx, command, func(tx *store.Tx) (any, error) {
		at, err := s.situations.At(ctx, tx)
		if err != nil {
			return nil, err
		}
		c = &change{Tx: tx, at: momentOf(at), asker: AskerOf(ctx)}
		return run(c)
	})
	if err != nil {
		if c != nil && c.failed != nil {
			c.failed()
		}
		return nil, nil, overtakenOr(err)
	}
	topics := done.Topics
	if _, err := s.situations.Recorded(ctx, done.N, topics); err != nil {
		slog.Error("what was recorded could not be published", "n", done.N, "error", err)
	}
	out := &written{ContentType: "application/json", Body: done.Answer}
	if done.Repeated {
		out.Repeated = "true"
		return out, c, nil
	}
	s.listen(Event{Name: EventFacts, N: done.N, Topics: topics})
	return out, c, nil
}

// patience is how long a wish waits for the plan that it is about.
const patience = 10 * time.Second

// errOvertaken says that something was recorded between reasoning and writing.
var errOvertaken = errors.New("something else was recorded just now; try again")

// overtaken is a problem that still tells a wish to be prepared anew.
type overtakenProblem struct{ huma.StatusError }

func (overtakenProblem) Unwrap() error { return errOvertaken }

func overtakenOr(err error) error {
	if errors.Is(err, errOvertaken) {
		var status huma.StatusError
		errors.As(problem(err), &status)
		return overtakenProblem{status}
	}
	return problem(err)
}
