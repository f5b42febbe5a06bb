package studio

import (
	"cmp"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"
)

// Validate lists everything wrong with a document; the core trusts a document
// for which it is empty.
func (d *Document) Validate() Problems {
	v := &validator{doc: d, materials: map[ID]*Material{}, recipes: map[ID]*Recipe{}, classes: map[ID]bool{},
		places: map[ID]*Place{}, people: map[ID]bool{}, colourways: map[ID]*Colourway{}, lines: map[ID]bool{}}
	if d.Format != Format || d.Version != Version {
		v.say("format", "is %q version %d; this program reads %q version %d", d.Format, d.Version, Format, Version)
		return v.problems
	}
	v.frame()
	v.supplies()
	v.makers()
	v.recipeList()
	if len(v.problems) > 0 {
		return v.problems // what refers to recipes can only be judged once they hold
	}
	book := NewBook(d)
	v.promises(book)
	v.stock(book)
	return v.problems
}

// CheckOrder lists what is wrong with one order as somebody enters it: against
// the document's recipes and colourways, and against now. Places begin at the
// order.
func (d *Document) CheckOrder(o Order) Problems {
	v := &validator{doc: d, recipes: map[ID]*Recipe{}, colourways: map[ID]*Colourway{}, lines: map[ID]bool{}}
	for i := range d.Recipes {
		v.recipes[d.Recipes[i].ID] = &d.Recipes[i]
	}
	for i := range d.Colourways {
		v.colourways[d.Colourways[i].ID] = &d.Colourways[i]
	}
	v.order("", o, NewBook(d))
	calendar, err := NewCalendar(d.Epoch, d.Zone)
	if err == nil && o.Leaves != "" && (o.State == OrderOpen || o.State == OrderQuote) && calendar.Minute(o.Leaves) <= d.Now {
		v.say("leaves", "is %s; now is %s, and an order leaves after now", o.Leaves, calendar.Wall(d.Now))
	}
	return v.problems
}

type validator struct {
	doc        *Document
	problems   Problems
	materials  map[ID]*Material
	recipes    map[ID]*Recipe
	classes    map[ID]bool
	places     map[ID]*Place
	people     map[ID]bool
	colourways map[ID]*Colourway
	lines      map[ID]bool
}

func (v *validator) say(place, format string, args ...any) {
	v.problems = append(v.problems, Problem{strings.TrimPrefix(place, "."), fmt.Sprintf(format, args...)})
}

// within says so when a number lies outside least to most.
func within[T cmp.Ordered](v *validator, place string, n, least, most T) {
	if n < least || n > most {
		v.say(place, "is %v; from %v to %v would be right", n, least, most)
	}
}

func (v *validator) named(place string, id ID, name string) {
	if id == "" {
		v.say(place+".id", "is empty; give every thing an id of its own")
	}
	if strings.TrimSpace(name) == "" {
		v.say(place+".name", "is empty")
	}
}

func register[T any](v *validator, place string, known map[ID]T, id ID, value T) {
	if _, twice := known[id]; twice {
		v.say(place+".id", "%q is used twice; ids are unique", id)
	}
	known[id] = value
}

func (v *validator) frame() {
	d := v.doc
	if _, err := NewCalendar(d.Epoch, d.Zone); err != nil {
		v.say("epoch, zone", "%v", err)
		return
	}
	within(v, "now", d.Now, 0, 10*366*1440)
	s := d.Settings
	within(v, "settings.safetyMinutes", s.SafetyMinutes, 0, 30*1440)
	within(v, "settings.gatheringMinutes", s.GatheringMinutes, 0, 90*1440)
	within(v, "settings.horizonMinutes", s.HorizonMinutes, 1440, 400*1440)
	within(v, "settings.lossPerMille", s.LossPerMille, 0, 500)
	within(v, "settings.sheetYieldPerMille", s.SheetYieldPerMille, 100, 1000)
	within(v, "settings.densityMilligramsPerMillilitre", s.DensityMgPerMl, 500, 3000)
	within(v, "settings.scaleStepMilligrams", s.ScaleStepMilligrams, 1, 100_000)
	within(v, "settings.keepOffcutMicrometres", s.KeepOffcut, 0, 1_000_000)
	within(v, "settings.priorWeightPieces", s.PriorWeight, 1, 10_000)
	within(v, "settings.planningPercentile", s.PlanningPercentile, 50, 99)
	within(v, "settings.defaultServiceLevelPerMille", s.DefaultServiceLevel, 500, 999)
	within(v, "settings.mostPiecesOfOneOrder", s.MostPiecesOfOneOrder, 1, 1_000_000)
	if len(d.Climate) != 24 {
		v.say("climate", "has %d hours; give the expected air of all 24 hours of a day", len(d.Climate))
	}
	for i, air := range d.Climate {
		place := fmt.Sprintf("climate[%d]", i)
		within(v, place+".tenthsCelsius", air.TenthsCelsius, -100, 500)
		within(v, place+".humidityPerMille", air.HumidityPerMille, 0, 1000)
	}
}

func (v *validator) supplies() {
	for i := range v.doc.Materials {
		m := &v.doc.Materials[i]
		place := fmt.Sprintf("materials[%d] %q", i, m.Name)
		v.named(place, m.ID, m.Name)
		register(v, place, v.materials, m.ID, m)
		if m.Unit != UnitMilligrams && m.Unit != UnitMicrometres && m.Unit != UnitPieces {
			v.say(place+".unit", "is %q; mg, µm or pieces would be right", m.Unit)
		}
		if m.Wire != nil {
			if m.Unit != UnitPieces {
				v.say(place+".unit", "is %q; a wire is counted in pieces", m.Unit)
			}
			within(v, place+".wire.lengthMicrometres", m.Wire.Length, 10_000, 5_000_000)
			within(v, place+".wire.gauge", m.Wire.Gauge, 10, 40)
		}
	}
	for i, c := range v.doc.DryingClasses {
		place := fmt.Sprintf("dryingClasses[%d] %q", i, c.Name)
		v.named(place, c.ID, c.Name)
		register(v, place, v.classes, c.ID, true)
		within(v, place+".firmMinutes", c.FirmMinutes, 1, c.DryMinutes)
		within(v, place+".dryMinutes", c.DryMinutes, 1, 30*1440)
		within(v, place+".thicknessMicrometres", c.Thickness, 50, 100_000)
		within(v, place+".spreadPerMille", c.Spread, 0, 1000)
		within(v, place+".stallHumidityPerMille", c.StallHumidity, 600, 950)
	}
	for i := range v.doc.Places {
		p := &v.doc.Places[i]
		place := fmt.Sprintf("places[%d] %q", i, p.Name)
		v.named(place, p.ID, p.Name)
		register(v, place, v.places, p.ID, p)
		within(v, place+".slots", p.Slots, 1, 100_000)
	}
}

func (v *validator) makers() {
	for i, p := range v.doc.People {
		place := fmt.Sprintf("people[%d] %q", i, p.Name)
		v.named(place, p.ID, p.Name)
		register(v, place, v.people, p.ID, true)
		for j, s := range p.Skills {
			within(v, fmt.Sprintf("%s.skills[%d] %q.paceHundredths", place, j, s.Skill), s.Pace, 10, 1000)
		}
		for j, h := range p.Hours {
			if h.From >= h.To {
				v.say(fmt.Sprintf("%s.hours[%d]", place, j), "ends (%s) before it starts (%s)", h.To, h.From)
			}
		}
		for j, b := range p.Breaks {
			if b.From >= b.To {
				v.say(fmt.Sprintf("%s.breaks[%d]", place, j), "ends (%s) before it starts (%s)", b.To, b.From)
			}
		}
	}
}

func (v *validator) promises(book *Book) {
	orders := map[ID]bool{}
	for i := range v.doc.Colourways {
		c := &v.doc.Colourways[i]
		place := fmt.Sprintf("colourways[%d] %q", i, c.Name)
		v.named(place, c.ID, c.Name)
		register(v, place, v.colourways, c.ID, c)
		for _, slot := range slices.Sorted(maps.Keys(c.Slots)) {
			v.mix(fmt.Sprintf("%s.slots[%q]", place, slot), c.Slots[slot])
		}
	}
	for i, o := range v.doc.Orders {
		place := fmt.Sprintf("orders[%d] %q", i, o.Name)
		if o.ID == "" {
			v.say(place+".id", "is empty")
		}
		register(v, place, orders, o.ID, true)
		v.order(place, o, book)
	}
}

func (v *validator) order(place string, o Order, book *Book) {
	if strings.TrimSpace(o.Name) == "" {
		v.say(place+".name", "is empty; say what the order is called")
	}
	if o.State != OrderOpen && o.State != OrderQuote && o.State != OrderCancelled && o.State != OrderLeft {
		v.say(place+".state", "is %q; open, quote, cancelled or left would be right", o.State)
	}
	if o.Leaves == "" {
		v.say(place+".leaves", "is missing; say when the flowers leave the studio, as \"2027-10-02T14:00\"")
	}
	within(v, place+".importance", o.Importance, 1, 100)
	if len(o.Lines) == 0 {
		v.say(place+".lines", "is empty; an order has at least one flower")
	}
	for j, line := range o.Lines {
		at := fmt.Sprintf("%s.lines[%d]", place, j)
		register(v, at, v.lines, line.ID, true)
		within(v, at+".quantity", line.Quantity, 1, v.doc.Settings.MostPiecesOfOneOrder)
		within(v, at+".serviceLevelPerMille", line.ServiceLevel, 500, 999)
		recipe, known := v.recipes[line.Recipe]
		if !known || recipe.Kind == KindMix {
			v.say(at+".recipe", "no recipe %q that can be ordered is in the flower book", line.Recipe)
			continue
		}
		colourway, known := v.colourways[line.Colourway]
		if !known {
			v.say(at+".colourway", "no colourway %q", line.Colourway)
			continue
		}
		if _, missing := book.Resolve(line.Recipe, colourway.Slots); len(missing) > 0 {
			v.say(at+".colourway", "%q gives no mix for %s of %q", colourway.Name, strings.Join(missing, ", "), recipe.Name)
		}
	}
}

func (v *validator) stock(book *Book) {
	lots := map[ID]bool{}
	for i, w := range v.doc.Work {
		place := fmt.Sprintf("work[%d]", i)
		register(v, place, lots, w.ID, true)
		v.mixesOf(place, w.Recipe, w.Mixes, book)
		within(v, place+".started", w.Started, 1, 1<<40)
		within(v, place+".need", w.Need, 0, w.Started)
		last := -1
		for j, r := range w.Records {
			at := fmt.Sprintf("%s.records[%d]", place, j)
			recipe := v.recipes[w.Recipe]
			if recipe == nil {
				break
			}
			step, index := recipe.Step(r.Step)
			if index < 0 || step.Work == nil {
				v.say(at+".step", "%q is not a work step of %q", r.Step, recipe.Name)
				continue
			}
			if next := recipe.nextWork(last); index != next || j > 0 && w.Records[j-1].State != TaskDone {
				v.say(at+".step", "%q is recorded before the work step ahead of it was done", r.Step)
			}
			last = index
			if !v.people[r.Person] {
				v.say(at+".person", "no person %q", r.Person)
			}
			if r.State != TaskStarted && r.State != TaskPaused && r.State != TaskDone {
				v.say(at+".state", "is %q; started, paused or done would be right", r.State)
			}
			if r.Start > v.doc.Now || r.End > v.doc.Now || r.State == TaskDone && r.End < r.Start {
				v.say(at, "happened from %d to %d, now is %d", r.Start, r.End, v.doc.Now)
			}
			if r.Good < 0 || r.Second < 0 || r.Broken < 0 {
				v.say(at, "counts are never negative")
			}
		}
	}
	for i, s := range v.doc.Shelf {
		place := fmt.Sprintf("shelf[%d]", i)
		register(v, place, lots, s.ID, true)
		v.mixesOf(place, s.Recipe, s.Mixes, book)
		if s.Quality != Good && s.Quality != Second {
			v.say(place+".quality", "is %q; good or second would be right", s.Quality)
		}
		if s.From != "" && !lots[s.From] {
			v.say(place+".from", "no work lot %q", s.From)
		}
	}
}

func (v *validator) mixesOf(place string, recipe ID, mixes map[string]ID, book *Book) {
	if _, known := v.recipes[recipe]; !known {
		v.say(place+".recipe", "no recipe %q", recipe)
		return
	}
	for _, slot := range book.Slots(recipe) {
		if mixes[slot] == "" {
			v.say(place+".mixes", "no mix is given for slot %q", slot)
			continue
		}
		v.mix(fmt.Sprintf("%s.mixes[%q]", place, slot), mixes[slot])
	}
}

func (v *validator) mix(place string, id ID) {
	if r, known := v.recipes[id]; !known || r.Kind != KindMix {
		v.say(place, "no mix %q", id)
	}
}

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
		v.recipe(fmt.Sprintf("recipes[%d] %q", i, r.Name), r)
	}
	if len(v.problems) == 0 {
		v.cycles()
	}
	if len(v.problems) == 0 {
		v.defaults()
	}
}

// defaults refuses a subtree in which one slot has two default mixes: a slot
// means the same everywhere below a flower.
func (v *validator) defaults() {
	book := NewBook(v.doc)
	for i := range v.doc.Recipes {
		r := &v.doc.Recipes[i]
		own := book.slots[r.ID]
		for j, part := range r.Parts {
			for _, slot := range book.Slots(part.Recipe) {
				if mix := book.slots[part.Recipe][slot]; mix != "" && own[slot] != mix {
					v.say(fmt.Sprintf("recipes[%d] %q.parts[%d]", i, r.Name, j), "slot %q has one default mix here and another below", slot)
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
			v.say(fmt.Sprintf("recipes %q", r.Name), "needs itself: %s; recipes nest without cycles", strings.Join(path[from:], " → "))
			return true
		case closed:
			path = path[:len(path)-1]
			return false
		}
		state[id] = open
		for _, p := range r.Parts {
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
	at := func(list string, i int, step string) string {
		here := fmt.Sprintf("%s.%s[%d]", place, list, i)
		if s, index := r.Step(step); index < 0 || s.Work == nil {
			v.say(here+".step", "%q is not a work step of this recipe", step)
		}
		return here
	}
	for i, p := range r.Parts {
		here := at("parts", i, p.Step)
		if part, known := v.recipes[p.Recipe]; !known || part.Kind == KindMix {
			v.say(here+".recipe", "no part or flower %q", p.Recipe)
		}
		within(v, here+".count", p.Count, 1, 10_000)
	}
	for i, p := range r.Pastes {
		here := at("pastes", i, p.Step)
		if p.Slot == "" {
			v.say(here+".slot", "is empty; name the colour slot")
		}
		within(v, here+".run", p.Run, 0, 10_000)
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
		within(v, here+".milligramsPer100g", a.Per100g, 1, 100_000)
	}
}

func (v *validator) weighed(place string, id ID) {
	if m, known := v.materials[id]; !known || m.Unit != UnitMilligrams {
		v.say(place, "no material %q that is weighed in mg", id)
	}
}

func (v *validator) step(place string, r *Recipe, index int) {
	s := r.Steps[index]
	if (s.Work == nil) == (s.Wait == nil) {
		v.say(place, "is work or a wait, one of the two")
		return
	}
	if w := s.Work; w != nil {
		if w.Skill == "" {
			v.say(place+".work.skill", "is empty")
		}
		within(v, place+".work.setupMilliminutes", w.Setup, 0, 10_000_000)
		within(v, place+".work.pieceMilliminutes", w.PerPiece, 0, 10_000_000)
		if w.Setup+w.PerPiece == 0 {
			v.say(place+".work", "takes no time; give setup or minutes for a piece")
		}
	}
	if w := s.Wait; w != nil {
		drying := w.Class != "" || w.Thickness != 0 || w.State != ""
		if drying == (w.Minutes != 0) {
			v.say(place+".wait", "is for drying (class, thicknessMicrometres, state) or for fixed minutes, one of the two")
		} else if drying {
			if !v.classes[w.Class] {
				v.say(place+".wait.class", "no drying class %q", w.Class)
			}
			if w.State != Firm && w.State != Dry {
				v.say(place+".wait.state", "is %q; firm or dry would be right", w.State)
			}
			within(v, place+".wait.thicknessMicrometres", w.Thickness, 50, 100_000)
		} else {
			within(v, place+".wait.minutes", w.Minutes, 1, 60*1440)
		}
	}
	for i, h := range s.Holds {
		here := fmt.Sprintf("%s.holds[%d]", place, i)
		if _, known := v.places[h.Place]; !known {
			v.say(here+".place", "no place %q", h.Place)
		}
		within(v, here+".perSlot", h.PerSlot, 1, 10_000)
		if _, until := r.Step(h.Until); until < index {
			v.say(here+".until", "%q is not this step or one after it; a hold ends", h.Until)
		}
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
