package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"
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
	get(to, "/book/drafts/{id}", "open-draft", "Recipes that somebody is writing", func(ctx context.Context, in *one) (store.Draft, error) {
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
	type put struct {
		Who
		ID   studio.ID `path:"id" format:"uuid"`
		Seen int64     `header:"If-Match" required:"true" doc:"the version that was seen, 0 for a new draft"`
		Body struct {
			Name    string          `json:"name" maxLength:"80"`
			Recipes []studio.Recipe `json:"recipes" maxItems:"2000"`
		}
	}
	command(to, http.MethodPut, "/book/drafts/{id}", "keep-draft", "Keep recipes to be finished later; they need not hold together yet", func(ctx context.Context, in *put) (Entered, error) {
		var kept store.Draft
		done, err := s.do(ctx, in.Who, "draft kept", func(tx *store.Tx) (any, error) {
			tx.Summary = fmt.Sprintf("Draft of %q kept", in.Body.Name)
			var err error
			kept, err = tx.PutDraft(store.Draft{ID: in.ID, Version: in.Seen, Name: in.Body.Name, Recipes: in.Body.Recipes})
			return Entered{ID: in.ID, Version: kept.Version}, err
		})
		return Entered{in.ID, in.Seen + 1, done.N}, err
	})
	type drop struct {
		Who
		Sees
		ID studio.ID `path:"id" format:"uuid"`
	}
	command(to, http.MethodPost, "/book/drafts/{id}/drop", "drop-draft", "Throw a draft away", func(ctx context.Context, in *drop) (Moved, error) {
		done, err := s.do(ctx, in.Who, "draft thrown away", func(tx *store.Tx) (any, error) {
			tx.Summary = "Draft thrown away"
			return Moved{}, tx.DropDraft(in.ID, in.IfMatch)
		})
		return Moved{done.N}, err
	})
	type publish struct {
		Who
		Body struct {
			Recipes []studio.Recipe `json:"recipes" maxItems:"2000" doc:"each over the revision of its id; the first is what they are about"`
			Draft   studio.ID       `json:"draft,omitempty" doc:"the draft that this finishes"`
			Version int64           `json:"draftVersion,omitempty"`
		}
	}
	command(to, http.MethodPost, "/book/publish", "publish-recipes", "Put recipes into the book as new revisions; orders keep the ones they have", func(ctx context.Context, in *publish) (Published, error) {
		return facts(ctx, s, func(at *situation) (Published, error) {
			revised, err := book.Revise(at.latestAnswer().doc, in.Body.Recipes, newID)
			if err != nil {
				return Published{}, overtaken(at, err)
			}
			p := Published{Revised: []Named{}}
			for _, r := range revised {
				p.Revised = append(p.Revised, Named{r.Recipe, r.Name, r.Form})
			}
			if len(in.Body.Recipes) > 0 {
				p.Page = in.Body.Recipes[0].Page()
			}
			done, err := s.do(ctx, in.Who, "recipes written", func(tx *store.Tx) (any, error) {
				if err := at.unchanged(tx); err != nil {
					return nil, err
				}
				if len(revised) == 0 && in.Body.Draft == "" {
					return nil, huma.Error409Conflict("nothing has been changed")
				}
				if len(in.Body.Recipes) > 0 {
					tx.Summary = fmt.Sprintf("Recipe %q written into the book", in.Body.Recipes[0].Name)
				}
				if in.Body.Draft != "" {
					if err := tx.DropDraft(in.Body.Draft, in.Body.Version); err != nil {
						return nil, err
					}
				}
				return p, tx.TakeIn(&book.Bundle{Recipes: revised})
			})
			p.N = done.N
			return p, err
		})
	})
	s.registerMoves(to)
}

// overtaken tells what somebody else changed since a recipe was opened.
func overtaken(at *situation, err error) error {
	var o book.Overtaken
	if !errors.As(err, &o) {
		return err
	}
	details := []error{}
	for _, c := range book.Changes(book.NamesIn(at.latestAnswer().doc), o.Was, o.Is) {
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
func (at *situation) effectOn(doc *studio.Document) (Effect, error) {
	return at.effectBy(doc, func(counted *count.Result) (*studio.Plan, error) { return plan.Make(doc, counted, plan.Options{}) })
}

// effectBy is that with a plan as it is made for the count of the document.
func (at *situation) effectBy(doc *studio.Document, make func(*count.Result) (*studio.Plan, error)) (Effect, error) {
	if problems := doc.Validate(); len(problems) > 0 {
		return Effect{}, problems
	}
	counted, err := count.Up(doc)
	if err != nil {
		return Effect{}, err
	}
	now := at.latestAnswer().plan
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
			e.Orders = append(e.Orders, OrderEffect{o.Name, was, is})
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
	command(to, http.MethodPost, "/book/pages/{page}/move/preview", "preview-move", "What moving order lines to the latest revision would do; nothing is written", func(ctx context.Context, in *move) (Effect, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return Effect{}, err
		}
		orders, sample, latest, err := at.moved(in.Page, in.Body.Lines)
		if err != nil {
			return Effect{}, err
		}
		doc := *at.latestAnswer().doc
		doc.Orders = slices.Clone(doc.Orders)
		for _, o := range orders {
			for i := range doc.Orders {
				if doc.Orders[i].ID == o.Order.ID {
					doc.Orders[i] = o.Order
				}
			}
		}
		e, err := at.effectOn(&doc)
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
	command(to, http.MethodPost, "/book/pages/{page}/move", "move-lines", "Move order lines to the latest revision; the plan that makes awaits acceptance", func(ctx context.Context, in *moveNow) (Moved, error) {
		return facts(ctx, s, func(at *situation) (Moved, error) {
			orders, _, latest, err := at.moved(in.Page, in.Body.Lines)
			if err != nil {
				return Moved{}, err
			}
			done, err := s.do(ctx, in.Who, "orders moved", func(tx *store.Tx) (any, error) {
				if err := at.unchanged(tx); err != nil {
					return nil, err
				}
				tx.Summary = fmt.Sprintf("%d orders moved to revision %d of %q", len(orders), latest.Revision, latest.Name)
				for _, o := range orders {
					if err := tx.ChangeOrder(o.Order, o.Version); err != nil {
						return nil, err
					}
				}
				return Moved{}, nil
			})
			return Moved{done.N}, err
		})
	})
}

// moved are the orders as they would be with lines on the latest revision of a page.
func (at *situation) moved(page studio.ID, lines []studio.ID) (orders []store.OrderState, sample studio.OrderLine, latest *studio.Recipe, err error) {
	doc := at.latestAnswer().doc
	for _, line := range at.openLines() {
		if line.behind && line.page == page && slices.Contains(lines, line.ID) {
			sample = line.OrderLine
			latest, _ = book.Behind(doc, sample)
		}
	}
	for _, o := range at.orders {
		after, n := book.Move(doc, o.Order, page, lines)
		if n == 0 || !book.Open(o.Order) {
			continue
		}
		for _, p := range doc.CheckOrder(after) {
			return nil, sample, nil, huma.Error422UnprocessableEntity(fmt.Sprintf("order %q cannot be moved: %s %s", o.Order.Name, p.Place, p.Message))
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
func (at *situation) eachDiffers(line studio.OrderLine, latest *studio.Recipe) ([]flower.Difference, error) {
	doc := at.latestAnswer().doc
	way := flower.Way{Recipe: line.Recipe, Variant: line.Variant}
	was, err := way.Reckon(doc, line.Colourway, 1)
	if err != nil {
		return nil, err
	}
	way.Recipe = latest.ID
	is, err := way.Reckon(doc, line.Colourway, 1)
	if err != nil {
		return nil, err
	}
	return flower.Compare(was, is), nil
}
