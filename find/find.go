// Package find answers where something is of which somebody remembers a few letters: orders, recipes, materials, people,
// places, and lots by what stands on their label.
package find

import (
	"cmp"
	"slices"
	"strings"
	"unicode"

	"golang.org/x/text/cases"
	"golang.org/x/text/runes"
	"golang.org/x/text/transform"
	"golang.org/x/text/unicode/norm"

	"bractum/core/studio"
)

// Kind is what a thing is that is found.
type Kind string

// Kinds of things that are found, in the order in which equals are told.
const (
	Order    Kind = "order"
	Flower   Kind = "flower"
	Part     Kind = "part"
	Mix      Kind = "mix"
	Lot      Kind = "lot"
	Material Kind = "material"
	Person   Kind = "person"
	Place    Kind = "place"
	Supplier Kind = "supplier"
)

var kinds = []Kind{Order, Flower, Part, Mix, Lot, Material, Person, Place, Supplier}

// Hit is what can be found: by its name, and less so by what else is said of it.
type Hit struct {
	Kind Kind      `json:"kind" enum:"order,flower,part,mix,lot,material,person,place,supplier"`
	ID   studio.ID `json:"id" doc:"of a recipe that of its page"`
	Name string    `json:"name"`
	Says string    `json:"says,omitempty" doc:"what else it is known by: an occasion, a client, who is to have it"`
}

// Things are all that can be found of a studio; orders are given as they are known, accepted or not.
func Things(doc *studio.Document, orders []studio.Order) []Hit {
	var all []Hit
	add := func(kind Kind, id studio.ID, name string, says ...string) {
		says = slices.DeleteFunc(says, func(s string) bool { return s == "" })
		all = append(all, Hit{kind, id, name, strings.Join(says, ", ")})
	}
	for _, o := range orders {
		says := []string{o.Occasion, o.Goes}
		if o.Client != nil {
			says = append(says, o.Client.Name)
		}
		add(Order, o.ID, o.Name, says...)
	}
	current := doc.Current()
	for _, r := range current {
		kind := Flower
		switch r.Kind {
		case studio.KindPart:
			kind = Part
		case studio.KindMix:
			kind = Mix
		}
		add(kind, r.Page(), r.Name)
	}
	names := map[studio.ID]string{}
	for i := range doc.Recipes {
		names[doc.Recipes[i].ID] = doc.Recipes[i].Name
	}
	for i := range doc.Work {
		w := &doc.Work[i]
		add(Lot, w.ID, names[w.Recipe], string(w.ID))
	}
	for _, m := range doc.Materials {
		add(Material, m.ID, m.Name)
	}
	for _, p := range doc.People {
		add(Person, p.ID, p.Name)
	}
	for _, p := range doc.Places {
		add(Place, p.ID, p.Name)
	}
	for _, s := range doc.Suppliers {
		add(Supplier, s.ID, s.Name)
	}
	return all
}

// How well a word that was typed fits, the better the more: it begins the name, begins a word of it, is in it, is in what
// else is said.
const (
	inSays = 1 + iota
	inName
	beginsWord
	beginsName
)

// Of are the things that have all words of a text in them, the best first, at most so many. Letters are compared without
// their accents and case. A text that is the address on a label finds its lot. O(things).
func Of(things []Hit, text string, most int) []Hit {
	words := strings.Fields(plain(text))
	if len(words) == 0 {
		return []Hit{}
	}
	if _, lot, is := strings.Cut(text, "lot="); is {
		words = []string{plain(strings.TrimSpace(lot))}
	}
	type ranked struct {
		Hit
		fits int
	}
	var hits []ranked
	for _, thing := range things {
		name, says := plain(thing.Name), plain(thing.Says)
		h := ranked{Hit: thing}
		for _, w := range words {
			fit := fits(name, says, w)
			if fit == 0 {
				h.fits = 0
				break
			}
			h.fits += fit
		}
		if h.fits > 0 {
			hits = append(hits, h)
		}
	}
	slices.SortStableFunc(hits, func(a, b ranked) int {
		return cmp.Or(
			cmp.Compare(b.fits, a.fits),
			cmp.Compare(slices.Index(kinds, a.Kind), slices.Index(kinds, b.Kind)),
			cmp.Compare(a.Name, b.Name),
		)
	})
	found := make([]Hit, 0, most)
	for _, h := range hits[:min(most, len(hits))] {
		found = append(found, h.Hit)
	}
	return found
}

func fits(name, says, word string) int {
	switch {
	case strings.HasPrefix(name, word):
		return beginsName
	case strings.Contains(" "+name, " "+word):
		return beginsWord
	case strings.Contains(name, word):
		return inName
	case strings.Contains(says, word):
		return inSays
	}
	return 0
}

// plain is a text without accents and case.
func plain(text string) string {
	folded, _, err := transform.String(
		transform.Chain(norm.NFD, runes.Remove(runes.In(unicode.Mn)), cases.Fold(), norm.NFC),
		text,
	)
	if err != nil {
		return strings.ToLower(text)
	}
	return folded
}
