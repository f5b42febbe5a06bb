package plan

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"bractum/core/count"
	"bractum/core/studio"
)

// Explanation is why a plan is as it is: what sets each order's date, how full people and
// places are, and what is scarcest.
type Explanation struct {
	Orders []Chain    `json:"orders"`
	People []Load     `json:"people"`
	Places []Load     `json:"places"`
	Scarce []Scarcity `json:"scarce"`
}

// Chain is what an order waited for, from the last of its tasks back to where it begins.
type Chain struct {
	Order studio.ID `json:"order"`
	Spent Spent     `json:"spent"`
	Links []Link    `json:"links"`
}

// Spent is how the time of a chain goes by, from where it begins to its end: somebody works,
// pauses included; pieces dry or rest; or nothing of it goes on.
type Spent struct {
	Work studio.Minute `json:"workMinutes"`
	Lies studio.Minute `json:"liesMinutes"`
	Idle studio.Minute `json:"idleMinutes"`
}

// Link is a task of a chain. It waited so many minutes after all that it needs was there,
// for what the cause says; where it waited for nothing but what it needs, that is the
// next link.
type Link struct {
	Task     studio.ID     `json:"task"`
	Begin    studio.Minute `json:"begin"`
	End      studio.Minute `json:"end"`
	Cause    studio.Cause  `json:"cause"`
	CausedBy studio.ID     `json:"causedBy,omitempty"`
	Waited   studio.Minute `json:"waitedMinutes"`
	// Of is the place or tool that was full or in use, the skill of a person who was busy, or the
	// material that has to be ordered.
	Of studio.ID `json:"of,omitempty"`
}

// Load is how much of a person's hours, or of a place's slots around the clock, a plan
// takes up on a day, in minutes.
type Load struct {
	ID    studio.ID     `json:"id"`
	Day   studio.Date   `json:"day"`
	Taken studio.Minute `json:"takenMinutes"`
	There studio.Minute `json:"thereMinutes"`
}

// Scarcity is what one more of something would give: it was planned with it. Kind is
// place, tool, machine, skill, or material, of which all that is missing would be there.
type Scarcity struct {
	Kind string    `json:"kind"`
	ID   studio.ID `json:"id"`
	// More is how many more: of slots as many as a task that waited takes.
	More int64 `json:"more"`
	// Waited is for how long tasks of the chains waited for it.
	Waited studio.Minute `json:"waitedMinutes"`
	// Stops is how many tasks have no place at all for want of it.
	Stops int64 `json:"stops"`
	// Lateness and Slack are the plan's weighted lateness and its worst slack without and
	// with one more.
	Lateness     int64         `json:"weightedLateness"`
	WithLateness int64         `json:"withWeightedLateness"`
	Slack        studio.Minute `json:"worstSlackMinutes"`
	WithSlack    studio.Minute `json:"withWorstSlackMinutes"`
	// Moved are the orders that would be ready earlier.
	Moved []studio.ID `json:"moved"`
}

// mostScarce is how many things are tried.
const mostScarce = 3

// Explain explains a plan that was made of a document with these options. Each thing that is
// scarce costs about what a plan costs; tell, which may be nil, is told of how many are tried.
func Explain(doc *studio.Document, counted *count.Result, made *studio.Plan, options Options,
	tell func(done, of int)) (*Explanation, error) {
	e, err := Account(doc, made)
	if err != nil {
		return nil, err
	}
	if counted, err = count.As(doc, counted, made.Divided); err != nil {
		return nil, err
	}
	for i, most := range e.Scarce {
		if tell != nil {
			tell(i, len(e.Scarce))
		}
		tried, err := tryOneMore(doc, counted, made, options, most)
		if err != nil {
			return nil, err
		}
		e.Scarce[i] = tried
	}
	return e, nil
}

// Account is the explanation of a plan of a document without what one more of what is
// scarce would give: nothing is planned for it.
func Account(doc *studio.Document, made *studio.Plan) (*Explanation, error) {
	p, err := newProblem(doc, &count.Result{Lots: made.Lots, Links: made.Links, Pegs: made.Pegs})
	if err != nil {
		return nil, err
	}
	p.noteWhatWasTold(made)
	s := newSchedule(p)
	s.repairFrom(made)
	e := &Explanation{Orders: []Chain{}, People: []Load{}, Places: []Load{}}
	waited := map[thing]Scarcity{}
	for _, o := range s.orders {
		c := Chain{Order: o.ID, Links: []Link{}}
		for j := s.lastOf(o); j != nil && s.at[j.number].state == placed; {
			link, next := s.link(j)
			c.Links = append(c.Links, link)
			if j.Wait == nil {
				c.Spent.Work += link.End - link.Begin
			} else {
				c.Spent.Lies += link.End - link.Begin
			}
			if kind := s.scarce(link, j); kind != "" {
				w := waited[thing{kind: kind, id: link.Of}]
				w.Kind, w.ID, w.Waited, w.More, w.Moved = kind, link.Of, w.Waited+link.Waited, max(
					w.More,
					1,
					s.slotsOf(j, link.Of),
				), []studio.ID{}
				waited[thing{kind: kind, id: link.Of}] = w
			}
			j = next
		}
		if n := len(c.Links); n > 0 {
			c.Spent.Idle = max(0, c.Links[0].End-c.Links[n-1].Begin-c.Spent.Work-c.Spent.Lies)
		}
		e.Orders = append(e.Orders, c)
	}
	s.stops(waited)
	s.loads(e)
	e.Scarce = mostWaited(waited)
	return e, nil
}

// link says what a job waited for, and which job that hangs on.
func (s *schedule) link(j *job) (Link, *job) {
	at := &s.at[j.number]
	why := s.because(j)
	l := Link{Task: j.ID, Begin: at.start, End: at.end, Cause: why.cause, Of: why.of}
	if r, fault := s.readinessOf(j, 0); fault == nil && j.Fact == nil && !j.inAir() {
		l.Waited = max(0, at.start-r.needs)
	}
	switch {
	case why.by != nil:
		l.CausedBy = why.by.ID
	case why.cause == studio.CauseGate:
		l.CausedBy = j.gate.ID
		if material, ok := studio.Ordered(j.gate.ID); ok {
			l.Of, l.Waited = material, max(0, at.start-s.readyWithout(j))
		}
	}
	if j.Done() || why.by == nil || s.at[why.by.number].state != placed || s.at[why.by.number].start >= at.start {
		return l, nil
	}
	return l, why.by
}

// readyWithout is when a job could have begun for what it needs if its gate had been open.
func (s *schedule) readyWithout(j *job) studio.Minute {
	open := *j
	open.gate = nil
	r, _ := s.readinessOf(&open, 0)
	return r.needs
}

// scarce is what kind of thing a link waited for, if there might be more of it.
func (s *schedule) scarce(l Link, j *job) string {
	switch {
	case l.Of == "" || l.Waited == 0:
		return ""
	case l.Cause == studio.CausePlace:
		return "place"
	case l.Cause == studio.CauseTool && j.Wait != nil:
		return "machine"
	case l.Cause == studio.CauseTool:
		return "tool"
	case l.Cause == studio.CausePerson:
		return "skill"
	case l.Cause == studio.CauseGate:
		return "material"
	}
	return ""
}

// stops counts, by what there is too little of at any time, the tasks that have no place for want of it.
func (s *schedule) stops(scarce map[thing]Scarcity) {
	for _, j := range s.jobs {
		if s.at[j.number].state != gone {
			continue
		}
		var of thing
		more := int64(1)
		switch why := s.at[j.number].more.why; why.kind {
		case crowded, overfull:
			of, more = thing{"place", why.place.ID}, int64(why.have)-why.place.Slots
		case noMachine:
			load := why.of.Wait.Load
			i := slices.IndexFunc(
				s.doc.Machines,
				func(m studio.Machine) bool { return slices.Contains(load.AnyOf, m.ID) },
			)
			if i < 0 {
				continue
			}
			of, more = thing{"machine", s.doc.Machines[i].ID}, load.Slots-s.doc.Machines[i].Slots
		case unskilled:
			of = thing{"skill", studio.ID(strings.Join(skills(why.of), bothSkills))}
		case shut:
			material, ordered := studio.Ordered(why.gate.ID)
			if !ordered {
				continue
			}
			of = thing{"material", material}
		default:
			continue
		}
		all := scarce[of]
		all.Kind, all.ID, all.Moved = of.kind, of.id, []studio.ID{}
		all.More, all.Stops = max(all.More, more, 1), all.Stops+1
		scarce[of] = all
	}
}

// bothSkills is between skills that one person would have to have.
const bothSkills = ", "

// thing is something that may be scarce.
type thing struct {
	kind string
	id   studio.ID
}

// slotsOf is how many slots of a place or machine a job takes.
func (s *schedule) slotsOf(j *job, id studio.ID) (most int64) {
	for _, k := range s.sets(j) {
		for i := range k.Holds {
			if k.Holds[i].Place == id {
				most = max(most, k.Holds[i].Slots)
			}
		}
	}
	if j.Wait != nil && j.Wait.Load != nil {
		most = max(most, j.Wait.Load.Slots)
	}
	return most
}

func mostWaited(waited map[thing]Scarcity) []Scarcity {
	all := slices.Collect(maps.Values(waited))
	slices.SortFunc(all, func(a, b Scarcity) int {
		return cmp.Or(
			cmp.Compare(b.Stops, a.Stops),
			cmp.Compare(b.Waited, a.Waited),
			cmp.Compare(a.Kind, b.Kind),
			cmp.Compare(a.ID, b.ID),
		)
	})
	return all[:min(len(all), mostScarce)]
}

// tryOneMore plans with one more of something.
func tryOneMore(
	doc *studio.Document,
	counted *count.Result,
	made *studio.Plan,
	options Options,
	what Scarcity,
) (Scarcity, error) {
	more := *doc
	switch what.Kind {
	case "place":
		more.Places = grown(
			doc.Places,
			func(p *studio.Place) *int64 { return &p.Slots },
			func(p *studio.Place) bool { return p.ID == what.ID },
			what.More,
		)
	case "tool":
		more.Tools = grown(
			doc.Tools,
			func(t *studio.Tool) *int64 { return &t.Number },
			func(t *studio.Tool) bool { return t.ID == what.ID },
			1,
		)
	case "machine":
		more.Machines = grown(
			doc.Machines,
			func(m *studio.Machine) *int64 { return &m.Slots },
			func(m *studio.Machine) bool { return m.ID == what.ID },
			what.More,
		)
	case "material":
		with := *counted
		with.Lots = slices.Clone(counted.Lots)
		for i := range with.Lots {
			l := &with.Lots[i]
			l.Awaits = slices.DeleteFunc(
				slices.Clone(l.Awaits),
				func(a studio.Await) bool { return a.Gate == studio.Ordering(what.ID) },
			)
		}
		counted = &with
	case "skill":
		more.People = append(slices.Clone(doc.People), helper(doc.People, what.ID))
	}
	options.From, options.Report, options.FixedLots = nil, nil, true
	with, err := Make(&more, counted, options)
	if err != nil {
		return what, err
	}
	what.Lateness, what.WithLateness = made.Objective.Lateness, with.Objective.Lateness
	what.Slack, what.WithSlack = made.WorstSlack(), with.WorstSlack()
	what.Moved = []studio.ID{}
	for i, o := range made.Orders {
		if then := with.Orders[i]; then.Ready != nil && (o.Ready == nil || *then.Ready < *o.Ready) {
			what.Moved = append(what.Moved, o.Order)
		}
	}
	return what, nil
}

// helper is somebody at the usual pace in skills, with the hours of the first who has one of them.
func helper(people []studio.Person, all studio.ID) studio.Person {
	names := strings.Split(string(all), bothSkills)
	h := studio.Person{ID: "one more who can " + all}
	for _, name := range names {
		h.Skills = append(h.Skills, studio.Skill{Skill: name, Pace: 100})
	}
	i := slices.IndexFunc(people, func(p studio.Person) bool {
		return slices.ContainsFunc(names, func(name string) bool { return p.Pace(name) > 0 })
	})
	if len(people) > 0 {
		p := people[max(0, i)]
		h.Name, h.Hours, h.Shifts, h.Breaks = p.Name, p.Hours, p.Shifts, p.Breaks
	}
	return h
}

// grown is a copy of all with so many more of one.
func grown[T any](all []T, number func(*T) *int64, is func(*T) bool, more int64) []T {
	all = slices.Clone(all)
	for i := range all {
		if is(&all[i]) {
			*number(&all[i]) += more
		}
	}
	return all
}

// loads adds up what is taken of people and places, day by day.
func (s *schedule) loads(e *Explanation) {
	last := s.now
	for n := range s.at {
		if s.at[n].state == placed {
			last = max(last, s.at[n].end)
		}
	}
	for day := s.calendar.Date(s.now); s.calendar.At(day, 0) < last; day = day.Next() {
		span := studio.Span{From: max(s.now, s.calendar.At(day, 0)), To: s.calendar.At(day.Next(), 0)}
		within := func(of studio.Span) studio.Span {
			return studio.Span{From: max(of.From, span.From), To: min(of.To, span.To)}
		}
		for _, m := range s.makers {
			l := Load{ID: m.ID, Day: day, There: m.regular.Worked(span)}
			for _, b := range m.busy {
				for at, n := &s.at[b.job], 0; n < at.stretches(); n++ {
					if part := within(at.stretch(n)); part.From < part.To {
						l.Taken += part.To - part.From
					}
				}
			}
			if l.There > 0 || l.Taken > 0 {
				e.People = append(e.People, l)
			}
		}
		for n, room := range s.rooms {
			l := Load{ID: s.doc.Places[n].ID, Day: day, There: studio.Minute(room.most) * (span.To - span.From)}
			for i, level := range room.levels {
				until := s.horizon
				if i+1 < len(room.levels) {
					until = room.levels[i+1].from
				}
				if part := within(studio.Span{From: level.from, To: until}); part.From < part.To {
					l.Taken += studio.Minute(level.used) * (part.To - part.From)
				}
			}
			if l.Taken > 0 {
				e.Places = append(e.Places, l)
			}
		}
	}
}
