// Package paste answers how many grams: of one piece, to have on the board, and
// of each ingredient of a mix. Masses are whole milligrams, rounded up.
package paste

import (
	"math"

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

// Portion is the weight of one ingredient of a mix.
type Portion struct {
	Material studio.ID         `json:"material,omitempty"`
	Mix      studio.ID         `json:"mix,omitempty"`
	Exact    studio.Milligrams `json:"exact"`
	Weigh    studio.Milligrams `json:"weigh"`
	Parts    int64             `json:"parts,omitempty"`
	Per100g  studio.Milligrams `json:"per100g,omitempty"`
	Drops    int64             `json:"drops,omitempty"`
}

// Weigh divides an amount of a mix among its ingredients: by parts, and
// additives by what goes into each 100 g on top, in whole drops where they are
// counted so. Exact is rounded up to the
// milligram, Weigh to the step of the scale.
func Weigh(mix *studio.Recipe, amount, step studio.Milligrams) []Portion {
	var parts int64
	for _, in := range mix.Blend {
		parts += in.Parts
	}
	portions := make([]Portion, 0, len(mix.Blend)+len(mix.Additives))
	for _, in := range mix.Blend {
		exact := studio.CeilDiv(amount*studio.Milligrams(in.Parts), studio.Milligrams(parts))
		portions = append(
			portions,
			Portion{
				Material: in.Material,
				Mix:      in.Mix,
				Exact:    exact,
				Weigh:    ToStep(exact, step),
				Parts:    in.Parts,
				Per100g:  0,
				Drops:    0,
			},
		)
	}
	for _, a := range mix.Additives {
		exact := studio.CeilDiv(amount*a.Mass(), 100_000)
		drops := studio.CeilDiv(int64(amount)*a.Drops, 100_000)
		portions = append(
			portions,
			Portion{
				Material: a.Material,
				Mix:      "",
				Exact:    exact,
				Weigh:    ToStep(exact, step),
				Parts:    0,
				Per100g:  a.Mass(),
				Drops:    drops,
			},
		)
	}
	return portions
}
