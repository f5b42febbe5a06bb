package count

import (
	"slices"

	"bractum/core/studio"
)

// Reservations are the movements that accepting a count takes: everything that it takes
// from the shelf and from lots in work is reserved for whom it is for, and what orders
// had reserved and no longer need is released. What the lead keeps back stays so. They
// come in the order of the document.
func Reservations(doc *studio.Document, counted *Result) (moved []studio.Movement) {
	for _, w := range doc.Work {
		moved = append(moved, reserve(studio.Movement{Lot: w.ID}, w.Reserved, counted.Reserves[w.ID])...)
	}
	for _, s := range doc.Shelf {
		moved = append(moved, reserve(studio.Movement{Shelf: s.ID}, s.Reserved, counted.Reserves[s.ID])...)
	}
	return moved
}

// reserve changes the claims of orders on a lot from what they are to what they are to be.
func reserve(of studio.Movement, are, wanted []studio.Claim) (moved []studio.Movement) {
	change := func(order studio.ID, quantity int64) {
		of.Kind, of.Order, of.Amount = studio.Reserved, order, quantity
		if quantity < 0 {
			of.Kind = studio.Released
		}
		if quantity != 0 {
			moved = append(moved, of)
		}
	}
	for _, claim := range studio.OfOrders(are) {
		var wants int64
		if i := slices.IndexFunc(wanted, func(w studio.Claim) bool { return w.Order == claim.Order }); i >= 0 {
			wants = wanted[i].Quantity
		}
		change(claim.Order, wants-claim.Quantity)
	}
	for _, claim := range wanted {
		if !slices.ContainsFunc(are, func(a studio.Claim) bool { return a.Order == claim.Order }) {
			change(claim.Order, claim.Quantity)
		}
	}
	return moved
}

// unneeded frees what is reserved of an item for orders beyond what they need of it: on the
// shelf first, then of lots in work, then of what is half made.
func (c *counter) unneeded(item *Item) {
	needs := map[studio.ID]int64{}
	for _, n := range item.needs {
		for _, claim := range studio.OfOrders(n.claims) {
			needs[claim.Order] += claim.Quantity
		}
	}
	r := c.book.Of(item.Made())
	free := func(claims []studio.Claim, there int64) (left []studio.Claim) {
		left = slices.Clone(claims)
		for i := range left {
			claim := &left[i]
			if claim.Order == "" {
				continue
			}
			keeps := min(claim.Quantity, needs[claim.Order])
			if vain := min(claim.Quantity-keeps, there); vain > 0 {
				c.note(
					ReservedInVain,
					item.Recipe,
					[]studio.ID{claim.Order},
					studio.With{"of": r.Name, "quantity": vain},
				)
			}
			needs[claim.Order] -= keeps
			claim.Quantity = keeps
		}
		return left
	}
	for _, s := range c.shelf.Finished(item.Key) {
		s.Left.Reserved = free(s.Left.Reserved, s.Left.Amount)
	}
	for _, w := range c.work[item.Key] {
		if progress := w.Progress(r); !progress.Made {
			c.freed[w.ID] = free(c.doc.Open(w.Reserved), progress.Serves(r))
		}
	}
	for _, s := range c.shelf.HalfMade(item.Made(), item.Mixes) {
		s.Left.Reserved = slices.DeleteFunc(slices.Clone(s.Left.Reserved), func(claim studio.Claim) bool {
			return claim.Order != "" && needs[claim.Order] == 0 && !c.elsewhere(item, s, claim.Order)
		}) // else with the spares that finishing it takes
	}
}

// elsewhere is true where an order needs, in other colours than an item, what half-made pieces can
// still become.
func (c *counter) elsewhere(item *Item, s *studio.Stock, order studio.ID) bool {
	for _, other := range c.items {
		if other == item || other.Made() != item.Made() ||
			!slices.Contains(c.shelf.HalfMade(other.Made(), other.Mixes), s) {
			continue
		}
		for _, n := range other.needs {
			if slices.ContainsFunc(n.claims, func(claim studio.Claim) bool { return claim.Order == order }) {
				return true
			}
		}
	}
	return false
}
