package bench

import (
	"slices"

	"bractum/core/studio"
)

// HandOver takes an order's finished flowers off the shelf as they leave the studio,
// oldest first, those that are reserved for it before others: all that are still owed, or
// of a part so many of each line. It is refused while any of them is not finished, or is
// reserved for somebody else. It answers the order as it is then: left once nothing of it is
// owed, and what else was reserved for it is let go.
func (b Bench) HandOver(o studio.Order, part map[studio.ID]int64) (studio.Order, []studio.Movement, error) {
	if o.State != studio.OrderOpen {
		return o, nil, studio.Refuse("%q is %s; only an open order leaves", o.Name, o.State)
	}
	for line := range part {
		if !slices.ContainsFunc(o.Lines, func(l studio.OrderLine) bool { return l.ID == line }) {
			return o, nil, studio.Refuse("%q has no such line any more; look at the order again", o.Name)
		}
	}
	var moved []studio.Movement
	var owed, goes int64
	o.Lines = slices.Clone(o.Lines)
	for i := range o.Lines {
		l := &o.Lines[i]
		n := l.Owed()
		if part != nil {
			if n = part[l.ID]; n < 0 || n > l.Owed() {
				return o, nil, studio.Refuse(
					"%d of %s cannot leave: %d are still to",
					n,
					b.book.Recipe(l.Recipe).Name,
					l.Owed(),
				)
			}
		}
		leaving, err := b.leaves(o.ID, *l, n)
		if err != nil {
			return o, nil, err
		}
		moved = append(moved, leaving...)
		l.Gone += n
		goes, owed = goes+n, owed+l.Owed()
	}
	if owed > 0 {
		if goes == 0 {
			return o, nil, studio.Refuse("say how many of which flower leave")
		}
		return o, moved, nil
	}
	o.State = studio.OrderLeft
	for _, s := range b.shelf.All() {
		if left := s.Left.For(o.ID); left > 0 {
			moved = join(moved, []studio.Movement{{Kind: studio.Released, Shelf: s.ID, Order: o.ID, Amount: -left}})
		}
	}
	return o, moved, nil
}

// leaves takes so many flowers of a line off the shelf.
func (b Bench) leaves(order studio.ID, line studio.OrderLine, n int64) (moved []studio.Movement, err error) {
	left := []studio.Claim{{Order: order, Quantity: n}}
	var others int64
	stock := b.finished(line)
	for _, s := range stock {
		got := s.Left.TakeReserved(left)
		left = studio.Less(left, got)
		moved = append(moved, used(s, studio.Sum(got), got)...)
	}
	for _, s := range stock {
		got := s.Left.TakeFree(left)
		left = studio.Less(left, got)
		moved = append(moved, used(s, studio.Sum(got), nil)...)
		others += max(0, s.Left.Amount)
	}
	missing, name := studio.Sum(left), b.book.Recipe(line.Recipe).Name
	switch {
	case missing > 0 && others >= missing:
		return nil, studio.Refuse(
			"%d of %d %s lie there and are reserved for others; move the reservation first, or the order stays",
			missing,
			n,
			name,
		)
	case missing > 0:
		return nil, studio.Refuse("%d of %d %s are not finished; the order stays", missing, n, name)
	}
	return moved, nil
}

// There is how many flowers of each line of an order could leave now.
func (b Bench) There(o studio.Order) map[studio.ID]int64 {
	there := map[studio.ID]int64{}
	for _, line := range o.Lines {
		for _, s := range b.finished(line) {
			there[line.ID] += s.Left.Free() + s.Left.For(o.ID)
		}
		there[line.ID] = max(0, min(there[line.ID], line.Owed()))
	}
	return there
}

// finished are the flowers on the shelf that are what a line wants.
func (b Bench) finished(line studio.OrderLine) []*studio.Stock {
	var colours map[string]studio.ID
	for _, c := range b.doc.Colourways {
		if c.ID == line.Colourway {
			colours = c.Slots
		}
	}
	mixes, _ := b.book.Resolve(line.Made(), colours)
	return b.shelf.Finished(studio.GatherKey(line.Made(), mixes))
}
