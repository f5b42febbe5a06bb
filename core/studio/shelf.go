package studio

import (
	"cmp"
	"slices"
)

// Shelf finds a document's stock by what it is, and keeps account of what has been
// taken off it since; the document stays as it is.
type Shelf struct {
	book     *Book
	all      []*Stock
	finished map[string][]*Stock
	half     map[Made][]*Stock
}

// Stock is a shelf lot and what is left of it.
type Stock struct {
	ShelfLot
	Left Supply
}

// Open are the claims that hold: what an order of the document has reserved that is not
// open any more is free.
func (d *Document) Open(claims []Claim) (open []Claim) {
	for _, c := range claims {
		if !slices.ContainsFunc(d.Orders, func(o Order) bool { return o.ID == c.Order && o.State != OrderOpen }) {
			open = append(open, c)
		}
	}
	return open
}

// NewShelf indexes the stock of a valid document.
func (b *Book) NewShelf(doc *Document) *Shelf {
	s := &Shelf{book: b, all: nil, finished: map[string][]*Stock{}, half: map[Made][]*Stock{}}
	for _, l := range doc.Shelf {
		stock := &Stock{ShelfLot: l, Left: Supply{Amount: l.Amount, Reserved: doc.Open(l.Reserved)}}
		s.all = append(s.all, stock)
		switch made := l.Made(); {
		case l.Reached == "" && (l.Quality == Good || b.recipes[made].SecondsServe):
			own, _ := b.Resolve(made, l.Mixes)
			key := GatherKey(made, own)
			s.finished[key] = append(s.finished[key], stock)
		case l.Reached != "" && l.Quality == Good:
			s.half[made] = append(s.half[made], stock)
		}
	}
	for _, stock := range s.finished {
		slices.SortStableFunc(stock, func(x, y *Stock) int { return cmp.Compare(x.MadeOn, y.MadeOn) })
	}
	for made, stock := range s.half {
		r := b.recipes[made]
		slices.SortStableFunc(stock, func(x, y *Stock) int {
			return cmp.Or(cmp.Compare(r.after(y.Reached), r.after(x.Reached)), cmp.Compare(x.MadeOn, y.MadeOn))
		})
	}
	return s
}

// IDOf is the id of a lot that was decided on, the same as that of a counted one.
func (b *Book) IDOf(d *DecidedLot) ID {
	own, _ := b.Resolve(d.Made(), d.Mixes)
	return LotID(GatherKey(d.Made(), own), d.Ordinal)
}

// All lists everything, in the document's order.
func (s *Shelf) All() []*Stock { return s.all }

// Finished lists what lies finished of a gather key and can serve a need, oldest first:
// good pieces, and seconds where the recipe allows them.
func (s *Shelf) Finished(key string) []*Stock { return s.finished[key] }

// HalfMade lists what lies there of a recipe, good, that is made up to some step and can
// become the given mixes: what has gone in so far is the same. The furthest comes first,
// then the oldest.
func (s *Shelf) HalfMade(m Made, mixes map[string]ID) (stock []*Stock) {
	for _, l := range s.half[m] {
		if !slices.ContainsFunc(
			s.book.SlotsUntil(m, l.Reached),
			func(slot string) bool { return l.Mixes[slot] != mixes[slot] },
		) {
			stock = append(stock, l)
		}
	}
	return stock
}
