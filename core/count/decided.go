package count

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// fromDecided meets needs from the lots that the lead has decided on, in the order of
// their number, and makes those lots as she wants them, whatever is needed. Where that
// goes against what would be counted, it says so.
func (c *counter) fromDecided(item *Item, r *studio.Recipe, needs []need) []need {
	slices.SortFunc(item.decided, func(a, b *studio.DecidedLot) int { return cmp.Compare(a.Ordinal, b.Ordinal) })
	var lots []*coming
	for _, d := range item.decided {
		begun := studio.CeilDiv(d.Started, r.Unit()) * r.Unit() // 0 where the spares say
		l := &coming{left: studio.Supply{Amount: d.Need}}
		if begun > 0 {
			l.left.Amount = min(d.Need, begun)
		}
		l.Lot = studio.Lot{
			ID:      studio.LotID(item.Key, d.Ordinal),
			Key:     item.Key,
			Recipe:  d.Recipe,
			Variant: d.Variant,
			Mixes:   item.Mixes,
			Ordinal: d.Ordinal,
			Decided: true,
			Run:     c.batchOf(item, r).Run,
			Started: begun,
			Due:     c.doc.Horizon(),
			Pegs:    []studio.Peg{},
		}
		lots = append(lots, l)
	}
	needs, item.Decided = c.fromComing(item, needs, lots)
	for i, l := range lots {
		c.decide(item, r, l, item.decided[i])
	}
	return needs
}

// decide begins a decided lot with as many as the lead said, else with the spares of the
// recipe on what it is to yield.
func (c *counter) decide(item *Item, r *studio.Recipe, l *coming, d *studio.DecidedLot) {
	if l.service == 0 {
		l.service = ServiceOfLot(c.doc.Settings.DefaultServiceLevel, 1)
	}
	by := c.toStart(item, r, d.Need, 0, c.starting(item, r, d.Need, l.lost, l.service, l.Due))
	last := &item.Workings[len(item.Workings)-1]
	last.Lots = append(last.Lots, l.ID)
	note := func(code NoteCode, with studio.With) {
		with["of"] = r.Name
		c.note(code, item.Recipe, ordersOf(l.For), with)
	}
	if l.Started == 0 {
		l.Started = by
	} else {
		if l.Started < by {
			note(StartsFewer, studio.With{"started": d.Started, "usual": by, "need": d.Need})
		}
		last.Inputs = append(last.Inputs, figure(r, "decided-on", l.Started))
		last.Result = figure(r, "to-start", l.Started)
	}
	if most := c.mostPerLot(item, r); most > 0 && l.Started > most {
		note(MoreThanALot, studio.With{"started": l.Started, "most": most})
	}
	if extra := l.left.Amount; extra > 0 {
		note(MoreThanNeeded, studio.With{"extra": extra})
	}
	if d.Due != nil {
		if *d.Due > l.Due && len(l.For) > 0 {
			note(LaterThanNeeded, studio.With{})
		}
		l.Due = min(*d.Due, c.doc.Horizon())
	}
	yields := min(d.Need, l.Started)
	l.For = studio.Add(l.For, studio.Claim{Quantity: yields - l.Need})
	l.Need, l.Alive = yields, l.Started
	item.Spare += l.Started - l.Need
	item.Started += l.Started
	l.LatestStart = l.Due - c.room.Elapsed(r, 0, l.Started)
	c.inputs(r, l.Lot.Mixes).explode(l.Lot, l.service)
	c.add(item, l.Lot)
}

// note says something about the count.
func (c *counter) note(code NoteCode, recipe studio.ID, orders []studio.ID, with studio.With) {
	c.result.Notes = append(
		c.result.Notes,
		Note{Code: code, Recipe: recipe, Orders: append([]studio.ID{}, orders...), With: with},
	)
}
