package api

import (
	"context"
	"errors"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/studio"
	"bractum/store"
)

// HealthView is what whoever sits at a screen should know of the computer that Bractum runs on: what is safe, and
// what to do. Nothing where all is well.
type HealthView struct {
	Says []studio.Said `json:"says"`
	Zone string        `json:"zone" doc:"whose times are shown"`
	At   *time.Time    `json:"at,omitempty" doc:"what time it is there; none where the clock is not the computer's"`
}

const (
	// clockMayLag is by how many minutes the clock may be behind what was recorded last: clocks are set by a little.
	clockMayLag studio.Minute = 3
	// longSilence is after how long without any entry a clock may be taken to be ahead.
	longSilence studio.Minute = 45 * 1440
	// clocksChangeWithin is how long before it a change to or from summer time is told.
	clocksChangeWithin studio.Minute = 7 * 1440
)

func (s *Service) registerHealth(to huma.API) {
	read(to, get("/health", "get-health", "What is not as it should be with the computer, its clock and the file"),
		func(ctx context.Context, _ *none) (HealthView, error) {
			v := HealthView{Says: []studio.Said{}}
			var broken store.Broken
			if errors.As(s.store.InPlace(), &broken) {
				v.Says = append(v.Says, broken.Said)
				return v, nil
			}
			at, err := s.now(ctx)
			if errors.Is(err, store.ErrEmpty) {
				return v, nil
			}
			if err != nil {
				return v, err
			}
			v.Zone = at.inForce.Doc.Zone
			if at.Stands != nil {
				return v, nil
			}
			last, err := s.store.LastMinute(ctx)
			if err != nil {
				return v, err
			}
			now, calendar := at.Now, at.Calendar
			moment := calendar.Time(now)
			v.At = &moment
			v.Says = append(v.Says, clockSays(calendar, now, last)...)
			return v, nil
		})
}

// clockSays is what may be wrong with a clock, and whether it is about to change, given when something was recorded
// last.
func clockSays(calendar studio.Calendar, now, last studio.Minute) (says []studio.Said) {
	const form = "2 January 2006, 15:04"
	switch {
	case now < last-clockMayLag:
		says = append(
			says,
			studio.Say("This computer's clock says %s, and something was recorded here at %s already: the "+
				"clock is wrong, or was. What is recorded now has a wrong time; nothing is lost. "+
				"Set the clock of the computer.",
				calendar.Time(now).Format(form), calendar.Time(last).Format(form)),
		)
	case now > last+longSilence:
		says = append(says, studio.Say("Nothing has been recorded here since %s. If somebody has worked since, this "+
			"computer's clock is wrong: set it before you go on.", calendar.Time(last).Format(form)))
	}
	_, offset := calendar.Time(now).Zone()
	for at := now; at <= now+clocksChangeWithin; at += 30 {
		moment := calendar.Time(at)
		if _, then := moment.Zone(); then != offset {
			day := moment.Format("Monday 2 January")
			if then > offset {
				return append(says, studio.Say(
					"The clocks go forward on %s: that night is shorter, and the plan reckons with it.", day))
			}
			return append(says, studio.Say(
				"The clocks go back on %s: that night is longer, and the plan reckons with it.", day))
		}
	}
	return says
}
