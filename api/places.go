package api

import (
	"context"
	"fmt"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/book"
	"bractum/core/room"
	"bractum/core/studio"
	"bractum/core/workshop"
	"bractum/store"
)

func (s *Service) registerPlaces(to huma.API) {
	type placed struct {
		Name  string    `json:"name" minLength:"1" maxLength:"80"`
		Slots int64     `json:"slots" minimum:"1" maximum:"100000"`
		In    studio.ID `json:"in,omitempty" doc:"the surroundings it stands in, the room if empty"`
	}
	type addPlace struct {
		Who
		Body placed
	}
	fact(s, to, post("/places", "add-place", "place added", "A kind of former, rack, rail, foam block or box more"),
		func(c *change, in *addPlace) (Moved, error) {
			p := studio.Place{ID: newID(), Name: in.Body.Name, Slots: in.Body.Slots, In: in.Body.In}
			if err := room.CheckPlace(c.at.inForce.Doc, p); err != nil {
				return Moved{}, err
			}
			c.Summary = fmt.Sprintf("%s: %d slots are there", p.Name, p.Slots)
			return Moved{c.N()}, c.TakeIn(&book.Bundle{Places: []studio.Place{p}})
		})
	type changePlace struct {
		Who
		Place studio.ID `path:"place"`
		Body  placed
	}
	fact(s, to, put("/places/{place}", "change-place", "place changed",
		"Another name, number of slots or surroundings"),
		func(c *change, in *changePlace) (Moved, error) {
			is, _ := workshop.Thing(c.at.inForce.Doc, workshop.Places, in.Place)
			if is == nil {
				return Moved{}, store.NotFound{Thing: "this place"}
			}
			p := is.(studio.Place)
			p.Name, p.Slots, p.In = in.Body.Name, in.Body.Slots, in.Body.In
			if err := room.CheckPlace(c.at.inForce.Doc, p); err != nil {
				return Moved{}, err
			}
			c.Summary = fmt.Sprintf("%s: %d slots from now on", p.Name, p.Slots)
			return Moved{c.N()}, c.PutThing(workshop.Places, p.ID, p)
		})
	type removePlace struct {
		Who
		Place studio.ID `path:"place"`
	}
	wish(
		s,
		to,
		remove("/places/{place}", "remove-place", "place removed", "A kind of place that is not used any more"),
		func(_ context.Context, at *moment, in *removePlace) (func(*change) (Moved, error), error) {
			p, err := room.Remove(at.latestAnswer().Doc, at.inForce.Plan, in.Place)
			return func(c *change) (Moved, error) {
				c.Summary = p.Name + " is not there any more"
				return Moved{c.N()}, c.DropThing(workshop.Places, p.ID)
			}, err
		},
	)
}
