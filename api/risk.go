package api

import (
	"context"
	"runtime"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/risk"
	"bractum/core/studio"
	"bractum/store"
)

// ChanceView is how sure it is that an order is in time, with the names of what makes it late.
type ChanceView struct {
	risk.Chance
	Causes []BlameView `json:"causes"`
}

// BlameView is a task whose delay made an order late.
type BlameView struct {
	risk.Blame
	Name string `json:"name" doc:"its step, and what is made"`
}

const (
	// mostReplays are of a plan; they end sooner where every chance is known within nearEnough, or after
	// longestReplays.
	mostReplays    = 1000
	nearEnough     = 15
	longestReplays = 30 * time.Second
	// mostAsking is for how long an order that is asked for is replayed.
	mostAsking = 2 * time.Second
)

func (s *Service) registerRisk(to huma.API) {
	beside(s, to, get("/chances", "get-chances", "How sure it is that each order is in time: the plan, replayed"),
		func(ctx context.Context, at *moment, _ *none) ([]ChanceView, error) {
			a := at.latestAnswer()
			all, known := s.chances.Get(a.Plan)
			if !known {
				var err error
				if all, err = replayed(ctx, a.Doc, a.Plan, longestReplays, s.limit.tell); err != nil {
					return nil, err
				}
				s.chances.Add(a.Plan, all)
			}
			views := []ChanceView{}
			for _, c := range all {
				views = append(views, a.chanceView(c))
			}
			return views, nil
		})
	type one struct {
		ID string `path:"id"`
	}
	beside(s, to, get("/promise/{id}/chance", "get-promise-chance",
		"How sure it is that an order that was asked for is in time, as it was answered"),
		func(ctx context.Context, at *moment, in *one) (ChanceView, error) {
			f, known := s.promised.Get(in.ID)
			if !known {
				return ChanceView{}, store.NotFound{Thing: "this answer"}
			}
			all, err := replayed(ctx, f.answer.Doc, f.plan, mostAsking, nil)
			if err != nil {
				return ChanceView{}, err
			}
			for _, c := range all {
				if c.Order == f.order.ID {
					return f.answer.chanceView(c), nil
				}
			}
			return ChanceView{}, store.NotFound{Thing: "this order"}
		})
}

// replayed replays a plan for so long at the most, or until nobody wants it any more.
func replayed(ctx context.Context, doc *studio.Document, made *studio.Plan, longest time.Duration,
	tell func(done, of int)) ([]risk.Chance, error) {
	until, cancel := context.WithTimeout(ctx, longest)
	defer cancel()
	return risk.Chances(
		doc,
		made,
		risk.Options{Spreads: risk.UsualSpreads(), Seed: 1, Most: mostReplays, Within: nearEnough,
			Workers: max(1, runtime.NumCPU()-1), Stop: until.Done(), Tell: tell},
	)
}

// chanceView is a chance with the names of what makes it late.
func (a *answer) chanceView(c risk.Chance) ChanceView {
	v := ChanceView{Chance: c, Causes: []BlameView{}}
	for _, b := range c.Causes {
		if t := a.Tasks[b.Task]; t != nil {
			v.Causes = append(v.Causes, BlameView{Blame: b, Name: a.named(t.Lot, t.Step)})
		}
	}
	return v
}
