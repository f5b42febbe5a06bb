package rehearse

import (
	"fmt"
	"maps"
	"slices"

	"bractum/core/studio"
)

// house is a studio as it stands: a document of its own, kept as the store keeps it.
type house struct {
	doc      *studio.Document
	book     *studio.Book
	calendar studio.Calendar
	ids      int
	used     Used
}

// newHouse is a studio as a document has it; the document stays as it is.
func newHouse(doc *studio.Document) (*house, error) {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return nil, err
	}
	own := *doc
	own.Orders, own.Shelf, own.Work = slices.Clone(doc.Orders), slices.Clone(doc.Shelf), slices.Clone(doc.Work)
	own.Offcuts, own.Gates = slices.Clone(doc.Offcuts), slices.Clone(doc.Gates)
	own.Materials, own.People = slices.Clone(doc.Materials), slices.Clone(doc.People)
	own.Recorded, own.Readings = slices.Clone(doc.Recorded), slices.Clone(doc.Readings)
	own.Ordinals = map[string]int{}
	maps.Copy(own.Ordinals, doc.Ordinals)
	for i := range own.People {
		p := &own.People[i]
		p.Away, p.Colours = slices.Clone(p.Away), maps.Clone(p.Colours)
		if p.Colours == nil {
			p.Colours = map[studio.ID]studio.ID{}
		}
	}
	return &house{doc: &own, book: studio.NewBook(&own), calendar: calendar}, nil
}

// next is an id that nothing has yet.
func (h *house) next() studio.ID {
	h.ids++
	return studio.ID(fmt.Sprintf("rehearsed-%d", h.ids))
}

// happened puts a lot as it stands now and books what moved by it; a lot of which nothing is left any more is closed.
func (h *house) happened(w studio.WorkLot, moved []studio.Movement) {
	h.doc.Work = slices.Clone(h.doc.Work) // plans and counts that were made may share it
	if i := slices.IndexFunc(h.doc.Work, func(x studio.WorkLot) bool { return x.ID == w.ID }); i >= 0 {
		w.Reserved = h.doc.Work[i].Reserved // which follows from what moved
		h.doc.Work[i] = w
	} else {
		w.Reserved = nil
		h.doc.Work = append(h.doc.Work, w)
	}
	h.move(w, moved)
	h.close()
}

// move books movements; those of nobody's work have no lot.
func (h *house) move(w studio.WorkLot, moved []studio.Movement) {
	h.doc.Shelf, h.doc.Materials = slices.Clone(h.doc.Shelf), slices.Clone(h.doc.Materials)
	for _, m := range moved {
		h.used.add(h.doc, h.book, m)
		switch reserves := m.Kind == studio.Reserved || m.Kind == studio.Released; {
		case m.Lot != "":
			h.reserve(m)
		case m.Length > 0:
			h.cut(m)
		case m.Material != "":
			for i := range h.doc.Materials {
				if h.doc.Materials[i].ID == m.Material {
					h.doc.Materials[i].OnHand += m.Amount
				}
			}
		default:
			s := h.shelf(w, m)
			if reserves {
				s.Reserved = studio.Add(slices.Clone(s.Reserved), studio.Claim{Order: m.Order, Quantity: m.Amount})
			} else {
				s.Amount += m.Amount
			}
		}
	}
	for i := range h.doc.Shelf {
		s := &h.doc.Shelf[i]
		s.Reserved = slices.DeleteFunc(s.Reserved, func(c studio.Claim) bool { return c.Quantity <= 0 })
	}
	h.doc.Shelf = slices.DeleteFunc(h.doc.Shelf, func(s studio.ShelfLot) bool { return s.Amount == 0 })
}

// shelf is the shelf lot of a movement, one of nothing yet where there is none.
func (h *house) shelf(w studio.WorkLot, m studio.Movement) *studio.ShelfLot {
	is := func(s studio.ShelfLot) bool { return s.ID == m.Shelf }
	lot := studio.ShelfLot{ID: h.next(), Recipe: w.Recipe, Variant: w.Variant, Mixes: w.Mixes, Quality: m.Made,
		MadeOn: h.doc.Now, UseBy: m.UseBy, From: w.ID}
	switch {
	case m.Made != "":
		is = func(s studio.ShelfLot) bool { return s.From == w.ID && s.Quality == m.Made && w.ID != "" }
	case m.New != nil:
		id := lot.ID
		lot = *m.New
		lot.ID = id
		is = func(studio.ShelfLot) bool { return false }
	}
	if i := slices.IndexFunc(h.doc.Shelf, is); i >= 0 {
		return &h.doc.Shelf[i]
	}
	h.doc.Shelf = append(h.doc.Shelf, lot)
	return &h.doc.Shelf[len(h.doc.Shelf)-1]
}

// reserve changes what of a lot in work is kept for whom.
func (h *house) reserve(m studio.Movement) {
	for i := range h.doc.Work {
		w := &h.doc.Work[i]
		if w.ID != m.Lot {
			continue
		}
		w.Reserved = slices.DeleteFunc(
			studio.Add(slices.Clone(w.Reserved), studio.Claim{Order: m.Order, Quantity: m.Amount}),
			func(c studio.Claim) bool { return c.Quantity <= 0 },
		)
	}
}

// cut books wires that lie cut to length.
func (h *house) cut(m studio.Movement) {
	h.doc.Offcuts = slices.Clone(h.doc.Offcuts)
	for i := range h.doc.Offcuts {
		if o := &h.doc.Offcuts[i]; o.Material == m.Material && o.Length == m.Length {
			o.Number += m.Amount
		}
	}
	h.doc.Offcuts = slices.DeleteFunc(h.doc.Offcuts, func(o studio.Offcut) bool { return o.Number <= 0 })
}

// close takes lots out whose pieces are made and gone; what came of them is added up.
func (h *house) close() {
	h.doc.Work = slices.DeleteFunc(slices.Clone(h.doc.Work), func(w studio.WorkLot) bool {
		r := h.book.Of(w.Made())
		came, made := w.Turnout(r)
		left := slices.ContainsFunc(
			h.doc.Shelf,
			func(s studio.ShelfLot) bool { return s.From == w.ID && s.Amount != 0 },
		)
		if !made || left {
			return false
		}
		h.record(r, came)
		key := studio.GatherKey(w.Made(), w.Mixes)
		h.doc.Ordinals = maps.Clone(h.doc.Ordinals)
		h.doc.Ordinals[key] = max(h.doc.Ordinals[key], w.Ordinal)
		return true
	})
}

// record adds up what came of lots of a page of the flower book.
func (h *house) record(r *studio.Recipe, came studio.Turnout) {
	if r.Kind == studio.KindMix {
		return
	}
	h.doc.Recorded = slices.Clone(h.doc.Recorded)
	for i := range h.doc.Recorded {
		if k := &h.doc.Recorded[i]; k.Recipe == r.Page() {
			k.Good, k.Lost = k.Good+came.Good, k.Lost+came.Lost
			return
		}
	}
	h.doc.Recorded = append(h.doc.Recorded, studio.Recorded{Recipe: r.Page(), Good: came.Good, Lost: came.Lost})
}

// ordered replaces an order, or adds one.
func (h *house) ordered(o studio.Order) {
	h.doc.Orders = slices.Clone(h.doc.Orders)
	for i := range h.doc.Orders {
		if h.doc.Orders[i].ID == o.ID {
			h.doc.Orders[i] = o
			return
		}
	}
	h.doc.Orders = append(h.doc.Orders, o)
}

// Used is what a studio took up and threw away.
type Used struct {
	Pieces int64             `json:"pieces" doc:"that were made"`
	Paste  studio.Milligrams `json:"pasteMilligrams" doc:"that was mixed"`
	Wires  int64             `json:"wires" doc:"full ones"`
	// Broken are pieces that broke, were too stiff, or were lost otherwise; Left those that were made in these weeks
	// and lie there at their end, for orders that have not left or for nobody; PasteLeft what was mixed and not used.
	Broken    int64             `json:"broken"`
	Left      int64             `json:"left"`
	PasteLeft studio.Milligrams `json:"pasteLeftMilligrams"`
}

func (u *Used) add(doc *studio.Document, book *studio.Book, m studio.Movement) {
	switch m.Kind {
	case studio.MadeOf:
		u.Pieces += m.Amount
	case studio.Mixed:
		u.Paste += studio.Milligrams(m.Amount)
	case studio.UsedUp:
		if material := book.Material(m.Material); material != nil && material.Wire != nil && m.Length == 0 {
			u.Wires -= m.Amount
		}
	case studio.Spoilt:
		if s := slices.IndexFunc(doc.Shelf, func(s studio.ShelfLot) bool { return s.ID == m.Shelf }); s >= 0 {
			if r := book.Recipe(doc.Shelf[s].Recipe); r != nil && r.Kind == studio.KindMix {
				u.PasteLeft -= studio.Milligrams(m.Amount)
				return
			}
		}
		u.Broken -= m.Amount
	}
}
