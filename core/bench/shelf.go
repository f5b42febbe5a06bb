package bench

import (
	"slices"

	"bractum/core/paste"
	"bractum/core/studio"
	"bractum/core/wire"
)

// begins is what happens to stock as a lot is begun: what it will yield is reserved, and
// half-made pieces leave the shelf.
func (b Bench) begins(lot studio.WorkLot) (moved []studio.Movement) {
	for _, claim := range lot.Reserved {
		moved = append(
			moved,
			studio.Movement{Kind: studio.Reserved, Lot: lot.ID, Order: claim.Order, Amount: claim.Quantity},
		)
	}
	if lot.From == "" {
		return moved
	}
	for _, s := range b.shelf.HalfMade(lot.Made(), lot.Mixes) {
		if s.ID == lot.From {
			return append(moved, draw(s, studio.Spread(lot.Started, lot.Reserved))...)
		}
	}
	return append(moved, studio.Movement{Kind: studio.UsedUp, Shelf: lot.From, Amount: -lot.Started})
}

// made is what a lot puts on the shelf as its last work is done: what was reserved of it
// stays reserved, for as many as there are.
func (b Bench) made(lot studio.WorkLot, r *studio.Recipe, progress studio.Progress) (moved []studio.Movement) {
	kind := studio.MadeOf
	var useBy *studio.Minute
	if r.Kind == studio.KindMix {
		by := b.doc.Now + r.LifeMinutes
		kind, useBy = studio.Mixed, &by
	}
	claims := b.doc.Open(lot.Reserved)
	for _, claim := range lot.Reserved {
		moved = append(
			moved,
			studio.Movement{Kind: studio.Released, Lot: lot.ID, Order: claim.Order, Amount: -claim.Quantity},
		)
	}
	put := func(quality studio.Quality, amount int64, serves bool) {
		moved = append(moved, studio.Movement{Kind: kind, Made: quality, UseBy: useBy, Amount: amount})
		var here []studio.Claim
		if serves {
			here, claims = studio.First(claims, amount)
		}
		for _, claim := range here {
			moved = append(
				moved,
				studio.Movement{Kind: studio.Reserved, Made: quality, Order: claim.Order, Amount: claim.Quantity},
			)
		}
	}
	good := progress.Alive - progress.Seconds
	if mixed := mixed(lot, r); mixed > 0 {
		good = int64(mixed)
	}
	put(studio.Good, good, true)
	put(studio.Second, progress.Seconds, r.SecondsServe)
	return moved
}

// used is what a step takes up: parts and pastes from the shelf, oldest first, wires that
// lie cut to length, else full ones, materials by amount. Of what is settled by eye it is what
// the maker said, which it is taken off; where nothing was said, the most of an input and the
// usual amount of a material. What broke as it was taken up goes with it.
func (b Bench) used(lot studio.WorkLot, r *studio.Recipe, step string, said []studio.Used) []studio.Movement {
	pieces := r.At(step, lot.Entering(r, step))
	var moved []studio.Movement
	for _, p := range r.Parts {
		if p.Step == step {
			count := p.Count * pieces
			if i := slices.IndexFunc(said, studio.Used{Recipe: p.Recipe, Variant: p.Variant}.Same); i >= 0 {
				u := &said[i]
				if p.Least != nil {
					count = min(count, u.Pieces)
					u.Pieces -= count
				}
				count, u.Broke = count+u.Broke, 0
			}
			moved = append(moved, b.take(lot, p.Made(), b.book.Input(p, lot.Mixes), count)...)
		}
	}
	for _, p := range r.Pastes {
		if p.Step == step {
			mix := studio.Made{Recipe: lot.Mixes[p.Slot]}
			mass := paste.Mass(p.Shape, b.doc.Settings.DensityMgPerMl) * studio.Milligrams(pieces*p.Each())
			moved = append(
				moved,
				b.take(lot, mix, nil, int64(paste.WithLoss(mass, b.doc.Settings.LossPerMille)))...)
			moved = append(moved, b.remnants(lot, r, step, mix)...)
		}
	}
	for _, m := range r.Materials {
		if m.Step == step {
			amount := m.Taken(pieces)
			if i := slices.IndexFunc(said, studio.Used{Material: m.Material}.Same); i >= 0 && m.ByEye() {
				amount = min(m.Ready(pieces), said[i].Amount)
				said[i].Amount -= amount
			}
			moved = append(moved, studio.Movement{Kind: studio.UsedUp, Material: m.Material, Amount: -amount})
		}
	}
	for _, w := range r.Wires {
		if w.Step == step {
			moved = append(
				moved,
				b.wires(wire.Piece{Lot: lot.ID, Length: wire.Length(w), Number: w.Number * pieces}, w.Material)...)
		}
	}
	if r.Kind == studio.KindMix && r.Steps[0].Key == step && mixed(lot, r) == 0 {
		for _, portion := range paste.Weigh(r, studio.Milligrams(pieces), b.doc.Settings.ScaleStepMilligrams) {
			if portion.Mix != "" {
				moved = append(moved, b.take(lot, studio.Made{Recipe: portion.Mix}, nil, int64(portion.Weigh))...)
			} else {
				moved = append(moved, studio.Movement{Kind: studio.UsedUp, Material: portion.Material, Amount: -int64(portion.Weigh)})
			}
		}
	}
	return moved
}

// remnants throws away what is left of mixings after a step of a lot, where that is too little to keep and
// nobody is to take of it any more.
func (b Bench) remnants(lot studio.WorkLot, r *studio.Recipe, step string, mix studio.Made) (moved []studio.Movement) {
	_, at := r.Step(step)
	wanted := func(s *studio.Stock) bool {
		return slices.ContainsFunc(b.plan.Links, func(k studio.Link) bool {
			_, taken := r.Step(k.Step)
			return (k.From == s.ID || k.From == s.From && s.From != "") && (k.To != lot.ID || taken > at)
		})
	}
	own, _ := b.book.Resolve(mix, nil)
	for _, s := range b.shelf.Finished(studio.GatherKey(mix, own)) {
		left := s.Left.Amount
		if left > 0 && left < int64(b.doc.Settings.RemnantMilligrams) && len(b.doc.Open(s.Left.Reserved)) == 0 &&
			!wanted(s) {
			moved = append(moved, studio.Movement{Kind: studio.Spoilt, Shelf: s.ID, Amount: -left})
			s.Left.Amount = 0
		}
	}
	return moved
}

// wires takes wires that lie cut to length, and full ones for those that do not.
func (b Bench) wires(piece wire.Piece, material studio.ID) (moved []studio.Movement) {
	for i := range b.cut {
		o := &b.cut[i]
		if take := min(piece.Number, o.Number); o.Material == material && o.Length == piece.Length && take > 0 {
			moved = append(
				moved,
				studio.Movement{Kind: studio.UsedUp, Material: material, Length: o.Length, Amount: -take},
			)
			piece.Number -= take
			o.Number -= take
		}
	}
	full := wire.Count([]wire.Piece{piece}, b.book.Material(material).Wire.Length)
	return append(moved, studio.Movement{Kind: studio.UsedUp, Material: material, Amount: -full})
}

// take draws an amount from the shelf, oldest first: what is reserved for the lot's
// orders, then what is free, then what is reserved for others, who will be short. What
// the shelf has not got is drawn from the newest all the same: a minus there is to be
// explained.
func (b Bench) take(
	lot studio.WorkLot,
	made studio.Made,
	mixes map[string]studio.ID,
	amount int64,
) (moved []studio.Movement) {
	own, _ := b.book.Resolve(made, mixes)
	stock := b.shelf.Finished(studio.GatherKey(made, own))
	left := studio.Spread(amount, b.doc.Open(lot.Reserved))
	for _, from := range []func(*studio.Supply, []studio.Claim) []studio.Claim{(*studio.Supply).TakeReserved, (*studio.Supply).TakeFree} {
		for _, s := range stock {
			before := s.Left.Reserved
			s.Left.Reserved = append([]studio.Claim{}, before...)
			got := from(&s.Left, left)
			left = studio.Less(left, got)
			moved = join(moved, used(s, studio.Sum(got), studio.Less(before, s.Left.Reserved)))
		}
	}
	for i, s := range stock {
		rest := min(studio.Sum(left), max(0, s.Left.Amount))
		if i == len(stock)-1 {
			rest = studio.Sum(left)
		}
		_, left = studio.First(left, rest)
		s.Left.Amount -= rest
		moved = join(moved, used(s, rest, nil))
	}
	if rest := studio.Sum(left); rest > 0 {
		moved = append(moved, studio.Movement{Kind: studio.UsedUp, Amount: -rest,
			New: &studio.ShelfLot{
				Recipe:  made.Recipe,
				Variant: made.Variant,
				Mixes:   own,
				Quality: studio.Good,
				MadeOn:  b.doc.Now,
			}})
	}
	return moved
}

// join adds movements to others; those of the same stock for the same reason are one.
func join(moved, more []studio.Movement) []studio.Movement {
	for _, m := range more {
		if i := slices.IndexFunc(moved, func(n studio.Movement) bool { return n.Shelf == m.Shelf && n.Kind == m.Kind && n.Order == m.Order }); i >= 0 {
			moved[i].Amount += m.Amount
			continue
		}
		moved = append(moved, m)
	}
	return moved
}

// draw takes claims from one shelf lot, reserved or not.
func draw(s *studio.Stock, claims []studio.Claim) []studio.Movement {
	before := append([]studio.Claim{}, s.Left.Reserved...)
	rest := studio.Less(claims, s.Left.TakeReserved(claims))
	s.Left.Amount -= studio.Sum(rest)
	return used(s, studio.Sum(claims), studio.Less(before, s.Left.Reserved))
}

// used is the movement of what leaves a shelf lot, and of the reservations that are met.
func used(s *studio.Stock, amount int64, met []studio.Claim) (moved []studio.Movement) {
	if amount != 0 {
		moved = append(moved, studio.Movement{Kind: studio.UsedUp, Shelf: s.ID, Amount: -amount})
	}
	for _, claim := range met {
		moved = append(
			moved,
			studio.Movement{Kind: studio.Released, Shelf: s.ID, Order: claim.Order, Amount: -claim.Quantity},
		)
	}
	return moved
}
