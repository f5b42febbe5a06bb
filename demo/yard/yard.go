// Package yard opens Pellowen Yard as a running studio: its document, the air that its
// stand-in sensors measured, and the work of the weeks before.
package yard

import (
	"context"
	"errors"
	"time"

	"bractum/core/drying"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/outside"
	"bractum/standin/hygrometer"
	"bractum/store"
	"bractum/web"
)

// Seed fills an empty file with the demo and its past.
func Seed(ctx context.Context, s *store.Store) error {
	doc, err := plan.WeighedOnce(demo.AtWork())
	if err != nil {
		return err
	}
	if err := s.Seed(ctx, doc, true); err != nil {
		return err
	}
	a := web.New(
		s,
		func(_ studio.Calendar, standing *studio.Minute) studio.Minute { return *standing },
		outside.Services{},
	)
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return err
	}
	now := calendar.Time(doc.Now)
	for _, h := range hygrometer.Harbour() {
		err = errors.Join(
			err,
			h.Recall(
				now.AddDate(0, 0, -demo.DaysMeasured),
				now,
				func(pack []byte) error { return a.Receive(ctx, pack) },
			),
		)
	}
	if err != nil {
		return err
	}
	past, err := s.History(ctx, doc.Now, 0)
	if err != nil {
		return err
	}
	return s.SeedHistory(ctx, demo.History(past, drying.NewRoomSince(past, calendar, 0), calendar))
}

// Follow has the stand-in sensors send to an address as the studio's clock goes on.
func Follow(ctx context.Context, address string, now func() (time.Time, error)) {
	for _, h := range hygrometer.Harbour() {
		go h.Follow(ctx, address, now)
	}
}
