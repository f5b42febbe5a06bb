package api

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"bractum/calendar"
	"bractum/core/bench"
	"bractum/core/studio"
	"bractum/store"
)

// Feeds are calendars that are subscribed to, each opened by a key of its own: a key for one opens no other.
const (
	// handingOver is how long a hand-over takes in a calendar.
	handingOver studio.Minute = 30
	// pastDays is for how long orders that have left or were cancelled stay in the calendar of hand-overs.
	pastDays = 366
)

func (s *Service) registerFeeds(to huma.API) {
	type open struct {
		Key string `query:"key" doc:"a key for this calendar, where the studio is locked"`
	}
	feed := func(name string, events []calendar.Event, at *moment) *file {
		return &file{ContentType: "text/calendar; charset=utf-8", Disposition: "inline",
			Body: calendar.Feed(name, at.Calendar.Time(at.inForce.Doc.Now), events)}
	}
	download(s, to, get("/calendars/hand-overs.ics", "get-hand-overs-calendar", "Hand-overs as a calendar"),
		func(ctx context.Context, at *moment, _ *open) (*file, error) {
			events, err := s.handOvers(ctx, at)
			return feed(at.inForce.Doc.Name, events, at), err
		})
	download(
		s,
		to,
		get("/calendars/drying.ics", "get-drying-calendar", "When what dries or rests is ready, as a calendar"),
		func(_ context.Context, at *moment, _ *open) (*file, error) {
			return feed(at.inForce.Doc.Name, at.drying(), at), nil
		},
	)
	type person struct {
		open
		Person studio.ID `path:"person"`
	}
	download(s, to, get("/calendars/people/{person}.ics", "get-person-calendar", "A maker's work as a calendar"),
		func(_ context.Context, at *moment, in *person) (*file, error) {
			who := studio.ID(strings.TrimSuffix(string(in.Person), ".ics"))
			if at.inForce.person(who) == "" {
				return nil, huma.Error404NotFound("nobody of this name works here")
			}
			return feed(at.inForce.person(who), at.sittings(who), at), nil
		})
}

func uid(of studio.ID, what string) string { return fmt.Sprintf("%s.%s@bractum", of, what) }

// handOvers are the orders that are promised or quoted, and those of the last year that have left or were cancelled.
func (s *Service) handOvers(ctx context.Context, at *moment) ([]calendar.Event, error) {
	all := slices.Clone(at.Orders)
	since := at.Calendar.Date(at.inForce.Doc.Now - pastDays*1440)
	sought := store.Sought{From: since}
	for {
		page, err := s.store.PastOrders(ctx, sought)
		if err != nil {
			return nil, err
		}
		all = append(all, page.Lines...)
		if page.Next == "" {
			break
		}
		sought.After = page.Next
	}
	events := []calendar.Event{}
	for _, state := range all {
		o := state.Order
		leaves := at.Calendar.Minute(o.Leaves)
		var what []string
		for _, l := range o.Lines {
			if r := at.latestAnswer().Book.Recipe(l.Recipe); r != nil {
				what = append(what, fmt.Sprintf("%d %s", l.Quantity, r.Name))
			}
		}
		if len(o.Allergies) > 0 {
			what = append(what, "no "+strings.Join(o.Allergies, ", no "))
		}
		events = append(events, calendar.Event{UID: uid(o.ID, "hand-over"), From: at.Calendar.Time(leaves),
			To: at.Calendar.Time(leaves + handingOver), Summary: o.Name + ", " + o.Leaving, Where: o.Goes,
			Description: strings.Join(what, "\n"), Sequence: int(state.Version),
			Cancelled: o.State == studio.OrderCancelled, Tentative: o.State == studio.OrderQuote})
	}
	return events, nil
}

// sittings are what somebody is to do, one event for what they do in one go.
func (at *moment) sittings(person studio.ID) []calendar.Event {
	a := at.inForce
	events := []calendar.Event{}
	for _, one := range bench.Day(bench.Next(a.Open(person)), a.Doc.Horizon()+studio.MostAhead, at.kindOfWork) {
		var what []string
		for _, t := range one {
			what = append(what, a.named(t.Lot, t.Step))
		}
		summary := what[0]
		if len(one) > 1 {
			summary = fmt.Sprintf("%s and %d more", what[0], len(one)-1)
		}
		events = append(events, calendar.Event{UID: uid(one[0].ID, "work"), From: at.Calendar.Time(one[0].Begin()),
			To: at.Calendar.Time(one[len(one)-1].End), Summary: summary, Description: strings.Join(what, "\n"),
			Sequence: int(at.Version)})
	}
	return events
}

// drying are the waits that are not over.
func (at *moment) drying() []calendar.Event {
	a := at.inForce
	events := []calendar.Event{}
	for _, t := range a.Open("") {
		if l := a.Lots[t.Lot]; l != nil && t.End > t.Start {
			events = append(events, calendar.Event{UID: uid(t.ID, "drying"), From: at.Calendar.Time(t.Start),
				To: at.Calendar.Time(t.End), Summary: a.named(t.Lot, t.Step), Aside: true, Sequence: int(at.Version)})
		}
	}
	return events
}
