package studio

import "slices"

// Found is what somebody found who touched pieces that dry.
type Found string

// What is found by touch: a piece gives, holds its shape, is hard; or it is spoilt.
const (
	FoundSoft   Found = "soft"
	FoundFirm   Found = "firm"
	FoundDry    Found = "dry"
	FoundSpoilt Found = "spoilt"
)

// Reaches is true of what has dried at least so far.
func (f Found) Reaches(s State) bool { return f == FoundDry || f == FoundFirm && s == Firm }

// Check is what somebody found of a lot's pieces at a wait, at a minute. Of spoilt ones
// Pieces are lost. Mistaken is true of a check that a later one contradicts: it is kept,
// and proves nothing.
type Check struct {
	Step     string `json:"step"`
	At       Minute `json:"at"`
	Person   ID     `json:"person"`
	Found    Found  `json:"found"`
	Pieces   int64  `json:"pieces,omitempty"`
	Mistaken bool   `json:"mistaken,omitempty"`
}

// Put says that pieces of a lot which lie in a wait were put elsewhere at a minute: they
// lie in the air of In from then on. Frees are places whose slots they left, Place the one
// of which they take Slots, empty for none of the studio's: a box. In a machine they dry
// for so many minutes whatever the air.
type Put struct {
	Step    string `json:"step"`
	At      Minute `json:"at"`
	Person  ID     `json:"person"`
	In      ID     `json:"in,omitempty"`
	Frees   []ID   `json:"frees,omitempty"`
	Place   ID     `json:"place,omitempty"`
	Slots   int64  `json:"slots,omitempty"`
	Machine ID     `json:"machine,omitempty"`
	Minutes Minute `json:"minutes,omitempty"`
}

// Lain is a span over which a piece has dried in surroundings. NotYet says that it was
// found not to be there yet at its end.
type Lain struct {
	Span
	In     ID   `json:"in,omitempty"`
	NotYet bool `json:"notYet,omitempty"`
}

// Lies is true of a wait that a lot's pieces lie in: what comes before it is done and
// nothing after it was begun.
func (w WorkLot) Lies(r *Recipe, wait int) bool {
	before := wait - 1
	for before >= 0 && r.Steps[before].Wait != nil && r.Steps[before].Wait.Load == nil {
		before--
	}
	if before < 0 {
		return false
	}
	first, _ := r.Task(before)
	if record := w.Record(r.Steps[first].Key); record == nil || record.State != TaskDone {
		return false
	}
	for _, s := range r.Steps[wait:] {
		if w.Record(s.Key) != nil {
			return false
		}
	}
	return true
}

// spoilt is how many pieces were lost in waits before a step of an index.
func (w WorkLot) spoilt(r *Recipe, before int) (pieces int64) {
	for _, c := range w.Checks {
		if _, i := r.Step(c.Step); i < before {
			pieces += c.Pieces
		}
	}
	return pieces
}

// PutDown is the index of the work with which the pieces of a wait were put down, through
// the waits that it continues.
func (r *Recipe) PutDown(wait int) int {
	if w := r.Steps[wait].Wait; w != nil && w.Continues != "" {
		if _, i := r.Step(w.Continues); i >= 0 && i < wait {
			return r.PutDown(i)
		}
	}
	for wait > 0 && r.Steps[wait].Wait != nil {
		wait--
	}
	return wait
}

// lain is where pieces put down with a work step have lain since, up to the last that is
// known of them: what was found by touch or where they were put. Nothing, where nothing
// is. Reached is when they were found to have reached a state.
func (r *router) lain(recipe *Recipe, work *WorkLot, from int, state State, in func(step int) ID) (spans []Lain, reached *Minute) {
	if work == nil {
		return nil, nil
	}
	first, _ := recipe.Task(from)
	down := work.Record(recipe.Steps[first].Key)
	if down == nil || down.State != TaskDone {
		return nil, nil
	}
	type event struct {
		at     Minute
		in     ID
		notYet bool
	}
	var events []event
	known := false
	belongs := func(key string) (int, bool) {
		_, i := recipe.Step(key)
		return i, i > from && recipe.PutDown(i) <= from
	}
	for i := from + 1; i < len(recipe.Steps); i++ { // pieces that the recipe itself has moved
		if recipe.Steps[i].Wait == nil {
			continue
		}
		if before, _ := recipe.Task(i - 1); recipe.PutDown(i) <= from && i > from+1 {
			if moved := work.Record(recipe.Steps[before].Key); moved != nil && moved.State == TaskDone {
				events = append(events, event{at: moved.End, in: in(i)})
			}
		}
	}
	for _, c := range work.Checks {
		if _, here := belongs(c.Step); !here || c.Mistaken || c.Found == FoundSpoilt {
			continue
		}
		if c.Found.Reaches(state) {
			if reached == nil || c.At < *reached {
				reached = &c.At
			}
			continue
		}
		known = true
		events = append(events, event{at: c.At, notYet: true})
	}
	for _, p := range work.Puts {
		if _, here := belongs(p.Step); here && p.Machine == "" {
			known = true
			events = append(events, event{at: p.At, in: p.In})
		}
	}
	if reached != nil || !known {
		return nil, reached
	}
	slices.SortStableFunc(events, func(a, b event) int { return int(a.at - b.at) })
	here, at := in(from+1), down.End
	for _, e := range events {
		spans = append(spans, Lain{Span{at, max(at, e.at)}, here, e.notYet})
		if at = max(at, e.at); !e.notYet {
			here = e.in
		}
	}
	return spans, nil
}

// here is where the pieces of a wait were put last, nil where they lie as the recipe says.
func (w *WorkLot) here(r *Recipe, wait int) *Put {
	if w == nil {
		return nil
	}
	for i := len(w.Puts) - 1; i >= 0; i-- {
		if _, step := r.Step(w.Puts[i].Step); step == wait {
			return &w.Puts[i]
		}
	}
	return nil
}

// left is true of a place whose slots the pieces of a lot have left in a wait of the steps
// [from, until].
func (w *WorkLot) left(r *Recipe, place ID, from, until int) (gone bool) {
	if w == nil {
		return false
	}
	for _, p := range w.Puts {
		if _, step := r.Step(p.Step); step < from || step > until {
			continue
		}
		if slices.Contains(p.Frees, place) {
			gone = true
		}
		if p.Place == place {
			gone = true // what it takes of it now is said by where it was put
		}
	}
	return gone
}

// foundOver is when the pieces of a wait were found to be as far as is wished for.
func (w *WorkLot) foundOver(r *Recipe, wait int) (at Minute, over bool) {
	of := r.Steps[wait].Wait
	state := of.State
	if of.Wished != nil && of.Wished.State != "" {
		state = of.Wished.State
	}
	for _, c := range w.Checks {
		if c.Step == r.Steps[wait].Key && !c.Mistaken && state != "" && c.Found.Reaches(state) {
			return c.At, true
		}
	}
	return 0, false
}

// Known is what dries in a wait of a lot to a state, with what is known of where it has lain
// since it was put down; nil where the wait does not dry anything.
func Known(doc *Document, book *Book, lot *Lot, wait int, state State) *Dries {
	recipe := book.Of(lot.Made())
	w := recipe.Steps[wait].Wait
	if w == nil || w.Class == "" {
		return nil
	}
	r := router{doc: doc, book: book}
	i := slices.IndexFunc(doc.Work, func(w WorkLot) bool { return w.ID == lot.ID })
	var work *WorkLot
	if i >= 0 {
		work = &doc.Work[i]
	}
	return r.known(r.dries(lot, recipe, w.Drying, state, wait), recipe, work, recipe.PutDown(wait))
}
