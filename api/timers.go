package api

import (
	"fmt"

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
	fact(s, to, post("/timers", "start-timer", "timer started", "Start a timer by hand"),
		func(c *change, in *startTimer) (Moved, error) {
			c.Summary = fmt.Sprintf("Timer started: %s, %d min", in.Body.Name, in.Body.Minutes)
			return Moved{c.N()}, c.StartTimer(store.Timer{ID: newID(), Name: in.Body.Name,
				Person: studio.ID(in.Person), Started: c.Now(), Ends: c.Now() + in.Body.Minutes})
		})
	type stopTimer struct {
		Who
		Timer studio.ID `path:"timer"`
	}
	fact(s, to, post("/timers/{timer}/stop", "stop-timer", "timer stopped", "Stop a timer"),
		func(c *change, in *stopTimer) (Moved, error) {
			timer, err := c.StopTimer(in.Timer)
			c.Summary = "Timer stopped: " + timer.Name
			return Moved{c.N()}, err
		})
}
