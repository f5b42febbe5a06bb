package api

import (
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/studio"
	"bractum/store"
)

func (s *Service) registerTimers(to huma.API) {
	type startTimer struct {
		Who
		Body struct {
			Name    string        `json:"name" minLength:"1" maxLength:"80"`
			Minutes studio.Minute `json:"minutes" minimum:"1" maximum:"2880"`
		}
	}
	command(to, http.MethodPost, "/timers", "start-timer", "Start a timer by hand", func(ctx context.Context, in *startTimer) (Moved, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return Moved{}, err
		}
		done, err := s.do(ctx, in.Who, "timer started", func(tx *store.Tx) (any, error) {
			tx.Summary = fmt.Sprintf("Timer started: %s, %d min", in.Body.Name, in.Body.Minutes)
			return Moved{}, tx.StartTimer(store.Timer{ID: newID(), Name: in.Body.Name, Person: studio.ID(in.Person), Started: at.now, Ends: at.now + in.Body.Minutes})
		})
		return Moved{done.N}, err
	})
	type stopTimer struct {
		Who
		Timer studio.ID `path:"timer"`
	}
	command(to, http.MethodPost, "/timers/{timer}/stop", "stop-timer", "Stop a timer", func(ctx context.Context, in *stopTimer) (Moved, error) {
		done, err := s.do(ctx, in.Who, "timer stopped", func(tx *store.Tx) (any, error) {
			timer, err := tx.StopTimer(in.Timer)
			tx.Summary = "Timer stopped: " + timer.Name
			return Moved{}, err
		})
		return Moved{done.N}, err
	})
}
