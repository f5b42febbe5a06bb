// Package cost answers what orders cost: the hours of whom, which materials, a share of the house; and what the
// studio would ask for them by its own rule.
//
// What a lot takes is divided over the orders that it is for by how much of it is for each, spares with it; what is
// for no order is nobody's. Hours cost what their maker's hour does, as the plan has them; what is done cost what it
// took. Materials cost what their last pack did. Pieces from the shelf were paid for earlier and cost nothing.
//
// Shares are reckoned in fractions of the smallest coin, exactly to a millionth of it, and rounded once, half a coin
// upward, for each sum that is shown; a total is the sum of what is shown.
package cost

import (
	"math"
	"slices"

	"bractum/core/stores"
	"bractum/core/studio"
)

// Bill is what one order costs, or what is for none where Order is empty.
type Bill struct {
	Order studio.ID `json:"order,omitempty"`
	Hours []Hours   `json:"hours"`
	Used  []Used    `json:"materials"`
	Made  []Made    `json:"made"`
	// Labour, Materials and House make up Total, with Box and Delivery.
	Labour    studio.Money `json:"labour"`
	Materials studio.Money `json:"materialsCost"`
	House     studio.Money `json:"house"`
	Box       studio.Money `json:"box"`
	Delivery  studio.Money `json:"delivery"`
	Total     studio.Money `json:"total"`
	// Price is what the studio would ask by its rule, in its steps; Working how that is reckoned.
	Price   studio.Money   `json:"price"`
	Working studio.Working `json:"working"`
	// FromShelf is how many pieces lie there already, paid for earlier.
	FromShelf int64 `json:"fromShelf"`
	// Unpriced are materials whose price nobody has said, Unrated who works for it and whose hour's cost nobody has.
	Unpriced []studio.ID `json:"unpriced"`
	Unrated  []studio.ID `json:"unrated"`
}

// Hours is somebody's attended time for an order.
type Hours struct {
	Person studio.ID           `json:"person"`
	Time   studio.Milliminutes `json:"milliminutes"`
	Cost   studio.Money        `json:"cost"`
}

// Used is how much of a material an order takes, in its unit.
type Used struct {
	Material studio.ID    `json:"material"`
	Amount   int64        `json:"amount"`
	Cost     studio.Money `json:"cost"`
}

// Made is what an order costs in one of the things that are made for it, hours with the house and materials.
type Made struct {
	Recipe  studio.ID           `json:"recipe"`
	Variant string              `json:"variant,omitempty"`
	Time    studio.Milliminutes `json:"milliminutes"`
	Cost    studio.Money        `json:"cost"`
}

// coins is an amount of money with fractions of the smallest coin.
type coins float64

// rounded is an amount in whole coins, half of one upward, whatever has been lost on the way to it.
func (c coins) rounded() studio.Money { return studio.Money(math.Floor(float64(c) + 0.5 + 1e-6)) }

// sum is what is added up for one order.
type sum struct {
	time     map[studio.ID]float64 // by person, in minutes
	labour   map[studio.ID]coins
	amount   map[studio.ID]float64 // by material, in its unit
	stuff    map[studio.ID]coins
	made     map[studio.Made]*part
	worked   float64 // minutes
	shelf    float64
	unpriced []studio.ID
	unrated  []studio.ID
}

type part struct {
	time float64
	cost coins
}

// Bills are what the orders of a plan cost, in the document's order; what is for nobody comes last, where there is
// any. It takes time proportional to the plan's tasks.
func Bills(doc *studio.Document, made *studio.Plan, takes map[studio.ID][]stores.Take) []Bill {
	b := books{doc: doc, sums: map[studio.ID]*sum{}, lots: make(map[studio.ID]*studio.Lot, len(made.Lots))}
	for i := range made.Lots {
		b.lots[made.Lots[i].ID] = &made.Lots[i]
	}
	b.hours(made.Tasks)
	b.materials(takes)
	b.fromShelf(made)
	bills := []Bill{}
	for i := range doc.Orders {
		if o := &doc.Orders[i]; o.State == studio.OrderOpen {
			bills = append(bills, b.bill(o))
		}
	}
	if b.sums[""] != nil {
		bills = append(bills, b.bill(&studio.Order{Leaving: studio.Collected}))
	}
	return bills
}

// thousandths are minutes as they are kept.
func thousandths(minutes float64) studio.Milliminutes {
	return studio.Milliminutes(math.Ceil(minutes*1000 - 1e-6))
}

// books is what is added up, order by order.
type books struct {
	doc  *studio.Document
	lots map[studio.ID]*studio.Lot
	sums map[studio.ID]*sum
}

func (b *books) of(order studio.ID) *sum {
	if b.sums[order] == nil {
		b.sums[order] = &sum{
			time:   map[studio.ID]float64{},
			labour: map[studio.ID]coins{},
			amount: map[studio.ID]float64{},
			stuff:  map[studio.ID]coins{},
			made:   map[studio.Made]*part{},
		}
	}
	return b.sums[order]
}

func (s *sum) part(l *studio.Lot) *part {
	if s.made[l.Made()] == nil {
		s.made[l.Made()] = &part{}
	}
	return s.made[l.Made()]
}

// divided gives each order that a lot is for its share of an amount.
func (b *books) divided(l *studio.Lot, amount float64, give func(s *sum, share float64)) {
	whole := studio.Sum(l.For)
	if whole <= 0 {
		give(b.of(""), amount)
		return
	}
	for _, claim := range l.For {
		give(b.of(claim.Order), amount*float64(claim.Quantity)/float64(whole))
	}
}

// hours adds up what tasks take of people.
func (b *books) hours(tasks []studio.Task) {
	rates := map[studio.ID]studio.Money{}
	for i := range b.doc.People {
		rates[b.doc.People[i].ID] = b.doc.People[i].Rate
	}
	for i := range tasks {
		t := &tasks[i]
		l := b.lots[t.Lot]
		if t.Person == "" || l == nil {
			continue
		}
		worked := t.End - t.Start
		for _, pause := range t.Pauses {
			worked -= pause.To - pause.From
		}
		rate := rates[t.Person]
		b.divided(l, float64(max(0, worked)), func(s *sum, time float64) {
			cost := coins(time * float64(rate) / 60)
			s.time[t.Person] += time
			s.labour[t.Person] += cost
			s.worked += time
			p := s.part(l)
			p.time += time
			p.cost += cost + coins(time*float64(b.doc.Settings.Costing.Overhead)/60)
			if rate == 0 && !slices.Contains(s.unrated, t.Person) {
				s.unrated = append(s.unrated, t.Person)
			}
		})
	}
}

// materials adds up what lots take of materials.
func (b *books) materials(takes map[studio.ID][]stores.Take) {
	for i := range b.doc.Materials {
		m := &b.doc.Materials[i]
		for _, take := range takes[m.ID] {
			l := b.lots[take.Lot]
			if l == nil {
				continue
			}
			b.divided(l, float64(take.Amount), func(s *sum, amount float64) {
				cost := coins(amount * float64(m.Price) / float64(m.PricedAt()))
				s.amount[m.ID] += amount
				s.stuff[m.ID] += cost
				s.part(l).cost += cost
				if m.Price == 0 && !slices.Contains(s.unpriced, m.ID) {
					s.unpriced = append(s.unpriced, m.ID)
				}
			})
		}
	}
}

// fromShelf counts the pieces that are there already.
func (b *books) fromShelf(made *studio.Plan) {
	mixes := map[studio.ID]bool{}
	for i := range b.doc.Recipes {
		mixes[b.doc.Recipes[i].ID] = b.doc.Recipes[i].Kind == studio.KindMix
	}
	for _, peg := range made.Pegs {
		b.of(peg.Order).shelf += float64(peg.Quantity)
	}
	for _, link := range made.Links {
		if l := b.lots[link.To]; l != nil && b.lots[link.From] == nil && !mixes[link.Recipe] {
			b.divided(l, float64(link.Quantity), func(s *sum, share float64) { s.shelf += share })
		}
	}
}

// bill writes what was added up for an order, and what would be asked for it.
func (b *books) bill(o *studio.Order) Bill {
	s, costing := b.of(o.ID), b.doc.Settings.Costing
	bill := Bill{Order: o.ID, Hours: []Hours{}, Used: []Used{}, Made: []Made{}, FromShelf: int64(math.Round(s.shelf)),
		Unpriced: append([]studio.ID{}, s.unpriced...), Unrated: append([]studio.ID{}, s.unrated...)}
	for i := range b.doc.People {
		id := b.doc.People[i].ID
		if time, works := s.time[id]; works {
			h := Hours{Person: id, Time: thousandths(time), Cost: s.labour[id].rounded()}
			bill.Hours, bill.Labour = append(bill.Hours, h), bill.Labour+h.Cost
		}
	}
	for i := range b.doc.Materials {
		id := b.doc.Materials[i].ID
		if amount, taken := s.amount[id]; taken {
			u := Used{Material: id, Amount: int64(math.Ceil(amount - 1e-6)), Cost: s.stuff[id].rounded()}
			bill.Used, bill.Materials = append(bill.Used, u), bill.Materials+u.Cost
		}
	}
	for i := range b.doc.Recipes {
		for made, p := range s.made {
			if made.Recipe == b.doc.Recipes[i].ID {
				bill.Made = append(bill.Made, Made{Recipe: made.Recipe, Variant: made.Variant, Cost: p.cost.rounded(),
					Time: thousandths(p.time)})
			}
		}
	}
	slices.SortFunc(bill.Made, func(x, y Made) int { return int(y.Cost - x.Cost) })
	bill.House = coins(s.worked * float64(costing.Overhead) / 60).rounded()
	if o.ID != "" {
		bill.Box = costing.Box
	}
	if o.Leaving != studio.Collected {
		bill.Delivery = costing.Delivery
	}
	bill.Total = bill.Labour + bill.Materials + bill.House + bill.Box + bill.Delivery
	b.price(&bill, s.worked)
	return bill
}

// price is what would be asked: hours at what they are charged at, or at what they cost, materials by their factor,
// the box and the way there, in the studio's steps.
func (b *books) price(bill *Bill, worked float64) {
	costing := b.doc.Settings.Costing
	hours := bill.Labour + bill.House
	if costing.Hour > 0 {
		hours = coins(worked * float64(costing.Hour) / 60).rounded()
	}
	factor := costing.Charged()
	materials := studio.Money(studio.CeilDiv(int64(bill.Materials)*int64(factor), 1000))
	bill.Price = (hours + materials + bill.Box + bill.Delivery).RoundedUp(b.doc.Settings.MoneyStep)
	bill.Working = studio.Working{Rule: "price", Rounding: studio.ToMoney,
		Inputs: []studio.Figure{
			studio.NewFigure("hours-worked", worked/60, "h"),
			studio.NewFigure("hours-charged", hours, "money"),
			studio.NewFigure("materials-charged", materials, "money"),
			studio.NewFigure("materials-factor", float64(factor)/1000, ""),
			studio.NewFigure("box", bill.Box, "money"),
			studio.NewFigure("delivery", bill.Delivery, "money"),
		},
		Result: studio.NewFigure("price", bill.Price, "money")}
}
