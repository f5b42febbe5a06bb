package demo

import (
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"bractum/core/count"
	"bractum/core/studio"
)

// makersOfSeason are who joins Pellowen Yard for the season, and what each can do.
var makersOfSeason = []struct {
	name   string
	skills []studio.Skill
}{
	{
		name: "Corvin",
		skills: []studio.Skill{
			{Skill: "shaping", Pace: 110},
			{Skill: "wiring", Pace: 105},
			{Skill: "mixing", Pace: 100},
		},
	},
	{
		name: "Lowri",
		skills: []studio.Skill{
			{Skill: "wiring", Pace: 115},
			{Skill: "dusting", Pace: 100},
			{Skill: "assembly", Pace: 95},
			{Skill: "shaping", Pace: 100},
		},
	},
	{
		name: "Anselm",
		skills: []studio.Skill{
			{Skill: "assembly", Pace: 115},
			{Skill: "dusting", Pace: 105},
			{Skill: "shaping", Pace: 90},
		},
	},
}

// ofSeason is what a season's cakes are decorated with, and how often.
var ofSeason = []struct {
	flower string
	weight int
}{
	{
		flower: "Ranunculus",
		weight: 18,
	},
	{flower: "Dahlia", weight: 13},
	{flower: "Magnolia", weight: 6},
	{flower: "Camellia", weight: 7},
	{flower: "Gardenia", weight: 5},
	{flower: "Anemone", weight: 8},
	{flower: "Cosmos", weight: 5},
	{flower: "Hellebore", weight: 5},
	{flower: "Lisianthus", weight: 7},
	{
		flower: "Dogwood",
		weight: 5,
	},
	{flower: "Waxflower stem", weight: 7},
	{flower: "Jasmine trail", weight: 4},
	{flower: "Viburnum berries", weight: 4},
	{flower: "Lilac pips", weight: 7},
	{flower: "Eucalyptus sprig", weight: 7},
	{flower: "Olive sprig", weight: 4},
	{flower: "Fern frond", weight: 5},
	{flower: "Ivy sprig", weight: 5},
}

// Season is a document for load: Pellowen Yard with eight makers and, at scale 1, sixty
// orders of about 1,500 flowers and 30,000 parts over six weeks, in lots small enough to
// carry. A larger scale stretches it: more orders over as many more weeks, the people and
// the places as they are. Load is what of the makers' hours until the last order is to be
// ready their work fills, in percent, if each did what they are quickest at: the minutes of
// every step are drawn out or shortened until it does. The same seed, scale and load give the same document.
func Season(seed uint64, scale float64, load int) *studio.Document {
	s := season{Rand: rand.New(rand.NewPCG(seed, 0)), scale: scale}
	doc := Document()
	doc.Name = "Pellowen Yard, a season"
	doc.Settings.HorizonMinutes = studio.Minute(s.times(42)+28) * 1440
	doc.Settings.GatheringMinutes = 1440
	doc.People = s.makers(doc.People)
	for i := range doc.Places {
		doc.Places[i].Slots *= 4
	}
	for i := range doc.Machines {
		doc.Machines[i].Slots *= 2
	}
	for i := range doc.Tools {
		doc.Tools[i].Number *= 2
	}
	for i := range doc.Recipes {
		doc.Recipes[i].MostPerLot = mostInALot[doc.Recipes[i].Kind]
	}
	for i := range doc.Materials {
		if carries(doc.Materials[i]) {
			continue
		}
		doc.Materials[i].OnHand = s.times(doc.Materials[i].OnHand * (5 + s.Int64N(20)) / 10)
	}
	doc.Orders = nil
	for i := range s.times(60) {
		doc.Orders = append(doc.Orders, s.order(doc, i))
	}
	doc.Shelf = s.stock(doc)
	doc.Gates = s.deliveries(doc)
	s.fill(doc, load)
	return doc
}

// stocked is how many packs more a season has of everything, on hand or on its way: nothing has to
// be ordered.
const stocked = 20

// mostInALot is what one tray or box of a season's lots takes.
var mostInALot = map[studio.Kind]int64{studio.KindPart: 24, studio.KindFlower: 6, studio.KindSpray: 2}

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
		people = append(
			people,
			studio.Person{ID: ID(m.name), Name: m.name, Skills: m.skills, Hours: hours, Breaks: people[0].Breaks},
		)
	}
	return people
}

// fill draws out the minutes of every step, or shortens them, until the work of the
// season fills so many percent of the makers' hours. How much is made does not depend on
// how long it takes, but for what is gathered with what.
func (s season) fill(doc *studio.Document, load int) {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		panic(err)
	}
	everyone := doc.Everyone(calendar)
	last := doc.Now
	for _, o := range doc.Orders {
		last = max(last, doc.ReadyBy(o, calendar, everyone))
	}
	var hours float64
	for _, p := range doc.People {
		var pace int64
		for _, skill := range p.Skills {
			pace = max(pace, skill.Pace)
		}
		hours += float64(
			studio.HoursOf(p, calendar, doc.Now, doc.Horizon()).Worked(studio.Span{From: doc.Now, To: last}),
		) * float64(
			pace,
		) / 100
	}
	for range 2 {
		counted, err := count.Up(doc)
		if err != nil {
			panic(err)
		}
		var work studio.Milliminutes
		for _, lot := range studio.Route(doc, studio.NewBook(doc), counted.Lots, counted.Links, counted.Pegs).Lots {
			for _, task := range lot.Tasks {
				for _, effort := range task.Work {
					work += effort.Total()
				}
			}
		}
		factor := float64(load) / 100 * hours * 1000 / float64(work)
		for i := range doc.Recipes {
			for k := range doc.Recipes[i].Steps {
				if w := doc.Recipes[i].Steps[k].Work; w != nil {
					w.Setup = studio.Milliminutes(math.Round(float64(w.Setup) * factor))
					w.PerPiece = max(1, studio.Milliminutes(math.Round(float64(w.PerPiece)*factor)))
				}
			}
		}
	}
}

func (s season) order(doc *studio.Document, i int64) studio.Order {
	name := fmt.Sprintf("Cake %d", i+1)
	day := time.Date(2027, 9, 24, 0, 0, 0, 0, time.UTC).AddDate(0, 0, 3+int(s.Int64N(s.times(38))))
	for day.Weekday() == time.Sunday {
		day = day.AddDate(0, 0, 1)
	}
	o := studio.Order{
		ID:         ID("season " + name),
		Name:       name,
		Occasion:   "A harbour town's cake",
		Leaves:     studio.WallTimeOf(day.Add(time.Duration(9+s.IntN(8)) * time.Hour)),
		Leaving:    []string{"collected", "delivered"}[s.IntN(2)],
		Importance: 10 + 10*s.Int64N(3),
		Allergies:  []string{},
		State:      studio.OrderOpen,
	}
	colourway := doc.Colourways[s.IntN(len(doc.Colourways))].ID
	taken := map[string]bool{}
	for range 3 + s.IntN(4) {
		flower := s.flower()
		if taken[flower] {
			continue
		}
		taken[flower] = true
		o.Lines = append(
			o.Lines,
			studio.OrderLine{ID: ID("season " + name + " " + flower), Recipe: ID(flower), Colourway: colourway,
				Quantity: 2 + s.Int64N(9), ServiceLevel: studio.PerMille(900 + 25*s.Int64N(4))},
		)
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
			shelf = append(
				shelf,
				studio.ShelfLot{
					ID:      ID(fmt.Sprintf("season shelf %s %d", r.Name, lot)),
					Recipe:  r.ID,
					Mixes:   mixes,
					Amount:  s.times(1 + s.Int64N(40)),
					Quality: studio.Good,
					MadeOn:  doc.Now - studio.Minute(1440*(1+s.Int64N(20))),
				},
			)
		}
	}
	return shelf
}

// carries is true of what flowers are held and boxed in: there is enough of it in every season.
func carries(m studio.Material) bool { return m.Holder != nil || m.Box != nil }

// deliveries of some materials are on their way.
func (s season) deliveries(doc *studio.Document) []studio.Gate {
	var gates []studio.Gate
	for i := range doc.Materials {
		m := &doc.Materials[i]
		if carries(*m) {
			continue
		}
		if s.IntN(4) > 0 {
			m.OnHand += s.times(stocked * m.Pack)
			continue
		}
		opens := doc.Now + studio.Minute(1440*(1+s.Int64N(20)))
		gates = append(
			gates,
			studio.Gate{
				ID:       ID("season delivery " + m.Name),
				Name:     "Delivery of " + m.Name,
				Material: m.ID,
				Amount:   s.times(max(1, m.OnHand) + stocked*m.Pack),
				Opens:    &opens,
			},
		)
	}
	return gates
}
