package api

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/store"
)

// Proposal is what awaits acceptance: what the lead wishes, and one or several plans for
// it, beside the one in force.
type Proposal struct {
	N           int64            `json:"n" doc:"the journal number it is based on"`
	Waits       bool             `json:"waits" doc:"true when something awaits acceptance"`
	Pending     []OrderView      `json:"pending"`
	Pins        []PinWish        `json:"pins" doc:"tasks that the lead wishes otherwise"`
	Choices     []Choice         `json:"choices"`
	Chosen      string           `json:"chosen" doc:"the choice that the differences are of"`
	Differences plan.Differences `json:"differences"`
	Cards       []TaskCard       `json:"cards" doc:"the first of the tasks that the differences name"`
}

// atOnce is the choice of a plan that was repaired as soon as the wishes were there.
const atOnce = "proposed"

// Choice is one of the plans that may be put in force.
type Choice struct {
	ID    string `json:"id" doc:"as the plan is asked for"`
	How   string `json:"how" enum:"repaired,searched,anew,earlier,promised"`
	Steps int64  `json:"steps" doc:"of the search"`
	plan.Change
}

// PinWish is what the lead wishes of a task and is not accepted yet.
type PinWish struct {
	Task studio.ID   `json:"task"`
	Name string      `json:"name"`
	Pin  *studio.Pin `json:"pin,omitempty" doc:"nil where it is let go"`
}

// mostMoves is how many tasks that move are listed with all that is known of them.
const mostMoves = 30

// choices are the plans that may be accepted, the one made at once first.
func (at *moment) choices() []Choice {
	var all []Choice
	if at.wished != nil {
		all = append(all, at.choice(atOnce, "repaired", 0, at.wished))
	}
	for _, o := range at.offers {
		all = append(all, at.choice(string(o.ID), o.How, o.Steps, o.answer))
	}
	return all
}

func (at *moment) choice(id, how string, steps int64, a *answer) Choice {
	return Choice{ID: id, How: how, Steps: steps, Change: plan.Sum(at.inForce.Plan, a.Plan)}
}

// pinWishes are the tasks that are pinned otherwise in what is wished than in what is
// accepted.
func (at *moment) pinWishes() []PinWish {
	wishes := []PinWish{}
	if at.wished == nil {
		return wishes
	}
	add := func(task studio.ID, now *studio.Pin) {
		w := PinWish{Task: task, Pin: now}
		if t := at.latestAnswer().Tasks[task]; t != nil {
			w.Name = at.latestAnswer().named(t.Lot, t.Step)
		}
		wishes = append(wishes, w)
	}
	for i := range at.wished.Doc.Pins {
		p := &at.wished.Doc.Pins[i]
		if was := at.inForce.Doc.Pinned(p.Task); was == nil || !p.Same(*was) {
			add(p.Task, p)
		}
	}
	for _, p := range at.inForce.Doc.Pins {
		if at.wished.Doc.Pinned(p.Task) == nil {
			add(p.Task, nil)
		}
	}
	return wishes
}

// proposed is what is recorded that makes another proposal.
var proposed = []string{"orders", "work", "stores", "wishes", "air", "clock"}

func (s *Service) registerProposal(to huma.API) {
	type which struct {
		Plan string `query:"plan" doc:"the choice to show; empty for the best"`
	}
	kept(s, to, get("/proposal", "get-proposal", "The plans that await acceptance"),
		shows{topics: proposed, planned: true},
		func(ctx context.Context, at *moment, in *which) (Proposal, error) {
			p := Proposal{N: at.N, Waits: at.Waits(), Pending: []OrderView{}, Pins: at.pinWishes(),
				Choices: append([]Choice{}, at.choices()...), Cards: []TaskCard{},
				Differences: plan.Differences{Moved: []plan.Move{}, Added: []studio.ID{}, Gone: []studio.ID{},
					Orders: []plan.OrderChange{}}}
			p.Chosen = in.Plan
			if !slices.ContainsFunc(p.Choices, func(c Choice) bool { return c.ID == p.Chosen }) {
				p.Chosen, _ = at.bestChoice()
			}
			a, err := s.asked(ctx, at, p.Chosen)
			if err != nil {
				return Proposal{}, err
			}
			if !p.Waits {
				return p, nil
			}
			p.Differences = plan.Compare(at.inForce.Plan, a.Plan)
			for _, v := range at.orderViews() {
				if v.Pending {
					p.Pending = append(p.Pending, v)
				}
			}
			for _, m := range p.Differences.Moved[:min(mostMoves, len(p.Differences.Moved))] {
				p.Cards = append(p.Cards, a.card(*a.Tasks[m.Task]))
			}
			return p, nil
		})
	type accept struct {
		Who
		Body struct {
			N    int64  `json:"n" doc:"the base of the proposal that was seen"`
			Plan string `json:"plan,omitempty" doc:"the choice; empty for the best"`
		}
	}
	wish(s, to, post("/proposal/accept", "accept-proposal", "plan accepted", "Put a proposed plan in force"),
		func(ctx context.Context, at *moment, in *accept) (func(*change) (Moved, error), error) {
			if !at.Waits() {
				return nil, huma.Error409Conflict("nothing awaits acceptance; the plan in force knows every order")
			}
			if in.Body.N > at.N || at.ChangedSince(always) > in.Body.N || at.ChangedSince(proposed) > in.Body.N {
				return nil, huma.Error409Conflict(
					"something happened since this proposal was made; it has been planned anew, look at it again",
				)
			}
			chosen := in.Body.Plan
			if chosen == "" {
				chosen, _ = at.bestChoice()
			}
			a, err := s.asked(ctx, at, chosen)
			if err != nil {
				return nil, err
			}
			return func(c *change) (Moved, error) {
				c.Summary = "Proposed plan accepted"
				return Moved{c.N()}, at.accept(c.Tx, a)
			}, nil
		})
	type drop struct {
		Who
		ID string `path:"id"`
	}
	fact(s, to, post("/proposal/{id}/drop", "drop-offer", "offer dropped",
		"Forget a plan that was searched for or gone back to"),
		func(c *change, in *drop) (Moved, error) {
			c.Summary = "An offered plan is not wanted"
			return Moved{c.N()}, c.DropOffer(studio.ID(in.ID))
		})
	type back struct {
		Who
		Version int64 `path:"version"`
	}
	wish(s, to, post("/plan/versions/{version}/propose", "propose-version", "version proposed",
		"Propose to go back to an earlier version of the plan"),
		func(ctx context.Context, _ *moment, in *back) (func(*change) (Moved, error), error) {
			was, err := s.store.PlanVersion(ctx, in.Version)
			if err != nil {
				return nil, err
			}
			return func(c *change) (Moved, error) {
				c.Summary = fmt.Sprintf("Version %d of the plan is proposed again", in.Version)
				return Moved{
						c.N(),
					}, c.PutOffer(
						store.Offer{ID: newID(), Base: c.Base(), How: store.Earlier, Plan: was},
					)
			}, nil
		})
}

// bestChoice is the best of the plans that may be accepted; the latest answer where there
// is none.
func (at *moment) bestChoice() (id string, _ *answer) {
	ids, answers := []string{}, []*answer{}
	if at.wished != nil {
		ids, answers = append(ids, atOnce), append(answers, at.wished)
	}
	for _, o := range at.offers {
		ids, answers = append(ids, string(o.ID)), append(answers, o.answer)
	}
	best := plan.Best(answers, func(a *answer) *studio.Plan { return a.Plan })
	if best < 0 {
		return "", at.latestAnswer()
	}
	return ids[best], answers[best]
}

// accept makes everything that is wished, and a plan for it, what is in force.
func (at *moment) accept(tx *store.Tx, a *answer) error {
	if err := errors.Join(tx.AcceptOrders(), tx.AcceptWishes(), tx.PutInForce(a.Plan), tx.DropOffers()); err != nil {
		return err
	}
	beyond := count.Beyond(at.latestAnswer().Doc, a.Plan.Divided)
	for _, group := range slices.Sorted(maps.Keys(beyond)) {
		if err := tx.Divide(beyond[group]); err != nil {
			return err
		}
	}
	if at.wished == nil {
		return nil
	}
	return tx.Book(studio.WorkLot{}, count.Reservations(a.Doc, a.Count))
}
