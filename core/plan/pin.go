package plan

import (
	"slices"

	"bractum/core/count"
	"bractum/core/studio"
)

// Trial is what a plan becomes with a task pinned, or let go.
type Trial struct {
	// Pin is the pin as it was tried.
	Pin studio.Pin `json:"pin"`
	// Holds is false where the task cannot be as it is pinned, for the reason in Why.
	Holds       bool             `json:"holds"`
	Why         *studio.Unplaced `json:"why,omitempty"`
	Differences Differences      `json:"differences"`
	// Dropped are tasks that would be left without a place.
	Dropped []studio.Unplaced `json:"dropped"`
}

// Pinned is a document with a pin in place of what was pinned of its task before; one
// without person and start lets it go.
func Pinned(doc *studio.Document, pin studio.Pin) *studio.Document {
	with := *doc
	with.Pins = slices.DeleteFunc(slices.Clone(doc.Pins), func(p studio.Pin) bool { return p.Task == pin.Task })
	if pin.Person != "" || pin.Start != nil {
		with.Pins = append(with.Pins, pin)
	}
	return &with
}

// TryPin repairs a plan for a pin of one of its tasks that is not in its document yet. Only
// work that is not done can be pinned, to no time that has passed; of a task that was begun
// the person alone is open. A refusal says so.
func TryPin(
	doc *studio.Document,
	counted *count.Result,
	made *studio.Plan,
	pin studio.Pin,
	abandon <-chan struct{},
) (Trial, error) {
	i := slices.IndexFunc(made.Tasks, func(t studio.Task) bool { return t.ID == pin.Task })
	switch {
	case i < 0 || made.Tasks[i].Person == "" || made.Tasks[i].State == studio.TaskDone:
		return Trial{}, studio.Refuse(
			"only work that is planned and not done can be pinned; this waits by itself, or is done",
		)
	case made.Tasks[i].State != studio.TaskPlanned:
		pin.Start = nil
	case pin.Start != nil && *pin.Start < doc.Now:
		return Trial{}, studio.Refuse("this time has passed")
	}
	t := Trial{Pin: pin, Holds: true, Dropped: []studio.Unplaced{}}
	with, err := Make(Pinned(doc, pin), counted, Options{From: made, Abandon: abandon})
	if err != nil {
		return Trial{}, err
	}
	t.Differences = Compare(made, with)
	for _, u := range with.Unplaced {
		if u.Task == pin.Task {
			t.Holds, t.Why = false, &u
		}
		if !slices.ContainsFunc(made.Unplaced, func(was studio.Unplaced) bool { return was.Task == u.Task }) {
			t.Dropped = append(t.Dropped, u)
		}
	}
	return t, nil
}
