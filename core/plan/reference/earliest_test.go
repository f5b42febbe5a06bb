package reference

import (
	"slices"

	"bractum/core/studio"
)

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
			if k.Most != nil && n.start[i] > n.end[from]+k.Most.Minutes &&
				!s.raise(n, from, n.start[i]-k.Most.Minutes, changed) {
				return false
			}
		}
		if t.Wait != nil && t.Wait.Load == nil && n.start[i] > n.end[t.prev] &&
			!s.raise(n, t.prev, n.start[i], changed) {
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
		if l := &n.loads[g]; l.members[0] == i && l.loader >= 0 && n.start[i] > n.end[l.loader] &&
			!s.raise(n, l.loader, n.start[i], changed) {
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
