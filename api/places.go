package api

import (
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/book"
	"bractum/core/room"
	"bractum/core/studio"
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
	command(to, http.MethodPost, "/places", "add-place", "A kind of former, rack, rail, foam block or box more", func(ctx context.Context, in *addPlace) (Moved, error) {
		return facts(ctx, s, func(at *situation) (Moved, error) {
			p := studio.Place{ID: newID(), Name: in.Body.Name, Slots: in.Body.Slots, In: in.Body.In}
			if err := room.CheckPlace(at.inForce.doc, p); err != nil {
				return Moved{}, err
			}
			done, err := s.do(ctx, in.Who, "place added", func(tx *store.Tx) (any, error) {
				tx.Summary = fmt.Sprintf("%s: %d slots are there", p.Name, p.Slots)
				return Moved{}, tx.TakeIn(&book.Bundle{Places: []studio.Place{p}})
			})
			return Moved{done.N}, err
		})
	})
	type changePlace struct {
		Who
		Place studio.ID `path:"place"`
		Body  placed
	}
	command(to, http.MethodPut, "/places/{place}", "change-place", "Another name, number of slots or surroundings", func(ctx context.Context, in *changePlace) (Moved, error) {
		return facts(ctx, s, func(at *situation) (Moved, error) {
			p := studio.Place{ID: in.Place, Name: in.Body.Name, Slots: in.Body.Slots, In: in.Body.In}
			if err := room.CheckPlace(at.inForce.doc, p); err != nil {
				return Moved{}, err
			}
			done, err := s.do(ctx, in.Who, "place changed", func(tx *store.Tx) (any, error) {
				tx.Summary = fmt.Sprintf("%s: %d slots from now on", p.Name, p.Slots)
				return Moved{}, tx.ChangePlace(p)
			})
			return Moved{done.N}, err
		})
	})
	type removePlace struct {
		Who
		Place studio.ID `path:"place"`
	}
	command(to, http.MethodDelete, "/places/{place}", "remove-place", "A kind of place that is not used any more", func(ctx context.Context, in *removePlace) (Moved, error) {
		return facts(ctx, s, func(at *situation) (Moved, error) {
			p, err := room.Remove(at.latestAnswer().doc, at.inForce.plan, in.Place)
			if err != nil {
				return Moved{}, err
			}
			done, err := s.do(ctx, in.Who, "place removed", func(tx *store.Tx) (any, error) {
				if err := at.unchanged(tx); err != nil {
					return nil, err
				}
				tx.Summary = p.Name + " is not there any more"
				return Moved{}, tx.RemovePlace(p.ID)
			})
			return Moved{done.N}, err
		})
	})
}
