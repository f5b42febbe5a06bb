package count

import (
	"sort"

	"bractum/core/studio"
)

// fromShelf meets needs from stock, oldest first, within its use-by at the time
// of need, and returns what is left of them.
func (c *counter) fromShelf(item *Item, r *studio.Recipe, needs []need) []need {
	shelf := c.book.OnShelf(c.doc, item.Made(), item.Mixes)
	var left []need
	for _, n := range needs {
		for i := range shelf {
			s := &shelf[i]
			take := min(n.quantity, s.Amount)
			if n.fresh || take <= 0 || s.UseBy != nil && *s.UseBy < c.usedAt(r, n) {
				continue
			}
			s.Amount -= take
			item.FromShelf += take
			from := s.ID
			if s.From != "" {
				from = s.From
				if due, known := c.wanted[from]; !known || n.due < due {
					c.wanted[from] = n.due
				}
			}
			c.serve(n, from, nil, item.Recipe, take)
			n = n.less(take)
		}
		if n.quantity > 0 {
			left = append(left, n)
		}
	}
	return left
}

// usedAt is the time of need against which a use-by is held. Dry pieces wait on
// the shelf until they are due; paste is mixed for lots that follow at once.
func (c *counter) usedAt(r *studio.Recipe, n need) studio.Minute {
	if r.Kind == studio.KindMix {
		return c.doc.Now
	}
	return n.due
}

// fromWork meets needs from lots that have been begun, and explodes what those
// still have to take up.
func (c *counter) fromWork(item *Item, r *studio.Recipe, needs []need) []need {
	for _, w := range c.doc.Work {
		if w.Made() != item.Made() || studio.GatherKey(w.Made(), w.Mixes) != item.Key {
			continue
		}
		progress := w.Progress(r)
		lot := studio.Lot{ID: w.ID, Key: item.Key, Recipe: w.Recipe, Variant: w.Variant, Mixes: w.Mixes, Ordinal: w.Ordinal, Started: w.Started,
			Alive: progress.Alive, InWork: true, NextStep: progress.NextStep, From: w.From, Reached: w.Reached, Pegs: []studio.Peg{}}
		lot.Due = c.doc.Horizon()
		if due, known := c.wanted[w.ID]; known {
			lot.Due = due
		}
		free := min(w.Need, progress.Serves(r)) // its spares are not promised twice
		if progress.Made {
			free = 0 // its pieces are on the shelf
		}
		served := need{orders: map[studio.ID]struct{}{}}
		var left []need
		for _, n := range needs {
			take := min(n.quantity, free)
			if take > 0 {
				free -= take
				lot.Need += take
				item.FromWork += take
				lot.Due = min(lot.Due, n.due)
				served.service = max(served.service, n.service)
				for o := range n.orders {
					served.orders[o] = struct{}{}
				}
				c.serve(n, w.ID, &lot, item.Recipe, take)
				n = n.less(take)
			}
			if n.quantity > 0 {
				left = append(left, n)
			}
		}
		needs = left
		lot.LatestStart = lot.Due - c.room.Elapsed(r, min(progress.NextStep, len(r.Steps)), lot.Alive)
		c.explode(r, lot, served)
		c.add(item, lot)
	}
	return needs
}

// fromHalfMade meets needs from pieces that are kept half way, with as many of them
// as spares for what is still to be done.
func (c *counter) fromHalfMade(item *Item, r *studio.Recipe, needs []need) []need {
	for _, s := range c.book.HalfMade(c.doc, item.Made(), item.Mixes) {
		for more := true; more; {
			needs, more = c.finishOf(item, r, s, needs)
		}
	}
	return needs
}

// finishOf makes one lot that finishes pieces of a half-made shelf lot, as many as are
// there, go into one lot and are needed, and returns what is left of the needs; false
// when that is none.
func (c *counter) finishOf(item *Item, r *studio.Recipe, s studio.ShelfLot, needs []need) ([]need, bool) {
	var wanted int64
	group := need{orders: map[studio.ID]struct{}{}}
	suits := func(n need) bool { return !n.fresh && (s.UseBy == nil || *s.UseBy >= n.due) }
	for _, n := range needs {
		if suits(n) {
			wanted += n.quantity
			group.service = max(group.service, n.service)
			for o := range n.orders {
				group.orders[o] = struct{}{}
			}
		}
	}
	most, unit := s.Amount-c.finished[s.ID], r.Unit()
	if limit := c.mostPerLot(r); limit > 0 {
		most = min(most, limit)
	}
	start := func(good int64) int64 {
		n, _ := Start(good, r.Spares, group.service, c.doc.Settings.PriorWeight)
		return studio.CeilDiv(n, unit) * unit
	}
	good := int64(sort.Search(int(max(0, min(wanted, most))), func(i int) bool { return start(int64(i)+1) > most }))
	if good == 0 {
		return needs, false
	}
	lot := studio.Lot{Key: item.Key, Recipe: item.Recipe, Variant: item.Variant, Mixes: item.Mixes, Ordinal: c.nextOrdinal(item.Key), Need: good,
		Started: start(good), From: s.ID, Reached: s.Reached, Due: c.doc.Horizon(), Pegs: []studio.Peg{}}
	lot.ID, lot.Alive = studio.LotID(item.Key, lot.Ordinal), lot.Started
	lot.NextStep = studio.WorkLot{Started: lot.Started, Reached: s.Reached}.Progress(r).NextStep
	item.FromHalfMade += good
	c.finished[s.ID] += lot.Started
	var left []need
	for _, n := range needs {
		if take := min(n.quantity, good); take > 0 && suits(n) {
			good -= take
			lot.Due = min(lot.Due, n.due)
			c.serve(n, lot.ID, &lot, item.Recipe, take)
			n = n.less(take)
		}
		if n.quantity > 0 {
			left = append(left, n)
		}
	}
	lot.LatestStart = lot.Due - c.room.Elapsed(r, lot.NextStep, lot.Started)
	c.explode(r, lot, group)
	c.add(item, lot)
	return left, true
}

func (n need) less(taken int64) need {
	n.quantity -= taken
	return n
}

// serve notes that a quantity from a lot, or shelf lot, goes to a need.
func (c *counter) serve(n need, from studio.ID, lot *studio.Lot, recipe studio.ID, quantity int64) {
	if n.lot != "" {
		c.result.Links = append(c.result.Links, studio.Link{From: from, To: n.lot, Step: n.step, Recipe: recipe, Quantity: quantity})
		return
	}
	peg := studio.Peg{Order: n.order, Line: n.line, Quantity: quantity}
	if lot != nil {
		lot.Pegs = append(lot.Pegs, peg)
		return
	}
	peg.From = from
	c.result.Pegs = append(c.result.Pegs, peg)
}
