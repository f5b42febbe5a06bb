package reference

import (
	"slices"

	"bractum/core/plan/check"
	"bractum/core/studio"
)

// enumeration tries, for every task in turn, every person and every minute, every
// charge for its colour, and leaving it unplaced, and asks the checker which of all
// these plans hold. It knows no rule but that lots go in order, and how long work
// takes, which it counts off minute by minute.
type enumeration struct {
	doc     *studio.Document
	tasks   []*studio.Activity
	prev    map[studio.ID]studio.ID
	lot     map[studio.ID]studio.ID
	hours   map[studio.ID][2]studio.Hours
	charges []studio.Minute
	last    studio.Minute
	plan    studio.Plan
	tried   int
	best    *studio.Objective
}

func enumerate(doc *studio.Document, most int) (*enumeration, bool) {
	calendar, _ := studio.NewCalendar(doc.Epoch, doc.Zone)
	e := &enumeration{
		doc:     doc,
		prev:    map[studio.ID]studio.ID{},
		lot:     map[studio.ID]studio.ID{},
		hours:   map[studio.ID][2]studio.Hours{},
		charges: []studio.Minute{0},
		plan:    studio.Plan{Format: studio.PlanFormat, Version: studio.Version, Now: doc.Now},
	}
	for _, p := range doc.People {
		own := studio.HoursOf(p, calendar, 0, doc.Horizon())
		longer := studio.Together(own, studio.OvertimeOf(p, calendar, 0, doc.Horizon()))
		e.hours[p.ID], e.last = [2]studio.Hours{own, longer}, max(e.last, longer[len(longer)-1].To)
	}
	for _, f := range doc.Families {
		e.charges = append(e.charges, f.FullMinutes)
		for _, c := range f.Changes {
			e.charges = append(e.charges, c.Minutes)
		}
	}
	for i := range doc.Direct.Lots {
		l := &doc.Direct.Lots[i]
		for j := range l.Tasks {
			a := &l.Tasks[j]
			e.tasks, e.lot[a.ID] = append(e.tasks, a), l.ID
			if j > 0 {
				e.prev[a.ID] = l.Tasks[j-1].ID
			}
		}
	}
	ok := e.from(0, most)
	return e, ok
}

func (e *enumeration) placed(id studio.ID) *studio.Task {
	for i := range e.plan.Tasks {
		if e.plan.Tasks[i].ID == id {
			return &e.plan.Tasks[i]
		}
	}
	return nil
}

// from tries everything for the tasks from an index on; false when that is too much.
func (e *enumeration) from(at, most int) bool {
	if e.tried > most {
		return false
	}
	if at == len(e.tasks) {
		e.tried++
		e.ask()
		return true
	}
	a := e.tasks[at]
	before := e.placed(e.prev[a.ID])
	t := studio.Task{ID: a.ID, Lot: e.lot[a.ID], Step: a.Step, State: studio.TaskPlanned, Pieces: a.Pieces}
	ok := true
	try := func(t studio.Task) {
		e.plan.Tasks = append(e.plan.Tasks, t)
		ok = ok && e.from(at+1, most)
		e.plan.Tasks = e.plan.Tasks[:len(e.plan.Tasks)-1]
	}
	switch {
	case a.Done():
		t.State, t.Person, t.Start, t.End = studio.TaskDone, a.Fact.Person, a.Fact.Start, a.Fact.End
		try(t)
		return ok
	case before == nil && e.prev[a.ID] != "":
	case a.Wait == nil:
		e.work(a, t, before, try)
	case a.Wait.Load != nil:
		e.load(a, t, before, try)
	default:
		t.Start, t.End = before.End, before.End+a.Wait.Least.Minutes
		try(t)
		if w := a.Wait.Wished; w != nil && w.Minutes != a.Wait.Least.Minutes {
			t.End = t.Start + w.Minutes
			try(t)
		}
	}
	if a.Wait != nil && a.Fact != nil {
		return ok
	}
	e.plan.Unplaced = append(e.plan.Unplaced, studio.Unplaced{Task: a.ID})
	ok = ok && e.from(at+1, most)
	e.plan.Unplaced = e.plan.Unplaced[:len(e.plan.Unplaced)-1]
	return ok
}

func (e *enumeration) work(a *studio.Activity, t studio.Task, before *studio.Task, try func(studio.Task)) {
	charges := e.charges
	if a.Setup == nil || a.Fact != nil {
		charges = charges[:1]
	}
	for i := range e.doc.People {
		p := &e.doc.People[i]
		for _, overtime := range []bool{false, true} {
			hours := e.hours[p.ID][0]
			if overtime {
				hours = e.hours[p.ID][1]
			}
			if !a.May(p, e.doc.Pinned(a.ID)) || overtime && len(p.OvertimeShifts) == 0 {
				continue
			}
			for start := e.doc.Now; start < e.last; start++ {
				if before != nil && start < before.End && a.Fact == nil || !at(hours, start) {
					continue
				}
				for c, charge := range charges {
					if slices.Contains(charges[:c], charge) {
						continue
					}
					one := t
					one.Person, one.Start, one.Overtime, one.Setup = p.ID, start, overtime, charge
					if a.Fact != nil {
						one.State, one.Start, one.Resume = a.Fact.State, a.Fact.Start, &start
					}
					var laid bool
					if one.End, one.Pauses, laid = e.lay(a, p, hours, start, charge); !laid || e.busy(one) {
						continue
					}
					e.tools(a, one, try)
				}
			}
		}
	}
}

func at(hours studio.Hours, m studio.Minute) bool {
	return slices.ContainsFunc(hours, func(s studio.Span) bool { return s.From <= m && m < s.To })
}

func (e *enumeration) busy(t studio.Task) bool {
	return slices.ContainsFunc(e.plan.Tasks, func(o studio.Task) bool {
		return o.State != studio.TaskDone && o.Person == t.Person && o.Begin() < t.End && t.Begin() < o.End
	})
}

func (e *enumeration) tools(a *studio.Activity, t studio.Task, try func(studio.Task)) {
	if len(t.Tools) == len(a.Tools) {
		try(t)
		return
	}
	for _, kind := range a.Tools[len(t.Tools)].AnyOf {
		one := t
		one.Tools = append(slices.Clone(t.Tools), kind)
		e.tools(a, one, try)
	}
}

// lay counts work off minute by minute. A run of work that may not pause begins
// where all its minutes are working minutes.
func (e *enumeration) lay(
	a *studio.Activity,
	p *studio.Person,
	hours studio.Hours,
	start, charge studio.Minute,
) (end studio.Minute, pauses []studio.Span, ok bool) {
	var runs []studio.Minute
	hundredths := int64(0) // of a minute at the person's pace, so far
	for i, effort := range a.Work {
		pace := p.Pace(effort.Skill)
		if pace == 0 {
			pace = 100
		}
		hundredths += int64(effort.Minutes) * 100 * 100 / pace
		if i+1 == len(a.Work) || a.Work[i+1].Run != effort.Run {
			sum := studio.Minute((hundredths + 99) / 100)
			for _, r := range runs {
				sum -= r
			}
			runs = append(runs, sum)
		}
	}
	runs[0] += charge
	if a.MayPause || a.Begun() {
		var sum studio.Minute
		for _, r := range runs {
			sum += r
		}
		runs = slices.Repeat([]studio.Minute{1}, int(sum))
	}
	m := start
	for n, run := range runs {
		for from := m; ; m++ {
			fits := true
			for k := range run {
				fits = fits && at(hours, m+k)
			}
			if fits {
				if m > from {
					pauses = append(pauses, studio.Span{From: from, To: m})
				}
				break
			}
			if n == 0 || m > e.last {
				return 0, nil, false
			}
		}
		m += run
	}
	return m, pauses, true
}

func (e *enumeration) load(a *studio.Activity, t studio.Task, before *studio.Task, try func(studio.Task)) {
	lengths := map[studio.Minute]bool{}
	for _, b := range e.tasks {
		if b.Wait != nil && b.Wait.Load != nil && b.Wait.Least.Minutes >= a.Wait.Least.Minutes {
			lengths[b.Wait.Least.Minutes] = true
		}
	}
	for _, m := range a.Wait.Load.AnyOf {
		for start := max(e.doc.Now, before.End); start < e.last+10; start++ {
			one := t
			one.Load = &studio.Share{Machine: m, Setting: a.Wait.Load.Setting, Slots: a.Wait.Load.Slots}
			one.Start = start
			if a.Fact != nil {
				one.Start, one.State = a.Fact.Start, a.Fact.State
				if m != a.Fact.Machine || start > max(e.doc.Now, before.End) {
					continue
				}
			}
			for length := range lengths {
				one.End = one.Start + length
				try(one)
			}
		}
	}
}

// ask has the checker judge the plan, holds worked out as they must be.
func (e *enumeration) ask() {
	p := completed(e.doc, e.plan)
	report := check.Reckon(e.doc, &p)
	for _, b := range report.Breaches {
		if b.Code != check.OutcomeWrong && b.Code != check.ObjectiveWrong {
			return
		}
	}
	if e.best == nil || report.Objective.Compare(*e.best) < 0 {
		best := report.Objective
		e.best = &best
	}
}

// completed is a plan with the holds that its tasks have.
func completed(doc *studio.Document, p studio.Plan) studio.Plan {
	calendar, _ := studio.NewCalendar(doc.Epoch, doc.Zone)
	everyone := doc.Everyone(calendar)
	activities := doc.Direct.Activities()
	ends := map[studio.ID]studio.Minute{}
	for _, t := range p.Tasks {
		ends[t.ID] = t.End
	}
	p.Tasks = slices.Clone(p.Tasks)
	for i := range p.Tasks {
		t := &p.Tasks[i]
		t.Holds = nil
		for _, h := range activities[t.ID].Holds {
			held := studio.Held{Place: h.Place, Slots: h.Slots, From: t.Start, To: t.End}
			for _, until := range h.Until {
				end, known := ends[until]
				if !known {
					held.To = doc.Horizon()
					break
				}
				held.To = max(held.To, end)
			}
			to, ok := everyone.Next(held.To)
			if !ok {
				to = max(held.To, doc.Horizon())
			}
			held.To = to
			t.Holds = append(t.Holds, held)
		}
	}
	return p
}
