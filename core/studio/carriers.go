package studio

import (
	"slices"
	"strings"
)

// Carriers work from Monday to Friday, take an order until five in the afternoon, and
// bring it at ten in the morning.
const (
	lastOrder = TimeOfDay(17 * 60)
	arrival   = TimeOfDay(10 * 60)
)

// Arrival is when what is ordered at a minute is there, from a supplier who takes so many
// days; an order after five, or at the weekend, counts for the next working day.
func Arrival(c Calendar, days int64, ordered Minute) Minute {
	day := c.Date(ordered)
	if ordered > c.At(day, lastOrder) {
		day = day.Next()
	}
	for weekend(day) {
		day = day.Next()
	}
	for range days {
		for day = day.Next(); weekend(day); {
			day = day.Next()
		}
	}
	return c.At(day, arrival)
}

// OrderBy is the last minute at which to order so that it is there when it is needed.
func OrderBy(c Calendar, days int64, needed Minute) Minute {
	for back := Minute(0); ; back += 1440 {
		last := c.At(c.Date(needed-back), lastOrder)
		if !weekend(c.Date(last)) && Arrival(c, days, last) <= needed {
			return last
		}
	}
}

func weekend(d Date) bool { return d.Weekday() == "saturday" || d.Weekday() == "sunday" }

// Ordering is the id of the gate that opens when a material would be there that is ordered now.
func Ordering(material ID) ID { return "order/" + material }

// Ordered is the material of such a gate; false of any other.
func Ordered(gate ID) (material ID, ok bool) {
	rest, ok := strings.CutPrefix(string(gate), "order/")
	return ID(rest), ok
}

// Outside are the gates of a document, and of each material that a supplier sells one for what is
// not on its way: it opens when that would be there if it were ordered now.
func (d *Document) Outside(c Calendar) []Gate {
	all := slices.Clone(d.Gates)
	for i := range d.Materials {
		m := &d.Materials[i]
		s := slices.IndexFunc(d.Suppliers, func(s Supplier) bool { return s.ID == m.Supplier })
		if s >= 0 {
			opens := Arrival(c, d.Suppliers[s].Days, d.Now)
			all = append(all, Gate{ID: Ordering(m.ID), Name: m.Name, Opens: &opens, Material: m.ID})
		}
	}
	return all
}
