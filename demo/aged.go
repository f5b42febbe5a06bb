package demo

import (
	"time"

	"bractum/core/studio"
)

// Aged is a demo document, or a season, of a studio that began so much earlier: its epoch
// lies further back, and everything happens at the same time of the same day. By is whole
// days.
func Aged(doc *studio.Document, by studio.Minute) *studio.Document {
	doc.Epoch = doc.Epoch.Add(-time.Duration(by) * time.Minute)
	later := func(m *studio.Minute) {
		if m != nil {
			*m += by
		}
	}
	later(&doc.Now)
	for i := range doc.Readings {
		doc.Readings[i].Hour += int64(by / 60)
	}
	for i := range doc.Gates {
		later(doc.Gates[i].Opens)
	}
	for i := range doc.Shelf {
		later(&doc.Shelf[i].MadeOn)
		later(doc.Shelf[i].UseBy)
	}
	for i := range doc.Pins {
		later(doc.Pins[i].Start)
	}
	return doc
}
