package studio

import (
	"slices"
	"strings"
)

// Condition is what work wants of a piece when it takes it up.
type Condition string

// Conditions: soft is not firm yet, firm is firm and not stiff yet, dry is dry; any says that it
// does not matter.
const (
	WantsSoft Condition = "soft"
	WantsFirm Condition = "firm"
	WantsDry  Condition = "dry"
	WantsAny  Condition = "any"
)

// kindsOfWork are what a kind of work wants of the piece it takes up. What is not here wants
// nothing: cutting, rolling, kneading, gluing, putting together.
var kindsOfWork = kinds(map[Condition]string{
	WantsSoft: "clad cup edge emboss flatten fold frill gather halve mark nick notch open pierce pull shape slit snip " +
		"split stretch thin twist vein wire",
	WantsFirm: "bunch curl fit",
	WantsDry:  "bundle dust pack steam tape",
})

func kinds(by map[Condition]string) map[string]Condition {
	all := map[string]Condition{}
	for wants, kinds := range by {
		for _, kind := range strings.Fields(kinds) {
			all[kind] = wants
		}
	}
	return all
}

// KindsOfWork are the kinds of work that want a state of the piece they take up, in order.
func KindsOfWork(wanted Condition) (kinds []string) {
	for kind, wants := range kindsOfWork {
		if wants == wanted {
			kinds = append(kinds, kind)
		}
	}
	slices.Sort(kinds)
	return kinds
}

// Wanted is the state in which a step wants the piece: what it says, else what its kind of
// work wants; but what has waited until it is dry, or in a machine, is wanted as it is, and what
// has waited until it is firm is not wanted soft any more, and a window of the step itself goes
// before its kind. A wait wants nothing.
func (r *Recipe) Wanted(step int) Condition {
	s := r.Steps[step]
	switch {
	case s.Work == nil:
		return WantsAny
	case s.Wants != "":
		return s.Wants
	}
	wants, known := kindsOfWork[s.Work.Glyph]
	if !known {
		return WantsAny
	}
	if !wants.Perishable() {
		return wants
	}
	if slices.ContainsFunc(s.Windows, Window.says) {
		return WantsAny
	}
	for _, before := range r.Steps[:step] {
		switch w := before.Wait; {
		case w == nil:
		case w.State == Dry || w.State == Stiff || w.Load != nil:
			return WantsAny
		case w.State == Firm:
			wants = WantsFirm
		}
	}
	return wants
}

// WantedOf is the state in which a step wants an input: what the input says; else wet
// joining wants it soft and taping dry, bunching firm and cladding soft; what has dried when it
// is made, or has a window, is wanted as that says.
func (s Step) WantedOf(p PartInput, of *Recipe) Condition {
	switch {
	case p.Wants != "":
		return p.Wants
	case p.Join == JoinTaped:
		return WantsDry
	case of != nil && of.driesIn() || p.Window != nil && p.Window.says():
		return WantsAny
	case p.Join == JoinWet:
		return WantsSoft
	case p.Join == "" && s.Work != nil && (s.Work.Glyph == "bunch" || s.Work.Glyph == "clad"):
		return kindsOfWork[s.Work.Glyph]
	}
	return WantsAny
}

// says is true of a window that says in what state something is wanted, or for how long.
func (w Window) says() bool { return w.Limited() || w.From != "" }

// driesIn is true of a recipe that ends with pieces that have dried.
func (r *Recipe) driesIn() bool {
	for i, s := range r.Steps {
		if w := s.Wait; w != nil && (w.State == Dry || w.Load != nil) && r.OutputStep() < i {
			return true
		}
	}
	return false
}

// SoftStores tells which places of a document keep pieces soft.
func SoftStores(doc *Document) func(place ID) bool {
	soft := map[ID]bool{}
	for i := range doc.Places {
		soft[doc.Places[i].ID] = doc.Places[i].KeepsMinutes > 0
	}
	return func(place ID) bool { return soft[place] }
}

// Softness is what the softness of pieces goes by: what dries, from the end of which step on.
type Softness struct {
	Drying
	From int
}

// Softness of a recipe's pieces before a step, which may be the one after its last: from the
// first step that takes paste, or puts parts together, or from where they left the last soft
// store before that. Its drying class and thickness are what the recipe says, else those of
// the first wait or window that names a class; the thickness and the slot are its own paste's
// where that is cut. False where nothing says how it dries, or a soft store holds the pieces up
// to the step. Keeps is true of a soft store. It takes O(steps · holds).
func (r *Recipe) Softness(before int, keeps func(place ID) bool) (s Softness, ok bool) {
	s.Drying, ok = r.HowItDries()
	if !ok {
		return s, false
	}
	from := -1
	for i := range r.Steps[:min(before, len(r.Steps))] {
		key := r.Steps[i].Key
		if r.Steps[i].part != nil {
			continue
		}
		paste := slices.IndexFunc(r.Pastes, func(p PasteInput) bool { return p.Step == key })
		if paste < 0 && !slices.ContainsFunc(r.Parts, func(p PartInput) bool { return p.Step == key }) {
			continue
		}
		if from = i; paste >= 0 {
			if g := r.Pastes[paste].Shape; g.Shape == ShapeCut {
				s.Thickness = g.Thickness
			}
			s.Slot = r.Pastes[paste].Slot
		}
		break
	}
	if from < 0 {
		return s, false
	}
	for i := from; i < min(before, len(r.Steps)); i++ {
		for _, h := range r.Steps[i].Holds {
			if !keeps(h.Place) || h.Share > 0 {
				continue
			}
			if h.UntilNext != "" {
				return s, false // what it feeds takes it out
			}
			_, until := r.Step(h.Until)
			if until >= before {
				return s, false
			}
			from = max(from, until)
		}
	}
	s.From = from
	return s, true
}

// HowItDries is what a recipe says of how its pieces dry; false where it says nothing.
func (r *Recipe) HowItDries() (Drying, bool) {
	if r.Dries != nil {
		return *r.Dries, true
	}
	for _, s := range r.Steps {
		if s.Wait != nil && s.Wait.Class != "" {
			return Drying{Class: s.Wait.Class, Thickness: s.Wait.Thickness, Slot: s.Wait.Slot}, true
		}
		for _, w := range s.Windows {
			if w.Class != "" {
				return Drying{Class: w.Class, Thickness: w.Thickness, Slot: w.Slot}, true
			}
		}
	}
	return Drying{}, false
}

// Dries is what dries in some mixes, to a state: with the factor of the mix of its slot.
func (b *Book) Dries(d Drying, mixes map[string]ID, state State) Dries {
	dries := Dries{Class: d.Class, Thickness: d.Thickness, State: state, Factor: 1000}
	if mix := b.Recipe(mixes[d.Slot]); d.Slot != "" && mix != nil && mix.Drying > 0 {
		dries.Factor = mix.Drying
	}
	return dries
}

// Until is the state before which a piece is still as wanted: firm for soft, stiff for firm.
func (c Condition) Until() (State, bool) {
	switch c {
	case WantsSoft:
		return Firm, true
	case WantsFirm:
		return Stiff, true
	}
	return "", false
}

// Perishable is true of a state that pieces do not stay in.
func (c Condition) Perishable() bool { return c == WantsSoft || c == WantsFirm }

// Perishes is true of a recipe some of whose windows bind each piece: its own, or those of
// what it needs fresh.
func (b *Book) Perishes(r *Recipe) bool {
	_, dries := r.HowItDries()
	if len(r.limits) > 0 {
		return true
	}
	for i, s := range r.Steps {
		if dries && r.Wanted(i).Perishable() {
			return true
		}
		for i := range s.Windows {
			if s.Windows[i].Limited() && !s.Windows[i].Whole {
				return true
			}
		}
	}
	for _, p := range r.Parts {
		if b.Batched(r, p) {
			return true
		}
	}
	return false
}

// Fresh is true of an input that cannot come from stock: a window or the state it is wanted
// in ends.
func (b *Book) Fresh(r *Recipe, p PartInput) bool { return p.Window.Limited() || b.Batched(r, p) }

// Batched is true of an input that binds each piece, and so has lots of its own for each lot
// that takes it: a window that ends, but for one that binds the lot as a whole, or a state
// that pieces do not stay in.
func (b *Book) Batched(r *Recipe, p PartInput) bool {
	if p.Window.Limited() && !p.Window.Whole {
		return true
	}
	step, _ := r.Step(p.Step)
	below := b.Of(p.Made())
	if !step.WantedOf(p, below).Perishable() {
		return false
	}
	if below == nil {
		return false
	}
	_, dries := below.HowItDries()
	return dries
}
