package plan

import (
	"bractum/core/studio"
)

// Falls are the orders that have at least so much less slack in a plan than in another of before, in the
// order of the plan. It takes O(tasks).
func Falls(before, after *studio.Plan, least studio.Minute) (falls []studio.Fall) {
	was := map[studio.ID]*studio.Minute{}
	for i := range before.Orders {
		was[before.Orders[i].Order] = before.Orders[i].Slack
	}
	var f *falling
	for _, o := range after.Orders {
		slack, known := was[o.Order]
		if !known || slack == nil || o.Slack != nil && *slack-*o.Slack < least {
			continue
		}
		if f == nil {
			f = newFalling(before, after)
		}
		falls = append(falls, f.of(o, slack))
	}
	return falls
}

// falling is two plans by task.
type falling struct {
	was, is map[studio.ID]*studio.Task
	lots    map[studio.ID]bool      // that there were
	recipes map[studio.ID]studio.ID // of lots
	last    map[studio.ID]*studio.Task
	gone    map[studio.ID]*studio.Unplaced // the first of each order
	now     studio.Minute
}

func newFalling(before, after *studio.Plan) *falling {
	f := &falling{
		was:     map[studio.ID]*studio.Task{},
		is:      map[studio.ID]*studio.Task{},
		lots:    map[studio.ID]bool{},
		recipes: map[studio.ID]studio.ID{},
		last:    map[studio.ID]*studio.Task{},
		gone:    map[studio.ID]*studio.Unplaced{},
		now:     after.Now,
	}
	for i := range before.Tasks {
		f.was[before.Tasks[i].ID] = &before.Tasks[i]
	}
	for _, l := range before.Lots {
		f.lots[l.ID] = true
	}
	pegged := map[studio.ID][]studio.Peg{}
	for _, l := range after.Lots {
		pegged[l.ID], f.recipes[l.ID] = l.Pegs, l.Recipe
	}
	for i := range after.Tasks {
		t := &after.Tasks[i]
		f.is[t.ID] = t
		for _, p := range pegged[t.Lot] {
			if last := f.last[p.Order]; last == nil || t.End > last.End {
				f.last[p.Order] = t
			}
		}
	}
	orders := OrdersOf(after)
	for i := range after.Unplaced {
		u := &after.Unplaced[i]
		for _, o := range orders[u.Lot] {
			if f.gone[o] == nil || f.gone[o].Reason == studio.AfterGone {
				f.gone[o] = u
			}
		}
	}
	return f
}

// of says what made an order later.
func (f *falling) of(o studio.Outcome, was *studio.Minute) studio.Fall {
	fall := studio.Fall{At: f.now, Order: o.Order, Was: was, Is: o.Slack, Why: studio.PutLater}
	if o.Slack == nil {
		fall.Why = studio.NoDate
		if u := f.gone[o.Order]; u != nil {
			fall.Task, fall.Recipe, fall.Step, fall.By = u.Task, f.recipes[u.Lot], u.Step, u.By
		}
		return fall
	}
	var first *studio.Task
	seen := map[studio.ID]bool{}
	for t := f.last[o.Order]; t != nil && !seen[t.ID]; t = f.is[t.CausedBy] {
		seen[t.ID] = true
		if before := f.was[t.ID]; before == nil || t.End > before.End {
			first = t
		}
	}
	if first != nil {
		f.because(&fall, first)
	}
	return fall
}

// because says why a task is later than it was.
func (f *falling) because(fall *studio.Fall, t *studio.Task) {
	fall.Task, fall.Recipe, fall.Step, fall.Person, fall.Pieces = t.ID, f.recipes[t.Lot], t.Step, t.Person, t.Pieces
	before := f.was[t.ID]
	if before == nil {
		if fall.Why = studio.MadeAgain; f.lots[t.Lot] {
			fall.Why = studio.PutLater
		}
		return
	}
	fall.Minutes = t.End - before.End
	late, longer := t.Begin()-before.Begin(), t.End-t.Start-(before.End-before.Start)
	if t.State != studio.TaskPlanned {
		if fall.Why = studio.TookLonger; late > longer {
			fall.Why, fall.Minutes = studio.BegunLate, late
		}
		return
	}
	switch t.Cause {
	case studio.CauseGate:
		fall.Why, fall.By = studio.WaitsFor, t.CausedBy
	case studio.CausePerson:
		fall.Why, fall.By = studio.Busy, t.CausedBy
	case studio.CauseHours:
		fall.Why = studio.Away
	case studio.CausePlace, studio.CauseTool:
		fall.Why, fall.By = studio.Full, t.CausedBy
	default:
		if t.Person == "" && longer > late {
			fall.Why, fall.Minutes = studio.DriesLonger, longer
		}
	}
	if before.Begin() <= f.now && t.Person != "" {
		fall.Why, fall.By = studio.NotBegun, ""
	}
}
