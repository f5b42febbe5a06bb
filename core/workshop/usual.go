package workshop

import "bractum/core/studio"

// Usual are things that can be taken into a workshop as they are.
type Usual struct {
	Places    []studio.Place    `json:"places"`
	Machines  []studio.Machine  `json:"machines"`
	Tools     []studio.Tool     `json:"tools"`
	Materials []studio.Material `json:"materials"`
}

// Beyond is what one studio has and another has not, by name and id, without what refers to other things: what
// stands in for a tool, what a machine dries. A homemade place comes with its recipe.
func Beyond(from, doc *studio.Document) Usual {
	there := map[any]bool{}
	for _, kind := range []Kind{Places, Machines, Tools, Materials} {
		for _, thing := range All(doc, kind) {
			there[NameOf(thing)], there[IDOf(thing)] = true, true
		}
	}
	missing := func(thing any) bool { return !there[NameOf(thing)] && !there[IDOf(thing)] }
	u := Usual{Places: []studio.Place{}, Machines: []studio.Machine{}, Tools: []studio.Tool{},
		Materials: []studio.Material{}}
	for _, p := range from.Places {
		if missing(p) && p.MadeBy == "" {
			u.Places = append(u.Places, p)
		}
	}
	for _, m := range from.Machines {
		if missing(m) {
			m.Dries = nil
			u.Machines = append(u.Machines, m)
		}
	}
	for _, t := range from.Tools {
		if missing(t) {
			t.StandIns = nil
			u.Tools = append(u.Tools, t)
		}
	}
	for _, m := range from.Materials {
		if missing(m) {
			u.Materials = append(u.Materials, m)
		}
	}
	return u
}

// Flowers are the latest revisions of what can be ordered.
func Flowers(doc *studio.Document) (all []*studio.Recipe) {
	for _, r := range doc.Current() {
		if r.Kind == studio.KindFlower || r.Kind == studio.KindSpray {
			all = append(all, r)
		}
	}
	return all
}

// FlowersBeyond are the flowers of one studio whose pages another's book has not.
func FlowersBeyond(from, doc *studio.Document) (all []*studio.Recipe) {
	pages := map[studio.ID]bool{}
	for _, r := range doc.Current() {
		pages[r.Page()] = true
	}
	for _, r := range Flowers(from) {
		if !pages[r.Page()] {
			all = append(all, r)
		}
	}
	return all
}
