package demo

import (
	"bractum/core/studio"
	"bractum/core/workshop"
)

// Starter is what a studio of one's own begins from: how things dry, and what is usually bought, none of it in
// the cupboard yet; with the book, all flowers of the demo, and with them the places and tools that they ask for.
// Nobody works there, nothing is promised, and the air is that of an ordinary room.
func Starter(book bool) *studio.Document {
	d := Document()
	d.Name, d.People, d.Orders, d.Shelf, d.Offcuts, d.Suppliers = "", nil, nil, nil, nil, nil
	d.Settings.Manner = studio.Manner{}
	d.Sensors, d.Surroundings, d.Climate = nil, nil, ordinaryAir()
	for i := range d.Materials {
		m := &d.Materials[i]
		m.OnHand, m.Supplier, m.KeepAtLeast, m.Price = 0, "", 0, 0
	}
	for i := range d.Places {
		d.Places[i].In = ""
	}
	for i := range d.Recipes {
		d.Recipes[i].KeepInStock = 0
	}
	if book {
		return d
	}
	var mixes []studio.Recipe
	for _, r := range d.Recipes {
		if r.Kind == studio.KindMix {
			mixes = append(mixes, r)
		}
	}
	d.Recipes, d.Machines, d.Families, d.Tools, d.Places = mixes, nil, nil, nil, nil
	needed := d.Materials
	d.Materials = nil
	for _, m := range needed {
		if m.Wire != nil || len(workshop.Uses(d, m.ID)) > 0 {
			d.Materials = append(d.Materials, m)
		}
	}
	return d
}

// ordinaryAir is 20 °C and half as damp as could be, at every hour.
func ordinaryAir() []studio.Air {
	air := make([]studio.Air, 24)
	for hour := range air {
		air[hour] = studio.Air{TenthsCelsius: 200, HumidityPerMille: 500}
	}
	return air
}
