package reference

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"bractum/core/studio"
)

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
				use["place "+string(h.Place)] = append(
					use["place "+string(h.Place)],
					span{studio.Span{From: start, To: to}, i, h.Slots},
				)
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
		use[m], limit[m] = append(
			use[m],
			span{studio.Span{From: start, To: s.emptied(start + length)}, l.members[0], 1},
		), 1
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
