package demo

import "bractum/core/studio"

// prices are what a pack costs, in cents, or one of the unit of what comes in none.
var prices = map[string]studio.Money{
	"Flower paste": 1690, "Soft sugar paste": 590, "CMC powder": 640, "Red gel colour": 450,
	"Yellow gel colour": 450, "Blue gel colour": 450, "Green gel colour": 450, "Brown gel colour": 450,
	"Rose dust": 520, "Grey dust": 520, "Green dust": 520, "Maize starch": 180, "Icing sugar": 210,
	"Wafer sheet": 780, "Sugar pearls": 390, "18 green wire": 310, "20 green wire": 290, "22 green wire": 280,
	"24 white wire": 270, "26 white wire": 270, "28 green wire": 260, "30 white wire": 320,
	"Half-width green tape": 240, "Fine stamens": 350, "Long stamens": 380, "Foam ball 25 mm": 420,
	"Brush thread, metres": 290,
}

// inedible is what holds a flower and has to come off the cake again.
var inedible = []string{"Fine stamens", "Long stamens", "Foam ball 25 mm", "Brush thread, metres",
	"Half-width green tape",
	"Paper strips", "Film squares", "Foil square"}

// allergens are by what some must not eat.
var allergens = map[string][]string{"Dried egg white": {"egg"}, "Maize starch": {"maize"}, "Maize grits": {"maize"},
	"Wafer sheet": {"wheat"}, "Wafer scraps": {"wheat"}}

// labels are what is written on a box of what holds it.
var labels = map[string]string{"Dried egg white": "contains egg", "Maize starch": "made of maize"}

// rates are what an hour of each maker costs, in cents.
var rates = map[string]studio.Money{"Odalys": 2400, "Teun": 1900, "Maren": 1800, "Ishaan": 1500, "Brisa": 1600}
