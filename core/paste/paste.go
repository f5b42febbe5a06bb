// Package paste answers how many grams: of one piece, to have on the board, and
// of each ingredient of a mix. Masses are whole milligrams, rounded up.
package paste

import (
	"math"
	"slices"

	"bractum/core/studio"
)

// Mass of one piece. Cut: length × width × outline factor × thickness × density;
// ball: π/6·d³ × density; rope: π/4·d²·length × density; weighed: as given.
// Density is in milligrams per millilitre (1400 for flower paste).
func Mass(g studio.Geometry, density int64) studio.Milligrams {
	var volume float64 // mm³
	mm := func(l studio.Micrometres) float64 { return float64(l) / 1000 }
	switch g.Shape {
	case studio.ShapeCut:
		volume = mm(g.Length) * mm(g.Width) * mm(g.Thickness) * float64(g.Factor) / 1000
	case studio.ShapeBall:
		volume = math.Pi / 6 * math.Pow(mm(g.Diameter), 3)
	case studio.ShapeRope:
		volume = math.Pi / 4 * math.Pow(mm(g.Diameter), 2) * mm(g.Length)
	case studio.ShapeWeighed:
		return g.Mass
	}
	return studio.Milligrams(math.Ceil(volume*float64(density)/1000 - 1e-6))
}

// rolledThin is how thick a piece is taken to be that only its weight is known of.
const rolledThin = 0.7 // mm

// Rolled is about the size of a weighed piece once it is rolled thin: five long to four
// wide. Other shapes are as they are. Density is in milligrams per millilitre.
func Rolled(g studio.Geometry, density int64) studio.Geometry {
	if g.Shape == studio.ShapeWeighed {
		length := 1000 * math.Sqrt(1000*float64(g.Mass)/float64(density)/rolledThin/0.8)
		g.Length, g.Width = studio.Micrometres(length), studio.Micrometres(0.8*length)
	}
	return g
}

// WithLoss is what must be mixed so that used remains: used ÷ (1 − loss).
func WithLoss(used studio.Milligrams, loss studio.PerMille) studio.Milligrams {
	return studio.CeilDiv(used*1000, studio.Milligrams(1000-loss))
}

// Sheet is the paste of one working sheet: pieces in a run × mass ÷ sheet yield.
// Nothing is rolled for a run of 0.
func Sheet(run int64, mass studio.Milligrams, yield studio.PerMille) studio.Milligrams {
	return studio.CeilDiv(studio.Milligrams(run)*mass*1000, studio.Milligrams(yield))
}

// ToStep rounds up to the step of the scale.
func ToStep(mass, step studio.Milligrams) studio.Milligrams {
	return studio.CeilDiv(mass, step) * step
}

// Portion is the weight of one ingredient of a mix. Exact is what it should be, Weigh what the
// scale is to show: the step that is nearest, or of drops what so many weigh. Where that is
// more than a twentieth off, it is too little to weigh: then Weigh is Exact, and something
// else is to be done.
type Portion struct {
	Material  studio.ID         `json:"material,omitempty"`
	Mix       studio.ID         `json:"mix,omitempty"`
	Exact     studio.Milligrams `json:"exact"`
	Weigh     studio.Milligrams `json:"weigh"`
	TooLittle bool              `json:"tooLittle,omitempty"`
	Parts     int64             `json:"parts,omitempty"`
	Per100g   studio.Milligrams `json:"per100g,omitempty"`
	Drops     int64             `json:"drops,omitempty"`
}

// offAllowed is how far off a weight may be: a twentieth.
const offAllowed = 20

// nearest is the step of the scale that is nearest to an amount, and whether that is near
// enough.
func nearest(exact, step studio.Milligrams) (shown studio.Milligrams, near bool) {
	shown = (exact + step/2) / step * step
	return shown, nearEnough(exact, shown)
}

func nearEnough(exact, shown studio.Milligrams) bool {
	return offAllowed*max(exact-shown, shown-exact) <= exact
}

// Weigh divides an amount of a mix among its ingredients: by parts, and additives by what
// goes into each 100 g on top, in whole drops where they are counted so. Exact is rounded up
// to the milligram.
func Weigh(mix *studio.Recipe, amount, step studio.Milligrams) []Portion {
	var parts int64
	for _, in := range mix.Blend {
		parts += in.Parts
	}
	portions := make([]Portion, 0, len(mix.Blend)+len(mix.Additives))
	add := func(p Portion, shown studio.Milligrams, near bool) {
		if p.Weigh, p.TooLittle = shown, !near; !near {
			p.Weigh = p.Exact
		}
		portions = append(portions, p)
	}
	for _, in := range mix.Blend {
		exact := studio.CeilDiv(amount*studio.Milligrams(in.Parts), studio.Milligrams(parts))
		shown, near := nearest(exact, step)
		add(Portion{Material: in.Material, Mix: in.Mix, Exact: exact, Parts: in.Parts}, shown, near)
	}
	for _, a := range mix.Additives {
		exact := studio.CeilDiv(amount*a.Mass(), 100_000)
		shown, near := nearest(exact, step)
		p := Portion{Material: a.Material, Exact: exact, Per100g: a.Mass()}
		if a.Drops > 0 {
			p.Drops = (int64(amount)*a.Drops + 50_000) / 100_000
			shown = studio.Milligrams(p.Drops) * a.Drop
			near = nearEnough(exact, shown)
		}
		add(p, shown, near)
	}
	return portions
}

// mostLeast is how far a least batch is looked for.
const mostLeast = 5_000_000

// Least is the least amount from another on, in steps of the scale, of which every portion
// can be weighed; false where none is found up to five kilograms.
func Least(mix *studio.Recipe, from, step studio.Milligrams) (studio.Milligrams, bool) {
	for amount := ToStep(max(1, from), step); amount <= mostLeast; amount += step {
		if !slices.ContainsFunc(Weigh(mix, amount, step), func(p Portion) bool { return p.TooLittle }) {
			return amount, true
		}
	}
	return 0, false
}
