package room

import (
	"bractum/core/drying"
	"bractum/core/studio"
)

// Stiffening is by when pieces have to be taken up by a task, before the first of them is no
// longer as that wants it.
type Stiffening struct {
	Task studio.ID     `json:"task"`
	By   studio.Minute `json:"by"`
}

// Stiffens is what presses at a task: by when it, or a later one of its lot, has to take up what was
// begun already, and what it has done itself has to be taken up; nil where nothing does. It takes
// O(links).
func Stiffens(s Studio, task *studio.Task) (soonest *Stiffening) {
	for _, lag := range s.Instance.Links {
		from, to := s.Tasks[lag.From], s.Tasks[lag.To]
		if lag.Most == nil || from == nil || to == nil || from.State == studio.TaskPlanned ||
			to.State != studio.TaskPlanned || to.Lot != task.Lot && lag.From != task.ID {
			continue
		}
		_, last, _, ok := s.Air.Window(lag, s.firstDone(lag, from))
		if ok && last != drying.Never && (soonest == nil || last < soonest.By) {
			soonest = &Stiffening{Task: lag.To, By: last}
		}
	}
	return soonest
}

// firstDone is when the first piece of a task is done that a window binds, all of them where it
// binds the lot as a whole.
func (s Studio) firstDone(lag studio.Lag, from *studio.Task) studio.Minute {
	a := s.Activity(from.ID)
	if !lag.Each || a == nil {
		return from.End
	}
	by := &studio.Person{}
	for i := range s.Doc.People {
		if s.Doc.People[i].ID == from.Person {
			by = &s.Doc.People[i]
		}
	}
	p := a.PassageOf(from, by)
	return p.Done(1)
}
