// Package promise answers whether an order can be taken on: by when, on what condition, what stands in the way, what
// it takes from others and what it costs; and where not, from when on, or how many by then.
//
// The studio's plan is not touched. An order that is asked for is counted and planned with everything that is promised
// already, as it would be if it were entered (Ask). It can be taken on where it is ready in time and no other order
// becomes late, or later than it is, by it. Where that does not come about at once, it is searched for, others
// weighing a thousand times as much (Look); where there is none, the same search has found how soon it could be ready
// without any harm, and smaller numbers are tried for the date that was asked.
package promise

import (
	"cmp"
	"slices"

	"bractum/core/cost"
	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/stores"
	"bractum/core/studio"
	"bractum/core/wire"
)

// Question is an order that is asked for.
type Question struct {
	// Doc is the studio with the order among its open ones: a new one, or one that is changed.
	Doc   *studio.Document
	Order studio.ID
	// Before is what is planned without it; From the plan that is in force and would be repaired. Where there is none
	// in force, both are nil: what is promised is planned first and is taken to be in force, but of a direct document,
	// which is planned anew each time.
	Before *studio.Plan
	From   *studio.Plan
	// Known, where given, is a plan of an earlier answer, for a date that was named then: it is tried as well.
	Known *studio.Plan
	// Abandon ends everything when it is closed.
	Abandon <-chan struct{}
}

// Verdict is the answer in a word.
type Verdict string

// Verdicts: it can be taken on; it can, if something is ordered in time; it cannot, by then.
const (
	Yes Verdict = "yes"
	If  Verdict = "if"
	Not Verdict = "not"
)

// Answer is what is to be said of an order that was asked for.
type Answer struct {
	Verdict Verdict        `json:"verdict"`
	Outcome studio.Outcome `json:"outcome"`
	// Could is the earliest minute by which it could be promised to be ready as it is planned here, nobody else late
	// by it; none where no such plan was found. Earliest is when it could leave then, with the safety span kept; none
	// of a direct document, in which nothing leaves.
	Could    *studio.Minute   `json:"could,omitempty"`
	Earliest *studio.WallTime `json:"earliest,omitempty"`
	// Fewer are numbers that could be ready by the date that was asked, where all of it cannot; none where not even
	// one can, or they were not looked for.
	Fewer []Fewer `json:"fewer"`
	// Buys are what has to be ordered for it, and by when.
	Buys []stores.Needed `json:"buys"`
	// Chain is what its date hangs on, from its last task back.
	Chain plan.Chain `json:"chain"`
	// Work is when somebody is at it, Lies when something of it dries or rests.
	Work []studio.Span `json:"work"`
	Lies []studio.Span `json:"lies"`
	// Unplaced are its tasks that have no place at all, the ones that say why first.
	Unplaced []studio.Unplaced `json:"unplaced"`
	// Takes are other orders that lose slack by it and stay in time; Harms those that would be late, or later.
	Takes []Taken `json:"takes"`
	Harms []Taken `json:"harms"`
	// Moves is what it does to what people were told.
	Moves plan.Change  `json:"moves"`
	Bill  cost.Bill    `json:"bill"`
	Notes []count.Note `json:"notes"`
	// Found is true of a plan that was searched for, and is not the one that is made when the order is entered: it is
	// entered with that.
	Found bool `json:"found"`
	// Searched is true once it was looked for something better than what comes about at once.
	Searched bool `json:"searched"`
	// Plan is the one that the answer is of, made for Doc and what was Counted of it.
	Plan    *studio.Plan     `json:"-"`
	Doc     *studio.Document `json:"-"`
	Counted *count.Result    `json:"-"`
}

// Fewer is how many of a line could be ready.
type Fewer struct {
	Line  studio.ID `json:"line"`
	Asked int64     `json:"asked"`
	Could int64     `json:"could"`
}

// Taken is how another order stands without and with the one that is asked for.
type Taken struct {
	Order studio.ID       `json:"order"`
	Was   *studio.Outcome `json:"was,omitempty"`
	Is    *studio.Outcome `json:"is,omitempty"`
}

// Ask answers from what comes about at once: it costs about what repairing the plan does.
func Ask(q Question) (*Answer, error) {
	doc, made, counted, err := q.before()
	if err != nil {
		return nil, err
	}
	q.Before = made
	t, err := q.first(doc, counted)
	if err != nil {
		return nil, err
	}
	return q.answer(t)
}

// first is what comes about at once, or by a plan that is known.
func (q *Question) first(doc *studio.Document, counted *count.Result) (*trial, error) {
	t, err := q.try(doc, counted)
	if err != nil || t.kept() || q.Known == nil {
		return t, err
	}
	known, err := q.as(doc, counted, q.Known)
	if err != nil || !known.better(t) {
		return t, err
	}
	known.found = true
	return known, nil
}

// trial is a plan that was made for a question.
type trial struct {
	doc     *studio.Document
	counted *count.Result
	made    *studio.Plan
	outcome studio.Outcome
	harm    studio.Minute // by which others become late, or later
	found   bool          // by a search
}

// before counts the studio with the order, and plans it without where that is not known.
func (q *Question) before() (*studio.Document, *studio.Plan, *count.Result, error) {
	counted, err := count.Up(q.Doc)
	if err != nil || q.Before != nil {
		return q.Doc, q.Before, counted, err
	}
	without, err := Without(q.Doc, q.Order)
	if err != nil {
		return nil, nil, nil, err
	}
	least, err := count.Up(without)
	if err != nil {
		return nil, nil, nil, err
	}
	made, err := plan.Make(without, least, q.anew(without, least))
	if q.Doc.Direct == nil {
		q.From = made
	}
	return q.Doc, made, counted, err
}

// anew are the options of a plan where none is in force.
func (q *Question) anew(doc *studio.Document, counted *count.Result) plan.Options {
	return plan.Options{Steps: plan.UsualSteps(doc, counted), FixedLots: true,
		LatenessOnly: doc.Direct != nil, Abandon: q.Abandon, Stop: q.Abandon}
}

// try plans as it would be planned if the order were entered.
func (q *Question) try(doc *studio.Document, counted *count.Result) (*trial, error) {
	var made *studio.Plan
	var err error
	if q.From != nil {
		made, err = plan.Propose(doc, counted, q.From, q.Abandon)
	} else {
		made, err = plan.Make(doc, counted, q.anew(doc, counted))
	}
	if err != nil {
		return nil, err
	}
	return q.judged(doc, counted, made)
}

// judged is a plan with what it means for the order and for others.
func (q *Question) judged(doc *studio.Document, counted *count.Result, made *studio.Plan) (*trial, error) {
	counted, err := count.As(doc, counted, made.Divided)
	if err != nil {
		return nil, err
	}
	t := &trial{doc: doc, counted: counted, made: made}
	for _, o := range made.Orders {
		if o.Order == q.Order {
			t.outcome = o
		}
	}
	for _, h := range q.others(made) {
		t.harm += h.harm()
	}
	return t, nil
}

// better is true of a trial that does others less harm, or has the order ready earlier and does them no more.
func (t *trial) better(than *trial) bool {
	return cmp.Or(cmp.Compare(t.harm, than.harm), cmp.Compare(t.outcome.Late, than.outcome.Late)) < 0
}

// kept is true where the order is in time and nobody else is late by it.
func (t *trial) kept() bool { return t.harm == 0 && t.outcome.Late == 0 && t.outcome.Ready != nil }

// others are how the other orders of a plan stand without and with the one that is asked for.
func (q *Question) others(made *studio.Plan) []Taken {
	was := make(map[studio.ID]*studio.Outcome, len(q.Before.Orders))
	for i := range q.Before.Orders {
		was[q.Before.Orders[i].Order] = &q.Before.Orders[i]
	}
	all := []Taken{}
	for i := range made.Orders {
		if is := &made.Orders[i]; is.Order != q.Order && was[is.Order] != nil {
			all = append(all, Taken{Order: is.Order, Was: was[is.Order], Is: is})
		}
	}
	return all
}

// harm is by how many minutes an order becomes late, or later than it is, as lateness is counted.
func (t *Taken) harm() studio.Minute {
	return studio.LateStep * studio.Minute(max(0, t.Is.Steps-t.Was.Steps))
}

// lost is how much slack an order loses that is as good as in time still: none where it was late.
func (t *Taken) lost() studio.Minute {
	if t.Was.Slack == nil || t.Is.Slack == nil {
		return 0
	}
	return max(0, *t.Was.Slack-*t.Is.Slack)
}

// noticed is from how much slack on that is lost it is said.
const noticed studio.Minute = 15

// answer says all that there is to be said of a trial.
func (q *Question) answer(t *trial) (*Answer, error) {
	calendar, err := studio.NewCalendar(t.doc.Epoch, t.doc.Zone)
	if err != nil {
		return nil, err
	}
	a := &Answer{Outcome: t.outcome, Fewer: []Fewer{}, Buys: []stores.Needed{}, Unplaced: []studio.Unplaced{},
		Takes: []Taken{}, Harms: []Taken{}, Moves: plan.Sum(q.Before, t.made), Notes: []count.Note{}, Plan: t.made,
		Doc: t.doc, Counted: t.counted, Found: t.found, Chain: plan.Chain{Order: q.Order, Links: []plan.Link{}}}
	for _, o := range q.others(t.made) {
		switch {
		case o.harm() > 0:
			a.Harms = append(a.Harms, o)
		case o.lost() >= noticed:
			a.Takes = append(a.Takes, o)
		}
	}
	slices.SortStableFunc(a.Harms, func(x, y Taken) int { return cmp.Compare(y.harm(), x.harm()) })
	slices.SortStableFunc(a.Takes, func(x, y Taken) int { return cmp.Compare(*x.Is.Slack, *y.Is.Slack) })
	for _, n := range t.counted.Notes {
		if slices.Contains(n.Orders, q.Order) {
			a.Notes = append(a.Notes, n)
		}
	}
	if by, ok := plan.EarliestReadyBy(t.doc, calendar, t.outcome); ok && t.harm == 0 {
		a.Could = &by
		if leave, _ := plan.EarliestLeave(t.doc, calendar, t.outcome); t.doc.Direct == nil {
			a.Earliest = &leave
		}
	}
	if t.doc.Direct == nil {
		if err := a.stores(q.Order, t); err != nil {
			return nil, err
		}
	}
	if err := a.hangsOn(q.Order, t); err != nil {
		return nil, err
	}
	a.lying(q.Order, t)
	switch {
	case !t.kept():
		a.Verdict = Not
	case len(a.Buys) > 0:
		a.Verdict = If
	default:
		a.Verdict = Yes
	}
	return a, nil
}

// stores says what an order takes of materials and of people, and what has to be ordered for it.
func (a *Answer) stores(order studio.ID, t *trial) error {
	takes := stores.Takes(t.doc, t.made, wire.Sheets(t.doc, t.made.Lots))
	lists, err := stores.Shopping(t.doc, stores.Balances(t.doc, takes))
	if err != nil {
		return err
	}
	a.Buys = append(a.Buys, stores.NeededBy(t.doc, t.made, lists)[order]...)
	for _, b := range cost.Bills(t.doc, t.made, takes) {
		if b.Order == order {
			a.Bill = b
		}
	}
	return nil
}

// hangsOn says what the date of an order hangs on, or which of its tasks have no place.
func (a *Answer) hangsOn(order studio.ID, t *trial) error {
	account, err := plan.Account(t.doc, t.made)
	if err != nil {
		return err
	}
	for _, c := range account.Orders {
		if c.Order == order {
			a.Chain = c
		}
	}
	if t.outcome.Ready != nil {
		return nil
	}
	of := plan.OrdersOf(t.made)
	for _, u := range t.made.Unplaced {
		if slices.Contains(of[u.Lot], order) {
			a.Unplaced = append(a.Unplaced, u)
		}
	}
	slices.SortStableFunc(a.Unplaced, func(x, y studio.Unplaced) int {
		return cmp.Compare(follows(x), follows(y))
	})
	return nil
}

// lying says when an order is worked on, and when something of it lies.
func (a *Answer) lying(order studio.ID, t *trial) {
	of := plan.OrdersOf(t.made)
	var work, lies []studio.Hours
	for i := range t.made.Tasks {
		placed := &t.made.Tasks[i]
		if !slices.Contains(of[placed.Lot], order) || placed.End <= t.made.Now {
			continue
		}
		span := studio.Hours{{From: max(placed.Start, t.made.Now), To: placed.End}}
		if placed.Person != "" {
			work = append(work, span)
		} else {
			lies = append(lies, span)
		}
	}
	a.Work = append([]studio.Span{}, studio.Together(work...)...)
	a.Lies = append([]studio.Span{}, studio.Together(lies...)...)
}

// follows is 1 of what has no place for want of what it needs, and 0 of what says itself why.
func follows(u studio.Unplaced) int {
	if u.Reason == studio.AfterGone {
		return 1
	}
	return 0
}
