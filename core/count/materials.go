package count

import (
	"cmp"
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

// deliveries says which lots wait for which deliveries: what is on hand goes to the
// lots that must begin first, what is delivered to the next ones, in the order in which
// it is expected. What no delivery covers is to be bought and holds nothing up.
func (c *counter) deliveries() {
	coming := map[studio.ID][]studio.Gate{}
	for _, g := range c.doc.Gates {
		if g.Material != "" {
			coming[g.Material] = append(coming[g.Material], g)
		}
	}
	if len(coming) == 0 {
		return
	}
	onHand := map[studio.ID]int64{}
	var materials []studio.ID
	for _, m := range c.doc.Materials {
		if len(coming[m.ID]) == 0 {
			continue
		}
		materials = append(materials, m.ID)
		onHand[m.ID] = m.OnHand
		slices.SortStableFunc(
			coming[m.ID],
			func(a, b studio.Gate) int { return cmp.Compare(expected(a), expected(b)) },
		)
	}
	waits := map[studio.Made]bool{} // for some delivery, or may
	var first []*studio.Lot
	for i := range c.result.Lots {
		l := &c.result.Lots[i]
		may, known := waits[l.Made()]
		if !known {
			may = mayWait(c.book.Of(l.Made()), coming)
			waits[l.Made()] = may
		}
		if may {
			first = append(first, l)
		}
	}
	slices.SortFunc(first, func(a, b *studio.Lot) int {
		return cmp.Or(cmp.Compare(a.LatestStart, b.LatestStart), cmp.Compare(a.ID, b.ID))
	})
	for _, l := range first {
		needed := map[studio.ID]int64{}
		takes(c.doc, c.book, l, needed)
		for material, pieces := range wire.Pieces(c.book, []studio.Lot{*l}) {
			if len(coming[material]) > 0 {
				needed[material] += wire.Count(pieces, c.book.Material(material).Wire.Length)
			}
		}
		for _, m := range materials {
			taken := min(needed[m], onHand[m])
			onHand[m] -= taken
			rest := needed[m] - taken
			for i := range coming[m] {
				g := &coming[m][i]
				if taken := min(rest, g.Amount); taken > 0 {
					rest, g.Amount = rest-taken, g.Amount-taken
					l.Gates = append(l.Gates, g.ID)
				}
			}
		}
	}
}

// mayWait is true of a recipe that takes something of which a delivery is coming.
func mayWait(r *studio.Recipe, coming map[studio.ID][]studio.Gate) bool {
	return slices.ContainsFunc(
		r.Materials,
		func(m studio.MaterialInput) bool { return len(coming[m.Material]) > 0 },
	) ||
		slices.ContainsFunc(r.Wires, func(w studio.WireInput) bool { return len(coming[w.Material]) > 0 }) ||
		r.Kind == studio.KindMix
}

// expected is when a delivery is expected; one without a date comes after all others.
func expected(g studio.Gate) studio.Minute {
	if g.Opens == nil {
		return drying.Never
	}
	return *g.Opens
}
