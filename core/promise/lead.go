package promise

import (
	"cmp"
	"slices"
	"strings"

	"bractum/core/plan"
	"bractum/core/scene"
	"bractum/core/studio"
)

// lead thinks of what could be tried so that an order is in time, by what it waits for.
type lead struct {
	q        *Question
	t        *trial
	order    *studio.Order
	calendar studio.Calendar
	until    studio.Minute // by which help is of use: when the order is to be ready
	waits    map[studio.ID]studio.Minute
	skills   []string // waited for, the longest first
}

// How many people are asked, other colours and orders moved, evenings and days off thought of.
const (
	mostColours  = 4
	mostPeople   = 4
	mostOthers   = 3
	mostEvenings = 5
	evening      = 2 * 60
	dayOff       = 4 * 60
	morning      = studio.TimeOfDay(9 * 60)
)

func newLead(q *Question, t *trial, account *plan.Explanation) (*lead, error) {
	calendar, err := studio.NewCalendar(t.doc.Epoch, t.doc.Zone)
	if err != nil {
		return nil, err
	}
	l := &lead{q: q, t: t, calendar: calendar, until: t.outcome.ReadyBy, waits: map[studio.ID]studio.Minute{}}
	for i := range t.doc.Orders {
		if t.doc.Orders[i].ID == q.Order {
			l.order = &t.doc.Orders[i]
		}
	}
	skilled := map[string]studio.Minute{}
	for _, c := range account.Orders {
		if c.Order != q.Order {
			continue
		}
		for _, k := range c.Links {
			if k.Of != "" {
				l.waits[k.Of] += k.Waited
			}
			if k.Cause == studio.CausePerson {
				for _, skill := range strings.Split(string(k.Of), ", ") {
					skilled[skill] += k.Waited
				}
			}
		}
	}
	for _, s := range account.Scarce { // of what has no place at all as well
		l.waits[s.ID] += max(s.Waited, studio.Minute(s.Stops))
	}
	for skill := range skilled {
		l.skills = append(l.skills, skill)
	}
	slices.SortFunc(l.skills, func(a, b string) int {
		return cmp.Or(cmp.Compare(skilled[b], skilled[a]), cmp.Compare(a, b))
	})
	return l, nil
}

// tries are the changes that are tried, one by one.
func (l *lead) tries() (all [][]scene.If) {
	each := func(changes []scene.If) {
		for _, c := range changes {
			all = append(all, []scene.If{c})
		}
	}
	each(l.atTheDesk())
	short := l.short()
	if each(short); len(short) > 1 {
		all = append(all, short)
	}
	each(l.otherwise())
	each(l.mixed())
	each(l.people())
	each(l.things())
	each(l.others())
	return all
}

// atTheDesk are fewer spares, and stock that is kept for orders that leave later.
func (l *lead) atTheDesk() (all []scene.If) {
	for _, share := range []int64{800, 500} {
		if l.order != nil && slices.ContainsFunc(l.order.Lines, func(line studio.OrderLine) bool {
			return int64(line.ServiceLevel) > share
		}) {
			all = append(all, scene.If{Kind: scene.Spares, Of: l.q.Order, Number: share})
		}
	}
	reserved := map[studio.ID]bool{}
	for i := range l.t.doc.Shelf {
		for _, c := range studio.OfOrders(l.t.doc.Shelf[i].Reserved) {
			reserved[c.Order] = true
		}
	}
	for _, o := range l.later() {
		if reserved[o.ID] {
			all = append(all, scene.If{Kind: scene.Freed, Of: o.ID})
		}
	}
	return all
}

// short is what has to be ordered, coming tomorrow: sooner, or from elsewhere.
func (l *lead) short() (all []scene.If) {
	short := map[studio.ID]bool{}
	for i := range l.t.made.Lots {
		for _, await := range l.t.made.Lots[i].Awaits {
			if material, ordered := studio.Ordered(await.Gate); ordered {
				short[material] = true
			}
		}
	}
	tomorrow := l.t.doc.Everyone(l.calendar)
	for i := range l.t.doc.Materials {
		m := &l.t.doc.Materials[i]
		if at, ok := tomorrow.Next(l.calendar.At(l.calendar.Date(l.t.doc.Now).Next(), morning)); ok && short[m.ID] {
			all = append(all, scene.If{Kind: scene.Arrives, Of: m.ID, Number: max(1, m.Pack) * 10,
				Spans: []studio.Span{{From: at, To: at + 1}}})
		}
	}
	return all
}

// otherwise are the other schools of the techniques of its flowers: runs for phases, another glue.
func (l *lead) otherwise() (all []scene.If) {
	if l.order == nil {
		return nil
	}
	book := studio.NewBook(l.t.doc)
	for _, line := range l.order.Lines {
		r := book.Recipe(line.Recipe)
		if r == nil || strings.Contains(line.Variant, ": ") {
			continue
		}
		for _, technique := range r.Techniques {
			for _, school := range technique.Schools {
				all = append(all, scene.If{Kind: scene.Otherwise, Of: l.q.Order, Line: line.ID,
					Variant: studio.Otherwise(line.Variant, technique.Question, school.Name)})
			}
		}
	}
	return all
}

// mixed are colours of its lines that lie mixed already and last until the order is ready, where its own have to be
// mixed: nothing waits for a mixing to rest then.
func (l *lead) mixed() (all []scene.If) {
	if l.order == nil {
		return nil
	}
	book := studio.NewBook(l.t.doc)
	ready := map[studio.ID]bool{}
	for _, s := range l.t.doc.Shelf {
		if r := book.Recipe(s.Recipe); r != nil && r.Kind == studio.KindMix && s.Amount > 0 && len(s.Reserved) == 0 &&
			(s.UseBy == nil || *s.UseBy > l.until) {
			ready[s.Recipe] = true
		}
	}
	lies := func(line studio.OrderLine, c studio.Colourway) bool {
		mixes, missing := book.Resolve(line.Made(), c.Slots)
		for _, mix := range mixes {
			if !ready[mix] {
				return false
			}
		}
		return len(missing) == 0 && len(mixes) > 0
	}
	for _, line := range l.order.Lines {
		others := []scene.If{}
		for _, c := range l.t.doc.Colourways {
			switch own := c.ID == line.Colourway; {
			case !lies(line, c):
			case own: // its own lies mixed too
				others = nil
			case others != nil:
				others = append(others, scene.If{Kind: scene.Recolour, Of: l.q.Order, Line: line.ID, Colourway: c.ID})
			}
		}
		all = append(all, others...)
	}
	return all[:min(len(all), mostColours)]
}

// people are those who can do what is waited for, or who work for it: staying this evening, or some evenings, or
// coming on a day off; and a helper for a day.
func (l *lead) people() (all []scene.If) {
	asked := []*studio.Person{}
	for i := range l.t.doc.People {
		p := &l.t.doc.People[i]
		can := slices.ContainsFunc(l.skills, func(skill string) bool { return p.Pace(skill) > 0 })
		if !p.OutOfUse && (can || len(l.skills) == 0 && l.waits[p.ID] > 0) {
			asked = append(asked, p)
		}
	}
	slices.SortStableFunc(asked, func(a, b *studio.Person) int {
		if len(l.skills) == 0 {
			return 0
		}
		return cmp.Compare(b.Pace(l.skills[0]), a.Pace(l.skills[0]))
	})
	for _, p := range asked[:min(len(asked), mostPeople)] {
		evenings, off := l.besides(p)
		if len(evenings) > 0 {
			all = append(all, scene.If{Kind: scene.Stays, Of: p.ID, Spans: evenings[:1]})
		}
		if len(evenings) > 1 {
			all = append(all, scene.If{Kind: scene.Stays, Of: p.ID, Spans: evenings})
		}
		if len(off) > 0 {
			all = append(all, scene.If{Kind: scene.Stays, Of: p.ID, Spans: off[:1]})
		}
	}
	everyone := l.t.doc.Everyone(l.calendar)
	if at, ok := everyone.Next(l.calendar.At(l.calendar.Date(l.t.doc.Now).Next(), morning)); ok && at+480 <= l.until &&
		len(l.skills) > 0 {
		all = append(all, scene.If{Kind: scene.Helps, Name: "A helper", Skills: l.skills[:1], Number: int64(l.rate()),
			Spans: []studio.Span{{From: at, To: at + 480}}})
	}
	return all
}

// besides are the two hours after somebody's days, and four hours of mornings on which they have none, until help is of
// no use any more.
func (l *lead) besides(p *studio.Person) (evenings, off []studio.Span) {
	from := l.t.doc.Now
	hours := studio.HoursOf(*p, l.calendar, from, l.until+1440)
	for day := l.calendar.Date(from); l.calendar.At(day, 0) < l.until; day = day.Next() {
		begins, ends := l.calendar.At(day, 0), l.calendar.At(day.Next(), 0)
		last := hours.LastBefore(ends)
		switch worked := hours.Worked(studio.Span{From: begins, To: ends}); {
		case worked > 0 && last > from && last+evening <= ends && last < l.until && len(evenings) < mostEvenings:
			evenings = append(evenings, studio.Span{From: last, To: last + evening})
		case worked == 0 && l.calendar.At(day, morning) > from && l.calendar.At(day, morning)+dayOff <= l.until:
			at := l.calendar.At(day, morning)
			off = append(off, studio.Span{From: at, To: at + dayOff})
		}
	}
	return evenings, off
}

// rate is what an hour costs at the most of those who can do what is waited for.
func (l *lead) rate() (most studio.Money) {
	for i := range l.t.doc.People {
		if p := &l.t.doc.People[i]; p.Pace(l.skills[0]) > 0 {
			most = max(most, p.Rate)
		}
	}
	return most
}

// things are one more of the places, tools and machines that are waited for.
func (l *lead) things() (all []scene.If) {
	for _, p := range l.t.doc.Places {
		if l.waits[p.ID] > 0 {
			all = append(all, scene.If{Kind: scene.Places, Of: p.ID, Number: 1},
				scene.If{Kind: scene.Places, Of: p.ID, Number: max(2, p.Slots)})
		}
	}
	for _, tool := range l.t.doc.Tools {
		if l.waits[tool.ID] > 0 {
			all = append(all, scene.If{Kind: scene.Tools, Of: tool.ID, Number: 1})
		}
	}
	for _, m := range l.t.doc.Machines {
		if l.waits[m.ID] > 0 {
			all = append(all, scene.If{Kind: scene.Machines, Of: m.ID, Number: max(1, m.Slots)})
		}
	}
	return all
}

// later are the open orders that leave after this one, the next ones first.
func (l *lead) later() (orders []studio.Order) {
	for _, o := range l.t.doc.Orders {
		if o.State == studio.OrderOpen && l.order != nil && o.ID != l.q.Order && o.Leaves.Compare(l.order.Leaves) > 0 {
			orders = append(orders, o)
		}
	}
	slices.SortStableFunc(orders, func(a, b studio.Order) int { return a.Leaves.Compare(b.Leaves) })
	return orders
}

// others are orders that would be late by it, or have little slack beside it, a day or three later; and half of the
// longest line of this one a day later.
func (l *lead) others() (all []scene.If) {
	rivals := l.q.others(l.t.made)
	slices.SortStableFunc(rivals, func(a, b Taken) int {
		return cmp.Or(cmp.Compare(b.harm(), a.harm()), cmp.Compare(b.lost(), a.lost()))
	})
	for _, r := range rivals[:min(len(rivals), mostOthers)] {
		for _, o := range l.t.doc.Orders {
			for _, days := range []studio.Minute{1, 3} {
				if o.ID == r.Order && (r.harm() > 0 || r.lost() > 0) {
					all = append(all, scene.If{Kind: scene.Moved, Of: o.ID,
						Leaves: l.calendar.Wall(l.calendar.Minute(o.Leaves) + days*1440)})
				}
			}
		}
	}
	if l.order == nil {
		return all
	}
	for _, days := range []studio.Minute{1, 3} {
		n := l.q.limiting(l.t, plan.Chain{}, l.order.Lines)
		if n < 0 {
			break
		}
		leaves := l.calendar.Wall(l.calendar.Minute(l.order.Leaves) + days*1440)
		owed := l.order.Lines[n].Owed()
		for _, part := range []int64{studio.CeilDiv(owed, 4), studio.CeilDiv(owed, 2), owed} {
			if part < owed || len(l.order.Lines) > 1 {
				all = append(all, scene.If{Kind: scene.Parted, Of: l.q.Order, Line: l.order.Lines[n].ID, Number: part,
					Leaves: leaves})
			}
		}
	}
	return all
}
