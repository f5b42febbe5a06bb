// Package bench answers what may happen at a bench: whether a task can be
// started, paused or finished now, and what finishing it used and made.
// It turns a wish of a maker into facts; writing them down is the store's part.
package bench

import (
	"fmt"
	"slices"
	"strings"

	"bractum/core/studio"
)

// Counts are the pieces that one go at a task accounts for, and what it used of what is settled
// by eye: of inputs as needed that it does not name it used the most, of materials the usual amount.
type Counts struct {
	Good   int64         `json:"good"`
	Second int64         `json:"second"`
	Mend   int64         `json:"mend,omitempty"`
	Broken int64         `json:"broken"`
	Used   []studio.Used `json:"used,omitempty"`
}

// Bench is the studio as a maker finds it: the document and the plan in force.
type Bench struct {
	doc   *studio.Document
	plan  *studio.Plan
	book  *studio.Book
	shelf *studio.Shelf
	cut   []studio.Offcut // wires that lie cut and are not taken yet
}

// New makes a bench of a valid document and the plan made for it, for one fact: what a
// fact takes off the shelf is gone for the next.
func New(doc *studio.Document, plan *studio.Plan) Bench {
	book := studio.NewBook(doc)
	return Bench{doc: doc, plan: plan, book: book, shelf: book.NewShelf(doc), cut: slices.Clone(doc.Offcuts)}
}

// Now is the minute at which things happen at the bench.
func (b Bench) Now() studio.Minute { return b.doc.Now }

// Start begins or resumes a task, or sets off the machine of a wait. As a lot is begun,
// what it yields is reserved for whom it is for; one that is finished from half-made
// pieces takes them off the shelf. FoundReady
// says that the maker has touched the pieces and found them ready though the clock
// has not.
func (b Bench) Start(task, person studio.ID, foundReady bool) (studio.WorkLot, []studio.Movement, error) {
	lot, step, err := b.find(task)
	if err != nil {
		return lot, nil, err
	}
	begun := len(lot.Records) > 0
	if lot, err = b.begin(lot, step, task, person, foundReady); err != nil || begun {
		return lot, nil, err
	}
	return lot, b.begins(lot), nil
}

func (b Bench) begin(
	lot studio.WorkLot,
	step studio.Step,
	task, person studio.ID,
	foundReady bool,
) (studio.WorkLot, error) {
	if !slices.ContainsFunc(b.doc.People, func(p studio.Person) bool { return p.ID == person }) {
		return lot, studio.Refuse("nobody with this id works here; choose who is at this bench")
	}
	for _, w := range b.doc.Work {
		for _, r := range w.Records {
			if step.Wait == nil && r.State == studio.TaskStarted && r.Machine == "" && r.Person == person &&
				(w.ID != lot.ID || r.Step != step.Key) {
				return lot, studio.Refuse(
					"%q is still going on at this bench; pause or finish it first",
					b.nameOf(w.Made(), r.Step),
				)
			}
		}
	}
	if record := lot.Record(step.Key); record != nil {
		switch record.State {
		case studio.TaskDone:
			return lot, studio.Refuse("%q is done already", step.Name)
		case studio.TaskStarted:
			return lot, studio.Refuse("%q is being done already", step.Name)
		}
		record.State, record.Person = studio.TaskStarted, person
		return lot, nil
	}
	if err := b.ready(lot, step, foundReady); err != nil {
		return lot, err
	}
	record := studio.TaskRecord{Step: step.Key, State: studio.TaskStarted, Person: person, Start: b.doc.Now}
	if step.Wait != nil {
		var err error
		if record.Machine, err = b.machine(task); err != nil {
			return lot, err
		}
	}
	lot.Records = append(lot.Records, record)
	return lot, nil
}

// machine is the one that the plan in force puts a wait into, if it does not run: only
// what is set off with its load at the same minute goes in.
func (b Bench) machine(task studio.ID) (studio.ID, error) {
	i := slices.IndexFunc(b.plan.Tasks, func(t studio.Task) bool { return t.ID == task && t.Load != nil })
	if i < 0 {
		return "", studio.Refuse("the plan in force has no machine for this; look at the plan again")
	}
	machine := b.plan.Tasks[i].Load.Machine
	for _, w := range b.doc.Work {
		for _, r := range w.Records {
			if r.Machine == machine && r.State == studio.TaskStarted && r.Start != b.doc.Now {
				return "", studio.Refuse(
					"that machine still runs with %q; finish it first",
					b.nameOf(w.Made(), r.Step),
				)
			}
		}
	}
	return machine, nil
}

// Pause stops a running task; what was counted so far stays counted.
func (b Bench) Pause(task studio.ID, c Counts) (studio.WorkLot, error) {
	lot, step, record, err := b.running(task)
	if err != nil {
		return lot, err
	}
	if step.Wait != nil {
		return lot, studio.Refuse("%q runs in a machine; it ends or it goes on", step.Name)
	}
	if err := b.count(lot, step, record, c, false); err != nil {
		return lot, err
	}
	record.State = studio.TaskPaused
	return lot, nil
}

// Finish ends a running or paused task: every piece is counted, what it took up
// is used, and after the last work step the pieces are made.
func (b Bench) Finish(task studio.ID, c Counts) (studio.WorkLot, []studio.Movement, error) {
	lot, step, record, err := b.running(task)
	if err != nil {
		return lot, nil, err
	}
	if step.Wait != nil {
		record.State, record.End = studio.TaskDone, b.doc.Now
		return lot, nil, nil
	}
	if err := b.count(lot, step, record, c, true); err != nil {
		return lot, nil, err
	}
	record.State, record.End, record.Asks = studio.TaskDone, b.doc.Now, ""
	r := b.book.Of(lot.Made())
	var moved []studio.Movement
	if _, mends := studio.MendedStep(step.Key); !mends {
		_, first, past, _ := r.TaskOf(step.Key)
		said := slices.Clone(record.Used)
		for _, s := range r.Steps[first:past] {
			moved = append(moved, b.used(lot, r, s.Key, said)...)
		}
	}
	if progress := lot.Progress(r); progress.Made {
		moved = append(moved, b.made(lot, r, progress)...)
	}
	return lot, slices.DeleteFunc(moved, func(m studio.Movement) bool { return m.Amount == 0 }), nil
}

// Consequence of what was broken: the spares that are left, or how many are
// short and will be counted up anew.
type Consequence struct {
	SparesLeft int64 `json:"sparesLeft"`
	Short      int64 `json:"short"`
}

// After weighs what is left of a lot against what it must yield.
func (b Bench) After(lot studio.WorkLot) Consequence {
	progress := lot.Progress(b.book.Of(lot.Made()))
	for _, planned := range b.plan.Lots {
		if planned.ID == lot.ID {
			left := progress.Serves(b.book.Of(lot.Made())) - planned.Need
			return Consequence{SparesLeft: max(0, left), Short: max(0, -left)}
		}
	}
	return Consequence{}
}

// find gives the lot of a planned task, as it stands or as it would begin.
func (b Bench) find(task studio.ID) (studio.WorkLot, studio.Step, error) {
	for _, l := range b.plan.Lots {
		key, of := strings.CutPrefix(string(task), string(studio.TaskID(l.ID, "")))
		if !of {
			continue
		}
		if step, _, _, ok := b.book.Of(l.Made()).TaskOf(key); ok && (step.Work != nil || step.Wait.Load != nil) {
			return b.doc.Begun(l), step, nil
		}
	}
	return studio.WorkLot{}, studio.Step{}, studio.Refuse(
		"the plan in force has no such task any more; look at the plan again",
	)
}

func (b Bench) running(task studio.ID) (studio.WorkLot, studio.Step, *studio.TaskRecord, error) {
	lot, step, err := b.find(task)
	if err != nil {
		return lot, step, nil, err
	}
	record := lot.Record(step.Key)
	switch {
	case record == nil:
		return lot, step, nil, studio.Refuse("%q is not going on; start it first", step.Name)
	case record.State == studio.TaskDone:
		return lot, step, nil, studio.Refuse("%q is done already: %s", step.Name, b.came(record))
	}
	return lot, step, record, nil
}

// came is what came of a task that is done, and by whose hand.
func (b Bench) came(record *studio.TaskRecord) string {
	said := ""
	for _, p := range b.doc.People {
		if p.ID == record.Person {
			said = "finished by " + p.Name
		}
	}
	if calendar, err := studio.NewCalendar(b.doc.Epoch, b.doc.Zone); err == nil {
		said += " at " + calendar.Time(record.End).Format("15:04")
	}
	return fmt.Sprintf("%s, %d good, %d second, %d broken", said, record.Good, record.Second, record.Broken)
}

func (b Bench) count(lot studio.WorkLot, step studio.Step, record *studio.TaskRecord, c Counts, all bool) error {
	r := b.book.Of(lot.Made())
	left := lot.Left(r, step.Key)
	sum := c.Good + c.Second + c.Mend + c.Broken
	switch {
	case c.Good < 0 || c.Second < 0 || c.Mend < 0 || c.Broken < 0:
		return studio.Refuse("a count below nothing cannot be; %d pieces are to be counted", left)
	case c.Mend > 0 && step.Mend == nil:
		return studio.Refuse("%q says no way of mending; count what is no good as broken", step.Name)
	case all && sum != left:
		return studio.Refuse("good, second, to mend and broken come to %d; %d pieces are to be counted", sum, left)
	case sum > left:
		return studio.Refuse(
			"good, second, to mend and broken come to %d; only %d pieces are left to count",
			sum,
			left,
		)
	}
	record.Good, record.Second, record.Broken, record.Mend = record.Good+c.Good, record.Second+c.Second, record.Broken+c.Broken, record.Mend+c.Mend
	return b.eyed(r, lot, record, c.Used)
}

// ready refuses a step whose earlier steps or inputs are not there.
func (b Bench) ready(lot studio.WorkLot, step studio.Step, foundReady bool) error {
	r := b.book.Of(lot.Made())
	_, at, past, _ := r.TaskOf(step.Key)
	if of, mends := studio.MendedStep(step.Key); mends {
		if record := lot.Record(of); record == nil || record.State != studio.TaskDone || record.Mend == 0 {
			return studio.Refuse("nothing of %q is to mend", r.Steps[at].Name)
		}
		return nil
	}
	if pieces := lot.Progress(r).ToMend; pieces > 0 {
		return studio.Refuse("%d pieces of %q are still to mend", pieces, r.Name)
	}
	from := studio.WorkLot{Reached: lot.Reached}.Progress(r).NextStep // what half-made pieces have behind them
	for i := at - 1; i >= from; i-- {
		if s := r.Steps[i]; s.Work != nil {
			first, _ := r.Task(i)
			if record := lot.Record(r.Steps[first].Key); record == nil || record.State != studio.TaskDone {
				return studio.Refuse("%q comes first, and is not done", r.Steps[first].Name)
			}
			break
		}
	}
	if at > from {
		if err := b.over(studio.TaskID(lot.ID, r.Steps[at-1].Key), r.Name, foundReady); err != nil {
			return err
		}
	}
	for _, link := range b.plan.Links {
		_, taken := r.Step(link.Step)
		if link.To != lot.ID || taken < at || taken >= past {
			continue
		}
		i := slices.IndexFunc(b.plan.Lots, func(l studio.Lot) bool { return l.ID == link.From })
		if i < 0 {
			continue // from the shelf
		}
		input := b.book.Of(b.plan.Lots[i].Made())
		if !b.doc.Begun(b.plan.Lots[i]).Progress(input).Made {
			return studio.Refuse("%q is not made yet; it goes into this step", input.Name)
		}
		if err := b.over(studio.TaskID(link.From, input.Steps[len(input.Steps)-1].Key), input.Name, foundReady); err != nil {
			return err
		}
	}
	return nil
}

// over refuses while a wait of the plan in force still runs.
func (b Bench) over(task studio.ID, name string, foundReady bool) error {
	i := slices.IndexFunc(b.plan.Tasks, func(t studio.Task) bool { return t.ID == task })
	if i < 0 || foundReady || b.plan.Tasks[i].End <= b.doc.Now {
		return nil
	}
	left := b.plan.Tasks[i].End - b.doc.Now
	return studio.RefuseUnless("foundReady",
		"%q is expected to be ready in %d h %02d min; touch it, and say so if it is ready now",
		name,
		left/60,
		left%60)
}

func (b Bench) nameOf(made studio.Made, step string) string {
	r := b.book.Of(made)
	s, _, _, _ := r.TaskOf(step)
	return s.Name + ", " + r.Name
}
