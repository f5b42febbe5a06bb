package climate

import (
	"slices"

	"bractum/core/drying"
	"bractum/core/studio"
)

// Air is the air of all places that plans reckon with. It was made at the hour Made; the
// room goes by the empty id.
type Air struct {
	Made     int64                      `json:"made"`
	Usual    map[studio.ID][]studio.Air `json:"usual,omitempty"`
	Readings []studio.Reading           `json:"readings,omitempty"`
	Words    []Word                     `json:"words,omitempty"`
	// Moved is what taking it moved in the plan; nil where none was in force.
	Moved *PlanMoved `json:"moved,omitempty"`
}

// PlanMoved is what another air moves in a plan: how many tasks, and by how much the slack of
// orders grows, or shrinks where it is less than nothing.
type PlanMoved struct {
	Tasks int64        `json:"tasks"`
	Slack []SlackMoved `json:"slack,omitempty"`
}

// SlackMoved is by how much an order has more slack, or less.
type SlackMoved struct {
	Order studio.ID     `json:"order"`
	Name  string        `json:"name"`
	By    studio.Minute `json:"byMinutes"`
}

// How far back and ahead of now the air is laid out hour by hour; beyond, it is as usual.
const (
	Behind = 14 * 24 // hours
	Coming = 72      // hours
)

// Into puts the air into a document: the usual day of each place, and its hours.
func (a Air) Into(doc *studio.Document) {
	if usual := a.Usual[""]; len(usual) == 24 {
		doc.Climate = usual
	}
	doc.Surroundings = slices.Clone(doc.Surroundings)
	for i := range doc.Surroundings {
		if usual := a.Usual[doc.Surroundings[i].ID]; len(usual) == 24 {
			doc.Surroundings[i].Hours = usual
		}
	}
	if len(a.Readings) > 0 {
		doc.Readings = a.Readings
	}
}

// Places are the room and what of the studio has air of its own, with the standing profile
// of each.
func Places(doc *studio.Document) map[studio.ID][]studio.Air {
	places := map[studio.ID][]studio.Air{"": doc.Climate}
	for _, s := range doc.Surroundings {
		places[s.ID] = s.Hours
	}
	return places
}

// Take makes the air of a document's places from what their sensors measured. The words
// of the lead count where the air is not shut in. Of a place where nothing is measured and
// nothing was said, all stays as the document has it.
func Take(doc *studio.Document, calendar studio.Calendar, measured map[studio.ID][][]Hour, words []Word) Air {
	hour := int64(doc.Now / 60)
	air := Air{Made: hour, Usual: map[studio.ID][]studio.Air{}}
	for _, w := range words {
		if w.Until > doc.Now {
			air.Words = append(air.Words, w)
		}
	}
	places := []studio.ID{""}
	for _, s := range doc.Surroundings {
		places = append(places, s.ID)
	}
	for _, in := range places {
		silent := !slices.ContainsFunc(measured[in], func(hours []Hour) bool { return len(hours) > 0 })
		if silent && (len(air.Words) == 0 || shut(doc, in)) {
			air.Readings = append(air.Readings, stated(doc, in)...)
			continue
		}
		c := CurveOf(doc, calendar, in, measured[in], air.Words, hour-Behind, hour+Coming)
		air.Usual[in] = c.Usual
		air.Readings = append(air.Readings, c.Readings(in)...)
	}
	return air
}

// stated are the readings that a document has of a place.
func stated(doc *studio.Document, in studio.ID) (readings []studio.Reading) {
	for _, r := range doc.Readings {
		if r.In == in {
			readings = append(readings, r)
		}
	}
	return readings
}

// shut is true of surroundings that let no damp in.
func shut(doc *studio.Document, in studio.ID) bool {
	return slices.ContainsFunc(doc.Surroundings, func(s studio.Surroundings) bool { return s.ID == in && s.Closed })
}

// CurveOf lays out the air of one place over the hours [from, to).
func CurveOf(
	doc *studio.Document,
	calendar studio.Calendar,
	in studio.ID,
	measured [][]Hour,
	words []Word,
	from, to int64,
) Curve {
	around := Around{Profile: Places(doc)[in], Words: words}
	around.Measured, _ = Together(measured...)
	if shut(doc, in) {
		around.Words = nil
	}
	for _, w := range around.Words {
		to = max(to, int64(studio.CeilDiv(w.Until, 60)))
	}
	return Make(around, calendar, doc.Now, max(0, from), to)
}

// Matters is the difference in standard drying time beyond which plans are made anew
// for a change of the air.
const Matters = studio.Minute(15)

// Departs is true when what dries would notice that a document's air is another: over the
// last day and the next, some clock of it comes to more than Matters sooner or later.
func Departs(doc *studio.Document, calendar studio.Calendar, fresh Air) bool {
	other := *doc
	fresh.Into(&other)
	from, to := max(0, doc.Now-1440)/60*60, doc.Now+1440
	for in := range Places(doc) {
		was, is := drying.Hourly(doc, calendar, in, from, to), drying.Hourly(&other, calendar, in, from, to)
		stalls := map[studio.PerMille]bool{}
		for _, class := range doc.DryingClasses {
			stalls[class.StallHumidity] = true
		}
		for stall := range stalls {
			a, b := drying.NewClock(from, was, stall), drying.NewClock(from, is, stall)
			for t := from; t <= to; t += 60 {
				if off := (a.At(t) - a.At(from)) - (b.At(t) - b.At(from)); max(off, -off) > int64(Matters)*1000 {
					return true
				}
			}
		}
	}
	return false
}

// stale is after how many hours the air is taken anew though it is as it was expected.
const stale = 24

// Due is true when plans should reckon with a fresh air instead of the one in use: what dries
// would notice, or that one is a day old.
func Due(doc *studio.Document, calendar studio.Calendar, inUse, fresh Air) bool {
	return Departs(doc, calendar, fresh) || inUse.Made > 0 && fresh.Made-inUse.Made >= stale
}

// Stall is the lowest humidity at which something that dries here no longer does: 80 % where
// nothing does.
func Stall(doc *studio.Document) studio.PerMille {
	stall := studio.PerMille(1000)
	for _, class := range doc.DryingClasses {
		stall = min(stall, class.StallHumidity)
	}
	if len(doc.DryingClasses) == 0 {
		return 800
	}
	return stall
}
