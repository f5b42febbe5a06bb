// Package check confirms that a plan obeys the rules, or names each breach.
//
// It is written on its own: it shares nothing with the planner but the document,
// its calendar, and the drying clock.
package check

import (
	"fmt"
	"sort"

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
	LotOverdrawn   Code = "lot-overdrawn"
	BeforeNow      Code = "before-now"
	WrongDuration  Code = "wrong-duration"
	NoSkill        Code = "no-skill"
	OutsideHours   Code = "outside-hours"
	Interrupted    Code = "interrupted"
	TwoAtOnce      Code = "two-at-once"
	StepOrder      Code = "step-order"
	InputNotReady  Code = "input-not-ready"
	WaitTooShort   Code = "wait-too-short"
	WaitNotAtOnce  Code = "wait-not-at-once"
	WrongHold      Code = "wrong-hold"
	PlaceOverfull  Code = "place-overfull"
	FactChanged    Code = "fact-changed"
	OutcomeWrong   Code = "outcome-wrong"
	ObjectiveWrong Code = "objective-wrong"
)

// Breach is one rule broken, where, and by what.
type Breach struct {
	Code   Code      `json:"code"`
	Task   studio.ID `json:"task,omitempty"`
	Detail string    `json:"detail"`
}

// Plan lists all breaches of a plan for a valid document, none if it holds.
func Plan(doc *studio.Document, plan *studio.Plan) []Breach {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return []Breach{{UnknownThing, "", err.Error()}}
	}
	c := &checker{doc: doc, plan: plan, calendar: calendar, book: studio.NewBook(doc), air: drying.NewRoom(doc, calendar),
		everyone: doc.Everyone(calendar), lots: map[studio.ID]*studio.Lot{}, tasks: map[studio.ID]*studio.Task{},
		unplaced: map[studio.ID]bool{}, hours: map[studio.ID]studio.Hours{}, people: map[studio.ID]studio.Person{}, breaches: []Breach{}}
	if !c.index() {
		return c.breaches
	}
	c.supply()
	for i := range plan.Lots {
		c.steps(&plan.Lots[i])
	}
	c.inputs()
	c.peopleOnce()
	c.places()
	c.outcomes()
	return c.breaches
}

type checker struct {
	doc      *studio.Document
	plan     *studio.Plan
	calendar studio.Calendar
	book     *studio.Book
	air      drying.Room
	everyone studio.Hours
	lots     map[studio.ID]*studio.Lot
	tasks    map[studio.ID]*studio.Task
	unplaced map[studio.ID]bool
	hours    map[studio.ID]studio.Hours
	people   map[studio.ID]studio.Person
	breaches []Breach
}

func (c *checker) say(code Code, task studio.ID, format string, args ...any) {
	c.breaches = append(c.breaches, Breach{code, task, fmt.Sprintf(format, args...)})
}

// index looks everything up that the plan names; what it cannot find ends the check.
func (c *checker) index() bool {
	for _, p := range c.doc.People {
		c.people[p.ID], c.hours[p.ID] = p, studio.HoursOf(p, c.calendar, 0, c.doc.Horizon())
	}
	if c.plan.Now != c.doc.Now {
		c.say(UnknownThing, "", "the plan was made at %d, the document stands at %d", c.plan.Now, c.doc.Now)
	}
	for i := range c.plan.Lots {
		l := &c.plan.Lots[i]
		if c.lots[l.ID] != nil || c.book.Recipe(l.Recipe) == nil {
			c.say(UnknownThing, "", "lot %q stands twice or is of unknown recipe %q", l.ID, l.Recipe)
		}
		c.lots[l.ID] = l
	}
	for i := range c.plan.Tasks {
		t := &c.plan.Tasks[i]
		lot := c.lots[t.Lot]
		if lot == nil || c.tasks[t.ID] != nil || t.ID != studio.TaskID(t.Lot, t.Step) || t.End < t.Begin() {
			c.say(UnknownThing, t.ID, "stands twice, ends before it starts, or is of an unknown lot")
		} else if r := c.book.Recipe(lot.Recipe); r != nil {
			if step, at := r.Step(t.Step); at < 0 || (step.Work != nil) != (c.hours[t.Person] != nil || c.people[t.Person].ID != "") {
				c.say(UnknownThing, t.ID, "step %q of %q with person %q: work has a known person, a wait has none", t.Step, r.Name, t.Person)
			}
		}
		c.tasks[t.ID] = t
	}
	for _, u := range c.plan.Unplaced {
		c.unplaced[u.Task] = true
	}
	return len(c.breaches) == 0
}

// supply checks that orders get what they want and lots their inputs, from lots
// and shelf that have so much.
func (c *checker) supply() {
	drawn := map[studio.ID]int64{}
	forLine := map[studio.ID]int64{}
	peg := func(p studio.Peg, from studio.ID) {
		forLine[p.Line] += p.Quantity
		drawn[from] += p.Quantity
	}
	for _, p := range c.plan.Pegs {
		peg(p, p.From)
	}
	for _, l := range c.plan.Lots {
		for _, p := range l.Pegs {
			peg(p, l.ID)
		}
	}
	for _, o := range c.doc.Orders {
		for _, line := range o.Lines {
			if o.State == studio.OrderOpen && forLine[line.ID] < line.Quantity {
				c.say(OrderShort, "", "order %q wants %d of %q, the plan makes or takes %d", o.Name, line.Quantity, c.book.Recipe(line.Recipe).Name, forLine[line.ID])
			}
		}
	}
	type input struct {
		to     studio.ID
		step   string
		recipe studio.ID
	}
	got := map[input]int64{}
	for _, k := range c.plan.Links {
		got[input{k.To, k.Step, k.Recipe}] += k.Quantity
		drawn[k.From] += k.Quantity
	}
	for i := range c.plan.Lots {
		l := &c.plan.Lots[i]
		r := c.book.Recipe(l.Recipe)
		for _, p := range r.Parts {
			if _, at := r.Step(p.Step); at >= l.NextStep && got[input{l.ID, p.Step, p.Recipe}] < p.Count*l.Alive {
				c.say(InputShort, studio.TaskID(l.ID, p.Step), "needs %d of %q, gets %d", p.Count*l.Alive,
					c.book.Recipe(p.Recipe).Name, got[input{l.ID, p.Step, p.Recipe}])
			}
		}
	}
	c.pastes(func(l *studio.Lot, p studio.PasteInput) bool { return got[input{l.ID, p.Step, l.Mixes[p.Slot]}] > 0 })
	has := map[studio.ID]int64{}
	for _, l := range c.plan.Lots {
		has[l.ID] = l.Alive
	}
	made := map[studio.ID]int64{}
	for _, s := range c.doc.Shelf {
		if s.From != "" {
			made[s.From] += s.Amount
		} else {
			has[s.ID] = s.Amount
		}
	}
	for lot, amount := range made {
		has[lot] = amount // what was made of it lies on the shelf; the rest was used
	}
	for from, amount := range drawn {
		if amount > has[from] {
			c.say(LotOverdrawn, "", "%q gives %d and has %d", from, amount, has[from])
		}
	}
}

// pastes checks that every paste still to be taken up comes from some mixing.
// How many grams that is, is the count's affair.
func (c *checker) pastes(linked func(*studio.Lot, studio.PasteInput) bool) {
	for i := range c.plan.Lots {
		l := &c.plan.Lots[i]
		r := c.book.Recipe(l.Recipe)
		for _, p := range r.Pastes {
			if _, at := r.Step(p.Step); at >= l.NextStep && !linked(l, p) {
				c.say(InputShort, studio.TaskID(l.ID, p.Step), "takes %q from no mixing", p.Slot)
			}
		}
	}
}

// steps checks the tasks of one lot one by one and against each other.
func (c *checker) steps(l *studio.Lot) {
	r := c.book.Recipe(l.Recipe)
	var work *studio.WorkLot
	for i := range c.doc.Work {
		if c.doc.Work[i].ID == l.ID {
			work = &c.doc.Work[i]
		}
	}
	var before *studio.Task
	gone := false
	for i, step := range r.Steps {
		id := studio.TaskID(l.ID, step.Key)
		t := c.tasks[id]
		if t == nil {
			if !c.unplaced[id] {
				c.say(MissingTask, id, "step %q of %q is neither planned nor said to be unplaced", step.Name, r.Name)
			}
			gone = true
			continue
		}
		if gone || c.unplaced[id] {
			c.say(StepOrder, id, "is planned though a step before it, or it itself, is unplaced")
		}
		var record *studio.TaskRecord
		if work != nil {
			record = work.Record(step.Key)
		}
		switch {
		case record != nil && (t.State != record.State || t.Person != record.Person || t.Start != record.Start ||
			record.State == studio.TaskDone && t.End != record.End):
			c.say(FactChanged, id, "%q happened otherwise: %s by %q from %d to %d", step.Name, record.State, record.Person, record.Start, record.End)
		case record == nil && step.Work != nil && t.State != studio.TaskPlanned:
			c.say(FactChanged, id, "%q is said to be %s; nothing is recorded of it", step.Name, t.State)
		}
		if before != nil && t.Start < before.End {
			c.say(StepOrder, id, "%q starts at %d, before %q ends at %d", step.Name, t.Start, before.Step, before.End)
		}
		if step.Wait != nil {
			c.wait(t, step, before, i < l.NextStep)
		} else if t.State != studio.TaskDone {
			c.work(t, l, r, step, work, record)
		}
		before = t
	}
}

func (c *checker) wait(t *studio.Task, step studio.Step, before *studio.Task, over bool) {
	if before == nil {
		return
	}
	if t.Start != before.End {
		c.say(WaitNotAtOnce, t.ID, "%q starts at %d, the step before ends at %d", step.Name, t.Start, before.End)
	}
	end, ok := c.air.End(*step.Wait, t.Start)
	foundReady := over && t.End <= c.doc.Now // a person found it ready and went on
	if !foundReady && (!ok || t.End < end) && !c.wentOn(t) {
		c.say(WaitTooShort, t.ID, "%q from %d may end at %d, not at %d", step.Name, t.Start, end, t.End)
	}
}

// wentOn is true of a wait after which somebody has begun the next step.
func (c *checker) wentOn(t *studio.Task) bool {
	r := c.book.Recipe(c.lots[t.Lot].Recipe)
	_, at := r.Step(t.Step)
	for _, step := range r.Steps[at+1:] {
		if next := c.tasks[studio.TaskID(t.Lot, step.Key)]; next != nil && step.Work != nil {
			return next.State != studio.TaskPlanned && next.Start >= t.End
		}
	}
	return false
}

func (c *checker) work(t *studio.Task, l *studio.Lot, r *studio.Recipe, step studio.Step, work *studio.WorkLot, record *studio.TaskRecord) {
	setup, pieces := step.Work.Setup, r.Pieces(l.Alive)
	if record != nil {
		setup, pieces = 0, r.Pieces(work.Entering(step.Key)-record.Counted())
	}
	pace := c.people[t.Person].Pace(step.Work.Skill)
	if pace == 0 {
		if record == nil {
			c.say(NoSkill, t.ID, "%q has not got %s", c.people[t.Person].Name, step.Work.Skill)
			return
		}
		pace = 100
	}
	if t.Begin() < c.doc.Now {
		c.say(BeforeNow, t.ID, "begins at %d, now is %d", t.Begin(), c.doc.Now)
	}
	hours := c.hours[t.Person]
	span := studio.Span{From: t.Begin(), To: t.End}
	if first, ok := hours.Next(span.From); !ok || first != span.From || hours.LastBefore(span.To) != span.To {
		c.say(OutsideHours, t.ID, "from %d to %d does not begin and end within %q's hours", span.From, span.To, c.people[t.Person].Name)
	}
	if want, worked := max(1, studio.WorkMinutes(setup, step.Work.PerPiece, pieces, pace)), hours.Worked(span); worked != want {
		c.say(WrongDuration, t.ID, "takes %d working minutes; %d pieces at pace %d take %d", worked, pieces, pace, want)
	}
	if !step.Work.MayPause && t.State != studio.TaskStarted && hours.Worked(span) != span.To-span.From {
		c.say(Interrupted, t.ID, "%q may not pause", step.Name)
	}
	if t.Pieces != pieces {
		c.say(WrongDuration, t.ID, "says %d pieces, %d are left", t.Pieces, pieces)
	}
}

func (c *checker) inputs() {
	for _, k := range c.plan.Links {
		from, to := c.lots[k.From], c.lots[k.To]
		if to == nil {
			c.say(UnknownThing, "", "a link feeds unknown lot %q", k.To)
			continue
		}
		t := c.tasks[studio.TaskID(k.To, k.Step)]
		if from == nil || t == nil || t.State != studio.TaskPlanned {
			continue
		}
		steps := c.book.Recipe(from.Recipe).Steps
		last := c.tasks[studio.TaskID(from.ID, steps[len(steps)-1].Key)]
		if last == nil || last.End > t.Start {
			c.say(InputNotReady, t.ID, "starts at %d, before its input %q is ready", t.Start, c.book.Recipe(from.Recipe).Name)
		}
	}
}

func (c *checker) peopleOnce() {
	byPerson := map[studio.ID][]*studio.Task{}
	for i := range c.plan.Tasks {
		if t := &c.plan.Tasks[i]; t.Person != "" && t.State != studio.TaskDone {
			byPerson[t.Person] = append(byPerson[t.Person], t)
		}
	}
	for _, p := range c.doc.People {
		tasks := byPerson[p.ID]
		sort.Slice(tasks, func(i, j int) bool { return tasks[i].Begin() < tasks[j].Begin() })
		for i := 1; i < len(tasks); i++ {
			if tasks[i].Begin() < tasks[i-1].End {
				c.say(TwoAtOnce, tasks[i].ID, "%q is at %q until %d", p.Name, tasks[i-1].ID, tasks[i-1].End)
			}
		}
	}
}

// places works out every hold anew and adds up what lies in each place.
func (c *checker) places() {
	type change struct {
		at    studio.Minute
		slots int64
		task  studio.ID
	}
	changes := map[studio.ID][]change{}
	for i := range c.plan.Tasks {
		t := &c.plan.Tasks[i]
		l := c.lots[t.Lot]
		r := c.book.Recipe(l.Recipe)
		step, _ := r.Step(t.Step)
		for j, h := range step.Holds {
			until := c.tasks[studio.TaskID(l.ID, h.Until)]
			if until == nil {
				continue
			}
			to, ok := c.everyone.Next(until.End)
			if !ok {
				to = max(until.End, c.doc.Horizon())
			}
			slots := studio.CeilDiv(c.piecesAt(l, r, t.Step), h.PerSlot)
			want := studio.Held{Place: h.Place, Slots: slots, From: t.Start, To: to}
			if j >= len(t.Holds) || t.Holds[j] != want {
				c.say(WrongHold, t.ID, "holds %v; %v would be right", t.Holds, want)
			}
			if to > c.doc.Now {
				changes[h.Place] = append(changes[h.Place], change{t.Start, slots, t.ID}, change{to, -slots, t.ID})
			}
		}
	}
	for _, p := range c.doc.Places {
		all := changes[p.ID]
		sort.Slice(all, func(i, j int) bool {
			if all[i].at != all[j].at {
				return all[i].at < all[j].at
			}
			return all[i].slots < all[j].slots
		})
		var used int64
		for _, ch := range all {
			used += ch.slots
			if planned := c.tasks[ch.task].State == studio.TaskPlanned; used > p.Slots && ch.slots > 0 && planned {
				c.say(PlaceOverfull, ch.task, "%q has %d slots, %d are taken at %d", p.Name, p.Slots, used, ch.at)
			}
		}
	}
}

func (c *checker) piecesAt(l *studio.Lot, r *studio.Recipe, step string) int64 {
	for i := range c.doc.Work {
		if c.doc.Work[i].ID == l.ID {
			return r.Pieces(c.doc.Work[i].Entering(step))
		}
	}
	return r.Pieces(l.Alive)
}

func (c *checker) outcomes() {
	said := map[studio.ID]studio.Outcome{}
	for _, o := range c.plan.Orders {
		said[o.Order] = o
	}
	var lateness int64
	for _, o := range c.doc.Orders {
		if o.State != studio.OrderOpen {
			continue
		}
		ready, ok := c.readyOf(o)
		want := studio.Outcome{Order: o.ID, ReadyBy: c.doc.ReadyBy(o, c.calendar, c.everyone)}
		if ok {
			want.Ready, want.Late = &ready, max(0, ready-want.ReadyBy)
		} else {
			want.Late = max(0, c.doc.Horizon()+1440-want.ReadyBy)
		}
		want.Steps = int64(studio.CeilDiv(want.Late, 15))
		got := said[o.ID]
		if got.ReadyBy != want.ReadyBy || got.Late != want.Late || got.Steps != want.Steps || (got.Ready == nil) == ok || ok && (*got.Ready != ready || got.Slack == nil || *got.Slack != want.ReadyBy-ready) {
			c.say(OutcomeWrong, "", "order %q: ready by %d, late %d min in %d steps would be right", o.Name, want.ReadyBy, want.Late, want.Steps)
		}
		lateness += o.Importance * want.Steps
	}
	if lateness != c.plan.Lateness {
		c.say(ObjectiveWrong, "", "weighted lateness is %d, the plan says %d", lateness, c.plan.Lateness)
	}
}

// readyOf is when the last of what an order takes is ready: a lot at its end,
// what lies dry on the shelf when it was made; false when a lot is unplaced.
func (c *checker) readyOf(o studio.Order) (studio.Minute, bool) {
	var ready studio.Minute
	takes := map[studio.ID]bool{}
	for _, p := range c.plan.Pegs {
		takes[p.From] = takes[p.From] || p.Order == o.ID
	}
	for _, s := range c.doc.Shelf {
		if takes[s.ID] {
			ready = max(ready, s.MadeOn)
		}
	}
	for i := range c.plan.Lots {
		l := &c.plan.Lots[i]
		for _, p := range l.Pegs {
			takes[l.ID] = takes[l.ID] || p.Order == o.ID
		}
		if !takes[l.ID] {
			continue
		}
		for _, step := range c.book.Recipe(l.Recipe).Steps {
			t := c.tasks[studio.TaskID(l.ID, step.Key)]
			if t == nil {
				return 0, false
			}
			ready = max(ready, t.End)
		}
	}
	return ready, true
}
