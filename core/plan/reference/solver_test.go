package reference

import (
	"cmp"
	"fmt"
	"maps"
	"slices"

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
	s := &solver{
		doc:      doc,
		calendar: calendar,
		everyone: doc.Everyone(calendar),
		horizon:  doc.Horizon(),
		number:   map[studio.ID]int{},
		lateOnly: lateOnly,
		most:     most,
	}
	s.collect()
	for _, gone := range s.cuts() {
		n := node{
			gone:   gone,
			way:    make([]int, len(s.tasks)),
			lb:     make([]studio.Minute, len(s.tasks)),
			charge: make([]studio.Minute, len(s.tasks)),
			ranked: map[int]bool{},
			start:  make([]studio.Minute, len(s.tasks)),
			end:    make([]studio.Minute, len(s.tasks)),
		}
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
			if id := s.doc.Machines[m].ID; slices.Contains(t.Wait.Load.AnyOf, id) &&
				(t.Fact == nil || t.Fact.Machine == id) {
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
				ways = append(
					ways,
					way{
						person:   p,
						hours:    studio.Together(hours, extra),
						own:      hours,
						runs:     runs,
						tools:    chosen,
						overtime: true,
					},
				)
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
			if first := s.tasks[l.members[0]]; l.machine == choice.machine &&
				first.Wait.Load.Setting == t.Wait.Load.Setting &&
				(t.Fact == nil) == (first.Fact == nil) &&
				(t.Fact == nil || t.Fact.Start == first.Fact.Start) {
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
		return cmp.Or(
			cmp.Compare(s.tasks[a].Fact.Start, s.tasks[b].Fact.Start),
			cmp.Compare(s.tasks[a].ID, s.tasks[b].ID),
		)
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
