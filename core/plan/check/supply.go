package check

import (
	"slices"

	"bractum/core/studio"
)

// supply checks the lots, links and pegs of a counted document: lots stand as
// what happened left them, orders get what they want and lots their inputs, from
// lots and shelf that have so much.
func (c *checker) supply() {
	lots := c.knownLots()
	c.knownLinks(lots)
	if c.unknown() {
		return
	}
	drawn := map[studio.ID]int64{}
	for _, k := range c.plan.Links {
		drawn[k.From] += k.Quantity
	}
	keys := c.keys()
	c.lines(keys, drawn)
	c.inputs(lots, keys)
	c.amounts(drawn)
	c.reservations()
}

// keys says of every lot and shelf lot what it is, by its gather key.
func (c *checker) keys() map[studio.ID]string {
	keys := map[studio.ID]string{}
	note := func(id studio.ID, m studio.Made, mixes map[string]studio.ID) {
		own, _ := c.book.Resolve(m, mixes)
		keys[id] = studio.GatherKey(m, own)
	}
	for _, s := range c.doc.Shelf {
		if s.Reached == "" {
			note(s.ID, s.Made(), s.Mixes)
		}
	}
	for _, l := range c.plan.Lots {
		note(l.ID, l.Made(), l.Mixes)
	}
	for _, w := range c.doc.Work {
		note(w.ID, w.Made(), w.Mixes)
	}
	return keys
}

// lines checks that every line of an open order gets as many as it wants of what
// it wants, and adds up what pegs draw.
func (c *checker) lines(keys map[studio.ID]string, drawn map[studio.ID]int64) {
	type got struct {
		line studio.ID
		key  string
	}
	pegged := map[got]int64{}
	for _, p := range c.plan.Pegs {
		pegged[got{line: p.Line, key: keys[p.From]}] += p.Quantity
		drawn[p.From] += p.Quantity
	}
	for _, l := range c.plan.Lots {
		for _, p := range l.Pegs {
			pegged[got{line: p.Line, key: keys[l.ID]}] += p.Quantity
			drawn[l.ID] += p.Quantity
		}
	}
	colourways := map[studio.ID]map[string]studio.ID{}
	for _, way := range c.doc.Colourways {
		colourways[way.ID] = way.Slots
	}
	for _, o := range c.doc.Orders {
		if c.doc.Distant(o, c.calendar) {
			continue
		}
		for _, line := range o.Lines {
			mixes, _ := c.book.Resolve(line.Made(), colourways[line.Colourway])
			if n := pegged[got{line: line.ID, key: studio.GatherKey(line.Made(), mixes)}]; o.State == studio.OrderOpen &&
				n < line.Owed() {
				c.say(
					OrderShort,
					"",
					"order %q wants %d of %q, the plan makes or takes %d",
					o.Name,
					line.Owed(),
					c.book.Of(line.Made()).Name,
					n,
				)
			}
		}
	}
}

func (c *checker) knownLots() map[studio.ID]*studio.Lot {
	lots := map[studio.ID]*studio.Lot{}
	work := map[studio.ID]*studio.WorkLot{}
	for i := range c.doc.Work {
		work[c.doc.Work[i].ID] = &c.doc.Work[i]
	}
	for i := range c.plan.Lots {
		l := &c.plan.Lots[i]
		r := c.book.Of(l.Made())
		if lots[l.ID] != nil || r == nil {
			c.say(UnknownThing, "", "lot %q stands twice or is of unknown recipe %q %q", l.ID, l.Recipe, l.Variant)
			continue
		}
		most := int64(1_000_000)
		if r.Kind == studio.KindMix {
			most *= 1000
		}
		if l.Started < 0 || l.Started > most {
			c.say(UnknownThing, "", "lot %q is of %d; from 0 to %d would be right", l.ID, l.Started, most)
			continue
		}
		lots[l.ID] = l
		for _, slot := range c.book.Slots(l.Made()) {
			if l.Mixes[slot] == "" || c.book.Recipe(l.Mixes[slot]) == nil {
				c.say(UnknownThing, "", "lot %q has no mix for %q", l.ID, slot)
			}
		}
		for _, await := range l.Awaits {
			if !slices.ContainsFunc(c.gates, func(g studio.Gate) bool { return g.ID == await.Gate }) {
				c.say(UnknownThing, "", "lot %q waits for unknown gate %q", l.ID, await.Gate)
			}
		}
		begun := studio.WorkLot{Started: l.Started, Reached: l.Reached}
		want := studio.Lot{
			Started:  l.Started,
			Alive:    l.Started,
			NextStep: begun.Progress(r).NextStep,
			From:     l.From,
			Reached:  l.Reached,
		}
		if w := work[l.ID]; w != nil {
			progress := w.Progress(r)
			want = studio.Lot{
				Started:  w.Started,
				Alive:    progress.Alive,
				NextStep: progress.NextStep,
				InWork:   true,
				From:     w.From,
				Reached:  w.Reached,
			}
			if w.Made() != l.Made() {
				c.say(LotWrong, "", "lot %q was begun as %q %q", l.ID, w.Recipe, w.Variant)
			}
		}
		if l.Started != want.Started || l.Alive != want.Alive || l.NextStep != want.NextStep ||
			l.InWork != want.InWork ||
			l.Alive < 0 ||
			l.From != want.From ||
			l.Reached != want.Reached {
			c.say(
				LotWrong,
				"",
				"lot %q: %d started, %d alive, next step %d, from %q would be right",
				l.ID,
				want.Started,
				want.Alive,
				want.NextStep,
				want.From,
			)
		}
		if l.From+studio.ID(l.Reached) != "" && !l.InWork &&
			!slices.ContainsFunc(
				c.book.NewShelf(c.doc).HalfMade(l.Made(), l.Mixes),
				func(s *studio.Stock) bool { return s.ID == l.From && s.Reached == l.Reached },
			) {
			c.say(LotWrong, "", "lot %q cannot be finished from %q after %q", l.ID, l.From, l.Reached)
		}
	}
	return lots
}

func (c *checker) knownLinks(lots map[studio.ID]*studio.Lot) {
	for _, k := range c.plan.Links {
		to := lots[k.To]
		if to == nil {
			c.say(UnknownThing, "", "a link feeds unknown lot %q", k.To)
			continue
		}
		if _, at := c.book.Of(to.Made()).Step(k.Step); at < 0 || k.From == k.To {
			c.say(UnknownThing, "", "a link from %q feeds step %q of %q, which has no such step", k.From, k.Step, k.To)
		}
	}
}

// inputs checks that every step still to come gets its parts and pastes. How many
// grams of a paste that is, is the count's affair.
func (c *checker) inputs(lots map[studio.ID]*studio.Lot, keys map[studio.ID]string) {
	type input struct {
		to   studio.ID
		step string
		key  string
	}
	got, fromStock := map[input]int64{}, map[input]bool{}
	for _, k := range c.plan.Links {
		in := input{to: k.To, step: k.Step, key: keys[k.From]}
		got[in] += k.Quantity
		fromStock[in] = fromStock[in] || lots[k.From] == nil
	}
	unneeded := studio.Unneeded(c.plan.Lots, c.plan.Links)
	for i := range c.plan.Lots {
		l := &c.plan.Lots[i]
		if unneeded[l.ID] {
			continue
		}
		r := c.book.Of(l.Made())
		for _, p := range r.Parts {
			in := input{to: l.ID, step: p.Step, key: studio.GatherKey(p.Made(), c.book.Input(p, l.Mixes))}
			need := p.Count
			if p.Least != nil {
				need = *p.Least
			}
			need *= r.At(p.Step, l.Alive)
			_, at := r.Step(p.Step)
			if at >= l.NextStep && got[in] < need {
				c.say(
					InputShort,
					studio.TaskID(l.ID, p.Step),
					"needs %d of %q, gets %d",
					need,
					c.book.Of(p.Made()).Name,
					got[in],
				)
			}
			if at >= l.NextStep && fromStock[in] && c.book.Fresh(r, p) {
				c.say(
					InputFromStock,
					studio.TaskID(l.ID, p.Step),
					"takes %q from the shelf, though it has to be fresh",
					c.book.Of(p.Made()).Name,
				)
			}
		}
		for _, p := range r.Pastes {
			mix := studio.GatherKey(studio.Made{Recipe: l.Mixes[p.Slot]}, nil)
			if _, at := r.Step(p.Step); at >= l.NextStep && l.Alive > 0 &&
				got[input{to: l.ID, step: p.Step, key: mix}] == 0 {
				c.say(InputShort, studio.TaskID(l.ID, p.Step), "takes %q from no mixing", p.Slot)
			}
		}
	}
}

func (c *checker) amounts(drawn map[studio.ID]int64) {
	has, made := map[studio.ID]int64{}, map[studio.ID]int64{}
	for _, l := range c.plan.Lots {
		has[l.ID] = l.Alive
	}
	for _, l := range c.plan.Lots {
		if !l.InWork && l.From != "" {
			drawn[l.From] += l.Started
		}
	}
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
