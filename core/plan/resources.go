package plan

import (
	"sort"

	"bractum/core/studio"
)

// occupied is a span of one person's time or of a place, and the task it is for.
type occupied struct {
	studio.Span
	task  studio.ID
	slots int64
}

// maker is a person's working time and what is already planned in it, by time.
type maker struct {
	person studio.Person
	hours  studio.Hours
	busy   []occupied
	load   studio.Minute
}

// slot is where a task fits into a maker's time.
type slot struct {
	maker      *maker
	start, end studio.Minute
	pauses     []studio.Span
	behind     studio.ID // the task that kept the maker busy, if any
}

// earliest finds the first place at or after from for work of a length: over
// pauses when it may pause, in one stretch otherwise.
func (m *maker) earliest(from, length studio.Minute, mayPause bool) (slot, bool) {
	s := slot{maker: m}
	for t := from; ; {
		start, ok := m.hours.Next(t)
		if !ok {
			return s, false
		}
		next := sort.Search(len(m.busy), func(i int) bool { return m.busy[i].To > start })
		if next < len(m.busy) && m.busy[next].From <= start {
			t, s.behind = m.busy[next].To, m.busy[next].task
			continue
		}
		end, pauses, ok := m.hours.Advance(start, length)
		if !ok {
			return s, false
		}
		if len(pauses) > 0 && !mayPause {
			t = pauses[0].To
			continue
		}
		if next < len(m.busy) && m.busy[next].From < end {
			t, s.behind = m.busy[next].To, m.busy[next].task
			continue
		}
		s.start, s.end, s.pauses = start, end, pauses
		return s, true
	}
}

func (m *maker) occupy(s slot, task studio.ID) {
	i := sort.Search(len(m.busy), func(i int) bool { return m.busy[i].From > s.start })
	m.busy = append(m.busy, occupied{})
	copy(m.busy[i+1:], m.busy[i:])
	m.busy[i] = occupied{studio.Span{From: s.start, To: s.end}, task, 1}
	m.load += m.hours.Worked(studio.Span{From: s.start, To: s.end})
}

// room is a kind of place and what is held in it.
type room struct {
	place studio.Place
	held  []occupied
}

// blocked says whether so many slots are not free over a whole span, when the
// first of what stands in the way is freed, and whose that is.
func (r *room) blocked(span studio.Span, slots int64) (studio.Minute, studio.ID, bool) {
	type change struct {
		at    studio.Minute
		slots int64
	}
	var changes []change
	var first *occupied
	for i := range r.held {
		h := &r.held[i]
		if h.From < span.To && span.From < h.To {
			changes = append(changes, change{max(h.From, span.From), h.slots}, change{min(h.To, span.To), -h.slots})
			if first == nil || h.To < first.To {
				first = h
			}
		}
	}
	sort.Slice(changes, func(i, j int) bool {
		if changes[i].at != changes[j].at {
			return changes[i].at < changes[j].at
		}
		return changes[i].slots < changes[j].slots
	})
	used := slots
	for _, c := range changes {
		if used += c.slots; used > r.place.Slots && c.slots > 0 {
			return first.To, first.task, true
		}
	}
	return 0, "", false
}

func (r *room) hold(task studio.ID, h studio.Held) {
	r.held = append(r.held, occupied{studio.Span{From: h.From, To: h.To}, task, h.Slots})
}

// free takes back what a task holds, so that it can be held anew.
func (r *room) free(task studio.ID) {
	kept := r.held[:0]
	for _, h := range r.held {
		if h.task != task {
			kept = append(kept, h)
		}
	}
	r.held = kept
}
