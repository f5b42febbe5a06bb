// Package count answers what to make: it explodes open orders through nested
// recipes, level by level from the flowers down.
//
// At each level the gross need of a gather key (one recipe in one set of mixes)
// is met from dry stock first, oldest first, then from lots in work; the rest is
// gathered within the gathering span, given its spares, split evenly so that no
// lot overfills its formers, and exploded by what is started. A peg says for
// which order line a quantity is meant; a link says which lot feeds which.
// Counting reserves nothing and is a pure function of the document.
package count

import (
	"fmt"
	"slices"
	"sort"

	"bractum/core/drying"
	"bractum/core/paste"
	"bractum/core/studio"
)

// Result is what has to be made. Items are by level, then name and key.
type Result struct {
	Items []Item        `json:"items"`
	Lots  []studio.Lot  `json:"lots"`
	Links []studio.Link `json:"links"`
	// Pegs are the quantities that order lines take straight from the shelf.
	Pegs  []studio.Peg `json:"shelfPegs"`
	Notes []Note       `json:"notes"`
}

// Note is something a person should know about the count.
type Note struct {
	Rule   string      `json:"rule"`
	Recipe studio.ID   `json:"recipe"`
	Orders []studio.ID `json:"orders"`
	Detail string      `json:"detail"`
}

// Item is the count of one gather key, in pieces or milligrams of a mix:
// Gross = FromShelf + FromWork + FromHalfMade + Net, and Started = Net + Spare.
type Item struct {
	Key       string               `json:"key"`
	Recipe    studio.ID            `json:"recipe"`
	Variant   string               `json:"variant,omitempty"`
	Mixes     map[string]studio.ID `json:"mixes"`
	Level     int                  `json:"level"`
	Gross     int64                `json:"gross"`
	FromShelf int64                `json:"fromShelf"`
	FromWork  int64                `json:"fromWork"`
	// FromHalfMade is what is finished from pieces kept half way.
	FromHalfMade int64            `json:"fromHalfMade"`
	Net          int64            `json:"net"`
	Spare        int64            `json:"spare"`
	Started      int64            `json:"started"`
	Lots         []studio.ID      `json:"lots"`
	Orders       []studio.ID      `json:"orders"`
	Latest       studio.Minute    `json:"latestStart"`
	Workings     []studio.Working `json:"workings"`
	needs        []need
	orders       map[studio.ID]struct{}
}

// Made is what the item is of.
func (i *Item) Made() studio.Made { return studio.Made{Recipe: i.Recipe, Variant: i.Variant} }

// need is a quantity that an order line or a consuming lot wants by due.
type need struct {
	order, line studio.ID // of a line, else empty
	lot         studio.ID // of a consuming lot, else empty
	step        string
	quantity    int64
	sheet       int64  // of a mix: one working sheet
	form        string // of its recipe, if it wants one
	fresh       bool   // it has an upper limit and cannot come from stock
	due         studio.Minute
	service     float64
	orders      map[studio.ID]struct{}
}

type counter struct {
	doc      *studio.Document
	book     *studio.Book
	calendar studio.Calendar
	room     drying.Room
	items    map[string]*Item
	wanted   map[studio.ID]studio.Minute // when the first pieces of a made lot are needed
	finished map[studio.ID]int64         // of half-made pieces, how many are to be finished
	result   *Result
}

// Up counts up a valid document. It takes O(n log n) in the needs of each level.
func Up(doc *studio.Document) (*Result, error) {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return nil, err
	}
	c := &counter{doc: doc, book: studio.NewBook(doc), calendar: calendar, room: drying.NewRoom(doc, calendar),
		items: map[string]*Item{}, wanted: map[studio.ID]studio.Minute{}, finished: map[studio.ID]int64{}, result: &Result{Items: []Item{}, Lots: []studio.Lot{}, Links: []studio.Link{},
			Pegs: []studio.Peg{}, Notes: []Note{}}}
	c.promised()
	c.kept()
	for _, w := range doc.Work {
		c.item(w.Made(), w.Mixes)
	}
	for level := 0; ; level++ {
		items := c.atLevel(level)
		if items == nil {
			break
		}
		for _, item := range items {
			c.settle(item)
		}
	}
	c.finish()
	return c.result, nil
}

func (c *counter) promised() {
	everyone := c.doc.Everyone(c.calendar)
	colourways := map[studio.ID]map[string]studio.ID{}
	for _, colourway := range c.doc.Colourways {
		colourways[colourway.ID] = colourway.Slots
	}
	for _, o := range c.doc.Orders {
		if o.State != studio.OrderOpen {
			continue
		}
		due := c.doc.ReadyBy(o, c.calendar, everyone)
		for _, line := range o.Lines {
			mixes, _ := c.book.Resolve(line.Made(), colourways[line.Colourway])
			keys := map[string]bool{}
			c.keysUnder(line.Made(), mixes, keys)
			item := c.item(line.Made(), mixes)
			item.needs = append(item.needs, need{order: o.ID, line: line.ID, quantity: line.Quantity, due: due,
				service: ServiceOfLot(line.ServiceLevel, len(keys)), orders: map[studio.ID]struct{}{o.ID: {}}})
		}
	}
}

// kept adds what is to be kept in stock as needs of no order, due at the horizon:
// whatever an order needs comes before it.
func (c *counter) kept() {
	for i := range c.doc.Recipes {
		r := &c.doc.Recipes[i]
		if r.KeepInStock == 0 {
			continue
		}
		made := studio.Made{Recipe: r.ID}
		mixes, _ := c.book.Resolve(made, nil)
		keys := map[string]bool{}
		c.keysUnder(made, mixes, keys)
		item := c.item(made, mixes)
		item.needs = append(item.needs, need{quantity: r.KeepInStock, due: c.doc.Horizon(),
			service: ServiceOfLot(c.doc.Settings.DefaultServiceLevel, len(keys)), orders: map[studio.ID]struct{}{}})
	}
}

// keysUnder collects the distinct gather keys of pieces under a recipe.
func (c *counter) keysUnder(made studio.Made, mixes map[string]studio.ID, keys map[string]bool) {
	keys[studio.GatherKey(made, mixes)] = true
	for _, part := range c.book.Of(made).Parts {
		c.keysUnder(part.Made(), c.book.Input(part, mixes), keys)
	}
}

func (c *counter) item(made studio.Made, mixes map[string]studio.ID) *Item {
	own, _ := c.book.Resolve(made, mixes)
	key := studio.GatherKey(made, own)
	item, known := c.items[key]
	if !known {
		item = &Item{Key: key, Recipe: made.Recipe, Variant: made.Variant, Mixes: own, Level: c.level(made), Lots: []studio.ID{}, Orders: []studio.ID{},
			Workings: []studio.Working{}, orders: map[studio.ID]struct{}{}}
		c.items[key] = item
	}
	return item
}

// level puts mixes below every part: a colourway may give any slot any mix.
func (c *counter) level(made studio.Made) int {
	level := c.book.Level(made)
	if c.book.Of(made).Kind == studio.KindMix {
		level += len(c.doc.Recipes)
	}
	return level
}

// atLevel gives the items of the next level that has any, nil past the last.
func (c *counter) atLevel(level int) []*Item {
	items := []*Item{}
	deeper := false
	for _, item := range c.items {
		if item.Level == level {
			items = append(items, item)
		}
		deeper = deeper || item.Level > level
	}
	if len(items) == 0 && !deeper {
		return nil
	}
	sort.Slice(items, func(i, j int) bool { return items[i].Key < items[j].Key })
	return items
}

func (c *counter) settle(item *Item) {
	r := c.book.Of(item.Made())
	latest := func(n need) studio.Minute { return n.due - c.room.Elapsed(r, 0, n.quantity) }
	sort.SliceStable(item.needs, func(i, j int) bool { return latest(item.needs[i]) < latest(item.needs[j]) })
	for i, n := range item.needs {
		item.Gross += n.quantity
		if i == 0 || latest(n) < item.Latest {
			item.Latest = latest(n)
		}
		for o := range n.orders {
			item.orders[o] = struct{}{}
		}
	}
	rest := c.fromShelf(item, r, item.needs)
	rest = c.fromWork(item, r, rest)
	rest = c.fromHalfMade(item, r, rest)
	for _, n := range rest {
		item.Net += n.quantity
	}
	inputs := []studio.Figure{figure(r, "needed", item.Gross), figure(r, "on the shelf", item.FromShelf), figure(r, "in work", item.FromWork)}
	if item.FromHalfMade > 0 {
		inputs = append(inputs, figure(r, "half made", item.FromHalfMade))
	}
	c.working(item, "net", "", inputs, figure(r, "to make", item.Net))
	for len(rest) > 0 {
		span := c.doc.Settings.GatheringMinutes
		if r.Kind == studio.KindMix {
			span = min(span, r.LifeMinutes)
		}
		first := latest(rest[0])
		n := sort.Search(len(rest), func(i int) bool { return latest(rest[i]) > first+span })
		c.gather(item, r, rest[:n])
		rest = rest[n:]
	}
}

// fromShelf meets needs from stock, oldest first, within its use-by at the time
// of need, and returns what is left of them.
func (c *counter) fromShelf(item *Item, r *studio.Recipe, needs []need) []need {
	shelf := c.book.OnShelf(c.doc, item.Made(), item.Mixes)
	var left []need
	for _, n := range needs {
		for i := range shelf {
			s := &shelf[i]
			take := min(n.quantity, s.Amount)
			if n.fresh || take <= 0 || s.UseBy != nil && *s.UseBy < c.usedAt(r, n) {
				continue
			}
			s.Amount -= take
			item.FromShelf += take
			from := s.ID
			if s.From != "" {
				from = s.From
				if due, known := c.wanted[from]; !known || n.due < due {
					c.wanted[from] = n.due
				}
			}
			c.serve(n, from, nil, item.Recipe, take)
			n = n.less(take)
		}
		if n.quantity > 0 {
			left = append(left, n)
		}
	}
	return left
}

// usedAt is the time of need against which a use-by is held. Dry pieces wait on
// the shelf until they are due; paste is mixed for lots that follow at once.
func (c *counter) usedAt(r *studio.Recipe, n need) studio.Minute {
	if r.Kind == studio.KindMix {
		return c.doc.Now
	}
	return n.due
}

// fromWork meets needs from lots that have been begun, and explodes what those
// still have to take up.
func (c *counter) fromWork(item *Item, r *studio.Recipe, needs []need) []need {
	for _, w := range c.doc.Work {
		if w.Made() != item.Made() || studio.GatherKey(w.Made(), w.Mixes) != item.Key {
			continue
		}
		progress := w.Progress(r)
		lot := studio.Lot{ID: w.ID, Key: item.Key, Recipe: w.Recipe, Variant: w.Variant, Mixes: w.Mixes, Ordinal: w.Ordinal, Started: w.Started,
			Alive: progress.Alive, InWork: true, NextStep: progress.NextStep, From: w.From, Reached: w.Reached, Pegs: []studio.Peg{}}
		lot.Due = c.doc.Horizon()
		if due, known := c.wanted[w.ID]; known {
			lot.Due = due
		}
		free := min(w.Need, progress.Serves(r)) // its spares are not promised twice
		if progress.Made {
			free = 0 // its pieces are on the shelf
		}
		served := need{orders: map[studio.ID]struct{}{}}
		var left []need
		for _, n := range needs {
			take := min(n.quantity, free)
			if take > 0 {
				free -= take
				lot.Need += take
				item.FromWork += take
				lot.Due = min(lot.Due, n.due)
				served.service = max(served.service, n.service)
				for o := range n.orders {
					served.orders[o] = struct{}{}
				}
				c.serve(n, w.ID, &lot, item.Recipe, take)
				n = n.less(take)
			}
			if n.quantity > 0 {
				left = append(left, n)
			}
		}
		needs = left
		lot.LatestStart = lot.Due - c.room.Elapsed(r, min(progress.NextStep, len(r.Steps)), lot.Alive)
		c.explode(r, lot, served)
		c.add(item, lot)
	}
	return needs
}

// fromHalfMade meets needs from pieces that are kept half way, with as many of them
// as spares for what is still to be done.
func (c *counter) fromHalfMade(item *Item, r *studio.Recipe, needs []need) []need {
	for _, s := range c.book.HalfMade(c.doc, item.Made(), item.Mixes) {
		for more := true; more; {
			needs, more = c.finishOf(item, r, s, needs)
		}
	}
	return needs
}

// finishOf makes one lot that finishes pieces of a half-made shelf lot, as many as are
// there, go into one lot and are needed, and returns what is left of the needs; false
// when that is none.
func (c *counter) finishOf(item *Item, r *studio.Recipe, s studio.ShelfLot, needs []need) ([]need, bool) {
	var wanted int64
	group := need{orders: map[studio.ID]struct{}{}}
	suits := func(n need) bool { return !n.fresh && (s.UseBy == nil || *s.UseBy >= n.due) }
	for _, n := range needs {
		if suits(n) {
			wanted += n.quantity
			group.service = max(group.service, n.service)
			for o := range n.orders {
				group.orders[o] = struct{}{}
			}
		}
	}
	most, unit := s.Amount-c.finished[s.ID], r.Unit()
	if limit := c.mostPerLot(r); limit > 0 {
		most = min(most, limit)
	}
	start := func(good int64) int64 {
		n, _ := Start(good, r.Spares, group.service, c.doc.Settings.PriorWeight)
		return studio.CeilDiv(n, unit) * unit
	}
	good := int64(sort.Search(int(max(0, min(wanted, most))), func(i int) bool { return start(int64(i)+1) > most }))
	if good == 0 {
		return needs, false
	}
	lot := studio.Lot{Key: item.Key, Recipe: item.Recipe, Variant: item.Variant, Mixes: item.Mixes, Ordinal: c.nextOrdinal(item.Key), Need: good,
		Started: start(good), From: s.ID, Reached: s.Reached, Due: c.doc.Horizon(), Pegs: []studio.Peg{}}
	lot.ID, lot.Alive = studio.LotID(item.Key, lot.Ordinal), lot.Started
	lot.NextStep = studio.WorkLot{Started: lot.Started, Reached: s.Reached}.Progress(r).NextStep
	item.FromHalfMade += good
	c.finished[s.ID] += lot.Started
	var left []need
	for _, n := range needs {
		if take := min(n.quantity, good); take > 0 && suits(n) {
			good -= take
			lot.Due = min(lot.Due, n.due)
			c.serve(n, lot.ID, &lot, item.Recipe, take)
			n = n.less(take)
		}
		if n.quantity > 0 {
			left = append(left, n)
		}
	}
	lot.LatestStart = lot.Due - c.room.Elapsed(r, lot.NextStep, lot.Started)
	c.explode(r, lot, group)
	c.add(item, lot)
	return left, true
}

func (n need) less(taken int64) need {
	n.quantity -= taken
	return n
}

// serve notes that a quantity from a lot, or shelf lot, goes to a need.
func (c *counter) serve(n need, from studio.ID, lot *studio.Lot, recipe studio.ID, quantity int64) {
	if n.lot != "" {
		c.result.Links = append(c.result.Links, studio.Link{From: from, To: n.lot, Step: n.step, Recipe: recipe, Quantity: quantity})
		return
	}
	peg := studio.Peg{Order: n.order, Line: n.line, Quantity: quantity}
	if lot != nil {
		lot.Pegs = append(lot.Pegs, peg)
		return
	}
	peg.From = from
	c.result.Pegs = append(c.result.Pegs, peg)
}

// gather makes the lots of one group of needs: spares on what was gathered, then
// an even split, then what each lot takes up.
func (c *counter) gather(item *Item, r *studio.Recipe, needs []need) {
	var total, sheet int64
	forms := map[string]int64{}
	group := need{orders: map[studio.ID]struct{}{}}
	for _, n := range needs {
		total += n.quantity
		forms[n.form] += n.quantity
		sheet = max(sheet, n.sheet)
		group.service = max(group.service, n.service)
		for o := range n.orders {
			group.orders[o] = struct{}{}
		}
	}
	workings := len(item.Workings)
	started := c.toStart(item, r, max(total, inForms(r, forms)), sheet, group)
	item.Started += started
	item.Spare += started - total
	lots, unit := int64(1), r.Unit()
	if most := c.mostPerLot(r); most > 0 {
		lots = studio.CeilDiv(started, max(unit, most/unit*unit))
	}
	if lots > 1 {
		c.working(item, "split", "to whole pieces, as evenly as they go", []studio.Figure{figure(r, "to start", started),
			figure(r, "most in one lot", c.mostPerLot(r))}, studio.NewFigure("lots", lots, ""))
	}
	for i := range lots {
		lot := studio.Lot{Key: item.Key, Recipe: item.Recipe, Variant: item.Variant, Mixes: item.Mixes, Ordinal: c.nextOrdinal(item.Key),
			Started: started / unit / (lots - i) * unit, Pegs: []studio.Peg{}}
		lot.Need = min(lot.Started, studio.CeilDiv(total*lot.Started, started))
		started, total = started-lot.Started, total-lot.Need
		lot.ID, lot.Alive = studio.LotID(item.Key, lot.Ordinal), lot.Started
		for free := lot.Need; free > 0; {
			take := min(free, needs[0].quantity)
			if free == lot.Need || needs[0].due < lot.Due {
				lot.Due = needs[0].due
			}
			c.serve(needs[0], lot.ID, &lot, item.Recipe, take)
			free -= take
			if needs[0] = needs[0].less(take); needs[0].quantity == 0 {
				needs = needs[1:]
			}
		}
		lot.LatestStart = lot.Due - c.room.Elapsed(r, 0, lot.Started)
		c.explode(r, lot, group)
		c.add(item, lot)
		for w := range item.Workings[workings:] {
			item.Workings[workings+w].Lots = append(item.Workings[workings+w].Lots, lot.ID)
		}
	}
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
func (c *counter) toStart(item *Item, r *studio.Recipe, total, sheet int64, group need) int64 {
	if r.Kind == studio.KindMix {
		step := c.doc.Settings.ScaleStepMilligrams
		started := int64(paste.ToStep(studio.Milligrams(max(total, sheet)), step))
		c.working(item, "mix", "up to the step of the scale", []studio.Figure{figure(r, "with loss", total),
			figure(r, "one working sheet", sheet), studio.NewFigure("step of the scale", step, "mg")}, figure(r, "to mix", started))
		return started
	}
	started, enough := Start(total, r.Spares, group.service, c.doc.Settings.PriorWeight)
	started = studio.CeilDiv(max(started, r.LeastPerLot), r.Unit()) * r.Unit()
	if !enough {
		c.result.Notes = append(c.result.Notes, Note{"spares beyond three times the need", item.Recipe, keys(group.orders),
			fmt.Sprintf("%d needed; even %d started would not be enough often enough. Look at the breakage of %q, or at the service level.",
				total, started, r.Name)})
	}
	inputs := []studio.Figure{figure(r, "to make", total)}
	switch r.Spares.Rule {
	case studio.SparesByBreakage:
		inputs = append(inputs, studio.NewFigure("expected breakage", max(float64(r.Spares.Breakage)/10, 100*leastBreakage), "%"),
			studio.NewFigure("service of this lot", 100*group.service, "%"),
			studio.NewFigure("weight of the estimate", c.doc.Settings.PriorWeight, "pieces"),
			studio.NewFigure("chance that this is enough", 100*GoodAtLeast(total, started, r.Spares, c.doc.Settings.PriorWeight), "%"))
	case studio.SparesByNumber:
		inputs = append(inputs, studio.NewFigure("spares of each lot", r.Spares.Number, "pieces"))
	case studio.SparesByPercent:
		inputs = append(inputs, studio.NewFigure("spares", r.Spares.Percent, "%"))
	}
	c.working(item, "spares by "+string(r.Spares.Rule), "up to whole pieces", inputs, figure(r, "to start", started))
	return started
}

func (c *counter) mostPerLot(r *studio.Recipe) int64 {
	most := r.MostPerLot
	for _, s := range r.Steps {
		for _, h := range s.Holds {
			for _, p := range c.doc.Places {
				if p.ID == h.Place && (most == 0 || p.Slots*h.PerSlot < most) {
					most = p.Slots * h.PerSlot
				}
			}
		}
	}
	return most
}

// nextOrdinal is the lowest that no lot of the key has or had: a lot that is
// begun leaves the ids of those before it as they were.
func (c *counter) nextOrdinal(key string) int {
	taken := map[int]bool{}
	for i := range c.doc.Work {
		if w := &c.doc.Work[i]; studio.GatherKey(w.Made(), w.Mixes) == key {
			taken[w.Ordinal] = true
		}
	}
	for _, id := range c.items[key].Lots {
		i := slices.IndexFunc(c.result.Lots, func(l studio.Lot) bool { return l.ID == id })
		taken[c.result.Lots[i].Ordinal] = true
	}
	next := c.doc.Ordinals[key] + 1
	for taken[next] {
		next++
	}
	return next
}

// explode turns what is started of a lot, or still alive of one in work, into
// needs of its parts and mixes.
func (c *counter) explode(r *studio.Recipe, lot studio.Lot, parent need) {
	ahead := func(step string) (need, bool) {
		_, index := r.Step(step)
		due := lot.Due - c.room.Elapsed(r, index, lot.Alive)
		return need{lot: lot.ID, step: step, due: due, service: parent.service, orders: parent.orders}, index >= lot.NextStep
	}
	for _, p := range r.Parts {
		if n, wanted := ahead(p.Step); wanted {
			n.quantity = r.At(p.Step, lot.Alive) * p.Count
			n.fresh, n.form = p.Window.Limited(), p.Form
			item := c.item(p.Made(), c.book.Input(p, lot.Mixes))
			item.needs = append(item.needs, n)
		}
	}
	for _, p := range r.Pastes {
		if n, wanted := ahead(p.Step); wanted {
			mass := paste.Mass(p.Shape, c.doc.Settings.DensityMgPerMl)
			c.needMix(n, lot.Mixes[p.Slot], mass*studio.Milligrams(r.At(p.Step, lot.Alive)), p.Run, mass)
		}
	}
	if r.Kind != studio.KindMix || lot.NextStep > 0 {
		return
	}
	for _, portion := range paste.Weigh(r, studio.Milligrams(lot.Started), c.doc.Settings.ScaleStepMilligrams) {
		if portion.Mix != "" {
			n, _ := ahead(r.Steps[0].Key)
			c.needMix(n, portion.Mix, portion.Weigh, 0, 0)
		}
	}
}

func (c *counter) needMix(n need, mix studio.ID, used studio.Milligrams, run int64, mass studio.Milligrams) {
	n.quantity = int64(paste.WithLoss(used, c.doc.Settings.LossPerMille))
	n.sheet = int64(paste.Sheet(run, mass, c.doc.Settings.SheetYieldPerMille))
	item := c.item(studio.Made{Recipe: mix}, nil)
	item.needs = append(item.needs, n)
}

func (c *counter) add(item *Item, lot studio.Lot) {
	item.Lots = append(item.Lots, lot.ID)
	c.result.Lots = append(c.result.Lots, lot)
}

func (c *counter) working(item *Item, rule, rounding string, inputs []studio.Figure, result studio.Figure) {
	item.Workings = append(item.Workings, studio.Working{Rule: rule, Inputs: inputs, Result: result, Rounding: rounding})
}

func figure(r *studio.Recipe, name string, value int64) studio.Figure {
	if r.Kind == studio.KindMix {
		return studio.NewFigure(name, value, "mg")
	}
	return studio.NewFigure(name, value, "pieces")
}

func (c *counter) finish() {
	for _, item := range c.items {
		item.Orders = keys(item.orders)
		c.result.Items = append(c.result.Items, *item)
	}
	items := c.result.Items
	sort.Slice(items, func(i, j int) bool {
		if items[i].Level != items[j].Level {
			return items[i].Level < items[j].Level
		}
		return items[i].Key < items[j].Key
	})
	c.noteMixings()
}

// noteMixings says which recipes take one colour from more than one mixing.
func (c *counter) noteMixings() {
	from := map[[2]studio.ID]studio.ID{}
	twice := map[studio.ID]bool{}
	for _, link := range c.result.Links {
		if c.book.Recipe(link.Recipe).Kind != studio.KindMix {
			continue
		}
		key := [2]studio.ID{link.To, link.Recipe}
		if earlier, seen := from[key]; seen && earlier != link.From && !twice[link.To] {
			twice[link.To] = true
			c.result.Notes = append(c.result.Notes, Note{"colour from two mixings", link.Recipe, []studio.ID{},
				fmt.Sprintf("a lot takes %q from two mixings; a second mixing may not match", c.book.Recipe(link.Recipe).Name)})
		}
		from[key] = link.From
	}
}

func keys(set map[studio.ID]struct{}) []studio.ID {
	out := make([]studio.ID, 0, len(set))
	for id := range set {
		out = append(out, id)
	}
	sort.Slice(out, func(i, j int) bool { return out[i] < out[j] })
	return out
}
