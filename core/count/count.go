// Package count answers what to make: it explodes open orders through nested
// recipes, level by level from the flowers down.
//
// At each level the gross need of a gather key (one recipe in one set of mixes)
// is met from dry stock first, oldest first, then from lots in work, from pieces
// kept half way and from lots that the lead has decided on; the rest is gathered
// within the gathering span, given its spares, split evenly so that no lot
// overfills its formers, and exploded by what is started. What is reserved for an
// order is taken for that order alone. A peg says for which order line a quantity
// is meant, a claim for which order through all levels; a link says which lot
// feeds which. Counting reserves nothing and is a pure function of the document:
// accepting the count reserves what it takes.
package count

import (
	"cmp"
	"maps"
	"slices"
	"sort"
	"strings"

	"bractum/core/drying"
	"bractum/core/studio"
)

// Result is what has to be made. Items are by level, then name and key.
type Result struct {
	Items []Item        `json:"items"`
	Lots  []studio.Lot  `json:"lots"`
	Links []studio.Link `json:"links"`
	// Pegs are the quantities that order lines take straight from the shelf.
	Pegs []studio.Peg `json:"shelfPegs"`
	// Reserves is what of the shelf, and of lots in work, is meant for which order;
	// accepting the count reserves it.
	Reserves map[studio.ID][]studio.Claim `json:"reserves"`
	Notes    []Note                       `json:"notes"`
}

// Note is something a person should know about the count, as a code and what it is about:
// words are made where it is read.
type Note struct {
	Code   NoteCode    `json:"code"`
	Recipe studio.ID   `json:"recipe"`
	Orders []studio.ID `json:"orders"`
	With   studio.With `json:"with,omitempty"`
}

// NoteCode is what a note says.
type NoteCode string

// What there is to be said of a count. Quantities are pieces, or milligrams of a mix.
const (
	LeftForLater      NoteCode = "left-for-later"      // of an order: more than "most" kinds of pieces with it
	LotsTooLarge      NoteCode = "lots-too-large"      // there are more than "most" lots
	SparesBeyond      NoteCode = "spares-beyond"       // "needed" are, and "started", three times that, are not enough
	RemainderTooSmall NoteCode = "remainder-too-small" // "quantity" of a mix serves no lot
	MoreReserved      NoteCode = "more-reserved"       // "reserved" are more than the "quantity" there is
	ReservedInVain    NoteCode = "reserved-in-vain"    // "quantity" are, for an order that does not need them: they are free
	ColourTwice       NoteCode = "colour-twice"        // a lot takes one colour from two mixings
	StartsFewer       NoteCode = "starts-fewer"        // "started" is decided on, "usual" would be begun for the "need"
	MoreThanALot      NoteCode = "more-than-a-lot"     // "started" is decided on, "most" go into one lot
	LaterThanNeeded   NoteCode = "later-than-needed"   // what is decided on is moved to later than it is needed
	MoreThanNeeded    NoteCode = "more-than-needed"    // what is decided on yields "extra"
	NoDayLongEnough   NoteCode = "no-day-long-enough"  // from "from" to "to" takes so long in one go, a day so long
	NotEvenOne        NoteCode = "not-even-one"        // between "from" and "to" pieces wait and last so long
	NobodySells       NoteCode = "nobody-sells"        // of a material that runs short
	NobodyCan         NoteCode = "nobody-can"          // all the "skills" of a "step", which one maker does
	NobodyNeeds       NoteCode = "nobody-needs"        // "pieces" in work: they are not worked on further
)

// Item is the count of one gather key, in pieces or milligrams of a mix:
// Gross = FromShelf + FromWork + FromHalfMade + Decided + Net, and Started = Net + Spare.
// Surplus is what lots in work, and those decided on, yield beyond what is needed.
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
	FromHalfMade int64 `json:"fromHalfMade"`
	// Decided is what lots yield that the lead has decided on, as far as it is needed.
	Decided int64       `json:"decided"`
	Surplus int64       `json:"surplus"`
	Net     int64       `json:"net"`
	Spare   int64       `json:"spare"`
	Started int64       `json:"started"`
	Lots    []studio.ID `json:"lots"`
	Orders  []studio.ID `json:"orders"`
	// Plain is what would be needed if nothing broke anywhere: the rest of Gross is for
	// spares of what it goes into.
	Plain    int64            `json:"plain"`
	Latest   studio.Minute    `json:"latestStart"`
	Workings []studio.Working `json:"workings"`
	needs    []need
	decided  []*studio.DecidedLot
}

// Made is what the item is of.
func (i *Item) Made() studio.Made { return studio.Made{Recipe: i.Recipe, Variant: i.Variant} }

// need is a quantity that an order line or a consuming lot wants by due, and for which
// orders; the claims of others add up to it.
type need struct {
	order, line studio.ID // of a line, else empty
	lot         studio.ID // of a consuming lot, else empty
	step        string
	quantity    int64
	sheet       int64      // of a mix: one working sheet
	form        string     // of its recipe, if it wants one
	fresh       *freshness // it cannot come from stock that is older
	due         studio.Minute
	latest      studio.Minute // when making it all must begin; set as its item is settled
	service     float64
	lost        float64 // the share of them that is expected to break as they are taken up
	claims      []studio.Claim
	plain       int64 // how many of them there would be if nothing broke
}

// freshness is what has an input be fresh: how it is taken up by which step, and whether it has
// lots of its own for each lot that takes it.
type freshness struct {
	input   studio.PartInput
	by      studio.Step
	batched bool
}

// counter is one count of one document.
type counter struct {
	counter   *Counter
	doc       *studio.Document
	book      *studio.Book
	calendar  studio.Calendar
	room      drying.Room
	items     map[string]*Item
	shelf     *studio.Shelf
	wanted    map[studio.ID]studio.Minute // when the first pieces of a made lot are needed
	work      map[string][]*studio.WorkLot
	freed     map[studio.ID][]studio.Claim // of lots in work, what is reserved and needed
	taken     map[string]map[int]bool      // the ordinals of a key
	last      map[string]int               // that was given of a key
	plain     map[studio.ID]int64          // of a lot, how many would be needed if nothing broke
	onward    []onward                     // what items need of others, item by item
	important map[studio.ID]int64          // of orders
	full      bool                         // there are as many lots as there may be
	apart     classes                      // of orders that are not gathered together
	approving []approving                  // orders whose client is to approve a mix
	settled   map[string]settled           // of this time
	before    map[string]settled           // of the first
	dueOf     map[studio.ID]studio.Minute  // when orders are
	result    *Result
}

// Up counts up a valid document. It takes O(n log n) in the needs of each level.
func Up(doc *studio.Document) (*Result, error) { return new(Counter).Up(doc) }

// Up counts up a valid document; twice where a lot waits for a material that is there for some of its
// orders, so that those need not wait.
func (k *Counter) Up(doc *studio.Document) (*Result, error) {
	if err := k.frame(doc); err != nil {
		return nil, err
	}
	if k.size == (size{}) {
		k.size = guessed(doc)
	}
	result, apart := k.up(doc, 0, nil)
	if len(apart) > 0 {
		result, _ = k.up(doc, 1, apart)
	}
	return result, nil
}

// up counts up a document with the orders of some items gathered apart, for the first time or again. It
// answers which would have to be.
func (k *Counter) up(doc *studio.Document, time int, apart classes) (*Result, classes) {
	c := &counter{counter: k, doc: doc, book: k.book, calendar: k.calendar, room: k.room, shelf: k.book.NewShelf(doc),
		items: map[string]*Item{}, wanted: map[studio.ID]studio.Minute{},
		work: map[string][]*studio.WorkLot{}, freed: map[studio.ID][]studio.Claim{}, taken: map[string]map[int]bool{},
		last: map[string]int{}, plain: map[studio.ID]int64{}, important: map[studio.ID]int64{},
		onward: make([]onward, 0, roomFor(k.size.onward)), apart: apart, approving: approvals(doc), settled: k.settled[time], before: k.settled[0],
		result: &Result{Items: []Item{}, Lots: make([]studio.Lot, 0, roomFor(k.size.lots)),
			Links: make(
				[]studio.Link,
				0,
				roomFor(k.size.links),
			), Pegs: []studio.Peg{}, Reserves: map[studio.ID][]studio.Claim{}, Notes: []Note{}}}
	for _, o := range doc.Orders {
		c.important[o.ID] = o.Importance
	}
	c.promised()
	c.kept()
	c.begun()
	for level := 0; ; level++ {
		items := c.atLevel(level)
		if items == nil {
			break
		}
		for _, item := range items {
			if !c.again(item) {
				c.keep(item, func() { c.settle(item) })
			}
		}
	}
	c.finish()
	back := c.arrivals()
	k.size = size{lots: len(c.result.Lots), links: len(c.result.Links), onward: max(k.size.onward, len(c.onward))}
	return c.result, back
}

// A count comes to its end whatever is ordered: orders beyond mostKinds kinds of pieces are
// left for later, and beyond mostLots lots what is gathered is not split. The season of sixty
// orders comes to 1,300 and 2,900.
const (
	mostKinds = 20_000
	mostLots  = 20_000
)

// due is when the flowers of the orders that are counted must be finished: of those that are
// open and not distant, the nearest that are no more than can be counted.
func (c *counter) due() map[studio.ID]studio.Minute {
	due := map[studio.ID]studio.Minute{}
	var nearest []studio.Order
	for _, o := range c.doc.Orders {
		if o.State != studio.OrderOpen {
			continue
		}
		if !c.doc.Distant(o, c.calendar) {
			due[o.ID], nearest = c.doc.ReadyBy(o, c.calendar, c.counter.everyone), append(nearest, o)
		}
	}
	slices.SortStableFunc(nearest, func(a, b studio.Order) int { return cmp.Compare(due[a.ID], due[b.ID]) })
	var all int64
	for _, o := range nearest {
		var kinds int64
		for _, line := range o.Lines {
			kinds += c.book.Kinds(line.Made())
		}
		if all+kinds > mostKinds {
			c.note(LeftForLater, "", []studio.ID{o.ID}, studio.With{"order": o.Name, "most": mostKinds})
			delete(due, o.ID)
			continue
		}
		all += kinds
	}
	return due
}

func (c *counter) promised() {
	colourways := map[studio.ID]map[string]studio.ID{}
	for _, colourway := range c.doc.Colourways {
		colourways[colourway.ID] = colourway.Slots
	}
	counted := c.due()
	c.dueOf = counted
	for _, o := range c.doc.Orders {
		due, is := counted[o.ID]
		if !is {
			continue
		}
		for _, line := range o.Lines {
			owed := line.Owed()
			if owed == 0 {
				continue
			}
			mixes, _ := c.book.Resolve(line.Made(), colourways[line.Colourway])
			item := c.item(line.Made(), mixes)
			item.needs = append(item.needs, need{order: o.ID, line: line.ID, quantity: owed, due: due,
				service: ServiceOfLot(
					line.ServiceLevel,
					c.keysUnder(item),
				), claims: []studio.Claim{{Order: o.ID, Quantity: owed}}, plain: owed})
		}
	}
}

// kept adds what is to be kept in stock as needs of no order, due at the horizon:
// whatever an order needs comes before it.
func (c *counter) kept() {
	for _, r := range c.doc.Current() {
		if r.KeepInStock == 0 {
			continue
		}
		made := studio.Made{Recipe: r.ID}
		mixes, _ := c.book.Resolve(made, nil)
		item := c.item(made, mixes)
		item.needs = append(item.needs, need{quantity: r.KeepInStock, due: c.doc.Horizon(),
			service: ServiceOfLot(
				c.doc.Settings.DefaultServiceLevel,
				c.keysUnder(item),
			), claims: []studio.Claim{{Quantity: r.KeepInStock}}, plain: r.KeepInStock})
	}
}

// begun makes items of what is in work and of what the lead has decided on, whether
// anybody needs them or not.
func (c *counter) begun() {
	for i := range c.doc.Work {
		w := &c.doc.Work[i]
		item := c.item(w.Made(), w.Mixes)
		c.work[item.Key] = append(c.work[item.Key], w)
	}
	for i := range c.doc.Decided {
		d := &c.doc.Decided[i]
		item := c.item(d.Made(), d.Mixes)
		item.decided = append(item.decided, d)
	}
}

// keysUnder counts the distinct gather keys of what may run short of an item and all that it
// is made of: pieces whose spares go by breakage.
func (c *counter) keysUnder(item *Item) int {
	if known, done := c.counter.under[item.Key]; done {
		return known
	}
	keys := map[string]bool{}
	var collect func(made studio.Made, mixes map[string]studio.ID)
	collect = func(made studio.Made, mixes map[string]studio.ID) {
		r := c.book.Of(made)
		if _, may := r.Losing(); may && r.Spares.Rule == studio.SparesByBreakage {
			keys[studio.GatherKey(made, mixes)] = true
		}
		for _, part := range r.Parts {
			collect(part.Made(), c.book.Input(part, mixes))
		}
	}
	collect(item.Made(), item.Mixes)
	c.counter.under[item.Key] = len(keys)
	return len(keys)
}

func (c *counter) item(made studio.Made, mixes map[string]studio.ID) *Item {
	own, _ := c.book.Resolve(made, mixes)
	return c.itemOf(studio.GatherKey(made, own), made, own)
}

// itemOf is the item of a gather key, of something in the mixes that it resolves to.
func (c *counter) itemOf(key string, made studio.Made, own map[string]studio.ID) *Item {
	item, known := c.items[key]
	if !known {
		item = &Item{
			Key:      key,
			Recipe:   made.Recipe,
			Variant:  made.Variant,
			Mixes:    own,
			Level:    c.level(made),
			Lots:     []studio.ID{},
			Orders:   []studio.ID{},
			Workings: []studio.Working{},
		}
		if before := len(c.settled[key].needs); before > 0 {
			item.needs = make([]need, 0, before+2)
		}
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
	for i := range item.needs {
		n := &item.needs[i]
		n.latest = n.due - c.room.Elapsed(r, 0, n.quantity)
	}
	slices.SortStableFunc(item.needs, c.sooner)
	item.Latest = c.doc.Horizon()
	orders := map[studio.ID]bool{}
	for _, n := range item.needs {
		item.Gross += n.quantity
		item.Plain += n.plain
		item.Latest = min(item.Latest, n.latest)
		for _, claim := range studio.OfOrders(n.claims) {
			orders[claim.Order] = true
		}
	}
	item.Orders = slices.AppendSeq(item.Orders, maps.Keys(orders))
	slices.Sort(item.Orders)
	c.unneeded(item)
	rest := c.fromShelf(item, r, item.needs)
	rest = c.fromWork(item, r, rest)
	rest = c.fromHalfMade(item, r, rest)
	rest = c.fromDecided(item, r, rest)
	for _, n := range rest {
		item.Net += n.quantity
	}
	if r.Kind != studio.KindMix && item.Plain < item.Gross {
		c.working(
			item,
			"compounding",
			"",
			[]studio.Figure{
				figure(r, "if-nothing-broke", item.Plain),
				figure(r, "for-spares-of-what-it-goes-into", item.Gross-item.Plain),
			},
			figure(r, "needed", item.Gross),
		)
	}
	inputs := []studio.Figure{
		figure(r, "needed", item.Gross),
		figure(r, "on-the-shelf", item.FromShelf),
		figure(r, "in-work", item.FromWork),
	}
	if item.FromHalfMade > 0 {
		inputs = append(inputs, figure(r, "half-made", item.FromHalfMade))
	}
	if item.Decided > 0 {
		inputs = append(inputs, figure(r, "decided", item.Decided))
	}
	c.working(item, "net", "", inputs, figure(r, "to-make", item.Net))
	if item.Net > 0 && len(c.doc.People) > 0 {
		for _, lacking := range r.Beyond(c.doc.People) {
			c.note(NobodyCan, item.Recipe, item.Orders,
				studio.With{"of": r.Name, "step": lacking.Step, "skills": strings.Join(lacking.Skills, ", ")})
		}
	}
	batched, pooled := freshApart(rest)
	for _, needs := range divide(c.aside(item), pooled) {
		c.gatherAll(item, r, needs, c.gather)
	}
	c.gatherAll(item, r, batched, c.gatherBatches)
}

// sooner orders needs by when their making must begin, those of order lines that begin at once
// by how important their orders are: in whatever order a document lists them.
func (c *counter) sooner(a, b need) int {
	if a.latest != b.latest || a.order == "" || b.order == "" { // lots come in an order of their own
		return cmp.Compare(a.latest, b.latest)
	}
	return cmp.Or(
		cmp.Compare(c.important[b.order], c.important[a.order]),
		cmp.Compare(a.order, b.order),
		cmp.Compare(a.line, b.line),
	)
}

// importances are how important the orders of lines are, by need.
func (c *counter) importances(needs []need) []int64 {
	all := make([]int64, len(needs))
	for i, n := range needs {
		all[i] = c.important[n.order]
	}
	return all
}

// freshApart divides needs into those that have lots of their own and those that share them.
func freshApart(needs []need) (batched, pooled []need) {
	for _, n := range needs {
		if n.fresh != nil && n.fresh.batched {
			batched = append(batched, n)
		} else {
			pooled = append(pooled, n)
		}
	}
	return batched, pooled
}

// gatherAll gathers needs by when their making must begin, as far as the gathering span.
func (c *counter) gatherAll(item *Item, r *studio.Recipe, rest []need, gather func(*Item, *studio.Recipe, []need)) {
	span := c.doc.Settings.GatheringMinutes
	if r.Kind == studio.KindMix {
		span = min(span, r.LifeMinutes)
	}
	latest := func(n need) studio.Minute { return n.due - c.room.Elapsed(r, 0, n.quantity) } // of what is left of it
	var groups [][]need
	for len(rest) > 0 {
		first := latest(rest[0])
		n := sort.Search(len(rest), func(i int) bool { return latest(rest[i]) > first+span })
		groups, rest = append(groups, rest[:n:n]), rest[n:]
	}
	if r.Kind == studio.KindMix && len(groups) > 1 && c.mostPerLot(item, r) == 0 {
		c.weighTogether(item, groups, latest)
	}
	for _, group := range groups {
		if len(group) == 0 {
			c.nextOrdinal(item.Key) // of what is weighed with another: those after it stay what they are
			continue
		}
		gather(item, r, group)
	}
}

func (c *counter) working(
	item *Item,
	rule string,
	rounding studio.Rounding,
	inputs []studio.Figure,
	result studio.Figure,
) {
	item.Workings = append(
		item.Workings,
		studio.Working{Rule: rule, Inputs: inputs, Result: result, Rounding: rounding},
	)
}

func figure(r *studio.Recipe, name string, value int64) studio.Figure {
	if r.Kind == studio.KindMix {
		return studio.NewFigure(name, value, "mg")
	}
	return studio.NewFigure(name, value, "pieces")
}

func (c *counter) finish() {
	for _, item := range c.items {
		item.needs, item.decided = nil, nil
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
	c.noteReservations()
}

// noteReservations says where more is reserved than there is.
func (c *counter) noteReservations() {
	for _, s := range c.shelf.All() {
		name := c.book.Recipe(s.Recipe).Name
		if reserved := studio.Sum(c.doc.Open(s.ShelfLot.Reserved)); reserved > max(0, s.Amount) {
			c.note(MoreReserved, s.Recipe, ordersOf(s.ShelfLot.Reserved),
				studio.With{"of": name, "reserved": reserved, "quantity": s.Amount})
		}
	}
}

func ordersOf(claims []studio.Claim) (orders []studio.ID) {
	for _, claim := range studio.OfOrders(claims) {
		orders = append(orders, claim.Order)
	}
	return orders
}

// noteMixings says which recipes take one colour from more than one mixing.
func (c *counter) noteMixings() {
	from := map[[2]studio.ID]studio.ID{}
	twice := map[studio.ID]bool{}
	var last studio.ID // links of one recipe follow one another
	var mix bool
	for _, link := range c.result.Links {
		if link.Recipe != last {
			last, mix = link.Recipe, c.book.Recipe(link.Recipe).Kind == studio.KindMix
		}
		if !mix {
			continue
		}
		key := [2]studio.ID{link.To, link.Recipe}
		if earlier, seen := from[key]; seen && earlier != link.From && !twice[link.To] {
			twice[link.To] = true
			c.note(ColourTwice, link.Recipe, nil, studio.With{"of": c.book.Recipe(link.Recipe).Name})
		}
		from[key] = link.From
	}
}
