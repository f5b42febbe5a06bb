package studio

import (
	"cmp"
	"maps"
	"slices"
)

// Book finds recipes by revision id and variant, and what their subtrees need.
// Build it once per valid document; it is safe for concurrent use.
type Book struct {
	materials map[ID]*Material
	recipes   map[Made]*Recipe
	slots     map[Made]map[string]ID
	names     map[Made][]string // of the slots, in order
	level     map[Made]int
	density   int64
}

// NewBook indexes the recipes of a document. In one that is not valid, as while recipes are
// written, an input of what is unknown is nothing, and a recipe that needs itself ends there.
func NewBook(doc *Document) *Book {
	b := &Book{
		materials: map[ID]*Material{},
		recipes:   map[Made]*Recipe{},
		slots:     map[Made]map[string]ID{},
		names:     map[Made][]string{},
		level:     map[Made]int{},
		density:   doc.Settings.DensityMgPerMl,
	}
	for i := range doc.Materials {
		b.materials[doc.Materials[i].ID] = &doc.Materials[i]
	}
	var all []Made
	otherwise := doc.otherwise()
	for i := range doc.Recipes {
		r := &doc.Recipes[i]
		names := []string{""}
		for _, v := range r.Variants {
			names = append(names, v.Name)
		}
		for _, s := range r.Sizes {
			names = append(names, s.Name)
		}
		for _, name := range append(names, otherwise[r.ID]...) {
			made := Made{Recipe: r.ID, Variant: name}
			if as, known := r.As(name); known && b.recipes[made] == nil {
				b.recipes[made], all = as, append(all, made)
			}
		}
	}
	byID := map[ID]*Recipe{}
	for i := range doc.Recipes {
		byID[doc.Recipes[i].ID] = &doc.Recipes[i]
	}
	for _, made := range all {
		b.recipes[made] = b.inSizes(b.recipes[made], byID)
	}
	b.ownColours(all, byID)
	keeps, runs := SoftStores(doc), map[Made]*Recipe{}
	for _, made := range all {
		runs[made] = b.withRuns(b.recipes[made], keeps)
	}
	b.recipes = runs
	for _, made := range all {
		b.names[made] = slices.Sorted(maps.Keys(b.subtree(made)))
	}
	for _, made := range all {
		b.lower(made, 0)
	}
	return b
}

// otherwise are the variants by which a document has things of recipes, those among them that
// are made by other schools than the book's.
func (d *Document) otherwise() map[ID][]string {
	all := map[ID][]string{}
	add := func(m Made) {
		if m.Variant != "" && !slices.Contains(all[m.Recipe], m.Variant) {
			all[m.Recipe] = append(all[m.Recipe], m.Variant)
		}
	}
	for i := range d.Orders {
		for _, l := range d.Orders[i].Lines {
			add(l.Made())
		}
	}
	for i := range d.Work {
		add(d.Work[i].Made())
	}
	for i := range d.Shelf {
		add(d.Shelf[i].Made())
	}
	for i := range d.Decided {
		add(d.Decided[i].Made())
	}
	for i := range d.Recipes {
		for _, p := range d.Recipes[i].Parts {
			add(p.Made())
		}
		for _, v := range d.Recipes[i].Changes() {
			for _, p := range v.Parts {
				add(p.Made())
			}
		}
	}
	return all
}

// Knows is true of a book that has all the ways in which a document of its recipes has things.
func (b *Book) Knows(doc *Document) bool {
	for recipe, names := range doc.otherwise() {
		for _, name := range names {
			if b.recipes[Made{Recipe: recipe, Variant: name}] == nil {
				return false
			}
		}
	}
	return true
}

// Needs are the recipes that a recipe refers to, in any variant and school, each once.
func (r *Recipe) Needs() []ID {
	var all []ID
	add := func(id ID) {
		if id != "" && !slices.Contains(all, id) {
			all = append(all, id)
		}
	}
	parts := slices.Clone(r.Parts)
	for _, v := range r.Changes() {
		parts = append(parts, v.Parts...)
	}
	for _, p := range parts {
		add(p.Recipe)
	}
	for _, in := range r.Blend {
		add(in.Mix)
	}
	for _, slot := range slices.Sorted(maps.Keys(r.Defaults)) {
		add(r.Defaults[slot])
	}
	return all
}

// With is the document with recipes in place of the revisions of their ids, or added;
// it shares everything else with the document.
func (d *Document) With(recipes []Recipe) *Document {
	with := *d
	with.Recipes = slices.Clone(d.Recipes)
	for _, r := range recipes {
		if i := slices.IndexFunc(with.Recipes, func(o Recipe) bool { return o.ID == r.ID }); i >= 0 {
			with.Recipes[i] = r
		} else {
			with.Recipes = append(with.Recipes, r)
		}
	}
	return &with
}

// Colours are the mixes that a colourway gives to slots; nil when the document has none
// of that id.
func (d *Document) Colours(colourway ID) map[string]ID {
	for _, c := range d.Colourways {
		if c.ID == colourway {
			return c.Slots
		}
	}
	return nil
}

// Page is the id that all revisions of a recipe share.
func (r *Recipe) Page() ID { return cmp.Or(r.Recipe, r.ID) }

// Current are the latest revisions of the document's recipes, in the order of their
// first ones: what the flower book shows and what can be ordered anew.
func (d *Document) Current() []*Recipe {
	at := map[ID]int{}
	var current []*Recipe
	for i := range d.Recipes {
		r := &d.Recipes[i]
		j, known := at[r.Page()]
		switch {
		case !known:
			at[r.Page()] = len(current)
			current = append(current, r)
		case current[j].Revision < r.Revision:
			current[j] = r
		}
	}
	return current
}

// Recipe is the revision with this id, without any variant; nil when the
// document has none.
func (b *Book) Recipe(id ID) *Recipe { return b.recipes[Made{Recipe: id}] }

// Material is the material with this id; nil when the document has none.
func (b *Book) Material(id ID) *Material { return b.materials[id] }

// Density is that of paste in the document's studio, in milligrams per millilitre.
func (b *Book) Density() int64 { return b.density }

// Of is a recipe in a variant; nil when the document has none.
func (b *Book) Of(m Made) *Recipe { return b.recipes[m] }

// Level is the longest path from any root of the recipe graph down, through
// parts; pastes count as children of everything.
func (b *Book) Level(m Made) int { return b.level[m] }

// Slots are the colour slots of the recipe's subtree, in order of name.
func (b *Book) Slots(m Made) []string { return b.names[m] }

// SlotsUntil are the colour slots of what has gone into pieces up to a step of
// their recipe, in order of name; all of them where no step is named.
func (b *Book) SlotsUntil(m Made, reached string) []string {
	r := b.recipes[m]
	_, last := r.Step(reached)
	if last < 0 {
		return b.Slots(m)
	}
	slots := map[string]bool{}
	by := func(step string) bool {
		_, i := r.Step(step)
		return i <= last
	}
	for _, p := range r.Pastes {
		if by(p.Step) {
			slots[p.Slot] = true
		}
	}
	for _, s := range r.Steps[:last+1] {
		if s.Work != nil && s.Work.Slot != "" {
			slots[s.Work.Slot] = true
		}
	}
	for _, p := range r.Parts {
		for _, slot := range b.Slots(p.Made()) {
			if from, renamed := p.Slots[slot]; renamed {
				slot = from
			}
			if by(p.Step) {
				slots[slot] = true
			}
		}
	}
	return slices.Sorted(maps.Keys(slots))
}

// Resolve gives every slot of the recipe's subtree its mix: the colourway's, or
// the default of the recipes below. A slot that stays empty is in missing.
func (b *Book) Resolve(m Made, colours map[string]ID) (mixes map[string]ID, missing []string) {
	mixes = map[string]ID{}
	for _, slot := range b.Slots(m) {
		mix := colours[slot]
		if mix == "" {
			mix = b.slots[m][slot]
		}
		if mix == "" {
			missing = append(missing, slot)
			continue
		}
		mixes[slot] = mix
	}
	return mixes, missing
}

// Input resolves the mixes of an input of a recipe made in the given ones.
func (b *Book) Input(p PartInput, mixes map[string]ID) map[string]ID {
	own, _ := b.Resolve(p.Made(), p.Into(mixes, b.Slots(p.Made())))
	return own
}

// Made is what the input is of.
func (p PartInput) Made() Made { return Made{Recipe: p.Recipe, Variant: p.Variant} }

// Made is what the lot is of.
func (l Lot) Made() Made { return Made{Recipe: l.Recipe, Variant: l.Variant} }

// Made is what the lot is of.
func (w WorkLot) Made() Made { return Made{Recipe: w.Recipe, Variant: w.Variant} }

// Made is what the line wants.
func (l OrderLine) Made() Made { return Made{Recipe: l.Recipe, Variant: l.Variant} }

// Made is what the lot is of.
func (d DecidedLot) Made() Made { return Made{Recipe: d.Recipe, Variant: d.Variant} }

// Made is what lies there.
func (s ShelfLot) Made() Made { return Made{Recipe: s.Recipe, Variant: s.Variant} }

func (b *Book) subtree(m Made) map[string]ID {
	if known, done := b.slots[m]; done {
		return known
	}
	slots := map[string]ID{}
	b.slots[m] = slots
	r := b.recipes[m]
	if r == nil {
		return slots
	}
	maps.Copy(slots, r.Defaults)
	for _, p := range r.Pastes {
		slots[p.Slot] = r.Defaults[p.Slot]
	}
	for _, s := range r.Steps {
		if s.Work != nil && s.Work.Slot != "" {
			slots[s.Work.Slot] = r.Defaults[s.Work.Slot]
		}
	}
	for _, p := range r.Parts {
		for slot, mix := range b.subtree(p.Made()) {
			if from, renamed := p.Slots[slot]; renamed {
				slot = from
			}
			if slots[slot] == "" {
				slots[slot] = mix
			}
		}
	}
	return slots
}

func (b *Book) lower(m Made, level int) {
	r := b.recipes[m]
	if known, done := b.level[m]; r == nil || done && known >= level || level > len(b.recipes) {
		return
	}
	b.level[m] = level
	for _, p := range r.Parts {
		b.lower(p.Made(), level+1)
	}
	for _, in := range r.Blend {
		if in.Mix != "" {
			b.lower(Made{Recipe: in.Mix}, level+1)
		}
	}
}

// GatherKey joins needs that can be made together: the recipe revision, its
// variant and the mixes of its subtree, never the colourway's name.
func GatherKey(m Made, mixes map[string]ID) string {
	key := append(make([]byte, 0, 256), m.Recipe...)
	key = append(append(append(key, '|'), m.Variant...), '|')
	for _, slot := range slices.Sorted(maps.Keys(mixes)) {
		key = append(append(append(append(key, slot...), '='), mixes[slot]...), ';')
	}
	return string(key)
}
