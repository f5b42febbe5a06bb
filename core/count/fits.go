package count

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// inOneGo says what would take longer than a maker's day has, if anything would: pieces that
// wait no longer than a night are taken up on the day on which they were begun.
func (t *trial) inOneGo(instance *studio.Instance) *Limit {
	if t.sizes.longest == 0 {
		return nil
	}
	const day = 24 * 60
	type span struct {
		from, to     studio.ID
		start, until studio.Minute
	}
	var spans []span
	for _, lag := range instance.Links {
		if most, _ := t.room.Opening(lag).Longest(); lag.Each && most < day-t.sizes.longest {
			spans = append(spans, span{lag.From, lag.To, t.passed[lag.From].Start, t.ends[lag.To]})
		}
	}
	slices.SortStableFunc(spans, func(a, b span) int { return cmp.Compare(a.start, b.start) })
	last := t.sizes.longest * (spareWindow - 1) / spareWindow
	var one span
	for _, s := range spans {
		switch {
		case s.start >= one.until:
			one = s
		case s.until > one.until:
			one.to, one.until = s.to, s.until
		}
		if takes := one.until - one.start; takes > last {
			return &Limit{
				From:   t.named(one.from),
				To:     t.named(one.to),
				Waits:  takes,
				Last:   t.sizes.longest,
				AtOnce: true,
			}
		}
	}
	return nil
}

// longestDay is how long the longest day of a maker of a studio is, without breaks.
func longestDay(people []studio.Person) (longest studio.Minute) {
	for i := range people {
		p := &people[i]
		if p.OutOfUse {
			continue
		}
		days := map[studio.Weekday]studio.Minute{}
		for _, h := range p.Hours {
			days[h.Day] += studio.Minute(h.To - h.From)
			for _, b := range p.Breaks {
				days[h.Day] -= studio.Minute(max(0, min(h.To, b.To)-max(h.From, b.From)))
			}
			longest = max(longest, days[h.Day])
		}
		for _, s := range p.Shifts {
			longest = max(longest, s.To-s.From)
		}
	}
	return longest
}

// fits says what would have no room, if anything had not: a lot by itself, or what lies in a
// place at one time.
func (t *trial) fits(instance *studio.Instance) *Limit {
	for _, l := range t.lots {
		r := t.book.Of(l.Made())
		if room := roomPerLot(t.doc, r); room > 0 && l.Started > room {
			return &Limit{From: r.Name, Pieces: l.Started, Fit: room}
		}
	}
	lying := map[studio.ID][]change{} // by place
	for i := range instance.Lots {
		for _, a := range instance.Lots[i].Tasks {
			for _, h := range a.Holds {
				until := t.ends[a.ID]
				for _, task := range h.Until {
					until = max(until, t.ends[task])
				}
				lying[h.Place] = append(
					lying[h.Place],
					change{t.passed[a.ID].Start, h.Slots, a.ID},
					change{until, -h.Slots, a.ID},
				)
			}
		}
	}
	for _, p := range t.doc.Places {
		changes := lying[p.ID]
		slices.SortFunc(
			changes,
			func(x, y change) int { return cmp.Or(cmp.Compare(x.at, y.at), cmp.Compare(x.slots, y.slots)) },
		)
		var taken int64
		for _, c := range changes {
			if taken += c.slots; taken > p.Slots {
				return &Limit{From: t.named(c.task), To: p.Name, Pieces: taken, Fit: p.Slots}
			}
		}
	}
	return nil
}

// change is when a task takes slots of a place, or gives them back.
type change struct {
	at    studio.Minute
	slots int64
	task  studio.ID
}
