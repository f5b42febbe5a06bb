package wire

import (
	"math"

	"bractum/core/studio"
)

// Taping is how a stem is taped: over Along, Thick with what is in it, with a strip Wide
// that overlaps itself by a share and is stretched to so many per mille of its length,
// and so many turns in place at joints. A half-width strip uses half of its length of
// stock.
type Taping struct {
	Along     studio.Micrometres `json:"alongMicrometres" minimum:"0" maximum:"2000000"`
	Thick     studio.Micrometres `json:"thickMicrometres" minimum:"100" maximum:"50000"`
	Wide      studio.Micrometres `json:"wideMicrometres" minimum:"1000" maximum:"50000"`
	Overlap   studio.PerMille    `json:"overlapPerMille" minimum:"0" maximum:"900"`
	Stretched studio.PerMille    `json:"stretchedPerMille" minimum:"1000" maximum:"3000"`
	Turns     int64              `json:"turns" minimum:"0" maximum:"100"`
	HalfWidth bool               `json:"halfWidth,omitempty"`
}

// Tape is the length of stock that a taping takes: the helix (ℓ/p)·√((πD)² + p²) with p =
// w(1 − overlap), and turns × πD, both ÷ stretch; half of it for a half-width strip, whose
// width w then is half that of the stock. Rounded up to the micrometre.
func Tape(t Taping) studio.Micrometres {
	width := float64(t.Wide)
	if t.HalfWidth {
		width /= 2
	}
	round := math.Pi * float64(t.Thick)
	pitch := width * float64(1000-t.Overlap) / 1000
	length := float64(t.Along)/pitch*math.Hypot(round, pitch) + float64(t.Turns)*round
	length /= float64(t.Stretched) / 1000
	if t.HalfWidth {
		length /= 2
	}
	return studio.Micrometres(math.Ceil(length - 1e-6))
}
