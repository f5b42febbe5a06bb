package demo

import (
	"fmt"
	"time"

	"bractum/core/studio"
)

// Begin moves a document of the demo so that its now is half past eight on another day, by
// whole days: what was so many days ago still is, and orders leave as many days ahead. What
// is fixed to a weekday is so to the new one.
func Begin(doc *studio.Document, day time.Time) error {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return err
	}
	now := calendar.Time(doc.Now)
	days := int(time.Date(day.Year(), day.Month(), day.Day(), 0, 0, 0, 0,
		time.UTC).Sub(time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, time.UTC)).Hours() / 24)
	doc.Epoch = doc.Epoch.AddDate(0, 0, days)
	if calendar, err = studio.NewCalendar(doc.Epoch, doc.Zone); err != nil {
		return err
	}
	doc.Now = calendar.At(studio.Date(day.Format(time.DateOnly)), 8*60+30)
	for i := range doc.Orders {
		leaves, err := time.Parse("2006-01-02T15:04", string(doc.Orders[i].Leaves))
		if err != nil {
			return fmt.Errorf("order %q: %w", doc.Orders[i].Name, err)
		}
		doc.Orders[i].Leaves = studio.WallTime(leaves.AddDate(0, 0, days).Format("2006-01-02T15:04"))
	}
	for i := range doc.People {
		away := make([]studio.Date, len(doc.People[i].Away))
		for k, was := range doc.People[i].Away {
			off, err := time.Parse(time.DateOnly, string(was))
			if err != nil {
				return fmt.Errorf("%s is away on %q: %w", doc.People[i].Name, was, err)
			}
			away[k] = studio.Date(off.AddDate(0, 0, days).Format(time.DateOnly))
		}
		doc.People[i].Away = away
	}
	return nil
}
