package studio

import (
	"slices"
	"sync"
)

// Route is the scheduling problem of counted lots: what their recipes ask for in
// tasks, links and holds, with what has happened to them. Lots, links and pegs
// must fit the document.
func Route(doc *Document, book *Book, lots []Lot, links []Link, shelf []Peg) *Instance {
	if doc.Direct != nil {
		return doc.Direct
	}
	r := routed(doc, book, lots, links)
	r.wants(lots, shelf)
	return &r.instance
}

// Tasks are what some lots come down to, and the links between those, whatever orders want.
func Tasks(doc *Document, book *Book, lots []Lot, links []Link) *Instance {
	return &routed(doc, book, lots, links).instance
}

// routed works out the tasks of lots and the links between them.
func routed(doc *Document, book *Book, lots []Lot, links []Link) *router {
	calendar, err := NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		panic("studio: unchecked zone " + doc.Zone)
	}
	r := &router{
		calendar: calendar,
		doc:      doc,
		book:     book,
		lots:     map[ID]*Lot{},
		links:    links,
		out:      map[ID][]Link{},
		work:     map[ID]*WorkLot{},
		keeps:    SoftStores(doc),
	}
	for _, k := range links {
		r.out[k.From] = append(r.out[k.From], k)
	}
	for i := range lots {
		r.lots[lots[i].ID] = &lots[i]
	}
	for i := range doc.Work {
		r.work[doc.Work[i].ID] = &doc.Work[i]
	}
	r.instance.Lots = make([]Routing, len(lots))
	var routing sync.WaitGroup
	routing.Go(func() {
		for i := range lots {
			r.instance.Lots[i] = r.routing(&lots[i])
		}
	})
	r.lags(lots)
	routing.Wait()
	r.leaveOut(Unneeded(lots, links))
	return r
}

type router struct {
	calendar Calendar
	doc      *Document
	book     *Book
	lots     map[ID]*Lot
	links    []Link
	out      map[ID][]Link // by lot
	work     map[ID]*WorkLot
	keeps    func(place ID) bool // of soft stores
	instance Instance
}

// taskAt is the id of the task that does a step of a lot.
func taskAt(lot ID, r *Recipe, step int) ID {
	first, _ := r.Task(step)
	return TaskID(lot, r.Steps[first].Key)
}

// lastTask is the id of the task with which a lot ends.
func lastTask(lot ID, r *Recipe) ID { return taskAt(lot, r, len(r.Steps)-1) }

func (r *router) routing(l *Lot) Routing {
	recipe, work := r.book.Of(l.Made()), r.work[l.ID]
	routing := Routing{ID: l.ID, Tasks: make([]Activity, 0, len(recipe.Steps))}
	var before *Activity
	for first := recipe.after(l.Reached); first < len(recipe.Steps); {
		_, past := recipe.Task(first)
		routing.Tasks = append(routing.Tasks, r.activity(l, recipe, work, first, past, before))
		before = &routing.Tasks[len(routing.Tasks)-1]
		if mend, wanted := r.mending(l, recipe, work, first); wanted {
			routing.Tasks = append(routing.Tasks, mend)
			before = &routing.Tasks[len(routing.Tasks)-1]
		}
		first = past
	}
	r.outside(l, recipe, routing.Tasks)
	return routing
}

// outside has work that is not begun wait for what comes from outside: a task for the materials of
// its steps, and the first of a mix for its approval.
func (r *router) outside(l *Lot, recipe *Recipe, tasks []Activity) {
	for _, await := range l.Awaits {
		_, at := recipe.Step(await.Step)
		if at < 0 {
			continue
		}
		first, _ := recipe.Task(at)
		i := slices.IndexFunc(tasks, func(a Activity) bool { return a.Step == recipe.Steps[first].Key })
		if i >= 0 && tasks[i].Fact == nil && !slices.Contains(tasks[i].Gates, await.Gate) {
			tasks[i].Gates = append(tasks[i].Gates, await.Gate)
		}
	}
	i := slices.IndexFunc(tasks, func(a Activity) bool { return a.Wait == nil && a.Fact == nil })
	if i < 0 || recipe.Kind != KindMix {
		return
	}
	for _, g := range r.doc.Gates {
		if slices.Contains(g.Mixes, recipe.ID) {
			tasks[i].Gates = append(tasks[i].Gates, g.ID)
		}
	}
	tasks[i].Gates = append(tasks[i].Gates, r.approved(l)...)
}

// activity is the task of the steps [first, past) of a lot.
func (r *router) activity(l *Lot, recipe *Recipe, work *WorkLot, first, past int, before *Activity) Activity {
	step := recipe.Steps[first]
	entering := l.Started
	if work != nil {
		entering = work.Entering(recipe, step.Key)
	}
	a := Activity{ID: TaskID(l.ID, step.Key), Step: step.Key, Pieces: recipe.Passing(first, entering)}
	run := runOf(l, recipe, first, past)
	var more []extra // for lying elsewhere
	for i := first; i < past; i++ {
		a.Gates = append(a.Gates, recipe.Steps[i].Gates...)
		for _, h := range recipe.Steps[i].Holds {
			_, until := recipe.Step(h.Until)
			if h.UntilNext != "" {
				until = len(recipe.Steps)
			}
			lies := entering
			if until < past && run > 0 { // what lies within a run is out of the way for the next
				lies = min(entering, run*recipe.unit(first))
			}
			in := r.seat(l, h, recipe.Pieces(i, lies))
			if !work.left(recipe, in.Place, i, until) {
				a.Holds = append(a.Holds, r.occupation(l, recipe, h, in, recipe.Pieces(i, lies)))
			}
			if in.PerPiece > 0 {
				more = append(more, extra{step: i, each: in.PerPiece})
			}
		}
	}
	if step.Wait != nil {
		a.Wait = r.stay(l, recipe, work, first, a.Pieces)
		if put := work.here(recipe, first); put != nil && put.Place != "" {
			a.Holds = append(
				a.Holds,
				Occupation{Place: put.Place, Slots: put.Slots, Until: []ID{r.takenUp(l, recipe, first)}},
			)
		}
		a.Fact = waitFact(recipe, work, first, before)
		return a
	}
	left, setup := a.Pieces, true
	if work != nil {
		if record := work.Record(step.Key); record != nil {
			a.Fact = &Fact{State: record.State, Person: record.Person, Start: record.Start, End: record.End}
			if a.Fact.Uncounted = record.State == TaskStarted && record.Counted() == 0; a.Fact.Passes() {
				r.passed(a.Fact, recipe.Steps[first:past])
			}
			setup, left = a.Fact.Uncounted, recipe.Passing(first, entering-record.Counted()*recipe.unit(first))
			if record.State != TaskDone {
				a.Pieces = left
			}
		}
	}
	if !a.Done() {
		a.Work = efforts(recipe, first, past, setup, left, run, more)
		if a.Begun() && a.Fact.Uncounted {
			a.Work = r.leftOf(a.Work, a.Fact)
		}
		a.Within = r.within(l, recipe, first, past)
	}
	for i := first; i < past; i++ {
		w := recipe.Steps[i].Work
		a.MayPause = w.MayPause && w.Stint == ""
		for _, need := range w.Tools {
			a.Tools = atOnce(a.Tools, r.toolUse(need))
		}
		if w.Family != "" {
			a.Setup = &ColourUse{Family: w.Family, Mix: l.Mixes[w.Slot]}
		}
	}
	return a
}

// mending is the short task of the pieces that a step's record counted as to mend.
func (r *router) mending(l *Lot, recipe *Recipe, work *WorkLot, step int) (Activity, bool) {
	s := recipe.Steps[step]
	if work == nil || s.Mend == nil {
		return Activity{}, false
	}
	record := work.Record(s.Key)
	if record == nil || record.State != TaskDone || record.Mend == 0 {
		return Activity{}, false
	}
	key := MendKey(s.Key)
	a := Activity{ID: TaskID(l.ID, key), Step: key, Pieces: record.Mend, MayPause: s.Mend.MayPause}
	mended, setup := work.Record(key), true
	if mended != nil {
		a.Fact = &Fact{State: mended.State, Person: mended.Person, Start: mended.Start, End: mended.End}
		setup = false
		if mended.State != TaskDone {
			a.Pieces -= mended.Counted()
		}
	}
	if !a.Done() {
		e := Effort{Skill: s.Mend.Skill, Thousandths: recipe.Effort(s.Mend, setup, a.Pieces)}
		if setup {
			e.Setup = s.Mend.Setup
		}
		a.Work = []Effort{e}
	}
	return a, true
}

// waitFact says that a wait in a machine was begun, or that a wait is over because
// what follows it was begun.
func waitFact(recipe *Recipe, work *WorkLot, wait int, before *Activity) *Fact {
	if work == nil || before == nil || !before.Done() {
		return nil
	}
	if r := work.Record(recipe.Steps[wait].Key); r != nil {
		return &Fact{State: r.State, Machine: r.Machine, Start: r.Start, End: r.End}
	}
	if at, over := work.foundOver(recipe, wait); over {
		return &Fact{State: TaskDone, Start: before.Fact.End, End: max(before.Fact.End, at)}
	}
	if put := work.here(recipe, wait); put != nil && put.Machine != "" {
		return &Fact{State: TaskStarted, Machine: put.Machine, Start: put.At}
	}
	for _, s := range recipe.Steps[wait+1:] {
		if record := work.Record(s.Key); record != nil {
			return &Fact{State: TaskDone, Start: before.Fact.End, End: max(before.Fact.End, record.Start)}
		}
	}
	return nil
}

func (r *router) toolUse(need ToolNeed) ToolUse {
	use := ToolUse{AnyOf: []ID{need.Tool}, Number: max(1, need.Number)}
	for _, t := range r.doc.Tools {
		if t.ID == need.Tool {
			use.AnyOf = append(use.AnyOf, t.StandIns...)
		}
	}
	return use
}

// seat is where a lot is held: in the place of the hold for as many lots as it has room for at one
// time, then in what stands in for it for as many, and so on, by the ordinals of lots.
func (r *router) seat(l *Lot, h Hold, pieces int64) Seat {
	if len(h.StandIns) == 0 {
		return Seat{Place: h.Place, PerSlot: h.PerSlot}
	}
	seats := h.Seats()
	var room []int64
	var all int64
	for _, s := range seats {
		i := slices.IndexFunc(r.doc.Places, func(p Place) bool { return p.ID == s.Place })
		room = append(room, r.doc.Places[i].Slots/max(1, h.slots(s, pieces)))
		all += room[len(room)-1]
	}
	if all == 0 {
		return seats[0]
	}
	turn := int64(max(0, l.Ordinal-1)) % all
	for i, n := range room {
		if turn < n {
			return seats[i]
		}
		turn -= n
	}
	return seats[0]
}

func (r *router) occupation(l *Lot, recipe *Recipe, h Hold, in Seat, pieces int64) Occupation {
	o := Occupation{Place: in.Place, Slots: h.slots(in, pieces)}
	if h.Until != "" {
		_, until := recipe.Step(h.Until)
		o.Until = []ID{taskAt(l.ID, recipe, until)}
		return o
	}
	for _, k := range r.out[l.ID] {
		next := r.book.Of(r.lots[k.To].Made())
		_, until := next.Step(h.UntilNext)
		if _, taken := next.Step(k.Step); until < taken {
			until = taken
		}
		if id := taskAt(k.To, next, until); !slices.Contains(o.Until, id) {
			o.Until = append(o.Until, id)
		}
	}
	if len(o.Until) == 0 { // nothing takes it up: it stays until it is made
		o.Until = []ID{lastTask(l.ID, recipe)}
	}
	return o
}

// takenUp is the task that takes up what lies in a wait: the next work of the lot, or its
// own where that is the last.
func (r *router) takenUp(l *Lot, recipe *Recipe, wait int) ID {
	for i := wait + 1; i < len(recipe.Steps); i++ {
		if recipe.Steps[i].Work != nil {
			return taskAt(l.ID, recipe, i)
		}
	}
	return taskAt(l.ID, recipe, wait)
}

func (r *router) stay(l *Lot, recipe *Recipe, work *WorkLot, at int, pieces int64) *Stay {
	w := recipe.Steps[at].Wait
	if put := work.here(recipe, at); put != nil && put.Machine != "" {
		return &Stay{
			Least: Length{Minutes: put.Minutes},
			Load:  &MachineUse{AnyOf: []ID{put.Machine}, Slots: put.Slots},
		}
	}
	if w.Load != nil {
		return &Stay{
			Least: Length{Minutes: w.Minutes},
			Load: &MachineUse{
				AnyOf:   w.Load.Machines,
				Setting: w.Load.Setting,
				Slots:   CeilDiv(pieces, max(1, w.Load.PerSlot)),
			},
		}
	}
	dries := func(state State) *Dries {
		d := r.dries(l, recipe, w.Drying, state, at)
		return r.known(d, recipe, work, recipe.PutDown(at))
	}
	stay := &Stay{Least: Length{Minutes: w.Minutes}}
	if _, i := recipe.Step(w.Continues); i >= recipe.after(l.Reached) {
		stay.Continues = taskAt(l.ID, recipe, i)
	}
	if w.State != "" {
		stay.Least = Length{Dries: dries(w.State)}
	}
	if w.Wished != nil {
		stay.Wished = &Length{Minutes: w.Wished.Minutes}
		if w.Wished.State != "" {
			stay.Wished = &Length{Dries: dries(w.Wished.State)}
		}
	}
	return stay
}

// known adds to what dries what is known of where it has lain since it was put down.
func (r *router) known(d *Dries, recipe *Recipe, work *WorkLot, from int) *Dries {
	d.Lain, d.Reached = r.lain(recipe, work, from, d.State)
	for _, p := range puts(work) {
		if p.Machine == "" && recipe.belongs(p.Step, from) {
			d.In = p.In
		}
	}
	return d
}

func puts(work *WorkLot) []Put {
	if work == nil {
		return nil
	}
	return work.Puts
}

// dries resolves the factors and the surroundings of what dries at a step.
func (r *router) dries(l *Lot, recipe *Recipe, d Drying, state State, at int) *Dries {
	out := r.book.Dries(d, l.Mixes, state)
	for _, m := range r.doc.Methods {
		if m.ID == d.Method {
			out.Factor = CeilDiv(out.Factor*m.Factor, 1000)
		}
	}
	out.In = r.surroundings(recipe, at)
	return &out
}

// surroundings are those of the places that what lies in a step of a recipe holds.
func (r *router) surroundings(recipe *Recipe, at int) (in ID) {
	for i := 0; i <= min(at, len(recipe.Steps)-1); i++ {
		for _, h := range recipe.Steps[i].Holds {
			if _, until := recipe.Step(h.Until); until >= at || h.UntilNext != "" {
				for _, p := range r.doc.Places {
					if p.ID == h.Place && p.In != "" {
						in = p.In
					}
				}
			}
		}
	}
	return in
}

// lags are the windows of steps and inputs, and that inputs come first.
func (r *router) lags(lots []Lot) {
	for i := range lots {
		l := &lots[i]
		recipe := r.book.Of(l.Made())
		first := recipe.after(l.Reached)
		r.wanted(l, recipe, first)
		for at := first; at < len(recipe.Steps); at++ {
			for _, w := range recipe.Steps[at].Windows {
				from := at - 1
				if w.After != "" {
					_, from = recipe.Step(w.After)
				}
				if from >= first {
					r.window(l, recipe, from, w, taskAt(l.ID, recipe, at))
				}
			}
		}
	}
	for _, k := range r.links {
		from, to := r.lots[k.From], r.lots[k.To]
		if from == nil || to == nil {
			continue
		}
		below, above := r.book.Of(from.Made()), r.book.Of(to.Made())
		_, step := above.Step(k.Step)
		if step < above.after(to.Reached) {
			continue
		}
		target := taskAt(to.ID, above, step)
		r.instance.Links = append(r.instance.Links, Lag{From: lastTask(from.ID, below), To: target})
		for _, p := range above.Parts {
			if p.Step != k.Step || p.Made() != from.Made() {
				continue
			}
			if p.Window != nil {
				r.window(from, below, len(below.Steps)-1, *p.Window, target)
			}
			wants := above.Steps[step].WantedOf(p, below)
			if s, ok := below.Softness(len(below.Steps), r.keeps); ok && wants.Perishable() &&
				s.From >= below.after(from.Reached) {
				r.inState(from, below, s, target, wants, true)
			}
		}
	}
}

// wanted adds the lags of the states in which the steps of a lot, from first on, want its
// pieces: the last step that wants them soft, or firm, is the last to take them up, and none
// that wants them firm begins before they are.
func (r *router) wanted(l *Lot, recipe *Recipe, first int) {
	for _, state := range []Condition{WantsSoft, WantsFirm} {
		begin, last := -1, -1
		for i := first; i < len(recipe.Steps); i++ {
			if recipe.Wanted(i) == state {
				if last = i; begin < 0 {
					begin = i
				}
			}
		}
		if last < 0 {
			continue
		}
		if s, ok := recipe.Softness(last, r.keeps); ok && s.From >= first {
			r.inState(l, recipe, s, taskAt(l.ID, recipe, last), state, begin == last)
		}
		if s, ok := recipe.Softness(begin, r.keeps); state == WantsFirm && begin != last && ok && s.From >= first {
			lag := Lag{From: taskAt(l.ID, recipe, s.From), To: taskAt(l.ID, recipe, begin)}
			if lag.From != lag.To {
				lag.Least = &Length{Dries: r.softDries(l, recipe, s, Firm)}
				r.instance.Links = append(r.instance.Links, lag)
			}
		}
	}
}

// inState has a task take up every piece of a lot in a state, at the latest, and at the
// earliest where it is the first to want that.
func (r *router) inState(l *Lot, recipe *Recipe, s Softness, to ID, wants Condition, first bool) {
	lag := Lag{From: taskAt(l.ID, recipe, s.From), To: to, Each: true}
	if lag.From == lag.To {
		return // within a run
	}
	before, _ := wants.Until()
	lag.Most = &Length{Dries: r.softDries(l, recipe, s, before)}
	if wants == WantsFirm && first {
		lag.Least = &Length{Dries: r.softDries(l, recipe, s, Firm)}
	}
	r.instance.Links = append(r.instance.Links, lag)
}

func (r *router) softDries(l *Lot, recipe *Recipe, s Softness, state State) *Dries {
	return r.known(r.dries(l, recipe, s.Drying, state, s.From), recipe, r.work[l.ID], s.From)
}

// window adds the lags of a window that is measured from a step of a lot: its
// minutes from the step's end, its states from when the piece was put down.
func (r *router) window(l *Lot, recipe *Recipe, from int, w Window, to ID) {
	if taskAt(l.ID, recipe, from) == to {
		return // within a run
	}
	if w.AtLeast > 0 || w.AtMost != nil {
		lag := Lag{From: taskAt(l.ID, recipe, from), To: to, Least: &Length{Minutes: w.AtLeast}}
		if w.AtMost != nil {
			lag.Most, lag.Each = &Length{Minutes: *w.AtMost}, !w.Whole
		}
		r.instance.Links = append(r.instance.Links, lag)
	}
	if w.From == "" && w.Before == "" {
		return
	}
	for from > 0 && recipe.Steps[from].Work == nil {
		from--
	}
	lag := Lag{From: taskAt(l.ID, recipe, from), To: to}
	dries := func(state State) *Length {
		return &Length{Dries: r.known(r.dries(l, recipe, w.Drying, state, from), recipe, r.work[l.ID], from)}
	}
	if w.From != "" {
		lag.Least = dries(w.From)
	}
	if w.Before != "" {
		lag.Most, lag.Each = dries(w.Before), !w.Whole
	}
	r.instance.Links = append(r.instance.Links, lag)
}

// wants are the open orders and the lots that are pegged to them.
func (r *router) wants(lots []Lot, shelf []Peg) {
	everyone := r.doc.Everyone(r.calendar)
	pegged := map[ID][]ID{} // the lots of an order
	for _, l := range lots {
		for _, p := range l.Pegs {
			if all := pegged[p.Order]; len(all) == 0 || all[len(all)-1] != l.ID {
				pegged[p.Order] = append(all, l.ID)
			}
		}
	}
	fromShelf := map[ID]bool{}
	for _, p := range shelf {
		fromShelf[p.Order] = true
	}
	for _, o := range r.doc.Orders {
		if o.State != OrderOpen || len(pegged[o.ID]) == 0 && !fromShelf[o.ID] { // it is counted later
			continue
		}
		want := Want{ID: o.ID, ReadyBy: r.doc.ReadyBy(o, r.calendar, everyone), Importance: o.Importance,
			Lots: append([]ID{}, pegged[o.ID]...)}
		for _, p := range shelf {
			if p.Order != o.ID {
				continue
			}
			if r.lots[p.From] != nil && !slices.Contains(want.Lots, p.From) {
				want.Lots = append(want.Lots, p.From)
			}
			for _, s := range r.doc.Shelf {
				if s.ID == p.From {
					want.Since = max(want.Since, s.MadeOn)
				}
			}
		}
		r.instance.Orders = append(r.instance.Orders, want)
	}
}
