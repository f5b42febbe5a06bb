// Package demo is Pellowen Yard, the invented studio of the demo, the tests and
// the documentation: a sail loft in a harbour town on Monday 2027-09-20, 08:30.
package demo

import (
	"crypto/sha256"
	"encoding/hex"
	"math"
	"time"

	"bractum/core/studio"
)

var epoch = time.Date(2027, 8, 30, 0, 0, 0, 0, time.UTC)

// DaysMeasured is for how many days before its now the air of the demo was measured.
const DaysMeasured = 20

// Zone is where Pellowen Yard is.
const Zone = "Europe/Dublin"

// ID gives the thing of a name its id: a UUIDv7 that is the same every time.
func ID(name string) studio.ID {
	sum := sha256.Sum256([]byte("pellowen yard: " + name))
	b := sum[:16]
	stamp := uint64(epoch.UnixMilli())
	for i := range 6 {
		b[i] = byte(stamp >> (40 - 8*i))
	}
	b[6], b[8] = b[6]&0x0f|0x70, b[8]&0x3f|0x80
	h := hex.EncodeToString(b)
	return studio.ID(h[:8] + "-" + h[8:12] + "-" + h[12:16] + "-" + h[16:20] + "-" + h[20:])
}

// Document is the demo studio at its now.
func Document() *studio.Document {
	calendar, err := studio.NewCalendar(epoch, Zone)
	if err != nil {
		panic(err) // the zone is a constant and the zone data is compiled in
	}
	at := func(wall string) studio.Minute { return calendar.Minute(studio.MustWallTime(wall)) }
	settings := studio.DefaultSettings()
	settings.Measures = measures()
	settings.Manner.Money = "EUR"
	return &studio.Document{
		Format: studio.Format, Version: studio.Version, Name: "Pellowen Yard", Epoch: epoch, Zone: Zone, Now: at("2027-09-20T08:30"),
		Settings: settings, Climate: harbourAir(), Surroundings: surroundings(), Sensors: sensors(), Suppliers: suppliers(), Materials: sold(append(materials(), carriers()...)), DryingClasses: classes(), Places: places(),
		Methods: methods(), Tools: tools(), Machines: machines(), Families: families(), People: people(), Recipes: forLearners(append(mixes(), flowers()...)), Colourways: colourways(), Orders: onCakes(orders()), Shelf: shelf(at), Offcuts: offcuts(), Work: []studio.WorkLot{},
	}
}

// harbourAir is damp sea air: 58 to 72 % and 17 to 22 °C, driest in mid-afternoon.
func harbourAir() []studio.Air {
	air := make([]studio.Air, 24)
	for hour := range air {
		day := math.Cos(2 * math.Pi * float64(hour-15) / 24)
		air[hour] = studio.Air{
			TenthsCelsius:    int64(math.Round(195 + 25*day)),
			HumidityPerMille: studio.PerMille(math.Round(650 - 70*day)),
		}
	}
	return air
}

// surroundings are a cupboard with a heater and salts, and tins with lids: shut to the damp.
func surroundings() []studio.Surroundings {
	air := make([]studio.Air, 24)
	for hour := range air {
		air[hour] = studio.Air{TenthsCelsius: 235, HumidityPerMille: 450}
	}
	return []studio.Surroundings{
		{ID: ID("Dry cupboard"), Name: "Dry cupboard", Hours: air, Closed: true},
		{ID: ID("Lidded tins"), Name: "Lidded tins", Hours: harbourAir(), Closed: true},
	}
}

func sensors() []studio.Sensor {
	return []studio.Sensor{{Device: "dry-cupboard", In: ID("Dry cupboard")}, {Device: "loft"}}
}

func materials() []studio.Material {
	weighed := func(name string, grams int64) studio.Material {
		return studio.Material{ID: ID(name), Name: name, Unit: studio.UnitMilligrams, OnHand: grams * 1000}
	}
	bought := func(name, form string, pieces int64) studio.Material {
		return studio.Material{ID: ID(name), Name: name, Unit: studio.UnitPieces, OnHand: pieces, Form: form}
	}
	wire := func(name string, gauge studio.Gauge, cover string, diameter studio.Micrometres, onHand int64) studio.Material {
		return studio.Material{ID: ID(name), Name: name, Unit: studio.UnitPieces, OnHand: onHand,
			Wire: &studio.Wire{Gauge: gauge, Cover: cover, Length: 360_000, Diameter: diameter}}
	}
	return []studio.Material{
		weighed("Flower paste", 3200), weighed("Soft sugar paste", 1800), weighed("CMC powder", 90),
		weighed(
			"Red gel colour",
			4,
		), weighed("Yellow gel colour", 38), weighed("Blue gel colour", 25), weighed("Green gel colour", 30), weighed("Brown gel colour", 12),
		weighed("Rose dust", 22), weighed("Grey dust", 18), weighed("Green dust", 26), weighed("Maize starch", 400),
		wire("18 green wire", 18, "green paper", 1220, 60), wire("20 green wire", 20, "green paper", 910, 55),
		wire(
			"24 white wire",
			24,
			"white paper",
			560,
			40,
		), wire("26 white wire", 26, "white paper", 460, 200), wire("28 green wire", 28, "green paper", 380, 140),
		{
			ID:     ID("Half-width green tape"),
			Name:   "Half-width green tape",
			Unit:   studio.UnitMicrometres,
			OnHand: 54_000_000,
		},
		{ID: ID("Fine stamens"), Name: "Fine stamens", Unit: studio.UnitPieces, OnHand: 420, Form: "stamens"},
		wire("22 green wire", 22, "green paper", 710, 80), wire("30 white wire", 30, "white paper", 320, 160),
		weighed(
			"Maize grits",
			300,
		), weighed("Yolk dust", 14), weighed("Icing sugar", 1500), weighed("Dried egg white", 120), weighed("Boiled water", 2000),
		weighed("Lace powder", 250), weighed("Wafer scraps", 60), weighed("CMC glue", 80),
		bought(
			"Long stamens",
			"stamens",
			160,
		), bought("Wafer sheet", "", 24), bought("Foam ball 25 mm", "foam", 30), bought("Paper strips", "", 400),
		bought(
			"Film squares",
			"",
			300,
		), bought("Foil square", "", 120), bought("Brush thread, metres", "thread", 90), bought("Sugar pearls", "pearl", 500),
	}
}

func classes() []studio.DryingClass {
	return []studio.DryingClass{
		{
			ID:             ID("thin petal"),
			Name:           "Thin petal paste",
			FirmMinutes:    30,
			StiffMinutes:   150,
			DryMinutes:     300,
			Thickness:      800,
			Spread:         200,
			StallHumidity:  800,
			SoftensMinutes: 720,
		},
		{
			ID:            ID("solid core"),
			Name:          "Solid core paste",
			FirmMinutes:   150,
			StiffMinutes:  480,
			DryMinutes:    720,
			Thickness:     20_000,
			Spread:        200,
			StallHumidity: 800,
		},
		{
			ID:             ID("built flower"),
			Name:           "Built flower, glued",
			FirmMinutes:    20,
			StiffMinutes:   240,
			DryMinutes:     420,
			Thickness:      3_000,
			Spread:         250,
			StallHumidity:  780,
			SoftensMinutes: 480,
		},
	}
}

func places() []studio.Place {
	place := func(name string, slots int64) studio.Place {
		return studio.Place{ID: ID(name), Name: name, Slots: slots}
	}
	half := place("Half-sphere mould 90 mm", 12)
	half.Size = 90_000
	sleeve := place("Soft sleeve", 10)
	sleeve.KeepsMinutes = 240
	foil := place("Foil cup", 24)
	foil.MadeBy = ID("Foil cup, shaped")
	cupboard := place("Cupboard shelf", 4)
	cupboard.In = ID("Dry cupboard")
	return []studio.Place{place("Spoon tray", 8), place("Half-sphere mould 60 mm", 36), place("Wavy foam", 6),
		place(
			"Foam block",
			4,
		), place("Hanging rail", 2), half, place("Cone former", 30), sleeve, place("Lace mat", 6), foil, place("Drying rack", 10), cupboard}
}

func methods() []studio.Method {
	return []studio.Method{
		{ID: ID("Hanging"), Name: "Hanging", Factor: 950},
		{ID: ID("On a rack"), Name: "On a rack", Factor: 850},
		{ID: ID("Moving air"), Name: "Moving air", Factor: 650},
	}
}

func tools() []studio.Tool {
	cutter := func(name string, size studio.Micrometres) studio.Tool {
		return studio.Tool{ID: ID(name), Name: name, Number: 1, Size: size}
	}
	large := studio.Tool{
		ID:       ID("Large two-sided veiner"),
		Name:     "Large two-sided veiner",
		Number:   1,
		StandIns: []studio.ID{ID("Ribbed board")},
	}
	return []studio.Tool{
		large,
		{ID: ID("Ribbed board"), Name: "Ribbed board", Number: 2},
		{ID: ID("Steamer"), Name: "Steamer", Number: 1},
		{ID: ID("Paper punch"), Name: "Paper punch", Number: 1},
		cutter(
			"Drop cutter 28 mm",
			28_000,
		),
		cutter("Drop cutter 36 mm", 36_000),
		cutter("Drop cutter 46 mm", 46_000),
		cutter("Drop cutter 58 mm", 58_000),
		cutter("Drop cutter 72 mm", 72_000),
	}
}

func machines() []studio.Machine {
	warm := []studio.MachineDrying{
		{Class: ID("thin petal"), Minutes: 60},
		{Class: ID("solid core"), Minutes: 240},
		{Class: ID("built flower"), Minutes: 150},
	}
	return []studio.Machine{
		{ID: ID("Dehydrator"), Name: "Dehydrator", Slots: 6, Dries: warm, Warm: 450,
			Cautions: []string{"Keep the vents free; nothing of paper near the fan."}},
		{ID: ID("Oven"), Name: "Oven", Slots: 2, Warm: 900},
	}
}

func families() []studio.Family {
	return []studio.Family{
		{
			ID:          ID("Brushes"),
			Name:        "Brushes and bench",
			FullMinutes: 8,
			Changes: []studio.Change{{From: ID("Pebble dust"), To: ID("Ember dust"), Minutes: 2},
				{From: ID("Ember dust"), To: ID("Pebble dust"), Minutes: 10}},
		},
	}
}

func people() []studio.Person {
	breaks := []studio.BreakTime{{From: 10*60 + 30, To: 10*60 + 45}, {From: 13 * 60, To: 13*60 + 45}}
	person := func(name string, days []studio.Weekday, from, to studio.TimeOfDay, away []studio.Date, skills ...studio.Skill) studio.Person {
		p := studio.Person{ID: ID(name), Name: name, Skills: skills, Breaks: breaks, Away: away, Rate: rates[name]}
		for _, day := range days {
			p.Hours = append(p.Hours, studio.DayHours{Day: day, From: from, To: to})
		}
		return p
	}
	week := []studio.Weekday{"monday", "tuesday", "wednesday", "thursday", "friday", "saturday"}
	return []studio.Person{
		person(
			"Odalys",
			week[:4],
			8*60,
			17*60,
			nil,
			studio.Skill{Skill: "shaping", Pace: 100},
			studio.Skill{Skill: "wiring", Pace: 100},
			studio.Skill{
				Skill: "dusting",
				Pace:  100,
			},
			studio.Skill{Skill: "assembly", Pace: 110},
			studio.Skill{Skill: "mixing", Pace: 110},
		),
		person(
			"Teun",
			week[:5],
			8*60,
			16*60+30,
			nil,
			studio.Skill{Skill: "shaping", Pace: 125},
			studio.Skill{Skill: "wiring", Pace: 125},
		),
		person(
			"Maren",
			week[:5],
			9*60,
			17*60+30,
			[]studio.Date{studio.MustDate("2027-09-24")},
			studio.Skill{Skill: "dusting", Pace: 115},
			studio.Skill{Skill: "assembly", Pace: 110},
		),
		person(
			"Ishaan",
			week[1:6],
			8*60+30,
			16*60+30,
			nil,
			studio.Skill{Skill: "shaping", Pace: 95},
			studio.Skill{Skill: "mixing", Pace: 100},
			studio.Skill{Skill: "wiring", Pace: 70},
		),
		person(
			"Brisa",
			week[3:6],
			9*60,
			17*60,
			nil,
			studio.Skill{Skill: "assembly", Pace: 100},
			studio.Skill{Skill: "dusting", Pace: 90},
		),
	}
}

func colourways() []studio.Colourway {
	return []studio.Colourway{
		{
			ID:   ID("Signal"),
			Name: "Signal",
			Slots: map[string]studio.ID{
				"petal":       ID("Signal red"),
				"inner petal": ID("Signal deep red"),
				"dust":        ID("Ember dust"),
			},
		},
		{
			ID:   ID("Oyster"),
			Name: "Oyster",
			Slots: map[string]studio.ID{
				"petal":       ID("Oyster ivory"),
				"inner petal": ID("Oyster shell"),
				"dust":        ID("Pebble dust"),
			},
		},
		{
			ID:   ID("Morning ferry"),
			Name: "Morning ferry",
			Slots: map[string]studio.ID{
				"petal":       ID("Ferry blush"),
				"inner petal": ID("Ferry blush deep"),
				"dust":        ID("Ember dust"),
			},
		},
		{
			ID:   ID("Tarred rope"),
			Name: "Tarred rope",
			Slots: map[string]studio.ID{
				"petal":       ID("Rope plum"),
				"inner petal": ID("Rope charcoal"),
				"dust":        ID("Pebble dust"),
			},
		},
		{
			ID:   ID("Buoy"),
			Name: "Buoy",
			Slots: map[string]studio.ID{
				"petal":       ID("Buoy apricot"),
				"inner petal": ID("Buoy orange"),
				"dust":        ID("Ember dust"),
			},
		},
		{
			ID:   ID("Kelp"),
			Name: "Kelp",
			Slots: map[string]studio.ID{
				"petal":       ID("Kelp pale"),
				"inner petal": ID("Kelp green"),
				"dust":        ID("Leaf dust"),
			},
		},
	}
}

func orders() []studio.Order {
	line := func(order, recipe, colourway string, quantity int64) studio.OrderLine {
		return studio.OrderLine{
			ID:           ID(order + " " + recipe),
			Recipe:       ID(recipe),
			Colourway:    ID(colourway),
			Quantity:     quantity,
			ServiceLevel: 950,
		}
	}
	order := func(name, occasion, leaves, leaving string, importance int64, allergies []string, lines ...studio.OrderLine) studio.Order {
		return studio.Order{
			ID:         ID("order " + name),
			Name:       name,
			Occasion:   occasion,
			Leaves:     studio.MustWallTime(leaves),
			Leaving:    leaving,
			Importance: importance,
			Allergies:  allergies,
			State:      studio.OrderOpen,
			Lines:      lines,
		}
	}
	return []studio.Order{
		order("Ferry crew", "A ferry crew's farewell", "2027-09-24T16:00", "collected", 10, []string{"egg"},
			line("ferry", "Magnolia", "Oyster", 4), line("ferry", "Eucalyptus sprig", "Oyster", 6)),
		order(
			"Lighthouse",
			"A lighthouse's bicentenary",
			"2027-09-29T11:00",
			"delivered",
			30,
			[]string{},
			line(
				"lighthouse",
				"Ranunculus",
				"Signal",
				5,
			),
			line("lighthouse", "Waxflower stem", "Oyster", 8),
			line("lighthouse", "Eucalyptus sprig", "Signal", 6),
		),
		order("Choir", "A choir's anniversary", "2027-10-06T10:00", "collected", 10, []string{},
			line("choir", "Ranunculus", "Morning ferry", 9), line("choir", "Waxflower stem", "Morning ferry", 12)),
		order(
			"Library",
			"A library reopening",
			"2027-10-08T09:30",
			"delivered",
			20,
			[]string{},
			line(
				"library",
				"Magnolia",
				"Oyster",
				6,
			),
			line("library", "Waxflower stem", "Oyster", 10),
			line("library", "Eucalyptus sprig", "Oyster", 10),
		),
	}
}

// shelf is what lies dry from quiet hours: white cores and a few leaves.
func shelf(at func(string) studio.Minute) []studio.ShelfLot {
	old := at("2027-09-22T12:00")
	return []studio.ShelfLot{
		{
			ID:      ID("shelf cores"),
			Recipe:  ID("Ranunculus core"),
			Mixes:   map[string]studio.ID{"core": ID("Centre white")},
			Amount:  6,
			Quality: studio.Good,
			MadeOn:  at("2027-09-09T15:00"),
			Place:   "Tin by the window",
			In:      ID("Lidded tins"),
		},
		{
			ID:      ID("shelf cones"),
			Recipe:  ID("Magnolia cone"),
			Mixes:   map[string]studio.ID{"core": ID("Centre white")},
			Amount:  5,
			Quality: studio.Good,
			MadeOn:  at("2027-09-13T11:00"),
		},
		{
			ID:      ID("shelf leaves"),
			Recipe:  ID("Eucalyptus leaf"),
			Mixes:   map[string]studio.ID{"leaf": ID("Slate leaf"), "leaf dust": ID("Leaf dust")},
			Amount:  20,
			Quality: studio.Good,
			MadeOn:  at("2027-09-15T16:00"),
			Place:   "Leaf drawer",
			In:      ID("Lidded tins"),
		},
		{
			ID:      ID("shelf white paste"),
			Recipe:  ID("Centre white"),
			Mixes:   map[string]studio.ID{},
			Amount:  40_000,
			Quality: studio.Good,
			MadeOn:  at("2027-09-08T10:00"),
			UseBy:   &old,
			Place:   "Cool shelf",
			Kept:    studio.Wrapped,
		},
		{
			ID:      ID("shelf red blossoms"),
			Recipe:  ID("Waxflower blossom"),
			Mixes:   map[string]studio.ID{"petal": ID("Signal red")},
			Amount:  34,
			Quality: studio.Good,
			MadeOn:  at("2027-09-01T15:00"),
			Place:   "Leaf drawer",
			In:      ID("Lidded tins"),
		},
		{
			ID:      ID("shelf chipped blossoms"),
			Recipe:  ID("Waxflower blossom"),
			Mixes:   map[string]studio.ID{"petal": ID("Signal red")},
			Amount:  9,
			Quality: studio.Second,
			MadeOn:  at("2027-09-01T15:00"),
			Place:   "Leaf drawer",
		},
		{
			ID:      ID("shelf undusted petals"),
			Recipe:  ID("Magnolia outer petal"),
			Mixes:   map[string]studio.ID{"petal": ID("Ferry blush")},
			Reached: "set",
			Amount:  14,
			Quality: studio.Good,
			MadeOn:  at("2027-09-14T11:00"),
			Place:   "Tin by the window",
			In:      ID("Lidded tins"),
		},
	}
}
