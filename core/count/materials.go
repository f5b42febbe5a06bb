package count

import (
	"cmp"
	"maps"
	"slices"

	"bractum/core/drying"
	"bractum/core/paste"
	"bractum/core/studio"
	"bractum/core/wire"
)

// MaterialNeed is how much of a bought material the lots still take up, in its
// unit; of a wire, full wires.
type MaterialNeed struct {
	Material studio.ID `json:"material"`
	Needed   int64     `json:"needed"`
	OnHand   int64     `json:"onHand"`
}

// Materials adds up what counted lots still take of each material, in the
// document's order: weighed into mixes, by amount for each piece, and as full wires of
// their cutting sheets.
func Materials(doc *studio.Document, lots []studio.Lot, sheets []wire.Sheet) []MaterialNeed {
	book := studio.NewBook(doc)
	needed := map[studio.ID]int64{}
	for i := range lots {
		takes(doc, book, &lots[i], needed)
	}
	for _, sheet := range sheets {
		needed[sheet.Material] += sheet.Cutting.Full
	}
	needs := []MaterialNeed{}
	for _, m := range doc.Materials {
		if needed[m.ID] > 0 {
			needs = append(needs, MaterialNeed{Material: m.ID, Needed: needed[m.ID], OnHand: m.OnHand})
		}
	}
	return needs
}

// takes adds what a lot still takes of everything but wire.
func takes(doc *studio.Document, book *studio.Book, lot *studio.Lot, needed map[studio.ID]int64) {
	r := book.Of(lot.Made())
	if !lot.Needed() {
		return
	}
	for _, m := range r.Materials {
		if _, at := r.Step(m.Step); at >= lot.NextStep {
			needed[m.Material] += m.Ready(r.At(m.Step, lot.Alive))
		}
	}
	if r.Kind == studio.KindMix && lot.NextStep == 0 {
		for _, p := range paste.Weigh(r, studio.Milligrams(lot.Started), doc.Settings.ScaleStepMilligrams) {
			if p.Material != "" {
				needed[p.Material] += int64(p.Weigh)
			}
		}
	}
}

// use is a material that lots of something take at a step: so much for each piece, or wires of a
// length.
type use struct {
	material, at int // by number
	step         string
	input        *studio.MaterialInput // nil of wires: so many of a length each
	number       int64
	length       studio.Micrometres
}

func (u *use) wire() bool { return u.length > 0 }

// of is how much of it a lot takes; of a wire, how many pieces.
func (u *use) of(r *studio.Recipe, lot *studio.Lot) int64 {
	pieces := r.At(u.step, lot.Alive)
	if u.wire() {
		return u.number * pieces
	}
	return u.input.Ready(pieces)
}

// stock is what there is of a material and what comes, as it is given to lots.
type stock struct {
	*studio.Material
	needed, left int64
	coming       []studio.Gate
	lengths      map[studio.Micrometres]int64 // pieces of wire
	long, given  int64                        // all of them, and what was given, in micrometres
	wires        int64                        // given
	last         []studio.ID                  // gates of the wire that was cut last
	missing      int64                        // that nobody sells
	orders       []studio.Claim               // that miss it
}

// take gives a lot what it needs: the gates that it waits for then.
func (s *stock) take(need int64) (gates []studio.ID) {
	taken := min(need, max(0, s.left))
	s.left, need = s.left-taken, need-taken
	for i := range s.coming {
		g := &s.coming[i]
		if taken := min(need, g.Amount); taken > 0 {
			need, g.Amount = need-taken, g.Amount-taken
			gates = append(gates, g.ID)
		}
	}
	switch {
	case need == 0:
	case s.Supplier != "":
		gates = append(gates, studio.Ordering(s.ID))
	default:
		s.missing += need
	}
	return gates
}

// arrivals says which lots wait at which steps for which materials: what is on hand goes to lots in
// work, then to those that must begin first; what is delivered to the next ones, in the order in
// which it is expected; the rest waits until what is ordered now would be there. What nobody
// sells is said and holds nothing up. It answers which orders are to be gathered apart.
func (c *counter) arrivals() classes {
	stocks := make([]stock, len(c.doc.Materials))
	number := make(map[studio.ID]int, len(stocks))
	for i := range stocks {
		m := &c.doc.Materials[i]
		stocks[i].Material, stocks[i].left, number[m.ID] = m, m.OnHand, i
	}
	var key string // lots of one item follow one another
	var r *studio.Recipe
	var all []use
	each := func(l *studio.Lot, take func(u *use, amount int64)) {
		if !l.Needed() {
			return
		}
		if l.Key != key || r == nil {
			key, r = l.Key, c.book.Of(l.Made())
			all = c.uses(l.Made(), r, number)
		}
		for i := range all {
			if u := &all[i]; u.at >= l.NextStep {
				take(u, u.of(r, l))
			}
		}
		if r.Kind == studio.KindMix && l.NextStep == 0 {
			for _, p := range paste.Weigh(r, studio.Milligrams(l.Started), c.doc.Settings.ScaleStepMilligrams) {
				if p.Material != "" {
					take(&use{material: number[p.Material], step: r.Steps[0].Key}, int64(p.Weigh))
				}
			}
		}
	}
	var wires *use
	var cut int64
	flush := func() {
		if wires == nil {
			return
		}
		s := &stocks[wires.material]
		if s.lengths == nil {
			s.lengths = map[studio.Micrometres]int64{}
		}
		s.lengths[wires.length] += cut
		s.long += cut * int64(wires.length)
		wires, cut = nil, 0
	}
	for i := range c.result.Lots {
		each(&c.result.Lots[i], func(u *use, amount int64) {
			if !u.wire() {
				stocks[u.material].needed += amount
				return
			}
			if u != wires {
				flush()
			}
			wires, cut = u, cut+amount
		})
	}
	flush()
	short := make([]bool, len(stocks))
	some := false
	for i := range stocks {
		if s := &stocks[i]; s.lengths != nil {
			s.needed += c.wires(s)
		}
		short[i] = stocks[i].needed > stocks[i].OnHand
		some = some || short[i]
	}
	if !some {
		return nil
	}
	for _, g := range c.doc.Gates {
		if i, known := number[g.Material]; known && short[i] {
			stocks[i].coming = append(stocks[i].coming, g)
		}
	}
	for i := range stocks {
		slices.SortStableFunc(
			stocks[i].coming,
			func(a, b studio.Gate) int { return cmp.Compare(expected(a), expected(b)) },
		)
	}
	var first []*studio.Lot
	for i := range c.result.Lots {
		l, takes := &c.result.Lots[i], false
		each(l, func(u *use, _ int64) { takes = takes || short[u.material] })
		if takes {
			first = append(first, l)
		}
	}
	waiting := map[studio.ID]*wait{}
	for _, p := range c.parts(first) {
		l := p.lot
		each(l, func(u *use, amount int64) {
			s := &stocks[u.material]
			if !short[u.material] {
				return
			}
			if amount = p.of(amount); u.wire() {
				s.given += amount * int64(u.length)
				amount, s.wires = share(s.needed, s.given, s.long)-s.wires, share(s.needed, s.given, s.long)
			}
			missing := s.missing
			gates := s.last // of a wire that is cut already
			if amount > 0 || !u.wire() {
				gates = s.take(amount)
			}
			if u.wire() {
				s.last = gates
			}
			for _, gate := range gates {
				if await := (studio.Await{Step: u.step, Gate: gate}); !slices.Contains(l.Awaits, await) {
					l.Awaits = append(l.Awaits, await)
				}
			}
			if s.missing > missing {
				for _, claim := range l.For {
					s.orders = studio.Add(s.orders, claim)
				}
			}
			if waiting[l.ID] == nil {
				waiting[l.ID] = &wait{waits: map[studio.ID]bool{}, not: map[studio.ID]bool{}}
			}
			if w := waiting[l.ID]; len(gates) > 0 {
				w.waits[p.order] = true
			} else {
				w.not[p.order] = true
			}
		})
	}
	for _, w := range waiting { // what waits for anything waits
		maps.DeleteFunc(w.not, func(o studio.ID, _ bool) bool { return w.waits[o] })
	}
	for i := range stocks {
		if s := &stocks[i]; s.missing > 0 {
			c.note(NobodySells, "", ordersOf(s.orders), studio.With{"of": s.Name})
		}
	}
	return c.keptBack(waiting)
}

// share is how many of some wires pieces of a length take, of all that are so long.
func share(wires, length, all int64) int64 {
	const fine = 1000 // keeps what is multiplied in bounds
	return studio.CeilDiv(wires*(length/fine), max(1, all/fine))
}

// uses are the materials that something takes, by number, worked out once.
func (c *counter) uses(made studio.Made, r *studio.Recipe, number map[studio.ID]int) []use {
	all, known := c.counter.uses[made]
	if known {
		return all
	}
	for i := range r.Materials {
		m := &r.Materials[i]
		_, at := r.Step(m.Step)
		all = append(all, use{material: number[m.Material], at: at, step: m.Step, input: m})
	}
	for _, w := range r.Wires {
		_, at := r.Step(w.Step)
		all = append(
			all,
			use{material: number[w.Material], at: at, step: w.Step, number: w.Number, length: wire.Length(w)},
		)
	}
	c.counter.uses[made] = all
	return all
}

// wires is about how many full wires all pieces of a wire take: exactly only where it may be more
// than there are.
func (c *counter) wires(s *stock) (most int64) {
	pieces := make([]wire.Piece, 0, len(s.lengths))
	for length, number := range s.lengths {
		pieces = append(pieces, wire.Piece{Length: length, Number: number})
		most += studio.CeilDiv(number, max(1, int64(s.Wire.Length/length)))
	}
	if most <= s.OnHand {
		return most
	}
	return wire.Enough(c.doc, s.Material, pieces)
}

// expected is when a delivery is expected; one without a date comes after all others.
func expected(g studio.Gate) studio.Minute {
	if g.Opens == nil {
		return drying.Never
	}
	return *g.Opens
}
