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
	command(to, http.MethodPost, "/tasks/{task}/try", "try-pin", "What would move if a task were pinned; nothing is written", func(ctx context.Context, in *tryPin) (PinAnswer, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return PinAnswer{}, err
		}
		return at.tryPin(studio.ID(in.Task), in.Body)
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
	if a.tasks[task] == nil {
		return PinAnswer{}, store.NotFound{Thing: "the task"}
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
		why += ", after " + a.named(by.Lot, by.Step)
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
	name := a.named(a.tasks[task].Lot, a.tasks[task].Step)
	if !answer.Trial.Holds {
		return answer, studio.Refuse("%s cannot be pinned so: %s", name, answer.Why)
	}
	pin := &answer.Trial.Pin
	tx.Summary = name + ": pinned"
	if b.Person == "" && b.Start == nil {
		pin, tx.Summary = nil, name+": let go"
	}
	answer.Accepted = at.wished == nil && answer.Trial.Differences.Nothing()
	return answer, tx.Pin(task, pin, answer.Accepted)
}
