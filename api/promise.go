package api

import (
	"context"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/cake"
	"bractum/core/cost"
	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/promise"
	"bractum/core/scene"
	"bractum/core/studio"
	"bractum/situation"
	"bractum/store"
)

// PromiseView is whether an order can be taken on.
type PromiseView struct {
	N        int64            `json:"n" doc:"the journal number it was answered for"`
	Verdict  promise.Verdict  `json:"verdict" enum:"yes,if,not"`
	Outcome  studio.Outcome   `json:"outcome"`
	Leaves   studio.Minute    `json:"leaves" doc:"the minute at which it was asked to leave"`
	Earliest *studio.WallTime `json:"earliest,omitempty" doc:"when it could leave at the earliest, nobody else late by it"`
	Nearest  *studio.Minute   `json:"nearest,omitempty" doc:"the same as a minute"`
	Fewer    []FewerView      `json:"fewer" doc:"numbers that could be ready by the date that was asked"`
	Buys     []OrderBuy       `json:"buys" doc:"what has to be ordered for it"`
	Chain    ChainView        `json:"chain"`
	Work     []studio.Span    `json:"work" doc:"when somebody is at it"`
	Lies     []studio.Span    `json:"lies" doc:"when something of it dries or rests"`
	Unplaced []UnplacedView   `json:"unplaced"`
	Takes    []TakenView      `json:"takes" doc:"other orders that lose slack by it and stay in time"`
	Harms    []TakenView      `json:"harms" doc:"other orders that would be late by it, or later"`
	Moves    plan.Change      `json:"moves"`
	Bill     BillView         `json:"bill"`
	Notes    []count.Note     `json:"notes"`
	Findings []cake.Finding   `json:"findings" doc:"what is amiss with the places on its cakes"`
	Met      []AllergyMet     `json:"met" doc:"what its allergies name and its flowers would hold"`
	Asks     []string         `json:"uncompared" doc:"its allergies that no material and no list names"`
	Searched bool             `json:"searched" doc:"true once something better was looked for than what comes about at once"`
	ID       string           `json:"id" doc:"by which an order is entered as it was answered"`
}

// FewerView is how many of a line could be ready.
type FewerView struct {
	Line  int    `json:"line" doc:"of the lines that were asked for, from 0"`
	Name  string `json:"name"`
	Asked int64  `json:"asked"`
	Could int64  `json:"could"`
}

// TakenView is how another order stands without and with the one that is asked for.
type TakenView struct {
	Named
	Was *studio.Outcome `json:"was,omitempty"`
	Is  *studio.Outcome `json:"is,omitempty"`
}

// BillView is what an order costs, with names.
type BillView struct {
	cost.Bill
	Hours    []HoursView `json:"hours"`
	Used     []UsedView  `json:"materials"`
	Made     []MadeView  `json:"made"`
	Unpriced []string    `json:"unpriced" doc:"names of materials whose price nobody has said"`
	Unrated  []string    `json:"unrated" doc:"names of who works for it and whose hour's cost nobody has said"`
}

// HoursView is somebody's time for an order.
type HoursView struct {
	cost.Hours
	Name string `json:"name"`
}

// UsedView is how much of a material an order takes.
type UsedView struct {
	cost.Used
	Name string      `json:"name"`
	Unit studio.Unit `json:"unit"`
}

// MadeView is what an order costs in one of the things that are made for it.
type MadeView struct {
	cost.Made
	Name string `json:"name"`
}

// found is a plan that was found for an order that was asked for.
type found struct {
	base   int64
	order  studio.Order
	plan   *studio.Plan
	answer *answer // that the plan makes
	// changes are those that help it, where it was planned with some
	changes []scene.If
}

const (
	// mostPromised is how many such plans are known, the latest.
	mostPromised = 32
	// mostLooking is for how long all of it is looked for by the date that was asked, mostAnswering for how long other
	// dates and numbers besides.
	mostLooking   = 1500 * time.Millisecond
	mostAnswering = 6 * time.Second
)

// asksBody is an order that is asked for.
type asksBody struct {
	Body struct {
		OrderBody
		ID studio.ID `json:"id,omitempty" doc:"of an order or a quote that there is already"`
	}
}

func (s *Service) registerPromise(to huma.API) {
	typing(s, to, post("/promise", "ask-promise", "",
		"Whether an order can be taken on, from what comes about at once; nothing is written"),
		func(ctx context.Context, at *moment, in *asksBody) (PromiseView, error) {
			q, o, err := s.question(ctx, at, in.Body.OrderBody, in.Body.ID)
			if err != nil {
				return PromiseView{}, err
			}
			a, err := promise.Ask(q)
			if err != nil {
				return PromiseView{}, err
			}
			return s.promiseView(at, o, a), nil
		})
	beside(s, to, post("/promise/look", "look-promise", "",
		"The same after something better was looked for: with the nearest date and the largest numbers"),
		func(ctx context.Context, at *moment, in *asksBody) (PromiseView, error) {
			q, o, err := s.question(ctx, at, in.Body.OrderBody, in.Body.ID)
			if err != nil {
				return PromiseView{}, err
			}
			until, cancel := context.WithTimeout(ctx, mostLooking)
			defer cancel()
			longest, end := context.WithTimeout(ctx, mostAnswering)
			defer end()
			a, err := promise.Look(
				q,
				promise.Search{Steps: promise.UntilStopped, Stop: until.Done(), End: longest.Done(),
					Tell: func(stage promise.Stage) { s.limit.tell(slices.Index(stages, stage), len(stages)) }},
			)
			if err != nil {
				return PromiseView{}, err
			}
			return s.promiseView(at, o, a), nil
		})
}

// TogetherView are orders that can be taken on together.
type TogetherView struct {
	promise.Together
	Names []string `json:"names"`
}

func (s *Service) registerWhich(to huma.API) {
	type which struct {
		Body struct {
			Quotes []studio.ID `json:"quotes" minItems:"2" maxItems:"6"`
		}
	}
	beside(s, to, post("/promise/which", "weigh-quotes", "",
		"Which of several quotes can be taken on together; nothing is written"),
		func(ctx context.Context, at *moment, in *which) ([]TogetherView, error) {
			a := at.latestAnswer()
			sets, err := promise.Which(a.Doc, a.Plan, at.inForce.Plan, in.Body.Quotes, ctx.Done(), s.limit.tell)
			if err != nil {
				return nil, err
			}
			views := []TogetherView{}
			for _, set := range sets {
				v := TogetherView{Together: set, Names: []string{}}
				for _, id := range set.Orders {
					v.Names = append(v.Names, at.orderName(id))
				}
				views = append(views, v)
			}
			return views, nil
		})
}

// stages are those of looking for a promise.
var stages = []promise.Stage{promise.ForAll, promise.ForLater, promise.ForFewer}

// question is what is asked about an order as it was typed, beside everything that is wished already.
func (s *Service) question(ctx context.Context, at *moment, body OrderBody, id studio.ID) (
	promise.Question, studio.Order, error) {
	doc := at.latestAnswer().Doc
	if id == "" {
		id = newID()
	}
	o, err := body.order(id, doc)
	if err != nil {
		return promise.Question{}, o, err
	}
	with, err := promise.With(doc, o)
	q := promise.Question{Doc: with, Order: o.ID, Before: at.latestAnswer().Plan, From: at.inForce.Plan,
		Abandon: ctx.Done()}
	if f, known := s.promised.Get(body.Promise); known && f.base == at.N {
		q.Known = f.plan
	}
	return q, o, err
}

// promiseView is an answer with its names, and keeps its plan for when the order is entered by it.
func (s *Service) promiseView(at *moment, o studio.Order, a *promise.Answer) PromiseView {
	planned := &answer{situation.NewAnswer(a.Doc, at.Calendar, a.Counted, a.Plan)}
	v := PromiseView{N: at.N, Verdict: a.Verdict, Outcome: a.Outcome, Earliest: a.Earliest, Fewer: []FewerView{},
		Buys: []OrderBuy{}, Chain: planned.chainView(a.Chain), Work: a.Work, Lies: a.Lies, Unplaced: []UnplacedView{},
		Takes: at.taken(a.Takes), Harms: at.taken(a.Harms), Moves: a.Moves, Bill: planned.billView(a.Bill),
		Notes: a.Notes, Searched: a.Searched,
		ID: string(newID())}
	v.Met, v.Asks = planned.metAnew(o)
	v.Findings = cake.Findings(a.Doc, planned.Book, o)
	if v.Leaves = at.Calendar.Minute(o.Leaves); a.Earliest != nil {
		nearest := at.Calendar.Minute(*a.Earliest)
		v.Nearest = &nearest
	}
	for _, f := range a.Fewer {
		i := slices.IndexFunc(o.Lines, func(l studio.OrderLine) bool { return l.ID == f.Line })
		v.Fewer = append(v.Fewer, FewerView{Line: i, Asked: f.Asked, Could: f.Could,
			Name: planned.Book.Recipe(o.Lines[i].Recipe).Name})
	}
	for _, b := range a.Buys {
		v.Buys = append(v.Buys, planned.orderBuy(b))
	}
	for _, u := range a.Unplaced[:min(len(a.Unplaced), mostUnplaced)] {
		v.Unplaced = append(v.Unplaced, planned.unplaced(u))
	}
	s.promised.Add(v.ID, found{base: at.N, order: o, plan: a.Plan, answer: planned})
	return v
}

func (at *moment) taken(all []promise.Taken) []TakenView {
	views := []TakenView{}
	for _, t := range all {
		views = append(views, TakenView{Named: Named{ID: t.Order, Name: at.orderName(t.Order)}, Was: t.Was, Is: t.Is})
	}
	return views
}

// billView is a bill with the names of what stands in it.
func (a *answer) billView(b cost.Bill) BillView {
	v := BillView{Bill: b, Hours: []HoursView{}, Used: []UsedView{}, Made: []MadeView{}, Unpriced: []string{},
		Unrated: []string{}}
	for _, h := range b.Hours {
		v.Hours = append(v.Hours, HoursView{Hours: h, Name: a.person(h.Person)})
	}
	for _, u := range b.Used {
		used := UsedView{Used: u, Name: a.material(u.Material)}
		for i := range a.Doc.Materials {
			if m := &a.Doc.Materials[i]; m.ID == u.Material {
				used.Unit = m.Unit
			}
		}
		v.Used = append(v.Used, used)
	}
	for _, m := range b.Made {
		v.Made = append(
			v.Made,
			MadeView{Made: m, Name: a.Book.Of(studio.Made{Recipe: m.Recipe, Variant: m.Variant}).Name},
		)
	}
	for _, m := range b.Unpriced {
		v.Unpriced = append(v.Unpriced, a.material(m))
	}
	for _, p := range b.Unrated {
		v.Unrated = append(v.Unrated, a.person(p))
	}
	return v
}

// promisedAs is the id under which an order is entered that was asked for: it was answered by it, and by those of its
// lines.
func (s *Service) promisedAs(body *OrderBody, doc *studio.Document) studio.ID {
	f, known := s.promised.Get(body.Promise)
	if !known || slices.ContainsFunc(doc.Orders, func(o studio.Order) bool { return o.ID == f.order.ID }) {
		return newID()
	}
	for i := range body.Lines {
		if i < len(f.order.Lines) && body.Lines[i].ID == "" {
			body.Lines[i].ID = f.order.Lines[i].ID
		}
	}
	return f.order.ID
}

// offerPromised offers the plan that an order was answered by, beside what is planned as it is entered; of a quote
// nothing is planned.
func (s *Service) offerPromised(c *change, o studio.Order, id string) error {
	f, known := s.promised.Get(id)
	if !known || o.State != studio.OrderOpen {
		return nil
	}
	s.promised.Remove(id)
	return c.PutOffer(store.Offer{ID: newID(), Base: c.Base(), How: store.Promised, Steps: int64(f.plan.Steps),
		Plan: f.plan})
}
