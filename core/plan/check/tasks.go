package check

import (
	"slices"

	"bractum/core/studio"
)

// lot checks the tasks of one lot one by one and against each other.
func (c *checker) lot(l studio.Routing) {
	var before *studio.Task
	gone := false
	for i := range l.Tasks {
		a := &l.Tasks[i]
		t := c.tasks[a.ID]
		switch {
		case t == nil && !c.unplaced[a.ID]:
			c.say(MissingTask, a.ID, "is neither planned nor said to be unplaced")
		case t != nil && c.unplaced[a.ID]:
			c.say(MissingTask, a.ID, "is planned and said to be unplaced")
		case t == nil && a.Done():
			c.say(FactChanged, a.ID, "is done and said to be unplaced")
		}
		if t == nil {
			gone, before = gone || !a.Done(), nil
			continue
		}
		if gone && a.Fact == nil {
			c.say(AfterUnplaced, a.ID, "is planned though a task before it is unplaced")
		}
		c.fact(a, t)
		if a.Done() {
			before = t
			continue
		}
		if before != nil && a.Fact == nil && t.Start < before.End {
			c.say(StepOrder, a.ID, "starts at %d, before %q ends at %d", t.Start, before.ID, before.End)
		}
		if t.End > c.doc.Horizon() && (a.Wait == nil || a.Fact == nil) {
			c.say(PastHorizon, a.ID, "ends at %d, after the horizon, %d", t.End, c.doc.Horizon())
		}
		c.wishes(a, t)
		if a.Wait != nil {
			c.waits(a, t, before)
			c.wait(a, t, before)
		} else {
			c.work(a, t)
		}
		before = t
	}
}

func (c *checker) fact(a *studio.Activity, t *studio.Task) {
	f := a.Fact
	switch {
	case f == nil && (a.Wait == nil && t.State != studio.TaskPlanned || t.Resume != nil):
		c.say(FactChanged, a.ID, "is said to be %s; nothing is recorded of it", t.State)
	case f == nil:
	case t.State != f.State || t.Start != f.Start || a.Done() && t.End != f.End || a.Begun() && a.Wait == nil && t.Resume == nil:
		c.say(FactChanged, a.ID, "happened otherwise: %s from %d to %d", f.State, f.Start, f.End)
	case a.Done() && t.Person != f.Person || a.Begun() && t.Person != f.Person && !c.handed(a.ID, t.Person):
		c.say(FactChanged, a.ID, "is of %q, who began it", f.Person)
	case a.Begun() && a.Wait != nil && t.Load != nil && t.Load.Machine != f.Machine:
		c.say(FactChanged, a.ID, "was begun in %q", f.Machine)
	}
	if !a.Done() && t.Pieces != a.Pieces {
		c.say(WrongDuration, a.ID, "says %d pieces, %d are left", t.Pieces, a.Pieces)
	}
}

// waits checks what a wait has not got, and that nothing is said of it that did not happen: one in the air
// is over without a fact only where it has run out since the task before was done.
func (c *checker) waits(a *studio.Activity, t, before *studio.Task) {
	if t.Setup != 0 || len(t.Pauses) > 0 || t.Overtime || len(t.Tools) > 0 {
		c.say(WrongWait, a.ID, "is a wait: it has no setup, pauses, overtime or tools")
	}
	if a.Fact != nil {
		return
	}
	over := a.Wait.Load == nil && before != nil && before.State == studio.TaskDone && t.End <= c.doc.Now
	if t.State != studio.TaskPlanned && (t.State != studio.TaskDone || !over) {
		c.say(FactChanged, a.ID, "is said to be %s; nothing is recorded of it", t.State)
	}
}

// handed is true of a person to whom what is left of a task is pinned.
func (c *checker) handed(task, person studio.ID) bool {
	pin := c.doc.Pinned(task)
	return pin != nil && pin.Person == person
}

// wishes checks gates and the lead's pins. What was begun waits for no gate and has
// its start; who goes on with it may still be pinned.
func (c *checker) wishes(a *studio.Activity, t *studio.Task) {
	pin := c.doc.Pinned(a.ID)
	if a.Fact != nil {
		if a.Begun() && pin != nil && pin.Person != "" && t.Person != pin.Person {
			c.say(PinMoved, a.ID, "is pinned to %q", pin.Person)
		}
		return
	}
	for _, id := range a.Gates {
		for _, g := range c.gates {
			if g.ID == id && (g.Opens == nil || t.Start < *g.Opens) {
				c.say(GateShut, a.ID, "starts at %d, before %q opens", t.Start, g.Name)
			}
		}
	}
	if pin != nil && a.Wait == nil {
		if pin.Person != "" && t.Person != pin.Person || pin.Start != nil && t.Start != *pin.Start {
			c.say(PinMoved, a.ID, "is pinned otherwise")
		}
	}
}

// wait checks a wait in the air: it begins when the task before it ends and lasts
// its least length or the wished-for one.
func (c *checker) wait(a *studio.Activity, t, before *studio.Task) {
	if a.Wait.Load != nil || before == nil {
		return
	}
	if t.Start != before.End {
		c.say(WaitNotAtOnce, a.ID, "starts at %d, the task before ends at %d", t.Start, before.End)
		return
	}
	lain := c.lain(a, t.Start)
	least, ok := c.air.End(a.Wait.Least, t.Start, lain...)
	right := ok && t.End == least
	if a.Wait.Wished != nil && ok {
		wished, ok := c.air.End(*a.Wait.Wished, t.Start, lain...)
		right = right || ok && t.End == wished && wished >= least
	}
	if !right {
		c.say(
			WrongWait,
			a.ID,
			"from %d ends at %d; at %d, or when it is wished for, would be right",
			t.Start,
			t.End,
			least,
		)
	}
}

// lain is where a piece that has been moved has lain before a wait that begins at a
// minute: from the start of each wait that this one continues to the next.
func (c *checker) lain(a *studio.Activity, until studio.Minute) []studio.Lain {
	var all []studio.Lain
	for a.Wait.Continues != "" {
		a = c.activities[a.Wait.Continues]
		start := c.tasks[a.ID].Start
		all = append(all, studio.Lain{Span: studio.Span{From: start, To: until}, In: a.Wait.Least.Dries.In})
		until = start
	}
	return all
}

// work checks the person, the hours, the length and the pauses of a work task.
func (c *checker) work(a *studio.Activity, t *studio.Task) {
	person := c.people[t.Person]
	if (a.Fact == nil || a.Fact.Person != t.Person) && !a.Skilled(person) {
		c.say(NoSkill, a.ID, "%q has not got all the skills", person.Name)
		return
	}
	if t.Begin() < c.doc.Now {
		c.say(BeforeNow, a.ID, "begins at %d, now is %d", t.Begin(), c.doc.Now)
		return
	}
	hours := c.hours[t.Person]
	if t.Overtime {
		hours = c.longer[t.Person]
	}
	if first, ok := hours.Next(t.Begin()); !ok || first != t.Begin() {
		c.say(OutsideHours, a.ID, "begins at %d, when %q does not work", t.Begin(), person.Name)
		return
	}
	runs := a.Runs(person, t.Setup)
	var length studio.Minute
	for _, run := range runs {
		length += run
	}
	worked := t.End - t.Begin()
	for _, p := range t.Pauses {
		worked -= p.To - p.From
	}
	end, pauses, ok := hours.Lay(t.Begin(), runs, a.Pauses())
	switch {
	case worked != length:
		c.say(WrongDuration, a.ID, "takes %d working minutes; %d would be right", worked, length)
	case !ok && a.Pauses():
		c.say(OutsideHours, a.ID, "goes on when %q has no hours left", person.Name)
	case !ok || end != t.End || !slices.Equal(pauses, t.Pauses):
		c.say(
			Interrupted,
			a.ID,
			"pauses %v; from %d on, pauses %v and an end at %d would be right",
			t.Pauses,
			t.Begin(),
			pauses,
			end,
		)
	default:
		c.runs(a, t, runs)
	}
}

// links checks the least and most time between tasks.
func (c *checker) links() {
	narrow := map[studio.ID]bool{}
	for _, lag := range c.instance.Links {
		from, to := c.tasks[lag.From], c.tasks[lag.To]
		a, b := c.activities[lag.From], c.activities[lag.To]
		if b.Fact != nil || to == nil {
			continue
		}
		if from == nil {
			c.say(AfterUnplaced, lag.To, "is planned though %q, which it needs, is unplaced", lag.From)
			continue
		}
		first, last, crossed, ok := c.air.Window(lag, from.End)
		narrow[lag.To] = narrow[lag.To] || crossed
		if !ok || to.Start < first {
			c.say(TooEarly, lag.To, "starts at %d; %d is the first minute after %q", to.Start, first, lag.From)
		}
		if lag.Each {
			c.pieces(lag, from, to)
			continue
		}
		if to.Start > last {
			c.say(TooLate, lag.To, "starts at %d; %d is the last minute after %q", to.Start, last, lag.From)
		}
		if a.Wait != nil || a.Fact != nil || lag.Most == nil {
			continue
		}
		if _, last, _, _ := c.air.Window(lag, from.Start); from.End > last {
			c.say(
				TooLate,
				lag.From,
				"takes until %d; what is done first in it would wait too long after %d",
				from.End,
				last,
			)
		}
	}
	for _, t := range c.plan.Tasks {
		if t.Narrow != narrow[t.ID] {
			c.say(NarrowUnsaid, t.ID, "has a narrow window, or has none: %t would be right", narrow[t.ID])
		}
		if by := c.overdue[t.ID]; t.Overdue != by {
			c.say(OverdueUnsaid, t.ID, "takes up a piece too late by %d; %d would be right", t.Overdue, by)
		}
	}
}
