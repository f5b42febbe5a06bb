package bench

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// Next puts a maker's open tasks into the order in which they come: what is begun first,
// then by when the plan has them begin.
func Next(tasks []*studio.Task) []*studio.Task {
	return slices.SortedStableFunc(slices.Values(tasks), func(a, b *studio.Task) int {
		if begun := a.State == studio.TaskStarted; begun != (b.State == studio.TaskStarted) {
			if begun {
				return -1
			}
			return 1
		}
		return cmp.Compare(a.Begin(), b.Begin())
	})
}

// UnderWay are those waits that are under way at a moment, what is over first.
func UnderWay(waits []*studio.Task, now studio.Minute) []*studio.Task {
	under := slices.DeleteFunc(slices.Clone(waits), func(t *studio.Task) bool { return t.Start > now || t.End <= now })
	slices.SortStableFunc(under, func(a, b *studio.Task) int { return cmp.Compare(a.End, b.End) })
	return under
}

// Done is how many of a number of work tasks are done.
type Done struct{ Done, Of int64 }

// DoneByOrder is how far the work of each order is, by tasks; orders says whom a lot works
// for. A task for several orders counts for each.
func DoneByOrder(tasks []studio.Task, orders func(lot studio.ID) []studio.ID) map[studio.ID]Done {
	work := map[studio.ID]Done{}
	for i := range tasks {
		t := &tasks[i]
		if t.Person == "" {
			continue
		}
		for _, order := range orders(t.Lot) {
			w := work[order]
			if w.Of++; t.State == studio.TaskDone {
				w.Done++
			}
			work[order] = w
		}
	}
	return work
}
