package studio

import (
	"cmp"
	"slices"
)

// outside are the gates of a whole lot: approval of one of its mixes when it is
// itself that mix, and the deliveries that its materials wait for.
func (r *router) outside(l *Lot, recipe *Recipe) []ID {
	var gates []ID
	for _, g := range r.doc.Gates {
		if recipe.Kind == KindMix && slices.Contains(g.Mixes, recipe.ID) {
			gates = append(gates, g.ID)
		}
	}
	return append(gates, r.deliveries[l.ID]...)
}

// deliveries says which lots wait for which deliveries: what is on hand goes to
// the lots that must begin first, what is delivered to the next ones, in the
// order in which it is expected. What no delivery covers is to be bought and
// holds nothing up.
func deliveries(doc *Document, book *Book, lots []Lot) map[ID][]ID {
	waits := map[ID][]ID{}
	order := make([]*Lot, len(lots))
	for i := range lots {
		order[i] = &lots[i]
	}
	slices.SortFunc(order, func(a, b *Lot) int {
		return cmp.Or(cmp.Compare(a.LatestStart, b.LatestStart), cmp.Compare(a.ID, b.ID))
	})
	for _, m := range doc.Materials {
		var coming []Gate
		for _, g := range doc.Gates {
			if g.Material == m.ID {
				coming = append(coming, g)
			}
		}
		slices.SortStableFunc(coming, func(a, b Gate) int {
			return cmp.Or(cmp.Compare(opening(a), opening(b)), cmp.Compare(a.ID, b.ID))
		})
		onHand := m.OnHand
		for _, l := range order {
			need := takes(book.Of(l.Made()), l, &m)
			fromHand := min(need, onHand)
			need, onHand = need-fromHand, onHand-fromHand
			for i := range coming {
				if taken := min(need, coming[i].Amount); taken > 0 {
					need, coming[i].Amount = need-taken, coming[i].Amount-taken
					waits[l.ID] = append(waits[l.ID], coming[i].ID)
				}
			}
		}
	}
	return waits
}

func opening(g Gate) Minute {
	if g.Opens == nil {
		return Minute(1) << 40
	}
	return *g.Opens
}

// takes is how much of a material a lot that is not begun takes up, in its unit;
// of a wire, full wires cut into pieces of one length each.
func takes(r *Recipe, l *Lot, m *Material) int64 {
	if l.InWork {
		return 0
	}
	ahead := func(step string) bool {
		_, i := r.Step(step)
		return i >= l.NextStep
	}
	var sum int64
	for _, in := range r.Materials {
		if in.Material == m.ID && ahead(in.Step) {
			sum += in.Taken(r.At(in.Step, l.Started))
		}
	}
	for _, w := range r.Wires {
		if w.Material == m.ID && ahead(w.Step) {
			fit := int64(m.Wire.Length / max(1, w.Depth+w.Stem+w.Allowance))
			sum += CeilDiv(w.Number*r.At(w.Step, l.Started), max(1, fit))
		}
	}
	var parts int64
	for _, in := range r.Blend {
		parts += in.Parts
	}
	for _, in := range r.Blend {
		if in.Material == m.ID {
			sum += CeilDiv(l.Started*in.Parts, parts)
		}
	}
	for _, in := range r.Additives {
		if in.Material == m.ID {
			sum += CeilDiv(l.Started*int64(in.Per100g), 100_000)
		}
	}
	return sum
}

// At is how many pieces, or units before the yield, take up inputs at a step.
func (r *Recipe) At(step string, quantity int64) int64 {
	_, i := r.Step(step)
	return CeilDiv(quantity, r.unit(i))
}
