package studio

import (
	"fmt"
	"maps"
	"reflect"
	"regexp"
	"slices"
	"strings"
)

var swatch = regexp.MustCompile(`^#[0-9a-f]{6}$`)

func (v *validator) recipeList() {
	for i := range v.doc.Recipes {
		r := &v.doc.Recipes[i]
		place := fmt.Sprintf("recipes[%d] %q", i, r.Name)
		v.named(place, r.ID, r.Name)
		register(v, place, v.recipes, r.ID, r)
	}
	for i := range v.doc.Recipes {
		r := &v.doc.Recipes[i]
		place := fmt.Sprintf("recipes[%d] %q", i, r.Name)
		v.page(place, r)
	}
	if len(v.problems) == 0 {
		v.cycles()
	}
	if len(v.problems) == 0 {
		v.defaults()
	}
}

// page checks a recipe with its variants and techniques.
func (v *validator) page(place string, r *Recipe) {
	v.recipe(place, r)
	v.keys(place, r)
	v.variants(place, r)
	v.techniques(place, r)
}

// CheckRecipes lists, by recipe, what is wrong with recipes as somebody writes them:
// each as if it stood in the document in place of the revision of its id. Places begin
// at the recipe. What they make wrong together, a cycle or two mixes of one slot, is
// said of the first; only asked once each is right by itself.
func (d *Document) CheckRecipes(written []Recipe) map[ID]Problems {
	changed := d.With(written)
	v := newValidator(changed)
	v.equipment()
	v.supplies()
	v.climate()
	for i := range changed.Recipes {
		v.recipes[changed.Recipes[i].ID] = &changed.Recipes[i]
	}
	v.problems = nil // of what the recipes stand on, the document is judged elsewhere
	found := map[ID]Problems{}
	for i := range written {
		r := &written[i]
		v.ranges(reflect.ValueOf(r), "")
		v.named("", r.ID, r.Name)
		v.page("", r)
		if len(v.problems) > 0 {
			found[r.ID], v.problems = v.problems, nil
		}
	}
	if len(found) == 0 && len(written) > 0 {
		if v.cycles(); len(v.problems) == 0 {
			v.defaults()
			v.sizes()
		}
		if len(v.problems) > 0 {
			found[written[0].ID] = v.problems
		}
	}
	return found
}

// sizes refuses what comes to more pieces, through all levels, than any flower has.
func (v *validator) sizes() {
	book := NewBook(v.doc)
	for i := range v.doc.Recipes {
		r := &v.doc.Recipes[i]
		if n := book.Pieces(Made{Recipe: r.ID}); n > MostInOne {
			v.say(fmt.Sprintf("recipes[%d] %q.parts", i, r.Name),
				"come to %d pieces with all that goes into them; up to %d would be right", n, MostInOne)
			return
		}
	}
}

// defaults refuses a subtree in which one slot has two default mixes: a slot
// means the same everywhere below a flower.
func (v *validator) defaults() {
	book := NewBook(v.doc)
	for i := range v.doc.Recipes {
		r := &v.doc.Recipes[i]
		own := book.slots[Made{Recipe: r.ID}]
		for _, slot := range book.Slots(Made{Recipe: r.ID}) {
			if r.KeepInStock > 0 && own[slot] == "" {
				v.say(
					fmt.Sprintf("recipes[%d] %q.keepInStock", i, r.Name),
					"slot %q has no default mix; what is kept in stock has one",
					slot,
				)
			}
		}
		for j, part := range r.Parts {
			if below := book.Of(part.Made()); below != nil && below.OwnColours {
				continue
			}
			for _, slot := range book.Slots(part.Made()) {
				if _, renamed := part.Slots[slot]; renamed {
					continue
				}
				if mix := book.slots[part.Made()][slot]; mix != "" && own[slot] != mix {
					v.say(
						fmt.Sprintf("recipes[%d] %q.parts[%d]", i, r.Name, j),
						"slot %q has one default mix here and another below; rename it for this input, or let the colours of that recipe be its own",
						slot,
					)
				}
			}
		}
	}
}

// cycles names one cycle of recipes, if there is any.
func (v *validator) cycles() {
	const open, closed = 1, 2
	state := map[ID]int{}
	var path []string
	var visit func(id ID) bool
	visit = func(id ID) bool {
		r := v.recipes[id]
		path = append(path, r.Name)
		switch state[id] {
		case open:
			from := slices.Index(path, r.Name)
			v.say(
				fmt.Sprintf("recipes %q", r.Name),
				"needs itself: %s; recipes nest without cycles",
				strings.Join(path[from:], " → "),
			)
			return true
		case closed:
			path = path[:len(path)-1]
			return false
		}
		state[id] = open
		parts := slices.Clone(r.Parts)
		for _, change := range r.Changes() {
			parts = append(parts, change.Parts...)
		}
		for _, p := range parts {
			if visit(p.Recipe) {
				return true
			}
		}
		for _, in := range r.Blend {
			if in.Mix != "" && visit(in.Mix) {
				return true
			}
		}
		state[id] = closed
		path = path[:len(path)-1]
		return false
	}
	for i := range v.doc.Recipes {
		if visit(v.doc.Recipes[i].ID) {
			return
		}
	}
}

func (v *validator) recipe(place string, r *Recipe) {
	switch r.Kind {
	case KindMix:
		v.blend(place, r)
	case KindPart, KindFlower, KindSpray:
		if len(r.Blend) > 0 || len(r.Additives) > 0 {
			v.say(place+".blend", "only a mix has a blend; this is a %s", r.Kind)
		}
	default:
		v.say(place+".kind", "is %q; mix, part, flower or spray would be right", r.Kind)
	}
	if r.OutputStep() < 0 {
		v.say(place+".steps", "has no work step; a recipe needs at least one")
	}
	keys := map[string]bool{}
	for i, s := range r.Steps {
		at := fmt.Sprintf("%s.steps[%d] %q", place, i, s.Name)
		if s.Key == "" || keys[s.Key] {
			v.say(at+".key", "%q is empty or used twice in this recipe", s.Key)
		}
		keys[s.Key] = true
		v.step(at, r, i)
	}
	if len(r.Steps) > 0 && r.Steps[0].Work == nil {
		v.say(place+".steps[0]", "is a wait; a recipe begins with work")
	}
	if r.Dries != nil {
		v.drying(place+".dries", *r.Dries)
	}
	v.quantities(place, r)
	v.sizeTable(place, r)
	at := func(list string, i int, step string) string {
		here := fmt.Sprintf("%s.%s[%d]", place, list, i)
		if s, index := r.Step(step); index < 0 || s.Work == nil {
			v.say(here+".step", "%q is not a work step of this recipe", step)
		}
		return here
	}
	for i, p := range r.Parts {
		here := at("parts", i, p.Step)
		v.part(here, p)
		if p.InRun {
			v.inRun(here, p)
		}
	}
	for i, p := range r.Pastes {
		here := at("pastes", i, p.Step)
		if p.Slot == "" {
			v.say(here+".slot", "is empty; name the colour slot")
		}
		within(v, here+".run", p.Run, 0, 10_000)
		within(v, here+".number", p.Number, 0, MostCount)
		v.shape(here+".shape", p.Shape)
	}
	for _, slot := range slices.Sorted(maps.Keys(r.Defaults)) {
		v.mix(fmt.Sprintf("%s.defaults[%q]", place, slot), r.Defaults[slot])
	}
	for i, m := range r.Materials {
		here := at("materials", i, m.Step)
		if _, known := v.materials[m.Material]; !known {
			v.say(here+".material", "no material %q", m.Material)
		}
		within(v, here+".amount", m.Amount, 1, 1<<40)
		within(v, here+".perPieces", m.Per, 0, 100_000)
		if m.Least != nil && (*m.Least < 0 || *m.Least > m.Amount) {
			v.say(here+".least", "is %d; from 0 to the usual amount, %d, would be right", *m.Least, m.Amount)
		}
		if m.Most != nil && (*m.Most < m.Amount || *m.Most > 1<<40) {
			v.say(here+".most", "is %d; the usual amount, %d, or more would be right", *m.Most, m.Amount)
		}
		if _, in := r.Step(m.Step); m.OutAt != "" {
			if _, out := r.Step(m.OutAt); out < in {
				v.say(here+".outAtStep", "%q is not a step from %q on; what goes in comes out", m.OutAt, m.Step)
			}
		}
	}
	for i, w := range r.Wires {
		v.wire(at("wires", i, w.Step), w)
	}
	v.spares(place+".spares", r.Spares)
	within(v, place+".mostPerLot", r.MostPerLot, 0, 1_000_000)
}

func (v *validator) wire(place string, w WireInput) {
	material, known := v.materials[w.Material]
	if !known || material.Wire == nil {
		v.say(place+".material", "no wire %q", w.Material)
		return
	}
	within(v, place+".number", w.Number, 1, 100)
	within(v, place+".depthMicrometres", w.Depth, 0, material.Wire.Length)
	if w.Depth < 0 || w.Stem < 0 || w.Allowance < 0 || w.Depth+w.Stem+w.Allowance <= 0 {
		v.say(place, "has no length; depth, stem and allowance together are more than nothing")
	}
	if w.Hook != "" && w.Hook != HookOpen && w.Hook != HookClosed && w.Hook != HookTapeWound &&
		w.Hook != HookStraight {
		v.say(place+".hook", "is %q; open, closed, tape-wound or straight would be right", w.Hook)
	}
	within(v, place+".turns", w.Turns, 0, 1000)
	if total := w.Depth + w.Stem + w.Allowance; total > material.Wire.Length {
		v.say(place, "needs %d mm, a full wire of %q has %d mm", total/1000, material.Name, material.Wire.Length/1000)
	}
}

func (v *validator) blend(place string, r *Recipe) {
	if len(r.Blend) == 0 {
		v.say(place+".blend", "is empty; a mix has at least one ingredient")
	}
	if !swatch.MatchString(r.Colour) {
		v.say(place+".colour", "%q is not a colour such as \"#e8d9c5\"", r.Colour)
	}
	var parts int64
	for _, in := range r.Blend {
		parts += in.Parts
	}
	if r.ByPercent && len(r.Blend) > 0 && parts != 100 {
		v.say(place+".blend", "adds up to %d per cent; 100 would be right", parts)
	}
	within(v, place+".lifeMinutes", r.LifeMinutes, 1, 400*1440)
	if len(r.Parts)+len(r.Pastes)+len(r.Wires)+len(r.Materials) > 0 {
		v.say(place, "is a mix: it has a blend and additives, no parts, pastes, wires or materials")
	}
	for i, in := range r.Blend {
		here := fmt.Sprintf("%s.blend[%d]", place, i)
		within(v, here+".parts", in.Parts, 1, 1_000_000)
		if (in.Material == "") == (in.Mix == "") {
			v.say(here, "names a material or a mix, one of the two")
			continue
		}
		if in.Mix != "" {
			v.mix(here+".mix", in.Mix)
		} else {
			v.weighed(here+".material", in.Material)
		}
	}
	for i, a := range r.Additives {
		here := fmt.Sprintf("%s.additives[%d]", place, i)
		v.weighed(here+".material", a.Material)
		if a.Per100g > 0 && a.Drops > 0 {
			v.say(here, "is weighed and in drops; one of the two would be right")
		}
		within(v, here+".dropsPer100g", a.Drops, 0, 10_000)
		within(v, here+".milligramsPer100g", a.Mass(), 1, 100_000)
	}
}

func (v *validator) weighed(place string, id ID) {
	if m, known := v.materials[id]; !known || m.Unit != UnitMilligrams {
		v.say(place, "no material %q that is weighed in mg", id)
	}
}

func (v *validator) shape(place string, g Geometry) {
	const most = Micrometres(1_000_000)
	switch g.Shape {
	case ShapeCut:
		within(v, place+".lengthMicrometres", g.Length, 100, most)
		within(v, place+".widthMicrometres", g.Width, 100, most)
		within(v, place+".thicknessMicrometres", g.Thickness, 50, 50_000)
		within(v, place+".factorPerMille", g.Factor, 1, 1000)
		if g.Dried > g.Length {
			v.say(place+".driedMicrometres", "is %d, more than the %d that are cut; pieces shrink", g.Dried, g.Length)
		}
	case ShapeBall:
		within(v, place+".diameterMicrometres", g.Diameter, 100, most)
	case ShapeRope:
		within(v, place+".diameterMicrometres", g.Diameter, 100, most)
		within(v, place+".lengthMicrometres", g.Length, 100, most)
	case ShapeWeighed:
		within(v, place+".massMilligrams", g.Mass, 1, 10_000_000)
	default:
		v.say(place+".shape", "is %q; cut, ball, rope or weighed would be right", g.Shape)
	}
}

func (v *validator) spares(place string, s Spares) {
	switch s.Rule {
	case SparesByBreakage, SparesByNumber, SparesByPercent, SparesNone:
	default:
		v.say(place+".rule", "is %q; breakage, number, percent or none would be right", s.Rule)
	}
	within(v, place+".breakagePerMille", s.Breakage, 0, 900)
	within(v, place+".number", s.Number, 0, 10_000)
	within(v, place+".percent", s.Percent, 0, 200)
	within(v, place+".goodSoFar", s.GoodSoFar, 0, 1<<40)
	within(v, place+".brokenSoFar", s.LostSoFar, 0, 1<<40)
}

// variants checks every variant as the recipe that it makes.
func (v *validator) variants(place string, r *Recipe) {
	names := map[string]bool{"": true}
	for i, variant := range r.Variants {
		at := fmt.Sprintf("%s.variants[%d] %q", place, i, variant.Name)
		if names[variant.Name] {
			v.say(at+".name", "%q is empty or used twice in this recipe", variant.Name)
			continue
		}
		names[variant.Name] = true
		v.changes(at, r, variant)
		made, _ := r.As(variant.Name)
		if len(variant.Order) > 0 && len(variant.Order) != len(made.Steps) {
			v.say(at+".order", "names %d steps, the variant has %d", len(variant.Order), len(made.Steps))
		}
		v.recipe(at, made)
	}
}

// techniques checks every school as the recipe that it makes, the others being as
// chosen.
func (v *validator) techniques(place string, r *Recipe) {
	for i, t := range r.Techniques {
		at := fmt.Sprintf("%s.techniques[%d] %q", place, i, t.Question)
		if t.Question == "" ||
			slices.ContainsFunc(r.Techniques[:i], func(o Technique) bool { return o.Question == t.Question }) {
			v.say(at+".question", "%q is empty or asked twice in this recipe", t.Question)
			continue
		}
		if t.As == "" {
			v.say(at+".as", "is empty; name the way this recipe does it")
		}
		if t.Chosen != "" && named(t.Schools, t.Chosen) < 0 {
			v.say(at+".chosen", "%q is not one of its schools", t.Chosen)
		}
		names := map[string]bool{"": true, t.As: true}
		for j, school := range t.Schools {
			here := fmt.Sprintf("%s.schools[%d] %q", at, j, school.Name)
			if names[school.Name] {
				v.say(here+".name", "%q is empty or used twice", school.Name)
				continue
			}
			names[school.Name] = true
			v.changes(here, r, school)
			made, _ := r.In(t.Question, school.Name).As("")
			v.recipe(here, made)
		}
	}
	for i, s := range r.Silenced {
		if s.Rule == "" || strings.TrimSpace(s.Reason) == "" {
			v.say(fmt.Sprintf("%s.silenced[%d]", place, i), "needs a rule and a reason")
		}
	}
	for i, p := range r.Pictures {
		if p.ID == "" || strings.TrimSpace(p.Name) == "" {
			v.say(fmt.Sprintf("%s.pictures[%d]", place, i), "needs an id and a name")
		}
	}
}

// changes checks that a named change speaks of steps that there are: the recipe's, its
// own, or those of the schools chosen.
func (v *validator) changes(at string, r *Recipe, change Variant) {
	base, _ := r.As("")
	known := func(key, list string) {
		_, own := r.Step(key)
		_, chosen := base.Step(key)
		if own < 0 && chosen < 0 &&
			!slices.ContainsFunc(change.Steps, func(s StepChange) bool { return s.Key == key }) {
			v.say(at+"."+list, "%q is not a step of this recipe", key)
		}
	}
	for _, key := range slices.Concat(change.Without, change.Order) {
		known(key, "without, order")
	}
	if change.StopAfter != "" {
		known(change.StopAfter, "stopAfter")
	}
	for _, s := range change.Steps {
		if _, own := r.Step(s.Key); own < 0 && s.After != "" {
			known(s.After, "steps.after")
		}
	}
	certain(v, at+".parts", r.Parts, change.Parts, PartInput.SameAs)
	certain(v, at+".pastes", r.Pastes, change.Pastes, PasteInput.SameAs)
	certain(v, at+".materials", r.Materials, change.Materials, MaterialInput.SameAs)
	certain(v, at+".wires", r.Wires, change.Wires, WireInput.SameAs)
}

// certain refuses a change that may be of one of several inputs.
func certain[T any](v *validator, place string, inputs, changes []T, same func(T, T) bool) {
	for i, change := range changes {
		found := 0
		for _, in := range inputs {
			if same(in, change) {
				found++
			}
		}
		if found > 1 {
			v.say(fmt.Sprintf("%s[%d]", place, i),
				"changes one of %d inputs that are alike; give each a key, and name the one that is changed", found)
		}
	}
}

// keys refuses two inputs of one key.
func (v *validator) keys(place string, r *Recipe) {
	seen := map[string]bool{"": true}
	check := func(list string, i int, key string) {
		if key != "" && seen[list+key] {
			v.say(fmt.Sprintf("%s.%s[%d].key", place, list, i), "%q is used twice in this recipe", key)
		}
		seen[list+key] = true
	}
	for i, p := range r.Parts {
		check("parts", i, p.Key)
	}
	for i, p := range r.Pastes {
		check("pastes", i, p.Key)
	}
	for i, m := range r.Materials {
		check("materials", i, m.Key)
	}
	for i, w := range r.Wires {
		check("wires", i, w.Key)
	}
}

// quantities checks yields, forms, limits of a lot, byproducts and direction.
func (v *validator) quantities(place string, r *Recipe) {
	within(v, place+".leastPerLot", r.LeastPerLot, 0, 1_000_000)
	within(v, place+".keepInStock", r.KeepInStock, 0, 1_000_000)
	if r.KeepInStock > 0 && r.Kind == KindMix {
		v.say(place+".keepInStock", "is of a mix, which does not keep; pieces are kept in stock")
	}
	if r.Drying != 0 {
		within(v, place+".dryingPerMille", r.Drying, 50, 10_000)
	}
	if y := r.Yield; y != nil {
		within(v, place+".yield.gives", y.Gives, 2, 10_000)
		if s, i := r.Step(y.Step); i < 0 || s.Work == nil {
			v.say(place+".yield.step", "%q is not a work step of this recipe", y.Step)
		}
	}
	var shares PerMille
	for i, f := range r.Forms {
		at := fmt.Sprintf("%s.forms[%d]", place, i)
		if f.Name == "" || slices.ContainsFunc(r.Forms[:i], func(g Form) bool { return g.Name == f.Name }) {
			v.say(at+".name", "%q is empty or used twice", f.Name)
		}
		within(v, at+".sharePerMille", f.Share, 1, 1000)
		shares += f.Share
	}
	if shares > 1000 {
		v.say(place+".forms", "share out %d ‰ of a lot; at most 1000 would be right", shares)
	}
	for i, b := range r.Byproducts {
		if _, known := v.materials[b.Material]; !known || b.Amount < 1 {
			v.say(fmt.Sprintf("%s.byproducts[%d]", place, i), "no material %q, or no amount of it", b.Material)
		}
	}
	if r.Build != "" && r.Build != InsideOut && r.Build != OutsideIn {
		v.say(place+".build", "is %q; inside-out or outside-in would be right", r.Build)
	}
}
