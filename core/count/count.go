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
	"sort"

	"bractum/core/drying"
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
	c.deliveries()
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
	for _, r := range c.doc.Current() {
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
