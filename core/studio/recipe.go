package studio

import (
	"maps"
	"slices"
	"sort"
)

// Kind is what a recipe makes. Mixes are counted in milligrams, all else in pieces.
type Kind string

// Kinds of recipes.
const (
	KindMix    Kind = "mix"
	KindPart   Kind = "part"
	KindFlower Kind = "flower"
	KindSpray  Kind = "spray"
)

// Recipe is one immutable revision of how something is made. Its references to
// other recipes are to revisions, so one revision pins its whole closure.
type Recipe struct {
	ID       ID     `json:"id"`
	Recipe   ID     `json:"recipe"`
	Revision int    `json:"revision"`
	Name     string `json:"name"`
	Kind     Kind   `json:"kind"`
	// Form is the glyph a part or flower is drawn with: petal, leaf, centre, …
	Form string `json:"form,omitempty"`

	Parts     []PartInput     `json:"parts,omitempty"`
	Pastes    []PasteInput    `json:"pastes,omitempty"`
	Materials []MaterialInput `json:"materials,omitempty"`
	Wires     []WireInput     `json:"wires,omitempty"`
	// Defaults give a slot its mix where the colourway is silent.
	Defaults map[string]ID `json:"defaults,omitempty"`

	// Of a mix: its blend by parts, additives per 100 g, swatch and life.
	Blend       []Ingredient `json:"blend,omitempty"`
	Additives   []Additive   `json:"additives,omitempty"`
	Colour      string       `json:"colour,omitempty"`
	LifeMinutes Minute       `json:"lifeMinutes,omitempty"`

	Steps        []Step `json:"steps"`
	Spares       Spares `json:"spares"`
	SecondsServe bool   `json:"secondsServe,omitempty"`
	// MostPerLot is the lead's own limit on the pieces of a lot; 0 is none.
	MostPerLot int64 `json:"mostPerLot,omitempty"`
}

// PartInput takes Count pieces of another recipe for each piece, at a step.
type PartInput struct {
	Step   string `json:"step"`
	Recipe ID     `json:"recipe"`
	Count  int64  `json:"count"`
}

// PasteInput takes paste, dust or glue of a colour slot at a step. Run is the
// pieces cut from one working sheet; 0 where nothing is rolled.
type PasteInput struct {
	Step  string   `json:"step"`
	Slot  string   `json:"slot"`
	Shape Geometry `json:"shape"`
	Run   int64    `json:"run,omitempty"`
}

// Shape of a piece of paste, for its mass.
type Shape string

// Shapes: a cut sheet, a ball, a rope, or a weighed mass.
const (
	ShapeCut     Shape = "cut"
	ShapeBall    Shape = "ball"
	ShapeRope    Shape = "rope"
	ShapeWeighed Shape = "weighed"
)

// Geometry is the size of one piece; which fields count depends on its shape:
// cut takes length, width, thickness and the factor of its outline (an ellipse
// is 785 ‰ of its rectangle); ball takes diameter; rope diameter and length;
// weighed takes the mass itself.
type Geometry struct {
	Shape     Shape       `json:"shape"`
	Length    Micrometres `json:"lengthMicrometres,omitempty"`
	Width     Micrometres `json:"widthMicrometres,omitempty"`
	Thickness Micrometres `json:"thicknessMicrometres,omitempty"`
	Diameter  Micrometres `json:"diameterMicrometres,omitempty"`
	Factor    PerMille    `json:"factorPerMille,omitempty"`
	Mass      Milligrams  `json:"massMilligrams,omitempty"`
}

// MaterialInput takes an amount of a bought material, in its unit, for each piece.
type MaterialInput struct {
	Step     string `json:"step"`
	Material ID     `json:"material"`
	Amount   int64  `json:"amount"`
}

// WireInput takes Number cut wires for each piece, each as long as its depth in
// the paste, its free stem and the allowance for hook or loop together.
type WireInput struct {
	Step      string      `json:"step"`
	Material  ID          `json:"material"`
	Number    int64       `json:"number"`
	Depth     Micrometres `json:"depthMicrometres"`
	Stem      Micrometres `json:"stemMicrometres"`
	Allowance Micrometres `json:"allowanceMicrometres"`
}

// Ingredient is a share of a blend, by parts: a material or another mix.
type Ingredient struct {
	Material ID    `json:"material,omitempty"`
	Mix      ID    `json:"mix,omitempty"`
	Parts    int64 `json:"parts"`
}

// Additive is an amount of a material kneaded into each 100 g of a mix.
type Additive struct {
	Material ID         `json:"material"`
	Per100g  Milligrams `json:"milligramsPer100g"`
}

// Spares says how many more than needed are started.
type Spares struct {
	Rule      SpareRule `json:"rule"`
	Breakage  PerMille  `json:"breakagePerMille,omitempty"`
	Number    int64     `json:"number,omitempty"`
	Percent   int64     `json:"percent,omitempty"`
	GoodSoFar int64     `json:"goodSoFar,omitempty"`
	LostSoFar int64     `json:"brokenSoFar,omitempty"`
}

// SpareRule is one of the three schools of spares.
type SpareRule string

// Rules for spares: by expected breakage, a fixed number, a percentage, none.
const (
	SparesByBreakage SpareRule = "breakage"
	SparesByNumber   SpareRule = "number"
	SparesByPercent  SpareRule = "percent"
	SparesNone       SpareRule = "none"
)

// Step is one operation of a recipe: either work or a wait.
type Step struct {
	Key      string   `json:"key"`
	Name     string   `json:"name"`
	Work     *Work    `json:"work,omitempty"`
	Wait     *Wait    `json:"wait,omitempty"`
	Holds    []Hold   `json:"holds,omitempty"`
	Look     string   `json:"look,omitempty"`
	Cautions []string `json:"cautions,omitempty"`
}

// Work is attended: a skill, setup per lot, time per piece, whether it may pause.
type Work struct {
	Glyph    string       `json:"glyph"`
	Skill    string       `json:"skill"`
	Setup    Milliminutes `json:"setupMilliminutes"`
	PerPiece Milliminutes `json:"pieceMilliminutes"`
	MayPause bool         `json:"mayPause"`
	Tool     string       `json:"tool,omitempty"`
}

// State is how far a piece has dried.
type State string

// States of a drying piece.
const (
	Firm State = "firm"
	Dry  State = "dry"
)

// Wait is unattended: until a piece of a drying class and thickness has reached
// a state on the drying clock, or a fixed number of wall minutes.
type Wait struct {
	Class     ID          `json:"class,omitempty"`
	Thickness Micrometres `json:"thicknessMicrometres,omitempty"`
	State     State       `json:"state,omitempty"`
	Minutes   Minute      `json:"minutes,omitempty"`
}

// Hold occupies slots of a place from its step's start until a later step of
// the same recipe, or its own, ends.
type Hold struct {
	Place   ID     `json:"place"`
	PerSlot int64  `json:"perSlot"`
	Until   string `json:"until"`
}

// Pieces is the quantity that work and holds are reckoned on: the pieces of a
// lot, or for a mix its hundreds of grams begun.
func (r Recipe) Pieces(quantity int64) int64 {
	if r.Kind == KindMix {
		return CeilDiv(quantity, 100_000)
	}
	return quantity
}

// Step finds a step and its index by key.
func (r Recipe) Step(key string) (Step, int) {
	i := slices.IndexFunc(r.Steps, func(s Step) bool { return s.Key == key })
	if i < 0 {
		return Step{}, -1
	}
	return r.Steps[i], i
}

// OutputStep is the index of the last work step: when it is done, the pieces
// exist, though they may still have to dry.
func (r Recipe) OutputStep() int {
	last := -1
	for i, s := range r.Steps {
		if s.Work != nil {
			last = i
		}
	}
	return last
}

// nextWork is the index of the first work step after the given index, -1 past the last.
func (r Recipe) nextWork(after int) int {
	for i := after + 1; i < len(r.Steps); i++ {
		if r.Steps[i].Work != nil {
			return i
		}
	}
	return -1
}

// Book finds recipes by revision id, and what their subtrees need. Build it
// once per valid document; it is safe for concurrent use.
type Book struct {
	recipes map[ID]*Recipe
	slots   map[ID]map[string]ID
	level   map[ID]int
}

// NewBook indexes the recipes of a valid document.
func NewBook(doc *Document) *Book {
	b := &Book{map[ID]*Recipe{}, map[ID]map[string]ID{}, map[ID]int{}}
	for i := range doc.Recipes {
		b.recipes[doc.Recipes[i].ID] = &doc.Recipes[i]
	}
	for i := range doc.Recipes {
		b.subtree(doc.Recipes[i].ID)
	}
	for i := range doc.Recipes {
		b.lower(doc.Recipes[i].ID, 0)
	}
	return b
}

// Recipe is the revision with this id; it must be in the document.
func (b *Book) Recipe(id ID) *Recipe { return b.recipes[id] }

// Level is the longest path from any root of the recipe graph down to id,
// through parts; pastes count as children of everything.
func (b *Book) Level(id ID) int { return b.level[id] }

// Slots are the colour slots of the recipe's subtree, in order of name.
func (b *Book) Slots(id ID) []string { return slices.Sorted(maps.Keys(b.slots[id])) }

// Resolve gives every slot of the recipe's subtree its mix: the colourway's, or
// the default of the recipes below. A slot that stays empty is in missing.
func (b *Book) Resolve(id ID, colours map[string]ID) (mixes map[string]ID, missing []string) {
	mixes = map[string]ID{}
	for _, slot := range b.Slots(id) {
		mix := colours[slot]
		if mix == "" {
			mix = b.slots[id][slot]
		}
		if mix == "" {
			missing = append(missing, slot)
			continue
		}
		mixes[slot] = mix
	}
	return mixes, missing
}

// OnShelf lists what lies on the document's shelf of a recipe in the mixes of its
// subtree and can serve a need, oldest first: good pieces, and seconds where the
// recipe allows them.
func (b *Book) OnShelf(doc *Document, recipe ID, mixes map[string]ID) []ShelfLot {
	key := GatherKey(recipe, mixes)
	var shelf []ShelfLot
	for _, s := range doc.Shelf {
		own, _ := b.Resolve(s.Recipe, s.Mixes)
		if GatherKey(s.Recipe, own) == key && (s.Quality == Good || b.recipes[recipe].SecondsServe) {
			shelf = append(shelf, s)
		}
	}
	sort.SliceStable(shelf, func(i, j int) bool { return shelf[i].MadeOn < shelf[j].MadeOn })
	return shelf
}

func (b *Book) subtree(id ID) map[string]ID {
	if known, done := b.slots[id]; done {
		return known
	}
	slots := map[string]ID{}
	r := b.recipes[id]
	maps.Copy(slots, r.Defaults)
	for _, p := range r.Pastes {
		slots[p.Slot] = r.Defaults[p.Slot]
	}
	for _, p := range r.Parts {
		for slot, mix := range b.subtree(p.Recipe) {
			if slots[slot] == "" {
				slots[slot] = mix
			}
		}
	}
	b.slots[id] = slots
	return slots
}

func (b *Book) lower(id ID, level int) {
	if known, done := b.level[id]; done && known >= level {
		return
	}
	b.level[id] = level
	r := b.recipes[id]
	for _, p := range r.Parts {
		b.lower(p.Recipe, level+1)
	}
	for _, in := range r.Blend {
		if in.Mix != "" {
			b.lower(in.Mix, level+1)
		}
	}
}

// GatherKey joins needs that can be made together: the recipe revision, its
// variant (none yet) and the mixes of its subtree, never the colourway's name.
func GatherKey(recipe ID, mixes map[string]ID) string {
	key := string(recipe) + "||"
	slots := make([]string, 0, len(mixes))
	for slot := range mixes {
		slots = append(slots, slot)
	}
	sort.Strings(slots)
	for _, slot := range slots {
		key += slot + "=" + string(mixes[slot]) + ";"
	}
	return key
}
