package scene

import (
	"cmp"
	"slices"

	"bractum/core/cost"
	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/stores"
	"bractum/core/studio"
	"bractum/core/wire"
)

// Beside is a plan beside what a scene makes of it: what differs.
type Beside struct {
	Orders []OrderBeside `json:"orders"`
	// Hours are what people work from now on, in minutes, Buys what has to be bought of a material, in packs: those
	// that differ.
	Hours []Figures `json:"hours"`
	Buys  []Figures `json:"buys"`
	// Was and Is are what all orders cost.
	Was   cost.Bill   `json:"was"`
	Is    cost.Bill   `json:"is"`
	Moves plan.Change `json:"moves"`
	// Plan is the one of the scene, made for Doc.
	Plan *studio.Plan     `json:"-"`
	Doc  *studio.Document `json:"-"`
}

// OrderBeside is how an order stands as it is planned and in a scene; nil where it is not there, or something of it has
// no place.
type OrderBeside struct {
	Order studio.ID       `json:"order"`
	Was   *studio.Outcome `json:"was,omitempty"`
	Is    *studio.Outcome `json:"is,omitempty"`
}

// Figures are a number of something as it is planned and in a scene.
type Figures struct {
	Of  studio.ID `json:"of"`
	Was int64     `json:"was"`
	Is  int64     `json:"is"`
}

// Try plans a studio as some changes would make it, from the plan in force, and sets that beside what is planned. It
// takes about as long as planning does.
func Try(doc *studio.Document, planned, inForce *studio.Plan, changes []If, abandon <-chan struct{}) (*Beside, error) {
	is, err := With(doc, changes)
	if err != nil {
		return nil, err
	}
	counted, err := count.Up(is)
	if err != nil {
		return nil, err
	}
	made, err := plan.Propose(is, counted, inForce, abandon)
	if err != nil {
		return nil, err
	}
	b := &Beside{Orders: []OrderBeside{}, Moves: plan.Sum(planned, made), Plan: made, Doc: is}
	for _, o := range is.Orders {
		was, then := outcomeOf(planned, o.ID), outcomeOf(made, o.ID)
		if was != nil || then != nil {
			b.Orders = append(b.Orders, OrderBeside{Order: o.ID, Was: was, Is: then})
		}
	}
	slices.SortStableFunc(b.Orders, func(x, y OrderBeside) int { return cmp.Compare(x.wanted(), y.wanted()) })
	b.Hours = differing(hoursOf(planned), hoursOf(made))
	before, err := boughtOf(doc, planned)
	if err != nil {
		return nil, err
	}
	then, err := boughtOf(is, made)
	if err != nil {
		return nil, err
	}
	b.Buys = differing(before.packs, then.packs)
	b.Was, b.Is = before.bill, then.bill
	return b, nil
}

// wanted is by when an order is to be ready.
func (o OrderBeside) wanted() studio.Minute {
	if o.Is != nil {
		return o.Is.ReadyBy
	}
	return o.Was.ReadyBy
}

func outcomeOf(made *studio.Plan, order studio.ID) *studio.Outcome {
	for i := range made.Orders {
		if made.Orders[i].Order == order {
			return &made.Orders[i]
		}
	}
	return nil
}

// hoursOf are the minutes that each works from now on.
func hoursOf(made *studio.Plan) map[studio.ID]int64 {
	all := map[studio.ID]int64{}
	for _, t := range made.Tasks {
		if t.Person == "" || t.State == studio.TaskDone {
			continue
		}
		worked := t.End - t.Begin()
		for _, p := range t.Pauses {
			worked -= p.To - p.From
		}
		all[t.Person] += int64(worked)
	}
	return all
}

// bought is what has to be bought for a plan, and what its orders cost together.
type bought struct {
	packs map[studio.ID]int64
	bill  cost.Bill
}

func boughtOf(doc *studio.Document, made *studio.Plan) (bought, error) {
	takes := stores.Takes(doc, made, wire.Sheets(doc, made.Lots))
	lists, err := stores.Shopping(doc, stores.Balances(doc, takes))
	b := bought{packs: map[studio.ID]int64{}}
	for _, l := range lists {
		for _, buy := range l.Buys {
			b.packs[buy.Material] += buy.Packs
		}
	}
	for _, bill := range cost.Bills(doc, made, takes) {
		b.bill.Labour += bill.Labour
		b.bill.Materials += bill.Materials
		b.bill.House += bill.House
		b.bill.Box += bill.Box
		b.bill.Delivery += bill.Delivery
		b.bill.Total += bill.Total
	}
	return b, err
}

// differing are the numbers that are not the same, by what they are of.
func differing(was, is map[studio.ID]int64) []Figures {
	all := []Figures{}
	for of, n := range was {
		if is[of] != n {
			all = append(all, Figures{Of: of, Was: n, Is: is[of]})
		}
	}
	for of, n := range is {
		if _, known := was[of]; !known && n != 0 {
			all = append(all, Figures{Of: of, Is: n})
		}
	}
	slices.SortFunc(all, func(a, b Figures) int { return cmp.Compare(a.Of, b.Of) })
	return all
}
