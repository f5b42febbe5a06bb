package demo

import "bractum/core/studio"

// carriers are what flowers go into a cake with, and leave the yard in.
func carriers() []studio.Material {
	holder := func(name string, deep studio.Micrometres, lent bool, pieces int64) studio.Material {
		return studio.Material{ID: ID(name), Name: name, Unit: studio.UnitPieces, OnHand: pieces,
			Holder: &studio.Holder{Deep: deep, ComesBack: lent}}
	}
	box := func(name string, length, width, height studio.Micrometres, pieces int64) studio.Material {
		return studio.Material{ID: ID(name), Name: name, Unit: studio.UnitPieces, OnHand: pieces,
			Box: &studio.Box{Length: length, Width: width, Height: height}}
	}
	return []studio.Material{
		holder("Short pick, 45 mm", 45_000, false, 60), holder("Long pick, 80 mm", 80_000, false, 24),
		holder("Steel cup, lent", 60_000, true, 6),
		box("Box for one spray", 340_000, 160_000, 140_000, 12), box("Tray box", 300_000, 300_000, 120_000, 8),
	}
}

// onCakes lays the flowers of two orders where their clients want them.
func onCakes(orders []studio.Order) []studio.Order {
	round := func(across, height studio.Micrometres) studio.Tier {
		return studio.Tier{Shape: studio.TierRound, Across: across, Height: height}
	}
	place := func(key, line string, quantity int64, p studio.Placing) studio.Placing {
		p.ID, p.Line, p.Quantity = ID("placing "+key), ID(line), quantity
		return p
	}
	for i := range orders {
		o := &orders[i]
		switch o.Name {
		case "Ferry crew":
			o.Client, o.Goes = &studio.Client{Name: "The purser", Contact: "at the ferry office"}, "The ferry's saloon"
			o.Eaten = studio.MustWallTime("2027-09-24T20:00")
			o.Cakes = []studio.Cake{{ID: ID("cake ferry"), Name: "Farewell cake",
				Tiers: []studio.Tier{round(250_000, 110_000), round(180_000, 100_000)},
				Placings: []studio.Placing{
					place("ferry top", "ferry Magnolia", 1, studio.Placing{On: studio.OnTop, Tier: 1, Points: 40,
						Length: 80_000, Breadth: 80_000, Depth: 35_000, Holder: ID("Short pick, 45 mm")}),
					place("ferry foot", "ferry Magnolia", 3, studio.Placing{On: studio.OnTop, At: 320, Out: 108_000,
						Points: 300, Length: 85_000, Breadth: 80_000, Depth: 35_000, Holder: ID("Short pick, 45 mm")}),
					place("ferry leaves", "ferry Eucalyptus sprig", 6, studio.Placing{On: studio.LooseKit,
						Note: "between the magnolias"}),
				}}}
		case "Lighthouse":
			o.Client, o.Goes = &studio.Client{Name: "The keepers"}, "The lantern room, by the north stair"
			o.Eaten = studio.MustWallTime("2027-09-30T15:00")
			o.Cakes = []studio.Cake{{ID: ID("cake lighthouse"), Name: "Tower of three",
				Tiers: []studio.Tier{round(300_000, 120_000), round(220_000, 110_000), round(150_000, 100_000)},
				Placings: []studio.Placing{
					place("lighthouse crown", "lighthouse Ranunculus", 3, studio.Placing{On: studio.OnTop, Tier: 2,
						Points: 20, Length: 60_000, Breadth: 60_000, Depth: 40_000, Holder: ID("Steel cup, lent")}),
					place("lighthouse side", "lighthouse Ranunculus", 2, studio.Placing{On: studio.AtSide, Tier: 1,
						At: 35, Out: 40_000, Points: 15, Length: 60_000, Breadth: 60_000, Depth: 40_000,
						Holder: ID("Short pick, 45 mm")}),
					place("lighthouse trail", "lighthouse Waxflower stem", 8, studio.Placing{On: studio.OnTop, At: 330,
						Out: 125_000, Points: 260, Length: 70_000, Breadth: 40_000, Depth: 30_000,
						Holder: ID("Short pick, 45 mm")}),
					place("lighthouse leaves", "lighthouse Eucalyptus sprig", 6, studio.Placing{On: studio.LooseKit,
						Note: "round the crown"}),
				}}}
		}
	}
	return orders
}
