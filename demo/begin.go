package demo

import "bractum/core/studio"

// Begin moves a document of the demo so that its now is half past eight on another day, by
// whole days: what was so many days ago still is, and orders leave as many days ahead. What
// is fixed to a weekday is so to the new one.
func Begin(doc *studio.Document, day studio.Date) error {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return err
	}
	days := day.Since(calendar.Date(doc.Now))
	doc.Epoch = doc.Epoch.AddDate(0, 0, days)
	if calendar, err = studio.NewCalendar(doc.Epoch, doc.Zone); err != nil {
		return err
	}
	doc.Now = calendar.At(day, 8*60+30)
	for i := range doc.Orders {
		doc.Orders[i].Leaves = doc.Orders[i].Leaves.Plus(days)
	}
	for i := range doc.People {
		away := make([]studio.Date, len(doc.People[i].Away))
		for k, was := range doc.People[i].Away {
			away[k] = was.Plus(days)
		}
		doc.People[i].Away = away
	}
	return nil
}
