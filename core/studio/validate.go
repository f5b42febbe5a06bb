package studio

import (
	"cmp"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"
)

// Validate lists everything wrong with a document; the core trusts a document
// for which it is empty.
func (d *Document) Validate() Problems {
	v := newValidator(d)
	if d.Format != Format || d.Version != Version {
		v.say("format", "is %q version %d; this program reads %q version %d", d.Format, d.Version, Format, Version)
		return v.problems
	}
	v.ranges(reflect.ValueOf(d).Elem(), "")
	v.frame()
	v.climate()
	v.sensors()
	v.supplies()
	v.suppliers()
	v.equipment()
	v.makers()
	if d.Direct != nil {
		v.direct()
		return v.problems
	}
	v.recipeList()
	if len(v.problems) > 0 {
		return v.problems // what refers to recipes can only be judged once they hold
	}
	v.sizes()
	book := NewBook(d)
	v.promises(book)
	v.stock(book)
	v.offcuts()
	v.recorded()
	v.divided()
	v.decided(book)
	return v.problems
}

// CheckOrder lists what is wrong with one order as somebody enters it: against
// the document's recipes and colourways, and against now. Places begin at the
// order.
func (d *Document) CheckOrder(o Order) Problems {
	v := newValidator(d)
	for i := range d.Recipes {
		v.recipes[d.Recipes[i].ID] = &d.Recipes[i]
	}
	for i := range d.Colourways {
		v.colourways[d.Colourways[i].ID] = &d.Colourways[i]
	}
	for i := range d.Materials {
		v.materials[d.Materials[i].ID] = &d.Materials[i]
	}
	with := *d
	with.Orders = append(slices.Clone(d.Orders), o)
	v.order("", o, NewBook(&with))
	v.dates(&o)
	for _, before := range d.Orders {
		for _, l := range before.Lines {
			if before.ID == o.ID && l.Gone > 0 &&
				!slices.ContainsFunc(o.Lines, func(now OrderLine) bool { return now.ID == l.ID }) {
				v.say("lines", "misses a line of which %d have left already; lower its number to that instead", l.Gone)
			}
		}
	}
	calendar, err := NewCalendar(d.Epoch, d.Zone)
	if err == nil && !o.Leaves.IsZero() && (o.State == OrderOpen || o.State == OrderQuote) {
		switch leaves := calendar.Minute(o.Leaves); {
		case leaves <= d.Now:
			v.say("leaves", "is %s; now is %s, and an order leaves after now", o.Leaves, calendar.Wall(d.Now))
		case leaves > d.Now+MostAhead:
			v.say("leaves", "is %s; at most ten years ahead would be right", o.Leaves)
		}
	}
	return v.problems
}

func newValidator(d *Document) *validator {
	return &validator{
		doc:        d,
		materials:  map[ID]*Material{},
		recipes:    map[ID]*Recipe{},
		classes:    map[ID]bool{},
		air:        map[ID]bool{},
		methods:    map[ID]bool{},
		places:     map[ID]*Place{},
		tools:      map[ID]bool{},
		machines:   map[ID]*Machine{},
		gates:      map[ID]bool{},
		families:   map[ID]bool{},
		people:     map[ID]*Person{},
		colourways: map[ID]*Colourway{},
		lines:      map[ID]bool{},
	}
}

type validator struct {
	doc        *Document
	problems   Problems
	materials  map[ID]*Material
	recipes    map[ID]*Recipe
	classes    map[ID]bool
	air        map[ID]bool
	methods    map[ID]bool
	places     map[ID]*Place
	tools      map[ID]bool
	machines   map[ID]*Machine
	gates      map[ID]bool
	families   map[ID]bool
	people     map[ID]*Person
	colourways map[ID]*Colourway
	lines      map[ID]bool
}

func (v *validator) say(place, format string, args ...any) {
	v.problems = append(v.problems, Flaw(strings.TrimPrefix(place, "."), format, args...))
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
	if flaw := nameFlaw(name); flaw != "" {
		v.say(place+".name", "%s", flaw)
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
	within(v, "now", d.Now, 0, oldest-MostAhead)
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
	within(v, "settings.remakeMinutes", s.RemakeMinutes, 0, 10*1440)
	within(v, "settings.sittingMinutes", s.SittingMinutes, 0, 480)
	within(v, "settings.remnantMilligrams", s.RemnantMilligrams, 0, 100_000)
	v.measures()
	for i, a := range v.doc.Settings.Allergens {
		if flaw := nameFlaw(a); flaw != "" {
			v.say(fmt.Sprintf("settings.allergens[%d]", i), "%s", flaw)
		}
	}
	v.manner(v.doc.Settings.Manner)
	v.devices(v.doc.Settings.Devices)
	within(v, "settings.seatMinutes", s.SeatMinutes, 0, 1440)
	if s.SparesFor != SparesForRemaking && s.SparesFor != SparesForService {
		v.say("settings.sparesFor", "is %q; remaking or service would be right", s.SparesFor)
	}
	for i, p := range d.Pins {
		place := fmt.Sprintf("pins[%d]", i)
		if p.Person == "" && p.Start == nil {
			v.say(place, "pins nothing; name a person, a start or both")
		}
		if slices.ContainsFunc(d.Pins[:i], func(q Pin) bool { return q.Task == p.Task }) {
			v.say(place+".task", "%q is pinned twice", p.Task)
		}
	}
	for i, s := range d.Seen {
		if slices.ContainsFunc(d.Seen[:i], func(q Seen) bool { return q.Task == s.Task }) {
			v.say(fmt.Sprintf("seen[%d].task", i), "%q stands twice", s.Task)
		}
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
		within(v, place+".onHand", m.OnHand, -1<<50, 1<<50)
		within(v, place+".pack", m.Pack, 0, 1<<40)
		within(v, place+".keepAtLeast", m.KeepAtLeast, 0, 1<<40)
		v.label(place, m)
		v.carries(place, m)
		if m.Wire != nil {
			if m.Unit != UnitPieces {
				v.say(place+".unit", "is %q; a wire is counted in pieces", m.Unit)
			}
			within(v, place+".wire.lengthMicrometres", m.Wire.Length, 10_000, 5_000_000)
		}
	}
}

// climate checks the air and what dries in it. A direct document needs none.
func (v *validator) climate() {
	d := v.doc
	day := func(place string, hours []Air) {
		if len(hours) != 24 {
			v.say(place, "has %d hours; give the expected air of all 24 hours of a day", len(hours))
		}
		for i, air := range hours {
			v.airOf(fmt.Sprintf("%s[%d]", place, i), air)
		}
	}
	if d.Direct == nil || len(d.Climate) > 0 || len(d.DryingClasses) > 0 {
		day("climate", d.Climate)
	}
	for i, s := range d.Surroundings {
		place := fmt.Sprintf("surroundings[%d] %q", i, s.Name)
		v.named(place, s.ID, s.Name)
		register(v, place, v.air, s.ID, true)
		day(place+".hours", s.Hours)
	}
	for i, r := range d.Readings {
		place := fmt.Sprintf("readings[%d]", i)
		within(v, place+".hour", r.Hour, 0, 10*366*24)
		v.airOf(place, r.Air)
		v.surroundings(place+".in", r.In)
	}
	for i, m := range d.Methods {
		place := fmt.Sprintf("dryingMethods[%d] %q", i, m.Name)
		v.named(place, m.ID, m.Name)
		register(v, place, v.methods, m.ID, true)
		within(v, place+".factorPerMille", m.Factor, 50, 10_000)
	}
	for i, c := range v.doc.DryingClasses {
		place := fmt.Sprintf("dryingClasses[%d] %q", i, c.Name)
		v.named(place, c.ID, c.Name)
		register(v, place, v.classes, c.ID, true)
		within(v, place+".firmMinutes", c.FirmMinutes, 1, c.DryMinutes)
		within(v, place+".stiffMinutes", c.StiffMinutes, c.FirmMinutes, c.DryMinutes)
		within(v, place+".dryMinutes", c.DryMinutes, 1, 30*1440)
		within(v, place+".thicknessMicrometres", c.Thickness, 50, 100_000)
		within(v, place+".spreadPerMille", c.Spread, 0, 1000)
		within(v, place+".stallHumidityPerMille", c.StallHumidity, 600, 950)
		if c.Percentile != 0 {
			within(v, place+".percentile", c.Percentile, 50, 99)
		}
	}
}

func (v *validator) airOf(place string, air Air) {
	within(v, place+".tenthsCelsius", air.TenthsCelsius, -100, 500)
	within(v, place+".humidityPerMille", air.HumidityPerMille, 0, 1000)
}

func (v *validator) surroundings(place string, id ID) {
	if id != "" && !v.air[id] {
		v.say(place, "no surroundings %q", id)
	}
}

// equipment checks places, tools, machines, gates and setup families.
func (v *validator) equipment() {
	for i := range v.doc.Places {
		p := &v.doc.Places[i]
		place := fmt.Sprintf("places[%d] %q", i, p.Name)
		v.named(place, p.ID, p.Name)
		register(v, place, v.places, p.ID, p)
		within(v, place+".slots", p.Slots, 1, 100_000)
		within(v, place+".keepsMinutes", p.KeepsMinutes, 0, 60*1440)
		v.surroundings(place+".in", p.In)
	}
	for i, t := range v.doc.Tools {
		place := fmt.Sprintf("tools[%d] %q", i, t.Name)
		v.named(place, t.ID, t.Name)
		register(v, place, v.tools, t.ID, true)
		within(v, place+".number", t.Number, 1, 1000)
	}
	for i, t := range v.doc.Tools {
		for _, other := range t.StandIns {
			if !v.tools[other] || other == t.ID {
				v.say(fmt.Sprintf("tools[%d] %q.standIns", i, t.Name), "no other tool %q", other)
			}
		}
	}
	for i := range v.doc.Machines {
		m := &v.doc.Machines[i]
		place := fmt.Sprintf("machines[%d] %q", i, m.Name)
		v.named(place, m.ID, m.Name)
		register(v, place, v.machines, m.ID, m)
		within(v, place+".slots", m.Slots, 1, 100_000)
		v.machineDrying(place, m)
	}
	for i, g := range v.doc.Gates {
		place := fmt.Sprintf("gates[%d] %q", i, g.Name)
		v.named(place, g.ID, g.Name)
		register(v, place, v.gates, g.ID, true)
		within(v, place+".amount", g.Amount, 0, 1<<40)
		if _, known := v.materials[g.Material]; g.Material != "" && !known {
			v.say(place+".material", "no material %q", g.Material)
		}
	}
	for i, f := range v.doc.Families {
		place := fmt.Sprintf("setupFamilies[%d] %q", i, f.Name)
		v.named(place, f.ID, f.Name)
		register(v, place, v.families, f.ID, true)
		within(v, place+".fullMinutes", f.FullMinutes, 0, 1440)
		for j, c := range f.Changes {
			within(v, fmt.Sprintf("%s.changes[%d].minutes", place, j), c.Minutes, 0, 1440)
		}
		if f.Reset != ResetNever && f.Reset != ResetNight && f.Reset != ResetOtherWork {
			v.say(place+".reset", "is %q; night, other-work or nothing would be right", f.Reset)
		}
	}
}

func (v *validator) makers() {
	for i, p := range v.doc.People {
		place := fmt.Sprintf("people[%d] %q", i, p.Name)
		v.named(place, p.ID, p.Name)
		register(v, place, v.people, p.ID, &v.doc.People[i])
		known := map[string]bool{}
		for j, s := range p.Skills {
			if s.Skill == "" || known[s.Skill] {
				v.say(fmt.Sprintf("%s.skills[%d].skill", place, j), "is %q; each skill is named, and once", s.Skill)
			}
			known[s.Skill] = true
			within(v, fmt.Sprintf("%s.skills[%d] %q.paceHundredths", place, j, s.Skill), s.Pace, 10, 1000)
		}
		for j, h := range slices.Concat(p.Hours, p.Overtime) {
			if h.From >= h.To {
				v.say(fmt.Sprintf("%s.hours, overtime[%d]", place, j), "ends (%s) before it starts (%s)", h.To, h.From)
			}
		}
		for j, s := range slices.Concat(p.Shifts, p.OvertimeShifts, p.AwayTimes) {
			if s.From >= s.To || s.From < 0 {
				v.say(
					fmt.Sprintf("%s.shifts, overtimeShifts, awayTimes[%d]", place, j),
					"is from %d to %d; a span begins at 0 or later and ends after that",
					s.From,
					s.To,
				)
			}
		}
		for _, family := range slices.Sorted(maps.Keys(p.Colours)) {
			if !v.families[family] {
				v.say(place+".colours", "no setup family %q", family)
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
	switch flaw := nameFlaw(o.Name); flaw {
	case "":
	case "is empty":
		v.say(place+".name", "is empty; say what the order is called")
	default:
		v.say(place+".name", "%s", flaw)
	}
	if o.State != OrderOpen && o.State != OrderQuote && o.State != OrderCancelled && o.State != OrderLeft {
		v.say(place+".state", "is %q; open, quote, cancelled or left would be right", o.State)
	}
	if o.Leaves.IsZero() {
		v.say(place+".leaves", "is missing; say when the flowers leave the studio, as \"2027-10-02T14:00\"")
	}
	within(v, place+".importance", o.Importance, 1, 100)
	v.whole(place, &o)
	if len(o.Lines) == 0 {
		v.say(place+".lines", "is empty; an order has at least one flower")
	}
	var pieces int64
	for j, line := range o.Lines {
		at := fmt.Sprintf("%s.lines[%d]", place, j)
		register(v, at, v.lines, line.ID, true)
		within(v, at+".quantity", line.Quantity, 1, v.doc.Settings.MostPiecesOfOneOrder)
		within(v, at+".serviceLevelPerMille", line.ServiceLevel, 500, 999)
		if line.Gone < 0 || line.Gone > line.Quantity {
			v.say(at+".quantity", "is %d, and %d have left already", line.Quantity, line.Gone)
		}
		recipe, known := v.recipes[line.Recipe]
		if !known || recipe.Kind == KindMix {
			v.say(at+".recipe", "no recipe %q that can be ordered is in the flower book", line.Recipe)
			continue
		}
		if book.Of(line.Made()) == nil {
			v.say(at+".variant", "%q has no variant %q", recipe.Name, line.Variant)
			continue
		}
		if pieces += min(line.Quantity, MostPieces) * book.Pieces(line.Made()); pieces > MostPieces {
			v.say(
				at+".quantity",
				"is %d; with all that goes into them the order comes to more than %d pieces. Enter it as several, or fewer",
				line.Quantity,
				MostPieces,
			)
			break
		}
		colourway, known := v.colourways[line.Colourway]
		switch {
		case line.Colourway == "":
			colourway = &Colourway{Name: "no colourway"}
		case !known:
			v.say(at+".colourway", "no colourway %q", line.Colourway)
			continue
		}
		if _, missing := book.Resolve(line.Made(), colourway.Slots); len(missing) > 0 {
			v.say(
				at+".colourway",
				"%q gives no mix for %s of %q",
				colourway.Name,
				strings.Join(missing, ", "),
				recipe.Name,
			)
		}
	}
}

func (v *validator) mix(place string, id ID) {
	if r, known := v.recipes[id]; !known || r.Kind != KindMix {
		v.say(place, "no mix %q", id)
	}
}
