package studio

import (
	"maps"
	"slices"
	"strings"
)

// Variant is a named change of a recipe: single or double, bud or full, air or
// oven. Steps replace those of the same key or come in after another; inputs
// replace those of the same key, or where they have none, of the same step and thing,
// and a count of nothing takes one away. StopAfter ends the recipe early: a bud is a rose stopped after its core.
//
// A school of a technique is such a change as well.
type Variant struct {
	Name      string          `json:"name"`
	StopAfter string          `json:"stopAfter,omitempty"`
	Without   []string        `json:"without,omitempty"`
	Steps     []StepChange    `json:"steps,omitempty"`
	Order     []string        `json:"order,omitempty"`
	Parts     []PartInput     `json:"parts,omitempty"`
	Pastes    []PasteInput    `json:"pastes,omitempty"`
	Materials []MaterialInput `json:"materials,omitempty"`
	Wires     []WireInput     `json:"wires,omitempty"`
	Spares    *Spares         `json:"spares,omitempty"`
}

// Technique is a question that makers answer in different ways: which hook, when to
// vein, how to dry. As names the answer that the recipe itself gives, Schools the
// others, each with what it changes; Chosen is the one in force, the recipe's own if
// empty.
type Technique struct {
	Question string    `json:"question"`
	As       string    `json:"as"`
	Schools  []Variant `json:"schools"`
	Chosen   string    `json:"chosen,omitempty"`
}

// StepChange is a step that replaces the one of its key, or comes after another.
type StepChange struct {
	After string `json:"after,omitempty"`
	Step
}

// between parts the names of a variant and of schools that are chosen for what is made.
const between = " · "

// Otherwise is the name of a variant, or of the recipe itself, made by another school of one of
// its techniques.
func Otherwise(variant, question, school string) string {
	way := question + ": " + school
	if variant == "" {
		return way
	}
	return variant + between + way
}

// By is the name of a variant, which may name schools already, made by one school of a technique instead.
func By(variant, question, school string) string {
	parts := strings.Split(variant, between)
	parts = slices.DeleteFunc(parts, func(p string) bool { return p == "" || strings.HasPrefix(p, question+": ") })
	return strings.Join(append(parts, question+": "+school), between)
}

// otherwise takes the schools off the name of a variant, and is the recipe with them chosen;
// false where it has none of that name.
func (r *Recipe) otherwise(name string) (chosen *Recipe, variant string, known bool) {
	chosen = r
	for i, part := range strings.Split(name, between) {
		question, school, says := strings.Cut(part, ": ")
		at := slices.IndexFunc(r.Techniques, func(t Technique) bool { return t.Question == question })
		switch {
		case says && at >= 0 && school == r.Techniques[at].As:
			chosen = chosen.In(question, "")
		case says && at >= 0 && named(r.Techniques[at].Schools, school) >= 0:
			chosen = chosen.In(question, school)
		case i == 0 && named(r.Variants, part) >= 0:
			variant = part
		case r.size(part) >= 0:
			chosen = chosen.sized(r.Sizes[r.size(part)])
		default:
			return nil, "", false
		}
	}
	return chosen, variant, true
}

// As is the recipe in one of its variants or sizes, by the schools chosen; false when it has
// no such variant. The empty name is the recipe itself; schools and sizes named after the
// variant, or alone, go before those chosen (double · hook: closed · large). What hung on a step that is
// gone ends with the step before it.
func (r *Recipe) As(variant string) (*Recipe, bool) {
	if variant != "" && named(r.Variants, variant) < 0 {
		chosen, of, known := r.otherwise(variant)
		if !known {
			return nil, false
		}
		made, _ := chosen.As(of)
		made.Name = r.Name + ", " + variant
		return made, true
	}
	made := *r
	made.Variants, made.Techniques, made.Sizes = nil, nil, nil
	for _, t := range r.Techniques {
		if i := named(t.Schools, t.Chosen); t.Chosen != "" && i >= 0 {
			made = *made.changedBy(t.Schools[i])
		}
	}
	if variant == "" {
		return &made, true
	}
	i := named(r.Variants, variant)
	if i < 0 {
		return nil, false
	}
	made.Name += ", " + variant
	return made.changedBy(r.Variants[i]), true
}

// In is the recipe with one school of a technique chosen; the empty name is the
// recipe's own.
func (r *Recipe) In(question, school string) *Recipe {
	chosen := *r
	chosen.Techniques = slices.Clone(r.Techniques)
	for i := range chosen.Techniques {
		if chosen.Techniques[i].Question == question {
			chosen.Techniques[i].Chosen = school
		}
	}
	return &chosen
}

// Changes are the variants of a recipe and the schools of its techniques.
func (r *Recipe) Changes() []Variant {
	all := slices.Clone(r.Variants)
	for _, t := range r.Techniques {
		all = append(all, t.Schools...)
	}
	return all
}

func named(all []Variant, name string) int {
	return slices.IndexFunc(all, func(v Variant) bool { return v.Name == name })
}

// changedBy is the recipe under one named change.
func (r *Recipe) changedBy(v Variant) *Recipe {
	made := *r
	made.Steps = v.changed(r.Steps)
	if v.Spares != nil {
		made.Spares = *v.Spares
	}
	made.Parts = replaced(r.Parts, v.Parts, PartInput.SameAs, func(p PartInput) bool { return p.Count > 0 })
	made.Materials = replaced(r.Materials, v.Materials, MaterialInput.SameAs,
		func(m MaterialInput) bool { return m.Amount > 0 })
	made.Wires = replaced(r.Wires, v.Wires, WireInput.SameAs, func(w WireInput) bool { return w.Number > 0 })
	made.Pastes = replaced(r.Pastes, v.Pastes, PasteInput.SameAs,
		func(p PasteInput) bool { return p.Shape.Shape != "" })
	made.Forget(r.Steps)
	return &made
}

// alike is true of two inputs by their keys, where they have any, else by what they are.
func alike(key, other string, otherwise bool) bool {
	if key != "" || other != "" {
		return key == other
	}
	return otherwise
}

// SameAs is true of what a change of an input is about: the input of its key, or where
// neither has one, that of the same thing at the same step.
func (p PartInput) SameAs(q PartInput) bool {
	return alike(p.Key, q.Key, p.Step == q.Step && p.Recipe == q.Recipe && p.Form == q.Form)
}

// SameAs is that of a paste.
func (p PasteInput) SameAs(q PasteInput) bool {
	return alike(p.Key, q.Key, p.Step == q.Step && p.Slot == q.Slot)
}

// SameAs is that of a material.
func (m MaterialInput) SameAs(n MaterialInput) bool {
	return alike(m.Key, n.Key, m.Step == n.Step && m.Material == n.Material)
}

// SameAs is that of a wire.
func (w WireInput) SameAs(x WireInput) bool {
	return alike(w.Key, x.Key, w.Step == x.Step && w.Material == x.Material)
}

// changed lays a variant's changes over the steps.
func (v Variant) changed(steps []Step) []Step {
	steps = slices.Clone(steps)
	at := func(key string) int { return slices.IndexFunc(steps, func(s Step) bool { return s.Key == key }) }
	for _, change := range v.Steps {
		if i := at(change.Key); i >= 0 {
			steps[i] = change.Step
		} else {
			steps = slices.Insert(steps, at(change.After)+1, change.Step)
		}
	}
	steps = slices.DeleteFunc(steps, func(s Step) bool { return slices.Contains(v.Without, s.Key) })
	if i := at(v.StopAfter); i >= 0 {
		steps = steps[:i+1]
	}
	if len(v.Order) > 0 {
		slices.SortStableFunc(
			steps,
			func(a, b Step) int { return slices.Index(v.Order, a.Key) - slices.Index(v.Order, b.Key) },
		)
	}
	return steps
}

// replaced puts changes in the place of those inputs that are the same thing and
// drops what is no longer wanted.
func replaced[T any](old, changes []T, same func(a, b T) bool, wanted func(T) bool) []T {
	out := slices.Clone(old)
	for _, change := range changes {
		if i := slices.IndexFunc(out, func(in T) bool { return same(in, change) }); i >= 0 {
			out[i] = change
		} else {
			out = append(out, change)
		}
	}
	return slices.DeleteFunc(out, func(in T) bool { return !wanted(in) })
}

// Forget takes away what hangs on steps that the recipe no longer has; what lasted until
// such a step lasts until the one before it.
func (r *Recipe) Forget(before []Step) {
	gone := func(key string) bool { _, i := r.Step(key); return i < 0 }
	r.Parts = slices.DeleteFunc(r.Parts, func(p PartInput) bool { return gone(p.Step) })
	r.Pastes = slices.DeleteFunc(r.Pastes, func(p PasteInput) bool { return gone(p.Step) })
	r.Materials = slices.DeleteFunc(r.Materials, func(m MaterialInput) bool { return gone(m.Step) })
	r.Wires = slices.DeleteFunc(r.Wires, func(w WireInput) bool { return gone(w.Step) })
	if r.Yield != nil && gone(r.Yield.Step) {
		r.Yield = nil
	}
	for i := range r.Steps {
		s := &r.Steps[i]
		if s.Wait != nil && s.Wait.Continues != "" && gone(s.Wait.Continues) {
			wait := *s.Wait
			wait.Continues, s.Wait = "", &wait
		}
		s.Windows = slices.DeleteFunc(
			slices.Clone(s.Windows),
			func(w Window) bool { return w.After != "" && gone(w.After) },
		)
		s.Holds = slices.Clone(s.Holds)
		for h := range s.Holds {
			if until := s.Holds[h].Until; until != "" && gone(until) {
				s.Holds[h].Until = r.lastKept(before, until, s.Key)
			}
		}
	}
	for i := range r.Materials {
		if out := r.Materials[i].OutAt; out != "" && gone(out) {
			r.Materials[i].OutAt = r.Steps[len(r.Steps)-1].Key
		}
	}
}

// lastKept is the last step up to a lost one that is still there, or own.
func (r *Recipe) lastKept(before []Step, lost, own string) string {
	kept := own
	_, at := r.Step(own)
	for _, s := range before {
		if s.Key == lost {
			break
		}
		if _, i := r.Step(s.Key); i > at {
			kept = s.Key
		}
	}
	return kept
}

// Made is what a lot is of: a recipe in a variant.
type Made struct {
	Recipe  ID
	Variant string
}

// Into are the mixes that an input's own colour slots get from this recipe's.
func (p PartInput) Into(mixes map[string]ID, slots []string) map[string]ID {
	into := maps.Clone(mixes)
	if into == nil {
		into = map[string]ID{}
	}
	for _, slot := range slots {
		if from, renamed := p.Slots[slot]; renamed {
			into[slot] = mixes[from]
		}
	}
	return into
}
