package count

import (
	"cmp"
	"maps"
	"slices"

	"bractum/core/studio"
)

// What waits for a material must not keep back what does not: where orders of a lot would wait and
// others of it would not, they are gathered apart, so that what is on hand goes to those that are
// due first. So are the orders whose client is to approve a mix, in all that it goes into: each apart,
// for each waits for a word of its own.

// classes say, by gather key, which orders wait for a material: they are gathered apart from others.
type classes map[string]map[studio.ID]bool

// aside are the orders of an item that are gathered apart from others, by class: those of one class are gathered
// together, those that are not in it as well.
func (c *counter) aside(item *Item) map[studio.ID]int {
	var all map[studio.ID]int
	put := func(order studio.ID, class int) {
		if all == nil {
			all = map[studio.ID]int{}
		}
		all[order] = class
	}
	for order := range c.apart[item.Key] {
		put(order, 1)
	}
	for i, a := range c.approving {
		if c.coloured(item, a.mix) {
			put(a.order, 2+i)
		}
	}
	return all
}

// approving is a mix that the client of an order is to approve.
type approving struct{ order, mix studio.ID }

func approvals(doc *studio.Document) (all []approving) {
	for i := range doc.Orders {
		for _, a := range doc.Orders[i].Approvals {
			if doc.Orders[i].State == studio.OrderOpen && a.Awaited() {
				all = append(all, approving{doc.Orders[i].ID, a.Mix})
			}
		}
	}
	return all
}

// coloured is true of an item that is a mix, or has it in it.
func (c *counter) coloured(item *Item, mix studio.ID) bool {
	var in func(studio.ID) bool
	in = func(id studio.ID) bool {
		return id == mix || slices.ContainsFunc(c.book.Of(studio.Made{Recipe: id}).Blend,
			func(b studio.Ingredient) bool { return b.Mix != "" && in(b.Mix) })
	}
	return in(item.Recipe) || slices.ContainsFunc(slices.Collect(maps.Values(item.Mixes)), in)
}

// divide divides needs of an item into those of orders that nothing sets apart, and those of each class.
func divide(aside map[studio.ID]int, needs []need) [][]need {
	if len(aside) == 0 {
		return [][]need{needs}
	}
	groups := map[int][]need{}
	for _, n := range needs {
		class := 0
		for _, claim := range n.claims {
			class = max(class, aside[claim.Order])
		}
		groups[class] = append(groups[class], n)
	}
	var all [][]need
	for _, class := range slices.Sorted(maps.Keys(groups)) {
		all = append(all, groups[class])
	}
	return all
}

// part is what a lot needs for one of its orders, or for none, and how soon it must be begun for that.
type part struct {
	lot    *studio.Lot
	order  studio.ID
	latest studio.Minute
	shares studio.PerMille // up to which, and from which on, of what the lot takes
	from   studio.PerMille
}

// parts are lots order by order, what is in work first, then what must be begun first.
func (c *counter) parts(lots []*studio.Lot) (all []part) {
	for _, l := range lots {
		claims := studio.OfOrders(l.For)
		if l.InWork || len(claims) < 2 {
			p := part{lot: l, latest: l.LatestStart, shares: 1000}
			if len(claims) == 1 {
				p.order = claims[0].Order
			}
			all = append(all, p)
			continue
		}
		claims = slices.Clone(claims)
		slices.SortStableFunc(
			claims,
			func(a, b studio.Claim) int { return cmp.Compare(c.dueOf[a.Order], c.dueOf[b.Order]) },
		)
		var sum, so int64
		for _, claim := range claims {
			sum += claim.Quantity
		}
		first := c.dueOf[claims[0].Order]
		for _, claim := range claims {
			p := part{lot: l, order: claim.Order, latest: l.LatestStart + c.dueOf[claim.Order] - first}
			p.from = studio.PerMille(1000 * so / max(1, sum))
			so += claim.Quantity
			p.shares = studio.PerMille(1000 * so / max(1, sum))
			all = append(all, p)
		}
	}
	slices.SortStableFunc(all, func(a, b part) int {
		if a.lot.InWork != b.lot.InWork {
			if a.lot.InWork {
				return -1
			}
			return 1
		}
		return cmp.Or(cmp.Compare(a.latest, b.latest), cmp.Compare(a.lot.ID, b.lot.ID))
	})
	return all
}

// of is what a part takes of what its lot does.
func (p *part) of(amount int64) int64 {
	return amount*int64(p.shares)/1000 - amount*int64(p.from)/1000
}

// wait is the orders that wait for a material in a lot, and those that do not.
type wait struct{ waits, not map[studio.ID]bool }

// keptBack are the classes of orders of lots that some wait in and others do not, and of all that
// those lots go into.
func (c *counter) keptBack(waiting map[studio.ID]*wait) classes {
	var mixed []studio.ID
	waits := map[studio.ID]bool{}
	for lot, w := range waiting {
		if len(w.waits) > 0 && len(w.not) > 0 {
			mixed = append(mixed, lot)
		}
		for o := range w.waits {
			waits[o] = true
		}
	}
	if len(mixed) == 0 {
		return nil
	}
	lots, into := map[studio.ID]*studio.Lot{}, map[studio.ID][]studio.ID{}
	for i := range c.result.Lots {
		lots[c.result.Lots[i].ID] = &c.result.Lots[i]
	}
	for _, k := range c.result.Links {
		into[k.From] = append(into[k.From], k.To)
	}
	all, seen := classes{}, map[studio.ID]bool{}
	for len(mixed) > 0 {
		l := lots[mixed[0]]
		mixed = mixed[1:]
		if l == nil || seen[l.ID] {
			continue
		}
		seen[l.ID] = true
		mixed = append(mixed, into[l.ID]...)
		for _, claim := range studio.OfOrders(l.For) {
			if waits[claim.Order] {
				if all[l.Key] == nil {
					all[l.Key] = map[studio.ID]bool{}
				}
				all[l.Key][claim.Order] = true
			}
		}
	}
	return all
}
