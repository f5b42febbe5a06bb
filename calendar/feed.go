package calendar

import (
	"bytes"
	"time"

	ics "github.com/arran4/golang-ical"
)

// Event is one of a feed. Its UID stays the same however it changes; Sequence grows as it does.
type Event struct {
	UID                         string
	From, To                    time.Time
	Summary, Description, Where string
	Sequence                    int
	Cancelled, Tentative, Aside bool // aside: it takes nobody's time
}

// Feed is an iCalendar file (RFC 5545) of events, all in UTC, by a name, as it stands at a moment.
func Feed(name string, at time.Time, events []Event) []byte {
	c := ics.NewCalendar()
	c.SetMethod(ics.MethodPublish)
	c.SetProductId("-//Bractum//EN")
	c.SetXWRCalName(name)
	for _, e := range events {
		v := c.AddEvent(e.UID)
		v.SetDtStampTime(at)
		v.SetStartAt(e.From)
		v.SetEndAt(e.To)
		v.SetSummary(e.Summary)
		v.SetSequence(e.Sequence)
		if e.Description != "" {
			v.SetDescription(e.Description)
		}
		if e.Where != "" {
			v.SetLocation(e.Where)
		}
		if e.Aside {
			v.SetTimeTransparency(ics.TransparencyTransparent)
		}
		switch {
		case e.Cancelled:
			v.SetStatus(ics.ObjectStatusCancelled)
		case e.Tentative:
			v.SetStatus(ics.ObjectStatusTentative)
		default:
			v.SetStatus(ics.ObjectStatusConfirmed)
		}
	}
	var out bytes.Buffer
	_ = c.SerializeTo(&out) // a buffer takes everything
	return out.Bytes()
}
