package demo

import (
	"slices"

	"bractum/core/studio"
)

// suppliers are who sells to Pellowen Yard, and after how many working days they bring it.
func suppliers() []studio.Supplier {
	return []studio.Supplier{
		{ID: ID("Quayside sugar store"), Name: "Quayside sugar store", Days: 2},
		{ID: ID("Sailcloth and wire"), Name: "Sailcloth and wire", Days: 4, CutOff: 15 * 60},
	}
}

// packs are what each material is sold in, by whom, and how much of it is always to be there.
var packs = map[string]struct {
	supplier          string
	pack, keepAtLeast int64
}{
	"Flower paste": {
		supplier:    "Quayside sugar store",
		pack:        1_000_000,
		keepAtLeast: 500_000,
	},
	"Soft sugar paste": {supplier: "Quayside sugar store", pack: 1_000_000, keepAtLeast: 300_000},
	"CMC powder":       {supplier: "Quayside sugar store", pack: 50_000, keepAtLeast: 20_000},
	"Red gel colour": {
		supplier:    "Quayside sugar store",
		pack:        35_000,
		keepAtLeast: 5_000,
	},
	"Yellow gel colour": {supplier: "Quayside sugar store", pack: 35_000, keepAtLeast: 5_000},
	"Blue gel colour":   {supplier: "Quayside sugar store", pack: 35_000, keepAtLeast: 5_000},
	"Green gel colour": {
		supplier:    "Quayside sugar store",
		pack:        35_000,
		keepAtLeast: 5_000,
	},
	"Brown gel colour": {supplier: "Quayside sugar store", pack: 35_000, keepAtLeast: 5_000},
	"Rose dust":        {supplier: "Quayside sugar store", pack: 10_000, keepAtLeast: 2_000},
	"Grey dust": {
		supplier:    "Quayside sugar store",
		pack:        10_000,
		keepAtLeast: 2_000,
	},
	"Green dust":   {supplier: "Quayside sugar store", pack: 10_000, keepAtLeast: 2_000},
	"Maize starch": {supplier: "Quayside sugar store", pack: 500_000, keepAtLeast: 100_000},
	"Icing sugar": {
		supplier:    "Quayside sugar store",
		pack:        1_000_000,
		keepAtLeast: 500_000,
	},
	"Wafer sheet":  {supplier: "Quayside sugar store", pack: 25, keepAtLeast: 5},
	"Sugar pearls": {supplier: "Quayside sugar store", pack: 500, keepAtLeast: 0},
	"18 green wire": {
		supplier:    "Sailcloth and wire",
		pack:        50,
		keepAtLeast: 10,
	},
	"20 green wire": {supplier: "Sailcloth and wire", pack: 50, keepAtLeast: 10},
	"22 green wire": {supplier: "Sailcloth and wire", pack: 50, keepAtLeast: 10},
	"24 white wire": {supplier: "Sailcloth and wire", pack: 50, keepAtLeast: 20},
	"26 white wire": {
		supplier:    "Sailcloth and wire",
		pack:        50,
		keepAtLeast: 20,
	},
	"28 green wire": {supplier: "Sailcloth and wire", pack: 50, keepAtLeast: 20},
	"30 white wire": {supplier: "Sailcloth and wire", pack: 50, keepAtLeast: 10},
	"Half-width green tape": {
		supplier:    "Sailcloth and wire",
		pack:        27_000_000,
		keepAtLeast: 10_000_000,
	},
	"Fine stamens": {supplier: "Sailcloth and wire", pack: 144, keepAtLeast: 20},
	"Long stamens": {supplier: "Sailcloth and wire", pack: 144, keepAtLeast: 20},
	"Foam ball 25 mm": {
		supplier:    "Sailcloth and wire",
		pack:        50,
		keepAtLeast: 10,
	}, "Brush thread, metres": {supplier: "Sailcloth and wire", pack: 100, keepAtLeast: 10},
}

// sold says of materials who sells them, in what packs and for how much, and what they are to who eats them.
func sold(materials []studio.Material) []studio.Material {
	for i := range materials {
		m := &materials[i]
		if p, known := packs[m.Name]; known {
			m.Supplier, m.Pack, m.KeepAtLeast = ID(p.supplier), p.pack, p.keepAtLeast
		}
		m.Price, m.Allergens, m.Label = prices[m.Name], allergens[m.Name], labels[m.Name]
		m.Food = studio.IsFood
		if m.Wire != nil || m.Holder != nil || m.Box != nil || slices.Contains(inedible, m.Name) {
			m.Food = studio.NotFood
		}
	}
	return materials
}

// offcuts are what was kept of wires.
func offcuts() []studio.Offcut {
	return []studio.Offcut{
		{Material: ID("26 white wire"), Length: 120_000, Number: 9},
		{Material: ID("26 white wire"), Length: 75_000, Number: 14},
		{Material: ID("28 green wire"), Length: 150_000, Number: 6},
	}
}
