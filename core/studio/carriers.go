package studio

import (
	"cmp"
	"slices"
	"strings"
)

// Carriers work from Monday to Friday, take an order until five in the afternoon, if a supplier says nothing
// else, and bring it at ten in the morning.
const (
	lastOrder = TimeOfDay(17 * 60)
	arrival   = TimeOfDay(10 * 60)
)

// Arrival is when what is ordered at a minute is there: an order after the cut-off, or at the weekend, counts for
// the next working day, and comes on the first day at or after its days on which they bring something; never before
// it was ordered.
func (s *Supplier) Arrival(c Calendar, ordered Minute) Minute {
	day := c.Date(ordered)
	if ordered > c.At(day, s.cutOff()) {
		day = day.Next()
	}
	for weekend(day) {
		day = day.Next()
	}
	for range s.Days {
		for day = day.Next(); weekend(day); {
			day = day.Next()
		}
	}
	for !s.comes(day) {
		day = day.Next()
	}
	return max(ordered, c.At(day, arrival))
}

// OrderBy is the last minute at which to order so that it is there when it is needed.
func (s *Supplier) OrderBy(c Calendar, needed Minute) Minute {
	for back := Minute(0); ; back += 1440 {
		last := min(needed, c.At(c.Date(needed-back), s.cutOff()))
		if !weekend(c.Date(last)) && s.Arrival(c, last) <= needed {
			return last
		}
	}
}

func (s *Supplier) cutOff() TimeOfDay { return cmp.Or(s.CutOff, lastOrder) }

func (s *Supplier) comes(day Date) bool {
	if len(s.Comes) == 0 {
		return !weekend(day)
	}
	return slices.Contains(s.Comes, day.Weekday())
}

func weekend(d Date) bool { return d.Weekday() == "saturday" || d.Weekday() == "sunday" }

// Ordering is the id of the gate that opens when a material would be there that is ordered now.
func Ordering(material ID) ID { return "order/" + material }

// Ordered is the material of such a gate; false of any other.
func Ordered(gate ID) (material ID, ok bool) {
	rest, ok := strings.CutPrefix(string(gate), "order/")
	return ID(rest), ok
}

// Outside are the gates of a document, the approvals that its orders wait for, and of each material that a supplier
// sells one for what is not on its way: it opens when that would be there if it were ordered now.
func (d *Document) Outside(c Calendar) []Gate {
	all := append(slices.Clone(d.Gates), d.Approvals(c)...)
	for i := range d.Materials {
		m := &d.Materials[i]
		s := slices.IndexFunc(d.Suppliers, func(s Supplier) bool { return s.ID == m.Supplier })
		if s >= 0 {
			opens := d.Suppliers[s].Arrival(c, d.Now)
			all = append(all, Gate{ID: Ordering(m.ID), Name: m.Name, Opens: &opens, Material: m.ID})
		}
	}
	return all
}
