package rehearse

import (
	"cmp"
	"maps"
	"slices"

	"bractum/core/bench"
	"bractum/core/count"
	"bractum/core/drying"
	"bractum/core/studio"
)

// Notebook is how a studio is run that has a notebook, a calculator and a timer.
type Notebook struct {
	// Extra is how many percent more of everything are begun.
	Extra int64 `json:"extraPercent"`
	// Overnight leaves what dries until the next morning; else it is as long as it usually takes.
	Overnight bool `json:"overnight"`
	// Stock has an order made of what lies there; else it is made anew.
	Stock bool `json:"looksAtStock"`
	// Turn is what comes first: what leaves first, or what was asked for first.
	Turn Turn `json:"turn" enum:"leaves,asked"`
	// Stays has everybody stay for what leaves so soon, in minutes, as long as they may.
	Stays studio.Minute `json:"staysForMinutes"`
}

// Turn is in which order a notebook works.
type Turn string

// Turns.
const (
	ByLeaving Turn = "leaves"
	ByAsking  Turn = "asked"
)

// UsualNotebook is earliest date first, a tenth extra of everything, overnight for whatever dries, no look at stocks;
// everybody stays for what leaves within two days.
func UsualNotebook() Notebook {
	return Notebook{Extra: 10, Overnight: true, Turn: ByLeaving, Stays: 2 * 1440}
}

// byNotebook is a studio that is run by a notebook. Who is free takes up what may be done of what comes first; what is
// soft goes before it, as everybody knows.
type byNotebook struct {
	Notebook
	counter count.Counter
	asked   map[studio.ID]int // orders, by when they were asked for
	turn    map[studio.ID]int // lots, by when they are made
	slots   map[studio.ID]int64
	tools   map[studio.ID]int64
}

// newNotebook is one for a document.
func newNotebook(n Notebook, doc *studio.Document) *byNotebook {
	l := &byNotebook{
		Notebook: n,
		asked:    map[studio.ID]int{},
		slots:    map[studio.ID]int64{},
		tools:    map[studio.ID]int64{},
	}
	for _, p := range doc.Places {
		l.slots[p.ID] = p.Slots
	}
	for _, t := range doc.Tools {
		l.tools[t.ID] = t.Number
	}
	return l
}

// spare is a document with a tenth extra of everything, or as much as it is, and nothing gathered that is not asked
// for together.
func (n Notebook) spare(doc *studio.Document) *studio.Document {
	d := *doc
	d.Settings.GatheringMinutes = 0
	d.Recipes = slices.Clone(doc.Recipes)
	for i := range d.Recipes {
		r := &d.Recipes[i]
		r.Spares.Rule, r.Spares.Percent = studio.SparesByPercent, n.Extra
		if r.Kind == studio.KindMix {
			r.Spares = doc.Recipes[i].Spares
		}
	}
	d.Settings.LossPerMille += studio.PerMille(10 * n.Extra)
	return &d
}

func (l *byNotebook) plans(p *player, _ *studio.Plan) (*studio.Plan, error) {
	for _, o := range p.doc.Orders {
		if _, known := l.asked[o.ID]; !known {
			l.asked[o.ID] = len(l.asked)
		}
	}
	seen := *p.doc
	if !l.Stock {
		seen.Shelf = slices.Clone(p.doc.Shelf)
		for i := range seen.Shelf {
			s := &seen.Shelf[i]
			if r := p.book.Recipe(s.Recipe); r.Kind != studio.KindMix {
				s.Amount = studio.Sum(studio.OfOrders(p.doc.Open(s.Reserved)))
			}
		}
		seen.Shelf = slices.DeleteFunc(seen.Shelf, func(s studio.ShelfLot) bool { return s.Amount <= 0 })
	}
	counted, err := l.counter.Up(&seen)
	if err != nil {
		return nil, err
	}
	l.turns(p, counted)
	return &studio.Plan{Format: studio.PlanFormat, Version: studio.Version, Now: p.doc.Now, Lots: counted.Lots,
		Links: counted.Links, Pegs: counted.Pegs}, nil
}

// turns says of each lot whose turn it is: that of the first order it is for.
func (l *byNotebook) turns(p *player, counted *count.Result) {
	orders := map[studio.ID]int{}
	all := slices.Clone(p.doc.Orders)
	slices.SortStableFunc(all, func(a, b studio.Order) int {
		if l.Turn == ByAsking {
			return cmp.Compare(l.asked[a.ID], l.asked[b.ID])
		}
		return cmp.Or(a.Leaves.Compare(b.Leaves), cmp.Compare(l.asked[a.ID], l.asked[b.ID]))
	})
	for i, o := range all {
		orders[o.ID] = i
	}
	l.turn = map[studio.ID]int{}
	for i := range counted.Lots {
		lot := &counted.Lots[i]
		first := len(all)
		for _, c := range studio.OfOrders(lot.For) {
			first = min(first, orders[c.Order])
		}
		l.turn[lot.ID] = first
	}
}

// next is what somebody could begin by what the notebook knows: what is soft first, then by its turn, what is nearly
// done before what is not begun.
func (l *byNotebook) next(p *player, who *studio.Person) studio.ID {
	type one struct {
		task       studio.ID
		soft       bool
		turn, step int
	}
	slots, tools := l.free(p)
	var best *one
	for i := range p.instance.Lots {
		lot := &p.instance.Lots[i]
		for k := range lot.Tasks {
			a := &lot.Tasks[k]
			if a.Wait != nil || a.Fact != nil || p.begun[a.ID] || p.blocked[a.ID] > p.doc.Now || !a.May(who, nil) {
				continue
			}
			if k > 0 && !l.over(p, lot.Tasks[k-1].ID) {
				break // nor what comes after it
			}
			c := one{a.ID, p.soft[a.ID], l.turn[lot.ID], -k}
			if best != nil && !(c.soft && !best.soft || c.soft == best.soft &&
				cmp.Or(cmp.Compare(c.turn, best.turn), cmp.Compare(c.step, best.step)) < 0) {
				continue
			}
			if l.mayGoOn(p, who, a, slots, tools) && l.inOneGo(p, who, a) {
				best = &c
			}
		}
	}
	if best == nil {
		return ""
	}
	return best.task
}

// inOneGo is true of what somebody can do before they go home, or pause at.
func (l *byNotebook) inOneGo(p *player, who *studio.Person, a *studio.Activity) bool {
	open := p.hours[who.ID]
	if l.stays(p, who) {
		open = studio.Together(open, p.late[who.ID])
	}
	if _, _, ok := open.Lay(p.doc.Now, a.Runs(who, 0), a.Pauses()); !ok {
		return false
	}
	if p.soft[a.ID] {
		return true // later is worse
	}
	begins := p.course.calendar.At(p.course.calendar.Date(p.doc.Now), 0)
	home := open.LastBefore(begins + 1440)
	first, _ := open.Next(begins)
	soft := l.softFor(p, who, a)
	return p.doc.Now+soft <= home || soft > home-first
}

// softChain is a task with all those after it in its lot up to the last that has to take it up while it is soft.
func (l *byNotebook) softChain(p *player, a *studio.Activity) []*studio.Activity {
	all, until := []*studio.Activity{a}, 1
	for next := p.after[a.ID]; p.activities[next] != nil; next = p.after[next] {
		if all = append(all, p.activities[next]); p.soft[next] {
			until = len(all)
		}
	}
	return all[:until]
}

// mayGoOn is true of a task for which there are places, tools and all that goes into it, and for what has to go on with
// it while it is soft: nobody cuts what there is no former for.
func (l *byNotebook) mayGoOn(p *player, who *studio.Person, a *studio.Activity, slots, tools map[studio.ID]int64) bool {
	left, chain := maps.Clone(slots), l.softChain(p, a)
	all := func(one *studio.Person) bool {
		return !slices.ContainsFunc(
			chain,
			func(step *studio.Activity) bool { return step.Wait == nil && !step.May(one, nil) },
		)
	}
	if !all(who) && slices.ContainsFunc(p.doc.People, func(one studio.Person) bool { return all(&one) }) {
		return false // whoever can do all of it begins it
	}
	kept := p.soft[a.ID] // its former has been kept for it since it was cut
	for i, step := range chain {
		if !l.inputs(p, step.ID, i > 0) || !kept && !fits(step, left, tools) || !has(step, tools) {
			return false
		}
		for _, h := range step.Holds {
			left[h.Place] -= h.Slots
		}
	}
	return true
}

// softFor is how long it takes until all of a lot is done, from a task on, that has to be done while it is soft: who
// knows their flowers does not cut in the evening what is to be cupped in two hours.
func (l *byNotebook) softFor(p *player, who *studio.Person, a *studio.Activity) (minutes studio.Minute) {
	for _, step := range l.softChain(p, a) {
		minutes += p.usualLength(who, step)
	}
	for _, taker := range p.takers[a.ID] { // what takes it up in another lot
		minutes = max(minutes, p.usualLength(who, a)+p.usualLength(who, p.activities[taker]))
	}
	return minutes
}

// inputs is true where all that a task takes up is made and, by the notebook, dry; later, where that is so of what
// comes from other lots.
func (l *byNotebook) inputs(p *player, task studio.ID, later bool) bool {
	for _, lag := range p.into[task] {
		if later && p.lot[lag.From] == p.lot[task] {
			continue
		}
		if !l.over(p, lag.From) {
			return false
		}
		if end, _ := p.done(lag.From); lag.Least != nil && end+lag.Least.Minutes > p.doc.Now {
			return false
		}
	}
	return true
}

// over is true of a task that is done or, of what dries, that has lain overnight; of what rests, that has rested.
func (l *byNotebook) over(p *player, task studio.ID) bool {
	a := p.activities[task]
	if _, done := p.done(task); done || a == nil {
		return true
	}
	since, lies := p.done(p.before[task])
	if a.Wait == nil || a.Wait.Load != nil || !lies {
		return false
	}
	d := a.Wait.Least.Dries
	switch {
	case d == nil:
		return since+a.Wait.Least.Minutes <= p.doc.Now
	case l.Overnight && d.State != studio.Firm:
		return p.course.calendar.Date(p.doc.Now).Compare(p.course.calendar.Date(since)) > 0
	}
	return since+p.usual(*d) <= p.doc.Now
}

// free is what there is of places and tools beside what is taken now.
func (l *byNotebook) free(p *player) (slots, tools map[studio.ID]int64) {
	slots, tools = maps.Clone(l.slots), maps.Clone(l.tools)
	for i := range p.instance.Lots {
		lot := &p.instance.Lots[i]
		for k := range lot.Tasks {
			a := &lot.Tasks[k]
			begun := p.begun[a.ID] || a.Fact != nil
			if a.Wait != nil && a.Wait.Load == nil && k > 0 {
				_, begun = p.done(lot.Tasks[k-1].ID)
			}
			if !begun {
				continue
			}
			if _, done := p.done(a.ID); a.Wait == nil && !done {
				for _, use := range a.Tools {
					taken(tools, use, -use.Number)
				}
			}
			for _, step := range l.softChain(p, a)[1:] { // what is cut has its former
				if !p.begun[step.ID] && step.Fact == nil {
					for _, h := range step.Holds {
						slots[h.Place] -= h.Slots
					}
				}
			}
			for _, h := range a.Holds {
				if !l.over(p, a.ID) || slices.ContainsFunc(h.Until, func(t studio.ID) bool { return !l.over(p, t) }) {
					slots[h.Place] -= h.Slots
				}
			}
		}
	}
	return slots, tools
}

// taken takes so many of a tool, or of what stands for it; false where there are not as many.
func taken(tools map[studio.ID]int64, use studio.ToolUse, change int64) bool {
	for _, t := range use.AnyOf {
		if tools[t]+change >= 0 {
			tools[t] += change
			return true
		}
	}
	return false
}

// fits is true of a task for which there are places and tools.
func fits(a *studio.Activity, slots, tools map[studio.ID]int64) bool {
	for _, h := range a.Holds {
		if slots[h.Place] < h.Slots {
			return false
		}
	}
	return has(a, tools)
}

// has is true of a task for which there are tools.
func has(a *studio.Activity, tools map[studio.ID]int64) bool {
	return !slices.ContainsFunc(
		a.Tools,
		func(use studio.ToolUse) bool { return !taken(maps.Clone(tools), use, -use.Number) },
	)
}

func (l *byNotebook) wakes(*player) studio.Minute { return drying.Never }

// loads empties machines that are through, and fills those that stand still with what waits for them.
func (l *byNotebook) loads(p *player) error {
	l.empties(p)
	for i := range p.instance.Lots {
		lot := &p.instance.Lots[i]
		for k := range lot.Tasks {
			a := &lot.Tasks[k]
			if a.Wait == nil || a.Wait.Load == nil || a.Fact != nil || p.begun[a.ID] ||
				k > 0 && !l.over(p, lot.Tasks[k-1].ID) {
				continue
			}
			l.fills(p, lot, a)
		}
	}
	return nil
}

func (l *byNotebook) empties(p *player) {
	for _, w := range p.doc.Work {
		for _, r := range w.Records {
			task := studio.TaskID(w.ID, r.Step)
			a := p.activities[task]
			if r.Machine == "" || r.State != studio.TaskStarted || a == nil ||
				r.Start+a.Wait.Least.Minutes > p.doc.Now {
				continue
			}
			if lots, err := bench.New(p.doc, p.made).SetOff([]studio.ID{task}, "", false); err == nil {
				p.happened(lots[0], nil)
				p.ends[task] = p.doc.Now
			}
		}
	}
}

// fills puts a wait into a machine that stands still.
func (l *byNotebook) fills(p *player, lot *studio.Routing, a *studio.Activity) {
	for _, machine := range a.Wait.Load.AnyOf {
		if slices.ContainsFunc(p.doc.Work, func(w studio.WorkLot) bool {
			return slices.ContainsFunc(w.Records, func(r studio.TaskRecord) bool {
				return r.Machine == machine && r.State == studio.TaskStarted
			})
		}) {
			continue
		}
		p.made.Tasks = append(p.made.Tasks, studio.Task{ID: a.ID, Lot: lot.ID, Step: a.Step, Load: &studio.Share{
			Machine: machine, Setting: a.Wait.Load.Setting, Slots: a.Wait.Load.Slots}})
		if lots, err := bench.New(p.doc, p.made).SetOff([]studio.ID{a.ID}, p.doc.People[0].ID, true); err == nil {
			p.happened(lots[0], nil)
			p.begun[a.ID] = true
			return
		}
		p.made.Tasks = p.made.Tasks[:len(p.made.Tasks)-1]
	}
}

// looks again where something was lost; else what was to be made still is.
func (l *byNotebook) looks(lost bool) bool { return lost }

func (l *byNotebook) touched(*player, studio.ID) error { return nil } // they look again in an hour

func (l *byNotebook) morning(p *player) error {
	p.stale = true
	return nil
}

// short has what is missing be there: a notebook never waits for wire or paste here, which is more than it deserves.
func (l *byNotebook) short(p *player, materials map[studio.ID]int64) error {
	for _, material := range slices.Sorted(maps.Keys(materials)) {
		p.move(
			studio.WorkLot{},
			[]studio.Movement{{Kind: studio.Bought, Material: material, Amount: materials[material]}},
		)
	}
	return nil
}

// stays where something leaves soon that is not finished.
func (l *byNotebook) stays(p *player, _ *studio.Person) bool {
	return slices.ContainsFunc(p.doc.Orders, func(o studio.Order) bool {
		return o.State == studio.OrderOpen && p.course.calendar.Minute(o.Leaves)-p.doc.Now < l.Stays
	})
}
