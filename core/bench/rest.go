package bench

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// shortRest is the longest wait that somebody stays by: it rings at the bench by itself.
const shortRest studio.Minute = 45

// Rest is a short wait in the air that a maker stays by: when it is over, and the work that takes up the
// pieces then.
type Rest struct {
	Task studio.ID     `json:"task"`
	Then studio.ID     `json:"then"`
	Ends studio.Minute `json:"ends"`
}

// Rests are the short waits under way, or over and not taken up yet, of which somebody has the next work in
// the plan, what is over first. Tasks are their own open ones, task finds one of the plan.
func (b Bench) Rests(tasks []*studio.Task, task func(studio.ID) *studio.Task) []Rest {
	rests := []Rest{}
	for _, then := range tasks {
		if then.State != studio.TaskPlanned || then.Begin() > b.doc.Now+shortRest {
			continue
		}
		for _, before := range b.waitsOf(then) {
			wait := task(before)
			if wait != nil && wait.Load == nil && wait.State != studio.TaskDone && wait.Start <= b.doc.Now &&
				wait.End-wait.Start <= shortRest {
				rests = append(rests, Rest{Task: wait.ID, Then: then.ID, Ends: wait.End})
			}
		}
	}
	slices.SortStableFunc(rests, func(x, y Rest) int { return cmp.Compare(x.Ends, y.Ends) })
	return rests
}

// waitsOf are the waits right before a task: of its own lot, and those with which what it takes up ends.
func (b Bench) waitsOf(task *studio.Task) (waits []studio.ID) {
	recipe := func(lot studio.ID) *studio.Recipe {
		if i := slices.IndexFunc(b.plan.Lots, func(l studio.Lot) bool { return l.ID == lot }); i >= 0 {
			return b.book.Of(b.plan.Lots[i].Made())
		}
		return nil
	}
	r := recipe(task.Lot)
	if r == nil {
		return nil
	}
	_, first, past, _ := r.TaskOf(task.Step)
	if first > 0 && r.Steps[first-1].Wait != nil {
		waits = append(waits, studio.TaskID(task.Lot, r.Steps[first-1].Key))
	}
	for _, k := range b.plan.Links {
		if _, at := r.Step(k.Step); k.To != task.Lot || at < first || at >= past {
			continue
		}
		if from := recipe(k.From); from != nil && from.Steps[len(from.Steps)-1].Wait != nil {
			waits = append(waits, studio.TaskID(k.From, from.Steps[len(from.Steps)-1].Key))
		}
	}
	return waits
}

// Day is what a maker does up to a minute, in sittings: tasks of one kind in a row. Tasks are the maker's
// own open ones in the order in which they come.
func Day(tasks []*studio.Task, until studio.Minute, kind func(*studio.Task) string) (day [][]*studio.Task) {
	for len(tasks) > 0 && (tasks[0].Begin() < until || tasks[0].State == studio.TaskStarted) {
		sitting := Sitting(tasks, kind)
		day, tasks = append(day, sitting), tasks[len(sitting):]
	}
	return day
}

// Expected is how long a begun task takes whoever is at it by the book and their pace: what was counted
// before included, pauses not.
func (b Bench) Expected(task studio.ID) studio.Minute {
	lot, step, record, err := b.running(task)
	if err != nil || step.Work == nil {
		return 0
	}
	r := b.book.Of(lot.Made())
	_, first, past, _ := r.TaskOf(step.Key)
	var sum studio.Milliminutes
	for at := first; at < past; at++ {
		w := r.Steps[at].Work
		pieces := r.At(r.Steps[at].Key, lot.Entering(r, step.Key))
		if r.Kind == studio.KindMix {
			pieces = r.Passing(at, lot.Started)
		}
		pace := int64(100)
		for _, p := range b.doc.People {
			if p.ID == record.Person {
				pace = p.PaceAt(w.Skill)
			}
		}
		sum += r.Effort(w, true, pieces) * 100 / studio.Milliminutes(max(1, pace))
	}
	return studio.Minute(studio.CeilDiv(int64(sum), 1000))
}
