package demo

import (
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"bractum/core/studio"
)

// makersOfSeason are who joins Pellowen Yard for the season, and what each can do.
var makersOfSeason = []struct {
	name   string
	skills []studio.Skill
}{
	{"Corvin", []studio.Skill{{Skill: "shaping", Pace: 110}, {Skill: "wiring", Pace: 105}, {Skill: "mixing", Pace: 100}}},
	{"Lowri", []studio.Skill{{Skill: "wiring", Pace: 115}, {Skill: "dusting", Pace: 100}}},
	{"Anselm", []studio.Skill{{Skill: "assembly", Pace: 115}, {Skill: "dusting", Pace: 105}, {Skill: "shaping", Pace: 90}}},
}

// ofSeason is what a season's cakes are decorated with, and how often.
var ofSeason = []struct {
	flower string
	weight int
}{
	{"Ranunculus", 18}, {"Dahlia", 13}, {"Magnolia", 6}, {"Camellia", 7}, {"Gardenia", 5}, {"Anemone", 8}, {"Cosmos", 5}, {"Hellebore", 5}, {"Lisianthus", 7},
	{"Dogwood", 5}, {"Waxflower stem", 7}, {"Jasmine trail", 4}, {"Viburnum berries", 4}, {"Lilac pips", 7}, {"Eucalyptus sprig", 7}, {"Olive sprig", 4}, {"Fern frond", 5}, {"Ivy sprig", 5},
}

// Season is a document for load: Pellowen Yard with eight makers and, at scale 1, sixty
// orders of about 1,500 flowers and 30,000 parts over six weeks; orders, makers, places,
// machines and stock grow with the scale. The same seed and scale give the same document.
func Season(seed uint64, scale float64) *studio.Document {
	s := season{rand.New(rand.NewPCG(seed, 0)), scale}
	doc := Document()
	doc.Name = "Pellowen Yard, a season"
	doc.Settings.HorizonMinutes = 70 * 1440
	doc.People = s.makers(doc.People)
	for i := range doc.Places {
		doc.Places[i].Slots = s.times(4 * doc.Places[i].Slots)
	}
	for i := range doc.Machines {
		doc.Machines[i].Slots = s.times(2 * doc.Machines[i].Slots)
	}
	for i := range doc.Tools {
		doc.Tools[i].Number = s.times(2 * doc.Tools[i].Number)
	}
	for i := range doc.Materials {
		doc.Materials[i].OnHand = s.times(doc.Materials[i].OnHand * (5 + s.Int64N(20)) / 10)
	}
	doc.Orders = nil
	for i := range s.times(60) {
		doc.Orders = append(doc.Orders, s.order(doc, i))
	}
	doc.Shelf = s.stock(doc)
	doc.Gates = s.deliveries(doc)
	return doc
}

type season struct {
	*rand.Rand
	scale float64
}

// times is an amount at scale 1 at this one, at least one.
func (s season) times(amount int64) int64 {
	return max(1, int64(math.Round(float64(amount)*s.scale)))
}

func (s season) makers(people []studio.Person) []studio.Person {
	hours := people[1].Hours
	for _, m := range makersOfSeason {
		people = append(people, studio.Person{ID: ID(m.name), Name: m.name, Skills: m.skills, Hours: hours, Breaks: people[0].Breaks})
	}
	more := people[:0:0]
	for i := range s.times(int64(len(people))) {
		p := people[i%int64(len(people))]
		if again := i / int64(len(people)); again > 0 {
			p.Name = fmt.Sprintf("%s %d", p.Name, again+1)
			p.ID = ID(p.Name)
		}
		more = append(more, p)
	}
	return more
}

func (s season) order(doc *studio.Document, i int64) studio.Order {
	name := fmt.Sprintf("Cake %d", i+1)
	day := time.Date(2027, 9, 24, 0, 0, 0, 0, time.UTC).AddDate(0, 0, s.IntN(40))
	for day.Weekday() == time.Sunday {
		day = day.AddDate(0, 0, 1)
	}
	o := studio.Order{ID: ID("season " + name), Name: name, Occasion: "A harbour town's cake", Leaves: studio.WallTime(fmt.Sprintf("%sT%02d:00", day.Format("2006-01-02"), 9+s.IntN(8))),
		Leaving: []string{"collected", "delivered"}[s.IntN(2)], Importance: 10 + 10*s.Int64N(3), Allergies: []string{}, State: studio.OrderOpen}
	colourway := doc.Colourways[s.IntN(len(doc.Colourways))].ID
	taken := map[string]bool{}
	for range 3 + s.IntN(4) {
		flower := s.flower()
		if taken[flower] {
			continue
		}
		taken[flower] = true
		o.Lines = append(o.Lines, studio.OrderLine{ID: ID("season " + name + " " + flower), Recipe: ID(flower), Colourway: colourway,
			Quantity: 2 + s.Int64N(9), ServiceLevel: studio.PerMille(900 + 25*s.Int64N(4))})
	}
	return o
}

func (s season) flower() string {
	var sum int
	for _, f := range ofSeason {
		sum += f.weight
	}
	at := s.IntN(sum)
	for _, f := range ofSeason {
		if at -= f.weight; at < 0 {
			return f.flower
		}
	}
	panic("unreachable: at is less than the sum of the weights")
}

// stock is what lies dry at the beginning of the season, in the colours that any order
// may want: of every part some lots of several ages.
func (s season) stock(doc *studio.Document) []studio.ShelfLot {
	book := studio.NewBook(doc)
	var shelf []studio.ShelfLot
	for _, r := range doc.Current() {
		if r.Kind != studio.KindPart || s.IntN(3) == 0 {
			continue
		}
		for lot := range 1 + s.IntN(4) {
			colours := doc.Colourways[s.IntN(len(doc.Colourways))].Slots
			mixes, missing := book.Resolve(studio.Made{Recipe: r.ID}, colours)
			if len(missing) > 0 {
				continue
			}
			shelf = append(shelf, studio.ShelfLot{ID: ID(fmt.Sprintf("season shelf %s %d", r.Name, lot)), Recipe: r.ID, Mixes: mixes, Amount: s.times(1 + s.Int64N(40)),
				Quality: studio.Good, MadeOn: doc.Now - studio.Minute(1440*(1+s.Int64N(20)))})
		}
	}
	return shelf
}

// deliveries of some materials are on their way.
func (s season) deliveries(doc *studio.Document) []studio.Gate {
	var gates []studio.Gate
	for _, m := range doc.Materials {
		if s.IntN(4) > 0 {
			continue
		}
		opens := doc.Now + studio.Minute(1440*(1+s.Int64N(20)))
		gates = append(gates, studio.Gate{ID: ID("season delivery " + m.Name), Name: "Delivery of " + m.Name, Material: m.ID, Amount: s.times(max(1, m.OnHand)), Opens: &opens})
	}
	return gates
}
