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

// Lain is a span over which a piece has dried in surroundings, or in a machine. NotYet says
// that it was found not to be there yet at its end.
type Lain struct {
	Span
	In      ID   `json:"in,omitempty"`
	Machine ID   `json:"machine,omitempty"`
	NotYet  bool `json:"notYet,omitempty"`
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
	if _, down := w.Down(r, before); !down {
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

// event is something that is known of pieces that lie: they were put into other air, or
// into a machine until a minute, or were found not to be there yet.
type event struct {
	at      Minute
	in      ID
	machine ID
	until   Minute
	notYet  bool
}

// Down is when pieces were put down with a work step of an index; false when they were not.
func (w *WorkLot) Down(recipe *Recipe, from int) (Minute, bool) {
	if w == nil {
		return 0, false
	}
	first, _ := recipe.Task(from)
	record := w.Record(recipe.Steps[first].Key)
	if record == nil || record.State != TaskDone {
		return 0, false
	}
	return record.End, true
}

// belongs is true of a wait in which pieces lie that were put down with a work step.
func (r *Recipe) belongs(wait string, from int) bool {
	_, i := r.Step(wait)
	return i > from && r.PutDown(i) <= from
}

// moves are when pieces put down with a work step came into other air: by the recipe, or
// because somebody put them there.
func (r *router) moves(recipe *Recipe, work *WorkLot, from int) (byRecipe, byHand []event) {
	for i := from + 2; i < len(recipe.Steps); i++ {
		if recipe.Steps[i].Wait == nil || !recipe.belongs(recipe.Steps[i].Key, from) {
			continue
		}
		if at, moved := work.Down(recipe, i-1); moved {
			byRecipe = append(byRecipe, event{at: at, in: r.surroundings(recipe, i)})
		}
	}
	for _, p := range work.Puts {
		if recipe.belongs(p.Step, from) {
			byHand = append(byHand, event{at: p.At, in: p.In, machine: p.Machine, until: p.At + p.Minutes})
		}
	}
	return byRecipe, byHand
}

// spans are where pieces put down at a minute have lain up to the last of some events.
func (r *router) spans(recipe *Recipe, from int, down Minute, events []event) (spans []Lain) {
	slices.SortStableFunc(events, func(a, b event) int { return int(a.at - b.at) })
	here, at := event{in: r.surroundings(recipe, from+1)}, down
	for _, e := range events {
		to := max(at, e.at)
		if here.machine != "" && here.until < to { // it stood still in there
			spans = append(spans, Lain{Span: Span{From: at, To: max(at, here.until)}, Machine: here.machine})
			at, here = max(at, here.until), event{in: here.in}
		}
		span := Lain{Span: Span{From: at, To: to}, In: here.in, Machine: here.machine, NotYet: e.notYet}
		if here.machine != "" {
			span.In = ""
		}
		spans = append(spans, span)
		if at = to; !e.notYet {
			here = e
		}
	}
	return spans
}

// lain is where pieces put down with a work step have lain since, up to the last that is
// known of them: what was found by touch or where they were put. Nothing, where nothing
// is. Reached is when they were found to have reached a state.
func (r *router) lain(recipe *Recipe, work *WorkLot, from int, state State) (spans []Lain, reached *Minute) {
	down, lies := work.Down(recipe, from)
	if !lies {
		return nil, nil
	}
	byRecipe, known := r.moves(recipe, work, from)
	for _, c := range work.Checks {
		switch {
		case c.Mistaken || c.Found == FoundSpoilt || !recipe.belongs(c.Step, from):
		case !c.Found.Reaches(state):
			known = append(known, event{at: c.At, notYet: true})
		case reached == nil || c.At < *reached:
			reached = &c.At
		}
	}
	if reached != nil || len(known) == 0 {
		return nil, reached
	}
	return r.spans(recipe, from, down, append(byRecipe, known...)), nil
}

// Spans are where the pieces of a wait have lain since they were put down, up to a minute;
// false where they were not put down before it.
func Spans(doc *Document, book *Book, work *WorkLot, wait int, until Minute) ([]Lain, bool) {
	recipe := book.Of(work.Made())
	from := recipe.PutDown(wait)
	down, lies := work.Down(recipe, from)
	if !lies || down > until {
		return nil, false
	}
	r := router{doc: doc, book: book}
	byRecipe, byHand := r.moves(recipe, work, from)
	events := slices.DeleteFunc(append(byRecipe, byHand...), func(e event) bool { return e.at >= until })
	return r.spans(recipe, from, down, append(events, event{at: until, notYet: true})), true
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
		gone = gone || slices.Contains(p.Frees, place) ||
			p.Place == place // what it takes of that now is said by where it was put
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

// LimitsOn are the lags of an input, as the step that takes it up wants it, that are measured
// from what a lot in work did. They lead to no task.
func LimitsOn(doc *Document, book *Book, w *WorkLot, by Step, input PartInput) []Lag {
	recipe := book.Of(w.Made())
	r := routed(doc, book, nil, nil)
	l := &Lot{ID: w.ID, Recipe: w.Recipe, Variant: w.Variant, Mixes: w.Mixes}
	if input.Window != nil {
		r.window(l, recipe, len(recipe.Steps)-1, *input.Window, "")
	}
	if wants := by.WantedOf(input, recipe); wants.Perishable() {
		if s, ok := recipe.Softness(len(recipe.Steps), r.keeps); ok {
			r.inState(l, recipe, s, "", wants, true)
		}
	}
	return r.instance.Links
}
