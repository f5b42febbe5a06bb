package flower

import (
	"math"
	"slices"

	"bractum/core/studio"
	"bractum/core/wire"
)

// Hold is how a stem carries its head when it is held level.
type Hold string

// Ways of holding: up to 10° of sag it holds, to 25° it nods, above it hangs; or it bends
// for good.
const (
	Holds Hold = "holds"
	Nods  Hold = "nods"
	Hangs Hold = "hangs"
	Bends Hold = "bends"
)

// Stem is the check of what carries a flower. Gauge and Wires are the thinnest of the
// studio's wires, singly or up to three together, that hold it; none where no wire does.
type Stem struct {
	Recipe  studio.ID      `json:"recipe"`
	Variant string         `json:"variant,omitempty"`
	Name    string         `json:"name"`
	Holds   Hold           `json:"holds"`
	Degrees float64        `json:"degrees"`
	Gauge   studio.Gauge   `json:"gauge"`
	Number  int64          `json:"number"`
	Better  studio.Gauge   `json:"betterGauge,omitempty"`
	Wires   int64          `json:"betterWires,omitempty"`
	Working studio.Working `json:"working"`
}

// Stems checks what carries each of some flowers, as they stand in the book; what has no
// wire of its own is left out. An estimate: paper and tape stiffen a wire, a kink weakens it.
func Stems(doc *studio.Document, book *studio.Book, flowers []studio.Made) []Stem {
	j := &judge{doc: doc, book: book}
	stems := []Stem{}
	for _, made := range flowers {
		if r := book.Of(made); r.Kind == studio.KindFlower {
			if s := j.carried(r, made); s != nil {
				stems = append(stems, *s)
			}
		}
	}
	return stems
}

// carried is the check of the wires that carry a flower, its own or its centre's; nil
// where there are none.
func (j *judge) carried(r *studio.Recipe, made studio.Made) *Stem {
	wires := slices.Clone(r.Wires)
	if r.Kind == studio.KindFlower && len(wires) == 0 {
		for _, in := range r.Parts {
			if in.Count == 1 {
				wires = append(wires, j.book.Of(in.Made()).Wires...)
			}
		}
	}
	var carries *studio.WireInput
	var of *studio.Wire
	for i, w := range wires {
		m := j.book.Material(w.Material)
		if m != nil && m.Wire != nil && w.Stem > 0 && m.Wire.Diameter > 0 &&
			(of == nil || m.Wire.Diameter > of.Diameter) {
			carries, of = &wires[i], m.Wire
		}
	}
	if carries == nil {
		return nil
	}
	head := j.mass(made)
	sag, bends := wire.Sag(of.Diameter, carries.Stem, carries.Number, head)
	s := &Stem{
		Recipe:  r.ID,
		Variant: made.Variant,
		Name:    r.Name,
		Holds:   Holds,
		Degrees: math.Round(10*sag) / 10,
		Gauge:   of.Gauge,
		Number:  carries.Number,
	}
	switch {
	case bends:
		s.Holds = Bends
	case sag > 25:
		s.Holds = Hangs
	case sag > 10:
		s.Holds = Nods
	}
	inputs := []studio.Figure{
		studio.NewFigure("head", float64(head), "mg"),
		millimetres("free-stem", carries.Stem),
		millimetres("wire-thick", of.Diameter),
		studio.NewFigure("wires", carries.Number, ""),
	}
	if thin, number := j.holds(head, carries.Stem, of.Cover); thin != nil {
		s.Better, s.Wires = thin.Gauge, number
		inputs = append(
			inputs,
			studio.NewFigure("would-hold-gauge", int64(thin.Gauge), ""),
			studio.NewFigure("would-hold-wires", number, ""),
		)
	}
	s.Working = studio.Working{
		Rule:   "proportion-wire",
		Inputs: inputs,
		Result: studio.NewFigure("sag", math.Round(sag), "°"),
	}
	return s
}

// holds is the thinnest wire of the studio, singly or up to three together, that
// carries a head.
func (j *judge) holds(head studio.Milligrams, free studio.Micrometres, cover string) (*studio.Wire, int64) {
	var best *studio.Wire
	var number int64
	for n := int64(1); n <= 3 && best == nil; n++ {
		for _, m := range j.doc.Materials {
			if m.Wire == nil || m.Wire.Diameter == 0 ||
				best != nil &&
					(m.Wire.Diameter > best.Diameter || m.Wire.Diameter == best.Diameter && m.Wire.Cover != cover) {
				continue
			}
			if sag, bends := wire.Sag(m.Wire.Diameter, free, n, head); sag <= 10 && !bends {
				best, number = m.Wire, n
			}
		}
	}
	return best, number
}
