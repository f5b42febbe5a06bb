package count

import (
	"slices"
	"sort"

	"bractum/core/paste"
	"bractum/core/studio"
)

// gathered is what a group of needs comes to: how many, and how many to start of them.
type gathered struct {
	total, started int64
	service        float64
	due            studio.Minute
	workings       int // from which on they are of this group
}

// gatherUp adds up a group of needs and gives it its spares.
func (c *counter) gatherUp(item *Item, r *studio.Recipe, needs []need) gathered {
	var sheet int64
	g := gathered{workings: len(item.Workings), due: needs[0].due}
	forms := map[string]int64{}
	var lost float64
	var claims []studio.Claim
	for _, n := range needs {
		for _, claim := range n.claims {
			claims = studio.Add(claims, claim)
		}
		g.total += n.quantity
		forms[n.form] += n.quantity
		sheet = max(sheet, n.sheet)
		g.service, g.due = max(g.service, n.service), min(g.due, n.due)
		lost += n.lost * float64(n.quantity)
	}
	total := max(g.total, inForms(r, forms))
	by := c.starting(item, r, total, lost/float64(max(1, g.total)), g.service, g.due)
	g.started = c.toStart(item, r, total, sheet, by)
	c.pooling(item, r, claims, by, g.started)
	item.Started += g.started
	item.Spare += g.started - g.total
	return g
}

// gather makes the lots of one group of needs: spares on what was gathered, then
// an even split, then what each lot takes up.
func (c *counter) gather(item *Item, r *studio.Recipe, needs []need) {
	g := c.gatherUp(item, r, needs)
	total, started := g.total, g.started
	lots, unit := int64(1), r.Unit()
	if most := c.mostPerLot(item, r); most > 0 {
		lots = studio.CeilDiv(started, max(unit, most/unit*unit))
	}
	if room := max(1, mostLots-int64(len(c.result.Lots))); lots > room {
		lots, c.full = room, true
		c.note(LotsTooLarge, item.Recipe, item.Orders, studio.With{"of": r.Name, "most": mostLots})
	}
	if lots > 1 {
		c.working(
			item,
			"split",
			studio.ToEven,
			[]studio.Figure{figure(r, "to-start", started),
				figure(r, "most-in-one-lot", c.mostPerLot(item, r))},
			studio.NewFigure("lots", lots, ""),
		)
	}
	c.limitedBy(item, r, lots > 1)
	ordinals := c.ordinals(item, r, started, lots)
	lots = int64(len(ordinals))
	group := studio.LotID(item.Key, ordinals[0])
	into := c.inputs(r, item.Mixes)
	for i := range lots {
		lot := studio.Lot{
			Key:     item.Key,
			Recipe:  item.Recipe,
			Variant: item.Variant,
			Mixes:   item.Mixes,
			Ordinal: ordinals[i],
			Group:   group,
			Started: started / unit / (lots - i) * unit,
			Run:     c.batchOf(item, r).Run,
			Pegs:    []studio.Peg{},
		}
		lot.Need = min(lot.Started, total*lot.Started/started)
		started, total = started-lot.Started, total-lot.Need
		lot.ID, lot.Alive = group, lot.Started
		if i > 0 {
			lot.ID = studio.LotID(item.Key, lot.Ordinal)
		}
		needs = c.begin(item, r, lot, needs, into, g)
	}
}

// begin makes a lot for the first of some needs, and returns what is left of them.
func (c *counter) begin(item *Item, r *studio.Recipe, lot studio.Lot, needs []need, into *inputs, g gathered) []need {
	lot.Due = g.due // of one that is all spares
	for free := lot.Need; free > 0; {
		taken, _ := studio.First(needs[0].claims, free)
		if free == lot.Need || needs[0].due < lot.Due {
			lot.Due = needs[0].due
		}
		free -= studio.Sum(taken)
		if needs[0] = c.give(needs[0], &lot, item, taken); needs[0].quantity == 0 {
			needs = needs[1:]
		}
	}
	lot.LatestStart = lot.Due - c.room.Elapsed(r, 0, lot.Started)
	into.explode(lot, g.service)
	c.add(item, lot)
	for w := range item.Workings[g.workings:] {
		item.Workings[g.workings+w].Lots = append(item.Workings[g.workings+w].Lots, lot.ID)
	}
	return needs
}

// ordinals are those of the lots of a group: as many as there usually are, or as the group
// is to be divided into. Those that there usually are keep their ids for other groups.
func (c *counter) ordinals(item *Item, r *studio.Recipe, started, usual int64) []int {
	var all []int
	key := item.Key
	for range usual {
		all = append(all, c.nextOrdinal(key))
	}
	divided := c.counter.divided[studio.LotID(key, all[0])].Lots
	if divided == 0 {
		return all
	}
	fewest := int64(1)
	if most := least(roomPerLot(c.doc, r), c.batchOf(item, r).Most); most > 0 {
		fewest = studio.CeilDiv(started, max(r.Unit(), most/r.Unit()*r.Unit()))
	}
	divided = max(fewest, min(divided, started/max(r.Unit(), r.LeastPerLot)))
	for int64(len(all)) < divided {
		all = append(all, all[len(all)-1]+beyondUsual)
	}
	return all[:max(1, divided)]
}

// beyondUsual is added to ordinals of lots that a group is divided into beyond what is
// usual: no studio counts so far.
const beyondUsual = 1 << 20

// pooling shows what would be started if each order's pieces were made apart, by the same
// rule.
func (c *counter) pooling(item *Item, r *studio.Recipe, claims []studio.Claim, by starting, started int64) {
	if r.Kind == studio.KindMix || r.Spares.Rule == studio.SparesNone || len(claims) < 2 {
		return
	}
	var apart int64
	for _, claim := range claims {
		n, _ := by.start(claim.Quantity)
		apart += studio.CeilDiv(max(n, r.LeastPerLot), r.Unit()) * r.Unit()
	}
	c.working(
		item,
		"pooling",
		"",
		[]studio.Figure{
			studio.NewFigure("orders-that-share-it", len(claims), ""),
			figure(r, "each-made-apart", apart),
		},
		figure(r, "made-together", started),
	)
}

// inForms is how many pieces must come out so that each form's share of them is as
// many as are wanted in it.
func inForms(r *studio.Recipe, wanted map[string]int64) int64 {
	var most int64
	for _, f := range r.Forms {
		most = max(most, studio.CeilDiv(wanted[f.Name]*1000, int64(f.Share)))
	}
	return most
}

// toStart adds spares to a gathered need; for a mix, the working sheet and the
// scale's step.
func (c *counter) toStart(item *Item, r *studio.Recipe, total, sheet int64, by starting) int64 {
	if r.Kind == studio.KindMix {
		step := c.doc.Settings.ScaleStepMilligrams
		started := int64(paste.ToStep(studio.Milligrams(max(total, sheet)), step))
		c.working(item, "mix", studio.ToStep, []studio.Figure{figure(r, "with-loss", total),
			figure(
				r,
				"one-working-sheet",
				sheet,
			), studio.NewFigure("step-of-the-scale", step, "mg")}, figure(r, "to-mix", started))
		return started
	}
	started, enough := by.start(total)
	started = studio.CeilDiv(max(started, r.LeastPerLot), r.Unit()) * r.Unit()
	if !enough {
		c.note(SparesBeyond, item.Recipe, item.Orders, studio.With{"of": r.Name, "needed": total, "started": started})
	}
	rule := "spares-by-" + string(r.Spares.Rule)
	if by.remake != nil && r.Spares.Rule == studio.SparesByBreakage {
		rule = "spares-for-remaking"
	}
	c.working(item, rule, studio.ToWhole, by.figures(r, total, started), figure(r, "to-start", started))
	return started
}

// mostPerLot is how many go into one lot: by the lead's own limit, by what formers and
// soft stores hold, and by what can be worked in the open time before the first pieces
// are too stiff for the next step; 0 is no limit.
func (c *counter) mostPerLot(item *Item, r *studio.Recipe) int64 {
	most := least(roomPerLot(c.doc, r), c.batchOf(item, r).Most)
	for i, s := range r.Steps {
		for _, w := range s.Windows {
			if w.Whole {
				most = least(most, c.inOpenTime(r, i, w))
			}
		}
	}
	return most
}

// least is the lower of two limits, 0 being none.
func least(a, b int64) int64 {
	if a == 0 || b > 0 && b < a {
		return b
	}
	return a
}

// roomPerLot is how many go into one lot by the lead's own limit and by what formers, soft
// stores and machines hold; 0 is no limit.
func roomPerLot(doc *studio.Document, r *studio.Recipe) int64 {
	lot, _ := rooms(doc, r)
	return least(r.MostPerLot, lot)
}

// rooms are how many go into one lot, and into one run, by what places and machines hold; 0
// is no limit.
func rooms(doc *studio.Document, r *studio.Recipe) (lot, run int64) {
	for i, s := range r.Steps {
		for _, h := range s.Holds {
			var most int64 // in any of its places
			var within bool
			for _, in := range h.Seats() {
				for _, p := range doc.Places {
					if p.ID == in.Place {
						h.PerSlot = in.PerSlot
						room, inside := r.Room(i, h, p.Slots)
						most, within = max(most, room, 1), inside
					}
				}
			}
			if within {
				run = least(run, most)
			} else {
				lot = least(lot, most)
			}
		}
		if s.Wait == nil || s.Wait.Load == nil {
			continue
		}
		var load int64
		for _, m := range doc.Machines {
			if slices.Contains(s.Wait.Load.Machines, m.ID) {
				load = max(load, m.Slots*max(1, s.Wait.Load.PerSlot))
			}
		}
		lot = least(lot, load)
	}
	return lot, run
}

// inOpenTime is how many pieces the work takes no longer for than the first of them may
// wait under a window; 0 where there is no limit, or the work is done in runs. One piece
// is always possible.
func (c *counter) inOpenTime(r *studio.Recipe, step int, w studio.Window) int64 {
	time, limited := c.room.OpenTime(w)
	from := step - 1
	if w.After != "" {
		_, from = r.Step(w.After)
	}
	if !limited || from < 0 || r.Steps[from].Work == nil || r.Steps[from].Work.Stint != "" {
		return 0
	}
	work := r.Steps[from].Work
	const enough = 100_000
	n := sort.Search(
		enough,
		func(n int) bool { return r.Effort(work, true, r.Pieces(from, int64(n)+1)).Minutes() > time },
	)
	if n == enough {
		return 0
	}
	return max(1, int64(n))
}

// nextOrdinal is the lowest that no lot of the key has or had, begun or decided on: a
// lot that is begun leaves the ids of those before it as they were.
func (c *counter) nextOrdinal(key string) int {
	next := c.freeOrdinal(key, c.last[key])
	c.taken[key][next], c.last[key] = true, next
	return next
}

// freeOrdinal is the lowest after another that no lot of the key has or had.
func (c *counter) freeOrdinal(key string, last int) int {
	if c.taken[key] == nil {
		taken := map[int]bool{}
		for _, w := range c.work[key] {
			taken[w.Ordinal] = true
		}
		for _, d := range c.items[key].decided {
			taken[d.Ordinal] = true
		}
		c.taken[key] = taken
	}
	next := max(last, c.doc.Ordinals[key]) + 1
	for c.taken[key][next] {
		next++
	}
	return next
}

// inputs are what goes into lots of one recipe in one set of mixes: the items of its parts and
// pastes, each looked up once.
type inputs struct {
	c             *counter
	recipe        *studio.Recipe
	mixes         map[string]studio.ID
	parts, pastes []*Item
}

func (c *counter) inputs(r *studio.Recipe, mixes map[string]studio.ID) *inputs {
	return &inputs{
		c:      c,
		recipe: r,
		mixes:  mixes,
		parts:  make([]*Item, len(r.Parts)),
		pastes: make([]*Item, len(r.Pastes)),
	}
}

// explode turns what is started of a lot, or still alive of one in work, into
// needs of its parts and mixes.
func (in *inputs) explode(lot studio.Lot, service float64) {
	c, r := in.c, in.recipe
	var last need // parts are often taken up at one step
	var wanted bool
	ahead := func(step string) (need, bool) {
		if step != last.step || last.lot == "" {
			_, index := r.Step(step)
			due := lot.Due - c.room.Elapsed(r, index, lot.Alive)
			last, wanted = need{lot: lot.ID, step: step, due: due, service: service}, index >= lot.NextStep
		}
		return last, wanted
	}
	for i := range r.Parts {
		p := &r.Parts[i]
		n, wanted := ahead(p.Step)
		if n.quantity = r.At(p.Step, lot.Alive) * p.Count; !wanted || n.quantity == 0 {
			continue
		}
		n.claims = studio.Spread(n.quantity, lot.For)
		n.plain = min(n.quantity, r.At(p.Step, c.plain[lot.ID])*p.Count)
		n.form, n.lost = p.Form, r.LosingOf(*p)
		n.fresh = c.freshness(r, p)
		if in.parts[i] == nil {
			in.parts[i] = c.item(p.Made(), c.book.Input(*p, in.mixes))
		}
		c.need(in.parts[i], n)
	}
	for i, p := range r.Pastes {
		if n, wanted := ahead(p.Step); wanted {
			mass := paste.Mass(p.Shape, c.doc.Settings.DensityMgPerMl)
			c.needMix(
				n,
				lot,
				&in.pastes[i],
				in.mixes[p.Slot],
				mass*studio.Milligrams(r.Cut(p, lot.Alive)),
				min(p.Run, r.Cut(p, lot.Alive)),
				mass,
			)
		}
	}
	if r.Kind != studio.KindMix || lot.NextStep > 0 {
		return
	}
	for _, portion := range paste.Weigh(r, studio.Milligrams(lot.Started), c.doc.Settings.ScaleStepMilligrams) {
		if portion.Mix != "" {
			n, _ := ahead(r.Steps[0].Key)
			var of *Item
			c.needMix(n, lot, &of, portion.Mix, portion.Weigh, 0, 0)
		}
	}
}

// freshness of an input, nil where it may have lain; worked out once.
func (c *counter) freshness(r *studio.Recipe, p *studio.PartInput) *freshness {
	known, done := c.counter.fresh[p]
	if !done {
		if c.book.Fresh(r, *p) {
			by, _ := r.Step(p.Step)
			known = &freshness{input: *p, by: by, batched: c.book.Batched(r, *p)}
		}
		c.counter.fresh[p] = known
	}
	return known
}

func (c *counter) needMix(
	n need,
	lot studio.Lot,
	of **Item,
	mix studio.ID,
	used studio.Milligrams,
	run int64,
	mass studio.Milligrams,
) {
	if n.quantity = int64(paste.WithLoss(used, c.doc.Settings.LossPerMille)); n.quantity == 0 {
		return
	}
	n.claims = studio.Spread(n.quantity, lot.For)
	n.sheet = int64(paste.Sheet(run, mass, c.doc.Settings.SheetYieldPerMille))
	if *of == nil {
		*of = c.item(studio.Made{Recipe: mix}, nil)
	}
	c.need(*of, n)
}

// need adds what a lot wants of something.
func (c *counter) need(item *Item, n need) {
	item.needs = append(item.needs, n)
	c.onward = append(c.onward, onward{key: item.Key, made: item.Made(), mixes: item.Mixes, need: n})
}

func (c *counter) add(item *Item, lot studio.Lot) {
	item.Lots = append(item.Lots, lot.ID)
	c.result.Lots = append(c.result.Lots, lot)
}
