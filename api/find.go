package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/studio"
	"bractum/find"
)

// mostFound is how many things one search shows: more are not read, a letter more is typed.
const mostFound = 24

func (s *Service) registerFind(to huma.API) {
	type looking struct {
		Text string `query:"text" maxLength:"200" doc:"a few letters of a name, or what the code of a label says"`
	}
	ask(s, to, get("/find", "find-anything", "Where something is: orders, recipes, lots, materials, people, places"),
		func(_ context.Context, at *moment, in *looking) ([]find.Hit, error) {
			orders := make([]studio.Order, len(at.Orders))
			for i, state := range at.Orders {
				orders[i] = state.Order
			}
			return find.Of(find.Things(at.inForce.Doc, orders), in.Text, mostFound), nil
		})
}
