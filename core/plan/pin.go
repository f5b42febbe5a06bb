package plan

import (
	"cmp"
	"slices"

	"bractum/core/count"
	"bractum/core/studio"
)

// Trial is what a plan becomes with a task pinned, or let go.
type Trial struct {
	// Pin is the pin as it was tried.
	Pin studio.Pin `json:"pin"`
	// Holds is false where the task cannot be as it is pinned, for the reason in Why.
	Holds bool             `json:"holds"`
	Why   *studio.Unplaced `json:"why,omitempty"`
	// Nearest is where it could be, of the times about the one it was pinned to that were tried.
	Nearest     *studio.Minute `json:"nearest,omitempty"`
	Differences Differences    `json:"differences"`
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
	with, err := Make(Pinned(doc, pin), counted, Options{From: made, FixedLots: true, Abandon: abandon})
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
	if !t.Holds && pin.Start != nil {
		t.Nearest, err = nearest(doc, counted, made, pin, t.Why, abandon)
	}
	return t, err
}

// mostTimes are how many times are tried about one that cannot be.
const mostTimes = 6

// nearest is the time nearest to that of a pin at which it could be, nil where none of those tried could:
// when what it needs is there, and the ends of the stretches in which whoever would do it works.
func nearest(
	doc *studio.Document,
	counted *count.Result,
	made *studio.Plan,
	pin studio.Pin,
	why *studio.Unplaced,
	abandon <-chan struct{},
) (*studio.Minute, error) {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return nil, err
	}
	at := made.Tasks[slices.IndexFunc(made.Tasks, func(t studio.Task) bool { return t.ID == pin.Task })]
	length := at.End - at.Begin()
	for _, pause := range at.Pauses {
		length -= pause.To - pause.From
	}
	who, wish := cmp.Or(pin.Person, at.Person), *pin.Start
	var times []studio.Minute
	if why.Earliest != nil {
		times = append(times, *why.Earliest)
	}
	var hours studio.Hours
	for _, p := range doc.People {
		if p.ID == who {
			hours = studio.HoursOf(p, calendar, max(0, wish-2*1440), doc.Horizon())
		}
	}
	for _, span := range hours {
		if span.From < wish+4*1440 {
			times = append(times, span.From, span.To-length)
		}
	}
	for _, t := range made.Tasks {
		if t.Person == who && t.ID != pin.Task && t.State != studio.TaskDone {
			times = append(times, t.End, t.Begin()-length)
		}
	}
	for i, m := range times { // work is begun when its maker is there
		if at, ok := hours.Next(m); ok {
			times[i] = at
		}
	}
	first := doc.Now
	if why.Earliest != nil {
		first = max(first, *why.Earliest)
	}
	times = slices.DeleteFunc(times, func(m studio.Minute) bool { return m < first || m == wish })
	slices.SortFunc(times, func(a, b studio.Minute) int {
		return cmp.Or(cmp.Compare(max(a-wish, wish-a), max(b-wish, wish-b)), cmp.Compare(a, b))
	})
	times = slices.Compact(times)
	times = times[:min(len(times), mostTimes)]
	if who == at.Person { // where it is
		times = append(times, at.Start)
	}
	for _, time := range times {
		tried := pin
		tried.Start = &time
		with, err := Make(Pinned(doc, tried), counted, Options{From: made, FixedLots: true, Abandon: abandon})
		if err != nil {
			return nil, err
		}
		if !slices.ContainsFunc(with.Unplaced, func(u studio.Unplaced) bool { return u.Task == pin.Task }) {
			return &time, nil
		}
	}
	return nil, nil
}
