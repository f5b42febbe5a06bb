package bench

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// Load is a machine that is to be set off with what the plan has go into it, or to be emptied: by whom,
// and when.
type Load struct {
	Machine studio.ID     `json:"machine"`
	Setting string        `json:"setting,omitempty"`
	Begins  bool          `json:"begins" doc:"it is set off; else it is emptied"`
	At      studio.Minute `json:"at"`
	Person  studio.ID     `json:"person"`
	Tasks   []studio.ID   `json:"tasks" doc:"the waits that go through it together"`
}

// Loads are those of a plan that are not over, what comes first before what comes later. Each is
// somebody's: of whoever did the work before it, if they are there at that minute; else of somebody who
// is there and free, or there, or the next to come. Hours are those of the document's people, in its
// order. It takes O(n log n) in the tasks of the plan.
func Loads(doc *studio.Document, plan *studio.Plan, hours []studio.Hours) []Load {
	type key struct {
		machine studio.ID
		begins  bool
		at      studio.Minute
	}
	known, before := map[key]int{}, map[studio.ID]*studio.Task{}
	var all []Load
	var last *studio.Task
	for i := range plan.Tasks {
		t := &plan.Tasks[i]
		if last != nil && last.Lot == t.Lot {
			before[t.ID] = last
		}
		if last = t; t.Load == nil || t.State == studio.TaskDone {
			continue
		}
		k := key{machine: t.Load.Machine, begins: t.State == studio.TaskPlanned, at: t.End}
		if k.begins {
			k.at = t.Start
		}
		n, is := known[k]
		if !is {
			n, known[k] = len(all), len(all)
			all = append(all, Load{Machine: k.machine, Setting: t.Load.Setting, Begins: k.begins, At: k.at})
		}
		all[n].Tasks = append(all[n].Tasks, t.ID)
	}
	for i := range all {
		all[i].Person = whose(doc, plan, hours, &all[i], before)
	}
	slices.SortStableFunc(all, func(a, b Load) int {
		return cmp.Or(cmp.Compare(a.At, b.At), cmp.Compare(a.Machine, b.Machine))
	})
	return all
}

// whose a load is.
func whose(
	doc *studio.Document,
	plan *studio.Plan,
	hours []studio.Hours,
	l *Load,
	before map[studio.ID]*studio.Task,
) (person studio.ID) {
	at := max(l.At, doc.Now) // what is overdue is somebody's who is there now
	best, soonest := 4, studio.Minute(0)
	for i := range doc.People {
		p := doc.People[i].ID
		comes, ever := hours[i].Next(at)
		rank := 3
		if ever && comes == at {
			rank = 2
			if !slices.ContainsFunc(plan.Tasks, func(t studio.Task) bool {
				return t.Person == p && t.State != studio.TaskDone && t.Begin() < at && t.End > at
			}) {
				rank = 1
			}
			if slices.ContainsFunc(
				l.Tasks,
				func(id studio.ID) bool { return before[id] != nil && before[id].Person == p },
			) {
				rank = 0
			}
		}
		if ever && (rank < best || rank == 3 && rank == best && comes < soonest) {
			best, soonest, person = rank, comes, p
		}
	}
	return person
}

// SetOff starts all waits of a load together, or ends them: each is refused as it would be alone, and
// then none is.
func (b Bench) SetOff(tasks []studio.ID, person studio.ID, begins bool) (lots []studio.WorkLot, err error) {
	if len(tasks) == 0 {
		return nil, studio.Refuse("nothing goes through the machine; look at the bench again")
	}
	for _, task := range tasks {
		_, step, err := b.find(task)
		if err != nil {
			return nil, err
		}
		if step.Wait == nil {
			return nil, studio.Refuse("%q goes through no machine", step.Name)
		}
		var lot studio.WorkLot
		if begins {
			lot, _, err = b.Start(task, person, false)
		} else {
			lot, _, err = b.Finish(task, Counts{})
		}
		if err != nil {
			return nil, err
		}
		lots = append(lots, lot)
	}
	return lots, nil
}
