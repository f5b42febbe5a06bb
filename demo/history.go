package demo

import (
	"fmt"
	"math"
	"math/rand/v2"

	"bractum/core/drying"
	"bractum/core/studio"
)

// What is really so at Pellowen Yard, beside what its book says: the loft's petals take
// longer, Teun wires faster, stamens and centres take longer, outer petals break less.
const (
	petalsTake  = 1.22
	teunWires   = 0.78
	centresTake = 1.3
	outerBreaks = 0.03
)

// past is something that was made in the past weeks: how many, how often, and by whom each
// of its steps.
type past struct {
	recipe string
	pieces int64
	lots   int
	mixes  map[string]string
	by     map[string]string
}

// lastOfHistory is an ordinal that no lot of the past goes beyond.
const lastOfHistory = 20

func pastWork() []past {
	return []past{
		{
			recipe: "Magnolia outer petal",
			pieces: 22,
			lots:   9,
			mixes:  map[string]string{"petal": "Ferry blush", "dust": "Ember dust"},
			by:     map[string]string{"cut": "Teun", "wire": "Teun", "set": "Ishaan", "dust": "Maren"},
		},
		{
			recipe: "Magnolia inner petal",
			pieces: 18,
			lots:   7,
			mixes:  map[string]string{"inner petal": "Ferry blush deep", "dust": "Ember dust"},
			by:     map[string]string{"cut": "Ishaan", "wire": "Teun", "set": "Teun", "dust": "Brisa"},
		},
		{
			recipe: "Waxflower blossom",
			pieces: 48,
			lots:   8,
			mixes:  map[string]string{"petal": "Buoy apricot"},
			by:     map[string]string{"pull": "Odalys", "centre": "Teun"},
		},
		{
			recipe: "Eucalyptus leaf",
			pieces: 30,
			lots:   6,
			mixes:  map[string]string{"leaf": "Slate leaf", "leaf dust": "Leaf dust"},
			by:     map[string]string{"cut": "Ishaan", "lay": "Ishaan", "dust": "Maren"},
		},
		{
			recipe: "Ranunculus core",
			pieces: 10,
			lots:   6,
			mixes:  map[string]string{"core": "Centre white"},
			by:     map[string]string{"form": "Teun"},
		},
	}
}

// History are the lots that were made, and used up, in the three weeks before the demo's
// now, in the air that was measured: who did what in how long, what broke, and what was
// found by touch.
func History(doc *studio.Document, air drying.Room, calendar studio.Calendar) []studio.WorkLot {
	h := historian{
		doc:      doc,
		book:     studio.NewBook(doc),
		air:      air,
		calendar: calendar,
		random:   rand.New(rand.NewPCG(2027, 9)),
	}
	var lots []studio.WorkLot
	for i, m := range pastWork() {
		for n := range m.lots {
			day := doc.Now - studio.Minute(1440*(19-n*18/m.lots)) + studio.Minute(17*i)
			lots = append(lots, h.lot(m, n, day))
		}
	}
	return lots
}

type historian struct {
	doc      *studio.Document
	book     *studio.Book
	air      drying.Room
	calendar studio.Calendar
	random   *rand.Rand
}

func (h *historian) noise(spread float64) float64 { return math.Exp(spread * h.random.NormFloat64()) }

func (h *historian) lot(m past, n int, at studio.Minute) studio.WorkLot {
	r := h.book.Recipe(ID(m.recipe))
	w := studio.WorkLot{
		ID:      ID(fmt.Sprint("past lot of ", m.recipe, n)),
		Recipe:  r.ID,
		Ordinal: n + 1,
		Need:    m.pieces - 3,
		Started: m.pieces,
		Mixes:   map[string]studio.ID{},
	}
	for slot, mix := range m.mixes {
		w.Mixes[slot] = ID(mix)
	}
	alive := m.pieces
	for i, step := range r.Steps {
		if step.Wait != nil {
			at = h.dries(&w, r, i, at)
			continue
		}
		var record studio.TaskRecord
		record, at = h.works(r, step, m.by[step.Key], alive, at)
		alive -= record.Broken
		w.Records = append(w.Records, record)
	}
	return w
}

// works is a task as it went, from the next working minute of its person on.
func (h *historian) works(
	r *studio.Recipe,
	step studio.Step,
	name string,
	pieces int64,
	at studio.Minute,
) (studio.TaskRecord, studio.Minute) {
	var person studio.Person
	for _, p := range h.doc.People {
		if p.ID == ID(name) {
			person = p
		}
	}
	times := h.noise(0.12)
	switch {
	case name == "Teun" && step.Work.Skill == "wiring":
		times *= teunWires
	case step.Key == "centre":
		times *= centresTake
	}
	takes := studio.Minute(
		math.Ceil(
			float64(
				r.Effort(step.Work, true, pieces),
			) / 1000 * 100 / float64(
				max(60, person.Pace(step.Work.Skill)),
			) * times,
		),
	)
	hours := studio.HoursOf(person, h.calendar, at, at+20*1440)
	start, _ := hours.Next(at)
	end, _, _ := hours.Advance(start, max(1, takes))
	record := studio.TaskRecord{
		Step:   step.Key,
		State:  studio.TaskDone,
		Person: person.ID,
		Start:  start,
		End:    end,
		Good:   pieces,
	}
	rate := float64(r.Spares.Breakage) / 1000 / 2
	if r.ID == ID("Magnolia outer petal") {
		rate = outerBreaks / 2
	}
	for range pieces {
		if h.random.Float64() < rate {
			record.Good, record.Broken = record.Good-1, record.Broken+1
		}
	}
	return record, end
}

// dries is a wait as it went: people who are there touch it now and then until it is as far
// as it has to be.
func (h *historian) dries(w *studio.WorkLot, r *studio.Recipe, wait int, down studio.Minute) studio.Minute {
	step := r.Steps[wait]
	if step.Wait.Class == "" {
		return down + step.Wait.Minutes
	}
	d := studio.Known(h.doc, h.book, &studio.Lot{ID: w.ID, Recipe: w.Recipe, Mixes: w.Mixes}, wait, step.Wait.State)
	takes := h.noise(0.2)
	if d.Class == ID("thin petal") {
		takes *= petalsTake
	}
	clock := h.air.Clock(d.Class, d.In)
	need := int64(float64(h.air.Standard(*d, 50)) * takes)
	there, ok := clock.Ready(down, need)
	if !ok {
		there = down + 2880
	}
	everyone := h.doc.Everyone(h.calendar)
	class := h.air.Class(d.Class)
	for at := down; ; {
		next, open := everyone.Next(at + 90 + studio.Minute(h.random.IntN(80)))
		if !open || next >= h.doc.Now {
			return max(down, min(there, h.doc.Now-200))
		}
		at = next
		found := studio.FoundSoft
		switch passed := clock.At(at) - clock.At(down); {
		case at >= there:
			found = studio.FoundDry
			if step.Wait.State == studio.Firm {
				found = studio.FoundFirm
			}
		case passed*class.DryMinutes > need*class.FirmMinutes && step.Wait.State == studio.Dry:
			found = studio.FoundFirm
		}
		w.Checks = append(w.Checks, studio.Check{Step: step.Key, At: at, Person: ID("Maren"), Found: found})
		if at >= there {
			return at
		}
	}
}
