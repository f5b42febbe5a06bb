package promise

import (
	"math"
	"slices"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
)

// Search is how far is looked for something better: for so many steps of the planner's search, or until it is to stop.
type Search struct {
	Steps int
	Stop  <-chan struct{}
	// End, where given, ends looking for other dates and numbers as well, with the best found so far.
	End <-chan struct{}
	// Tell, if given, is told how far it is.
	Tell func(Stage)
}

// UntilStopped are as many steps as there is time for.
const UntilStopped = math.MaxInt32

// Stage is what is being looked for.
type Stage string

// Stages of looking, in their order.
const (
	ForAll   Stage = "all"   // all of it by the date that was asked
	ForLater Stage = "later" // the nearest date
	ForFewer Stage = "fewer" // the largest numbers by the date that was asked
)

func (s *Search) at(stage Stage) {
	if s.Tell != nil {
		s.Tell(stage)
	}
}

// UsualSearch takes a second or so, and gives the same answer wherever it is made.
func UsualSearch(q Question) (Search, error) {
	counted, err := count.Up(q.Doc)
	if err != nil {
		return Search{}, err
	}
	return Search{Steps: plan.UsualSteps(q.Doc, counted)}, nil
}

// Look answers as Ask does where that is a yes. Else it searches for a plan in which the order is ready in time and
// nobody else late by it, then for the nearest date at which that is so, then for the largest numbers by the date that
// was asked.
func Look(q Question, by Search) (*Answer, error) {
	doc, made, counted, err := q.before()
	if err != nil {
		return nil, err
	}
	q.Before = made
	t, err := q.first(doc, counted)
	if err != nil {
		return nil, err
	}
	if !t.kept() {
		by.at(ForAll)
		if t, err = q.searched(t, by); err != nil {
			return nil, err
		}
	}
	if t.kept() {
		a, err := q.answer(t)
		if err == nil {
			a.Searched = true
		}
		return a, err
	}
	by.at(ForLater)
	later, err := q.nearest(t, by)
	if err != nil {
		return nil, err
	}
	if later != nil && *later.outcome.Ready <= t.outcome.ReadyBy { // a plan for a date nearby is one for this date too
		return q.dated(later, t.outcome.ReadyBy)
	}
	a, err := q.answer(t)
	if err != nil {
		return nil, err
	}
	a.Searched, a.Earliest, a.Could = true, nil, nil
	if later != nil {
		if a, err = q.dated(later, t.outcome.ReadyBy); err != nil {
			return nil, err
		}
		a.Verdict = Not
	}
	by.at(ForFewer)
	a.Fewer, err = q.fewer(t, a.Chain, by)
	return a, err
}

// dated is the answer of a trial for another date than the one that was asked, said of that.
func (q *Question) dated(t *trial, asked studio.Minute) (*Answer, error) {
	t.found = true
	a, err := q.answer(t)
	if err != nil {
		return nil, err
	}
	slack := asked - *t.outcome.Ready
	late := max(0, -slack)
	a.Searched = true
	a.Outcome.ReadyBy, a.Outcome.Slack = asked, &slack
	a.Outcome.Late, a.Outcome.Steps = late, int64(studio.CeilDiv(late, studio.LateStep))
	return a, nil
}

// guarding is how many times as much others weigh as the order that is asked for.
const guarding = 1000

// guarded is a document in which nobody else is to be late by an order, whatever that costs it.
func guarded(doc *studio.Document, order studio.ID) *studio.Document {
	d := *doc
	d.Orders = slices.Clone(doc.Orders)
	for i := range d.Orders {
		d.Orders[i].Importance *= guarding
		if d.Orders[i].ID == order {
			d.Orders[i].Importance = 1
		}
	}
	if doc.Direct != nil {
		direct := *doc.Direct
		direct.Orders = slices.Clone(direct.Orders)
		for i := range direct.Orders {
			direct.Orders[i].Importance *= guarding
			if direct.Orders[i].ID == order {
				direct.Orders[i].Importance = 1
			}
		}
		d.Direct = &direct
	}
	return &d
}

// searched is a trial, or a better one that a search finds.
func (q *Question) searched(t *trial, by Search) (*trial, error) {
	if by.Steps == 0 {
		return t, nil
	}
	if q.From != nil {
		var err error
		rounds := max(leastRounds, min(by.Steps/mendingEach, mostRounds))
		if t, err = q.mended(t, by, rounds); err != nil || t.kept() || stopped(by.Stop) {
			return t, err
		}
	}
	made, err := plan.Make(guarded(t.doc, q.Order), t.counted, plan.Options{LatenessOnly: true, FixedLots: true,
		From: q.From, Steps: by.Steps, Seed: 1, Stop: by.Stop, Abandon: q.Abandon})
	if err != nil {
		return nil, err
	}
	other, err := q.as(t.doc, t.counted, made)
	if err != nil || !other.better(t) {
		return t, err
	}
	other.found = true
	return other, nil
}

// as is a plan that was made for a document that differs in dates and weights alone, as one of this document.
func (q *Question) as(doc *studio.Document, counted *count.Result, made *studio.Plan) (*trial, error) {
	own, err := plan.Repair(doc, counted, made, q.Abandon)
	if err != nil {
		return nil, err
	}
	return q.judged(doc, counted, own)
}

// Without is a document without an order. From a direct one the lots go with it that no other order needs.
func Without(doc *studio.Document, order studio.ID) (*studio.Document, error) {
	d := *doc
	d.Orders = slices.DeleteFunc(slices.Clone(doc.Orders), func(o studio.Order) bool { return o.ID == order })
	if doc.Direct == nil {
		return &d, nil
	}
	d.Direct = withoutWant(doc.Direct, order)
	d.Pins = slices.Clone(doc.Pins)
	kept := d.Direct.Activities()
	d.Pins = slices.DeleteFunc(d.Pins, func(p studio.Pin) bool { return kept[p.Task] == nil })
	d.Seen = slices.DeleteFunc(slices.Clone(doc.Seen), func(s studio.Seen) bool { return kept[s.Task] == nil })
	return &d, nil
}

// withoutWant is an instance without an order and without the lots that no other needs.
func withoutWant(whole *studio.Instance, order studio.ID) *studio.Instance {
	lotOf := map[studio.ID]studio.ID{}
	for _, l := range whole.Lots {
		for _, a := range l.Tasks {
			lotOf[a.ID] = l.ID
		}
	}
	into := map[studio.ID][]studio.ID{}
	for _, k := range whole.Links {
		into[lotOf[k.To]] = append(into[lotOf[k.To]], lotOf[k.From])
	}
	needs := func(orders func(studio.ID) bool) map[studio.ID]bool {
		all := map[studio.ID]bool{}
		var need func(studio.ID)
		need = func(lot studio.ID) {
			if !all[lot] {
				all[lot] = true
				for _, from := range into[lot] {
					need(from)
				}
			}
		}
		for _, w := range whole.Orders {
			for _, lot := range w.Lots {
				if orders(w.ID) {
					need(lot)
				}
			}
		}
		return all
	}
	its := needs(func(id studio.ID) bool { return id == order })
	others := needs(func(id studio.ID) bool { return id != order })
	only := func(lot studio.ID) bool { return its[lot] && !others[lot] }
	left := *whole
	left.Orders = slices.DeleteFunc(slices.Clone(whole.Orders), func(w studio.Want) bool { return w.ID == order })
	left.Lots = slices.DeleteFunc(slices.Clone(whole.Lots), func(l studio.Routing) bool { return only(l.ID) })
	left.Links = slices.DeleteFunc(slices.Clone(whole.Links), func(k studio.Lag) bool {
		return only(lotOf[k.From]) || only(lotOf[k.To])
	})
	return &left
}
