// Package check confirms that a plan obeys the rules, or names each breach.
//
// It is written from the format page (docs/formats/studio.md), on its own: it
// shares nothing with the planner but the document, the instance of the problem
// that the document comes down to, its calendar, and the drying clock.
package check

import (
	"fmt"
	"slices"

	"bractum/core/drying"
	"bractum/core/studio"
)

// Code names the rule that a breach breaks.
type Code string

// Codes of breaches.
const (
	UnknownThing   Code = "unknown-thing"
	MissingTask    Code = "missing-task"
	OrderShort     Code = "order-short"
	InputShort     Code = "input-short"
	InputFromStock Code = "input-from-stock"
	LotOverdrawn   Code = "lot-overdrawn"
	LotWrong       Code = "lot-wrong"
	TakesReserved  Code = "takes-reserved"
	FactChanged    Code = "fact-changed"
	PinMoved       Code = "pin-moved"
	BeforeNow      Code = "before-now"
	GateShut       Code = "gate-shut"
	MaterialShort  Code = "material-short"
	WrongDuration  Code = "wrong-duration"
	NoSkill        Code = "no-skill"
	OutsideHours   Code = "outside-hours"
	PastHorizon    Code = "past-horizon"
	Interrupted    Code = "interrupted"
	TwoAtOnce      Code = "two-at-once"
	StepOrder      Code = "step-order"
	AfterUnplaced  Code = "after-unplaced"
	TooEarly       Code = "too-early"
	TooLate        Code = "too-late"
	OverdueUnsaid  Code = "overdue-unsaid"
	NarrowUnsaid   Code = "narrow-unsaid"
	WrongWait      Code = "wrong-wait"
	WaitNotAtOnce  Code = "wait-not-at-once"
	WrongHold      Code = "wrong-hold"
	PlaceOverfull  Code = "place-overfull"
	KeptTooLong    Code = "kept-too-long"
	WrongTool      Code = "wrong-tool"
	ToolOverused   Code = "tool-overused"
	WrongLoad      Code = "wrong-load"
	MachineOverful Code = "machine-overfull"
	WrongSetup     Code = "wrong-setup"
	OutcomeWrong   Code = "outcome-wrong"
	ObjectiveWrong Code = "objective-wrong"
)

// Breach is one rule broken, where, and by what.
type Breach struct {
	Code   Code      `json:"code"`
	Task   studio.ID `json:"task,omitempty"`
	Detail string    `json:"detail"`
}

// Report is what the checker found: the breaches, none if the plan holds, and
// what the plan means for each order and is worth, reckoned anew.
type Report struct {
	Breaches  []Breach         `json:"breaches"`
	Orders    []studio.Outcome `json:"orders"`
	Objective studio.Objective `json:"objective"`
}

// Plan lists all breaches of a plan for a valid document, none if it holds.
func Plan(doc *studio.Document, plan *studio.Plan) []Breach { return Reckon(doc, plan).Breaches }

// Reckon checks a plan for a valid document and works out what it is worth. When
// the plan speaks of things that are not there, nothing else is looked at.
func Reckon(doc *studio.Document, plan *studio.Plan) Report {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return Report{Breaches: []Breach{{Code: UnknownThing, Detail: err.Error()}}}
	}
	c := &checker{
		doc:      doc,
		plan:     plan,
		calendar: calendar,
		book:     studio.NewBook(doc),
		air:      drying.NewRoom(doc, calendar),
		everyone: doc.Everyone(calendar),
		gates:    doc.Outside(calendar),
		tasks:    map[studio.ID]*studio.Task{},
		unplaced: map[studio.ID]bool{},
		hours:    map[studio.ID]studio.Hours{},
		longer:   map[studio.ID]studio.Hours{},
		people:   map[studio.ID]*studio.Person{},
		lying:    map[studio.ID]studio.Minute{},
		overdue:  map[studio.ID]studio.Minute{},
		breaches: []Breach{},
	}
	if doc.Direct == nil {
		c.supply()
	}
	if len(c.breaches) == 0 || !c.unknown() {
		c.instance = studio.Route(doc, c.book, plan.Lots, plan.Links, plan.Pegs)
		c.activities = c.instance.Activities()
		c.index()
	}
	if c.unknown() {
		return Report{Breaches: c.breaches}
	}
	for _, l := range c.instance.Lots {
		c.lot(l)
	}
	if doc.Direct == nil {
		c.materials()
	}
	c.links()
	c.makers()
	c.places()
	c.tools()
	c.machines()
	orders, objective := c.worth()
	return Report{Breaches: c.breaches, Orders: orders, Objective: objective}
}

type checker struct {
	doc        *studio.Document
	plan       *studio.Plan
	calendar   studio.Calendar
	book       *studio.Book
	air        drying.Room
	everyone   studio.Hours
	gates      []studio.Gate
	instance   *studio.Instance
	activities map[studio.ID]*studio.Activity
	tasks      map[studio.ID]*studio.Task
	unplaced   map[studio.ID]bool
	people     map[studio.ID]*studio.Person
	hours      map[studio.ID]studio.Hours  // working time
	longer     map[studio.ID]studio.Hours  // with all allowed overtime
	lying      map[studio.ID]studio.Minute // what is held already, since when
	overdue    map[studio.ID]studio.Minute // by how much pieces that are there are taken up too late
	breaches   []Breach
}

func (c *checker) say(code Code, task studio.ID, format string, args ...any) {
	c.breaches = append(c.breaches, Breach{Code: code, Task: task, Detail: fmt.Sprintf(format, args...)})
}

func (c *checker) unknown() bool {
	return slices.ContainsFunc(c.breaches, func(b Breach) bool { return b.Code == UnknownThing })
}

// index looks everything up that the plan names.
func (c *checker) index() {
	if c.plan.Now != c.doc.Now {
		c.say(UnknownThing, "", "the plan was made at %d, the document stands at %d", c.plan.Now, c.doc.Now)
	}
	for i := range c.doc.People {
		p := &c.doc.People[i]
		c.people[p.ID] = p
		c.hours[p.ID] = studio.HoursOf(*p, c.calendar, c.doc.Since(), c.doc.Horizon())
		c.longer[p.ID] = studio.Together(
			c.hours[p.ID],
			studio.OvertimeOf(*p, c.calendar, c.doc.Since(), c.doc.Horizon()),
		)
	}
	lotOf := map[studio.ID]studio.ID{}
	for _, l := range c.instance.Lots {
		for i, a := range l.Tasks {
			lotOf[a.ID] = l.ID
			if since, lies := l.Lies(i); lies {
				c.lying[a.ID] = since
			}
		}
	}
	for i := range c.plan.Tasks {
		t := &c.plan.Tasks[i]
		a := c.activities[t.ID]
		switch {
		case a == nil || c.tasks[t.ID] != nil || lotOf[t.ID] != t.Lot || a.Step != t.Step:
			c.say(UnknownThing, t.ID, "stands twice, or is no task of lot %q", t.Lot)
		case t.End < t.Begin():
			c.say(UnknownThing, t.ID, "ends at %d before it begins at %d", t.End, t.Begin())
		case (a.Wait == nil) != (c.people[t.Person] != nil):
			c.say(UnknownThing, t.ID, "with person %q: work has a known person, a wait has none", t.Person)
		}
		c.tasks[t.ID] = t
	}
	for _, u := range c.plan.Unplaced {
		if c.activities[u.Task] == nil {
			c.say(UnknownThing, u.Task, "is said to be unplaced; there is no such task")
		}
		if c.unplaced[u.Task] {
			c.say(UnknownThing, u.Task, "is said to be unplaced twice")
		}
		c.unplaced[u.Task] = true
	}
}

// emptied is when what ends at a minute is taken away: the first minute from
// then on at which anybody is on shift.
func (c *checker) emptied(end studio.Minute) studio.Minute {
	if to, ok := c.everyone.Next(end); ok {
		return to
	}
	return max(end, c.doc.Horizon())
}
