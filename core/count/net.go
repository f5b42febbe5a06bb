package count

import (
	"sort"

	"bractum/core/studio"
)

// fromShelf meets needs from stock, oldest first, within its use-by at the time of need,
// and returns what is left of them: all of them first from what is reserved for their
// orders, then from what is free.
func (c *counter) fromShelf(item *Item, r *studio.Recipe, needs []need) []need {
	stock := c.shelf.Finished(item.Key)
	if len(stock) == 0 {
		return needs
	}
	if r.Kind == studio.KindMix {
		return c.remainders(item, r, stock, needs)
	}
	take := func(n need, from func(*studio.Supply, []studio.Claim) []studio.Claim) need {
		for _, s := range stock {
			if n.quantity == 0 || !c.fresh(s, n) || s.UseBy != nil && *s.UseBy < c.usedAt(r, n) {
				continue
			}
			taken := from(&s.Left, n.claims)
			if len(taken) == 0 {
				continue
			}
			n = c.fromStock(item, s, n, taken)
		}
		return n
	}
	return c.twice(needs, take)
}

// fresh is true of stock that may serve a need: where that has an upper limit, of what was
// made of a lot in work not longer ago than the limit allows.
func (c *counter) fresh(s *studio.Stock, n need) bool {
	if n.fresh == nil {
		return true
	}
	for i := range c.doc.Work {
		w := &c.doc.Work[i]
		if w.ID != s.From {
			continue
		}
		for _, lag := range studio.LimitsOn(c.doc, c.book, w, n.fresh.by, n.fresh.input) {
			made := w.Records[len(w.Records)-1].End
			for _, record := range w.Records {
				if studio.TaskID(w.ID, record.Step) == lag.From {
					made = record.End
				}
			}
			if _, last, _, ok := c.room.Window(lag, made); !ok || last < c.doc.Now {
				return false
			}
		}
		return true
	}
	return false
}

// fromStock notes what a need takes of a shelf lot, and returns what is left of the need.
func (c *counter) fromStock(item *Item, s *studio.Stock, n need, taken []studio.Claim) need {
	item.FromShelf += studio.Sum(taken)
	id := s.ID
	if s.From != "" {
		id = s.From
		if due, known := c.wanted[id]; !known || n.due < due {
			c.wanted[id] = n.due
		}
	}
	c.reserve(s.ID, taken)
	c.serve(n, id, nil, item.Recipe, studio.Sum(taken))
	return n.less(taken)
}

// remainders meets needs of a mix from what is left of earlier mixings, the oldest first,
// but only where one remainder is enough for all that a lot takes: one colour of one
// piece comes from one mixing. What is too little for anybody is said.
func (c *counter) remainders(item *Item, r *studio.Recipe, stock []*studio.Stock, needs []need) (left []need) {
	for _, n := range needs {
		for _, s := range stock {
			if n.fresh != nil || s.UseBy != nil && *s.UseBy < c.usedAt(r, n) {
				continue
			}
			there := s.Left.Free()
			for _, claim := range n.claims {
				there += min(claim.Quantity, s.Left.For(claim.Order))
			}
			if min(there, s.Left.Amount) < n.quantity {
				continue
			}
			taken := s.Left.TakeReserved(n.claims)
			for _, claim := range s.Left.TakeFree(studio.Less(n.claims, taken)) {
				taken = studio.Add(taken, claim)
			}
			n = c.fromStock(item, s, n, taken)
			break
		}
		if n.quantity > 0 {
			left = append(left, n)
		}
	}
	for _, s := range stock {
		if amount := s.Left.Free(); amount > 0 && len(left) > 0 && (s.UseBy == nil || *s.UseBy >= c.doc.Now) {
			c.note(RemainderTooSmall, item.Recipe, nil, studio.With{"of": r.Name, "milligrams": amount})
		}
	}
	return left
}

// twice offers needs a supply: first each what is reserved for its orders, then what is
// free; and returns what is left of them.
func (c *counter) twice(
	needs []need,
	take func(need, func(*studio.Supply, []studio.Claim) []studio.Claim) need,
) []need {
	for _, from := range []func(*studio.Supply, []studio.Claim) []studio.Claim{(*studio.Supply).TakeReserved, (*studio.Supply).TakeFree} {
		var left []need
		for _, n := range needs {
			if n = take(n, from); n.quantity > 0 {
				left = append(left, n)
			}
		}
		needs = left
	}
	return needs
}

// reserve notes what of a shelf lot, or lot in work, is meant for which order.
func (c *counter) reserve(from studio.ID, taken []studio.Claim) {
	for _, claim := range studio.OfOrders(taken) {
		c.result.Reserves[from] = studio.Add(c.result.Reserves[from], claim)
	}
}

// usedAt is the time of need against which a use-by is held. Dry pieces wait on
// the shelf until they are due; paste is mixed for lots that follow at once.
func (c *counter) usedAt(r *studio.Recipe, n need) studio.Minute {
	if r.Kind == studio.KindMix {
		return c.doc.Now
	}
	return n.due
}

// coming is a lot that is in work, or decided on, and what it can give.
type coming struct {
	studio.Lot
	left    studio.Supply
	service float64
	lost    float64 // the share of its pieces that is expected to break as they are taken up
}

// fromWork meets needs from lots that have been begun, and explodes what those
// still have to take up.
func (c *counter) fromWork(item *Item, r *studio.Recipe, needs []need) []need {
	var lots []*coming
	for _, w := range c.work[item.Key] {
		progress := w.Progress(r)
		l := &coming{
			Lot: studio.Lot{
				ID:       w.ID,
				Key:      item.Key,
				Recipe:   w.Recipe,
				Variant:  w.Variant,
				Mixes:    w.Mixes,
				Ordinal:  w.Ordinal,
				Started:  w.Started,
				Alive:    progress.Alive,
				InWork:   true,
				Run:      c.batchOf(item, r).Run,
				NextStep: progress.NextStep,
				From:     w.From,
				Reached:  w.Reached,
				Pegs:     []studio.Peg{},
			},
		}
		l.Due = c.doc.Horizon()
		if due, known := c.wanted[w.ID]; known {
			l.Due = due
		}
		if !progress.Made { // else its pieces are on the shelf
			l.left = studio.Supply{
				Amount:   min(w.Need, progress.Serves(r)),
				Reserved: c.freed[w.ID],
			} // its spares are not promised twice
		}
		lots = append(lots, l)
	}
	needs, taken := c.fromComing(item, needs, lots)
	item.FromWork = taken
	for _, l := range lots {
		c.reserve(l.ID, l.For)
		l.LatestStart = l.Due - c.room.Elapsed(r, min(l.NextStep, len(r.Steps)), l.Alive)
		if _, wanted := c.wanted[l.ID]; l.Need > 0 || wanted {
			c.inputs(r, l.Lot.Mixes).explode(l.Lot, l.service)
		} else if l.left.Amount > 0 {
			c.note(NobodyNeeds, item.Recipe, nil, studio.With{"of": r.Name, "pieces": l.Alive})
		}
		c.add(item, l.Lot)
	}
	return needs
}

// fromComing shares out what lots will give among needs, and says how much that is.
func (c *counter) fromComing(item *Item, needs []need, lots []*coming) (left []need, given int64) {
	if len(lots) == 0 {
		return needs, 0
	}
	left = c.twice(needs, func(n need, from func(*studio.Supply, []studio.Claim) []studio.Claim) need {
		for _, l := range lots {
			taken := from(&l.left, n.claims)
			if len(taken) == 0 {
				continue
			}
			quantity := studio.Sum(taken)
			given += quantity
			l.Need += quantity
			c.plain[l.ID] += n.plainOf(quantity)
			l.Due = min(l.Due, n.due)
			l.service, l.lost = max(l.service, n.service), max(l.lost, n.lost)
			for _, claim := range taken {
				l.For = studio.Add(l.For, claim)
			}
			c.serve(n, l.ID, &l.Lot, item.Recipe, quantity)
			n = n.less(taken)
		}
		return n
	})
	for _, l := range lots {
		item.Surplus += l.left.Amount
	}
	return left, given
}

// fromHalfMade meets needs from pieces that are kept half way, with as many of them
// as spares for what is still to be done.
func (c *counter) fromHalfMade(item *Item, r *studio.Recipe, needs []need) []need {
	for _, s := range c.shelf.HalfMade(item.Made(), item.Mixes) {
		for more := true; more; {
			needs, more = c.finishOf(item, r, s, needs)
		}
	}
	return needs
}

// finishOf makes one lot that finishes pieces of a half-made shelf lot, as many as are
// there, go into one lot and are needed, and returns what is left of the needs; false
// when that is none.
func (c *counter) finishOf(item *Item, r *studio.Recipe, s *studio.Stock, needs []need) ([]need, bool) {
	var wanted []studio.Claim
	var service, lost float64
	due := c.doc.Horizon()
	free := s.Left.Free()
	suits := func(n need) bool { return n.fresh == nil && (s.UseBy == nil || *s.UseBy >= n.due) }
	able := func(claims []studio.Claim) (able []studio.Claim) {
		for _, claim := range claims {
			if free > 0 || s.Left.For(claim.Order) > 0 {
				able = append(able, claim)
			}
		}
		return able
	}
	for _, n := range needs {
		if suits(n) && len(able(n.claims)) > 0 {
			service, lost, due = max(service, n.service), max(lost, n.lost), min(due, n.due)
			for _, claim := range able(n.claims) {
				wanted = studio.Add(wanted, claim)
			}
		}
	}
	most, unit := s.Left.Amount, r.Unit()
	if limit := c.mostPerLot(item, r); limit > 0 {
		most = min(most, limit)
	}
	by := c.starting(item, r, studio.Sum(wanted), lost, service, due)
	start := func(good int64) int64 {
		n, _ := by.start(good)
		return studio.CeilDiv(n, unit) * unit
	}
	fits := func(good int64) bool {
		from, _ := studio.First(wanted, good)
		var loose int64
		for _, share := range studio.Spread(start(good), from) {
			loose += max(0, share.Quantity-s.Left.For(share.Order))
		}
		return loose <= free && start(good) <= most
	}
	good := int64(
		sort.Search(int(max(0, min(studio.Sum(wanted), most))), func(i int) bool { return !fits(int64(i) + 1) }),
	)
	for good > 0 && !fits(good) {
		good--
	}
	if good == 0 {
		return needs, false
	}
	lot := studio.Lot{
		Key:     item.Key,
		Recipe:  item.Recipe,
		Variant: item.Variant,
		Mixes:   item.Mixes,
		Ordinal: c.nextOrdinal(item.Key),
		Need:    good,
		Started: start(good),
		From:    s.ID,
		Reached: s.Reached,
		Run:     c.batchOf(item, r).Run,
		Due:     c.doc.Horizon(),
		Pegs:    []studio.Peg{},
	}
	lot.ID, lot.Alive = studio.LotID(item.Key, lot.Ordinal), lot.Started
	lot.NextStep = studio.WorkLot{Started: lot.Started, Reached: s.Reached}.Progress(r).NextStep
	item.FromHalfMade += good
	var left []need
	for _, n := range needs {
		if taken, _ := studio.First(able(n.claims), good); len(taken) > 0 && suits(n) {
			good -= studio.Sum(taken)
			lot.Due = min(lot.Due, n.due)
			n = c.give(n, &lot, item, taken)
		}
		if n.quantity > 0 {
			left = append(left, n)
		}
	}
	shares := studio.Spread(lot.Started, lot.For)
	c.reserve(s.ID, shares)
	rest := studio.Less(shares, s.Left.TakeReserved(shares))
	s.Left.Amount -= studio.Sum(rest)
	lot.LatestStart = lot.Due - c.room.Elapsed(r, lot.NextStep, lot.Started)
	c.inputs(r, lot.Mixes).explode(lot, service)
	c.add(item, lot)
	return left, true
}

// give meets claims of a need from a new lot, and returns what is left of it.
func (c *counter) give(n need, lot *studio.Lot, item *Item, taken []studio.Claim) need {
	for _, claim := range taken {
		lot.For = studio.Add(lot.For, claim)
	}
	c.serve(n, lot.ID, lot, item.Recipe, studio.Sum(taken))
	c.plain[lot.ID] += n.plainOf(studio.Sum(taken))
	return n.less(taken)
}

// plainOf is what of a quantity would be needed if nothing broke.
func (n need) plainOf(quantity int64) int64 { return n.plain * quantity / max(1, n.quantity) }

func (n need) less(taken []studio.Claim) need {
	n.claims = studio.Less(n.claims, taken)
	n.plain -= n.plainOf(studio.Sum(taken))
	n.quantity -= studio.Sum(taken)
	return n
}

// serve notes that a quantity from a lot, or shelf lot, goes to a need.
func (c *counter) serve(n need, from studio.ID, lot *studio.Lot, recipe studio.ID, quantity int64) {
	if n.lot != "" {
		c.result.Links = append(
			c.result.Links,
			studio.Link{From: from, To: n.lot, Step: n.step, Recipe: recipe, Quantity: quantity},
		)
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
