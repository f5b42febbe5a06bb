package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/studio"
)

// FallView is an order that lost slack, with the names of what made it.
type FallView struct {
	studio.Fall
	Name   string `json:"name" doc:"of the order; empty where it is forgotten"`
	Of     string `json:"of,omitempty" doc:"the thing that the task makes"`
	Doing  string `json:"doing,omitempty" doc:"the step"`
	Who    string `json:"who,omitempty"`
	ByName string `json:"byName,omitempty" doc:"what it waits for: a thing that is made first, or a delivery"`
}

// fellLately is how long an order shows that it lost slack.
const fellLately = 2 * 1440

func (s *Service) registerFalls(to huma.API) {
	kept(s, to, get("/log/falls", "list-falls", "Orders that lost slack, and what made them, the latest first"),
		shows{topics: []string{"orders", "work"}, planned: true},
		func(_ context.Context, at *moment, _ *none) ([]FallView, error) {
			views := make([]FallView, 0, len(at.Falls))
			for _, f := range at.Falls {
				views = append(views, at.fallView(f))
			}
			return views, nil
		})
}

func (at *moment) fallView(f studio.Fall) FallView {
	a := at.latestAnswer()
	v := FallView{Fall: f, Doing: f.Step, Who: a.person(f.Person)}
	if name := at.orderName(f.Order); name != string(f.Order) {
		v.Name = name
	}
	if r := a.Book.Recipe(f.Recipe); r != nil {
		v.Of = r.Name
		if step, i := r.Step(f.Step); i >= 0 {
			v.Doing = step.Name
		}
	}
	if t := a.Tasks[f.By]; t != nil {
		v.ByName = a.Book.Of(a.Lots[t.Lot].Made()).Name
	} else if f.By != "" && f.Why == studio.WaitsFor {
		v.ByName = a.called(f.By)
	}
	return v
}

// fell is how an order lost slack lately, as long as it has not got it back; nil where it has not.
func (at *moment) fell(o studio.Outcome) *FallView {
	for _, f := range at.Falls {
		if f.Order != o.Order || f.At < at.Now-fellLately {
			continue
		}
		if o.Slack != nil && (f.Was == nil || *o.Slack >= *f.Was) {
			return nil
		}
		v := at.fallView(f)
		return &v
	}
	return nil
}
