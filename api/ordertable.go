package api

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/book"
	"bractum/core/studio"
)

// OrderTable are orders of a list that somebody has written elsewhere; they are entered together, all or none.
type OrderTable struct {
	Orders []OrderBody `json:"orders" minItems:"1" maxItems:"200"`
}

// OrderTableView is what would come of them, one by one.
type OrderTableView struct {
	Rows []RowView `json:"rows"`
}

// against reads the orders of a table beside those of a studio: one of a name that is promised already is that order,
// changed where it says otherwise. Rows that are the same keep no order.
func (t OrderTable) against(doc *studio.Document) (orders []studio.Order, rows []RowView) {
	orders, rows = make([]studio.Order, len(t.Orders)), make([]RowView, len(t.Orders))
	named := map[string]studio.Order{}
	for _, o := range doc.Orders {
		if o.State == studio.OrderOpen || o.State == studio.OrderQuote {
			named[o.Name] = o
		}
	}
	first := map[string]bool{}
	for i, body := range t.Orders {
		was, there := named[body.Name]
		id := newID()
		if there {
			id = was.ID
			for j := range body.Lines[:min(len(body.Lines), len(was.Lines))] {
				line, kept := &body.Lines[j], was.Lines[j]
				line.ID, line.ServiceLevel = kept.ID, kept.ServiceLevel
				if current, behind := book.Behind(doc, kept); behind && current.ID == line.Recipe {
					line.Recipe = kept.Recipe // the lead moves lines to a new revision, a table does not
				}
			}
			// what a table leaves out stays as it is, an allergy above all
			body.Importance, body.State = was.Importance, was.State
			body.Occasion = cmp.Or(body.Occasion, was.Occasion)
			body.Leaving = cmp.Or(body.Leaving, was.Leaving)
			if len(body.Allergies) == 0 {
				body.Allergies = was.Allergies
			}
		}
		body.Leaving = cmp.Or(body.Leaving, "collected")
		o, err := body.order(id, doc)
		problems := studio.Problems{}
		if err != nil && !errors.As(err, &problems) {
			problems = studio.Problems{{Message: err.Error()}}
		}
		if first[body.Name] {
			problems = append(
				problems,
				studio.Flaw("name", "stands in the table twice; lines of one order stand below one another"),
			)
		}
		first[body.Name] = true
		switch {
		case len(problems) > 0:
			rows[i] = RowView{State: "wrong", Problems: problems}
		case !there:
			rows[i].State, orders[i] = "new", o
		case reflect.DeepEqual(o, was):
			rows[i].State = "same"
		default:
			rows[i].State, orders[i] = "changed", o
		}
	}
	return orders, rows
}

func (s *Service) registerOrderTable(to huma.API) {
	type preview struct{ Body OrderTable }
	ask(
		s,
		to,
		post(
			"/orders/many/preview",
			"preview-orders",
			"",
			"What entering a table of orders would do; nothing is written",
		),
		func(_ context.Context, at *moment, in *preview) (OrderTableView, error) {
			_, rows := in.Body.against(at.latestAnswer().Doc)
			return OrderTableView{rows}, nil
		},
	)
	type entering struct {
		Who
		Body OrderTable
	}
	wish(s, to, post("/orders/many", "enter-orders", "orders entered", "Enter a table of orders, all or none"),
		func(_ context.Context, at *moment, in *entering) (func(*change) (Moved, error), error) {
			orders, rows := in.Body.against(at.latestAnswer().Doc)
			var wrong studio.Problems
			number := 0
			for i, row := range rows {
				for _, p := range row.Problems {
					p.Place = fmt.Sprintf("orders[%d].%s", i, p.Place)
					wrong = append(wrong, p)
				}
				if row.State == "new" || row.State == "changed" {
					number++
				}
			}
			if len(wrong) > 0 {
				return nil, wrong
			}
			if number == 0 {
				return nil, studio.Refuse("all of these orders are there already; nothing was written")
			}
			return func(c *change) (Moved, error) {
				c.Summary = fmt.Sprintf("%d orders entered from a table", number)
				for i, row := range rows {
					var err error
					switch row.State {
					case "new":
						err = c.EnterOrder(orders[i])
					case "changed":
						var seen int64
						if seen, err = c.versionOf(orders[i].ID); err == nil {
							err = c.ChangeOrder(orders[i], seen)
						}
					}
					if err != nil {
						return Moved{}, err
					}
				}
				return Moved{c.N()}, nil
			}, nil
		})
}

func (c *change) versionOf(order studio.ID) (int64, error) {
	state, err := c.Order(order)
	return state.Version, err
}
