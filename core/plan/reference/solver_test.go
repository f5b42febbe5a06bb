package reference

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strings"

	"bractum/core/studio"
)

// solver finds a proven optimum of a direct document whose waits are in wall
// minutes: the best weighted lateness, overtime, setup and slacks, in this order,
// of all plans that hold. Tasks may stay unplaced. Nothing may be seen: it does not
// weigh disturbance.
//
// It decides, one by one, who does what in which hours, with which tools, how long
// waits last, which waits share a load, in which order somebody who changes colours
// works. For a set of decisions there is one plan that is earliest in every start,
// since each rule asks a start to be at or after something that moves later with
// other starts. Where that plan overfills something at a minute, any plan that does
// not begins one of those that are there later: these are the branches. No decision
// is followed whose earliest plan is no better than the best one found.
type solver struct {
	doc      *studio.Document
	calendar studio.Calendar
	everyone studio.Hours
	horizon  studio.Minute
	tasks    []*item
	number   map[studio.ID]int
	order    []int // of tasks, each after all that it needs
	best     *solution
	steps    int // decisions looked at
	most     int // after which nothing is proven
	lateOnly bool
}

// item is a task and the ways in which it may be done.
type item struct {
	*studio.Activity
	lot   studio.ID
	prev  int // in its lot, -1 for none
	since studio.Minute
	lies  bool // what it holds has lain there since
	ways  []way
	links []studio.Lag // into it
	out   []studio.Lag
}

// way is one way of doing a task.
type way struct {
	person   int
	overtime bool
	hours    studio.Hours
	own      studio.Hours // without overtime
	runs     []studio.Minute
	tools    []studio.ID
	length   studio.Minute // of a wait in the air
	machine  int
}

// node is a set of decisions, and the earliest plan that they leave.
type node struct {
	gone   []bool
	way    []int // -1 while it is open
	lb     []studio.Minute
	after  [][2]int // the second begins once the first has ended
	same   [][2]int // both on one day
	other  [][2]int // on different days
	charge []studio.Minute
	loads  []load
	ranked map[int]bool // people whose order of work is decided
	final  bool         // nothing is open any more
	start  []studio.Minute
	end    []studio.Minute
}

// load is a machine's waits that share it; loader is whose end begins it, -1 when
// anybody on shift does, -2 while that is open.
type load struct {
	machine int
	members []int
	loader  int
	lb      studio.Minute
}

type solution struct {
	objective studio.Objective
	node      node
}

const open = -1

// solve gives up after so many decisions; then proven is false of the solver.
func solve(doc *studio.Document, lateOnly bool, most int) *solver {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		panic(err)
	}
	s := &solver{doc: doc, calendar: calendar, everyone: doc.Everyone(calendar), horizon: doc.Horizon(), number: map[studio.ID]int{}, lateOnly: lateOnly, most: most}
	s.collect()
	for _, gone := range s.cuts() {
		n := node{gone: gone, way: make([]int, len(s.tasks)), lb: make([]studio.Minute, len(s.tasks)), charge: make([]studio.Minute, len(s.tasks)),
			ranked: map[int]bool{}, start: make([]studio.Minute, len(s.tasks)), end: make([]studio.Minute, len(s.tasks))}
		for i := range n.way {
			n.way[i] = open
		}
		s.decide(&n, 0)
	}
	return s
}

func (s *solver) collect() {
	for i := range s.doc.Direct.Lots {
		l := &s.doc.Direct.Lots[i]
		prev := -1
		for j := range l.Tasks {
			s.number[l.Tasks[j].ID] = len(s.tasks)
			since, lies := l.Lies(j)
			s.tasks = append(s.tasks, &item{Activity: &l.Tasks[j], lot: l.ID, prev: prev, since: since, lies: lies})
			prev = len(s.tasks) - 1
		}
	}
	for _, k := range s.doc.Direct.Links {
		from, to := s.tasks[s.number[k.From]], s.tasks[s.number[k.To]]
		to.links, from.out = append(to.links, k), append(from.out, k)
	}
	for _, t := range s.tasks {
		t.ways = s.waysOf(t)
	}
	placed := make([]bool, len(s.tasks))
	for len(s.order) < len(s.tasks) {
		for i, t := range s.tasks {
			ready := !placed[i] && (t.prev < 0 || placed[t.prev])
			for _, k := range t.links {
				ready = ready && placed[s.number[k.From]]
			}
			if ready {
				placed[i], s.order = true, append(s.order, i)
			}
		}
	}
}

func (s *solver) waysOf(t *item) []way {
	if t.Done() {
		return []way{{}}
	}
	if t.Wait != nil && t.Wait.Load != nil {
		var ways []way
		for m := range s.doc.Machines {
			if id := s.doc.Machines[m].ID; slices.Contains(t.Wait.Load.AnyOf, id) && (t.Fact == nil || t.Fact.Machine == id) {
				ways = append(ways, way{machine: m})
			}
		}
		return ways
	}
	if t.Wait != nil {
		ways := []way{{length: t.Wait.Least.Minutes}}
		if t.Wait.Wished != nil && t.Wait.Wished.Minutes > t.Wait.Least.Minutes {
			ways = append(ways, way{length: t.Wait.Wished.Minutes})
		}
		return ways
	}
	tools := [][]studio.ID{nil}
	for _, use := range t.Tools {
		var more [][]studio.ID
		for _, chosen := range tools {
			for _, kind := range use.AnyOf {
				more = append(more, append(slices.Clone(chosen), kind))
			}
		}
		tools = more
	}
	var ways []way
	for p := range s.doc.People {
		person := &s.doc.People[p]
		if !t.May(person, s.doc.Pinned(t.ID)) {
			continue
		}
		hours := studio.HoursOf(*person, s.calendar, 0, s.horizon)
		extra := studio.OvertimeOf(*person, s.calendar, 0, s.horizon)
		runs := t.Runs(person, 0)
		for _, chosen := range tools {
			ways = append(ways, way{person: p, hours: hours, own: hours, runs: runs, tools: chosen})
			if len(extra) > 0 {
				ways = append(ways, way{person: p, hours: studio.Together(hours, extra), own: hours, runs: runs, tools: chosen, overtime: true})
			}
		}
	}
	return ways
}

// cuts are the sets of tasks that may stay unplaced: with a task all after it and
// all it feeds, never what is done. Everything placed comes first.
func (s *solver) cuts() [][]bool {
	sets := [][]bool{make([]bool, len(s.tasks))}
	for _, i := range s.order {
		t := s.tasks[i]
		var more [][]bool
		for _, set := range sets {
			must := t.Fact == nil && t.prev >= 0 && set[t.prev]
			for _, k := range t.links {
				must = must || t.Fact == nil && set[s.number[k.From]]
			}
			if !must {
				more = append(more, set)
			}
			if must || t.Fact == nil || t.Wait == nil && t.Begun() {
				with := slices.Clone(set)
				with[i] = true
				more = append(more, with)
			}
		}
		sets = more
	}
	count := func(set []bool) (n int) {
		for _, gone := range set {
			if gone {
				n++
			}
		}
		return n
	}
	slices.SortStableFunc(sets, func(a, b []bool) int { return cmp.Compare(count(a), count(b)) })
	return sets
}

func (n *node) clone() *node {
	m := *n
	m.way, m.lb, m.charge = slices.Clone(n.way), slices.Clone(n.lb), slices.Clone(n.charge)
	m.after, m.same, m.other = slices.Clone(n.after), slices.Clone(n.same), slices.Clone(n.other)
	m.start, m.end, m.ranked = slices.Clone(n.start), slices.Clone(n.end), maps.Clone(n.ranked)
	m.loads = slices.Clone(n.loads)
	for i := range m.loads {
		m.loads[i].members = slices.Clone(m.loads[i].members)
	}
	return &m
}

// promising is true of decisions whose earliest plan could beat the best.
func (s *solver) promising(n *node) bool {
	s.steps++
	return s.proven() && s.earliest(n) && (s.best == nil || s.compare(s.least(n, false), s.best.objective) < 0)
}

func (s *solver) proven() bool { return s.steps <= s.most }

func (s *solver) compare(a, b studio.Objective) int {
	if s.lateOnly {
		return cmp.Compare(a.Lateness, b.Lateness)
	}
	return a.Compare(b)
}

// decide goes through the tasks in order, then the loads, then people's orders.
func (s *solver) decide(n *node, at int) {
	if !s.promising(n) {
		return
	}
	for at < len(s.order) && (n.gone[s.order[at]] || s.tasks[s.order[at]].Done()) {
		at++
	}
	if at == len(s.order) {
		s.attend(n, 0)
		return
	}
	i := s.order[at]
	t := s.tasks[i]
	for w, choice := range t.ways {
		next := n.clone()
		next.way[i] = w
		if t.Wait == nil || t.Wait.Load == nil {
			s.decide(next, at+1)
			continue
		}
		for g, l := range next.loads { // into a load that there is
			if first := s.tasks[l.members[0]]; l.machine == choice.machine && first.Wait.Load.Setting == t.Wait.Load.Setting &&
				(t.Fact == nil) == (first.Fact == nil) && (t.Fact == nil || t.Fact.Start == first.Fact.Start) {
				joined := next.clone()
				joined.loads[g].members = append(joined.loads[g].members, i)
				s.decide(joined, at+1)
			}
		}
		next.loads = append(next.loads, load{machine: choice.machine, members: []int{i}, loader: -2})
		s.decide(next, at+1)
	}
}

// attend decides who sets off each load: anybody on shift, or a member's loader as
// they end.
func (s *solver) attend(n *node, at int) {
	if !s.promising(n) {
		return
	}
	if at == len(n.loads) {
		s.rank(n)
		return
	}
	l := n.loads[at]
	var slots int64
	for _, i := range l.members {
		slots += s.tasks[i].Wait.Load.Slots
	}
	if s.tasks[l.members[0]].Fact == nil && slots > s.doc.Machines[l.machine].Slots {
		return
	}
	loaders := []int{-1}
	for _, i := range l.members {
		if s.tasks[i].Fact == nil {
			loaders = append(loaders, s.tasks[i].prev)
		}
	}
	for _, loader := range loaders {
		next := n.clone()
		next.loads[at].loader = loader
		s.attend(next, at+1)
	}
}

// rank decides the order of work of everybody who changes colours.
func (s *solver) rank(n *node) {
	for p := range s.doc.People {
		if n.ranked[p] {
			continue
		}
		var theirs []int
		colours := false
		for i, t := range s.tasks {
			if !n.gone[i] && t.Wait == nil && !t.Done() && t.ways[n.way[i]].person == p {
				theirs = append(theirs, i)
				colours = colours || t.Setup != nil
			}
		}
		if colours {
			s.sequence(n, p, theirs, nil)
			return
		}
	}
	next := n.clone()
	next.final = true
	s.search(next, map[string]bool{})
}

func (s *solver) sequence(n *node, p int, rest, done []int) {
	if !s.promising(n) {
		return
	}
	if len(rest) == 0 {
		next := n.clone()
		next.ranked[p] = true
		s.charge(next, p, done)
		return
	}
	for k, i := range rest {
		next := n.clone()
		if len(done) > 0 {
			next.after = append(next.after, [2]int{done[len(done)-1], i})
		}
		s.sequence(next, p, slices.Concat(rest[:k], rest[k+1:]), append(slices.Clone(done), i))
	}
}

// charge works out what each task of a person costs in colour setup, what happened
// coming first; whether two of a family that is reset at night stand on one day is
// decided as it comes.
func (s *solver) charge(n *node, p int, order []int) {
	person := &s.doc.People[p]
	var past []int
	for i, t := range s.tasks {
		if t.Fact != nil && t.Wait == nil && t.Fact.Person == person.ID {
			past = append(past, i)
		}
	}
	slices.SortFunc(past, func(a, b int) int {
		return cmp.Or(cmp.Compare(s.tasks[a].Fact.Start, s.tasks[b].Fact.Start), cmp.Compare(s.tasks[a].ID, s.tasks[b].ID))
	})
	all := slices.Concat(past, order)
	var walk func(n *node, at int)
	walk = func(n *node, at int) {
		for ; at < len(all); at++ {
			t := s.tasks[all[at]]
			if t.Setup == nil || t.Fact != nil {
				continue
			}
			family := s.doc.Families[slices.IndexFunc(s.doc.Families, func(f studio.Family) bool { return f.ID == t.Setup.Family })]
			last, between := -1, false
			for k := at - 1; k >= 0 && last < 0; k-- {
				if other := s.tasks[all[k]].Setup; other != nil && other.Family == family.ID {
					last = k
				} else {
					between = true
				}
			}
			from := person.Colours[family.ID]
			if last >= 0 {
				from = s.tasks[all[last]].Setup.Mix
			}
			switch {
			case last < 0 && from == "", family.Reset == studio.ResetOtherWork && between:
				n.charge[all[at]] = family.Cost("", t.Setup.Mix)
			case family.Reset == studio.ResetNight:
				before := -1 // now
				if last >= len(past) {
					before = all[last]
				} else if last >= 0 {
					before = -2 - all[last] // when that was begun, or done
				}
				other := n.clone()
				other.charge[all[at]] = family.Cost("", t.Setup.Mix)
				other.other = append(other.other, [2]int{before, all[at]})
				if s.promising(other) {
					walk(other, at+1)
				}
				n.charge[all[at]] = family.Cost(from, t.Setup.Mix)
				n.same = append(n.same, [2]int{before, all[at]})
			default:
				n.charge[all[at]] = family.Cost(from, t.Setup.Mix)
			}
		}
		if s.promising(n) {
			s.rank(n)
		}
	}
	walk(n, 0)
}

// search follows a set of decisions until nothing is overfilled.
func (s *solver) search(n *node, seen map[string]bool) {
	if !s.promising(n) {
		return
	}
	key := fmt.Sprint(n.start, n.lb, n.loads)
	if seen[key] {
		return
	}
	seen[key] = true
	if later := s.clash(n); later != nil {
		for _, l := range later {
			next := n.clone()
			if s.delay(next, l.task, l.to) {
				s.search(next, seen)
			}
		}
		return
	}
	if found := s.least(n, true); s.best == nil || s.compare(found, s.best.objective) < 0 {
		s.best = &solution{found, *n.clone()}
	}
	if s.lateOnly {
		return
	}
	for i, t := range s.tasks { // less overtime is to be had only by beginning what does it later
		if !n.gone[i] && t.Wait == nil && !t.Done() && s.overtime(n, i) > 0 {
			next := n.clone()
			next.lb[i] = next.start[i] + 1
			s.search(next, seen)
		}
	}
}

// midnight is the first minute of the day that holds a minute, and of the next.
func (s *solver) midnight(m studio.Minute) (begins, ends studio.Minute) {
	day := s.calendar.Date(m)
	return s.calendar.At(day, 0), s.calendar.At(day.Next(), 0)
}

// earliest works out the earliest plan of the decisions; false when there is none.
func (s *solver) earliest(n *node) bool {
	for changed := true; changed; {
		changed = false
		for _, i := range s.order {
			if n.gone[i] {
				continue
			}
			start, end, ok := s.lay(n, i)
			if !ok || end > s.horizon && !s.tasks[i].Done() {
				return false
			}
			changed = changed || start != n.start[i] || end != n.end[i]
			n.start[i], n.end[i] = start, end
		}
		if !changed && n.final { // as long as lengths are open, how much later is open too
			for _, i := range s.order {
				if !n.gone[i] && !s.pull(n, i, &changed) {
					return false
				}
			}
			for _, pair := range n.same {
				begins, _ := s.midnight(n.start[pair[1]])
				if pair[0] < 0 {
					if day, _ := s.midnight(s.last(n, pair[0])); day != begins {
						return false
					}
				} else if s.last(n, pair[0]) < begins && !s.raise(n, pair[0], begins+1, &changed) {
					return false
				}
			}
		}
	}
	return true
}

// last is the minute whose day counts for a colour: of a task that is planned its
// last, of what happened when it was begun or the last it was done in, or now.
func (s *solver) last(n *node, which int) studio.Minute {
	switch {
	case which == -1:
		return s.doc.Now
	case which >= 0:
		return max(n.start[which], n.end[which]-1)
	}
	if f := s.tasks[-2-which].Fact; f.State == studio.TaskDone {
		return max(f.Start, f.End-1)
	}
	return s.tasks[-2-which].Fact.Start
}

// from is the first minute at which a task may begin for all that it needs.
func (s *solver) from(n *node, i int) studio.Minute {
	t := s.tasks[i]
	from := n.lb[i]
	for _, pair := range n.after {
		if pair[1] == i {
			from = max(from, n.end[pair[0]])
		}
	}
	if t.Fact != nil {
		return max(from, s.doc.Now)
	}
	if t.Wait == nil || t.Wait.Load != nil {
		from = max(from, s.doc.Now)
	}
	if t.prev >= 0 {
		from = max(from, n.end[t.prev])
	}
	for _, k := range t.links {
		least := studio.Minute(0)
		if k.Least != nil {
			least = k.Least.Minutes
		}
		from = max(from, n.end[s.number[k.From]]+least)
	}
	for _, id := range t.Gates {
		for _, g := range s.doc.Gates {
			if g.ID == id && g.Opens != nil {
				from = max(from, *g.Opens)
			} else if g.ID == id {
				return s.horizon + 1
			}
		}
	}
	for _, pair := range n.other {
		if pair[1] == i {
			_, ends := s.midnight(s.last(n, pair[0]))
			from = max(from, ends)
		}
	}
	return from
}

func (s *solver) lay(n *node, i int) (start, end studio.Minute, ok bool) {
	t := s.tasks[i]
	switch {
	case t.Done():
		return t.Fact.Start, t.Fact.End, true
	case t.Wait == nil:
		from := s.from(n, i)
		if n.way[i] != open {
			return s.fit(n, i, t.ways[n.way[i]], from)
		}
		start, end = s.horizon+1, s.horizon+1
		for _, w := range t.ways {
			if b, e, ok := s.fit(n, i, w, from); ok {
				start, end = min(start, b), min(end, e)
			}
		}
		return start, end, end <= s.horizon
	case t.Wait.Load == nil:
		length := t.Wait.Least.Minutes
		if n.way[i] != open {
			length = t.ways[n.way[i]].length
		}
		start = max(n.end[t.prev], s.from(n, i))
		return start, start + length, true
	}
	if n.way[i] == open {
		start = s.from(n, i)
		if t.Fact != nil {
			start = t.Fact.Start
		}
		return start, start + t.Wait.Least.Minutes, true
	}
	g := slices.IndexFunc(n.loads, func(l load) bool { return slices.Contains(l.members, i) })
	start, length := s.together(n, g)
	return start, start + length, start <= s.horizon
}

// together is when a load begins and how long it lasts.
func (s *solver) together(n *node, g int) (start, length studio.Minute) {
	l := n.loads[g]
	start = l.lb
	for _, i := range l.members {
		if f := s.tasks[i].Fact; f != nil {
			start = f.Start
		} else {
			start = max(start, s.from(n, i))
		}
		length = max(length, s.tasks[i].Wait.Least.Minutes)
	}
	if l.loader == -1 && s.tasks[l.members[0]].Fact == nil {
		next, ok := s.everyone.Next(start)
		if !ok {
			return s.horizon + 1, length
		}
		start = next
	}
	return start, length
}

// fit is the first stretch at or after a minute into which work fits.
func (s *solver) fit(n *node, i int, w way, from studio.Minute) (start, end studio.Minute, ok bool) {
	t := s.tasks[i]
	pin := s.doc.Pinned(t.ID)
	runs := w.charged(n.charge[i])
	for start = from; ; start++ {
		next, ok := w.hours.Next(start)
		if !ok {
			return 0, 0, false
		}
		start = next
		if pin != nil && pin.Start != nil && t.Fact == nil {
			if start > *pin.Start {
				return 0, 0, false
			}
			if start < *pin.Start {
				start = *pin.Start - 1
				continue
			}
		}
		if end, _, ok = w.hours.Lay(start, runs, t.Pauses()); ok && s.short(n, t, end-start) {
			return start, end, true
		}
	}
}

// charged are the runs of a way with a colour setup in the first.
func (w way) charged(setup studio.Minute) []studio.Minute {
	if setup == 0 {
		return w.runs
	}
	runs := slices.Clone(w.runs)
	runs[0] += setup
	return runs
}

// short is true of a length that no upper limit out of a task forbids.
func (s *solver) short(n *node, t *item, length studio.Minute) bool {
	return t.Fact != nil || !slices.ContainsFunc(t.out, func(k studio.Lag) bool {
		to := s.number[k.To]
		return k.Most != nil && !n.gone[to] && s.tasks[to].Fact == nil && length > k.Most.Minutes
	})
}

// pull begins tasks later whose followers would come too late, or that would lie
// too long.
func (s *solver) pull(n *node, i int, changed *bool) bool {
	t := s.tasks[i]
	if t.Fact == nil {
		for _, k := range t.links {
			from := s.number[k.From]
			if k.Most != nil && n.start[i] > n.end[from]+k.Most.Minutes && !s.raise(n, from, n.start[i]-k.Most.Minutes, changed) {
				return false
			}
		}
		if t.Wait != nil && t.Wait.Load == nil && n.start[i] > n.end[t.prev] && !s.raise(n, t.prev, n.start[i], changed) {
			return false
		}
		for _, h := range t.Holds {
			p := s.doc.Places[slices.IndexFunc(s.doc.Places, func(p studio.Place) bool { return p.ID == h.Place })]
			end, known := s.heldUntil(n, i, h)
			if known && !t.lies && p.KeepsMinutes > 0 && end-n.start[i] > p.KeepsMinutes {
				*changed = true
				if !s.delay(n, i, end-p.KeepsMinutes) {
					return false
				}
			}
		}
	}
	for g := range n.loads {
		if l := &n.loads[g]; l.members[0] == i && l.loader >= 0 && n.start[i] > n.end[l.loader] && !s.raise(n, l.loader, n.start[i], changed) {
			return false
		}
	}
	return true
}

func (s *solver) heldUntil(n *node, i int, h studio.Occupation) (studio.Minute, bool) {
	end := n.end[i]
	for _, id := range h.Until {
		if n.gone[s.number[id]] {
			return 0, false
		}
		end = max(end, n.end[s.number[id]])
	}
	return end, true
}

// delay has a task begin no earlier than a minute.
func (s *solver) delay(n *node, i int, to studio.Minute) bool {
	t := s.tasks[i]
	switch {
	case to > s.horizon || t.Done() || t.Wait != nil && t.Fact != nil:
		return false
	case t.Wait != nil && t.Wait.Load == nil:
		changed := false
		return s.raise(n, t.prev, to, &changed)
	case t.Wait != nil && n.way[i] != open:
		g := slices.IndexFunc(n.loads, func(l load) bool { return slices.Contains(l.members, i) })
		n.loads[g].lb = max(n.loads[g].lb, to)
	default:
		n.lb[i] = max(n.lb[i], to)
	}
	return true
}

// raise has a task end no earlier than a minute.
func (s *solver) raise(n *node, i int, to studio.Minute, changed *bool) bool {
	t := s.tasks[i]
	if n.end[i] >= to {
		return true
	}
	*changed = true
	if t.Wait != nil {
		return s.delay(n, i, to-(n.end[i]-n.start[i]))
	}
	if t.Done() {
		return false
	}
	lb := n.lb[i]
	for n.lb[i] = max(lb, n.start[i]+1); ; n.lb[i]++ {
		_, end, ok := s.lay(n, i)
		if !ok || end > s.horizon {
			return false
		}
		if end >= to {
			return true
		}
	}
}

type later struct {
	task int
	to   studio.Minute
}

// span is when something is occupied by a task: so much of it.
type span struct {
	studio.Span
	task   int
	amount int64
}

// clash is what may be begun later where the earliest plan overfills something, nil
// when nothing is overfilled.
func (s *solver) clash(n *node) []later {
	use := map[string][]span{}
	limit := map[string]int64{}
	for i, t := range s.tasks {
		if n.gone[i] && !t.lies {
			continue
		}
		for _, h := range t.Holds {
			to := max(n.end[i], s.horizon)
			if end, known := s.heldUntil(n, i, h); known && !n.gone[i] {
				to = s.emptied(end)
			}
			start := n.start[i]
			if t.lies {
				start = t.since
			}
			if to > s.doc.Now {
				use["place "+string(h.Place)] = append(use["place "+string(h.Place)], span{studio.Span{From: start, To: to}, i, h.Slots})
			}
		}
		if t.Wait != nil || t.Done() || n.gone[i] {
			continue
		}
		w := t.ways[n.way[i]]
		who := "person " + string(s.doc.People[w.person].ID)
		use[who], limit[who] = append(use[who], span{studio.Span{From: n.start[i], To: n.end[i]}, i, 1}), 1
		for _, worked := range s.worked(n, i) {
			for k, tool := range w.tools {
				use["tool "+string(tool)] = append(use["tool "+string(tool)], span{worked, i, t.Tools[k].Number})
			}
		}
	}
	for g, l := range n.loads {
		start, length := s.together(n, g)
		m := fmt.Sprint("machine ", l.machine)
		use[m], limit[m] = append(use[m], span{studio.Span{From: start, To: s.emptied(start + length)}, l.members[0], 1}), 1
	}
	for _, p := range s.doc.Places {
		limit["place "+string(p.ID)] = p.Slots
	}
	for _, t := range s.doc.Tools {
		limit["tool "+string(t.ID)] = t.Number
	}
	for _, what := range slices.Sorted(maps.Keys(use)) {
		if there := s.overfull(what, use[what], limit[what]); there != nil {
			return s.branches(n, what, there)
		}
	}
	return nil
}

// overfull is what is there together at some minute and more than there is, nil if
// that never happens. A place that was too full before anything is planned is a fact.
func (s *solver) overfull(what string, all []span, most int64) []span {
	for _, first := range all {
		if strings.HasPrefix(what, "place") && s.tasks[first.task].lies {
			continue
		}
		var there []span
		var sum int64
		for _, other := range all {
			if other.From <= first.From && first.From < other.To {
				there, sum = append(there, other), sum+other.amount
			}
		}
		if sum > most {
			return there
		}
	}
	return nil
}

// branches: one of what is there begins after the last minute at which all of it is.
func (s *solver) branches(n *node, what string, there []span) []later {
	last := there[0].To
	for _, u := range there {
		last = min(last, u.To)
	}
	branches := []later{}
	tried := map[int]bool{}
	for _, u := range there {
		if tried[u.task] {
			continue
		}
		tried[u.task] = true
		to := last
		if t := s.tasks[u.task]; strings.HasPrefix(what, "tool") && t.Work[len(t.Work)-1].Run > 0 {
			to = n.start[u.task] + 1 // a pause between its runs may come to lie there
		}
		branches = append(branches, later{u.task, to})
	}
	return branches
}

func (s *solver) worked(n *node, i int) []studio.Span {
	t := s.tasks[i]
	w := t.ways[n.way[i]]
	_, pauses, _ := w.hours.Lay(n.start[i], w.charged(n.charge[i]), t.Pauses())
	var spans []studio.Span
	from := n.start[i]
	for _, p := range append(pauses, studio.Span{From: n.end[i], To: n.end[i]}) {
		spans = append(spans, studio.Span{From: from, To: p.From})
		from = p.To
	}
	return spans
}

func (s *solver) emptied(end studio.Minute) studio.Minute {
	if to, ok := s.everyone.Next(end); ok {
		return to
	}
	return max(end, s.horizon)
}

func (s *solver) overtime(n *node, i int) studio.Minute {
	t := s.tasks[i]
	w := t.ways[n.way[i]]
	if !w.overtime {
		return 0
	}
	var sum studio.Minute
	for _, span := range s.worked(n, i) {
		sum += span.To - span.From - w.own.Worked(span)
	}
	return sum
}

// least is the objective of the earliest plan. While decisions are open it is one
// that no plan of them beats: overtime may be saved by beginning later.
func (s *solver) least(n *node, whole bool) studio.Objective {
	o := studio.Objective{Slacks: []studio.Minute{}}
	gone := s.horizon + 1440
	for _, want := range s.doc.Direct.Orders {
		ready := want.Since
		for _, l := range s.doc.Direct.Lots {
			if !slices.Contains(want.Lots, l.ID) {
				continue
			}
			if last := s.number[l.Tasks[len(l.Tasks)-1].ID]; n.gone[last] {
				ready = max(ready, gone)
			} else {
				ready = max(ready, n.end[last])
			}
		}
		o.Lateness += want.Importance * int64(studio.CeilDiv(max(0, ready-want.ReadyBy), 15))
		o.Slacks = append(o.Slacks, min(want.ReadyBy-ready, studio.MostSlack))
	}
	slices.Sort(o.Slacks)
	for i, t := range s.tasks {
		o.Setup += n.charge[i]
		if whole && !n.gone[i] && t.Wait == nil && !t.Done() {
			o.Overtime += s.overtime(n, i)
		}
	}
	return o
}
