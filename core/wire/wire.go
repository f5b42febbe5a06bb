// Package wire answers what to cut: the pieces of wire that lots need, and the
// fewest full wires and offcuts to take for them; and whether a stem holds its head.
package wire

import (
	"math"
	"slices"
	"sync"

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

// Sheet is what to cut of one wire material. Ready are wires of a wanted length that lie
// cut already, as far as they are wanted; the cutting is for the rest of the pieces.
type Sheet struct {
	Material studio.ID       `json:"material"`
	OnHand   int64           `json:"onHand"`
	Pieces   []Piece         `json:"pieces"`
	Ready    []studio.Offcut `json:"ready"`
	Cutting  Cutting         `json:"cutting"`
}

// Sheets are the cutting sheets for all wires that the lots still have to take
// up, by material in the document's order.
func Sheets(doc *studio.Document, lots []studio.Lot) []Sheet {
	return new(Memory).Sheets(doc, lots)
}

// Memory remembers how the pieces of each material were cut last: what has not changed is
// not worked out again. It is safe for concurrent use.
type Memory struct {
	mu   sync.Mutex
	last map[studio.ID]remembered
}

type remembered struct {
	full, keep studio.Micrometres
	pieces     []Piece
	offcuts    []studio.Offcut
	cutting    Cutting
}

// cut is Cut, from memory where the same was asked for last.
func (m *Memory) cut(of studio.ID, pieces []Piece, full, keep studio.Micrometres, offcuts []studio.Offcut) Cutting {
	m.mu.Lock()
	was, known := m.last[of]
	m.mu.Unlock()
	if known && was.full == full && was.keep == keep && slices.Equal(was.pieces, pieces) && slices.Equal(was.offcuts,
		offcuts) {
		return was.cutting
	}
	now := remembered{
		full:    full,
		keep:    keep,
		pieces:  pieces,
		offcuts: offcuts,
		cutting: Cut(pieces, full, keep, offcuts),
	}
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.last == nil {
		m.last = map[studio.ID]remembered{}
	}
	m.last[of] = now
	return now.cutting
}

// Sheets are those that the function of that name gives.
func (m *Memory) Sheets(doc *studio.Document, lots []studio.Lot) []Sheet {
	wanted := Pieces(studio.NewBook(doc), lots)
	sheets := []Sheet{}
	for _, of := range doc.Materials {
		if len(wanted[of.ID]) > 0 {
			sheet := Sheet{Material: of.ID, OnHand: of.OnHand, Pieces: wanted[of.ID]}
			rest, offcuts := sheet.takeReady(doc.Offcuts)
			sheet.Cutting = m.cut(of.ID, rest, of.Wire.Length, doc.Settings.KeepOffcut, offcuts)
			sheets = append(sheets, sheet)
		}
	}
	return sheets
}

// Enough is how many full wires first-fit takes for pieces of a wire beside what lies cut and the
// offcuts: quick, and hardly ever more than a cutting sheet takes.
func Enough(doc *studio.Document, of *studio.Material, pieces []Piece) int64 {
	sheet := Sheet{Material: of.ID, Pieces: pieces}
	rest, offcuts := sheet.takeReady(doc.Offcuts)
	p := newProblem(rest, of.Wire.Length, offcuts)
	return p.full(p.firstFit(p.demand, p.number))
}

// Pieces are the wires that lots still have to take up, by material.
func Pieces(book *studio.Book, lots []studio.Lot) map[studio.ID][]Piece {
	pieces := map[studio.ID][]Piece{}
	for _, lot := range lots {
		r := book.Of(lot.Made())
		for _, w := range r.Wires {
			if _, at := r.Step(w.Step); at >= lot.NextStep && lot.Needed() {
				pieces[w.Material] = append(
					pieces[w.Material],
					Piece{Lot: lot.ID, Length: Length(w), Number: w.Number * r.At(w.Step, lot.Alive)},
				)
			}
		}
	}
	return pieces
}

// First is when a lot first takes up wires that it still needs, by when its tasks begin; false where it takes none, or the
// task that does has no time. O(steps).
func First(book *studio.Book, lot *studio.Lot, begins func(task studio.ID) (studio.Minute, bool)) (studio.Minute, bool) {
	r, first, takes := book.Of(lot.Made()), studio.Minute(0), false
	for _, w := range r.Wires {
		_, at := r.Step(w.Step)
		if at < lot.NextStep || !lot.Needed() {
			continue
		}
		task, _ := r.Task(at)
		if start, timed := begins(studio.TaskID(lot.ID, r.Steps[task].Key)); timed && (!takes || start < first) {
			first, takes = start, true
		}
	}
	return first, takes
}

// takeReady sets aside the wires that lie cut to a wanted length; what is left of the
// pieces, and of the offcuts, is for cutting.
func (s *Sheet) takeReady(kept []studio.Offcut) (rest []Piece, offcuts []studio.Offcut) {
	rest = slices.Clone(s.Pieces)
	s.Ready = []studio.Offcut{}
	for _, o := range kept {
		if o.Material != s.Material {
			continue
		}
		ready := studio.Offcut{Material: o.Material, Length: o.Length}
		for i := range rest {
			if rest[i].Length == o.Length {
				taken := min(rest[i].Number, o.Number-ready.Number)
				ready.Number += taken
				rest[i].Number -= taken
			}
		}
		if ready.Number > 0 {
			s.Ready = append(s.Ready, ready)
		}
		if o.Number -= ready.Number; o.Number > 0 {
			offcuts = append(offcuts, o)
		}
	}
	return rest, offcuts
}
