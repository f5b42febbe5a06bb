package studio

import (
	"fmt"
	"slices"
)

// Supplier sells materials; what is ordered comes after Days, counted in days of the week
// that a carrier works, Monday to Friday.
type Supplier struct {
	ID   ID     `json:"id"`
	Name string `json:"name"`
	Days int64  `json:"days"`
	// CutOff is until when an order counts for its day: five in the afternoon if left out.
	CutOff TimeOfDay `json:"cutOff,omitzero"`
	// Comes are the days of the week on which they bring something: Monday to Friday if none is named.
	Comes []Weekday `json:"comes,omitempty"`
	// Takes is how an order reaches them, and Address where their order desk does.
	Takes    OrderWay `json:"takes,omitempty"`
	Address  string   `json:"address,omitempty"`
	OutOfUse bool     `json:"outOfUse,omitempty"`
}

// OrderWay is how an order reaches a supplier.
type OrderWay string

// Ways of ordering: to an order desk, where one is connected; written out and sent by somebody of the
// studio; or not at all, in a shop.
const (
	OrderedAtDesk OrderWay = ""
	OrderedByHand OrderWay = "by-hand"
	BoughtInShop  OrderWay = "shop"
)

// suppliers checks who sells what is bought.
func (v *validator) suppliers() {
	known := map[ID]bool{}
	for i, s := range v.doc.Suppliers {
		place := fmt.Sprintf("suppliers[%d] %q", i, s.Name)
		v.named(place, s.ID, s.Name)
		register(v, place, known, s.ID, true)
		within(v, place+".days", s.Days, 0, 120)
		if s.CutOff < 0 || s.CutOff >= 1440 {
			v.say(place+".cutOff", "is no time of day; 17:00 would be right")
		}
		for j, day := range s.Comes {
			if _, known := weekdays[day]; !known || slices.Contains(s.Comes[:j], day) {
				v.say(place+".comes", "%q is no day of the week, or is there twice", day)
			}
		}
		if s.Takes != OrderedAtDesk && s.Takes != OrderedByHand && s.Takes != BoughtInShop {
			v.say(place+".takes", "is %q; by-hand, shop or nothing would be right", s.Takes)
		}
		v.address(place+".address", s.Address)
	}
	for i, m := range v.doc.Materials {
		if m.Supplier != "" && !known[m.Supplier] {
			v.say(fmt.Sprintf("materials[%d] %q.supplier", i, m.Name), "no supplier %q", m.Supplier)
		}
	}
}

// Kept is how a mix on the shelf is kept, which says how long it lives.
type Kept string

// Ways of keeping a mix.
const (
	OnBoard Kept = "board"
	Wrapped Kept = "wrapped"
	Cold    Kept = "cold"
)

// PurchaseState is how far a purchase has come.
type PurchaseState string

// States of a purchase. One that was sent and not confirmed is ordered all the same: the
// supplier may have it.
const (
	PurchaseSent      PurchaseState = "sent"
	PurchaseConfirmed PurchaseState = "confirmed"
	PurchaseArrived   PurchaseState = "arrived"
	PurchaseCancelled PurchaseState = "cancelled"
)

// Purchase is what was ordered from a supplier at one time. Expected is when it is to
// arrive; Said what the supplier said about it.
type Purchase struct {
	ID       ID             `json:"id"`
	Supplier ID             `json:"supplier"`
	State    PurchaseState  `json:"state"`
	Ordered  Minute         `json:"ordered"`
	Expected Minute         `json:"expected"`
	Said     string         `json:"said,omitempty"`
	Lines    []PurchaseLine `json:"lines"`
}

// PurchaseLine is a material in the packs it is sold in: Packs were ordered, Promised are
// confirmed, Arrived have come. Amount is in the material's unit, for one pack.
type PurchaseLine struct {
	ID       ID    `json:"id"`
	Material ID    `json:"material"`
	Pack     int64 `json:"pack"`
	Packs    int64 `json:"packs"`
	Promised int64 `json:"promised"`
	Arrived  int64 `json:"arrived"`
}

// Outstanding is how many packs of a line are still to come.
func (p *Purchase) Outstanding(l PurchaseLine) int64 {
	switch p.State {
	case PurchaseSent:
		return l.Packs
	case PurchaseConfirmed:
		return max(0, l.Promised-l.Arrived)
	}
	return 0
}

// Gates are the deliveries that a purchase is waited for.
func (p *Purchase) Gates(supplier, material func(ID) string) (gates []Gate) {
	for _, l := range p.Lines {
		if packs := p.Outstanding(l); packs > 0 {
			expected := p.Expected
			gates = append(
				gates,
				Gate{
					ID:       l.ID,
					Name:     material(l.Material) + " from " + supplier(p.Supplier),
					Material: l.Material,
					Amount:   packs * l.Pack,
					Opens:    &expected,
				},
			)
		}
	}
	return gates
}
