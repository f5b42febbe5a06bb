package api

import (
	"cmp"
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/book"
	"bractum/core/count"
	"bractum/core/drying"
	"bractum/core/learn"
	"bractum/core/plan"
	"bractum/core/studio"
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
	get(to, "/log", "get-log", "What was recorded against the standards", func(ctx context.Context, _ *nothing) (LogView, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return LogView{}, err
		}
		return s.log(ctx, at)
	})
	type which struct {
		Key string `query:"key"`
	}
	get(to, "/log/effect", "preview-standard", "What accepting a proposal would do to the plan", func(ctx context.Context, in *which) (Effect, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return Effect{}, err
		}
		change, _, err := s.proposed(ctx, at, in.Key)
		if err != nil {
			return Effect{}, err
		}
		doc := change.Into(at.latestAnswer().doc)
		if change.Recipe != nil {
			doc, _, err = at.revisedBy(*change.Recipe)
			if err != nil {
				return Effect{}, err
			}
		}
		return at.effectBy(doc, func(counted *count.Result) (*studio.Plan, error) {
			return plan.Repair(doc, counted, at.latestAnswer().plan)
		})
	})
	type decide struct {
		Who
		Body struct {
			Key string `json:"key"`
		}
	}
	command(to, http.MethodPost, "/log/accept", "accept-standard", "Make what was recorded the standard", func(ctx context.Context, in *decide) (Moved, error) {
		return facts(ctx, s, func(at *situation) (Moved, error) {
			change, record, err := s.proposed(ctx, at, in.Body.Key)
			if err != nil {
				return Moved{}, err
			}
			var revised []studio.Recipe
			var orders []store.OrderState
			if change.Recipe != nil {
				if _, revised, err = at.revisedBy(*change.Recipe); err != nil {
					return Moved{}, err
				}
				orders = at.onLatest(at.latestAnswer().doc.With(revised), revised)
			}
			done, err := s.do(ctx, in.Who, "standard accepted", func(tx *store.Tx) (any, error) {
				if err := at.unchanged(tx); err != nil {
					return nil, err
				}
				tx.Summary = fmt.Sprintf("Standard of %s, %s: %d becomes %d", record.Of, record.What, record.Standard, record.Found)
				switch {
				case change.Class != nil:
					return Moved{}, tx.SetDryingClass(*change.Class)
				case change.Person != "":
					return Moved{}, tx.SetPace(change.Person, change.Skill, change.Pace)
				}
				if err := tx.TakeIn(&book.Bundle{Recipes: revised}); err != nil {
					return nil, err
				}
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
	command(to, http.MethodPost, "/log/refuse", "refuse-standard", "Keep the standard as it is", func(ctx context.Context, in *decide) (Moved, error) {
		return facts(ctx, s, func(at *situation) (Moved, error) {
			_, record, err := s.proposed(ctx, at, in.Body.Key)
			if err != nil {
				return Moved{}, err
			}
			done, err := s.do(ctx, in.Who, "standard kept", func(tx *store.Tx) (any, error) {
				tx.Summary = fmt.Sprintf("Standard of %s, %s, stays at %d; %d was recorded", record.Of, record.What, record.Standard, record.Found)
				return Moved{}, tx.RefuseProposal(record.Key, &learn.Refused{Found: record.Found, Evidence: record.Evidence})
			})
			return Moved{done.N}, err
		})
	})
	type surely struct {
		Who
		Body struct {
			Class      studio.ID `json:"class,omitempty" doc:"the whole studio if empty"`
			Percentile int64     `json:"percentile" minimum:"50" maximum:"99"`
		}
	}
	command(to, http.MethodPost, "/log/percentile", "set-percentile", "By how many of a hundred pieces waits are planned", func(ctx context.Context, in *surely) (Moved, error) {
		return facts(ctx, s, func(at *situation) (Moved, error) {
			doc := at.inForce.doc
			done, err := s.do(ctx, in.Who, "percentile set", func(tx *store.Tx) (any, error) {
				if in.Body.Class == "" {
					settings := doc.Settings
					settings.PlanningPercentile = in.Body.Percentile
					tx.Summary = fmt.Sprintf("Waits are planned for %d of a hundred pieces", in.Body.Percentile)
					return Moved{}, tx.SetSettings(settings)
				}
				class := at.inForce.air.Class(in.Body.Class)
				class.Percentile = in.Body.Percentile
				tx.Summary = fmt.Sprintf("Waits of %s are planned for %d of a hundred pieces", class.Name, in.Body.Percentile)
				return Moved{}, tx.SetDryingClass(class)
			})
			return Moved{done.N}, err
		})
	})
}

// log weighs what was recorded. It is asked for seldom and reckoned anew each time.
func (s *Service) log(ctx context.Context, at *situation) (LogView, error) {
	since := max(0, at.now-looksBack)
	v := LogView{N: at.n, Now: at.now, Since: since, Records: []RecordView{}, Classes: append([]studio.DryingClass{}, at.inForce.doc.DryingClasses...), Percentile: at.inForce.doc.Settings.PlanningPercentile}
	doc, err := s.store.History(ctx, at.now, since)
	if err != nil {
		return v, err
	}
	refused, err := s.store.Refusals(ctx)
	if err != nil {
		return v, err
	}
	history := learn.History{Doc: doc, Book: studio.NewBook(doc), Air: drying.NewRoom(doc, at.calendar), Calendar: at.calendar}
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
func (s *Service) proposed(ctx context.Context, at *situation, key string) (learn.Change, RecordView, error) {
	log, err := s.log(ctx, at)
	if err != nil {
		return learn.Change{}, RecordView{}, err
	}
	for _, r := range log.Records {
		if r.Key == key {
			change, err := learn.Accept(at.latestAnswer().doc, r.Record)
			return change, r, err
		}
	}
	return learn.Change{}, RecordView{}, huma.Error404NotFound("nothing is recorded of this any more")
}

// revisedBy is the document with a recipe revised, what uses it, and all open orders on
// the latest of it.
func (at *situation) revisedBy(changed studio.Recipe) (*studio.Document, []studio.Recipe, error) {
	doc := at.latestAnswer().doc
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
func (at *situation) onLatest(doc *studio.Document, revised []studio.Recipe) (orders []store.OrderState) {
	for _, o := range at.orders {
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
