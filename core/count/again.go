package count

import (
	"maps"
	"reflect"
	"slices"

	"bractum/core/drying"
	"bractum/core/studio"
)

// Counter counts up documents one after another, and reckons anew only what differs from
// the one before: what an order changes is settled again, the rest is taken over. A
// document that was counted is not changed afterwards; the next one may share what it has
// in common with it. A Counter is not safe for concurrent use; its results are.
type Counter struct {
	divided  map[studio.ID]studio.Division // as the document says, by group
	before   *studio.Document
	book     *studio.Book
	calendar studio.Calendar
	room     drying.Room
	everyone studio.Hours
	under    map[string]int        // distinct gather keys under a key
	settled  [2]map[string]settled // of documents counted for the first time, and again
	batches  map[string]Batch      // by key
	sizes    sizes
	work     map[studio.Made]studio.Milliminutes
	uses     map[studio.Made][]use
	fresh    map[*studio.PartInput]*freshness
	recorded map[studio.ID]studio.Recorded // by page
	size     size
}

// size is how much came of the count before: about as much comes of the next.
type size struct{ lots, links, onward int }

// guessed is about what comes of an order line of a season.
func guessed(doc *studio.Document) size {
	var lines int
	for _, o := range doc.Orders {
		lines += len(o.Lines)
	}
	return size{lots: 10 * lines, links: 30 * lines, onward: 30 * lines}
}

// roomFor is a capacity that holds as much again, and some more.
func roomFor(n int) int { return n + n/8 + 64 }

// settled is how an item came out: what it was reckoned from, and what that gave.
type settled struct {
	needs  []need
	weighs []int64 // how important each is
	stock  []studio.ShelfLot
	last   int           // the highest ordinal of lots used up
	now    studio.Minute // by which remainders of a mix are judged
	hour   studio.Minute // by which the time to make more is
	apart  map[studio.ID]int
	item   Item
	lots   []studio.Lot
	links  []studio.Link
	pegs   []studio.Peg
	notes  []Note
	left   []studio.Supply
	claims map[studio.ID][]studio.Claim
	onward []onward
}

// onward is a need that an item has of another.
type onward struct {
	key   string
	made  studio.Made
	mixes map[string]studio.ID
	need  need
}

// same is true of values that are one, or equal.
func same[T any](a, b []T) bool {
	return studio.Shared(a, b) || reflect.DeepEqual(a, b)
}

// frame keeps what does not hang on orders and stock, or forgets what was reckoned from
// another: recipes, the year's hours, the air, and how groups are divided.
func (k *Counter) frame(doc *studio.Document) error {
	b := k.before
	k.before = doc
	if b != nil && b.Epoch.Equal(doc.Epoch) && b.Zone == doc.Zone && reflect.DeepEqual(b.Settings, doc.Settings) &&
		same(b.Materials, doc.Materials) &&
		same(b.Recipes, doc.Recipes) &&
		same(b.People, doc.People) &&
		same(b.Climate, doc.Climate) &&
		same(b.Readings, doc.Readings) &&
		same(b.Places, doc.Places) &&
		same(b.DryingClasses, doc.DryingClasses) &&
		same(b.Surroundings, doc.Surroundings) &&
		same(b.Recorded, doc.Recorded) &&
		same(b.Methods, doc.Methods) &&
		same(b.Divided, doc.Divided) &&
		k.book.Knows(doc) {
		if b.Now != doc.Now {
			k.room, k.everyone = drying.NewRoom(doc, k.calendar), doc.Everyone(k.calendar)
			k.sizes.room = k.room
		}
		return nil
	}
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		k.before = nil
		return err
	}
	*k = Counter{
		divided:  map[studio.ID]studio.Division{},
		before:   doc,
		book:     studio.NewBook(doc),
		calendar: calendar,
		room:     drying.NewRoom(doc, calendar),
		everyone: doc.Everyone(calendar),
		under:    map[string]int{},
		settled:  [2]map[string]settled{{}, {}},
		batches:  map[string]Batch{},
		work:     map[studio.Made]studio.Milliminutes{},
		uses:     map[studio.Made][]use{},
		fresh:    map[*studio.PartInput]*freshness{},
		recorded: map[studio.ID]studio.Recorded{},
		size:     k.size,
	}
	k.sizes = sizes{book: k.book, room: k.room, known: map[string]Batch{}, longest: longestDay(doc.People)}
	for _, d := range doc.Divided {
		k.divided[d.Group] = d
	}
	for _, r := range doc.Recorded {
		k.recorded[r.Recipe] = r
	}
	return nil
}

// again settles an item as before, if it is reckoned from the same; what hangs on lots in
// work, half-made pieces or decisions is always reckoned anew.
func (c *counter) again(item *Item) bool {
	s, known := c.settled[item.Key]
	if known && c.againFrom(item, &s) {
		return true
	}
	s, known = c.before[item.Key]
	return known && len(c.apart) > 0 && c.againFrom(item, &s)
}

func (c *counter) againFrom(item *Item, s *settled) bool {
	stock := c.shelf.Finished(item.Key)
	r := c.book.Of(item.Made())
	judged := len(stock) > 0 && r.Kind == studio.KindMix
	remade := r.Spares.Rule == studio.SparesByBreakage && c.doc.Settings.SparesFor == studio.SparesForRemaking
	if judged && s.now != c.doc.Now || remade && s.hour != c.hour() ||
		len(c.result.Lots)+len(s.lots) > mostLots || !c.alone(item) ||
		s.last != c.doc.Ordinals[item.Key] ||
		!maps.Equal(s.apart, c.aside(item)) ||
		!slices.EqualFunc(s.needs, item.needs, equal) ||
		!slices.Equal(s.weighs, c.importances(item.needs)) ||
		!slices.EqualFunc(
			s.stock,
			stock,
			func(a studio.ShelfLot, b *studio.Stock) bool { return reflect.DeepEqual(a, asFound(b)) },
		) {
		return false
	}
	needs := item.needs
	*item = s.item
	item.needs = needs
	c.result.Lots = append(c.result.Lots, s.lots...)
	c.result.Links = append(c.result.Links, s.links...)
	c.result.Pegs = append(c.result.Pegs, s.pegs...)
	c.result.Notes = append(c.result.Notes, s.notes...)
	maps.Copy(c.result.Reserves, s.claims)
	for i, left := range s.left {
		stock[i].Left = studio.Supply{Amount: left.Amount, Reserved: slices.Clone(left.Reserved)}
	}
	for _, o := range s.onward {
		to := c.itemOf(o.key, o.made, o.mixes)
		to.needs = append(to.needs, o.need)
	}
	return true
}

// alone is true of an item that takes from and gives to nothing but its needs and its own
// finished stock.
func (c *counter) alone(item *Item) bool {
	return len(c.work[item.Key]) == 0 && len(item.decided) == 0 &&
		len(c.shelf.HalfMade(item.Made(), item.Mixes)) == 0 &&
		!slices.ContainsFunc(c.shelf.Finished(item.Key), func(s *studio.Stock) bool { return s.From != "" })
}

// asFound is a shelf lot with what is reserved of it by orders that are open.
func asFound(s *studio.Stock) studio.ShelfLot {
	found := s.ShelfLot
	found.Reserved = s.Left.Reserved
	return found
}

// keep remembers how an item comes out as it is settled.
func (c *counter) keep(item *Item, settle func()) {
	s := settled{
		needs:  slices.Clone(item.needs),
		weighs: c.importances(item.needs),
		last:   c.doc.Ordinals[item.Key],
		now:    c.doc.Now,
		hour:   c.hour(),
		apart:  c.aside(item),
	}
	stock := c.shelf.Finished(item.Key)
	for _, l := range stock {
		found := asFound(l)
		found.Reserved = slices.Clone(found.Reserved)
		s.stock = append(s.stock, found)
	}
	lots, links, pegs, notes := len(c.result.Lots), len(c.result.Links), len(c.result.Pegs), len(c.result.Notes)
	onward := len(c.onward)
	settle()
	if c.full || !c.alone(item) {
		delete(c.settled, item.Key)
		return
	}
	s.item, s.onward = *item, c.onward[onward:len(c.onward):len(c.onward)]
	s.lots, s.links = slices.Clone(c.result.Lots[lots:]), slices.Clone(c.result.Links[links:])
	s.pegs, s.notes = slices.Clone(c.result.Pegs[pegs:]), slices.Clone(c.result.Notes[notes:])
	s.claims = map[studio.ID][]studio.Claim{}
	for _, l := range stock {
		s.left = append(s.left, studio.Supply{Amount: l.Left.Amount, Reserved: slices.Clone(l.Left.Reserved)})
		if claims := c.result.Reserves[l.ID]; len(claims) > 0 {
			s.claims[l.ID] = claims
		}
	}
	c.settled[item.Key] = s
}

func equal(a, b need) bool {
	return a.order == b.order && a.line == b.line && a.lot == b.lot && a.step == b.step && a.quantity == b.quantity &&
		a.sheet == b.sheet &&
		a.form == b.form &&
		a.fresh == b.fresh &&
		a.due == b.due &&
		a.service == b.service &&
		a.lost == b.lost &&
		a.plain == b.plain &&
		slices.Equal(a.claims, b.claims)
}
