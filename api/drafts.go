package api

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/book"
	"bractum/core/count"
	"bractum/core/flower"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/store"
)

// Published is the answer to putting recipes into the book.
type Published struct {
	N int64 `json:"n"`
	// Page is the recipe that was written, Revised what got a new revision with it.
	Page    studio.ID `json:"page"`
	Revised []Named   `json:"revised"`
}

func (s *Service) registerDrafts(to huma.API) {
	type one struct {
		ID studio.ID `path:"id" format:"uuid"`
	}
	read(to, get("/book/drafts/{id}", "open-draft", "Recipes that somebody is writing"),
		func(ctx context.Context, in *one) (store.Draft, error) {
			drafts, err := s.store.Drafts(ctx)
			if err != nil {
				return store.Draft{}, err
			}
			i := slices.IndexFunc(drafts, func(d store.Draft) bool { return d.ID == in.ID })
			if i < 0 {
				return store.Draft{}, store.NotFound{Thing: "the draft"}
			}
			return drafts[i], nil
		})
	type keep struct {
		Who
		ID   studio.ID `path:"id" format:"uuid"`
		Seen int64     `header:"If-Match" required:"true" doc:"the version that was seen, 0 for a new draft"`
		Body struct {
			Name    string          `json:"name" maxLength:"80"`
			Recipes []studio.Recipe `json:"recipes" maxItems:"2000"`
		}
	}
	fact(s, to, put("/book/drafts/{id}", "keep-draft", "draft kept",
		"Keep recipes to be finished later; they need not hold together yet"),
		func(c *change, in *keep) (Entered, error) {
			c.Summary = fmt.Sprintf("Draft of %q kept", in.Body.Name)
			kept, err := c.PutDraft(store.Draft{ID: in.ID, Version: in.Seen, Name: in.Body.Name,
				Recipes: in.Body.Recipes})
			return Entered{ID: in.ID, Version: kept.Version, N: c.N()}, err
		})
	type drop struct {
		Who
		Sees
		ID studio.ID `path:"id" format:"uuid"`
	}
	fact(s, to, post("/book/drafts/{id}/drop", "drop-draft", "draft thrown away", "Throw a draft away"),
		func(c *change, in *drop) (Moved, error) {
			c.Summary = "Draft thrown away"
			return Moved{c.N()}, c.DropDraft(in.ID, in.IfMatch)
		})
	type publish struct {
		Who
		Body struct {
			Recipes []studio.Recipe `json:"recipes" maxItems:"2000" doc:"each over the revision of its id; the first is what they are about"`
			Draft   studio.ID       `json:"draft,omitempty" doc:"the draft that this finishes"`
			Version int64           `json:"draftVersion,omitempty"`
		}
	}
	fact(s, to, post("/book/publish", "publish-recipes", "recipes written",
		"Put recipes into the book as new revisions; orders keep the ones they have"),
		func(c *change, in *publish) (Published, error) {
			revised, err := book.Revise(c.at.latestAnswer().Doc, in.Body.Recipes, newID)
			if err != nil {
				return Published{}, overtaken(c.at, err)
			}
			if len(revised) == 0 && in.Body.Draft == "" {
				return Published{}, huma.Error409Conflict("nothing has been changed")
			}
			p := Published{N: c.N(), Revised: []Named{}}
			for _, r := range revised {
				p.Revised = append(p.Revised, Named{ID: r.Recipe, Name: r.Name, Form: r.Form})
			}
			if len(in.Body.Recipes) > 0 {
				p.Page = in.Body.Recipes[0].Page()
				c.Summary = fmt.Sprintf("Recipe %q written into the book", in.Body.Recipes[0].Name)
			}
			if in.Body.Draft != "" {
				if err := c.DropDraft(in.Body.Draft, in.Body.Version); err != nil {
					return Published{}, err
				}
			}
			return p, c.TakeIn(&book.Bundle{Recipes: revised})
		})
	s.registerMoves(to)
}

// overtaken tells what somebody else changed since a recipe was opened.
func overtaken(at *moment, err error) error {
	var o book.Overtaken
	if !errors.As(err, &o) {
		return err
	}
	details := []error{}
	for _, c := range book.Changes(book.NamesIn(at.latestAnswer().Doc), o.Was, o.Is) {
		details = append(details, &huma.ErrorDetail{Location: "body." + c.Place, Message: "was " + c.Was, Value: c.Is})
	}
	return huma.Error412PreconditionFailed(o.Error()+"; nothing of yours was written", details...)
}

// Effect is what a wish would do to the plan, before it is wished.
type Effect struct {
	Differences plan.Differences    `json:"differences"`
	Orders      []OrderEffect       `json:"orders"`
	Each        []flower.Difference `json:"each" doc:"what changes for one flower"`
}

// OrderEffect is how an order stands with and without.
type OrderEffect struct {
	Name string          `json:"name"`
	Was  *studio.Outcome `json:"was,omitempty"`
	Is   *studio.Outcome `json:"is,omitempty"`
}

// effectOn plans a document as it would be and sets it beside what is wished so far.
func (at *moment) effectOn(ctx context.Context, doc *studio.Document) (Effect, error) {
	return at.effectBy(doc, func(counted *count.Result) (*studio.Plan,
		error) {
		return plan.Make(doc, counted, options(ctx))
	})
}

// effectOfFact is that of what counts at once: the plan in force is repaired for it.
func (at *moment) effectOfFact(ctx context.Context, doc *studio.Document) (Effect, error) {
	return at.effectBy(doc, func(counted *count.Result) (*studio.Plan, error) {
		return plan.Repair(doc, counted, at.latestAnswer().Plan, ctx.Done())
	})
}

// effectBy is that with a plan as it is made for the count of the document.
func (at *moment) effectBy(doc *studio.Document, make func(*count.Result) (*studio.Plan, error)) (Effect, error) {
	if problems := doc.Validate(); len(problems) > 0 {
		return Effect{}, problems
	}
	counted, err := count.Up(doc)
	if err != nil {
		return Effect{}, err
	}
	now := at.latestAnswer().Plan
	then, err := make(counted)
	if err != nil {
		return Effect{}, err
	}
	e := Effect{Differences: plan.Compare(now, then), Orders: []OrderEffect{}, Each: []flower.Difference{}}
	outcome := func(p *studio.Plan, order studio.ID) *studio.Outcome {
		for i := range p.Orders {
			if p.Orders[i].Order == order {
				return &p.Orders[i]
			}
		}
		return nil
	}
	for _, o := range doc.Orders {
		if was, is := outcome(now, o.ID), outcome(then, o.ID); was != nil || is != nil {
			e.Orders = append(e.Orders, OrderEffect{Name: o.Name, Was: was, Is: is})
		}
	}
	return e, nil
}

// registerMoves lets the lead move order lines from earlier revisions to the latest.
func (s *Service) registerMoves(to huma.API) {
	type move struct {
		Page studio.ID `path:"page"`
		Body struct {
			Lines []studio.ID `json:"lines" minItems:"1" maxItems:"1000" doc:"order lines that keep an earlier revision"`
		}
	}
	beside(s, to, post("/book/pages/{page}/move/preview", "preview-move", "",
		"What moving order lines to the latest revision would do; nothing is written"),
		func(ctx context.Context, at *moment, in *move) (Effect, error) {
			orders, sample, latest, err := at.moved(in.Page, in.Body.Lines)
			if err != nil {
				return Effect{}, err
			}
			doc := *at.latestAnswer().Doc
			doc.Orders = slices.Clone(doc.Orders)
			for _, o := range orders {
				for i := range doc.Orders {
					if doc.Orders[i].ID == o.Order.ID {
						doc.Orders[i] = o.Order
					}
				}
			}
			e, err := at.effectOn(ctx, &doc)
			if err != nil {
				return e, err
			}
			e.Each, err = at.eachDiffers(sample, latest)
			return e, err
		})
	type moveNow struct {
		Who
		Page studio.ID `path:"page"`
		Body struct {
			Lines []studio.ID `json:"lines" minItems:"1" maxItems:"1000"`
		}
	}
	fact(s, to, post("/book/pages/{page}/move", "move-lines", "orders moved",
		"Move order lines to the latest revision; the plan that makes awaits acceptance"),
		func(c *change, in *moveNow) (Moved, error) {
			orders, _, latest, err := c.at.moved(in.Page, in.Body.Lines)
			if err != nil {
				return Moved{}, err
			}
			c.Summary = fmt.Sprintf("%d orders moved to revision %d of %q", len(orders), latest.Revision, latest.Name)
			return Moved{c.N()}, c.changeOrders(orders)
		})
}

// changeOrders writes orders as they are to be.
func (c *change) changeOrders(orders []store.OrderState) error {
	for _, o := range orders {
		if err := c.ChangeOrder(o.Order, o.Version); err != nil {
			return err
		}
	}
	return nil
}

// moved are the orders as they would be with lines on the latest revision of a page.
func (at *moment) moved(
	page studio.ID,
	lines []studio.ID,
) (orders []store.OrderState, sample studio.OrderLine, latest *studio.Recipe, err error) {
	doc := at.latestAnswer().Doc
	for _, line := range at.openLines() {
		if line.behind && line.page == page && slices.Contains(lines, line.ID) {
			sample = line.OrderLine
			latest, _ = book.Behind(doc, sample)
		}
	}
	for _, o := range at.Orders {
		after, n := book.Move(doc, o.Order, page, lines)
		if n == 0 || !book.Open(o.Order) {
			continue
		}
		for _, p := range doc.CheckOrder(after) {
			return nil, sample, nil, huma.Error422UnprocessableEntity(
				fmt.Sprintf("order %q cannot be moved: %s %s", o.Order.Name, p.Place, p.Message),
			)
		}
		o.Order = after
		orders = append(orders, o)
	}
	if latest == nil {
		return nil, sample, nil, huma.Error409Conflict("no open order line of these keeps an earlier revision")
	}
	return orders, sample, latest, nil
}

// eachDiffers compares one flower of a line with one of the latest revision.
func (at *moment) eachDiffers(line studio.OrderLine, latest *studio.Recipe) ([]flower.Difference, error) {
	doc := at.latestAnswer().Doc
	was, err := flower.Way{Recipe: line.Recipe, Variant: line.Variant}.Reckon(doc, line.Colourway, 1)
	is, failed := flower.Way{Recipe: latest.ID, Variant: line.Variant}.Reckon(doc, line.Colourway, 1)
	if err = errors.Join(err, failed); err != nil {
		return nil, err
	}
	return flower.Compare(was, is), nil
}
