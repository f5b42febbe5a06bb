// Package room is the drying room as it stands: what lies where since when, how far it is
// and when it will be further, what frees up, which windows open and close, and what the
// air does to it. It reads the document and the plan in force; it decides nothing.
package room

import (
	"cmp"
	"slices"

	"bractum/core/drying"
	"bractum/core/studio"
)

// When is when pieces reach a state: two of ten before Early, half before Likely, eight of
// ten before Late. Nil is not before the air is drier.
type When struct {
	Early  *studio.Minute `json:"early,omitempty"`
	Likely *studio.Minute `json:"likely,omitempty"`
	Late   *studio.Minute `json:"late,omitempty"`
}

// Lying are pieces of one lot that lie in a wait.
type Lying struct {
	Task   studio.ID     `json:"task"`
	Lot    studio.ID     `json:"lot"`
	Step   string        `json:"step"`
	Pieces int64         `json:"pieces"`
	Since  studio.Minute `json:"since" doc:"when they were put down"`
	In     studio.ID     `json:"in,omitempty" doc:"the surroundings, the room if empty"`
	Class  studio.ID     `json:"class,omitempty" doc:"how they dry; empty where they only rest"`
	// State is how far they are by the last touch or, past that, by the clock.
	State studio.Found   `json:"state" enum:"soft,firm,dry"`
	Found *studio.Check  `json:"found,omitempty" doc:"the last that was found by touch"`
	Firm  *When          `json:"firm,omitempty"`
	Stiff *When          `json:"stiff,omitempty" doc:"too dry to shape"`
	Dry   *When          `json:"dry,omitempty"`
	Over  *studio.Minute `json:"over,omitempty" doc:"when the plan has the wait over; not before the air is drier if it does not say"`
	Next  *Next          `json:"next,omitempty"`
	Holds []studio.Held  `json:"holds"`
	// Damp is how much later they are dry than if the air stayed as it is.
	Damp     studio.Minute `json:"damp"`
	Machines []Offer       `json:"machines"`
	Kept     bool          `json:"kept" doc:"they lie in no wait, between two tasks"`
	Machine  studio.ID     `json:"machine,omitempty" doc:"the machine they are in"`
}

// Next is the task that takes pieces up.
type Next struct {
	Task   studio.ID      `json:"task"`
	Person studio.ID      `json:"person,omitempty"`
	Start  studio.Minute  `json:"start"`
	Opens  studio.Minute  `json:"opens" doc:"when it may begin at the earliest"`
	Closes *studio.Minute `json:"closes,omitempty" doc:"when it may begin at the latest"`
}

// Offer is when pieces would be dry in a machine, put in now.
type Offer struct {
	Machine studio.ID     `json:"machine"`
	Minutes studio.Minute `json:"minutes"`
	Dry     studio.Minute `json:"dry"`
}

// Shelf is one kind of place, or a machine, with what lies in it now.
type Shelf struct {
	Place   studio.ID
	Machine bool
	Slots   int64
	Free    int64
	Taken   []Slot
}

// Slot is a number of slots that a lot takes, until the plan has them free.
type Slot struct {
	Lot   studio.ID     `json:"lot"`
	Task  studio.ID     `json:"task"`
	Slots int64         `json:"slots"`
	Until studio.Minute `json:"until"`
}

// Room is all of it, what has a window first, then what is over first.
type Room struct {
	Lying   []Lying
	Shelves []Shelf
	Alerts  []Alert
}

// Studio is what the room is seen from: a document, its plan in force, and the air.
type Studio struct {
	Doc      *studio.Document
	Book     *studio.Book
	Plan     *studio.Plan
	Lots     map[studio.ID]*studio.Lot
	Tasks    map[studio.ID]*studio.Task
	Instance *studio.Instance
	Air      drying.Room
	// Activity gives what a task has to be; nil of one that is not known.
	Activity func(task studio.ID) *studio.Activity
}

// Now is the drying room at the moment of the document.
func Now(s Studio) Room {
	v := view{Studio: s, closing: make(map[studio.ID][]studio.Lag, len(s.Instance.Links))}
	for _, lag := range s.Instance.Links {
		v.closing[lag.To] = append(v.closing[lag.To], lag)
	}
	r := Room{Lying: []Lying{}}
	for i := range s.Doc.Work {
		r.Lying = append(r.Lying, v.lot(&s.Doc.Work[i])...)
	}
	slices.SortStableFunc(r.Lying, func(a, b Lying) int {
		return cmp.Or(
			cmp.Compare(a.closes(), b.closes()),
			cmp.Compare(a.over(), b.over()),
			cmp.Compare(a.Task, b.Task),
		)
	})
	r.Shelves = v.shelves()
	r.Alerts = v.alerts(r.Lying)
	return r
}

func (l Lying) closes() studio.Minute {
	if l.Next != nil && l.Next.Closes != nil {
		return *l.Next.Closes
	}
	return drying.Never
}

func (l Lying) over() studio.Minute {
	if l.Over != nil {
		return *l.Over
	}
	return drying.Never
}

type view struct {
	Studio
	closing map[studio.ID][]studio.Lag
}

// lot is what of a lot lies in a wait: the last one that it lies in.
func (v *view) lot(w *studio.WorkLot) (lying []Lying) {
	r, l := v.Book.Of(w.Made()), v.Lots[w.ID]
	if l == nil {
		return nil
	}
	for i := len(r.Steps) - 1; i >= 0; i-- {
		if r.Steps[i].Wait == nil || !w.Lies(r, i) {
			continue
		}
		id := studio.TaskID(w.ID, r.Steps[i].Key)
		t := v.Tasks[id]
		if t == nil { // the plan has no end of it
			down, _ := w.Down(r, r.PutDown(i))
			t = &studio.Task{ID: id, Step: r.Steps[i].Key, Start: down, End: drying.Never}
		}
		if t.Start <= v.Doc.Now && (i < len(r.Steps)-1 || t.End > v.Doc.Now) {
			return []Lying{v.lying(w, l, r, i, t)}
		}
	}
	return v.kept(w, r)
}

// kept is what of a lot lies between two tasks, and by when it is too dry for the next if it ever is.
func (v *view) kept(w *studio.WorkLot, r *studio.Recipe) []Lying {
	if len(w.Records) == 0 {
		return nil
	}
	last := w.Records[len(w.Records)-1]
	step, at := r.Step(last.Step)
	if at < 0 || step.Work == nil || last.State != studio.TaskDone {
		return nil
	}
	_, past := r.Task(at)
	n, progress := v.next(w, r, past-1), w.Progress(r)
	if n == nil || n.Closes == nil && progress.Made || v.Tasks[n.Task].State != studio.TaskPlanned {
		return nil
	}
	state, over := studio.FoundSoft, &n.Opens
	if n.Closes == nil {
		over = nil
	}
	for _, before := range r.Steps[:at] {
		if before.Wait != nil && before.Wait.State != "" {
			state = studio.Found(before.Wait.State)
		}
	}
	return []Lying{
		{
			Task:     studio.TaskID(w.ID, last.Step),
			Lot:      w.ID,
			Step:     last.Step,
			Pieces:   progress.Alive,
			Since:    last.End,
			State:    state,
			Holds:    v.holds(w, r, at),
			Machines: []Offer{},
			Next:     n,
			Over:     over,
			Kept:     true,
		},
	}
}

// holds are the places that a lot's steps up to one still hold.
func (v *view) holds(w *studio.WorkLot, r *studio.Recipe, until int) []studio.Held {
	held := []studio.Held{}
	for i := until; i >= 0; i-- {
		if t := v.Tasks[studio.TaskID(w.ID, r.Steps[i].Key)]; t != nil {
			for _, h := range t.Holds {
				if h.From <= v.Doc.Now && h.To > v.Doc.Now {
					held = append(held, h)
				}
			}
		}
	}
	return held
}

func (v *view) lying(w *studio.WorkLot, l *studio.Lot, r *studio.Recipe, wait int, t *studio.Task) Lying {
	now := v.Doc.Now
	out := Lying{
		Task:     t.ID,
		Lot:      w.ID,
		Step:     t.Step,
		Pieces:   w.Progress(r).Alive,
		Since:    t.Start,
		State:    studio.FoundSoft,
		Machines: []Offer{},
	}
	for i := range w.Checks {
		if c := &w.Checks[i]; c.Step == t.Step && !c.Mistaken && c.Found != studio.FoundSpoilt {
			out.Found, out.State = c, c.Found
		}
	}
	if t.End < drying.Never {
		out.Over = &t.End
	}
	if t.Load != nil {
		out.Machine = t.Load.Machine
	}
	out.Holds = v.holds(w, r, wait)
	out.Next = v.next(w, r, wait)
	dries := func(state studio.State) *studio.Dries { return studio.Known(v.Doc, v.Book, l, wait, state) }
	if d := dries(studio.Dry); d != nil && out.Machine == "" {
		out.Class, out.In = d.Class, d.In
		if down, known := w.Down(r, r.PutDown(wait)); known {
			out.Since = down
		}
		out.Firm, out.Stiff, out.Dry = v.when(
			dries(studio.Firm),
			out.Since,
		), v.when(
			dries(studio.Stiff),
			out.Since,
		), v.when(
			d,
			out.Since,
		)
		for _, further := range []struct {
			when *When
			is   studio.Found
		}{{when: out.Firm, is: studio.FoundFirm}, {when: out.Dry, is: studio.FoundDry}} {
			if at := further.when.Likely; at != nil && *at <= now {
				out.State = further.is
			}
		}
		v.weather(&out, d)
	}
	return out
}

func (v *view) when(d *studio.Dries, since studio.Minute) *When {
	at := func(percentile int64) *studio.Minute {
		if end, ok := v.Air.When(*d, percentile, since); ok {
			return &end
		}
		return nil
	}
	return &When{Early: at(20), Likely: at(50), Late: at(80)}
}

// next is the task that takes up what lies in a wait, with its window.
func (v *view) next(w *studio.WorkLot, r *studio.Recipe, wait int) *Next {
	var task studio.ID
	for i := wait + 1; i < len(r.Steps) && task == ""; i++ {
		if r.Steps[i].Work != nil {
			first, _ := r.Task(i)
			task = studio.TaskID(w.ID, r.Steps[first].Key)
		}
	}
	if task == "" {
		for _, link := range v.Plan.Links {
			if into := v.Lots[link.To]; link.From == w.ID && into != nil {
				next := v.Book.Of(into.Made())
				_, at := next.Step(link.Step)
				first, _ := next.Task(at)
				if id := studio.TaskID(link.To, next.Steps[first].Key); v.Tasks[id] != nil &&
					(task == "" || v.Tasks[id].Begin() < v.Tasks[task].Begin()) {
					task = id
				}
			}
		}
	}
	t := v.Tasks[task]
	if t == nil || t.State == studio.TaskDone {
		return nil
	}
	n := &Next{Task: t.ID, Person: t.Person, Start: t.Begin(), Opens: v.Doc.Now}
	for _, lag := range v.closing[task] {
		from := v.Tasks[lag.From]
		if from == nil || from.Lot != w.ID {
			continue
		}
		first, last, _, ok := v.Air.Window(lag, from.End)
		if lag.Each { // by its first pieces
			_, last, _, _ = v.Air.Window(lag, v.firstDone(lag, from))
		}
		if ok {
			n.Opens = max(n.Opens, first)
		}
		if ok && lag.Most != nil && last != drying.Never && (n.Closes == nil || last < *n.Closes) {
			n.Closes = &last
		}
	}
	return n
}

// weather is what the coming air costs pieces, and what a machine would save them.
func (v *view) weather(l *Lying, d *studio.Dries) {
	now := v.Doc.Now
	if l.State == studio.FoundDry {
		return
	}
	clock := v.Air.Clock(d.Class, d.In)
	need, done := v.Air.Standard(*d, 50), v.Air.Passed(d.Class, d.Lain)
	since := l.Since
	if n := len(d.Lain); n > 0 {
		since = d.Lain[n-1].To
	}
	left := need - done - (clock.At(now) - clock.At(since))
	if left <= 0 {
		return
	}
	if rate := clock.At(now+60) - clock.At(now); rate > 0 && l.Dry.Likely != nil {
		l.Damp = *l.Dry.Likely - now - studio.CeilDiv(studio.Minute(left*60), studio.Minute(rate))
	}
	for _, m := range v.Doc.Machines {
		if minutes, dries := v.Air.InMachine(m.ID, d.Class, left); dries {
			l.Machines = append(l.Machines, Offer{Machine: m.ID, Minutes: minutes, Dry: now + minutes})
		}
	}
}

// shelves are the places with what the plan in force has in them now, and the machines.
func (v *view) shelves() []Shelf {
	shelves := []Shelf{}
	add := func(place studio.ID, machine bool, slots int64, taken []Slot) {
		s := Shelf{Place: place, Machine: machine, Slots: slots, Free: slots, Taken: taken}
		for _, t := range taken {
			s.Free -= t.Slots
		}
		slices.SortStableFunc(s.Taken, func(a, b Slot) int { return cmp.Compare(a.Until, b.Until) })
		shelves = append(shelves, s)
	}
	held, loaded := map[studio.ID][]Slot{}, map[studio.ID][]Slot{}
	for i := range v.Plan.Tasks {
		t := &v.Plan.Tasks[i]
		for _, h := range t.Holds {
			if h.From <= v.Doc.Now && h.To > v.Doc.Now && t.State != studio.TaskPlanned {
				held[h.Place] = append(held[h.Place], Slot{Lot: t.Lot, Task: t.ID, Slots: h.Slots, Until: h.To})
			}
		}
		if t.Load != nil && t.State == studio.TaskStarted {
			loaded[t.Load.Machine] = append(
				loaded[t.Load.Machine],
				Slot{Lot: t.Lot, Task: t.ID, Slots: t.Load.Slots, Until: t.End},
			)
		}
	}
	for _, p := range v.Doc.Places {
		add(p.ID, false, p.Slots, held[p.ID])
	}
	for _, m := range v.Doc.Machines {
		add(m.ID, true, m.Slots, loaded[m.ID])
	}
	return shelves
}
