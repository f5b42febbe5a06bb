package api

import (
	"cmp"
	"context"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/store"
)

// PlanView is some days of a plan, as lanes of people and places.
type PlanView struct {
	N        int64          `json:"n"`
	Version  int64          `json:"version"`
	Now      studio.Minute  `json:"now"`
	From     studio.Minute  `json:"from"`
	To       studio.Minute  `json:"to"`
	Ends     studio.Minute  `json:"ends" doc:"when the last task of the plan ends"`
	Blocks   []Block        `json:"blocks" doc:"what lies between from and to"`
	People   []PersonLane   `json:"people"`
	Places   []studio.Place `json:"places" doc:"those that the blocks use"`
	Open     studio.Hours   `json:"open" doc:"when anybody is at work"`
	Unplaced []UnplacedView `json:"unplaced" doc:"the first tasks that find no place of their own"`
	Without  int            `json:"without" doc:"all tasks without a place, those that wait for one of these among them"`
	Orders   []Promise      `json:"orders" doc:"the one that leaves first comes first"`
	Left     int64          `json:"left" doc:"tasks of the whole plan that are not done"`
	Lateness int64          `json:"weightedLateness"`
	Bound    *int64         `json:"bound,omitempty" doc:"the least weighted lateness that any plan can have"`
	Waits    bool           `json:"waits" doc:"true when a plan awaits acceptance"`
}

// Block is a task as it lies on the board.
type Block struct {
	ID       studio.ID        `json:"id"`
	Lot      studio.ID        `json:"lot"`
	Kind     string           `json:"kind" enum:"work,wait"`
	Name     string           `json:"name"`
	Glyph    string           `json:"glyph"`
	Of       string           `json:"of" doc:"the name of what is made"`
	Making   studio.Kind      `json:"making"`
	Colour   string           `json:"colour" doc:"swatch of the mix"`
	Quantity int64            `json:"quantity" doc:"pieces, units before a split, or milligrams of a mix, that come to this step and are not counted yet"`
	State    studio.TaskState `json:"state"`
	Person   studio.ID        `json:"person,omitempty"`
	From     studio.Minute    `json:"from" doc:"when it is begun, or gone on with"`
	To       studio.Minute    `json:"to"`
	Pauses   []studio.Span    `json:"pauses"`
	Holds    []studio.Held    `json:"holds"`
	Orders   []studio.ID      `json:"orders"`
	Pin      *studio.Pin      `json:"pin,omitempty"`
	Batch    *BatchView       `json:"batch,omitempty" doc:"of lots that are made for each other"`
}

// PersonLane is a maker with their working time over the plan's days.
type PersonLane struct {
	Named
	Hours studio.Hours `json:"hours"`
	Loads []plan.Load  `json:"loads" doc:"how full their days are"`
}

// UnplacedView is a task without a place, with its name and that of what stands in its way.
type UnplacedView struct {
	studio.Unplaced
	Name   string `json:"name" doc:"its step, and what is made"`
	ByName string `json:"byName,omitempty"`
}

func (a *answer) unplaced(u studio.Unplaced) UnplacedView {
	v := UnplacedView{Unplaced: u, Name: a.named(u.Lot, u.Step)}
	if by := a.Tasks[u.By]; by != nil {
		v.ByName = a.named(by.Lot, by.Step)
	}
	return v
}

// mostUnplaced is how many tasks without a place a plan is shown with.
const mostUnplaced = 20

// Promise is an order as the board shows it.
type Promise struct {
	Named
	Outcome studio.Outcome `json:"outcome"`
}

// ChainView is what sets an order's date, from its last task back to where it begins.
type ChainView struct {
	Order studio.ID  `json:"order"`
	Spent plan.Spent `json:"spent"`
	Links []LinkView `json:"links"`
}

// LinkView is a link of a chain with what a person wants to read of it.
type LinkView struct {
	plan.Link
	Name   string    `json:"name" doc:"its step, and what is made"`
	Person studio.ID `json:"person,omitempty"`
	Short  string    `json:"short,omitempty" doc:"the place, tool, machine, delivery, material or skill that was waited for"`
	// ToOrder is true of a material that is not on its way.
	ToOrder bool `json:"toOrder,omitempty" doc:"a material that is not on its way"`
}

// OfPlan says which plan is asked about.
type OfPlan struct {
	Of string `query:"of" doc:"the plan: empty for the one in force, proposed for that of all wishes, an id of an offered plan, or v and the number of an earlier version"`
}

// mostDays is how many days of a plan are given at once.
const mostDays = 14

// onTheBoard is what the board shows of what is recorded.
var onTheBoard = []string{"work", "orders", "wishes"}

func (s *Service) registerPlan(to huma.API) {
	type days struct {
		OfPlan
		From int64 `query:"from" doc:"a minute; 0 for the morning of today"`
		Days int64 `query:"days" minimum:"1" maximum:"14" default:"2"`
	}
	kept(s, to, get("/plan", "get-plan", "Who does what when, over some days"),
		shows{topics: onTheBoard, planned: true, now: true},
		func(ctx context.Context, at *moment, in *days) (PlanView, error) {
			a, err := s.asked(ctx, at, in.Of)
			if err != nil {
				return PlanView{}, err
			}
			from := studio.Minute(in.From)
			if in.From <= 0 {
				from = at.Calendar.At(at.Calendar.Date(at.Now), 0)
			}
			return a.view(at, studio.Span{From: from, To: from + 1440*studio.Minute(min(max(1, in.Days), mostDays))})
		})
	kept(
		s,
		to,
		get(
			"/plan/whole",
			"get-whole-plan",
			"A plan from today to its end: how full days are, and when orders are made",
		),
		shows{topics: onTheBoard, planned: true, now: true},
		func(ctx context.Context, at *moment, in *OfPlan) (WholePlan, error) {
			a, err := s.asked(ctx, at, in.Of)
			if err != nil {
				return WholePlan{}, err
			}
			return a.toItsEnd(at), nil
		},
	)
	type one struct {
		OfPlan
		Task string `path:"task"`
	}
	kept(s, to, get("/tasks/{task}", "get-task", "A task of a plan"),
		shows{topics: onTheBoard, planned: true, now: true},
		func(ctx context.Context, at *moment, in *one) (TaskCard, error) {
			a, err := s.asked(ctx, at, in.Of)
			if err != nil {
				return TaskCard{}, err
			}
			t := a.Tasks[studio.ID(in.Task)]
			if t == nil {
				return TaskCard{}, store.NotFound{Thing: "the task"}
			}
			return a.card(*t), nil
		})
	type order struct {
		OfPlan
		ID string `path:"id"`
	}
	beside(s, to, get("/orders/{id}/chain", "get-chain", "What sets an order's date"),
		func(ctx context.Context, at *moment, in *order) (ChainView, error) {
			a, err := s.asked(ctx, at, in.Of)
			if err != nil {
				return ChainView{}, err
			}
			return a.chain(studio.ID(in.ID))
		})
	beside(s, to, get("/plan/scarce", "get-scarce", "What is scarcest in a plan, and what one more of it would give"),
		func(ctx context.Context, at *moment, in *OfPlan) ([]ScarceView, error) {
			a, err := s.asked(ctx, at, in.Of)
			if err != nil {
				return nil, err
			}
			return a.scarce(ctx, s.limit.tell)
		})
	read(to, get("/plan/versions", "list-plan-versions", "Versions of the plan in force, newest first"),
		func(ctx context.Context, _ *none) ([]store.Version, error) {
			return s.store.PlanVersions(ctx, 40)
		})
}

// asked is the plan that a question is about.
func (s *Service) asked(ctx context.Context, at *moment, of string) (*answer, error) {
	switch {
	case of == "":
		return at.inForce, nil
	case of == "proposed":
		return at.latestAnswer(), nil
	case of[0] == 'v':
		return s.earlier(ctx, at, of[1:])
	}
	for i := range at.offers {
		if string(at.offers[i].ID) == of {
			return at.offers[i].answer, nil
		}
	}
	return nil, store.NotFound{Thing: "this plan"}
}

// WholePlan is a plan from today to its end, without its tasks.
type WholePlan struct {
	From   studio.Minute `json:"from" doc:"the morning of today"`
	To     studio.Minute `json:"to" doc:"the end of its last day"`
	People []PersonLoads `json:"people"`
	Orders []OrderBand   `json:"orders" doc:"the one that is wanted first comes first"`
}

// PersonLoads are how full a person's days are.
type PersonLoads struct {
	Named
	Loads []plan.Load `json:"loads"`
}

// OrderBand is when an order is made.
type OrderBand struct {
	Promise
	Begins *studio.Minute `json:"begins,omitempty" doc:"when the first of what is still to do for it is done"`
}

// toItsEnd is a plan from today to its end. It takes time proportional to the tasks.
func (a *answer) toItsEnd(at *moment) WholePlan {
	today := at.Calendar.Date(at.Now)
	v := WholePlan{From: at.Calendar.At(today, 0), People: []PersonLoads{}, Orders: []OrderBand{}}
	last := at.Now
	begins := map[studio.ID]studio.Minute{}
	for _, t := range a.Plan.Tasks {
		last = max(last, t.End)
		if t.State == studio.TaskDone || t.Person == "" {
			continue
		}
		for _, order := range a.OrdersOf(t.Lot) {
			if first, known := begins[order]; !known || t.Begin() < first {
				begins[order] = t.Begin()
			}
		}
	}
	for _, outcome := range a.Plan.Orders {
		last = max(last, outcome.ReadyBy)
		band := OrderBand{
			Promise: Promise{Named: Named{ID: outcome.Order, Name: at.orderName(outcome.Order)}, Outcome: outcome},
		}
		if first, known := begins[outcome.Order]; known {
			band.Begins = &first
		}
		v.Orders = append(v.Orders, band)
	}
	slices.SortStableFunc(
		v.Orders,
		func(x, y OrderBand) int { return cmp.Compare(x.Outcome.ReadyBy, y.Outcome.ReadyBy) },
	)
	v.To = at.Calendar.At(at.Calendar.Date(last).Next(), 0)
	loads := plan.PeopleLoads(a.Doc, at.Calendar, a.Plan, studio.Span{From: v.From, To: v.To})
	for _, p := range a.Doc.People {
		v.People = append(v.People, PersonLoads{Named{ID: p.ID, Name: p.Name}, append([]plan.Load{}, loads[p.ID]...)})
	}
	return v
}

// view is some days of a plan.
func (a *answer) view(at *moment, span studio.Span) (PlanView, error) {
	loads := plan.PeopleLoads(a.Doc, at.Calendar, a.Plan, studio.Span{From: span.From - 1440, To: span.To})
	v := PlanView{N: at.N, Version: at.Version, Now: at.Now, From: span.From, To: span.To, Ends: at.Now,
		Blocks: []Block{}, People: []PersonLane{},
		Places: []studio.Place{}, Unplaced: []UnplacedView{}, Without: len(a.Plan.Unplaced),
		Orders: []Promise{}, Lateness: a.Plan.Objective.Lateness,
		Bound: a.Plan.Bound, Waits: at.Waits()}
	for _, u := range a.Plan.Unplaced {
		if u.Reason == studio.AfterGone {
			continue
		}
		if len(v.Unplaced) == mostUnplaced {
			break
		}
		v.Unplaced = append(v.Unplaced, a.unplaced(u))
	}
	used := map[studio.ID]bool{}
	for _, t := range a.Plan.Tasks {
		v.Ends = max(v.Ends, t.End)
		if t.State != studio.TaskDone && t.Person != "" {
			v.Left++
		}
		until := t.End
		for _, h := range t.Holds {
			until = max(until, h.To)
		}
		if t.Start >= span.To || until <= span.From {
			continue
		}
		for _, h := range t.Holds {
			used[h.Place] = true
		}
		v.Blocks = append(v.Blocks, a.block(t))
	}
	for _, p := range a.Doc.Places {
		if used[p.ID] {
			v.Places = append(v.Places, p)
		}
	}
	var all []studio.Hours
	for _, p := range a.Doc.People {
		hours := studio.HoursOf(p, at.Calendar, max(0, span.From-1440), span.To)
		all = append(all, hours)
		lane := PersonLane{
			Named: Named{ID: p.ID, Name: p.Name},
			Hours: append(studio.Hours{}, hours...),
			Loads: []plan.Load{},
		}
		lane.Loads = append(lane.Loads, loads[p.ID]...)
		v.People = append(v.People, lane)
	}
	v.Open = append(studio.Hours{}, studio.Together(all...)...)
	for _, outcome := range a.Plan.Orders {
		v.Orders = append(
			v.Orders,
			Promise{Named: Named{ID: outcome.Order, Name: at.orderName(outcome.Order)}, Outcome: outcome},
		)
	}
	slices.SortStableFunc(
		v.Orders,
		func(x, y Promise) int { return cmp.Compare(x.Outcome.ReadyBy, y.Outcome.ReadyBy) },
	)
	return v, nil
}

// named is what a step of a lot is called: the step, and what is made.
func (a *answer) named(lot studio.ID, step string) string {
	r := a.Book.Of(a.Lots[lot].Made())
	s, _, _, _ := r.TaskOf(step)
	return s.Name + ", " + r.Name
}

// block is a task as it lies on the board.
func (a *answer) block(t studio.Task) Block {
	l := *a.Lots[t.Lot]
	r := a.Book.Of(l.Made())
	step, _, _, _ := r.TaskOf(t.Step)
	b := Block{ID: t.ID, Lot: t.Lot, Kind: "wait", Name: step.Name, Glyph: "wait", Of: r.Name, Making: r.Kind,
		Quantity: a.Doc.Begun(l).Left(r, t.Step), State: t.State,
		Person: t.Person, From: t.Begin(), To: t.End,
		Pauses: append([]studio.Span{}, t.Pauses...), Holds: append([]studio.Held{}, t.Holds...),
		Orders: append([]studio.ID{}, a.OrdersOf(t.Lot)...), Pin: a.Doc.Pinned(t.ID)}
	if t.State == studio.TaskDone {
		b.From = t.Start
	}
	if step.Work != nil {
		b.Kind, b.Glyph = "work", step.Work.Glyph
	}
	b.Colour, _ = a.swatch(l.Made(), l.Mixes)
	b.Batch = a.batch(l.ID)
	return b
}

// chain is what sets an order's date.
func (a *answer) chain(order studio.ID) (ChainView, error) {
	account, err := a.Account()
	if err != nil {
		return ChainView{}, err
	}
	i := slices.IndexFunc(account.Orders, func(c plan.Chain) bool { return c.Order == order })
	if i < 0 {
		return ChainView{}, store.NotFound{Thing: "an open order with this id"}
	}
	return a.chainView(account.Orders[i]), nil
}

// chainView is a chain with the names of what stands in it.
func (a *answer) chainView(c plan.Chain) ChainView {
	v := ChainView{Order: c.Order, Spent: c.Spent, Links: []LinkView{}}
	for _, l := range c.Links {
		t := a.Tasks[l.Task]
		if t == nil {
			continue // of a plan that was given up half way
		}
		link := LinkView{Link: l, Name: a.named(t.Lot, t.Step), Person: t.Person}
		if l.Of != "" {
			link.Short = a.called(l.Of)
		}
		if l.Cause == studio.CauseGate {
			link.Short = a.called(l.CausedBy)
			_, link.ToOrder = studio.Ordered(l.CausedBy)
		}
		v.Links = append(v.Links, link)
	}
	return v
}

// called is the name of a place, tool, machine, delivery or material; a skill is its own name.
func (a *answer) called(id studio.ID) string {
	for _, p := range a.Doc.Places {
		if p.ID == id {
			return p.Name
		}
	}
	for _, t := range a.Doc.Tools {
		if t.ID == id {
			return t.Name
		}
	}
	for _, m := range a.Doc.Machines {
		if m.ID == id {
			return m.Name
		}
	}
	calendar, _ := studio.NewCalendar(a.Doc.Epoch, a.Doc.Zone)
	for _, g := range append(slices.Clone(a.Doc.Gates), a.Doc.Approvals(calendar)...) {
		if g.ID == id {
			return g.Name
		}
	}
	if material, ok := studio.Ordered(id); ok {
		id = material
	}
	for _, m := range a.Doc.Materials {
		if m.ID == id {
			return m.Name
		}
	}
	return string(id)
}

// ScarceView is something scarce by its name, with the orders that more of it would help.
type ScarceView struct {
	plan.Scarcity
	Name string `json:"name"`
}

func (a *answer) scarce(ctx context.Context, tell func(done, of int)) ([]ScarceView, error) {
	explained, err := plan.Explain(a.Doc, a.Count, a.Plan, options(ctx), tell)
	if err != nil {
		return nil, err
	}
	all := []ScarceView{}
	for _, s := range explained.Scarce {
		all = append(all, ScarceView{Scarcity: s, Name: a.called(s.ID)})
	}
	return all, nil
}
