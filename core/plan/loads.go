package plan

import "bractum/core/studio"

// PeopleLoads are how full people's days are in a plan: of each person, each day that
// begins within a span and has hours or work, from the plan's moment on. It takes time
// proportional to the tasks and days, and no planning.
func PeopleLoads(
	doc *studio.Document,
	calendar studio.Calendar,
	made *studio.Plan,
	span studio.Span,
) map[studio.ID][]Load {
	type on struct {
		person studio.ID
		day    studio.Date
	}
	taken := map[on]studio.Minute{}
	spend := func(person studio.ID, from, to studio.Minute) {
		for from < to {
			day := calendar.Date(from)
			until := min(to, calendar.At(day.Next(), 0))
			taken[on{person: person, day: day}] += until - from
			from = until
		}
	}
	for i := range made.Tasks {
		t := &made.Tasks[i]
		if t.Person == "" || t.End <= max(made.Now, span.From) || t.Begin() >= span.To+1440 || t.Load != nil {
			continue
		}
		from := max(made.Now, t.Begin())
		for _, pause := range t.Pauses {
			spend(t.Person, from, pause.From)
			from = max(from, pause.To)
		}
		spend(t.Person, from, t.End)
	}
	loads := map[studio.ID][]Load{}
	first := max(span.From, calendar.At(calendar.Date(made.Now), 0))
	if calendar.At(calendar.Date(first), 0) < first { // it began before
		first = calendar.At(calendar.Date(first).Next(), 0)
	}
	for _, p := range doc.People {
		hours := studio.HoursOf(p, calendar, max(0, span.From), span.To+1440)
		for day := calendar.Date(first); calendar.At(day, 0) < span.To; day = day.Next() {
			there := hours.Worked(
				studio.Span{From: max(made.Now, calendar.At(day, 0)), To: calendar.At(day.Next(), 0)},
			)
			if l := (Load{ID: p.ID, Day: day, Taken: taken[on{person: p.ID, day: day}], There: there}); l.Taken > 0 ||
				l.There > 0 {
				loads[p.ID] = append(loads[p.ID], l)
			}
		}
	}
	return loads
}
