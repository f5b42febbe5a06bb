package api

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/book"
	"bractum/core/drying"
	"bractum/core/learn"
	"bractum/core/studio"
	"bractum/core/workshop"
	"bractum/store"
)

// LogView is what was recorded, set against the standards.
type LogView struct {
	N          int64                `json:"n"`
	Now        studio.Minute        `json:"now"`
	Since      studio.Minute        `json:"since" doc:"how far back it looks"`
	Records    []RecordView         `json:"records" doc:"proposals first"`
	Percentile int64                `json:"percentile" doc:"of pieces that are there by the time that is planned, for the whole studio"`
	Classes    []studio.DryingClass `json:"classes"`
}

// RecordView is a record with what it is about.
type RecordView struct {
	learn.Record
	Of       string `json:"of" doc:"the class, the part or the person"`
	What     string `json:"what,omitempty" doc:"the step or the skill"`
	Proposes bool   `json:"proposes" doc:"somebody should accept or refuse it"`
	Refused  bool   `json:"refused" doc:"it was, and nothing clearly more is known since"`
}

// looksBack is how much of the past the log weighs.
const looksBack = studio.Minute(120 * 1440)

func (s *Service) registerLog(to huma.API) {
	beside(s, to, get("/log", "get-log", "What was recorded against the standards"),
		func(ctx context.Context, at *moment, _ *none) (LogView, error) {
			return s.log(ctx, at)
		})
	read(
		to,
		get("/log/lots", "list-closed-lots", "A page of the lots that are made and used up, the last finished first"),
		func(ctx context.Context, in *PageOfHistory) (store.Page[store.ClosedLot], error) {
			return s.store.ClosedLots(ctx, in.sought())
		},
	)
	type which struct {
		Key string `query:"key"`
	}
	beside(s, to, get("/log/effect", "preview-standard", "What accepting a proposal would do to the plan"),
		func(ctx context.Context, at *moment, in *which) (Effect, error) {
			change, _, err := s.proposed(ctx, at, in.Key)
			if err != nil {
				return Effect{}, err
			}
			doc := change.Into(at.latestAnswer().Doc)
			if change.Recipe != nil {
				doc, _, err = at.revisedBy(*change.Recipe)
				if err != nil {
					return Effect{}, err
				}
			}
			return at.effectOfFact(ctx, doc)
		})
	type decide struct {
		Who
		Body struct {
			Key string `json:"key"`
		}
	}
	wish(s, to, post("/log/accept", "accept-standard", "standard accepted", "Make what was recorded the standard"),
		func(ctx context.Context, at *moment, in *decide) (func(*change) (Moved, error), error) {
			learnt, record, err := s.proposed(ctx, at, in.Body.Key)
			if err != nil {
				return nil, err
			}
			var revised []studio.Recipe
			var orders []store.OrderState
			if learnt.Recipe != nil {
				if _, revised, err = at.revisedBy(*learnt.Recipe); err != nil {
					return nil, err
				}
				orders = at.onLatest(at.latestAnswer().Doc.With(revised), revised)
			}
			return func(c *change) (Moved, error) {
				c.Summary = fmt.Sprintf("Standard of %s, %s: %d becomes %d", record.Of, record.What, record.Standard,
					record.Found)
				switch {
				case learnt.Class != nil:
					return Moved{c.N()}, c.PutThing(workshop.DryingClasses, learnt.Class.ID, *learnt.Class)
				case learnt.Person != "":
					return Moved{c.N()}, c.SetPace(learnt.Person, learnt.Skill, learnt.Pace)
				}
				if err := c.TakeIn(&book.Bundle{Recipes: revised}); err != nil {
					return Moved{}, err
				}
				return Moved{c.N()}, c.changeOrders(orders)
			}, nil
		})
	wish(s, to, post("/log/refuse", "refuse-standard", "standard kept", "Keep the standard as it is"),
		func(ctx context.Context, at *moment, in *decide) (func(*change) (Moved, error), error) {
			_, record, err := s.proposed(ctx, at, in.Body.Key)
			return func(c *change) (Moved, error) {
				c.Summary = fmt.Sprintf("Standard of %s, %s, stays at %d; %d was recorded", record.Of, record.What,
					record.Standard, record.Found)
				return Moved{c.N()}, c.RefuseProposal(record.Key,
					&learn.Refused{Found: record.Found, Evidence: record.Evidence})
			}, err
		})
	type surely struct {
		Who
		Body struct {
			Class      studio.ID `json:"class,omitempty" doc:"the whole studio if empty"`
			Percentile int64     `json:"percentile" minimum:"50" maximum:"99"`
		}
	}
	fact(s, to, post("/log/percentile", "set-percentile", "percentile set",
		"By how many of a hundred pieces waits are planned"),
		func(c *change, in *surely) (Moved, error) {
			if in.Body.Class == "" {
				settings := c.at.inForce.Doc.Settings
				settings.PlanningPercentile = in.Body.Percentile
				c.Summary = fmt.Sprintf("Waits are planned for %d of a hundred pieces", in.Body.Percentile)
				return Moved{c.N()}, c.SetSettings(settings)
			}
			class := c.at.inForce.Air().Class(in.Body.Class)
			if class.ID != in.Body.Class {
				return Moved{}, store.NotFound{Thing: "this kind of paste"}
			}
			class.Percentile = in.Body.Percentile
			c.Summary = fmt.Sprintf("Waits of %s are planned for %d of a hundred pieces", class.Name,
				in.Body.Percentile)
			return Moved{c.N()}, c.PutThing(workshop.DryingClasses, class.ID, class)
		})
}

// log weighs what was recorded. It is asked for seldom and reckoned anew each time.
func (s *Service) log(ctx context.Context, at *moment) (LogView, error) {
	since := max(0, at.Now-looksBack)
	v := LogView{N: at.N, Now: at.Now, Since: since, Records: []RecordView{},
		Classes:    append([]studio.DryingClass{}, at.inForce.Doc.DryingClasses...),
		Percentile: at.inForce.Doc.Settings.PlanningPercentile}
	doc, err := s.store.History(ctx, at.Now, since)
	if err != nil {
		return v, err
	}
	refused, err := s.store.Refusals(ctx)
	if err != nil {
		return v, err
	}
	history := learn.History{
		Doc:      doc,
		Book:     studio.NewBook(doc),
		Air:      drying.NewRoomSince(doc, at.Calendar, since/60*60),
		Calendar: at.Calendar,
	}
	for _, r := range learn.Look(history) {
		view := RecordView{Record: r, What: r.Skill}
		switch r.Kind {
		case learn.OfClass:
			view.Of, view.What = history.Air.Class(r.Class).Name, "drying"
		case learn.OfPace:
			view.Of = at.inForce.person(r.Person)
		default:
			view.What = "breakage"
			for _, page := range doc.Current() {
				if page.Page() == r.Recipe {
					step, _ := page.Step(r.Step)
					view.Of, view.What = page.Name, cmp.Or(step.Name, view.What)
					if r.Variant != "" {
						view.Of += ", " + r.Variant
					}
				}
			}
		}
		no, was := refused[r.Key]
		if was {
			view.Proposes = r.Proposes(&no)
		} else {
			view.Proposes = r.Proposes(nil)
		}
		view.Refused = was && r.Clear && !view.Proposes
		v.Records = append(v.Records, view)
	}
	return v, nil
}

// proposed is a record by its key, and what accepting it changes.
func (s *Service) proposed(ctx context.Context, at *moment, key string) (learn.Change, RecordView, error) {
	log, err := s.log(ctx, at)
	i := slices.IndexFunc(log.Records, func(r RecordView) bool { return r.Key == key })
	if err == nil && i < 0 {
		err = huma.Error404NotFound("nothing is recorded of this any more")
	}
	if err != nil {
		return learn.Change{}, RecordView{}, err
	}
	change, err := learn.Accept(at.latestAnswer().Doc, log.Records[i].Record)
	return change, log.Records[i], err
}

// revisedBy is the document with a recipe revised, what uses it, and all open orders on
// the latest of it.
func (at *moment) revisedBy(changed studio.Recipe) (*studio.Document, []studio.Recipe, error) {
	doc := at.latestAnswer().Doc
	revised, err := book.Revise(doc, []studio.Recipe{changed}, newID)
	if err != nil {
		return nil, nil, overtaken(at, err)
	}
	after := doc.With(revised)
	after.Orders = append([]studio.Order{}, doc.Orders...)
	for _, o := range at.onLatest(after, revised) {
		for i := range after.Orders {
			if after.Orders[i].ID == o.Order.ID {
				after.Orders[i] = o.Order
			}
		}
	}
	return after, revised, nil
}

// onLatest are the open orders whose lines move to the latest of revised recipes.
func (at *moment) onLatest(doc *studio.Document, revised []studio.Recipe) (orders []store.OrderState) {
	for _, o := range at.Orders {
		if !book.Open(o.Order) {
			continue
		}
		var lines []studio.ID
		for _, l := range o.Order.Lines {
			lines = append(lines, l.ID)
		}
		moved := 0
		for _, r := range revised {
			after, n := book.Move(doc, o.Order, r.Page(), lines)
			o.Order, moved = after, moved+n
		}
		if moved > 0 {
			orders = append(orders, o)
		}
	}
	return orders
}
