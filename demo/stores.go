package demo

import "bractum/core/studio"

// suppliers are who sells to Pellowen Yard, and after how many working days they bring it.
func suppliers() []studio.Supplier {
	return []studio.Supplier{
		{ID: ID("Quayside sugar store"), Name: "Quayside sugar store", Days: 2},
		{ID: ID("Sailcloth and wire"), Name: "Sailcloth and wire", Days: 4},
	}
}

// packs are what each material is sold in, by whom, and how much of it is always to be there.
var packs = map[string]struct {
	supplier          string
	pack, keepAtLeast int64
}{
	"Flower paste": {
		"Quayside sugar store",
		1_000_000,
		500_000,
	}, "Soft sugar paste": {"Quayside sugar store", 1_000_000, 300_000}, "CMC powder": {"Quayside sugar store", 50_000, 20_000},
	"Red gel colour": {
		"Quayside sugar store",
		35_000,
		5_000,
	}, "Yellow gel colour": {"Quayside sugar store", 35_000, 5_000}, "Blue gel colour": {"Quayside sugar store", 35_000, 5_000},
	"Green gel colour": {
		"Quayside sugar store",
		35_000,
		5_000,
	}, "Brown gel colour": {"Quayside sugar store", 35_000, 5_000}, "Rose dust": {"Quayside sugar store", 10_000, 2_000},
	"Grey dust": {
		"Quayside sugar store",
		10_000,
		2_000,
	}, "Green dust": {"Quayside sugar store", 10_000, 2_000}, "Maize starch": {"Quayside sugar store", 500_000, 100_000},
	"Icing sugar": {
		"Quayside sugar store",
		1_000_000,
		500_000,
	}, "Wafer sheet": {"Quayside sugar store", 25, 5}, "Sugar pearls": {"Quayside sugar store", 500, 0},
	"18 green wire": {
		"Sailcloth and wire",
		50,
		10,
	}, "20 green wire": {"Sailcloth and wire", 50, 10}, "22 green wire": {"Sailcloth and wire", 50, 10}, "24 white wire": {"Sailcloth and wire", 50, 20},
	"26 white wire": {
		"Sailcloth and wire",
		50,
		20,
	}, "28 green wire": {"Sailcloth and wire", 50, 20}, "30 white wire": {"Sailcloth and wire", 50, 10},
	"Half-width green tape": {
		"Sailcloth and wire",
		27_000_000,
		10_000_000,
	}, "Fine stamens": {"Sailcloth and wire", 144, 20}, "Long stamens": {"Sailcloth and wire", 144, 20},
	"Foam ball 25 mm": {"Sailcloth and wire", 50, 10}, "Brush thread, metres": {"Sailcloth and wire", 100, 10},
}

// sold says of materials who sells them, and in what packs.
func sold(materials []studio.Material) []studio.Material {
	for i := range materials {
		m := &materials[i]
		if p, known := packs[m.Name]; known {
			m.Supplier, m.Pack, m.KeepAtLeast = ID(p.supplier), p.pack, p.keepAtLeast
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
