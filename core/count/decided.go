package count

import (
	"cmp"
	"fmt"
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
	by := c.toStart(item, r, d.Need, 0, l.service)
	last := &item.Workings[len(item.Workings)-1]
	last.Lots = append(last.Lots, l.ID)
	note := func(rule, format string, args ...any) {
		c.note(rule, item.Recipe, ordersOf(l.For), format, args...)
	}
	if l.Started == 0 {
		l.Started = by
	} else {
		if l.Started < by {
			note("starts fewer", "%q: a lot of %d is decided on; %d would be begun so that %d come out good often enough", r.Name, d.Started, by, d.Need)
		}
		last.Inputs = append(last.Inputs, figure(r, "decided on", l.Started))
		last.Result = figure(r, "to start", l.Started)
	}
	if most := c.mostPerLot(r); most > 0 && l.Started > most {
		note("more than go into one lot", "%q: a lot of %d is decided on; %d go into one lot", r.Name, l.Started, most)
	}
	if extra := l.left.Amount; extra > 0 {
		note(
			"more than is needed",
			"%q: a lot is decided on that yields %d more than is needed; they go to the shelf",
			r.Name,
			extra,
		)
	}
	if d.Due != nil {
		if *d.Due > l.Due && len(l.For) > 0 {
			note("later than needed", "%q: a lot is moved to later than it is needed", r.Name)
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
func (c *counter) note(rule string, recipe studio.ID, orders []studio.ID, format string, args ...any) {
	c.result.Notes = append(
		c.result.Notes,
		Note{rule, recipe, append([]studio.ID{}, orders...), fmt.Sprintf(format, args...)},
	)
}
