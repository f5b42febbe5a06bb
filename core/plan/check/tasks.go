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
		}
		if t == nil {
			gone, before = true, nil
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
		if a.Fact == nil {
			c.wishes(a, t)
		}
		if a.Wait != nil {
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
	case t.State != f.State || t.Person != f.Person || t.Start != f.Start || a.Done() && t.End != f.End || a.Begun() && t.Resume == nil:
		c.say(FactChanged, a.ID, "happened otherwise: %s by %q from %d to %d", f.State, f.Person, f.Start, f.End)
	}
	if a.Wait == nil && !a.Done() && t.Pieces != a.Pieces {
		c.say(WrongDuration, a.ID, "says %d pieces, %d are left", t.Pieces, a.Pieces)
	}
}

// wishes checks gates and the lead's pins.
func (c *checker) wishes(a *studio.Activity, t *studio.Task) {
	for _, id := range a.Gates {
		for _, g := range c.doc.Gates {
			if g.ID == id && (g.Opens == nil || t.Start < *g.Opens) {
				c.say(GateShut, a.ID, "starts at %d, before %q opens", t.Start, g.Name)
			}
		}
	}
	if pin := c.doc.Pinned(a.ID); pin != nil && a.Wait == nil {
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
	least, ok := c.air.End(a.Wait.Least, t.Start)
	right := ok && t.End == least
	if a.Wait.Wished != nil {
		wished, ok := c.air.End(*a.Wait.Wished, t.Start)
		right = right || ok && t.End == wished
	}
	if !right {
		c.say(WrongWait, a.ID, "from %d ends at %d; at %d, or when it is wished for, would be right", t.Start, t.End, least)
	}
}

// work checks the person, the hours, the length and the pauses of a work task.
func (c *checker) work(a *studio.Activity, t *studio.Task) {
	person := c.people[t.Person]
	if !a.PaceOf(person) {
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
		c.say(Interrupted, a.ID, "pauses %v; from %d on, pauses %v and an end at %d would be right", t.Pauses, t.Begin(), pauses, end)
	}
}

// links checks the least and most time between tasks.
func (c *checker) links() {
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
		first, last, _, ok := c.air.Window(lag, from.End)
		if !ok || to.Start < first {
			c.say(TooEarly, lag.To, "starts at %d; %d is the first minute after %q", to.Start, first, lag.From)
		}
		if to.Start > last {
			c.say(TooLate, lag.To, "starts at %d; %d is the last minute after %q", to.Start, last, lag.From)
		}
		if a.Wait != nil || a.Fact != nil || lag.Most == nil {
			continue
		}
		if _, last, _, _ := c.air.Window(lag, from.Start); from.End > last {
			c.say(TooLate, lag.From, "takes until %d; what is done first in it would wait too long after %d", from.End, last)
		}
	}
}
