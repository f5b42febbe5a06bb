package api

import (
	"context"
	"fmt"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/plan"
	"bractum/core/scene"
	"bractum/core/studio"
	"bractum/store"
)

// SceneView is a plan beside what a scene makes of it.
type SceneView struct {
	Orders  []SceneOrder  `json:"orders"`
	Hours   []SceneFigure `json:"hours" doc:"minutes that people work from now on, where they differ"`
	Buys    []SceneFigure `json:"buys" doc:"packs to buy, where they differ"`
	Was     CostView      `json:"was"`
	Is      CostView      `json:"is"`
	Moves   plan.Change   `json:"moves"`
	Decided bool          `json:"decided" doc:"true where the studio can make all of it real"`
}

// SceneOrder is how an order stands as it is planned and in a scene.
type SceneOrder struct {
	scene.OrderBeside
	Name string `json:"name"`
}

// SceneFigure is a number as it is planned and in a scene.
type SceneFigure struct {
	scene.Figures
	Name string `json:"name"`
}

// CostView is what all orders cost together.
type CostView struct {
	Labour    studio.Money `json:"labour"`
	Materials studio.Money `json:"materials"`
	House     studio.Money `json:"house"`
	Beside    studio.Money `json:"beside" doc:"boxes and deliveries"`
	Total     studio.Money `json:"total"`
}

// SceneBody are the changes of a scene.
type SceneBody struct {
	Changes []scene.If `json:"changes" minItems:"1" maxItems:"40"`
}

func (s *Service) registerScenes(to huma.API) {
	read(to, get("/scenes", "list-scenes", "Scenes that are kept: what the studio would be if"),
		func(ctx context.Context, _ *none) ([]store.Scene, error) { return s.store.Scenes(ctx) })
	type try struct{ Body SceneBody }
	beside(s, to, post("/scenes/try", "try-scene", "", "What would be if: plan beside plan; nothing is written"),
		func(ctx context.Context, at *moment, in *try) (SceneView, error) {
			a := at.latestAnswer()
			b, err := scene.Try(a.Doc, a.Plan, at.inForce.Plan, in.Body.Changes, ctx.Done())
			if err != nil {
				return SceneView{}, asProblem(err)
			}
			return at.sceneView(b, in.Body.Changes), nil
		})
	type keepScene struct {
		Who
		ID   studio.ID `path:"id" format:"uuid"`
		Seen int64     `header:"If-Match" required:"true" doc:"the version that was seen, 0 for a new scene"`
		Body struct {
			SceneBody
			Name string `json:"name" minLength:"1" maxLength:"80"`
		}
	}
	fact(s, to, put("/scenes/{id}", "keep-scene", "scene kept", "Keep a scene by name"),
		func(c *change, in *keepScene) (Entered, error) {
			if _, err := scene.With(c.at.latestAnswer().Doc, in.Body.Changes); err != nil {
				return Entered{}, asProblem(err)
			}
			c.Summary = fmt.Sprintf("Scene %q kept", in.Body.Name)
			kept, err := c.PutScene(
				store.Scene{ID: in.ID, Version: in.Seen, Name: in.Body.Name, Changes: in.Body.Changes},
			)
			return Entered{ID: in.ID, Version: kept.Version, N: c.N()}, err
		})
	type one struct {
		Who
		Sees
		ID studio.ID `path:"id" format:"uuid"`
	}
	fact(s, to, post("/scenes/{id}/drop", "drop-scene", "scene dropped", "Let go of a scene"),
		func(c *change, in *one) (Moved, error) {
			c.Summary = "Scene dropped"
			return Moved{c.N()}, c.DropScene(in.ID, in.IfMatch)
		})
	type real struct {
		Who
		Body SceneBody
	}
	fact(s, to, post("/scenes/real", "make-scene-real", "scene made real",
		"Make real what a scene says of people, things and orders; the plan that makes awaits acceptance"),
		func(c *change, in *real) (Moved, error) {
			doc := c.at.latestAnswer().Doc
			for i, k := range in.Body.Changes {
				if !k.Decided() {
					return Moved{}, studio.Refuse("change %d is not the studio's to make real; leave it out", i+1)
				}
			}
			is, err := scene.With(doc, in.Body.Changes)
			if err != nil {
				return Moved{}, asProblem(err)
			}
			c.Summary = fmt.Sprintf("A scene of %d changes made real", len(in.Body.Changes))
			return Moved{c.N()}, c.makeReal(doc, is)
		})
}

// sceneView is a plan beside that of a scene, with names.
func (at *moment) sceneView(b *scene.Beside, changes []scene.If) SceneView {
	a := at.latestAnswer()
	v := SceneView{Orders: []SceneOrder{}, Hours: []SceneFigure{}, Buys: []SceneFigure{}, Moves: b.Moves,
		Decided: !slices.ContainsFunc(changes, func(c scene.If) bool { return !c.Decided() })}
	for _, o := range b.Orders {
		one := SceneOrder{OrderBeside: o, Name: at.orderName(o.Order)}
		for _, in := range b.Doc.Orders {
			if in.ID == o.Order {
				one.Name = in.Name
			}
		}
		v.Orders = append(v.Orders, one)
	}
	for _, h := range b.Hours {
		name := string(h.Of)
		for _, p := range b.Doc.People {
			if p.ID == h.Of {
				name = p.Name
			}
		}
		v.Hours = append(v.Hours, SceneFigure{h, name})
	}
	for _, f := range b.Buys {
		v.Buys = append(v.Buys, SceneFigure{f, a.material(f.Of)})
	}
	v.Was = CostView{b.Was.Labour, b.Was.Materials, b.Was.House, b.Was.Box + b.Was.Delivery, b.Was.Total}
	v.Is = CostView{b.Is.Labour, b.Is.Materials, b.Is.House, b.Is.Box + b.Is.Delivery, b.Is.Total}
	return v
}
