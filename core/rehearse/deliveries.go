package rehearse

import (
	"maps"
	"slices"

	"bractum/core/stores"
	"bractum/core/studio"
)

// buys orders packs of materials from whoever sells them.
func (p *player) buys(supplier studio.ID, packs map[studio.ID]int64) error {
	purchase, err := stores.Order(p.doc, supplier, packs, p.house.next)
	if err != nil { // of nothing, or from a shop, to which somebody goes
		for i := range p.doc.Materials {
			if m := p.doc.Materials[i]; m.Supplier == supplier && packs[m.ID] > 0 {
				p.move(studio.WorkLot{}, []studio.Movement{{Kind: studio.Bought, Material: m.ID,
					Amount: packs[m.ID] * max(1, m.Pack)}})
				p.stale = true
			}
		}
		return nil
	}
	p.ordered[supplier]++
	p.coming = append(p.coming, delivery{purchase, purchase.Expected + p.course.late(supplier, p.ordered[supplier])})
	p.gates()
	return nil
}

// gates are what the studio knows of its deliveries.
func (p *player) gates() {
	p.doc.Gates = slices.DeleteFunc(slices.Clone(p.doc.Gates), func(g studio.Gate) bool {
		return slices.ContainsFunc(p.coming, func(d delivery) bool {
			return slices.ContainsFunc(d.Lines, func(l studio.PurchaseLine) bool { return l.ID == g.ID })
		})
	})
	name := func(studio.ID) string { return "" }
	for i := range p.coming {
		if d := &p.coming[i]; d.State != studio.PurchaseArrived {
			p.doc.Gates = append(p.doc.Gates, d.Gates(name, name)...)
		}
	}
	p.stale = true
}

// deliveries come, or are found to be late.
func (p *player) deliveries() error {
	for i := range p.coming {
		d := &p.coming[i]
		switch {
		case d.State == studio.PurchaseArrived:
		case d.comes <= p.doc.Now:
			came := []stores.Arrived{}
			for _, l := range d.Lines {
				came = append(came, stores.Arrived{Line: l.ID, Packs: l.Packs})
			}
			purchase, change, err := stores.GoodsIn(p.doc, d.Purchase, came)
			if err != nil {
				return err
			}
			p.move(studio.WorkLot{}, change.Moved)
			d.Purchase = purchase
			p.gates()
		case d.Expected <= p.doc.Now:
			d.Expected = p.doc.Now + 1440
			p.gates()
		}
	}
	for _, g := range p.doc.Gates { // deliveries of before the rehearsal come as they were promised
		if g.Material != "" && g.Opens != nil && *g.Opens <= p.doc.Now && !p.ours(g.ID) {
			p.move(studio.WorkLot{}, []studio.Movement{{Kind: studio.Bought, Material: g.Material, Amount: g.Amount}})
			p.doc.Gates = slices.DeleteFunc(slices.Clone(p.doc.Gates), func(o studio.Gate) bool { return o.ID == g.ID })
			p.stale = true
		}
	}
	return nil
}

func (p *player) ours(gate studio.ID) bool {
	return slices.ContainsFunc(p.coming, func(d delivery) bool {
		return slices.ContainsFunc(d.Lines, func(l studio.PurchaseLine) bool { return l.ID == gate })
	})
}

// notComing is what of some amounts is not on its way.
func (p *player) notComing(materials map[studio.ID]int64) map[studio.ID]int64 {
	for _, g := range p.doc.Gates {
		if materials[g.Material] > 0 {
			materials[g.Material] -= g.Amount
		}
	}
	return materials
}

// buyAll orders materials from whoever sells them.
func (p *player) buyAll(materials map[studio.ID]int64) error {
	by := map[studio.ID]map[studio.ID]int64{}
	for i := range p.doc.Materials {
		m := &p.doc.Materials[i]
		if missing := materials[m.ID]; missing > 0 && m.Supplier != "" {
			if by[m.Supplier] == nil {
				by[m.Supplier] = map[studio.ID]int64{}
			}
			by[m.Supplier][m.ID] = studio.CeilDiv(materials[m.ID], max(1, m.Pack))
		}
	}
	for _, supplier := range slices.Sorted(maps.Keys(by)) {
		if err := p.buys(supplier, by[supplier]); err != nil {
			return err
		}
	}
	return nil
}
