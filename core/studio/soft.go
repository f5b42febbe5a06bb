package studio

import "slices"

// What work wants of a piece when it takes it up: soft is not firm yet, firm is firm and
// not stiff yet, dry is dry. Any says that it does not matter.
const (
	Soft State = "soft"
	Any  State = "any"
)

// kindsOfWork are what a kind of work wants of the piece it takes up. What is not here wants
// nothing: cutting, rolling, kneading, gluing, putting together.
var kindsOfWork = map[string]State{
	"thin": Soft, "edge": Soft, "vein": Soft, "frill": Soft, "cup": Soft, "emboss": Soft, "mark": Soft,
	"stretch": Soft, "shape": Soft, "fold": Soft, "pull": Soft, "flatten": Soft, "split": Soft, "slit": Soft,
	"nick": Soft, "notch": Soft, "snip": Soft, "gather": Soft, "twist": Soft, "pierce": Soft, "open": Soft,
	"wire": Soft, "clad": Soft, "halve": Soft,
	"bunch": Firm, "fit": Firm, "curl": Firm,
	"tape": Dry, "dust": Dry, "bundle": Dry, "steam": Dry, "pack": Dry,
}

// KindsOfWork are the kinds of work that want a state of the piece they take up, in order.
func KindsOfWork(state State) (kinds []string) {
	for kind, wants := range kindsOfWork {
		if wants == state {
			kinds = append(kinds, kind)
		}
	}
	slices.Sort(kinds)
	return kinds
}

// Wanted is the state in which a step wants the piece: what it says, else what its kind of
// work wants. A wait wants nothing.
func (s Step) Wanted() State {
	switch {
	case s.Work == nil:
		return Any
	case s.Wants != "":
		return s.Wants
	}
	if wants, known := kindsOfWork[s.Work.Glyph]; known {
		return wants
	}
	return Any
}

// WantedOf is the state in which a step wants an input: what the input says; else wet
// joining wants it soft and taping dry, bunching firm and cladding soft.
func (s Step) WantedOf(p PartInput) State {
	switch {
	case p.Wants != "":
		return p.Wants
	case p.Join == JoinWet:
		return Soft
	case p.Join == JoinTaped:
		return Dry
	case p.Join == "" && s.Work != nil && (s.Work.Glyph == "bunch" || s.Work.Glyph == "clad"):
		return kindsOfWork[s.Work.Glyph]
	}
	return Any
}

// Softness is what the softness of pieces goes by: what dries, from the end of which step on.
type Softness struct {
	Drying
	From int
}

// Softness of a recipe's pieces before a step, which may be the one after its last: from the
// first step that takes paste, or puts parts together, or from where they left the last soft
// store before that. Its drying class and thickness are those of the first wait or window
// that names a class, the thickness and the slot its own paste's where that is cut. False
// where nothing says how it dries, or a soft store holds the pieces up to the step. Keeps
// is true of a soft store. It takes O(steps · holds).
func (r *Recipe) Softness(before int, keeps func(place ID) bool) (s Softness, ok bool) {
	s.Drying, ok = r.dries()
	if !ok {
		return s, false
	}
	from := -1
	for i := range r.Steps[:min(before, len(r.Steps))] {
		key := r.Steps[i].Key
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

// dries is what a recipe says of how its pieces dry.
func (r *Recipe) dries() (Drying, bool) {
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

// until is the state before which a piece is still as wanted: firm for soft, stiff for firm.
func (s State) until() (State, bool) {
	switch s {
	case Soft:
		return Firm, true
	case Firm:
		return Stiff, true
	}
	return "", false
}

// Perishable is true of a state that pieces do not stay in.
func (s State) Perishable() bool { return s == Soft || s == Firm }

// Fresh is true of an input that cannot come from stock: a window or the state it is wanted
// in ends. Keeps is true of a soft store.
func (b *Book) Fresh(r *Recipe, p PartInput, keeps func(place ID) bool) bool {
	if p.Window.Limited() {
		return true
	}
	step, _ := r.Step(p.Step)
	if !step.WantedOf(p).Perishable() {
		return false
	}
	below := b.Of(p.Made())
	if below == nil {
		return false
	}
	_, dries := below.dries()
	return dries
}
