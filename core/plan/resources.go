package plan

import (
	"cmp"
	"slices"
	"sort"

	"bractum/core/studio"
)

// occupied is a span of one person's time, of a place or of a tool, the task it is
// for, and which of its holds.
type occupied struct {
	studio.Span
	task  studio.ID
	hold  int
	slots int64
}

// stock is a kind of place or tool, how many there are, and what is taken of it.
type stock struct {
	most  int64
	taken []occupied
}

func (s *stock) take(task studio.ID, hold int, span studio.Span, slots int64) {
	s.taken = append(s.taken, occupied{span, task, hold, slots})
}

// free takes back what a task has taken for one of its holds.
func (s *stock) free(task studio.ID, hold int) {
	s.taken = slices.DeleteFunc(s.taken, func(o occupied) bool { return o.task == task && o.hold == hold })
}

// blocked says whether so many are not free over a whole span, when the first of
// what stands in the way is freed, and whose that is.
func (s *stock) blocked(span studio.Span, slots int64) (studio.Minute, studio.ID, bool) {
	type change struct {
		at    studio.Minute
		slots int64
	}
	var changes []change
	var first *occupied
	for i := range s.taken {
		o := &s.taken[i]
		if o.From < span.To && span.From < o.To {
			changes = append(changes, change{max(o.From, span.From), o.slots}, change{min(o.To, span.To), -o.slots})
			if first == nil || o.To < first.To {
				first = o
			}
		}
	}
	if slots > s.most {
		return 1 << 40, "", true
	}
	slices.SortFunc(changes, func(a, b change) int { return cmp.Or(cmp.Compare(a.at, b.at), cmp.Compare(a.slots, b.slots)) })
	used := slots
	for _, c := range changes {
		if used += c.slots; used > s.most && c.slots > 0 {
			return first.To, first.task, true
		}
	}
	return 0, "", false
}

// turn is a go at a task in a person's order of work, for the setups of its colours:
// one that was begun is a turn of its own, what is left of it another.
type turn struct {
	job        *job
	start, end studio.Minute
	setup      studio.Minute
}

// maker is a person, and what is planned in their time: spans by time, and turns
// by start, what is done included.
type maker struct {
	*studio.Person
	hours, longer studio.Hours
	busy          []occupied
	turns         []turn
	load          studio.Minute
}

func (m *maker) occupy(j *job, t *studio.Task) {
	if !j.Done() {
		i := sort.Search(len(m.busy), func(i int) bool { return m.busy[i].From > t.Begin() })
		m.busy = slices.Insert(m.busy, i, occupied{studio.Span{From: t.Begin(), To: t.End}, t.ID, 0, 1})
		m.load += t.End - t.Begin()
	}
	m.turns = slices.Insert(m.turns, m.turnAt(j.ID, t.Begin()), turn{j, t.Begin(), t.End, t.Setup})
}

func (m *maker) free(t *studio.Task) {
	i := sort.Search(len(m.busy), func(i int) bool { return m.busy[i].From >= t.Begin() })
	for m.busy[i].task != t.ID {
		i++
	}
	m.busy = slices.Delete(m.busy, i, i+1)
	at := m.turnAt(t.ID, t.Begin()) - 1
	m.turns = slices.Delete(m.turns, at, at+1)
	m.load -= t.End - t.Begin()
}

// turnAt is where a task begun at a minute comes in the order of work.
func (m *maker) turnAt(task studio.ID, start studio.Minute) int {
	return sort.Search(len(m.turns), func(i int) bool {
		u := m.turns[i]
		return u.start > start || u.start == start && u.job.ID > task
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
	tasks   []studio.ID
}

// free takes a task out of its load; an empty load is gone.
func (m *machine) free(task studio.ID, slots int64) {
	m.loads = slices.DeleteFunc(m.loads, func(l *load) bool {
		if i := slices.Index(l.tasks, task); i >= 0 {
			l.tasks = slices.Delete(l.tasks, i, i+1)
			l.slots -= slots
		}
		return len(l.tasks) == 0
	})
}
