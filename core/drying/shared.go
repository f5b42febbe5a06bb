package drying

import (
	"slices"
	"sync"

	"bractum/core/studio"
)

// airing is all that clocks are made of, and the clocks.
type airing struct {
	calendar     studio.Calendar
	since, until studio.Minute // whole hours
	climate      []studio.Air
	surroundings []studio.Surroundings
	readings     []studio.Reading
	stalls       []studio.PerMille
	clocks       map[key]*Clock
}

// shared are the clocks that were asked for last, newest first. What they are made of does
// not change while a studio's clock runs on within the hour, nor by anything that is
// recorded but the air.
var shared struct {
	sync.Mutex
	airings []airing
}

// mostAirings is how many are kept: of what is accepted, wished, and tried.
const mostAirings = 4

// clocksOf are the clocks of a document by surroundings and stall humidity. They are made
// once for all documents of the same air; a comparison takes O(readings).
func clocksOf(doc *studio.Document, calendar studio.Calendar, since studio.Minute) map[key]*Clock {
	of := airing{calendar: calendar, since: since, until: 60 * studio.CeilDiv(max(doc.Horizon(), since+60), 60),
		climate: doc.Climate, surroundings: doc.Surroundings, readings: doc.Readings}
	for _, class := range doc.DryingClasses {
		of.stalls = append(of.stalls, class.StallHumidity)
	}
	slices.Sort(of.stalls)
	of.stalls = slices.Compact(of.stalls)
	shared.Lock()
	defer shared.Unlock()
	i := slices.IndexFunc(shared.airings, of.same)
	if i < 0 {
		of.clocks = of.made(doc)
		of.climate, of.readings = slices.Clone(of.climate), slices.Clone(of.readings) // nobody changes them
		of.surroundings = slices.Clone(of.surroundings)
		for i := range of.surroundings {
			of.surroundings[i].Hours = slices.Clone(of.surroundings[i].Hours)
		}
	} else {
		of = shared.airings[i]
		shared.airings = slices.Delete(shared.airings, i, i+1)
	}
	shared.airings = slices.Insert(shared.airings, 0, of)
	shared.airings = shared.airings[:min(mostAirings, len(shared.airings))]
	return of.clocks
}

func (a *airing) same(b airing) bool {
	return a.calendar == b.calendar && a.since == b.since && a.until == b.until && slices.Equal(a.stalls, b.stalls) &&
		slices.Equal(a.climate, b.climate) && slices.Equal(a.readings, b.readings) &&
		slices.EqualFunc(a.surroundings, b.surroundings, func(a, b studio.Surroundings) bool {
			return a.ID == b.ID && slices.Equal(a.Hours, b.Hours)
		})
}

func (a *airing) made(doc *studio.Document) map[key]*Clock {
	clocks := map[key]*Clock{}
	places := []studio.ID{""}
	for _, s := range doc.Surroundings {
		places = append(places, s.ID)
	}
	for _, in := range places {
		air := Hourly(doc, a.calendar, in, a.since, a.until)
		for _, stall := range a.stalls {
			clock := NewClock(a.since, air, stall)
			clocks[key{in: in, stall: stall}] = &clock
		}
	}
	return clocks
}
