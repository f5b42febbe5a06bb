package situation

import (
	"sync"

	"bractum/core/count"
	"bractum/core/drying"
	"bractum/core/paste"
	"bractum/core/plan"
	"bractum/core/stores"
	"bractum/core/studio"
	"bractum/core/wire"
)

// Answer is a document with its count and a plan, and what is found in them by id.
// It is not changed once it is made; what costs something is worked out when it is asked
// for, once, and every goroutine may ask.
type Answer struct {
	Doc   *studio.Document
	Book  *studio.Book
	Count *count.Result
	Plan  *studio.Plan
	Lots  map[studio.ID]*studio.Lot
	Tasks map[studio.ID]*studio.Task

	// settled is the answer whose count and plan this one has, with the document that
	// they were worked out of; itself where that is its own.
	settled *Answer

	air        func() drying.Room
	sheets     func() []wire.Sheet
	mixes      func() []paste.MixSheet
	materials  func() []count.MaterialNeed
	takes      func() map[studio.ID][]stores.Take
	open       func() map[studio.ID][]*studio.Task
	batches    func() map[studio.ID]studio.InBatch
	orders     func() map[studio.ID][]studio.ID
	instance   func() *studio.Instance
	activities func() map[studio.ID]*studio.Activity
	account    func() (*plan.Explanation, error)
	everyone   func() studio.Hours
}

// AtWork is a minute at which anybody is at work: that, or the last before it. What is to be begun by
// some hour of the night is to be begun by then.
func (a *Answer) AtWork(m studio.Minute) studio.Minute { return a.everyone().LastBefore(m) }

// Air are the drying clocks of the document.
func (a *Answer) Air() drying.Room { return a.air() }

// Sheets are the cutting sheets of the lots.
func (a *Answer) Sheets() []wire.Sheet { return a.sheets() }

// MixSheets are the sheets of the mixings that are still to be weighed.
func (a *Answer) MixSheets() []paste.MixSheet { return a.mixes() }

// Materials are what is needed of materials.
func (a *Answer) Materials() []count.MaterialNeed { return a.materials() }

// Takes are what tasks take of materials, in order of time.
func (a *Answer) Takes() map[studio.ID][]stores.Take { return a.takes() }

// Open are the tasks that are not done of a person, or of nobody: what lies and dries.
func (a *Answer) Open(person studio.ID) []*studio.Task { return a.open()[person] }

// OrdersOf are the orders that a lot works for.
func (a *Answer) OrdersOf(lot studio.ID) []studio.ID { return a.orders()[lot] }

// Batches are those that lots belong to.
func (a *Answer) Batches() map[studio.ID]studio.InBatch { return a.batches() }

// Instance is what the tasks of the plan have to be.
func (a *Answer) Instance() *studio.Instance { return a.instance() }

// Activity is what a task of the plan has to be; nil where it was done when the plan was
// worked out, and is to be done again.
func (a *Answer) Activity(task studio.ID) *studio.Activity {
	if was, is := a.settled.Tasks[task], a.Tasks[task]; was != nil && is != nil && was.State == studio.TaskDone &&
		is.State != studio.TaskDone {
		return nil
	}
	return a.activities()[task]
}

// Account is why the plan is as it is, of the moment that it was worked out for. It costs
// about what a plan costs.
func (a *Answer) Account() (*plan.Explanation, error) { return a.settled.account() }

// Settled is the answer as it was worked out: its document, count and plan are of one
// moment.
func (a *Answer) Settled() *Answer { return a.settled }

// NewAnswer is a document with its count and a plan that was made for them.
func NewAnswer(doc *studio.Document, calendar studio.Calendar, counted *count.Result, made *studio.Plan) *Answer {
	a := &Answer{Doc: doc, Book: studio.NewBook(doc), Count: counted, Plan: made,
		Lots: make(
			map[studio.ID]*studio.Lot,
			len(made.Lots),
		), Tasks: make(map[studio.ID]*studio.Task, len(made.Tasks))}
	a.settled = a
	for i := range made.Lots {
		a.Lots[made.Lots[i].ID] = &made.Lots[i]
	}
	for i := range made.Tasks {
		a.Tasks[made.Tasks[i].ID] = &made.Tasks[i]
	}
	a.everyone = sync.OnceValue(func() studio.Hours { return doc.Everyone(calendar) })
	a.air = sync.OnceValue(func() drying.Room { return drying.NewRoom(doc, calendar) })
	a.sheets = sync.OnceValue(func() []wire.Sheet { return wire.Sheets(doc, made.Lots) })
	a.mixes = sync.OnceValue(func() []paste.MixSheet { return paste.MixSheets(doc, made.Lots, made.Links) })
	a.materials = sync.OnceValue(func() []count.MaterialNeed { return count.Materials(doc, made.Lots, a.Sheets()) })
	a.takes = sync.OnceValue(func() map[studio.ID][]stores.Take { return stores.Takes(doc, made, a.Sheets()) })
	a.open = sync.OnceValue(func() map[studio.ID][]*studio.Task {
		open := map[studio.ID][]*studio.Task{}
		for i := range made.Tasks {
			if t := &made.Tasks[i]; t.State != studio.TaskDone {
				open[t.Person] = append(open[t.Person], t)
			}
		}
		return open
	})
	a.batches = sync.OnceValue(func() map[studio.ID]studio.InBatch {
		begins := map[studio.ID]studio.Minute{}
		for _, t := range made.Tasks {
			if at, known := begins[t.Lot]; !known || t.Start < at {
				begins[t.Lot] = t.Start
			}
		}
		all := a.Book.Batches(made.Lots, made.Links)
		studio.InTurn(all, made.Lots, func(lot studio.ID) (studio.Minute, bool) {
			at, planned := begins[lot]
			return at, planned
		})
		return all
	})
	a.orders = sync.OnceValue(func() map[studio.ID][]studio.ID { return plan.OrdersOf(made) })
	a.instance = sync.OnceValue(func() *studio.Instance {
		return studio.Route(doc, a.Book, made.Lots, made.Links, made.Pegs)
	})
	a.activities = sync.OnceValue(func() map[studio.ID]*studio.Activity { return a.instance().Activities() })
	a.account = sync.OnceValues(func() (*plan.Explanation, error) { return plan.Account(doc, made) })
	return a
}

// WithPlan is the answer with another plan than the one that was worked out, such as one
// that was in force earlier: nobody knows any more why that is as it is.
func (a *Answer) WithPlan(made *studio.Plan, calendar studio.Calendar) *Answer {
	b := NewAnswer(a.Doc, calendar, a.Count, made)
	b.account = func() (*plan.Explanation, error) { return &plan.Explanation{}, nil }
	return b
}

// nothing is an answer of nothing yet to a document.
func nothing(doc *studio.Document, calendar studio.Calendar) *Answer {
	return NewAnswer(doc, calendar, &count.Result{Items: []count.Item{}, Lots: []studio.Lot{}, Links: []studio.Link{},
		Pegs:  []studio.Peg{},
		Notes: []count.Note{}}, emptyPlan(doc))
}

func emptyPlan(doc *studio.Document) *studio.Plan {
	return &studio.Plan{Format: studio.PlanFormat, Version: studio.Version, Now: doc.Now, Lots: []studio.Lot{},
		Links: []studio.Link{}, Pegs: []studio.Peg{},
		Tasks: []studio.Task{}, Unplaced: []studio.Unplaced{}, Orders: []studio.Outcome{}}
}
