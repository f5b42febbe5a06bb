package check

import (
	"slices"

	"bractum/core/studio"
)

// reservations checks that what is reserved on the shelf goes to nobody else: what has no
// part in an order, through all that it goes into, leaves what that order has reserved and
// still takes of such pieces, wherever from, or of half-made ones still has made; and everything
// leaves what the lead keeps back.
func (c *checker) reservations() {
	f := flow{
		lots:  map[studio.ID]*studio.Lot{},
		feeds: map[studio.ID][]studio.Link{},
		pegs:  map[studio.ID][]studio.Peg{},
		known: map[studio.ID][]studio.ID{},
	}
	for _, k := range c.plan.Links {
		f.feeds[k.From] = append(f.feeds[k.From], k)
	}
	sources := map[string][]studio.ID{} // of such pieces
	for i := range c.plan.Lots {
		l := &c.plan.Lots[i]
		f.lots[l.ID], sources[l.Key] = l, append(sources[l.Key], l.ID)
		if l.From != "" && !l.InWork {
			f.feeds[l.From] = append(f.feeds[l.From], studio.Link{From: l.From, To: l.ID, Quantity: l.Started})
		}
		f.pegs[l.ID] = append(f.pegs[l.ID], l.Pegs...)
	}
	for _, p := range c.plan.Pegs {
		f.pegs[p.From] = append(f.pegs[p.From], p)
	}
	key := func(s *studio.ShelfLot) string {
		own, _ := c.book.Resolve(s.Made(), s.Mixes)
		return studio.GatherKey(s.Made(), own)
	}
	for i := range c.doc.Shelf {
		if s := &c.doc.Shelf[i]; s.From == "" && s.Reached == "" {
			sources[key(s)] = append(sources[key(s)], s.ID)
		}
	}
	for i := range c.doc.Shelf {
		s := &c.doc.Shelf[i]
		claims := c.doc.Open(s.Reserved)
		if s.From != "" || studio.Sum(claims) > s.Amount {
			continue // it goes by the lot that made it, with its other qualities; or somebody has to be short
		}
		for _, claim := range claims {
			switch {
			case claim.Order == "":
			case s.Reached == "":
				claim.Quantity = min(claim.Quantity, f.takes(sources[key(s)], claim.Order))
			case !c.makes(s, claim.Order):
				claim.Quantity = 0 // what is finished or in work serves it
			}
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
	lots  map[studio.ID]*studio.Lot
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

// takes is how much an order takes from some sources, by its share in what they feed, rounded
// down link by link.
func (f flow) takes(sources []studio.ID, order studio.ID) (quantity int64) {
	for _, from := range sources {
		for _, k := range f.feeds[from] {
			var whole, own int64
			if to := f.lots[k.To]; to != nil {
				for _, claim := range to.For {
					whole += claim.Quantity
					if claim.Order == order {
						own += claim.Quantity
					}
				}
			}
			quantity += k.Quantity * own / max(1, whole)
		}
		for _, p := range f.pegs[from] {
			if p.Order == order {
				quantity += p.Quantity
			}
		}
	}
	return quantity
}

// makes is true where something that half-made pieces can become is begun, or gone on with from the
// shelf, for an order.
func (c *checker) makes(half *studio.ShelfLot, order studio.ID) bool {
	shelf := c.book.NewShelf(c.doc)
	return slices.ContainsFunc(c.plan.Lots, func(l studio.Lot) bool {
		return !l.InWork &&
			slices.ContainsFunc(l.For, func(c studio.Claim) bool { return c.Order == order }) &&
			slices.ContainsFunc(shelf.HalfMade(l.Made(), l.Mixes), func(s *studio.Stock) bool { return s.ID == half.ID })
	})
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
