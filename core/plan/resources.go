package plan

import (
	"slices"
	"sort"

	"bractum/core/studio"
)

// profile is how much of a kind of place or tool is taken over time: from each of its
// levels on, until the next. Before the first nothing is.
type profile struct {
	most   int64
	levels []level
}

type level struct {
	from studio.Minute
	used int64
}

// after is the index of the first level that begins after a minute.
func (p *profile) after(m studio.Minute) int {
	return sort.Search(len(p.levels), func(i int) bool { return p.levels[i].from > m })
}

// add takes so much more over a span, or less.
func (p *profile) add(span studio.Span, amount int64) {
	if span.From >= span.To || amount == 0 {
		return
	}
	first := p.edge(span.From)
	last := p.edge(span.To)
	for i := first; i < last; i++ {
		p.levels[i].used += amount
	}
	p.merge(last)
	p.merge(first)
}

// edge has a level begin at a minute.
func (p *profile) edge(m studio.Minute) int {
	i := p.after(m)
	if i > 0 && p.levels[i-1].from == m {
		return i - 1
	}
	var used int64
	if i > 0 {
		used = p.levels[i-1].used
	}
	p.levels = slices.Insert(p.levels, i, level{from: m, used: used})
	return i
}

// merge drops a level that is as high as the one before.
func (p *profile) merge(i int) {
	var before int64
	if i > 0 {
		before = p.levels[i-1].used
	}
	if p.levels[i].used == before {
		p.levels = slices.Delete(p.levels, i, i+1)
	}
}

// blocked says whether so many are not free over a whole span; and until when, if the
// span begins no later than that and ends no earlier than it does.
func (p *profile) blocked(span studio.Span, amount int64) (until studio.Minute, full bool) {
	if amount > p.most {
		return 1 << 40, true
	}
	last := sort.Search(len(p.levels), func(i int) bool { return p.levels[i].from >= span.To })
	for i := last - 1; i >= 0; i-- {
		if p.levels[i].used+amount > p.most {
			if i+1 < len(p.levels) {
				return p.levels[i+1].from, true
			}
			return 1 << 40, true
		}
		if p.levels[i].from <= span.From {
			break
		}
	}
	return 0, false
}

// turn is a go at a task in a person's order of work, for the setups of its colours:
// one that was begun is a turn of its own, what is left of it another.
type turn struct {
	job, byName int
	start, end  studio.Minute
	setup       studio.Minute
}

// occupied is a span of one person's time and the job it is for.
type occupied struct {
	studio.Span
	job int
}

// maker is a person, and what is planned in their time: spans by time; what of their
// hours, and of hours and overtime together, is free; and turns by start, what is done
// included, as far as setups depend on them.
type maker struct {
	*studio.Person
	regular, longer *calendar // the same where no overtime is allowed
	busy            []occupied
	turns           []turn
	allTurns        bool // any work resets a setup
	load            studio.Minute
}

func newMaker(p *studio.Person, hours, longer studio.Hours, allTurns bool) *maker {
	m := &maker{Person: p, regular: newCalendar(hours), allTurns: allTurns}
	if m.longer = m.regular; !slices.Equal(hours, longer) {
		m.longer = newCalendar(longer)
	}
	return m
}

// calendar is working hours and what of them is free.
type calendar struct {
	studio.Hours
	free []gap
}

// gap is a span of free time within one stretch of the hours, by number.
type gap struct {
	studio.Span
	in int
}

func newCalendar(hours studio.Hours) *calendar {
	c := &calendar{Hours: hours, free: make([]gap, len(hours), 2*len(hours)+64)}
	for i, stretch := range hours {
		c.free[i] = gap{Span: stretch, in: i}
	}
	return c
}

// after is the index of the first gap that ends after a minute.
func (c *calendar) after(m studio.Minute) int {
	low, high := 0, len(c.free)
	for low < high {
		if mid := int(uint(low+high) / 2); c.free[mid].To > m {
			high = mid
		} else {
			low = mid + 1
		}
	}
	return low
}

// take makes a span of working time busy.
func (c *calendar) take(span studio.Span) {
	i := c.after(span.From)
	for i < len(c.free) && c.free[i].From < span.To {
		g := c.free[i]
		switch {
		case g.From < span.From && span.To < g.To:
			c.free[i].To = span.From
			c.free = slices.Insert(c.free, i+1, gap{Span: studio.Span{From: span.To, To: g.To}, in: g.in})
			return
		case g.From < span.From:
			c.free[i].To = span.From
			i++
		case span.To < g.To:
			c.free[i].From = span.To
			return
		default:
			c.free = slices.Delete(c.free, i, i+1)
		}
	}
}

// give makes a span free again as far as it is working time.
func (c *calendar) give(span studio.Span) {
	for h := c.At(span.From); h < len(c.Hours) && c.Hours[h].From < span.To; h++ {
		part := studio.Span{From: max(span.From, c.Hours[h].From), To: min(span.To, c.Hours[h].To)}
		i := c.after(part.From)
		before, after := i > 0 && c.free[i-1].To == part.From, i < len(c.free) && c.free[i].From == part.To
		switch {
		case before && after:
			c.free[i-1].To = c.free[i].To
			c.free = slices.Delete(c.free, i, i+1)
		case before:
			c.free[i-1].To = part.To
		case after:
			c.free[i].From = part.From
		default:
			c.free = slices.Insert(c.free, i, gap{Span: part, in: h})
		}
	}
}

// goesOn is true of a gap that lasts until its stretch ends.
func (c *calendar) goesOn(g gap) bool { return g.To == c.Hours[g.in].To }

// through is when work of some length begun in a gap is over that goes on after each pause in
// the hours; false where other work comes first, or the hours run out.
func (c *calendar) through(i int, start, length studio.Minute) (studio.Minute, bool) {
	for {
		g := c.free[i]
		if length <= g.To-start {
			return start + length, true
		}
		length -= g.To - start
		if i++; !c.goesOn(g) || i == len(c.free) || c.free[i].in != g.in+1 || c.free[i].From != c.Hours[g.in+1].From {
			return 0, false
		}
		start = c.free[i].From
	}
}

// holds is true where all working time of a span, which begins in a gap, is free.
func (c *calendar) holds(i int, span studio.Span) bool {
	_, free := c.through(i, span.From, c.Worked(span))
	return free
}

func (m *maker) occupy(j *job, t *spot) {
	if !j.Done() {
		i := m.busyAfter(t.start)
		m.busy = slices.Insert(m.busy, i, occupied{Span: studio.Span{From: t.start, To: t.end}, job: j.number})
		m.load += t.end - t.start
		span := studio.Span{From: t.start, To: t.end} // nothing comes between, pauses and all
		if m.regular.take(span); m.longer != m.regular {
			m.longer.take(span)
		}
	}
	m.turn(j, t.start, t.end, studio.Minute(t.setup))
}

// turn enters a turn of a person, if setups depend on it.
func (m *maker) turn(j *job, start, end, setup studio.Minute) {
	if j.family != nil || m.allTurns {
		m.turns = slices.Insert(
			m.turns,
			m.turnAt(j, start),
			turn{job: j.number, byName: j.byName, start: start, end: end, setup: setup},
		)
	}
}

func (m *maker) free(j *job, t *spot) {
	i := m.busyAfter(t.start)
	m.busy = slices.Delete(m.busy, i, i+1)
	m.load -= t.end - t.start
	span := studio.Span{From: t.start, To: t.end}
	if m.regular.give(span); m.longer != m.regular {
		m.longer.give(span)
	}
	if j.family != nil || m.allTurns {
		at := m.turnAt(j, t.start) - 1
		m.turns = slices.Delete(m.turns, at, at+1)
	}
}

// busyAfter is the index of the first span that ends after a minute.
func (m *maker) busyAfter(t studio.Minute) int {
	return sort.Search(len(m.busy), func(i int) bool { return m.busy[i].To > t })
}

// busyBetween is true of somebody who is busy at some minute of a span, overtime too.
func (m *maker) busyBetween(from, to studio.Minute) bool {
	i := m.busyAfter(from)
	return i < len(m.busy) && m.busy[i].From < to
}

// turnAt is where a task begun at a minute comes in the order of work.
func (m *maker) turnAt(j *job, start studio.Minute) int {
	return sort.Search(len(m.turns), func(i int) bool {
		u := &m.turns[i]
		return u.start > start || u.start == start && u.byName > j.byName
	})
}

// machine is a dehydrator or oven and its loads by time.
type machine struct {
	*studio.Machine
	loads []*load
}

type load struct {
	studio.Span
	closed  bool // it runs
	setting string
	slots   int64
	jobs    []*job
}

// joinable are the loads of a machine that a wait can still go into.
func (m *machine) joinable(ready, need studio.Minute, use *studio.MachineUse) []*load {
	var out []*load
	first := sort.Search(len(m.loads), func(i int) bool { return m.loads[i].From >= ready })
	for _, l := range m.loads[first:] {
		if !l.closed && l.setting == use.Setting && l.To-l.From >= need && l.slots+use.Slots <= m.Slots {
			out = append(out, l)
		}
	}
	return out
}

// put adds a wait to the load that begins at a minute, or to one of its own.
func (m *machine) put(j *job, span studio.Span) {
	use := j.Wait.Load
	i := sort.Search(len(m.loads), func(i int) bool { return m.loads[i].From >= span.From })
	if i == len(m.loads) || m.loads[i].From != span.From {
		m.loads = slices.Insert(m.loads, i, &load{Span: span, setting: use.Setting})
	}
	m.loads[i].jobs, m.loads[i].slots = append(m.loads[i].jobs, j), m.loads[i].slots+use.Slots
}

// free takes a wait out of the load that begins at a minute; an empty load is gone.
func (m *machine) free(j *job, from studio.Minute) {
	i := sort.Search(len(m.loads), func(i int) bool { return m.loads[i].From >= from })
	l := m.loads[i]
	l.jobs = slices.DeleteFunc(l.jobs, func(other *job) bool { return other == j })
	l.slots -= j.Wait.Load.Slots
	if len(l.jobs) == 0 {
		m.loads = slices.Delete(m.loads, i, i+1)
	}
}

// loadFrom is the load that a wait is in.
func (m *machine) loadFrom(from studio.Minute) *load {
	i := sort.Search(len(m.loads), func(i int) bool { return m.loads[i].From >= from })
	return m.loads[i]
}
