package api

import (
	"bractum/core/contents"
	"bractum/core/studio"
)

// ContentsView is what is in an order's flowers, with names.
type ContentsView struct {
	Allergens  []AllergenView `json:"allergens" doc:"those that its allergies name first"`
	Uncompared []string       `json:"uncompared" doc:"its allergies that no material and no list names"`
	NotFood    []PieceView    `json:"notFood" doc:"what has to come off the cake"`
	Out        []PieceView    `json:"out" doc:"what has to be out again before they are boxed"`
	Unsaid     []string       `json:"unsaid" doc:"names of materials of which nobody has said whether they are food"`
}

// AllergenView is an allergen, and the names of what brings it.
type AllergenView struct {
	Name      string   `json:"name"`
	Concerns  bool     `json:"concerns"`
	Materials []string `json:"materials"`
	Labels    []string `json:"labels" doc:"what their labels say"`
}

// PieceView is how much of a material is in them.
type PieceView struct {
	contents.Piece
	Name string `json:"name"`
}

// AllergyMet is something that an order's allergies name, where it is put in, and which ways do without.
type AllergyMet struct {
	Order    string   `json:"order,omitempty" doc:"the name of the order, where it is not plain"`
	Allergen string   `json:"allergen"`
	Material string   `json:"material"`
	Into     string   `json:"into" doc:"the name of what it is put into"`
	Of       string   `json:"of,omitempty" doc:"the name of the flower"`
	Avoided  []Avoids `json:"avoided" doc:"of an order that is asked for: schools that do without"`
}

// Avoids is a school of a technique that does without something.
type Avoids struct {
	Of       string `json:"of" doc:"the name of the recipe"`
	Question string `json:"question"`
	School   string `json:"school"`
}

func (a *answer) contentsView(o studio.Order) (ContentsView, contents.Contents) {
	c := contents.Of(a.Doc, a.Book, o)
	v := ContentsView{Allergens: []AllergenView{}, Uncompared: c.Uncompared, NotFood: a.pieces(c.NotFood),
		Out: a.pieces(c.Out), Unsaid: []string{}}
	for _, one := range c.Allergens {
		view := AllergenView{Name: one.Name, Concerns: one.Concerns, Labels: []string{}}
		seen := map[studio.ID]bool{}
		for _, s := range one.Sources {
			m := a.Book.Material(s.Material)
			if seen[s.Material] {
				continue
			}
			seen[s.Material] = true
			view.Materials = append(view.Materials, m.Name)
			if m.Label != "" {
				view.Labels = append(view.Labels, m.Label)
			}
		}
		v.Allergens = append(v.Allergens, view)
	}
	for _, id := range c.Unsaid {
		v.Unsaid = append(v.Unsaid, a.material(id))
	}
	return v, c
}

func (a *answer) pieces(all []contents.Piece) []PieceView {
	views := []PieceView{}
	for _, p := range all {
		views = append(views, PieceView{Piece: p, Name: a.material(p.Material)})
	}
	return views
}

// met is what an order's allergies name and its flowers hold, and the allergies that nothing was compared with.
func (a *answer) met(o studio.Order) ([]AllergyMet, []string) {
	if len(o.Allergies) == 0 {
		return []AllergyMet{}, []string{}
	}
	c := contents.Of(a.Doc, a.Book, o)
	return a.allergiesMet(c.Allergens, ""), c.Uncompared
}

// metAnew is the same of an order that is being asked for, with the ways of making that do without.
func (a *answer) metAnew(o studio.Order) ([]AllergyMet, []string) {
	met, uncompared := a.met(o)
	if len(met) == 0 {
		return met, uncompared
	}
	i := 0
	for _, one := range contents.Of(a.Doc, a.Book, o).Allergens {
		for _, s := range one.Sources {
			if !one.Concerns {
				continue
			}
			for _, w := range contents.Ways(a.Doc, o, one.Name, s) {
				met[i].Avoided = append(met[i].Avoided, Avoids{Of: a.Book.Recipe(w.Recipe).Name, Question: w.Question,
					School: w.School})
			}
			i++
		}
	}
	return met, uncompared
}

func (a *answer) allergiesMet(all []contents.Allergen, order string) []AllergyMet {
	met := []AllergyMet{}
	for _, one := range all {
		for _, s := range one.Sources {
			if !one.Concerns {
				continue
			}
			m := AllergyMet{Order: order, Allergen: one.Name, Material: a.material(s.Material),
				Into: a.Book.Recipe(s.Through[len(s.Through)-1]).Name, Avoided: []Avoids{}}
			if len(s.Through) > 1 {
				m.Of = a.Book.Recipe(s.Through[0]).Name
			}
			met = append(met, m)
		}
	}
	return met
}

// metAt is what some steps of a lot take up that allergies of its orders name.
func (a *answer) metAt(l studio.Lot, steps []studio.Step, orders []studio.ID) []AllergyMet {
	keys := make([]string, len(steps))
	for i, s := range steps {
		keys[i] = s.Key
	}
	var met []AllergyMet
	for i := range a.Doc.Orders {
		o := &a.Doc.Orders[i]
		for _, id := range orders {
			if id == o.ID {
				met = append(
					met,
					a.allergiesMet(contents.Brings(a.Book, l.Made(), l.Mixes, o.Allergies, keys...), o.Name)...)
			}
		}
	}
	return met
}
