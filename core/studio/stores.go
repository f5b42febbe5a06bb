package studio

// Supplier sells materials; what is ordered comes after Days, counted in days of the week
// that a carrier works, Monday to Friday.
type Supplier struct {
	ID       ID     `json:"id"`
	Name     string `json:"name"`
	Days     int64  `json:"days"`
	OutOfUse bool   `json:"outOfUse,omitempty"`
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
