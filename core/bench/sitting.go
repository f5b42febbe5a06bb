package bench

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// Sitting is what a maker does in one go: the first of their open tasks, in the order in which they come,
// and those after it that are of the same kind of work, as long as no gap between them is longer than a
// short break.
func Sitting(tasks []*studio.Task, kind func(*studio.Task) string) []*studio.Task {
	n := min(1, len(tasks))
	for n > 0 && n < len(tasks) && kind(tasks[n]) == kind(tasks[0]) &&
		tasks[n].Begin()-tasks[n-1].End <= studio.PauseWithin {
		n++
	}
	return tasks[:n]
}

// mostEarly is how many of a maker's next tasks are looked at for what could be begun early.
const mostEarly = 40

// Early are the tasks that somebody who is free could begin now though the plan has them later, what is due
// first before others: all that they need is there, they end before the first of the maker's tasks is to
// begin, and nothing is worse for it. What has to be taken up fresh, goes off as a mix does, or takes a place
// or a tool up, is not among them. Tasks are the maker's own open ones in the order in which they come.
func (b Bench) Early(person studio.ID, tasks []*studio.Task, activity func(studio.ID) *studio.Activity,
	fresh map[studio.ID]bool) []*studio.Task {
	if len(tasks) == 0 || tasks[0].State == studio.TaskStarted || tasks[0].Begin() <= b.doc.Now {
		return nil
	}
	due, mixes := map[studio.ID]studio.Minute{}, map[studio.ID]bool{}
	for _, l := range b.plan.Lots {
		due[l.ID], mixes[l.ID] = l.Due, b.book.Of(l.Made()).Kind == studio.KindMix
	}
	free := tasks[0].Begin() - b.doc.Now
	var early []*studio.Task
	for i, t := range tasks[:min(len(tasks), mostEarly)] {
		a := activity(t.ID)
		if a == nil || fresh[t.ID] || mixes[t.Lot] || len(a.Holds) > 0 || len(a.Tools) > 0 ||
			i > 0 && t.End-t.Begin() > free {
			continue
		}
		if _, _, err := b.Start(t.ID, person, false); err == nil {
			early = append(early, t)
		}
	}
	slices.SortStableFunc(early, func(x, y *studio.Task) int { return cmp.Compare(due[x.Lot], due[y.Lot]) })
	return early
}

// Fresh are the tasks between which pieces may lie for so long only.
func Fresh(instance *studio.Instance) map[studio.ID]bool {
	fresh := map[studio.ID]bool{}
	for _, lag := range instance.Links {
		if lag.Most != nil {
			fresh[lag.From], fresh[lag.To] = true, true
		}
	}
	return fresh
}
