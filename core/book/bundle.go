// Package book answers for the flower book as a whole: what goes with a recipe when
// it is handed on, what a file from elsewhere would change, what a new revision pulls
// along, and how two ways of making differ.
package book

import (
	"fmt"
	"io"
	"slices"
	"time"

	"bractum/core/flower"
	"bractum/core/studio"
)

// Format and Version head every file of recipes.
const (
	Format  = "bractum-recipes"
	Version = 2
)

// MostBytes is the largest file of recipes that is read.
const MostBytes = 16 << 20

// Bundle is recipes with everything that they refer to, as one JSON file: one flower,
// or a whole book. What a studio has of materials is not handed on.
type Bundle struct {
	Format        string               `json:"format"`
	Version       int                  `json:"version"`
	Name          string               `json:"name,omitempty"` // the studio it comes from
	Materials     []studio.Material    `json:"materials,omitempty"`
	DryingClasses []studio.DryingClass `json:"dryingClasses,omitempty"`
	Methods       []studio.Method      `json:"dryingMethods,omitempty"`
	Places        []studio.Place       `json:"places,omitempty"`
	Tools         []studio.Tool        `json:"tools,omitempty"`
	Machines      []studio.Machine     `json:"machines,omitempty"`
	Gates         []studio.Gate        `json:"gates,omitempty"`
	Families      []studio.Family      `json:"setupFamilies,omitempty"`
	Recipes       []studio.Recipe      `json:"recipes"`
	Colourways    []studio.Colourway   `json:"colourways,omitempty"`
	Pictures      []Image              `json:"pictures,omitempty"`
}

// Image is a photo or drawing that recipes name.
type Image struct {
	ID    studio.ID `json:"id"`
	Media string    `json:"media"`
	Data  []byte    `json:"data"` // base64 in the file
}

// Read reads a file of recipes and checks that it holds by itself. The error is
// studio.Problems when the JSON was readable.
func Read(r io.Reader) (*Bundle, error) {
	var b Bundle
	if err := studio.Decode(r, MostBytes, &b); err != nil {
		return nil, err
	}
	b.lift()
	return &b, b.Check()
}

// lift brings a file of version 1 to this one.
func (b *Bundle) lift() {
	if b.Format != Format || b.Version != 1 {
		return
	}
	for i := range b.Recipes {
		b.Recipes[i].Lift(b.Version)
	}
	b.Version = Version
}

// Check lists what is wrong with a bundle by itself, as studio.Problems; nil if it
// holds.
func (b *Bundle) Check() error {
	if b.Format != Format || b.Version != Version {
		return studio.Problems{
			{
				Place: "format",
				Message: fmt.Sprintf(
					"is %q version %d; this program reads %q version %d",
					b.Format,
					b.Version,
					Format,
					Version,
				),
			},
		}
	}
	if problems := b.document().Validate(); len(problems) > 0 {
		return problems
	}
	pages := map[studio.ID]bool{}
	for i, r := range b.Recipes {
		if pages[r.Page()] {
			return studio.Problems{
				{
					Place:   fmt.Sprintf("recipes[%d] %q.recipe", i, r.Name),
					Message: "comes in two revisions; one of them would be right",
				},
			}
		}
		pages[r.Page()] = true
	}
	return nil
}

// document is a studio that has nothing but the bundle.
func (b *Bundle) document() *studio.Document {
	doc := &studio.Document{
		Format:   studio.Format,
		Version:  studio.Version,
		Name:     b.Name,
		Epoch:    time.Unix(0, 0).UTC(),
		Zone:     "UTC",
		Settings: studio.DefaultSettings(),
		Climate:  make([]studio.Air, 24),
	}
	b.into(doc)
	return doc
}

// into adds what a bundle holds to a document.
func (b *Bundle) into(doc *studio.Document) {
	doc.Materials = slices.Concat(doc.Materials, b.Materials)
	doc.DryingClasses = slices.Concat(doc.DryingClasses, b.DryingClasses)
	doc.Methods = slices.Concat(doc.Methods, b.Methods)
	doc.Places = slices.Concat(doc.Places, b.Places)
	doc.Tools = slices.Concat(doc.Tools, b.Tools)
	doc.Machines = slices.Concat(doc.Machines, b.Machines)
	doc.Gates = slices.Concat(doc.Gates, b.Gates)
	doc.Families = slices.Concat(doc.Families, b.Families)
	doc.Recipes = slices.Concat(doc.Recipes, b.Recipes)
	doc.Colourways = slices.Concat(doc.Colourways, b.Colourways)
}

// Export is the bundle of the current recipes with these page ids, all current ones
// if there are none, with all they need. Colourways come along where every mix of
// theirs does. Pictures are only named; whoever stores them adds them.
func Export(doc *studio.Document, pages ...studio.ID) *Bundle {
	var ids []studio.ID
	for _, r := range doc.Current() {
		if len(pages) == 0 || slices.Contains(pages, r.Page()) {
			ids = append(ids, r.ID)
		}
	}
	b := &Bundle{Format: Format, Version: Version, Name: doc.Name}
	index := studio.NewBook(doc)
	mixes := map[string]studio.ID{}
	for _, c := range doc.Colourways {
		if len(pages) == 0 || usesSlots(index, ids, c) {
			b.Colourways = append(b.Colourways, c)
			for slot, mix := range c.Slots {
				mixes[string(c.ID)+slot] = mix
			}
		}
	}
	b.Recipes = copied(flower.Closure(doc, index, ids, mixes))
	used := refersTo(b.Recipes)
	b.Materials = kept("material", doc.Materials, used, ofMaterial)
	for i := range b.Materials {
		b.Materials[i] = unbought(b.Materials[i])
	}
	b.DryingClasses = kept("class", doc.DryingClasses, used, ofDryingClass)
	b.Methods = kept("method", doc.Methods, used, ofMethod)
	b.Tools = kept("tool", doc.Tools, standIns(doc.Tools, used), ofTool)
	b.Machines = kept("machine", doc.Machines, used, ofMachine)
	b.Gates = kept("gate", doc.Gates, used, ofGate)
	b.Families = kept("family", doc.Families, used, ofFamily)
	b.Places = kept("place", doc.Places, used, ofPlace)
	for i := range b.Places {
		p := &b.Places[i]
		p.In = ""
		if !slices.ContainsFunc(b.Recipes, func(r studio.Recipe) bool { return r.ID == p.MadeBy }) {
			p.MadeBy = ""
		}
	}
	for i := range b.Families {
		b.Families[i].Changes = slices.DeleteFunc(slices.Clone(b.Families[i].Changes), func(c studio.Change) bool {
			return !used[reference{kind: "recipe", id: c.From}] || !used[reference{kind: "recipe", id: c.To}]
		})
	}
	for i := range b.Machines {
		b.Machines[i].Dries = slices.DeleteFunc(slices.Clone(b.Machines[i].Dries), func(d studio.MachineDrying) bool {
			return !used[reference{kind: "class", id: d.Class}]
		})
	}
	for i := range b.Gates {
		b.Gates[i].Opens = nil // when it is expected is the other studio's business
	}
	return b
}

// usesSlots is true of a colourway that colours some slot of the recipes.
func usesSlots(index *studio.Book, ids []studio.ID, c studio.Colourway) bool {
	for _, id := range ids {
		for _, slot := range index.Slots(studio.Made{Recipe: id}) {
			if c.Slots[slot] != "" {
				return true
			}
		}
	}
	return false
}

func kept[T any](kind string, all []T, used map[reference]bool, naming func(*T) (*studio.ID, *string)) []T {
	var some []T
	for _, x := range all {
		if id, _ := naming(&x); used[reference{kind: kind, id: *id}] {
			some = append(some, x)
		}
	}
	return some
}

// standIns adds the tools that stand in for used ones, and theirs.
func standIns(tools []studio.Tool, used map[reference]bool) map[reference]bool {
	for grown := true; grown; {
		grown = false
		for _, t := range tools {
			for _, other := range t.StandIns {
				if used[reference{kind: "tool", id: t.ID}] && !used[reference{kind: "tool", id: other}] {
					used[reference{kind: "tool", id: other}], grown = true, true
				}
			}
		}
	}
	return used
}

// unbought is a material without how much there is and who sells it for how much: that is each
// studio's own business.
func unbought(m studio.Material) studio.Material {
	m.OnHand, m.Supplier, m.Pack, m.KeepAtLeast, m.Price = 0, "", 0, 0, 0
	return m
}
