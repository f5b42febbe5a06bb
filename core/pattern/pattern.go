// Package pattern gives new recipes their beginning: for each method of making, a
// filled-in flower with its parts, in the studio's own wires, places and drying
// classes where it has such, with sizes and minutes that are a start and no more.
package pattern

import (
	"slices"
	"strings"

	"bractum/core/studio"
)

// Beginning is a method of making to begin a recipe from. The interface names and
// describes it by its key.
type Beginning struct {
	Key string `json:"key"`
	lay func(*layer)
}

// All patterns, in the order in which they are offered.
func All() []Beginning { return patterns }

// Begin lays a pattern out under a name, the flower first, then its parts. Ids are
// made as they are needed; references go by them. False when there is no such pattern.
func Begin(doc *studio.Document, key, name string, newID func() studio.ID) ([]studio.Recipe, bool) {
	i := slices.IndexFunc(patterns, func(p Beginning) bool { return p.Key == key })
	if i < 0 {
		return nil, false
	}
	l := &layer{doc: doc, name: name, newID: newID}
	patterns[i].lay(l)
	l.settle()
	slices.Reverse(l.recipes) // a flower is laid after its parts
	return l.recipes, true
}

// layer lays out recipes, parts before what they go into.
type layer struct {
	doc     *studio.Document
	name    string
	newID   func() studio.ID
	recipes []studio.Recipe
}

const minute = studio.Milliminutes(1000)

func (l *layer) recipe(kind studio.Kind, name, form string, steps ...studio.Step) *studio.Recipe {
	id := l.newID()
	full := strings.TrimSpace(l.name + " " + name)
	r := studio.Recipe{
		ID:     id,
		Recipe: id,
		Name:   full,
		Kind:   kind,
		Form:   form,
		Steps:  steps,
		Spares: studio.Spares{Rule: studio.SparesByBreakage, Breakage: 50},
	}
	if kind == studio.KindFlower {
		r.Spares.Breakage = 20
	}
	l.recipes = append(l.recipes, r)
	return &l.recipes[len(l.recipes)-1]
}

func (l *layer) part(name, form string, steps ...studio.Step) *studio.Recipe {
	return l.recipe(studio.KindPart, name, form, steps...)
}

func (l *layer) flower(form string, steps ...studio.Step) *studio.Recipe {
	return l.recipe(studio.KindFlower, "", form, steps...)
}

func work(key, name, glyph, skill string, setup, perPiece studio.Milliminutes) studio.Step {
	return studio.Step{
		Key:  key,
		Name: name,
		Work: &studio.Work{Glyph: glyph, Skill: skill, Setup: setup, PerPiece: perPiece, MayPause: true},
	}
}

// anyhow has work take up pieces such as they are.
func anyhow(s studio.Step) studio.Step {
	s.Wants = studio.WantsAny
	return s
}

func looked(s studio.Step, look string, cautions ...string) studio.Step {
	s.Look, s.Cautions = look, cautions
	return s
}

// dries waits for a class: the studio's thinnest, or its thickest.
func (l *layer) dries(key, name string, solid bool, thickness studio.Micrometres, state studio.State) studio.Step {
	s := studio.Step{Key: key, Name: name, Wait: &studio.Wait{Minutes: 240}}
	var class *studio.DryingClass
	for i := range l.doc.DryingClasses {
		c := &l.doc.DryingClasses[i]
		if class == nil || solid && c.Thickness > class.Thickness || !solid && c.Thickness < class.Thickness {
			class = c
		}
	}
	if class != nil {
		s.Wait = &studio.Wait{Drying: studio.Drying{Class: class.ID, Thickness: thickness}, State: state}
	}
	return s
}

func stands(key, name string, minutes studio.Minute) studio.Step {
	return studio.Step{Key: key, Name: name, Wait: &studio.Wait{Minutes: minutes}}
}

// in has pieces lie in the first place whose name has one of the words, until a step
// is over; a studio that has none keeps them wherever it likes.
func (l *layer) in(s studio.Step, perSlot int64, until string, words ...string) studio.Step {
	for _, word := range words {
		for _, p := range l.doc.Places {
			if strings.Contains(strings.ToLower(p.Name), word) {
				s.Holds = append(s.Holds, studio.Hold{Place: p.ID, PerSlot: perSlot, Until: until})
				return s
			}
		}
	}
	return s
}

// wire is the studio's wire nearest to a gauge; without one there is no input.
func (l *layer) wire(
	r *studio.Recipe,
	step string,
	gauge studio.Gauge,
	depth, stem, allowance studio.Micrometres,
	hook studio.Hook,
) {
	var best *studio.Material
	apart := func(m *studio.Material) int64 { return max(int64(m.Wire.Gauge-gauge), int64(gauge-m.Wire.Gauge)) }
	for i := range l.doc.Materials {
		if m := &l.doc.Materials[i]; m.Wire != nil && (best == nil || apart(m) < apart(best)) {
			best = m
		}
	}
	if best != nil {
		r.Wires = append(
			r.Wires,
			studio.WireInput{
				Step:      step,
				Material:  best.ID,
				Number:    1,
				Depth:     depth,
				Stem:      stem,
				Allowance: allowance,
				Hook:      hook,
			},
		)
	}
}

// bought takes the studio's material with that word in its name that is measured, not weighed.
func (l *layer) bought(r *studio.Recipe, step, word string, amount int64) {
	for _, m := range l.doc.Materials {
		if m.Wire == nil && m.Unit != studio.UnitMilligrams && strings.Contains(strings.ToLower(m.Name), word) {
			if m.Unit == studio.UnitMicrometres {
				amount *= 1000
			}
			r.Materials = append(r.Materials, studio.MaterialInput{Step: step, Material: m.ID, Amount: amount})
			return
		}
	}
}

func paste(r *studio.Recipe, step, slot string, shape studio.Geometry, run int64) {
	r.Pastes = append(r.Pastes, studio.PasteInput{Step: step, Slot: slot, Shape: shape, Run: run})
}

// settle gives slots that no colourway colours the mix that the studio's other recipes
// give them by default; without such a paste that is called by the slot, else the lightest.
func (l *layer) settle() {
	given := map[string]studio.ID{}
	var lightest *studio.Recipe
	for _, r := range l.doc.Current() {
		for slot, mix := range r.Defaults {
			given[slot] = mix
		}
		if r.Kind == studio.KindMix && r.Form == "paste" && (lightest == nil || r.Colour > lightest.Colour) {
			lightest = r
		}
	}
	coloured := map[string]bool{}
	for _, c := range l.doc.Colourways {
		for slot := range c.Slots {
			coloured[slot] = true
		}
	}
	for i := range l.recipes {
		r := &l.recipes[i]
		for _, p := range r.Pastes {
			mix := given[p.Slot]
			if mix == "" {
				mix = l.pasteFor(p.Slot, lightest)
			}
			if mix != "" && !coloured[p.Slot] {
				if r.Defaults == nil {
					r.Defaults = map[string]studio.ID{}
				}
				r.Defaults[p.Slot] = mix
			}
		}
	}
}

// pasteFor is a paste of the studio that has the word of a slot in its name, or else another.
func (l *layer) pasteFor(slot string, other *studio.Recipe) studio.ID {
	for _, r := range l.doc.Current() {
		if r.Kind == studio.KindMix && r.Form == "paste" &&
			slices.Contains(strings.Fields(strings.ToLower(r.Name)), slot) {
			return r.ID
		}
	}
	if other == nil {
		return ""
	}
	return other.ID
}

// takes adds an input; the pointer is good until the next one.
func takes(r *studio.Recipe, step string, part studio.ID, count int64, rows ...int64) *studio.PartInput {
	p := studio.PartInput{Step: step, Recipe: part, Count: count}
	if len(rows) > 0 {
		p.Count, p.Rows, p.Set = 0, rows, studio.SetOverGaps
		for _, n := range rows {
			p.Count += n
		}
	}
	r.Parts = append(r.Parts, p)
	return &r.Parts[len(r.Parts)-1]
}
