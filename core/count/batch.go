package count

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"sort"

	"bractum/core/drying"
	"bractum/core/studio"
)

// A batch is a lot with lots of its own for every input that it needs fresh. It is as large as
// one maker can make it at the recipe's pace, one task after the other in the order of the
// steps, in standard air, with a fifth of every window to spare.

// Batch is how many go into one lot for its windows, and what limits them.
type Batch struct {
	Most  int64  `json:"most" doc:"0 is no limit"`
	Run   int64  `json:"run,omitempty" doc:"in one run, where its recipe does not say; 0 is all of them"`
	None  bool   `json:"none" doc:"not even one is in time"`
	Limit *Limit `json:"limit,omitempty"`
}

// Limit is what is the first to break with one more. Between two steps pieces wait so long,
// and may wait so long; or there are so many pieces where so many have room.
type Limit struct {
	From   string        `json:"from" doc:"the step pieces are done by, after the name of its recipe"`
	To     string        `json:"to" doc:"the step that takes them up"`
	Waits  studio.Minute `json:"waitsMinutes"`
	Last   studio.Minute `json:"lastMinutes"`
	Pieces int64         `json:"pieces,omitempty" doc:"that would be in one lot, or slots of the place \"to\" taken at one time"`
	Fit    int64         `json:"fit,omitempty"`
	AtOnce bool          `json:"atOnce,omitempty" doc:"it takes so long in one go, and nobody's day has more than \"lastMinutes\""`
}

const (
	mostInBatch = 4096   // more is no limit
	mostTried   = 20_000 // pieces of all kinds in one trial
	spareWindow = 5      // a fifth of a window, or of a maker's day, is to spare
)

// batchOf is the batch of something in its mixes, worked out once.
func (c *counter) batchOf(item *Item, r *studio.Recipe) Batch {
	if !c.book.Perishes(r) {
		return Batch{}
	}
	if known, done := c.counter.batches[item.Key]; done {
		return known
	}
	b := c.counter.sizes.of(c.doc, item.Made(), item.Mixes)
	c.counter.batches[item.Key] = b
	return b
}

// sizes are the batches of a book in its air, each worked out once: mixes that dry alike make
// no difference.
type sizes struct {
	book  *studio.Book
	room  drying.Room
	known map[string]Batch
	// Longest is the longest day of anybody, without breaks; 0 where nobody is known.
	longest studio.Minute
}

// of is the batch of something that perishes, in its mixes.
func (s *sizes) of(doc *studio.Document, made studio.Made, mixes map[string]studio.ID) Batch {
	key := string(made.Recipe) + "|" + made.Variant
	for _, slot := range s.book.Slots(made) {
		if mix := s.book.Recipe(mixes[slot]); mix != nil && mix.Drying > 0 {
			key += fmt.Sprintf("|%s=%d", slot, mix.Drying)
		}
	}
	b, done := s.known[key]
	if !done {
		b = s.tried(doc, made, mixes)
		s.known[key] = b
	}
	return b
}

// BatchOf is the batch of something that a document's flower book holds, in its mixes. It
// takes O(log n) trials, none of more than twice as many as go into it.
func BatchOf(doc *studio.Document, book *studio.Book, made studio.Made, mixes map[string]studio.ID) (Batch, error) {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil || !book.Perishes(book.Of(made)) {
		return Batch{}, err
	}
	s := sizes{
		book:    book,
		room:    drying.NewRoom(doc, calendar),
		known:   map[string]Batch{},
		longest: longestDay(doc.People),
	}
	return s.of(doc, made, mixes), nil
}

// tried is the batch as trials of more and more find it.
func (s *sizes) tried(doc *studio.Document, made studio.Made, mixes map[string]studio.ID) Batch {
	book := s.book
	plain := *doc
	plain.Work, plain.Orders = nil, nil
	t := &trial{book: book, room: s.room, doc: &plain, sizes: s}
	unit := book.Of(made).Unit()
	t.run = t.runOf(made, mixes)
	if limit := t.of(made, mixes, unit); limit != nil {
		return Batch{Most: unit, Run: t.run, None: limit.Fit == 0, Limit: limit} // what has no room is divided
	}
	t.spares = true
	most := max(1, min(mostInBatch, mostTried/max(1, book.Pieces(made)))) * unit
	holds, breaks := unit, 2*unit
	for breaks <= most && t.of(made, mixes, breaks) == nil {
		holds, breaks = breaks, 2*breaks
	}
	if breaks > most && most == mostInBatch*unit {
		return Batch{Run: t.run}
	}
	breaks = min(breaks, most+1)
	n := holds + int64(sort.Search(int(breaks-holds-1), func(n int) bool {
		return t.of(made, mixes, holds+int64(n)+1) != nil
	}))
	limit := t.of(made, mixes, n+1)
	if limit == nil { // more was not tried
		limit = &Limit{From: book.Of(made).Name, Pieces: n + 1, Fit: n}
	}
	return Batch{Most: n / unit * unit, Run: t.run, Limit: limit}
}

// trial tries how batches of a size work out.
type trial struct {
	book     *studio.Book
	room     drying.Room
	doc      *studio.Document
	lots     []studio.Lot
	at       map[studio.ID]int // of lots, by id
	links    []studio.Link
	feeds    map[studio.ID][]studio.Link // what goes into a lot
	routings map[studio.ID]*studio.Routing
	lags     map[studio.ID][]studio.Lag // into a task
	passed   map[studio.ID]studio.Passage
	ends     map[studio.ID]studio.Minute
	free     studio.Minute // when the maker has done what came before
	maker    studio.Person // of nobody's pace: the recipe's
	run      int64         // of what is tried
	spares   bool          // a batch has its share of them; whether one could be made is asked without
	sizes    *sizes        // of what is needed fresh
}

// of makes a batch of so many, and says what breaks, nil if nothing does.
func (t *trial) of(made studio.Made, mixes map[string]studio.ID, quantity int64) *Limit {
	t.lots, t.links, t.free = nil, nil, 0
	t.at, t.feeds = map[studio.ID]int{}, map[studio.ID][]studio.Link{}
	t.routings, t.lags = map[studio.ID]*studio.Routing{}, map[studio.ID][]studio.Lag{}
	t.passed, t.ends = map[studio.ID]studio.Passage{}, map[studio.ID]studio.Minute{}
	root := t.add("batch", made, mixes, quantity, t.run)
	instance := studio.Tasks(t.doc, t.book, t.lots, t.links)
	for i := range instance.Lots {
		t.routings[instance.Lots[i].ID] = &instance.Lots[i]
	}
	for _, lag := range instance.Links {
		t.lags[lag.To] = append(t.lags[lag.To], lag)
	}
	t.make(root)
	for _, lag := range instance.Links {
		if !lag.Each {
			continue
		}
		from, to := t.passed[lag.From], t.passed[lag.To]
		most, _ := t.room.Opening(lag).Longest()
		last := most * (spareWindow - 1) / spareWindow
		if by := from.Latest(&to, func(done studio.Minute) studio.Minute { return done + last }); by > 0 {
			return &Limit{From: t.named(lag.From), To: t.named(lag.To), Waits: last + by, Last: most}
		}
	}
	if limit := cmp.Or(t.keeps(instance), t.inOneGo(instance)); limit != nil {
		return limit
	}
	for i := range instance.Lots {
		if limit := t.inRuns(&instance.Lots[i]); limit != nil {
			return limit
		}
	}
	return t.fits(instance)
}

// keeps says which soft store would have to keep pieces for too long, if one would.
func (t *trial) keeps(instance *studio.Instance) *Limit {
	for i := range instance.Lots {
		for _, a := range instance.Lots[i].Tasks {
			for _, h := range a.Holds {
				var most studio.Minute
				for _, p := range t.doc.Places {
					if p.ID == h.Place {
						most = p.KeepsMinutes
					}
				}
				for _, until := range h.Until {
					lies := t.ends[until] - t.passed[a.ID].Start
					if most > 0 && lies > most*(spareWindow-1)/spareWindow {
						return &Limit{From: t.named(a.ID), To: t.named(until), Waits: lies, Last: most}
					}
				}
			}
		}
	}
	return nil
}

// runOf is how many of something are made in one run of the steps that are one task, where its
// recipe does not say: as many as hold inside a run, and have room; 0 where nothing limits them.
func (t *trial) runOf(made studio.Made, mixes map[string]studio.ID) int64 {
	r := t.book.Of(made)
	for i := range r.Steps {
		if w := r.Steps[i].Work; w != nil && w.Stint != "" && w.Run > 0 {
			return 0
		}
	}
	most := int64(mostInBatch)
	if _, room := rooms(t.doc, r); room > 0 {
		most = min(most, room)
	}
	breaks := 1 + sort.Search(int(most), func(n int) bool {
		lot := studio.Lot{ID: "run", Recipe: made.Recipe, Variant: made.Variant, Mixes: mixes, Started: int64(n) + 1,
			Alive: int64(n) + 1}
		t.lots = []studio.Lot{lot}
		return t.inRuns(&studio.Tasks(t.doc, t.book, t.lots, nil).Lots[0]) != nil
	})
	if int64(breaks) > mostInBatch {
		return 0
	}
	return max(1, int64(breaks)-1)
}

// inRuns says which window would break inside the runs of a lot's tasks, if one would.
func (t *trial) inRuns(routing *studio.Routing) *Limit {
	for i := range routing.Tasks {
		a := &routing.Tasks[i]
		for _, w := range a.Within {
			most, _ := t.room.Opening(studio.Lag{Most: &w.Most}).Longest()
			if waits := a.Waits(w, &t.maker); waits > 1000*studio.Milliminutes(most)*(spareWindow-1)/spareWindow {
				from, to := t.effort(a, w.From), t.effort(a, w.To)
				return &Limit{From: from, To: to, Waits: waits.Minutes(), Last: most}
			}
		}
	}
	return nil
}

// effort is what the step of an effort of a run is called.
func (t *trial) effort(a *studio.Activity, number int) string {
	for i := range t.lots {
		r := t.book.Of(t.lots[i].Made())
		for first, s := range r.Steps {
			if studio.TaskID(t.lots[i].ID, s.Key) != a.ID {
				continue
			}
			for _, s := range r.Steps[first:] {
				if number == 0 {
					return r.Name + ", " + s.Name
				}
				number -= 1 + len(s.Work.Also)
			}
		}
	}
	return ""
}

// add adds a lot of something, and lots of what it needs fresh; it returns its id.
func (t *trial) add(id studio.ID, made studio.Made, mixes map[string]studio.ID, quantity, run int64) studio.ID {
	book := t.book
	r := book.Of(made)
	quantity = studio.CeilDiv(quantity, r.Unit()) * r.Unit()
	t.at[id] = len(t.lots)
	t.lots = append(t.lots, studio.Lot{ID: id, Recipe: made.Recipe, Variant: made.Variant, Mixes: mixes,
		Started: quantity, Alive: quantity, Run: run})
	for i := range r.Parts {
		p := &r.Parts[i]
		if !book.Batched(r, *p) {
			continue
		}
		own, _ := book.Resolve(p.Made(), book.Input(*p, mixes))
		left, lots := r.At(p.Step, quantity)*p.Count, int64(1)
		if t.spares {
			losing, _ := book.Of(p.Made()).Losing()
			left += int64(math.Ceil(float64(left) * losing))
		}
		size := t.sizeOf(p.Made(), own)
		if size.Most > 0 {
			lots = studio.CeilDiv(left, size.Most)
		}
		for n := range lots {
			pieces := left / (lots - n)
			left -= pieces
			from := t.add(studio.ID(fmt.Sprintf("%s/%d.%d", id, i, n)), p.Made(), own, pieces, size.Run)
			link := studio.Link{From: from, To: id, Step: p.Step, Recipe: p.Recipe, Quantity: pieces}
			t.links, t.feeds[id] = append(t.links, link), append(t.feeds[id], link)
		}
	}
	return id
}

// sizeOf is the batch of what a lot needs fresh: of more, it takes several.
func (t *trial) sizeOf(made studio.Made, mixes map[string]studio.ID) Batch {
	if !t.book.Perishes(t.book.Of(made)) {
		return Batch{}
	}
	return t.sizes.of(t.doc, made, mixes)
}

// make works through the tasks of lots: of those that can begin soonest the next task of the
// first, so that the maker goes on with one while another waits.
func (t *trial) make(lots ...studio.ID) {
	done := make([]int, len(lots))
	before := make([]studio.Minute, len(lots))
	for {
		next, soonest := -1, studio.Minute(0)
		for n, lot := range lots {
			if done[n] == len(t.routings[lot].Tasks) {
				continue
			}
			if ready := max(t.free, t.ready(&t.routings[lot].Tasks[done[n]], before[n])); next < 0 || ready < soonest {
				next, soonest = n, ready
			}
		}
		if next < 0 {
			return
		}
		lot := lots[next]
		a := &t.routings[lot].Tasks[done[next]]
		t.inputs(lot, a, before[next])
		before[next] = t.task(a, before[next])
		done[next]++
	}
}

// inputs makes what a task of a lot needs fresh: what has to wait as it is made so that it is
// ready when the task can begin, and all else so that it is done when that is.
func (t *trial) inputs(lot studio.ID, a *studio.Activity, before studio.Minute) {
	var waiting, rest []studio.ID
	for _, link := range t.feeds[lot] {
		switch {
		case t.takes(lot, link.Step) != a.ID:
		case t.lies(link.From, a) > 0:
			waiting = append(waiting, link.From)
		default:
			rest = append(rest, link.From)
		}
	}
	slices.SortStableFunc(waiting, func(x, y studio.ID) int { return cmp.Compare(t.lies(y, a), t.lies(x, a)) })
	begun := t.free
	if t.make(waiting...); len(waiting) > 0 {
		if ready := t.readyFor(a, waiting); ready < before {
			t.free = begun + before - ready
			t.make(waiting...)
		}
		before = max(before, t.readyFor(a, waiting))
	}
	begun = t.free
	if t.make(rest...); t.free > begun && t.free < before {
		t.free = begun + before - t.free
		t.make(rest...)
	}
}

// lies is how long a lot waits at least as it is made and until a task takes it up.
func (t *trial) lies(lot studio.ID, by *studio.Activity) (wait studio.Minute) {
	tasks := t.routings[lot].Tasks
	for i := range tasks {
		if tasks[i].Wait != nil {
			wait += studio.Milliminutes(t.room.Need(tasks[i].Wait.Least)).Minutes()
		}
	}
	for _, lag := range t.lags[by.ID] {
		if lag.Least != nil && slices.ContainsFunc(tasks, func(a studio.Activity) bool { return a.ID == lag.From }) {
			wait = max(wait, studio.Milliminutes(t.room.Need(*lag.Least)).Minutes())
		}
	}
	return wait
}

// takes is the id of the task that does a step of a lot.
func (t *trial) takes(lot studio.ID, step string) studio.ID {
	r := t.book.Of(t.lots[t.at[lot]].Made())
	_, at := r.Step(step)
	first, _ := r.Task(at)
	return studio.TaskID(lot, r.Steps[first].Key)
}

// task does one task after the one before it, and says when it ends.
func (t *trial) task(a *studio.Activity, before studio.Minute) studio.Minute {
	p := studio.Passage{Start: t.ready(a, before), Pieces: max(1, a.Pieces), Whole: a.Wait != nil}
	if a.Wait != nil {
		p.Rest = studio.Milliminutes(t.room.Need(a.Wait.Least)).Minutes()
	} else {
		p.Start = max(p.Start, t.free)
		for _, run := range a.Runs(&t.maker, 0) {
			p.Rest += run
		}
		p.Setup = min(p.Rest, a.SetupFor(&t.maker, 0))
		p.Rest -= p.Setup
		t.free = p.Start + p.Setup + p.Rest
	}
	t.passed[a.ID], t.ends[a.ID] = p, p.Start+p.Setup+p.Rest
	return t.ends[a.ID]
}

// readyFor is when a task could take up some lots.
func (t *trial) readyFor(a *studio.Activity, lots []studio.ID) (ready studio.Minute) {
	for _, lag := range t.lags[a.ID] {
		from := slices.ContainsFunc(lots, func(lot studio.ID) bool {
			return slices.ContainsFunc(t.routings[lot].Tasks, func(b studio.Activity) bool { return b.ID == lag.From })
		})
		if from {
			ready = max(ready, t.end(lag))
		}
	}
	return ready
}

// end is when the least time of a window is over.
func (t *trial) end(lag studio.Lag) studio.Minute {
	if lag.Least == nil {
		return t.ends[lag.From]
	}
	return t.ends[lag.From] + studio.Milliminutes(t.room.Need(*lag.Least)).Minutes()
}

// ready is when a task could begin after the one before it, for the least times of its windows.
func (t *trial) ready(a *studio.Activity, before studio.Minute) studio.Minute {
	for _, lag := range t.lags[a.ID] {
		before = max(before, t.end(lag))
	}
	return before
}

// named is what a task is called: its step and what it is of.
func (t *trial) named(task studio.ID) string {
	for i := range t.lots {
		r := t.book.Of(t.lots[i].Made())
		for _, s := range r.Steps {
			if studio.TaskID(t.lots[i].ID, s.Key) == task {
				return r.Name + ", " + s.Name
			}
		}
	}
	return ""
}

// limitedBy says what limits lots: in a working where they are divided for it, and in a note
// where not even one piece is in time.
func (c *counter) limitedBy(item *Item, r *studio.Recipe, divided bool) {
	b := c.batchOf(item, r)
	if b.None {
		code := NotEvenOne
		if b.Limit.AtOnce {
			code = NoDayLongEnough
		}
		c.note(code, item.Recipe, item.Orders, studio.With{"of": r.Name, "from": b.Limit.From, "to": b.Limit.To,
			"waitsMinutes": b.Limit.Waits, "lastMinutes": b.Limit.Last})
	}
	if b.Most > 0 && divided {
		item.Workings = append(item.Workings, b.Working(r))
	}
}

// Working says what limits a batch.
func (b Batch) Working(r *studio.Recipe) studio.Working {
	inputs := []studio.Figure{
		studio.NewFigure("one-more-would-wait", b.Limit.Waits, "min").OfThing(b.Limit.From + " – " + b.Limit.To),
		studio.NewFigure("may-wait", b.Limit.Last, "min"),
		studio.NewFigure("kept-to-spare", 100/spareWindow, "%"),
	}
	if b.Limit.AtOnce {
		inputs[0].Name, inputs[1].Name = "one-more-would-take-at-once", "longest-day"
	}
	if b.Limit.Fit > 0 {
		inputs = []studio.Figure{
			studio.NewFigure("one-more-would-be", b.Limit.Pieces, "pieces").OfThing(b.Limit.From),
			studio.NewFigure("have-room", b.Limit.Fit, "pieces"),
		}
		if b.Limit.To != "" {
			inputs = []studio.Figure{
				studio.NewFigure("one-more-would-take", b.Limit.Pieces, "slots").OfThing(b.Limit.From),
				studio.NewFigure("slots-there", b.Limit.Fit, "slots").OfThing(b.Limit.To),
			}
		}
	}
	return studio.Working{Rule: "batch", Rounding: studio.ToEven, Inputs: inputs,
		Result: figure(r, "most-in-one-lot", b.Most)}
}

// gatherBatches makes lots of their own for each need of a group: the spares on all of them
// are shared out, each lot at least what it is for.
func (c *counter) gatherBatches(item *Item, r *studio.Recipe, needs []need) {
	g := c.gatherUp(item, r, needs)
	into, unit := c.inputs(r, item.Mixes), r.Unit()
	most := c.mostPerLot(item, r)
	c.limitedBy(item, r, true)
	var given, asked int64
	for i := range needs {
		n := needs[i : i+1 : i+1]
		quantity := n[0].quantity
		asked += quantity
		share := studio.CeilDiv(max(quantity, g.started*asked/max(1, g.total)-given), unit) * unit
		given += share
		lots := int64(1)
		if room := mostLots - int64(len(c.result.Lots)); most > 0 && room > 0 {
			lots = min(room, studio.CeilDiv(share, max(unit, most/unit*unit)))
		}
		for k := range lots {
			ordinal := c.nextOrdinal(item.Key)
			lot := studio.Lot{
				ID:      studio.LotID(item.Key, ordinal),
				Key:     item.Key,
				Recipe:  item.Recipe,
				Variant: item.Variant,
				Mixes:   item.Mixes,
				Ordinal: ordinal,
				Started: share / unit / (lots - k) * unit,
				Run:     c.batchOf(item, r).Run,
				Pegs:    []studio.Peg{},
			}
			lot.Need = min(lot.Started, quantity*lot.Started/share)
			share, quantity = share-lot.Started, quantity-lot.Need
			lot.Alive = lot.Started
			n = c.begin(item, r, lot, n, into, g)
		}
	}
	item.Started, item.Spare = item.Started+given-g.started, item.Spare+given-g.started
}
