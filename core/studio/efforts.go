package studio

import "slices"

// atOnce adds the use of a tool to those of a task: of one that several of its steps use, as
// many as the one that uses most.
func atOnce(all []ToolUse, use ToolUse) []ToolUse {
	i := slices.IndexFunc(all, func(u ToolUse) bool { return slices.Equal(u.AnyOf, use.AnyOf) })
	if i < 0 {
		return append(all, use)
	}
	all[i].Number = max(all[i].Number, use.Number)
	return all
}

// runOf is how many pass in one run of the task of steps [first, past): what the recipe says,
// else what was counted for the lot; 0 is all of them.
func runOf(l *Lot, recipe *Recipe, first, past int) (run int64) {
	if recipe.Steps[first].Work == nil || recipe.Steps[first].Work.Stint == "" {
		return 0
	}
	for _, s := range recipe.Steps[first:past] {
		if s.Work.Run > 0 && (run == 0 || s.Work.Run < run) {
			run = s.Work.Run
		}
	}
	if run == 0 && l.Run > 0 { // as even as they go
		pieces := max(1, recipe.Passing(first, l.Started))
		return CeilDiv(pieces, CeilDiv(pieces, l.Run))
	}
	return run
}

// extra is time that a step takes for each piece beside its own.
type extra struct {
	step int
	each Milliminutes
}

// efforts are the attended times of steps that are one task, run after run of so many of the
// pieces that pass; 0 is one run.
// More is what steps take besides for each piece.
func efforts(
	recipe *Recipe,
	first, past int,
	setup bool,
	pieces, most int64,
	more []extra,
) []Effort {
	if most == 0 {
		most = pieces
	}
	var all []Effort
	for run := 0; run == 0 || pieces > 0; run++ {
		now := min(pieces, most)
		worked := recipe.Pieces
		if !setup || run > 0 {
			worked = recipe.inLaterRun
		}
		for i := first; i < past; i++ {
			s := recipe.Steps[i]
			pieces := now
			if recipe.Kind != KindMix {
				pieces = worked(i, now*recipe.unit(first))
			}
			e := Effort{Skill: s.Work.Skill, Run: run}
			e.Thousandths = recipe.Effort(s.Work, setup && run == 0, pieces)
			for _, x := range more {
				if x.step == i {
					e.Thousandths += x.each * Milliminutes(pieces)
				}
			}
			if past-first > 1 {
				e.Pieces = pieces
			}
			if setup && run == 0 {
				e.Setup = s.Work.Setup
			}
			all = append(all, e)
			for _, also := range s.Work.Also {
				all = append(all, Effort{Skill: also, Run: run})
			}
		}
		pieces -= now
	}
	return all
}

// within are the windows inside each run of the task of steps [first, past).
func (r *router) within(l *Lot, recipe *Recipe, first, past int) (all []Within) {
	if past-first < 2 {
		return nil
	}
	at := map[string]int{} // the place of a step's effort in a run
	n := 0
	for _, s := range recipe.Steps[first:past] {
		at[s.Key] = n
		n += 1 + len(s.Work.Also)
	}
	for _, limit := range recipe.runLimits(first, past, r.keeps) {
		w := Within{From: at[limit.from], To: at[limit.to], Most: Length{Minutes: limit.minutes}}
		if limit.before != "" {
			_, from := recipe.Step(limit.from)
			w.Most = Length{Dries: r.dries(l, recipe, limit.drying, limit.before, from)}
		}
		all = append(all, w)
	}
	return all
}

// passed says of a fact what came before the first piece of steps that are one task, and when
// its person's hours stopped it: between moments at which somebody surely worked.
func (r *router) passed(fact *Fact, steps []Step) {
	person, a := r.person(fact.Person), Activity{}
	if person == nil {
		return
	}
	for _, s := range steps {
		a.Work = append(a.Work, Effort{Skill: s.Work.Skill, Setup: s.Work.Setup})
	}
	fact.Setup = a.SetupFor(person, 0)
	until := fact.End
	if fact.State != TaskDone {
		until = max(r.doc.Now, fact.Start)
	}
	hours := r.hoursOf(person, fact.Start, until+24*60)
	for i := 1; i < len(hours) && hours[i-1].To < until; i++ {
		if fact.State != TaskDone || hours[i].From < until {
			fact.Pauses = append(fact.Pauses, Span{From: hours[i-1].To, To: hours[i].From})
		}
	}
}

// person is somebody of the studio; nil where nobody is known by that id.
func (r *router) person(id ID) *Person {
	if i := slices.IndexFunc(r.doc.People, func(p Person) bool { return p.ID == id }); i >= 0 {
		return &r.doc.People[i]
	}
	return nil
}

// hoursOf are the hours of somebody from a minute at which they worked: with the overtime they
// allow, where it was outside their hours.
func (r *router) hoursOf(p *Person, from, to Minute) Hours {
	hours := HoursOf(*p, r.calendar, from, to)
	if first, ok := hours.Next(from); !ok || first > from {
		hours = Together(hours, OvertimeOf(*p, r.calendar, from, to))
	}
	return hours
}

// leftOf is what is left of the efforts of a task that is under way and of which nothing was
// counted: what was not worked since, in their order, and no less than a minute of the last.
func (r *router) leftOf(work []Effort, fact *Fact) []Effort {
	person := r.person(fact.Person)
	if person == nil {
		return work
	}
	hours := r.hoursOf(person, fact.Start, max(r.doc.Now, fact.Start))
	worked := Milliminutes(1000 * hours.Worked(Span{From: fact.Start, To: r.doc.Now}))
	var all Milliminutes
	for _, e := range work {
		all += e.Total().AtPace(person.PaceAt(e.Skill))
	}
	worked = min(worked, all-1000)
	for i := range work {
		e := &work[i]
		pace := person.PaceAt(e.Skill)
		gone := max(0, min(worked, e.Total().AtPace(pace)))
		worked -= gone
		standard := CeilDiv(gone*Milliminutes(pace), 100)
		e.Minutes, e.Thousandths = 0, max(0, e.Total()-standard)
		e.Setup = max(0, e.Setup-standard)
	}
	return work
}
