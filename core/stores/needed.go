package stores

import "bractum/core/studio"

// Needed is a material that an order waits for and that has to be ordered from a supplier.
type Needed struct {
	Buy
	Supplier *studio.Supplier `json:"supplier"`
}

// NeededBy is what has to be ordered for each order of a plan: what tasks of theirs wait for that is not on its way,
// from who sells it. What nobody sells is not among it.
func NeededBy(doc *studio.Document, made *studio.Plan, lists []List) map[studio.ID][]Needed {
	waits := map[studio.ID][]studio.Claim{} // by material
	for i := range made.Lots {
		l := &made.Lots[i]
		for _, await := range l.Awaits {
			if material, ok := studio.Ordered(await.Gate); ok {
				for _, claim := range studio.OfOrders(l.For) {
					waits[material] = studio.Add(waits[material], claim)
				}
			}
		}
	}
	all := map[studio.ID][]Needed{}
	for _, list := range lists {
		for _, b := range list.Buys {
			if list.Supplier == nil || b.Packs == 0 {
				continue
			}
			for _, claim := range waits[b.Material] {
				all[claim.Order] = append(all[claim.Order], Needed{Buy: b, Supplier: list.Supplier})
			}
		}
	}
	return all
}
