package studio

import "slices"

// Claim is a quantity of something that is meant for an order. Of no order, as a need it
// is for the shelf; as a reservation the lead keeps it back from everything.
type Claim struct {
	Order    ID    `json:"order,omitempty"`
	Quantity int64 `json:"quantity"`
}

// Sum adds up claims.
func Sum(claims []Claim) (quantity int64) {
	for _, c := range claims {
		quantity += c.Quantity
	}
	return quantity
}

// Add adds a claim to those of its order.
func Add(claims []Claim, more Claim) []Claim {
	if more.Quantity == 0 {
		return claims
	}
	if i := slices.IndexFunc(claims, func(c Claim) bool { return c.Order == more.Order }); i >= 0 {
		claims[i].Quantity += more.Quantity
		return claims
	}
	return append(claims, more)
}

// First takes a quantity off claims, the first ones first.
func First(claims []Claim, quantity int64) (taken, left []Claim) {
	for _, c := range claims {
		take := min(quantity, c.Quantity)
		quantity -= take
		taken = Add(taken, Claim{Order: c.Order, Quantity: take})
		left = Add(left, Claim{Order: c.Order, Quantity: c.Quantity - take})
	}
	return taken, left
}

// Spread shares out a quantity as claims are to each other, so that the shares add up to
// it; all of it is for the shelf where there are no claims.
func Spread(quantity int64, claims []Claim) (shares []Claim) {
	whole, so, given := Sum(claims), int64(0), int64(0)
	if whole == 0 {
		return Add(nil, Claim{Order: "", Quantity: quantity})
	}
	for _, c := range claims {
		so += c.Quantity
		share := CeilDiv(quantity*so, whole) - given
		shares = Add(shares, Claim{Order: c.Order, Quantity: share})
		given += share
	}
	return shares
}

// Supply is an amount of which parts are reserved: hard, nobody else gets them.
type Supply struct {
	Amount   int64
	Reserved []Claim
}

// Free is what is reserved for nobody.
func (s *Supply) Free() int64 { return max(0, s.Amount-Sum(s.Reserved)) }

// TakeReserved takes for claims what is reserved for their orders, as far as it is there.
func (s *Supply) TakeReserved(claims []Claim) (taken []Claim) {
	for _, c := range OfOrders(claims) {
		i := slices.IndexFunc(s.Reserved, func(r Claim) bool { return r.Order == c.Order })
		if i < 0 {
			continue
		}
		take := min(c.Quantity, s.Reserved[i].Quantity, s.Amount)
		if take <= 0 {
			continue
		}
		s.Reserved[i].Quantity -= take
		s.Amount -= take
		taken = Add(taken, Claim{Order: c.Order, Quantity: take})
	}
	return taken
}

// TakeFree takes for claims, the first ones first, what is reserved for nobody.
func (s *Supply) TakeFree(claims []Claim) (taken []Claim) {
	taken, _ = First(claims, s.Free())
	s.Amount -= Sum(taken)
	return taken
}

// Less takes claims off claims of the same orders.
func Less(claims, taken []Claim) (left []Claim) {
	for _, c := range claims {
		if i := slices.IndexFunc(taken, func(t Claim) bool { return t.Order == c.Order }); i >= 0 {
			c.Quantity -= taken[i].Quantity
		}
		left = Add(left, c)
	}
	return left
}

// OfOrders are the claims that are some order's.
func OfOrders(claims []Claim) (orders []Claim) {
	for _, c := range claims {
		if c.Order != "" {
			orders = append(orders, c)
		}
	}
	return orders
}

// For is what is reserved for an order.
func (s *Supply) For(order ID) (quantity int64) {
	for _, r := range OfOrders(s.Reserved) {
		if r.Order == order {
			quantity += r.Quantity
		}
	}
	return quantity
}
