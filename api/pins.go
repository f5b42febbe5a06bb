package api

import (
	"context"

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
	N        int64         `json:"n"`
	Trial    plan.Trial    `json:"trial"`
	Why      *UnplacedView `json:"why,omitempty" doc:"why it cannot hold"`
	Names    []Named       `json:"names" doc:"of the orders that change"`
	Accepted bool          `json:"accepted" doc:"true where nothing moves, so that it is in force at once"`
}

func (s *Service) registerPins(to huma.API) {
	type tryPin struct {
		Task string `path:"task"`
		Body PinBody
	}
	beside(
		s,
		to,
		post("/tasks/{task}/try", "try-pin", "", "What would move if a task were pinned; nothing is written"),
		func(ctx context.Context, at *moment, in *tryPin) (PinAnswer, error) {
			return at.tryPin(ctx, studio.ID(in.Task), in.Body)
		},
	)
	type setPin struct {
		Who
		Task string `path:"task"`
		Body PinBody
	}
	wish(s, to, post("/tasks/{task}/pin", "pin-task", "task pinned",
		"Pin a task to a person, a time or both, or let it go"),
		func(ctx context.Context, at *moment, in *setPin) (func(*change) (PinAnswer, error), error) {
			answer, pin, summary, err := at.pin(ctx, studio.ID(in.Task), in.Body)
			return func(c *change) (PinAnswer, error) {
				c.Summary, answer.N = summary, c.N()
				return answer, c.Pin(studio.ID(in.Task), pin, answer.Accepted)
			}, err
		})
}

// tryPin checks a pin and plans with it, on top of all that is wished.
func (at *moment) tryPin(ctx context.Context, task studio.ID, b PinBody) (PinAnswer, error) {
	a := at.latestAnswer()
	if a.Tasks[task] == nil {
		return PinAnswer{}, store.NotFound{Thing: "the task"}
	}
	if b.Person != "" {
		if err := at.refuseStranger(string(b.Person)); err != nil {
			return PinAnswer{}, err
		}
	}
	trial, err := plan.TryPin(a.Doc, a.Count, a.Plan, studio.Pin{Task: task, Person: b.Person, Start: b.Start},
		ctx.Done())
	answer := PinAnswer{Trial: trial, Names: []Named{}}
	for _, o := range trial.Differences.Orders {
		answer.Names = append(answer.Names, Named{ID: o.Order, Name: at.orderName(o.Order)})
	}
	if trial.Why != nil {
		why := a.unplaced(*trial.Why)
		answer.Why = &why
	}
	return answer, err
}

// pin is a pin to be written as a wish, or as accepted where it moves nothing and nothing
// else is wished. One that cannot hold is refused with the reason.
func (at *moment) pin(
	ctx context.Context,
	task studio.ID,
	b PinBody,
) (answer PinAnswer, pin *studio.Pin, summary string, err error) {
	if answer, err = at.tryPin(ctx, task, b); err != nil {
		return answer, nil, "", err
	}
	a := at.latestAnswer()
	name := a.named(a.Tasks[task].Lot, a.Tasks[task].Step)
	if !answer.Trial.Holds {
		return answer, nil, "", huma.Error409Conflict(name+" cannot be pinned so",
			&huma.ErrorDetail{Message: string(answer.Why.Reason), Location: "body", Value: answer.Why})
	}
	answer.Accepted = at.wished == nil && answer.Trial.Differences.Nothing()
	if b.Person == "" && b.Start == nil {
		return answer, nil, name + ": let go", nil
	}
	return answer, &answer.Trial.Pin, name + ": pinned", nil
}
