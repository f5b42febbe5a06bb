// Package contents answers what is in flowers for whoever receives them: what some must not eat, what is no food and
// has to come off the cake again, and of what nobody has said whether it is food.
//
// What is asked for pins its recipes' revisions and, by its colourway, its mixes, and with them everything that goes
// in, through parts, pastes, dusts and glues down to what was bought. Nothing here says that anything is safe: it says
// what to check, by what the studio's own list of materials says of each.
package contents

import (
	"cmp"
	"fmt"
	"maps"
	"math/big"
	"slices"
	"strings"

	"bractum/core/studio"
)

// Contents is what is in the flowers of some lines of an order.
type Contents struct {
	// Allergens are all that is in them, those that concern the order's allergies first, then by name.
	Allergens []Allergen `json:"allergens"`
	// Uncompared are allergies that are on no list and of no material: nothing was compared with them.
	Uncompared []string `json:"uncompared"`
	// NotFood is what of them is no food, by material, in its unit: wires are counted in pieces.
	NotFood []Piece `json:"notFood"`
	// Out is what is put in while they are made and has to be out again before they are boxed.
	Out []Piece `json:"out"`
	// Unsaid are materials of which nobody has said whether they are food.
	Unsaid []studio.ID `json:"unsaid"`
}

// Concerns is true where something that the order's allergies name is in it.
func (c *Contents) Concerns() bool { return len(c.Allergens) > 0 && c.Allergens[0].Concerns }

// Allergen is one that is in something, and how it comes into it.
type Allergen struct {
	Name     string   `json:"name"`
	Concerns bool     `json:"concerns" doc:"the order's allergies name it"`
	Sources  []Source `json:"sources"`
}

// Source is a material that brings an allergen, and what it is put into, through which mixes.
type Source struct {
	Line     studio.ID `json:"line,omitempty" doc:"of the order"`
	Material studio.ID `json:"material"`
	// Through are the recipes from what is asked for down to the mix or part that the material is put into.
	Through []studio.ID `json:"through"`
}

// Way is a school of a technique of a recipe.
type Way struct {
	Recipe   studio.ID `json:"recipe"`
	Question string    `json:"question"`
	School   string    `json:"school"`
}

// Piece is how much of a material is in something: from Least to Most, where makers settle it by eye.
type Piece struct {
	Material studio.ID   `json:"material"`
	Unit     studio.Unit `json:"unit"`
	Least    int64       `json:"least"`
	Most     int64       `json:"most"`
}

// Of is what is in the lines of an order, and in the holders that its cakes take, whatever state it is in. Lines that
// name nothing that is in the book count for nothing. It takes time proportional to the closure of its recipes.
func Of(doc *studio.Document, book *studio.Book, o studio.Order) Contents {
	if slices.ContainsFunc(o.Lines, func(l studio.OrderLine) bool { return book.Of(l.Made()) == nil }) {
		book = studio.NewBook(withOrder(doc, o)) // with what is made otherwise for it alone
	}
	w := newWalk(book)
	for _, l := range o.Lines {
		if r := book.Of(l.Made()); r != nil && r.Kind != studio.KindMix {
			mixes, _ := book.Resolve(l.Made(), colours(doc, l.Colourway))
			w.line = l.ID
			var one amounts
			one.least.SetInt64(1)
			one.most.SetInt64(1)
			w.add(l.Made(), mixes, one.of(l.Quantity, l.Quantity, 1), nil)
			w.down()
		}
	}
	w.line = ""
	for i := range o.Cakes {
		for _, p := range o.Cakes[i].Placings {
			w.holder(p)
		}
	}
	c := Contents{Allergens: []Allergen{}, Uncompared: []string{}, NotFood: []Piece{}, Out: []Piece{},
		Unsaid: slices.Sorted(maps.Keys(w.unsaid))}
	for _, name := range slices.Sorted(maps.Keys(w.sources)) {
		a := Allergen{Name: name, Concerns: slices.ContainsFunc(o.Allergies, alike(name))}
		for _, key := range slices.Sorted(maps.Keys(w.sources[name])) {
			a.Sources = append(a.Sources, *w.sources[name][key])
		}
		c.Allergens = append(c.Allergens, a)
	}
	slices.SortStableFunc(c.Allergens, func(a, b Allergen) int {
		switch {
		case a.Concerns == b.Concerns:
			return 0 // they are by name already
		case a.Concerns:
			return -1
		}
		return 1
	})
	known := doc.Allergens()
	for _, allergy := range o.Allergies {
		if !slices.ContainsFunc(known, alike(allergy)) {
			c.Uncompared = append(c.Uncompared, allergy)
		}
	}
	for key, many := range w.pieces {
		p := Piece{Material: key.material, Unit: book.Material(key.material).Unit,
			Least: ceil(&many.least), Most: ceil(&many.most)}
		if key.cut {
			p.Unit = studio.UnitPieces
		}
		if key.out {
			c.Out = append(c.Out, p)
		} else {
			c.NotFood = append(c.NotFood, p)
		}
	}
	byMaterial := func(a, b Piece) int {
		return cmp.Or(cmp.Compare(a.Material, b.Material), cmp.Compare(a.Unit, b.Unit))
	}
	slices.SortFunc(c.NotFood, byMaterial)
	slices.SortFunc(c.Out, byMaterial)
	return c
}

// holder notes what a place on a cake is held in: it comes off again, food or not.
func (w *walk) holder(p studio.Placing) {
	if m := w.book.Material(p.Holder); m != nil {
		key := piece{material: m.ID, cut: true}
		if w.pieces[key] == nil {
			w.pieces[key] = &amounts{}
		}
		var many amounts
		many.least.SetInt64(p.Quantity)
		many.most.SetInt64(p.Quantity)
		w.pieces[key].add(many)
	}
}

// withOrder is a document with one more order, or another in place of its own.
func withOrder(doc *studio.Document, o studio.Order) *studio.Document {
	with := *doc
	with.Orders = slices.DeleteFunc(slices.Clone(doc.Orders), func(other studio.Order) bool { return other.ID == o.ID })
	with.Orders = append(with.Orders, o)
	return &with
}

func colours(doc *studio.Document, id studio.ID) map[string]studio.ID {
	for _, c := range doc.Colourways {
		if c.ID == id {
			return c.Slots
		}
	}
	return nil
}

// alike is whether a word names the same as another, however it is written.
func alike(word string) func(string) bool {
	return func(other string) bool {
		return strings.EqualFold(strings.TrimSpace(word), strings.TrimSpace(other))
	}
}

// amounts are from least to most, exact: half a winding is in a flower that takes one of the two brushes it gives.
type amounts struct{ least, most big.Rat }

func (a *amounts) add(other amounts) {
	a.least.Add(&a.least, &other.least)
	a.most.Add(&a.most, &other.most)
}

// of are so many to so many of what each of the amounts takes, for every number of them.
func (a *amounts) of(least, most, per int64) (all amounts) {
	all.least.Mul(&a.least, big.NewRat(least, per))
	all.most.Mul(&a.most, big.NewRat(most, per))
	return all
}

// ceil is an amount in whole units, a part of one counted as one.
func ceil(r *big.Rat) int64 {
	whole, rest := new(big.Int).DivMod(r.Num(), r.Denom(), new(big.Int))
	if rest.Sign() > 0 {
		return whole.Int64() + 1
	}
	return whole.Int64()
}

// need is how many of something are needed, and one of the ways down to it.
type need struct {
	made    studio.Made
	mixes   map[string]studio.ID
	many    amounts
	through []studio.ID
}

// piece is a material, counted in pieces or in its unit, that stays in or comes out again.
type piece struct {
	material studio.ID
	cut, out bool
}

type walk struct {
	book    *studio.Book
	line    studio.ID
	need    map[string]*need
	pieces  map[piece]*amounts
	unsaid  map[studio.ID]bool
	sources map[string]map[string]*Source // by allergen, then by material and what it is put into
}

func newWalk(book *studio.Book) *walk {
	return &walk{book: book, need: map[string]*need{}, pieces: map[piece]*amounts{}, unsaid: map[studio.ID]bool{},
		sources: map[string]map[string]*Source{}}
}

func (w *walk) add(made studio.Made, mixes map[string]studio.ID, many amounts, through []studio.ID) {
	key := studio.GatherKey(made, mixes)
	n := w.need[key]
	if n == nil {
		n = &need{made: made, mixes: mixes, through: append(slices.Clone(through), made.Recipe)}
		w.need[key] = n
	}
	n.many.add(many)
}

// down takes everything that is needed apart, what others are made of after those: each thing once, when all that
// needs it has been counted.
func (w *walk) down() {
	for len(w.need) > 0 {
		level := -1
		for _, n := range w.need {
			if at := w.book.Level(n.made); level < 0 || at < level {
				level = at
			}
		}
		for _, key := range slices.Sorted(maps.Keys(w.need)) {
			if n := w.need[key]; w.book.Level(n.made) == level {
				delete(w.need, key)
				w.apart(n)
			}
		}
	}
}

func (w *walk) apart(n *need) {
	r := w.book.Of(n.made)
	if r == nil {
		return
	}
	at := func(step string) amounts {
		number, of := r.Each(step)
		return n.many.of(number, number, of)
	}
	for _, p := range r.Parts {
		least := p.Count
		if p.Least != nil {
			least = *p.Least
		}
		here := at(p.Step)
		w.add(p.Made(), w.book.Input(p, n.mixes), here.of(least, p.Count, 1), n.through)
	}
	for _, m := range r.Materials {
		least, most := m.Amount, m.Amount
		if m.Least != nil {
			least = *m.Least
		}
		if m.Most != nil {
			most = *m.Most
		}
		here := at(m.Step)
		w.put(
			m.Material,
			n.through,
			piece{material: m.Material, out: m.OutAt != ""},
			here.of(least, most, max(1, m.Per)),
		)
	}
	for _, wire := range r.Wires {
		here := at(wire.Step)
		w.put(wire.Material, n.through, piece{material: wire.Material, cut: true}, here.of(wire.Number, wire.Number, 1))
	}
	slots := map[string]bool{}
	for _, p := range r.Pastes {
		slots[p.Slot] = true
	}
	for _, s := range r.Steps {
		if s.Work != nil && s.Work.Slot != "" {
			slots[s.Work.Slot] = true
		}
	}
	for _, slot := range slices.Sorted(maps.Keys(slots)) {
		if mix := n.mixes[slot]; mix != "" {
			w.mixed(mix, n.through)
		}
	}
	if r.Kind == studio.KindMix {
		w.mixed(n.made.Recipe, n.through[:len(n.through)-1])
	}
}

// mixed notes what is in a mix, and in the mixes in that.
func (w *walk) mixed(mix studio.ID, through []studio.ID) {
	r := w.book.Recipe(mix)
	if r == nil || slices.Contains(through, mix) {
		return
	}
	through = append(slices.Clone(through), mix)
	for _, i := range r.Blend {
		if i.Mix != "" {
			w.mixed(i.Mix, through)
		} else {
			w.put(i.Material, through, piece{material: i.Material}, amounts{})
		}
	}
	for _, a := range r.Additives {
		w.put(a.Material, through, piece{material: a.Material}, amounts{})
	}
	for _, m := range r.Materials {
		w.put(m.Material, through, piece{material: m.Material}, amounts{})
	}
}

// put notes a material that goes into something. Of what is in a mix only that it is there is said.
func (w *walk) put(id studio.ID, through []studio.ID, key piece, many amounts) {
	m := w.book.Material(id)
	if m == nil {
		return
	}
	for _, allergen := range m.Allergens {
		name := strings.ToLower(strings.TrimSpace(allergen))
		if w.sources[name] == nil {
			w.sources[name] = map[string]*Source{}
		}
		into := fmt.Sprint(w.line, "|", through[len(through)-1], "|", id)
		if w.sources[name][into] == nil {
			w.sources[name][into] = &Source{Line: w.line, Material: id, Through: through}
		}
	}
	if m.Food == "" {
		w.unsaid[id] = true
	}
	if m.Food != studio.NotFood && !key.out {
		return
	}
	if w.pieces[key] == nil {
		w.pieces[key] = &amounts{}
	}
	w.pieces[key].add(many)
}

// Ways are the schools of techniques, of what a source goes through, by which its material does not bring an allergen
// into a line of an order that way. It takes the time of Of, and of a book, for each school.
func Ways(doc *studio.Document, o studio.Order, allergen string, s Source) []Way {
	ways := []Way{}
	for i := range doc.Recipes {
		r := &doc.Recipes[i]
		if !slices.Contains(s.Through, r.ID) {
			continue
		}
		for _, t := range r.Techniques {
			schools := []string{t.As}
			for _, school := range t.Schools {
				schools = append(schools, school.Name)
			}
			for _, school := range schools {
				way := Way{Recipe: r.ID, Question: t.Question, School: school}
				if avoided(doc, o, allergen, s, way, i) {
					ways = append(ways, way)
				}
			}
		}
	}
	return ways
}

// avoided is true where a source brings no allergen into a line of an order any more once the recipe at a place of the
// document is made in a way.
func avoided(doc *studio.Document, o studio.Order, allergen string, s Source, way Way, at int) bool {
	with := *doc
	with.Recipes = slices.Clone(doc.Recipes)
	as := with.Recipes[at].In(way.Question, way.School)
	with.Recipes[at] = *as
	o.Allergies, o.Lines = nil, slices.Clone(o.Lines)
	for i := range o.Lines {
		if l := &o.Lines[i]; l.ID == s.Line && l.Recipe == as.ID {
			l.Variant = studio.By(l.Variant, way.Question, way.School)
		}
	}
	for _, a := range Of(&with, studio.NewBook(withOrder(&with, o)), o).Allergens {
		if a.Name == allergen && slices.ContainsFunc(a.Sources, func(other Source) bool {
			return other.Line == s.Line && other.Material == s.Material && slices.Contains(other.Through, as.ID)
		}) {
			return false
		}
	}
	return true
}

// Brings are the allergens, of those that some order's allergies name, that are put in where a recipe is made so, at
// some of its steps: by what it takes up itself, not by parts that are made before it.
func Brings(
	book *studio.Book, made studio.Made, mixes map[string]studio.ID, allergies []string, steps ...string,
) []Allergen {
	r := book.Of(made)
	if r == nil || len(allergies) == 0 {
		return nil
	}
	w := newWalk(book)
	at := func(key string) bool { return slices.Contains(steps, key) }
	through := []studio.ID{made.Recipe}
	for _, m := range r.Materials {
		if at(m.Step) {
			w.put(m.Material, through, piece{material: m.Material}, amounts{})
		}
	}
	for _, p := range r.Pastes {
		if at(p.Step) {
			w.mixed(mixes[p.Slot], through)
		}
	}
	for _, s := range r.Steps {
		if at(s.Key) && s.Work != nil && s.Work.Slot != "" {
			w.mixed(mixes[s.Work.Slot], through)
		}
	}
	if r.Kind == studio.KindMix {
		w.mixed(made.Recipe, nil)
	}
	var all []Allergen
	for _, name := range slices.Sorted(maps.Keys(w.sources)) {
		if !slices.ContainsFunc(allergies, alike(name)) {
			continue
		}
		a := Allergen{Name: name, Concerns: true}
		for _, key := range slices.Sorted(maps.Keys(w.sources[name])) {
			a.Sources = append(a.Sources, *w.sources[name][key])
		}
		all = append(all, a)
	}
	return all
}
