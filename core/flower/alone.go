package flower

import (
	"slices"

	"bractum/core/count"
	"bractum/core/drying"
	"bractum/core/studio"
)

// Lane is one recipe's steps along time.
type Lane struct {
	Subject
	Count int64     `json:"count"`
	Spans []Stretch `json:"spans"`
	// Keeps is how long its pieces stay soft and firm; nil where nothing says how they dry.
	Keeps *Keeps `json:"keeps,omitempty"`
}

// Keeps is until when pieces that are put down at From are soft, and then firm, in standard
// air, the first of them deciding: in minutes from the first cut.
type Keeps struct {
	From  studio.Minute `json:"from"`
	Firm  studio.Minute `json:"firm"`
	Stiff studio.Minute `json:"stiff"`
}

// Stretch is one task or wait, in minutes from the first cut.
type Stretch struct {
	Step  string           `json:"step"`
	Name  string           `json:"name"`
	Glyph string           `json:"glyph,omitempty"`
	Wants studio.Condition `json:"wants,omitempty"` // of work
	Wait  bool             `json:"wait,omitempty"`
	State studio.State     `json:"state,omitempty"` // what it dries to
	From  studio.Minute    `json:"from"`
	To    studio.Minute    `json:"to"`
}

// alongTime lays every task as late as it may be for the last to end when it does,
// hands being always free: one backward pass over the routing, in O(tasks + links).
func (s *Sheet) alongTime(doc *studio.Document, book *studio.Book, counted *count.Result) {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return // a valid document has a calendar
	}
	room := drying.NewRoom(doc, calendar)
	lasting := func(l studio.Length) studio.Minute { return studio.Minute(studio.CeilDiv(room.Need(l), 1000)) }
	instance := studio.Route(doc, book, counted.Lots, counted.Links, counted.Pegs)
	pace := studio.Person{}
	length := func(a *studio.Activity) (sum studio.Minute) {
		if a.Wait != nil && a.Wait.Wished != nil {
			return max(lasting(a.Wait.Least), lasting(*a.Wait.Wished))
		}
		if a.Wait != nil {
			return lasting(a.Wait.Least)
		}
		for _, run := range a.Runs(&pace, 0) {
			sum += run
		}
		return sum
	}
	before := map[studio.ID][]studio.Lag{} // by the task they limit
	for _, lot := range instance.Lots {
		for i := 1; i < len(lot.Tasks); i++ {
			before[lot.Tasks[i].ID] = append(
				before[lot.Tasks[i].ID],
				studio.Lag{From: lot.Tasks[i-1].ID, To: lot.Tasks[i].ID},
			)
		}
	}
	waitsFor := map[studio.ID]int{}
	for _, k := range instance.Links {
		before[k.To] = append(before[k.To], k)
	}
	for _, lags := range before {
		for _, k := range lags {
			waitsFor[k.From]++
		}
	}
	all := instance.Activities()
	toGo := map[studio.ID]studio.Minute{} // from the start of a task to the end of all
	tail := map[studio.ID]studio.Minute{} // from the end of a task to the end of all
	var open []studio.ID
	for id := range all {
		if waitsFor[id] == 0 {
			open = append(open, id)
		}
	}
	for len(open) > 0 {
		id := open[len(open)-1]
		open = open[:len(open)-1]
		toGo[id] = tail[id] + length(all[id])
		s.Elapsed = max(s.Elapsed, toGo[id])
		for _, k := range before[id] {
			rest := toGo[id]
			if k.Least != nil {
				rest += lasting(*k.Least)
			}
			tail[k.From] = max(tail[k.From], rest)
			if waitsFor[k.From]--; waitsFor[k.From] == 0 {
				open = append(open, k.From)
			}
		}
	}
	s.lanes(book, counted, instance, toGo, tail)
	s.keeps(doc, book, counted, room)
}

// keeps works out how long the pieces of each lane stay as they are.
func (s *Sheet) keeps(doc *studio.Document, book *studio.Book, counted *count.Result, room drying.Room) {
	soft := studio.SoftStores(doc)
	for i := range s.Lanes {
		of := studio.Made{Recipe: s.Lanes[i].Recipe, Variant: s.Lanes[i].Variant}
		r := book.Of(of)
		softness, ok := r.Softness(len(r.Steps), soft)
		at := slices.IndexFunc(counted.Lots, func(l studio.Lot) bool { return l.Made() == of })
		if ok && at >= 0 {
			s.Lanes[i].keeps(r, softness.From, func(state studio.State) studio.Minute {
				return room.Most(book.Dries(softness.Drying, counted.Lots[at].Mixes, state))
			})
		}
	}
}

// keeps says until when pieces stay soft, and firm, from the end of the step that puts them
// down, or takes them out of the last soft store.
func (l *Lane) keeps(r *studio.Recipe, from int, reaches func(studio.State) studio.Minute) {
	first, _ := r.Task(from)
	for _, span := range l.Spans {
		if span.Step == r.Steps[first].Key {
			l.Keeps = &Keeps{
				From: span.To, Firm: span.To + reaches(studio.Firm), Stiff: span.To + reaches(studio.Stiff)}
		}
	}
}

func (s *Sheet) lanes(
	book *studio.Book,
	counted *count.Result,
	instance *studio.Instance,
	toGo, tail map[studio.ID]studio.Minute,
) {
	s.Lanes = []Lane{}
	for i := range counted.Lots {
		l := &counted.Lots[i]
		r := book.Of(l.Made())
		if r.ID == unchosen {
			continue
		}
		lane := Lane{Subject: subject(book, l.Made(), l.Mixes), Count: l.Started, Spans: []Stretch{}}
		for _, a := range instance.Lots[i].Tasks {
			step, first, _, _ := r.TaskOf(a.Step)
			span := Stretch{Step: a.Step, Name: step.Name, From: s.Elapsed - toGo[a.ID], To: s.Elapsed - tail[a.ID]}
			if step.Work != nil {
				span.Glyph, span.Wants = step.Work.Glyph, r.Wanted(first)
			} else {
				span.Wait, span.State = true, step.Wait.State
			}
			lane.Spans = append(lane.Spans, span)
		}
		s.Lanes = append(s.Lanes, lane)
	}
	slices.SortStableFunc(s.Lanes, func(a, b Lane) int { return int(a.Spans[0].From - b.Spans[0].From) })
}
