package methods

import (
	"bytes"
	"encoding/json"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/drying"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
)

// method is one way of making, as a flower book of its own and what it demands.
type method struct {
	row     string
	name    string
	recipes []studio.Recipe
	demands []demand
}

// demand is something that a method asks of the format: what shows that it is there,
// and what takes it away.
type demand struct {
	says  string
	holds func(run) bool
	drop  func(*studio.Document)
}

// run is a method's document on its way through the core.
type run struct {
	doc      *studio.Document
	book     *studio.Book
	counted  *count.Result
	instance *studio.Instance
	plan     *studio.Plan
}

// through counts and plans a document; false when it is refused.
func through(t *testing.T, doc *studio.Document) (run, bool) {
	data, err := json.Marshal(doc)
	require.NoError(t, err)
	read, err := studio.Read(bytes.NewReader(data))
	if err != nil {
		t.Log(err)
		return run{}, false
	}
	counted, err := count.Up(read)
	require.NoError(t, err)
	p, err := plan.Make(read, counted, plan.Options{})
	require.NoError(t, err)
	require.Empty(t, check.Plan(read, p))
	book := studio.NewBook(read)
	return run{read, book, counted, studio.Route(read, book, counted.Lots, counted.Links, counted.Pegs), p}, true
}

func TestEveryMethodCanBeWrittenDown(t *testing.T) {
	for _, m := range slices.Concat(daisies(), peonies(), roses(), others()) {
		t.Run(m.row+" "+m.name, func(t *testing.T) {
			r, ok := through(t, m.document())
			require.True(t, ok)
			assert.Empty(t, r.plan.Unplaced)
			for _, d := range m.demands {
				assert.True(t, d.holds(r), "%s is said", d.says)
				spoilt := m.document()
				d.drop(spoilt)
				less, ok := through(t, spoilt)
				require.True(t, ok, "%s, taken away, leaves a document", d.says)
				assert.False(t, d.holds(less), "%s, taken away, is missed", d.says)
			}
		})
	}
}

// document is Pellowen Yard with the recipes of a method, and an order for two of the
// last, in each of its variants.
func (m method) document() *studio.Document {
	d := &studio.Document{
		Format:   studio.Format,
		Version:  studio.Version,
		Name:     "Pellowen Yard",
		Epoch:    time.Date(2027, 8, 30, 0, 0, 0, 0, time.UTC),
		Zone:     "Europe/Dublin",
		Now:      21*1440 + 450,
		Settings: studio.DefaultSettings(),
	}
	for range 24 {
		d.Climate = append(d.Climate, studio.Air{TenthsCelsius: 200, HumidityPerMille: 620})
	}
	d.DryingClasses = []studio.DryingClass{
		{
			ID:            "thin",
			Name:          "Thin petal",
			FirmMinutes:   30,
			StiffMinutes:  150,
			DryMinutes:    300,
			Thickness:     800,
			Spread:        200,
			StallHumidity: 800,
		},
		{
			ID:            "solid",
			Name:          "Solid core",
			FirmMinutes:   120,
			StiffMinutes:  400,
			DryMinutes:    720,
			Thickness:     10_000,
			Spread:        200,
			StallHumidity: 800,
		}}
	for _, id := range []studio.ID{"spoon tray", "half-sphere", "rail", "foam", "sheet", "mat", "board", "foil tray"} {
		d.Places = append(d.Places, studio.Place{ID: id, Name: string(id), Slots: 60})
	}
	d.Places[4].KeepsMinutes = 600
	d.Tools = []studio.Tool{
		{ID: "large veiner", Name: "Large veiner", Number: 1, StandIns: []studio.ID{"small veiner"}},
		{ID: "small veiner", Name: "Small veiner", Number: 1},
	}
	d.Machines = []studio.Machine{
		{ID: "dehydrator", Name: "Dehydrator", Slots: 6},
		{ID: "oven", Name: "Oven", Slots: 6},
	}
	d.Families = []studio.Family{
		{
			ID:          "brushes",
			Name:        "Brushes",
			FullMinutes: 9,
			Changes:     []studio.Change{{From: "white", To: "kelp", Minutes: 3}},
		},
	}
	material := func(id studio.ID, unit studio.Unit, wire *studio.Wire) {
		d.Materials = append(
			d.Materials,
			studio.Material{ID: id, Name: string(id), Unit: unit, OnHand: 1 << 40, Wire: wire},
		)
	}
	for _, id := range []studio.ID{"paste", "colour", "CMC", "lace mix", "starch", "maize grits"} {
		material(id, studio.UnitMilligrams, nil)
	}
	for _, id := range []studio.ID{"stamens", "long stamens", "foam ball", "wafer sheet", "wafer scraps", "film", "strips", "thread", "foil", "pearls", "green tape", "white tape", "tall sticks"} {
		material(id, studio.UnitPieces, nil)
	}
	for _, gauge := range []studio.Gauge{18, 24, 26, 30} {
		material(
			wireOf(gauge),
			studio.UnitPieces,
			&studio.Wire{Gauge: gauge, Cover: "white paper", Length: 360_000, Diameter: 600},
		)
	}
	skills := []studio.Skill{}
	for _, skill := range []string{"mixing", "shaping", "wiring", "dusting", "assembly"} {
		skills = append(skills, studio.Skill{Skill: skill, Pace: 100})
	}
	for _, name := range []string{"Odalys", "Teun", "Maren"} {
		p := studio.Person{ID: studio.ID(name), Name: name, Skills: skills}
		for _, day := range []studio.Weekday{"monday", "tuesday", "wednesday", "thursday", "friday"} {
			p.Hours = append(p.Hours, studio.DayHours{Day: day, From: 480, To: 1020})
		}
		d.People = append(d.People, p)
	}
	mix := func(id studio.ID, blend ...studio.Ingredient) studio.Recipe {
		return made(studio.KindMix, string(id), []studio.Step{work("knead", "mixing", 1000)}, func(r *studio.Recipe) {
			r.Blend, r.Colour, r.LifeMinutes = blend, "#e8d9c5", 20*1440
		})
	}
	d.Recipes = []studio.Recipe{mix("white", studio.Ingredient{Material: "paste", Parts: 1}),
		mix(
			"kelp",
			studio.Ingredient{Mix: "white", Parts: 9},
			studio.Ingredient{Material: "colour", Parts: 1},
		), mix("pale", studio.Ingredient{Mix: "kelp", Parts: 1}, studio.Ingredient{Mix: "white", Parts: 3})}
	d.Recipes[1].LifeColdMinutes = 40 * 1440
	for _, r := range m.recipes {
		made := copied(r)
		d.Recipes = append(d.Recipes, made)
		if r.ID == "foil tray" {
			d.Places[7].MadeBy = r.ID
		}
	}
	d.Colourways = []studio.Colourway{
		{
			ID:   "Kelp",
			Name: "Kelp tide",
			Slots: map[string]studio.ID{
				"petal": "kelp",
				"deep":  "kelp",
				"pale":  "pale",
				"leaf":  "kelp",
				"dust":  "kelp",
				"edge":  "pale",
				"icing": "white",
			},
		},
	}
	last := &d.Recipes[len(d.Recipes)-1]
	o := studio.Order{
		ID:         "choir",
		Name:       "Choir",
		Leaves:     studio.MustWallTime("2027-10-15T10:00"),
		Importance: 10,
		State:      studio.OrderOpen,
	}
	for _, variant := range append([]studio.Variant{{}}, last.Variants...) {
		o.Lines = append(
			o.Lines,
			studio.OrderLine{
				ID:           studio.ID("line " + variant.Name),
				Recipe:       last.ID,
				Variant:      variant.Name,
				Colourway:    "Kelp",
				Quantity:     2,
				ServiceLevel: 900,
			},
		)
	}
	d.Orders = []studio.Order{o}
	return d
}

// copied is a recipe that shares nothing with the table it stands in.
func copied(r studio.Recipe) studio.Recipe {
	data, err := json.Marshal(r)
	if err != nil {
		panic(err)
	}
	var own studio.Recipe
	if err := json.Unmarshal(data, &own); err != nil {
		panic(err)
	}
	return own
}

func wireOf(gauge studio.Gauge) studio.ID {
	return map[studio.Gauge]studio.ID{18: "wire 18", 24: "wire 24", 26: "wire 26", 30: "wire 30"}[gauge]
}

type change = func(*studio.Recipe)
type stepChange = func(*studio.Step)

func made(kind studio.Kind, name string, steps []studio.Step, changes ...change) studio.Recipe {
	id := studio.ID(name)
	r := studio.Recipe{
		ID:       id,
		Recipe:   id,
		Revision: 1,
		Name:     name,
		Kind:     kind,
		Steps:    steps,
		Spares:   studio.Spares{Rule: studio.SparesNone},
	}
	for _, c := range changes {
		c(&r)
	}
	return r
}

func part(name string, steps []studio.Step, changes ...change) studio.Recipe {
	return made(studio.KindPart, name, steps, append([]change{thin, loses(30)}, changes...)...)
}

func flower(name string, steps []studio.Step, changes ...change) studio.Recipe {
	return made(studio.KindFlower, name, steps, append([]change{thin, loses(20)}, changes...)...)
}

// thin dries as thin petals do, solid as a core of a thickness; neverDries says nothing of it.
func thin(r *studio.Recipe)       { r.Dries = &studio.Drying{Class: "thin", Thickness: 800} }
func neverDries(r *studio.Recipe) { r.Dries = nil }

func solid(thickness studio.Micrometres) change {
	return func(r *studio.Recipe) { r.Dries = &studio.Drying{Class: "solid", Thickness: thickness} }
}

func loses(perMille studio.PerMille) change {
	return func(r *studio.Recipe) { r.Spares = studio.Spares{Rule: studio.SparesByBreakage, Breakage: perMille} }
}

// sized is a row of the table of sizes.
func sized(name string, count int64, length, width, thickness studio.Micrometres) change {
	return func(r *studio.Recipe) {
		r.Sizes = append(r.Sizes, studio.Size{Name: name, Count: count, Shape: sheet(length, width, thickness)})
	}
}

func spray(name string, steps []studio.Step, changes ...change) studio.Recipe {
	return made(studio.KindSpray, name, steps, changes...)
}

func steps(all ...studio.Step) []studio.Step { return all }

func work(key, skill string, perPiece studio.Milliminutes, changes ...stepChange) studio.Step {
	s := studio.Step{
		Key:  key,
		Name: key,
		Work: &studio.Work{Glyph: strings.Fields(key)[0], Skill: skill, PerPiece: perPiece, MayPause: true},
	}
	for _, c := range changes {
		c(&s)
	}
	return s
}

func dries(key string, class studio.ID, state studio.State, changes ...stepChange) studio.Step {
	s := studio.Step{
		Key:  key,
		Name: key,
		Wait: &studio.Wait{Drying: studio.Drying{Class: class, Thickness: 800}, State: state},
	}
	for _, c := range changes {
		c(&s)
	}
	return s
}

func stands(key string, minutes studio.Minute, changes ...stepChange) studio.Step {
	s := studio.Step{Key: key, Name: key, Wait: &studio.Wait{Minutes: minutes}}
	for _, c := range changes {
		c(&s)
	}
	return s
}

func bakes(key string, machine studio.ID, minutes studio.Minute) studio.Step {
	return studio.Step{
		Key:  key,
		Name: key,
		Wait: &studio.Wait{
			Minutes: minutes,
			Load:    &studio.Load{Machines: []studio.ID{machine}, Setting: "low", PerSlot: 40},
		},
	}
}

// held occupies a place until a step of its own recipe.
func held(place studio.ID, perSlot int64, until string) stepChange {
	return func(s *studio.Step) {
		s.Holds = append(s.Holds, studio.Hold{Place: place, PerSlot: perSlot, Until: until})
	}
}

// while limits a step to when a piece has reached a state and not yet another.
func while(from, before studio.State) stepChange {
	return func(s *studio.Step) {
		s.Windows = append(
			s.Windows,
			studio.Window{From: from, Before: before, Drying: studio.Drying{Class: "thin", Thickness: 800}},
		)
	}
}

func thick(thickness studio.Micrometres) stepChange {
	return func(s *studio.Step) { s.Wait.Thickness = thickness }
}

func stint(name string) stepChange {
	return func(s *studio.Step) { s.Work.Stint, s.Work.MayPause = name, false }
}

func wanting(wants studio.Condition) stepChange { return func(s *studio.Step) { s.Wants = wants } }

func share(share studio.PerMille) stepChange { return func(s *studio.Step) { s.Work.Share = share } }

func ofForm(form string) stepChange { return func(s *studio.Step) { s.Work.Form = form } }

func together(pieces int64) stepChange { return func(s *studio.Step) { s.Work.Together = pieces } }

func coloured(slot string) stepChange {
	return func(s *studio.Step) { s.Work.Family, s.Work.Slot = "brushes", slot }
}

func tool(id studio.ID) stepChange {
	return func(s *studio.Step) { s.Work.Tools = []studio.ToolNeed{{Tool: id}} }
}

func look(words string) stepChange { return func(s *studio.Step) { s.Look = words } }

func takes(step string, recipe studio.ID, count int64, changes ...func(*studio.PartInput)) change {
	return func(r *studio.Recipe) {
		p := studio.PartInput{Step: step, Recipe: recipe, Count: count}
		for _, c := range changes {
			c(&p)
		}
		r.Parts = append(r.Parts, p)
	}
}

func wanted(wants studio.Condition) func(*studio.PartInput) {
	return func(p *studio.PartInput) { p.Wants = wants }
}

func joined(join studio.Join) func(*studio.PartInput) {
	return func(p *studio.PartInput) { p.Join = join }
}

var (
	soft, anyState    = wanted(studio.WantsSoft), wanted(studio.WantsAny)
	taped, glued, wet = joined(studio.JoinTaped), joined(studio.JoinGlued), joined(studio.JoinWet)
)

func least(n int64) func(*studio.PartInput) { return func(p *studio.PartInput) { p.Least = &n } }

// fresh limits an input to a window of states since it was put down.
func fresh(from, before studio.State) func(*studio.PartInput) {
	return func(p *studio.PartInput) {
		p.Window = &studio.Window{From: from, Before: before, Drying: studio.Drying{Class: "thin", Thickness: 800}}
	}
}

func paste(step, slot string, g studio.Geometry) change {
	return func(r *studio.Recipe) {
		r.Pastes = append(r.Pastes, studio.PasteInput{Step: step, Slot: slot, Shape: g, Run: 12})
	}
}

func ball(diameter studio.Micrometres) studio.Geometry {
	return studio.Geometry{Shape: studio.ShapeBall, Diameter: diameter}
}

func sheet(length, width, thickness studio.Micrometres) studio.Geometry {
	return studio.Geometry{Shape: studio.ShapeCut, Length: length, Width: width, Thickness: thickness, Factor: 785}
}

func wired(step string, gauge studio.Gauge, number int64, changes ...func(*studio.WireInput)) change {
	return func(r *studio.Recipe) {
		w := studio.WireInput{
			Step:      step,
			Material:  wireOf(gauge),
			Number:    number,
			Depth:     12_000,
			Stem:      90_000,
			Allowance: 5000,
			Hook:      studio.HookOpen,
		}
		for _, c := range changes {
			c(&w)
		}
		r.Wires = append(r.Wires, w)
	}
}

func bought(step string, material studio.ID, amount, per int64, outAt string) change {
	return func(r *studio.Recipe) {
		r.Materials = append(
			r.Materials,
			studio.MaterialInput{Step: step, Material: material, Amount: amount, Per: per, OutAt: outAt},
		)
	}
}

func yields(step string, gives int64) change {
	return func(r *studio.Recipe) { r.Yield = &studio.Yield{Step: step, Gives: gives} }
}

func inForms(forms ...studio.Form) change { return func(r *studio.Recipe) { r.Forms = forms } }

func variant(v studio.Variant) change {
	return func(r *studio.Recipe) { r.Variants = append(r.Variants, v) }
}

// said is a demand that a recipe's data show.
func said(says string, recipe studio.ID, shows func(*studio.Recipe) bool, drop change) demand {
	return demand{
		says,
		func(r run) bool { return shows(of(r.doc, recipe)) },
		func(d *studio.Document) { drop(of(d, recipe)) },
	}
}

// planned is a demand that shows in the routing or the plan.
func planned(says string, holds func(run) bool, recipe studio.ID, drop change) demand {
	return demand{says, holds, func(d *studio.Document) { drop(of(d, recipe)) }}
}

func of(d *studio.Document, recipe studio.ID) *studio.Recipe {
	return &d.Recipes[slices.IndexFunc(d.Recipes, func(r studio.Recipe) bool { return r.ID == recipe })]
}

func at(r *studio.Recipe, key string) *studio.Step {
	i := slices.IndexFunc(r.Steps, func(s studio.Step) bool { return s.Key == key })
	return &r.Steps[i]
}

func has(r *studio.Recipe, key string) bool { _, i := r.Step(key); return i >= 0 }

// without takes a step away, with all that hangs on it.
func without(key string) change {
	return func(r *studio.Recipe) {
		whole := *r
		r.Variants = []studio.Variant{{Name: "less", Without: []string{key}}}
		less, _ := r.As("less")
		*r = *less
		r.Name, r.Variants, r.Sizes, r.Techniques = whole.Name, whole.Variants, whole.Sizes, whole.Techniques
		for i := range r.Variants {
			v := &r.Variants[i]
			v.Without = slices.DeleteFunc(v.Without, func(k string) bool { return k == key })
		}
	}
}

func noHolds(key string) change { return func(r *studio.Recipe) { at(r, key).Holds = nil } }

func noWindows(key string) change { return func(r *studio.Recipe) { at(r, key).Windows = nil } }

func input(r *studio.Recipe, recipe studio.ID) *studio.PartInput {
	i := slices.IndexFunc(r.Parts, func(p studio.PartInput) bool { return p.Recipe == recipe })
	return &r.Parts[i]
}

// lots are the counted lots of a recipe in a variant.
func (r run) lots(recipe studio.ID, variant string) []studio.Lot {
	var all []studio.Lot
	for _, l := range r.counted.Lots {
		if l.Recipe == recipe && l.Variant == variant {
			all = append(all, l)
		}
	}
	return all
}

// shades are the mixes in which a recipe is made for a slot.
func (r run) shades(recipe studio.ID, slot string) map[studio.ID]bool {
	all := map[studio.ID]bool{}
	for _, l := range r.lots(recipe, "") {
		all[l.Mixes[slot]] = true
	}
	return all
}

func (r run) started(recipe studio.ID) (sum int64) {
	for _, l := range r.counted.Lots {
		if l.Recipe == recipe {
			sum += l.Started
		}
	}
	return sum
}

// task is the first planned task of a step of a recipe; an empty one without it.
func (r run) task(recipe studio.ID, step string) studio.Task {
	for _, t := range r.plan.Tasks {
		if t.Step == step &&
			slices.ContainsFunc(
				r.counted.Lots,
				func(l studio.Lot) bool { return l.ID == t.Lot && l.Recipe == recipe },
			) {
			return t
		}
	}
	return studio.Task{}
}

// limited says how a link into a step of a recipe, from one recipe, is limited.
func (r run) limited(from, to studio.ID, step string) (leastState, mostState studio.State, least, most studio.Minute) {
	lot := func(task studio.ID) studio.ID {
		for _, t := range r.plan.Tasks {
			if t.ID == task {
				return r.counted.Lots[slices.IndexFunc(r.counted.Lots, func(l studio.Lot) bool { return l.ID == t.Lot })].Recipe
			}
		}
		return ""
	}
	for _, k := range r.instance.Links {
		if lot(k.From) != from || lot(k.To) != to || r.instance.Activities()[k.To].Step != step {
			continue
		}
		if k.Least != nil && k.Least.Dries != nil {
			leastState = k.Least.Dries.State
		} else if k.Least != nil {
			least = k.Least.Minutes
		}
		if k.Most != nil && k.Most.Dries != nil {
			mostState = k.Most.Dries.State
		} else if k.Most != nil {
			most = k.Most.Minutes
		}
	}
	return leastState, mostState, least, most
}

// holds are the places that the first task of a step of a recipe holds.
func (r run) holds(recipe studio.ID, step string) []studio.ID {
	var places []studio.ID
	for _, h := range r.task(recipe, step).Holds {
		places = append(places, h.Place)
	}
	return places
}

func (r run) need(recipe studio.ID, step string) int64 {
	calendar, _ := studio.NewCalendar(r.doc.Epoch, r.doc.Zone)
	return drying.NewRoom(r.doc, calendar).Need(r.instance.Activities()[r.task(recipe, step).ID].Wait.Least)
}
