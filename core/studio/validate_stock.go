package studio

import (
	"fmt"
	"slices"
)

func (v *validator) stock(book *Book) {
	lots := map[ID]bool{}
	for i := range v.doc.Work {
		w := &v.doc.Work[i]
		place := fmt.Sprintf("work[%d]", i)
		register(v, place, lots, w.ID, true)
		within(v, place+".started", w.Started, 1, 1<<40)
		within(v, place+".need", w.Need, 0, w.Started)
		v.claims(place, w.Reserved)
		if (w.From == "") != (w.Reached == "") {
			v.say(
				place+".from, reached",
				"go together: the shelf lot of half-made pieces and the step they had reached",
			)
		}
		if v.madeOf(place, w.Made(), book) {
			v.reached(place+".reached", w.Reached, book.Of(w.Made()))
			v.mixesUntil(place, w.Made(), "", w.Mixes, book)
			v.records(place, w, book.Of(w.Made()))
			v.lying(place, w, book.Of(w.Made()))
		}
	}
	for i, s := range v.doc.Shelf {
		place := fmt.Sprintf("shelf[%d]", i)
		register(v, place, lots, s.ID, true)
		within(v, place+".amount", s.Amount, -1<<40, 1<<40)
		v.claims(place, s.Reserved)
		within(v, place+".madeOn", s.MadeOn, v.doc.Now-LongestKept, v.doc.Now+MostAhead)
		if s.UseBy != nil {
			within(v, place+".useBy", *s.UseBy, v.doc.Now-LongestKept, v.doc.Now+MostAhead)
		}
		if v.madeOf(place, s.Made(), book) {
			v.reached(place+".reached", s.Reached, book.Of(s.Made()))
			v.mixesUntil(place, s.Made(), s.Reached, s.Mixes, book)
		}
		if s.Quality != Good && s.Quality != Second {
			v.say(place+".quality", "is %q; good or second would be right", s.Quality)
		}
		if s.Kept != "" && s.Kept != OnBoard && s.Kept != Wrapped && s.Kept != Cold {
			v.say(place+".kept", "is %q; board, wrapped or cold would be right", s.Kept)
		}
		if s.From != "" && !lots[s.From] {
			v.say(place+".from", "no work lot %q", s.From)
		}
	}
}

// recorded checks what came of earlier lots: of each recipe once.
func (v *validator) recorded() {
	pages := map[ID]bool{}
	for _, r := range v.doc.Recipes {
		pages[r.Page()] = true
	}
	seen := map[ID]bool{}
	for i, r := range v.doc.Recorded {
		place := fmt.Sprintf("recorded[%d]", i)
		within(v, place+".good", r.Good, 0, 1<<40)
		within(v, place+".lost", r.Lost, 0, 1<<40)
		if !pages[r.Recipe] || seen[r.Recipe] {
			v.say(place+".recipe", "%q is no recipe, or is there twice", r.Recipe)
		}
		seen[r.Recipe] = true
	}
}

// claims checks what is reserved: for each order once. The order may be one that the
// document does not hold, wished for and not accepted yet.
func (v *validator) claims(place string, claims []Claim) {
	seen := map[ID]bool{}
	for i, c := range claims {
		at := fmt.Sprintf("%s.reserved[%d]", place, i)
		within(v, at+".quantity", c.Quantity, 1, 1<<40)
		if seen[c.Order] {
			v.say(at+".order", "is there twice; add the quantities")
		}
		seen[c.Order] = true
	}
}

// divided checks how groups of lots are divided.
func (v *validator) divided() {
	for i, d := range v.doc.Divided {
		place := fmt.Sprintf("divided[%d]", i)
		if d.Into == "" {
			within(v, place+".lots", d.Lots, 1, 10_000)
		} else {
			within(v, place+".withinMinutes", d.Within, 0, 400*1440)
			within(v, place+".lots", d.Lots, 0, 0)
		}
		if slices.ContainsFunc(v.doc.Divided[:i], func(other Division) bool { return other.Group == d.Group }) {
			v.say(place+".group", "%q is divided twice", d.Group)
		}
	}
}

// decided checks the lots that the lead has decided on, each of them one that is not begun.
func (v *validator) decided(book *Book) {
	taken := map[ID]bool{}
	for _, w := range v.doc.Work {
		taken[w.ID] = true
	}
	for i := range v.doc.Decided {
		d := &v.doc.Decided[i]
		place := fmt.Sprintf("decided[%d]", i)
		within(v, place+".ordinal", d.Ordinal, 1, 1<<30)
		within(v, place+".need", d.Need, 1, 1<<40)
		if d.Started != 0 {
			within(v, place+".started", d.Started, 1, 1<<40)
		}
		if !v.madeOf(place, d.Made(), book) {
			continue
		}
		v.mixesUntil(place, d.Made(), "", d.Mixes, book)
		if id := book.IDOf(d); taken[id] {
			v.say(place, "lot %q is begun, or decided on, already", id)
		} else {
			taken[id] = true
		}
	}
}

// offcuts checks that what is kept of a wire is shorter than the wire, each length once.
func (v *validator) offcuts() {
	type kept struct {
		material ID
		length   Micrometres
	}
	seen := map[kept]bool{}
	for i, o := range v.doc.Offcuts {
		place := fmt.Sprintf("offcuts[%d]", i)
		within(v, place+".number", o.Number, -1<<40, 1<<40)
		m := v.materials[o.Material]
		if m == nil || m.Wire == nil {
			v.say(place+".material", "%q is no wire", o.Material)
			continue
		}
		within(v, place+".lengthMicrometres", o.Length, 1, m.Wire.Length-1)
		if seen[kept{material: o.Material, length: o.Length}] {
			v.say(place, "this length of %q is there twice; add the numbers", m.Name)
		}
		seen[kept{material: o.Material, length: o.Length}] = true
	}
}

// records checks that what happened to a lot could have: its tasks in order, a
// mending right after what it mends, nothing after now.
func (v *validator) records(place string, w *WorkLot, recipe *Recipe) {
	next := recipe.after(w.Reached) // the index of the step that may be recorded next
	mend := ""                      // or the mending that may
	for j, r := range w.Records {
		at := fmt.Sprintf("%s.records[%d]", place, j)
		before := j == 0 || w.Records[j-1].State == TaskDone
		if r.Step == mend && mend != "" && before {
			mend = ""
		} else if step, index := recipe.Step(r.Step); index >= 0 && step.Wait != nil && step.Wait.Load != nil {
			if !before || index < next || recipe.nextTask(next) < index && recipe.nextTask(next) >= 0 {
				v.say(at+".step", "%q is recorded before the work step ahead of it was done", r.Step)
			}
			if !slices.Contains(step.Wait.Load.Machines, r.Machine) || r.State == TaskPaused {
				v.say(at+".machine", "is %q, %s; started or done in one of %q would be right", r.Machine, r.State, step.Wait.Load.Machines)
			}
			next, mend = index+1, ""
		} else {
			if index < 0 || step.Work == nil {
				v.say(at+".step", "%q is not a work step of %q", r.Step, recipe.Name)
				continue
			}
			if first, _ := recipe.Task(index); first != index {
				v.say(at+".step", "%q is done with %q in one stint; record that", r.Step, recipe.Steps[first].Key)
			}
			if index != recipe.nextTask(next) || !before {
				v.say(at+".step", "%q is recorded before the work step ahead of it was done", r.Step)
			}
			_, next = recipe.Task(index)
			mend = ""
			if r.Mend > 0 && step.Mend != nil {
				mend = MendKey(r.Step)
			} else if r.Mend > 0 {
				v.say(at+".mend", "%q says no way of mending", step.Name)
			}
		}
		if r.Machine == "" && v.people[r.Person] == nil {
			v.say(at+".person", "no person %q", r.Person)
		}
		if r.State != TaskStarted && r.State != TaskPaused && r.State != TaskDone {
			v.say(at+".state", "is %q; started, paused or done would be right", r.State)
		}
		if r.Start > v.doc.Now || r.End > v.doc.Now || r.State == TaskDone && r.End < r.Start {
			v.say(at, "happened from %d to %d, now is %d", r.Start, r.End, v.doc.Now)
		}
		if r.Good < 0 || r.Second < 0 || r.Mend < 0 || r.Broken < 0 {
			v.say(at, "counts are never negative")
		}
		if _, mends := MendedStep(r.Step); mends && r.Mend > 0 {
			v.say(at+".mend", "a mending leaves nothing to mend")
		}
		if left := w.Left(recipe, r.Step); left < 0 {
			v.say(at, "counts %d of %d", r.Counted(), r.Counted()+left)
		}
	}
}

// reached checks the step that half-made pieces have behind them, if any.
func (v *validator) reached(place, step string, r *Recipe) {
	if step == "" {
		return
	}
	_, i := r.Step(step)
	if i < 0 || r.after(step) > r.OutputStep() {
		v.say(place, "%q is not a step of its recipe with work still after it", step)
	} else if s := r.Steps[i+1]; s.Wait != nil && s.Wait.Load != nil {
		v.say(place, "%q is followed by a machine; what has not been in it yet is not kept half way", step)
	}
}

// madeOf says whether a recipe is known in a variant.
func (v *validator) madeOf(place string, m Made, book *Book) bool {
	if _, known := v.recipes[m.Recipe]; !known {
		v.say(place+".recipe", "no recipe %q", m.Recipe)
		return false
	}
	if book.Of(m) == nil {
		v.say(place+".variant", "%q has no variant %q", v.recipes[m.Recipe].Name, m.Variant)
		return false
	}
	return true
}

// mixesUntil checks the mixes of what has gone into pieces up to a step, the
// whole recipe if empty.
func (v *validator) mixesUntil(place string, m Made, reached string, mixes map[string]ID, book *Book) {
	for _, slot := range book.SlotsUntil(m, reached) {
		if mixes[slot] == "" {
			v.say(place+".mixes", "no mix is given for slot %q", slot)
			continue
		}
		v.mix(fmt.Sprintf("%s.mixes[%q]", place, slot), mixes[slot])
	}
}
