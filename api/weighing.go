package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/bench"
	"bractum/core/paste"
	"bractum/core/studio"
	"bractum/outside"
)

// ScaleView is what the scale shows; says is why one that is connected shows nothing.
type ScaleView struct {
	Connected  bool              `json:"connected" doc:"false where the studio has no scale at an address"`
	Answers    bool              `json:"answers"`
	Milligrams studio.Milligrams `json:"milligrams"`
	Stable     bool              `json:"stable"`
	Says       string            `json:"says,omitempty"`
	Address    string            `json:"address,omitempty"`
}

func (s *Service) registerWeighing(to huma.API) {
	read(to, get("/scale", "read-scale", "What the scale shows"),
		func(ctx context.Context, _ *none) (ScaleView, error) {
			scale, err := s.scale(ctx)
			if err != nil || scale == nil {
				return ScaleView{}, err
			}
			v := ScaleView{Connected: true, Address: scale.Address()}
			shown, err := scale.Read(ctx)
			switch {
			case outside.IsTrouble(err):
				v.Says = err.Error()
			case err != nil:
				return v, err
			default:
				v.Answers, v.Milligrams, v.Stable = true, shown.Milligrams, shown.Stable
			}
			return v, nil
		})
	ask(s, to, post("/scale/tare", "tare-scale", "", "Set the scale to nothing"),
		func(ctx context.Context, _ *moment, _ *none) (ScaleView, error) {
			scale, err := s.scale(ctx)
			if err == nil && scale == nil {
				err = outside.Say("No scale is connected; set it to nothing by its own button.")
			}
			if err != nil {
				return ScaleView{}, err
			}
			return ScaleView{Connected: true, Answers: true}, scale.Tare(ctx)
		})
	type weighing struct {
		Lot  string `path:"lot"`
		Body struct {
			Weighed []*studio.Milligrams `json:"weighed" doc:"in the order of the ingredients; null is not weighed yet"`
		}
	}
	ask(s, to, post("/mixing/{lot}/weigh-in", "weigh-in", "",
		"What is to pour, given what was weighed; nothing is written"),
		func(ctx context.Context, at *moment, in *weighing) (paste.Weighing, error) {
			a := at.inForce
			for _, l := range a.Plan.Lots {
				if r := a.Book.Of(l.Made()); l.ID == studio.ID(in.Lot) && r.Kind == studio.KindMix {
					step := a.Doc.Settings.ScaleStepMilligrams
					return paste.WeighIn(
						paste.Weigh(r, studio.Milligrams(l.Started), step),
						in.Body.Weighed,
						step,
					), nil
				}
			}
			return paste.Weighing{}, huma.Error404NotFound(
				"this mixing is no longer planned; look at the mixing again",
			)
		})
	type weighed struct {
		Who
		Task string `path:"task"`
		Body struct {
			Weighed []studio.Milligrams `json:"weighed"`
		}
	}
	fact(s, to, post("/tasks/{task}/weigh", "record-weighing", "mix weighed", "Record what was weighed for a mixing"),
		func(c *change, in *weighed) (Recorded, error) {
			return c.record(in.Task, in.Who, Late{}, func(b bench.Bench) (studio.WorkLot, []studio.Movement, error) {
				return b.Weigh(studio.ID(in.Task), studio.ID(in.Person), in.Body.Weighed)
			})
		})
}
