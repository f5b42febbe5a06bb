package api

import (
	"context"
	"encoding/json"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/store"
)

// PinBody is how the lead wants a task: with whom, when, or both; neither lets it go.
type PinBody struct {
	Person studio.ID      `json:"person,omitempty"`
	Start  *studio.Minute `json:"start,omitempty"`
}

// PinAnswer is what a pin comes to.
type PinAnswer struct {
	N        int64      `json:"n"`
	Trial    plan.Trial `json:"trial"`
	Why      string     `json:"why,omitempty" doc:"why it cannot hold"`
	Names    []Named    `json:"names" doc:"of the orders that change"`
	Accepted bool       `json:"accepted" doc:"true where nothing moves, so that it is in force at once"`
}

func (s *Service) registerPins(to huma.API) {
	type tryPin struct {
		Task string `path:"task"`
		Body PinBody
	}
	huma.Register(to, huma.Operation{OperationID: "try-pin", Method: http.MethodPost, Path: "/api/tasks/{task}/try", Summary: "What would move if a task were pinned; nothing is written",
		Errors: []int{404, 422}}, func(ctx context.Context, in *tryPin) (*body[PinAnswer], error) {
		at, err := s.situation(ctx)
		if err != nil {
			return nil, problem(err)
		}
		answer, err := at.tryPin(studio.ID(in.Task), in.Body)
		if err != nil {
			return nil, problem(err)
		}
		return &body[PinAnswer]{answer}, nil
	})
	type setPin struct {
		Who
		Task string `path:"task"`
		Body PinBody
	}
	command(to, http.MethodPost, "/tasks/{task}/pin", "pin-task", "Pin a task to a person, a time or both, or let it go", func(ctx context.Context, in *setPin) (PinAnswer, error) {
		return facts(ctx, s, func(at *situation) (PinAnswer, error) {
			done, err := s.do(ctx, in.Who, "task pinned", func(tx *store.Tx) (any, error) {
				if err := at.unchanged(tx); err != nil {
					return nil, err
				}
				return at.pin(tx, studio.ID(in.Task), in.Body)
			})
			var answer PinAnswer
			if err == nil {
				err = json.Unmarshal(done.Answer, &answer)
				answer.N = done.N
			}
			return answer, err
		})
	})
}

// tryPin checks a pin and plans with it, on top of all that is wished.
func (at *situation) tryPin(task studio.ID, b PinBody) (PinAnswer, error) {
	a := at.latestAnswer()
	t := a.tasks[task]
	if t == nil {
		return PinAnswer{}, store.NotFound{Thing: "the task"}
	}
	if t.Person == "" || t.State == studio.TaskDone {
		return PinAnswer{}, huma.Error422UnprocessableEntity("only work that is not done can be pinned; this waits by itself, or is done")
	}
	if t.State != studio.TaskPlanned {
		b.Start = nil // it has begun; only who goes on with it is open
	}
	if b.Start != nil && *b.Start < at.now {
		return PinAnswer{}, huma.Error422UnprocessableEntity("this time has passed", &huma.ErrorDetail{Location: "body.start", Message: "is in the past", Value: *b.Start})
	}
	if b.Person != "" {
		if err := at.knows(string(b.Person)); err != nil {
			return PinAnswer{}, err
		}
	}
	trial, err := plan.TryPin(a.doc, a.count, a.plan, studio.Pin{Task: task, Person: b.Person, Start: b.Start})
	answer := PinAnswer{Trial: trial, Names: []Named{}}
	for _, o := range trial.Differences.Orders {
		answer.Names = append(answer.Names, Named{ID: o.Order, Name: at.orderName(o.Order)})
	}
	if trial.Why != nil {
		answer.Why = at.worded(a, *trial.Why)
	}
	return answer, err
}

// worded says why a task has no place, with times and names as people read them.
func (at *situation) worded(a *answer, u studio.Unplaced) string {
	why := string(u.Reason)
	if u.Earliest != nil {
		why = "it can begin " + at.calendar.Time(*u.Earliest).Format("Mon 2 Jan 15:04") + " at the earliest"
	}
	if by := a.tasks[u.By]; by != nil {
		b := a.block(*by)
		why += ", after " + b.Name + ", " + b.Of
	}
	return why
}

// pin writes a pin as a wish, or as accepted where it moves nothing and nothing else is
// wished. One that cannot hold is refused with the reason.
func (at *situation) pin(tx *store.Tx, task studio.ID, b PinBody) (PinAnswer, error) {
	answer, err := at.tryPin(task, b)
	if err != nil {
		return answer, err
	}
	a := at.latestAnswer()
	block := a.block(*a.tasks[task])
	if !answer.Trial.Holds {
		return answer, studio.Refuse("%s, %s cannot be pinned so: %s", block.Name, block.Of, answer.Why)
	}
	pin := &studio.Pin{Task: task, Person: b.Person, Start: b.Start}
	tx.Summary = block.Name + ", " + block.Of + ": pinned"
	if b.Person == "" && b.Start == nil {
		pin, tx.Summary = nil, block.Name+", "+block.Of+": let go"
	}
	moves := answer.Trial.Differences
	answer.Accepted = at.wished == nil && len(moves.Moved)+len(moves.Added)+len(moves.Gone) == 0
	return answer, tx.Pin(task, pin, answer.Accepted)
}
