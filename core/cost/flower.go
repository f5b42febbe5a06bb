package cost

import (
	"math"
	"slices"

	"bractum/core/flower"
	"bractum/core/paste"
	"bractum/core/studio"
)

// Each is what so many flowers, or anything else that is made, cost when nothing else is made with them: hours at what
// an hour costs on the mean of those whose cost is known, at the recipes' pace, without spares and loss.
type Each struct {
	Quantity  int64        `json:"quantity"`
	Rate      studio.Money `json:"ratePerHour"`
	Labour    studio.Money `json:"labour"`
	House     studio.Money `json:"house"`
	Materials studio.Money `json:"materials"`
	Total     studio.Money `json:"total"`
	// One is a single one's share of the total.
	One studio.Money `json:"one"`
	// Unpriced are materials in it whose price nobody has said.
	Unpriced []studio.ID `json:"unpriced"`
}

// OfSheet is what a sheet comes to in money. It takes time proportional to what stands on the sheet.
func OfSheet(doc *studio.Document, sheet *flower.Sheet) Each {
	p := prices{book: studio.NewBook(doc), step: doc.Settings.ScaleStepMilligrams,
		of: make(map[studio.ID]*studio.Material, len(doc.Materials))}
	for i := range doc.Materials {
		p.of[doc.Materials[i].ID] = &doc.Materials[i]
	}
	e := Each{Quantity: max(1, sheet.Quantity), Rate: meanRate(doc.People)}
	hours := float64(sheet.Setup+sheet.Attended) / 60_000
	e.Labour = coins(hours * float64(e.Rate)).rounded()
	e.House = coins(hours * float64(doc.Settings.Costing.Overhead)).rounded()
	var materials coins
	for _, m := range sheet.Pastes {
		materials += p.mixed(m.Mix, m.Mass, 0)
	}
	for _, w := range sheet.Wires {
		if m := p.of[w.Material]; m != nil && m.Wire != nil {
			pieces := float64(w.Number) * float64(w.Length) / float64(m.Wire.Length)
			materials += p.amount(w.Material, pieces)
		}
	}
	for _, a := range sheet.Materials {
		materials += p.amount(a.Material, float64(a.Amount))
	}
	e.Materials = materials.rounded()
	e.Total = e.Labour + e.House + e.Materials
	e.One = coins(float64(e.Total) / float64(e.Quantity)).rounded()
	e.Unpriced = append([]studio.ID{}, p.unpriced...)
	return e
}

// meanRate is what an hour costs on the mean of those who work here and whose hour's cost is known.
func meanRate(people []studio.Person) studio.Money {
	var sum, of studio.Money
	for i := range people {
		if p := &people[i]; !p.OutOfUse && p.Rate > 0 {
			sum, of = sum+p.Rate, of+1
		}
	}
	if of == 0 {
		return 0
	}
	return studio.Money(math.Round(float64(sum) / float64(of)))
}

// prices are what materials cost, and which of those that were asked for have none.
type prices struct {
	book     *studio.Book
	step     studio.Milligrams
	of       map[studio.ID]*studio.Material
	unpriced []studio.ID
}

// amount is what so much of a material costs, in its unit.
func (p *prices) amount(material studio.ID, amount float64) coins {
	m := p.of[material]
	if m == nil || amount == 0 {
		return 0
	}
	if m.Price == 0 && !slices.Contains(p.unpriced, material) {
		p.unpriced = append(p.unpriced, material)
	}
	return coins(amount * float64(m.Price) / float64(m.PricedAt()))
}

// mostMixed is how deep mixes are made of mixes; a document that is checked has no circles.
const mostMixed = 20

// mixed is what so much of a mix costs, by what is weighed for it and for the mixes in it.
func (p *prices) mixed(mix studio.ID, mass studio.Milligrams, deep int) (sum coins) {
	r := p.book.Recipe(mix)
	if r == nil || mass <= 0 || deep == mostMixed {
		return 0
	}
	for _, portion := range paste.Weigh(r, mass, p.step) {
		if portion.Material != "" {
			sum += p.amount(portion.Material, float64(portion.Exact))
		} else {
			sum += p.mixed(portion.Mix, portion.Exact, deep+1)
		}
	}
	return sum
}
