package api

import (
	"context"
	"errors"
	"fmt"
	"reflect"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/plan"
	"bractum/core/promise"
	"bractum/core/scene"
	"bractum/core/studio"
	"bractum/core/workshop"
	"bractum/situation"
	"bractum/store"
)

// FixView is something that would help an order, and what came of it when it was tried.
type FixView struct {
	ID      string         `json:"id" doc:"by which it is done"`
	Changes []ChangeView   `json:"changes"`
	Kept    bool           `json:"kept" doc:"true where the order is in time then, and nobody else late by it"`
	Outcome studio.Outcome `json:"outcome"`
	Gained  studio.Minute  `json:"gainedMinutes" doc:"by how much less late everybody is together"`
	Cost    studio.Money   `json:"cost" doc:"what who stays or helps is paid for, and what materials cost more"`
	Harms   []TakenView    `json:"harms"`
	Moves   plan.Change    `json:"moves"`
}

// ChangeView is a change with the names of what it is about.
type ChangeView struct {
	scene.If
	Name string      `json:"named" doc:"of the person, place, machine, tool, material, supplier or order"`
	Line string      `json:"lineNamed,omitempty" doc:"of the flower of its line"`
	Unit studio.Unit `json:"unit,omitempty" doc:"of the material"`
	// Colour is of a line that is in another.
	Colour string `json:"colourNamed,omitempty"`
}

func (s *Service) registerFixes(to huma.API) {
	beside(s, to, post("/promise/fixes", "list-fixes", "",
		"What would help so that an order is in time: what a lead would try, each planned; nothing is written"),
		func(ctx context.Context, at *moment, in *asksBody) ([]FixView, error) {
			q, o, err := s.question(ctx, at, in.Body.OrderBody, in.Body.ID)
			if err != nil {
				return nil, err
			}
			fixes, err := promise.Fixes(q, s.limit.tell)
			if err != nil {
				return nil, err
			}
			views := []FixView{}
			for _, f := range fixes {
				views = append(views, s.fixView(at, o, f))
			}
			return views, nil
		})
	type take struct {
		Who
		ID   string `path:"id"`
		Body struct {
			OrderBody
			Seen int64 `json:"seen,omitempty" doc:"the version of the order that was seen, of one that there is already"`
		}
	}
	fact(s, to, post("/promise/fixes/{id}/take", "take-fix", "order entered with help",
		"Enter an order with something that helps it; the plan that makes awaits acceptance"),
		func(c *change, in *take) (Entered, error) {
			f, known := s.promised.Get(in.ID)
			if !known || len(f.changes) == 0 {
				return Entered{}, studio.Refuse("this was worked out too long ago; ask again what would help")
			}
			doc := c.at.latestAnswer().Doc
			in.Body.Promise = in.ID
			o, err := in.Body.order(f.order.ID, doc)
			if err != nil {
				return Entered{}, err
			}
			for i := range o.Lines {
				if i < len(f.order.Lines) && in.Body.Lines[i].ID == "" {
					o.Lines[i].ID = f.order.Lines[i].ID
				}
			}
			with, err := promise.With(doc, o)
			if err != nil {
				return Entered{}, err
			}
			is, err := scene.With(with, f.changes)
			if err != nil {
				return Entered{}, asProblem(err)
			}
			if now, err := c.Order(o.ID); err == nil && now.Version != in.Body.Seen {
				return Entered{}, c.explainStale(store.Stale{Thing: "the order " + now.Order.Name, Seen: in.Body.Seen,
					Now: now.Version}, o.ID)
			}
			c.Summary = fmt.Sprintf("Order %q entered, with what helps it", o.Name)
			return Entered{ID: o.ID, Version: in.Body.Seen + 1, N: c.N()},
				errors.Join(c.makeReal(doc, is), s.offerPromised(c, o, in.ID))
		})
}

// asProblem is a refusal of a change in words.
func asProblem(err error) error {
	var refused scene.Refused
	if errors.As(err, &refused) {
		return studio.Refusal{Said: refused.Says}
	}
	return err
}

// fixView is a fix with its names; its plan is kept for when it is done.
func (s *Service) fixView(at *moment, o studio.Order, f promise.Fix) FixView {
	v := FixView{ID: string(newID()), Changes: []ChangeView{}, Kept: f.Kept, Outcome: f.Outcome, Gained: f.Gained,
		Cost: f.Cost, Harms: at.taken(f.Harms), Moves: f.Moves}
	for _, c := range f.Changes {
		v.Changes = append(v.Changes, at.changeView(f.Doc, o, c))
	}
	s.promised.Add(v.ID, found{base: at.N, order: o, plan: f.Plan, changes: f.Changes,
		answer: &answer{situation.NewAnswer(f.Doc, at.Calendar, at.latestAnswer().Count, f.Plan)}})
	return v
}

// changeView is a change with the names of what it is about.
func (at *moment) changeView(doc *studio.Document, o studio.Order, c scene.If) ChangeView {
	a := at.latestAnswer()
	v := ChangeView{If: c, Name: c.Name}
	switch c.Kind {
	case scene.Away, scene.Stays:
		v.Name = a.person(c.Of)
	case scene.Places, scene.Machines, scene.Tools, scene.Arrives:
		v.Name = a.called(c.Of)
	case scene.Moved, scene.Freed, scene.Cancelled:
		v.Name = at.orderName(c.Of)
	}
	for _, l := range o.Lines {
		if r := a.Book.Recipe(l.Recipe); l.ID == c.Line && r != nil {
			v.Line = r.Name
		}
	}
	for _, colour := range doc.Colourways {
		if colour.ID == c.Colourway {
			v.Colour = colour.Name
		}
	}
	for _, m := range doc.Materials {
		if m.ID == c.Of {
			v.Name, v.Unit = m.Name, m.Unit
		}
	}
	return v
}

// makeReal writes what one document has otherwise than another: of people, places, tools and machines at once, of
// orders as wishes, of what is kept for orders in the ledger.
func (c *change) makeReal(was, is *studio.Document) error {
	var err error
	for _, kind := range []workshop.Kind{workshop.People, workshop.Places, workshop.Tools, workshop.Machines} {
		for _, thing := range workshop.All(is, kind) {
			id := workshop.IDOf(thing)
			if before, _ := workshop.Thing(was, kind, id); before != nil && !reflect.DeepEqual(before, thing) {
				err = errors.Join(err, c.PutThing(kind, id, thing))
			} else if before == nil && kind == workshop.People {
				err = errors.Join(err, c.hired(thing.(studio.Person)))
			}
		}
	}
	for _, o := range is.Orders {
		i := slices.IndexFunc(was.Orders, func(b studio.Order) bool { return b.ID == o.ID })
		switch {
		case i < 0:
			err = errors.Join(err, c.entered(o))
		case !reflect.DeepEqual(was.Orders[i], o):
			state, e := c.Order(o.ID)
			if err = errors.Join(err, e); e == nil {
				err = errors.Join(err, c.ChangeOrder(o, state.Version))
			}
		}
	}
	return errors.Join(err, c.Book(studio.WorkLot{}, released(was, is)))
}

// hired writes somebody who helps out, under an id of the store's kind.
func (c *change) hired(p studio.Person) error {
	p.ID = newID()
	return c.PutThing(workshop.People, p.ID, p)
}

// entered writes an order that is new, under ids of the store's kind where it has none.
func (c *change) entered(o studio.Order) error {
	if len(o.ID) != len(newID()) {
		o.ID, o.Lines = newID(), slices.Clone(o.Lines)
		o.Name += ", the rest"
		for i := range o.Lines {
			o.Lines[i].ID = newID()
		}
	}
	return c.EnterOrder(o)
}

// released is what is kept for orders in one document and not in another.
func released(was, is *studio.Document) (moved []studio.Movement) {
	for i, s := range was.Shelf {
		for _, claim := range studio.OfOrders(s.Reserved) {
			if !slices.Contains(is.Shelf[i].Reserved, claim) {
				moved = append(
					moved,
					studio.Movement{Kind: studio.Released, Shelf: s.ID, Order: claim.Order, Amount: -claim.Quantity},
				)
			}
		}
	}
	for i, w := range was.Work {
		for _, claim := range studio.OfOrders(w.Reserved) {
			if !slices.Contains(is.Work[i].Reserved, claim) {
				moved = append(
					moved,
					studio.Movement{Kind: studio.Released, Lot: w.ID, Order: claim.Order, Amount: -claim.Quantity},
				)
			}
		}
	}
	return moved
}
