package situation

import (
	"reflect"
	"slices"

	"bractum/core/studio"
)

// carried is an answer with what has been recorded since it was worked out: another
// document, the count as it was, and the plan with what has happened to its tasks. What
// the count or the plan would say to that is not in it. Where a recipe that they are made
// of is not in the book any more, nothing of them is left.
//
// It takes time proportional to the plan where something has happened to its lots, and
// hardly any otherwise; no planning.
func (a *Answer) carried(doc *studio.Document, calendar studio.Calendar) *Answer {
	from := a.settled
	book := a.Book
	if !studio.Shared(a.Doc.Recipes, doc.Recipes) || !studio.Shared(a.Doc.Materials, doc.Materials) || !book.Knows(doc) {
		book = studio.NewBook(doc)
	}
	if from.strange(book) {
		return nothing(doc, calendar)
	}
	var c *Answer
	if studio.Shared(from.Doc.Work, doc.Work) || reflect.DeepEqual(from.Doc.Work, doc.Work) {
		still := *from
		c = &still
		c.Doc, c.Plan = doc, asOf(from.Plan, doc)
	} else {
		c = NewAnswer(doc, calendar, from.Count, withFacts(from.Plan, doc, book))
		c.air, c.orders, c.activities, c.sheets = from.air, from.orders, from.activities, from.sheets // of the same plan
	}
	c.Book, c.settled = book, from
	return c
}

// asOf is a plan at the moment of a document, without the orders that are not open in it.
func asOf(made *studio.Plan, doc *studio.Document) *studio.Plan {
	open := make(map[studio.ID]bool, len(doc.Orders))
	for i := range doc.Orders {
		open[doc.Orders[i].ID] = doc.Orders[i].State == studio.OrderOpen
	}
	p := *made
	p.Now = doc.Now
	p.Orders = slices.DeleteFunc(slices.Clone(made.Orders), func(o studio.Outcome) bool { return !open[o.Order] })
	return &p
}

// strange is true where something is made of a recipe that a book does not have.
func (a *Answer) strange(book *studio.Book) bool {
	return slices.ContainsFunc(a.Plan.Lots, func(l studio.Lot) bool { return book.Of(l.Made()) == nil })
}

// withFacts is a plan with what a document records of its lots and tasks. What was begun
// ends as much later, or earlier, as it was begun.
func withFacts(made *studio.Plan, doc *studio.Document, book *studio.Book) *studio.Plan {
	p := asOf(made, doc)
	p.Lots, p.Tasks = slices.Clone(made.Lots), slices.Clone(made.Tasks)
	work := make(map[studio.ID]*studio.WorkLot, len(doc.Work))
	for i := range doc.Work {
		work[doc.Work[i].ID] = &doc.Work[i]
	}
	for i := range p.Lots {
		l := &p.Lots[i]
		if w := work[l.ID]; w != nil {
			progress := w.Progress(book.Of(l.Made()))
			l.InWork, l.Alive, l.NextStep = true, progress.Alive, progress.NextStep
		}
	}
	var late studio.Minute // by how much the task before, of the same lot, ends later than it was to
	for i := range p.Tasks {
		t := &p.Tasks[i]
		if i > 0 && p.Tasks[i-1].Lot != t.Lot {
			late = 0
		}
		was := t.End
		var record *studio.TaskRecord
		if w := work[t.Lot]; w != nil {
			record = w.Record(t.Step)
		}
		switch {
		case record == nil:
			if t.Person != "" || t.Load != nil {
				t.State, late = studio.TaskPlanned, 0
				continue
			}
			t.Start, t.End = t.Start+late, t.End+late // a wait in the air has no record of its own
		case record.State == studio.TaskDone:
			t.State, t.Person, t.Start, t.End = studio.TaskDone, record.Person, record.Start, record.End
			t.Resume, t.Pauses = nil, nil
		case t.State != record.State || t.Start != record.Start:
			if t.State == studio.TaskPlanned {
				t.End, t.Pauses = max(doc.Now, t.End+record.Start-t.Start), nil
			}
			t.State, t.Start = record.State, record.Start
			if t.Load == nil {
				t.Person = record.Person
			}
		}
		late = t.End - was
	}
	return p
}
