package check

import (
	"slices"

	"bractum/core/studio"
)

// reservations checks that what is reserved on the shelf goes to nobody else: what has no
// part in an order, through all that it goes into, leaves what that order has reserved,
// and everything leaves what the lead keeps back.
func (c *checker) reservations() {
	f := flow{
		feeds: map[studio.ID][]studio.Link{},
		pegs:  map[studio.ID][]studio.Peg{},
		known: map[studio.ID][]studio.ID{},
	}
	for _, k := range c.plan.Links {
		f.feeds[k.From] = append(f.feeds[k.From], k)
	}
	for _, l := range c.plan.Lots {
		if l.From != "" && !l.InWork {
			f.feeds[l.From] = append(f.feeds[l.From], studio.Link{From: l.From, To: l.ID, Quantity: l.Started})
		}
		f.pegs[l.ID] = append(f.pegs[l.ID], l.Pegs...)
	}
	for _, p := range c.plan.Pegs {
		f.pegs[p.From] = append(f.pegs[p.From], p)
	}
	for _, s := range c.doc.Shelf {
		claims := c.doc.Open(s.Reserved)
		if s.From != "" || studio.Sum(claims) > s.Amount {
			continue // it goes by the lot that made it, with its other qualities; or somebody has to be short
		}
		for _, claim := range claims {
			if others := f.others(s.ID, claim.Order); others > max(0, s.Amount-claim.Quantity) {
				c.say(
					TakesReserved,
					"",
					"takes %d of %q for others, though of its %d there are %d reserved for %q",
					others,
					s.ID,
					s.Amount,
					claim.Quantity,
					claim.Order,
				)
			}
		}
	}
}

// flow is what goes from where to which lots and order lines.
type flow struct {
	feeds map[studio.ID][]studio.Link
	pegs  map[studio.ID][]studio.Peg
	known map[studio.ID][]studio.ID
}

// others is how much goes from a shelf lot to what has no part in an order.
func (f flow) others(from, order studio.ID) (quantity int64) {
	for _, k := range f.feeds[from] {
		if order == "" || !slices.Contains(f.orders(k.To), order) {
			quantity += k.Quantity
		}
	}
	for _, p := range f.pegs[from] {
		if order == "" || p.Order != order {
			quantity += p.Quantity
		}
	}
	return quantity
}

// orders are those that a lot has a part in.
func (f flow) orders(lot studio.ID) []studio.ID {
	if known, done := f.known[lot]; done {
		return known
	}
	f.known[lot] = nil // links that go round are another breach
	var orders []studio.ID
	for _, p := range f.pegs[lot] {
		if p.Order != "" {
			orders = append(orders, p.Order)
		}
	}
	for _, k := range f.feeds[lot] {
		orders = append(orders, f.orders(k.To)...)
	}
	slices.Sort(orders)
	f.known[lot] = slices.Compact(orders)
	return f.known[lot]
}
