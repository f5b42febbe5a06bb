// Package plan answers who does what when.
//
// A plan gives every step of every counted lot a start and an end: work steps a
// person who has the skill and the hours, waits the time that the drying clock
// asks for, holds their slots of a place. What cannot be placed is unplaced,
// with the reason, and so is what needs it. What has happened stays as it
// happened: a started task keeps its person and its remainder is planned from
// now.
//
// This planner is forward list scheduling (serial schedule generation): of the
// stretches of steps whose inputs are all placed, the one with the earliest
// latest start is placed next, as early as people and places allow, gaps
// between earlier placements included. It is a pure function of the document:
// the same document gives the same plan, to the byte.
package plan

import (
	"container/heap"
	"fmt"
	"slices"

	"bractum/core/count"
	"bractum/core/drying"
	"bractum/core/studio"
)

// Make plans the counted lots of a valid document from its moment now on.
func Make(doc *studio.Document, counted *count.Result) (*studio.Plan, error) {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return nil, err
	}
	p := &planner{doc: doc, book: studio.NewBook(doc), calendar: calendar, air: drying.NewRoom(doc, calendar),
		everyone: doc.Everyone(calendar), rooms: map[studio.ID]*room{}, lots: map[studio.ID]*lot{}, tasks: map[studio.ID]*studio.Task{}}
	for _, person := range doc.People {
		p.makers = append(p.makers, &maker{person: person, hours: studio.HoursOf(person, calendar, 0, doc.Horizon())})
	}
	for _, place := range doc.Places {
		p.rooms[place.ID] = &room{place: place}
	}
	p.plan = &studio.Plan{Format: studio.PlanFormat, Version: studio.Version, Now: doc.Now, Lots: counted.Lots,
		Links: counted.Links, Pegs: counted.Pegs, Tasks: []studio.Task{}, Unplaced: []studio.Unplaced{}, Orders: []studio.Outcome{}}
	p.prepare()
	p.run()
	p.outcomes()
	return p.plan, nil
}

type planner struct {
	doc      *studio.Document
	book     *studio.Book
	calendar studio.Calendar
	air      drying.Room
	everyone studio.Hours
	makers   []*maker
	rooms    map[studio.ID]*room
	lots     map[studio.ID]*lot
	order    []*lot
	tasks    map[studio.ID]*studio.Task
	queue    stretches
	plan     *studio.Plan
}

// lot is a lot while it is being planned.
type lot struct {
	*studio.Lot
	recipe *studio.Recipe
	work   *studio.WorkLot // what has happened to it, if anything
	tasks  []*studio.Task  // by step; nil until placed
	feeds  []*stretch      // stretches of other lots that wait for this one
	head   *stretch        // of what is still to be placed
	last   *stretch
	gone   bool // something of it is unplaced
}

// stretch is a run of steps of one lot that is placed at once: a step, the waits
// behind it, and everything until its holds end.
type stretch struct {
	lot         *lot
	first, past int // steps [first, past)
	latest      studio.Minute
	blockers    int
	next        *stretch
}

func (p *planner) prepare() {
	for i := range p.plan.Lots {
		l := &lot{Lot: &p.plan.Lots[i], recipe: p.book.Recipe(p.plan.Lots[i].Recipe)}
		l.tasks = make([]*studio.Task, len(l.recipe.Steps))
		p.lots[l.ID], p.order = l, append(p.order, l)
	}
	for i := range p.doc.Work {
		if l := p.lots[p.doc.Work[i].ID]; l != nil {
			l.work = &p.doc.Work[i]
			p.recall(l)
		}
	}
	for _, l := range p.order {
		p.cut(l)
	}
	for _, link := range p.plan.Links {
		from, to := p.lots[link.From], p.lots[link.To]
		if from == nil || from.last == nil {
			continue
		}
		_, step := to.recipe.Step(link.Step)
		for s := to.head; s != nil; s = s.next {
			if s.first <= step && step < s.past && (step > s.first || s.begun() == 0) {
				s.blockers++
				from.feeds = append(from.feeds, s)
			}
		}
	}
}

// firstStep is the index of the first step that has no task yet.
func (l *lot) firstStep() int {
	return slices.Index(append(slices.Clone(l.tasks), nil), nil)
}

// cut divides what is left of a lot's steps into stretches.
func (p *planner) cut(l *lot) {
	var before *stretch
	for first := l.firstStep(); first < len(l.recipe.Steps); {
		past := first + 1
		for i := 0; i < past; i++ {
			for _, h := range l.recipe.Steps[i].Holds {
				if _, until := l.recipe.Step(h.Until); until >= past {
					past = until + 1
				}
			}
		}
		for past < len(l.recipe.Steps) && l.recipe.Steps[past].Wait != nil {
			past++
		}
		s := &stretch{lot: l, first: first, past: past, latest: l.Due - p.air.Elapsed(l.recipe, first, l.Alive)}
		if before == nil {
			l.head = s
		} else {
			before.next = s
			s.blockers = 1
		}
		p.queue = append(p.queue, s)
		before, l.last = s, s
		first = past
	}
}

func (p *planner) run() {
	all := p.queue
	p.queue = nil
	for _, s := range all {
		if s.blockers == 0 {
			p.queue = append(p.queue, s)
		}
	}
	heap.Init(&p.queue)
	for p.queue.Len() > 0 {
		s := heap.Pop(&p.queue).(*stretch)
		if s.lot.gone {
			p.giveUp(s, studio.Unplaced{Reason: studio.AfterGone, Detail: fmt.Sprintf("an earlier step or an input of %q is unplaced", s.lot.recipe.Name)})
		} else {
			p.place(s)
		}
		p.unblock(s)
	}
	for _, l := range p.order {
		for _, t := range l.tasks {
			if t != nil {
				p.plan.Tasks = append(p.plan.Tasks, *t)
			}
		}
	}
}

func (p *planner) unblock(s *stretch) {
	release := func(next *stretch) {
		next.lot.gone = next.lot.gone || s.lot.gone
		if next.blockers--; next.blockers == 0 {
			heap.Push(&p.queue, next)
		}
	}
	if s.next != nil {
		release(s.next)
		return
	}
	for _, next := range s.lot.feeds {
		release(next)
	}
}

// giveUp marks the steps of a stretch unplaced, and with them its lot.
func (p *planner) giveUp(s *stretch, why studio.Unplaced) {
	s.lot.gone = true
	for i := s.first; i < s.past; i++ {
		why.Lot, why.Step = s.lot.ID, s.lot.recipe.Steps[i].Key
		why.Task = studio.TaskID(why.Lot, why.Step)
		p.plan.Unplaced = append(p.plan.Unplaced, why)
		why.Reason, why.Detail = studio.AfterGone, "an earlier step is unplaced"
	}
}

// place puts a stretch at the earliest time at which people and places allow it.
func (p *planner) place(s *stretch) {
	var from studio.Minute
	var pushed studio.ID
	for {
		tasks, why := p.attempt(s, from)
		if why != nil {
			p.giveUp(s, *why)
			return
		}
		holder, until := p.crowded(s, tasks)
		if holder == "" {
			if pushed != "" && tasks[0].Cause != studio.CausePerson {
				tasks[0].Cause, tasks[0].CausedBy = studio.CausePlace, pushed
			}
			p.commit(s, tasks)
			return
		}
		if until >= p.doc.Horizon() {
			p.giveUp(s, studio.Unplaced{Reason: studio.NoPlace, Detail: fmt.Sprintf("%q waits for a place that stays full", s.lot.recipe.Name)})
			return
		}
		from, pushed = max(until, tasks[0].Begin()+1), holder
	}
}

// attempt lays the steps of a stretch one after the other, the first not before
// from, without regard to places.
func (p *planner) attempt(s *stretch, from studio.Minute) ([]*studio.Task, *studio.Unplaced) {
	l := s.lot
	var tasks []*studio.Task
	var before *studio.Task
	if s.first > 0 {
		before = l.tasks[s.first-1]
	}
	for i := s.first; i < s.past; i++ {
		step := l.recipe.Steps[i]
		task := &studio.Task{ID: studio.TaskID(l.ID, step.Key), Lot: l.ID, Step: step.Key, State: studio.TaskPlanned, Pieces: l.recipe.Pieces(l.Alive)}
		ready, cause, by := p.ready(l, step, before)
		var why *studio.Unplaced
		if step.Wait != nil {
			why = p.layWait(task, step, before)
		} else {
			why = p.layWork(task, l, step, max(ready, from), ready, cause, by)
		}
		if why != nil {
			return nil, why
		}
		tasks, before = append(tasks, task), task
	}
	return tasks, nil
}

// ready is when a step could start for all that it needs: now, the step before,
// its inputs; and which of these came last.
func (p *planner) ready(l *lot, step studio.Step, before *studio.Task) (studio.Minute, studio.Cause, studio.ID) {
	ready, cause, by := p.doc.Now, studio.CauseNow, studio.ID("")
	if before != nil && before.End > ready {
		ready, cause, by = before.End, studio.CauseStep, before.ID
	}
	for _, link := range p.plan.Links {
		if link.To != l.ID || link.Step != step.Key {
			continue
		}
		if from := p.lots[link.From]; from != nil {
			if last := from.tasks[len(from.tasks)-1]; last != nil && last.End > ready {
				ready, cause, by = last.End, studio.CauseInput, last.ID
			}
		}
	}
	return ready, cause, by
}

func (p *planner) layWait(task *studio.Task, step studio.Step, before *studio.Task) *studio.Unplaced {
	end, ok := p.air.End(*step.Wait, before.End)
	if !ok {
		return &studio.Unplaced{Reason: studio.Stalled, Detail: fmt.Sprintf("%q would not be over before the horizon in the expected air", step.Name)}
	}
	task.Start, task.End, task.Cause, task.CausedBy = before.End, end, studio.CauseStep, before.ID
	if end <= p.doc.Now {
		task.State = studio.TaskDone
	}
	return nil
}

func (p *planner) layWork(task *studio.Task, l *lot, step studio.Step, from, ready studio.Minute, cause studio.Cause, by studio.ID) *studio.Unplaced {
	setup, keeper := step.Work.Setup, studio.ID("")
	if l.work != nil {
		if record := l.work.Record(step.Key); record != nil {
			setup, keeper = 0, record.Person
			task.State, task.Start, task.Pieces = record.State, record.Start, l.recipe.Pieces(l.work.Entering(step.Key)-record.Counted())
		}
	}
	var best *slot
	skilled := false
	for _, m := range p.makers {
		pace := m.person.Pace(step.Work.Skill)
		if keeper != "" && m.person.ID != keeper {
			continue
		}
		if pace == 0 {
			if keeper == "" {
				continue
			}
			pace = 100
		}
		skilled = true
		length := max(1, studio.WorkMinutes(setup, step.Work.PerPiece, task.Pieces, pace))
		s, ok := m.earliest(from, length, step.Work.MayPause || task.State == studio.TaskStarted)
		if ok && (best == nil || s.end < best.end || s.end == best.end && m.load < best.maker.load) {
			best = &s
		}
	}
	if !skilled {
		return &studio.Unplaced{Reason: studio.NoSkill, Detail: fmt.Sprintf("%q needs somebody for %s", step.Name, step.Work.Skill)}
	}
	if best == nil {
		return &studio.Unplaced{Reason: studio.NoHours, Detail: fmt.Sprintf("%q of %d pieces finds no time", step.Name, task.Pieces)}
	}
	task.Person, task.End, task.Pauses = best.maker.person.ID, best.end, best.pauses
	task.Cause, task.CausedBy = cause, by
	if best.start > ready {
		task.Cause = studio.CauseHours
		if best.behind != "" {
			task.Cause, task.CausedBy = studio.CausePerson, best.behind
		}
	}
	if task.State == studio.TaskPlanned {
		task.Start = best.start
	} else {
		task.Resume = &best.start
	}
	return nil
}

// holding is a hold that ends within a stretch, and the index of the step that
// begins it.
type holding struct {
	step int
	task *studio.Task
	held studio.Held
}

func (p *planner) holds(s *stretch, tasks []*studio.Task) []holding {
	l := s.lot
	var out []holding
	for i := 0; i < s.past; i++ {
		for _, h := range l.recipe.Steps[i].Holds {
			_, until := l.recipe.Step(h.Until)
			if until < s.first {
				continue
			}
			task := l.tasks[i]
			if i >= s.first {
				task = tasks[i-s.first]
			}
			pieces := l.recipe.Pieces(l.Alive)
			if l.work != nil {
				pieces = l.recipe.Pieces(l.work.Entering(task.Step))
			}
			end := tasks[until-s.first].End
			to, ok := p.everyone.Next(end)
			if !ok {
				to = max(end, p.doc.Horizon())
			}
			out = append(out, holding{i, task, studio.Held{Place: h.Place, Slots: studio.CeilDiv(pieces, h.PerSlot), From: task.Start, To: to}})
		}
	}
	return out
}

// crowded finds the first hold of a stretch that would overfill a place: whose
// task is in the way, and until when. What has begun lies there already.
func (p *planner) crowded(s *stretch, tasks []*studio.Task) (studio.ID, studio.Minute) {
	for _, h := range p.holds(s, tasks) {
		if h.task.State != studio.TaskPlanned {
			continue
		}
		if until, task, full := p.rooms[h.held.Place].blocked(studio.Span{From: h.held.From, To: h.held.To}, h.held.Slots); full {
			return task, until
		}
	}
	return "", 0
}

func (p *planner) commit(s *stretch, tasks []*studio.Task) {
	holds := p.holds(s, tasks)
	for _, h := range holds {
		if h.task.State != studio.TaskPlanned { // it was held until the horizon, its end is known now
			p.rooms[h.held.Place].free(h.task.ID)
			h.task.Holds = nil
		}
	}
	for _, h := range holds {
		p.rooms[h.held.Place].hold(h.task.ID, h.held)
		h.task.Holds = append(h.task.Holds, h.held)
	}
	for i, task := range tasks {
		s.lot.tasks[s.first+i] = task
		p.tasks[task.ID] = task
		if task.Person != "" {
			m := p.makers[slices.IndexFunc(p.makers, func(m *maker) bool { return m.person.ID == task.Person })]
			m.occupy(slot{maker: m, start: task.Begin(), end: task.End}, task.ID)
		}
	}
}

// stretches is the heap of those that can be placed: earliest latest start first.
type stretches []*stretch

func (q stretches) Len() int { return len(q) }
func (q stretches) Less(i, j int) bool {
	a, b := q[i], q[j]
	if a.begun() != b.begun() {
		return a.begun() > b.begun()
	}
	if a.latest != b.latest {
		return a.latest < b.latest
	}
	if a.lot.ID != b.lot.ID {
		return a.lot.ID < b.lot.ID
	}
	return a.first < b.first
}
func (q stretches) Swap(i, j int) { q[i], q[j] = q[j], q[i] }
func (q *stretches) Push(x any)   { *q = append(*q, x.(*stretch)) }
func (q *stretches) Pop() any {
	old := *q
	s := old[len(old)-1]
	*q = old[:len(old)-1]
	return s
}

// begun puts a stretch whose first step somebody is at before one that was
// paused, and that before all others. Before even these come waits that run
// already: they take nobody's time, and what they hold is held.
func (s *stretch) begun() int {
	if s.lot.work == nil {
		return 0
	}
	if s.lot.recipe.Steps[s.first].Wait != nil {
		return 3
	}
	switch record := s.lot.work.Record(s.lot.recipe.Steps[s.first].Key); {
	case record == nil:
		return 0
	case record.State == studio.TaskStarted:
		return 2
	default:
		return 1
	}
}
