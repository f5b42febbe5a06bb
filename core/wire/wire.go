// Package wire answers what to cut: the pieces of wire that lots need, and the
// full wires to take for them. Cutting here is first-fit by falling length, with
// the lower bound beside the answer.
package wire

import (
	"math"
	"slices"
	"sort"

	"bractum/core/studio"
)

// Piece is a number of equal wires for one lot.
type Piece struct {
	Lot    studio.ID          `json:"lot"`
	Length studio.Micrometres `json:"lengthMicrometres"`
	Number int64              `json:"number"`
}

// Length of one cut wire: depth in the paste + free stem + allowance.
func Length(w studio.WireInput) studio.Micrometres { return w.Depth + w.Stem + w.Allowance }

// Steel of sugar-flower wire: density in mg/mm³, elastic modulus and the stress at
// which soft wire bends for good, in N/mm². The last is an assumption.
const (
	density = 7.85
	modulus = 200_000.0
	yields  = 250.0
	gravity = 9.81
)

// Mass of a wire, π/4·d²·length, without its paper.
func Mass(diameter, length studio.Micrometres) studio.Milligrams {
	d, l := float64(diameter)/1000, float64(length)/1000
	return studio.Milligrams(math.Ceil(math.Pi / 4 * d * d * l * density))
}

// Sag is how far a stem of n wires nods, in degrees, when it is held level with a
// head at its free end, θ = m·g·ℓ²/(2·E·n·I) with I = π·d⁴/64; and whether it bends
// for good, m·g·ℓ > n·σ·d³/6. Up to 10° it holds, to 25° it nods, above it hangs. An
// estimate: paper and tape stiffen it, a kink weakens it.
func Sag(diameter, free studio.Micrometres, n int64, head studio.Milligrams) (degrees float64, bends bool) {
	d, l := float64(diameter)/1000, float64(free)/1000
	force := float64(head) / 1e6 * gravity // N
	inertia := math.Pi * math.Pow(d, 4) / 64
	degrees = force * l * l / (2 * modulus * float64(n) * inertia) * 180 / math.Pi
	return degrees, force*l > float64(n)*yields*math.Pow(d, 3)/6
}

// Pattern is a way of cutting one full wire, and how many are cut that way.
type Pattern struct {
	Cuts    []studio.Micrometres `json:"cuts"`
	Offcut  studio.Micrometres   `json:"offcutMicrometres"`
	Kept    bool                 `json:"kept"`
	Bundles int64                `json:"wires"`
}

// Cutting is the answer for one wire material: full wires taken, the fewest
// that could possibly do, and the patterns by falling use.
type Cutting struct {
	Full       int64     `json:"fullWires"`
	LowerBound int64     `json:"lowerBound"`
	Patterns   []Pattern `json:"patterns"`
}

// Cut fits pieces into full wires of one length, longest first into the first
// wire with room. Offcuts of at least keep are kept. Every piece must fit a
// full wire. It takes O(n·w) for n pieces and w wires.
func Cut(pieces []Piece, full, keep studio.Micrometres) Cutting {
	var lengths []studio.Micrometres
	var total studio.Micrometres
	for _, p := range pieces {
		for range p.Number {
			lengths = append(lengths, p.Length)
		}
		total += p.Length * studio.Micrometres(p.Number)
	}
	sort.Slice(lengths, func(i, j int) bool { return lengths[i] > lengths[j] })
	var wires [][]studio.Micrometres
	var rest []studio.Micrometres
	for _, length := range lengths {
		i := slices.IndexFunc(rest, func(left studio.Micrometres) bool { return left >= length })
		if i < 0 {
			i = len(rest)
			wires, rest = append(wires, nil), append(rest, full)
		}
		wires[i] = append(wires[i], length)
		rest[i] -= length
	}
	return Cutting{int64(len(wires)), max(int64(studio.CeilDiv(total, full)), fewest(lengths, full)), patterns(wires, rest, keep)}
}

// fewest bounds the wires from below by counting: of pieces longer than a
// (k+1)th of a wire at most k share one. Lengths are falling.
func fewest(lengths []studio.Micrometres, full studio.Micrometres) int64 {
	var bound int64
	for k := int64(1); k <= 12; k++ {
		long := sort.Search(len(lengths), func(i int) bool { return lengths[i]*studio.Micrometres(k+1) <= full })
		bound = max(bound, studio.CeilDiv(int64(long), k))
	}
	return bound
}

func patterns(wires [][]studio.Micrometres, rest []studio.Micrometres, keep studio.Micrometres) []Pattern {
	var out []Pattern
	for i, cuts := range wires {
		if n := len(out); n > 0 && slices.Equal(out[n-1].Cuts, cuts) {
			out[n-1].Bundles++
			continue
		}
		out = append(out, Pattern{cuts, rest[i], rest[i] >= keep && rest[i] > 0, 1})
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].Bundles > out[j].Bundles })
	return out
}

// Sheet is what to cut of one wire material.
type Sheet struct {
	Material studio.ID `json:"material"`
	OnHand   int64     `json:"onHand"`
	Pieces   []Piece   `json:"pieces"`
	Cutting  Cutting   `json:"cutting"`
}

// Sheets are the cutting sheets for all wires that the lots still have to take
// up, by material in the document's order.
func Sheets(doc *studio.Document, lots []studio.Lot) []Sheet {
	book := studio.NewBook(doc)
	pieces := map[studio.ID][]Piece{}
	for _, lot := range lots {
		r := book.Of(lot.Made())
		for _, w := range r.Wires {
			if _, at := r.Step(w.Step); at >= lot.NextStep {
				pieces[w.Material] = append(pieces[w.Material], Piece{lot.ID, Length(w), w.Number * r.At(w.Step, lot.Alive)})
			}
		}
	}
	sheets := []Sheet{}
	for _, m := range doc.Materials {
		if wanted := pieces[m.ID]; len(wanted) > 0 {
			sheets = append(sheets, Sheet{m.ID, m.OnHand, wanted, Cut(wanted, m.Wire.Length, doc.Settings.KeepOffcut)})
		}
	}
	return sheets
}
