package scene

import (
	"slices"

	"bractum/core/studio"
)

// order is an open order that is written to; nil where there is none.
func (m *maker) order(id studio.ID) *studio.Order {
	o := one(&m.doc.Orders, id, func(o *studio.Order) studio.ID { return o.ID })
	if o == nil || o.State != studio.OrderOpen && o.State != studio.OrderQuote {
		return nil
	}
	o.Lines = slices.Clone(o.Lines)
	return o
}

// line is a line of an open order that is written to.
func (m *maker) line(c If) (*studio.Order, *studio.OrderLine) {
	if o := m.order(c.Of); o != nil {
		for i := range o.Lines {
			if o.Lines[i].ID == c.Line {
				return o, &o.Lines[i]
			}
		}
	}
	return nil, nil
}

// asLong is what is wrong with an order as it has become.
func (m *maker) asLong(o *studio.Order) studio.Said {
	for _, p := range m.doc.CheckOrder(*o) {
		return studio.Say("%s: %s", p.Place, p.Words())
	}
	return fine
}

func (m *maker) moved(c If) studio.Said {
	o := m.order(c.Of)
	if o == nil {
		return gone
	}
	o.Leaves = c.Leaves
	return m.asLong(o)
}

func (m *maker) grown(c If) studio.Said {
	o, l := m.line(c)
	switch {
	case l == nil:
		return gone
	case c.Number < l.Gone:
		return studio.Say("%d of it have left already", l.Gone)
	case c.Number == 0:
		o.Lines = slices.DeleteFunc(o.Lines, func(l studio.OrderLine) bool { return l.ID == c.Line })
	default:
		l.Quantity = c.Number
	}
	return m.asLong(o)
}

func (m *maker) recolour(c If) studio.Said {
	o, l := m.line(c)
	if l == nil {
		return gone
	}
	l.Colourway = c.Colourway
	return m.asLong(o)
}

func (m *maker) otherwise(c If) studio.Said {
	o, l := m.line(c)
	if l == nil {
		return gone
	}
	l.Variant = c.Variant
	return m.asLong(o)
}

func (m *maker) cancelled(c If) studio.Said {
	o := m.order(c.Of)
	if o == nil {
		return gone
	}
	o.State = studio.OrderCancelled
	return m.freed(c)
}

// spares has spares of an order be reckoned for how often nothing is to be short, whatever making more costs.
func (m *maker) spares(c If) studio.Said {
	o := m.order(c.Of)
	if o == nil {
		return gone
	}
	for i := range o.Lines {
		o.Lines[i].ServiceLevel = studio.PerMille(c.Number)
	}
	return m.asLong(o)
}

// freed lets go what is kept for an order.
func (m *maker) freed(c If) studio.Said {
	without := func(claims []studio.Claim) []studio.Claim {
		return slices.DeleteFunc(slices.Clone(claims), func(k studio.Claim) bool { return k.Order == c.Of })
	}
	m.doc.Shelf = slices.Clone(m.doc.Shelf)
	for i := range m.doc.Shelf {
		m.doc.Shelf[i].Reserved = without(m.doc.Shelf[i].Reserved)
	}
	m.doc.Work = slices.Clone(m.doc.Work)
	for i := range m.doc.Work {
		m.doc.Work[i].Reserved = without(m.doc.Work[i].Reserved)
	}
	return fine
}

// RestOf is the id of the part of an order that leaves by itself.
func RestOf(order studio.ID) studio.ID { return "rest of " + order }

// parted has some flowers of a line leave by themselves, as an order of its own.
func (m *maker) parted(c If) studio.Said {
	o, l := m.line(c)
	switch {
	case l == nil:
		return gone
	case c.Number <= 0 || c.Number > l.Owed():
		return studio.Say("%d of it cannot leave by themselves; from 1 to %d would be right", c.Number, l.Owed())
	}
	rest := *o
	rest.ID, rest.Leaves, rest.Lines = RestOf(o.ID), c.Leaves, []studio.OrderLine{*l}
	rest.Lines[0].ID, rest.Lines[0].Quantity, rest.Lines[0].Gone = RestOf(l.ID), c.Number, 0
	if l.Quantity -= c.Number; l.Quantity == 0 {
		o.Lines = slices.DeleteFunc(o.Lines, func(l studio.OrderLine) bool { return l.ID == c.Line })
	}
	if len(o.Lines) == 0 {
		return studio.Say("nothing of it would be left; move it instead")
	}
	m.doc.Orders = append(m.doc.Orders, rest)
	return m.asLong(&rest)
}
