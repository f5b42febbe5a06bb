package workshop

import "bractum/core/studio"

// First is something that a first plan needs, in the order in which a lead would tell it to a new colleague.
type First string

// What a first plan needs: somebody who works, somewhere to dry, paste and wire that are there, a flower,
// and an order.
const (
	FirstPeople    First = "people"
	FirstPlaces    First = "places"
	FirstMaterials First = "materials"
	FirstFlowers   First = "flowers"
	FirstOrder     First = "order"
)

// Begun is whether one of them is there, and how many of it.
type Begun struct {
	What  First `json:"what"`
	There int   `json:"there" doc:"how many there are"`
}

// ForAFirstPlan is how far a studio has come towards its first plan; an order counts that was there once.
func ForAFirstPlan(doc *studio.Document) []Begun {
	count := func(what First, n int, there func(i int) bool) Begun {
		b := Begun{What: what}
		for i := range n {
			if there(i) {
				b.There++
			}
		}
		return b
	}
	return []Begun{
		count(FirstPeople, len(doc.People), func(i int) bool {
			p := &doc.People[i]
			return !p.OutOfUse && len(p.Hours)+len(p.Shifts) > 0
		}),
		count(FirstPlaces, len(doc.Places), func(i int) bool { return !doc.Places[i].OutOfUse }),
		count(FirstMaterials, len(doc.Materials), func(i int) bool {
			return !doc.Materials[i].OutOfUse && doc.Materials[i].OnHand > 0
		}),
		count(FirstFlowers, len(Flowers(doc)), func(int) bool { return true }),
		count(FirstOrder, len(doc.Orders)+len(doc.Work)+len(doc.Ordinals), func(int) bool { return true }),
	}
}

// Skills are what is asked for or can be done in a studio, each once, as recipes and people name it.
func Skills(doc *studio.Document) (all []string) {
	seen := map[string]bool{"": true}
	add := func(skill string) {
		if !seen[skill] {
			seen[skill] = true
			all = append(all, skill)
		}
	}
	for _, r := range doc.Current() {
		for _, s := range r.Steps {
			if s.Work != nil {
				add(s.Work.Skill)
			}
		}
	}
	for _, p := range doc.People {
		for _, s := range p.Skills {
			add(s.Skill)
		}
	}
	return all
}
