package studio

import (
	"fmt"
	"regexp"
	"slices"
)

// Measure is the studio's own way of saying a size: holes of a ball gauge, settings of a roller, rings on a
// pin. Its marks are what people say at the bench for so many micrometres.
type Measure struct {
	Name  string   `json:"name"`
	Of    Measured `json:"of"`
	Marks []Mark   `json:"marks"`
}

// Mark is one size of a measure.
type Mark struct {
	Name string      `json:"name"`
	Size Micrometres `json:"sizeMicrometres"`
}

// Measured is which size of a piece of paste is measured.
type Measured string

// What is measured: the diameter of a ball, that of a rope, the thickness of a sheet, the length of a cut.
const (
	MeasuresBall      Measured = "ball"
	MeasuresRope      Measured = "rope"
	MeasuresThickness Measured = "thickness"
	MeasuresCut       Measured = "cut"
)

// offMark is by which part of a size a mark may be off: a fifth. What is further off has no mark.
const offMark = 5

// Marked is the mark that is nearest to a size; false where that is too far off.
func (m *Measure) Marked(size Micrometres) (nearest Mark, near bool) {
	off := func(k Mark) Micrometres { return max(k.Size-size, size-k.Size) }
	for i, k := range m.Marks {
		if i == 0 || off(k) < off(nearest) {
			nearest = k
		}
	}
	return nearest, len(m.Marks) > 0 && offMark*off(nearest) <= size
}

// Size is that of a piece of paste which is measured so, 0 where it has none.
func (g Geometry) Size(of Measured) Micrometres {
	switch {
	case of == MeasuresBall && g.Shape == ShapeBall, of == MeasuresRope && g.Shape == ShapeRope:
		return g.Diameter
	case of == MeasuresThickness && g.Shape == ShapeCut:
		return g.Thickness
	case of == MeasuresCut && g.Shape == ShapeCut:
		return g.Length
	}
	return 0
}

// LanguageName is what a file of words may be called, without its ending.
var LanguageName = regexp.MustCompile(`^[A-Za-z][A-Za-z0-9-]{0,31}$`)

// Manner is how a studio says figures; everything is kept in the same small units. What is left out is as the browser
// has it, a mass in grams and a length in millimetres.
type Manner struct {
	Mass    string `json:"mass,omitempty"`
	Length  string `json:"length,omitempty"`
	Decimal string `json:"decimal,omitempty"`
	Clock   string `json:"clock,omitempty"`
	Week    string `json:"week,omitempty"`
	// Money is the studio's currency by ISO 4217; amounts are said without one if none.
	Money string `json:"money,omitempty"`
	// Language names a file of words in the studio's folder; English if none.
	Language string `json:"language,omitempty"`
}

// manner checks how figures are said.
func (v *validator) manner(m Manner) {
	for field, is := range map[string][]string{"mass": {m.Mass, "g", "oz"}, "length": {m.Length, "mm", "in"},
		"decimal": {m.Decimal, ".", ","}, "clock": {m.Clock, "24", "12"}, "week": {m.Week, "monday", "sunday"}} {
		if is[0] != "" && is[0] != is[1] && is[0] != is[2] {
			v.say("settings.manner."+field, "is %q; %q or %q would be right", is[0], is[1], is[2])
		}
	}
	if m.Money != "" && !currencyCode.MatchString(m.Money) {
		v.say("settings.manner.money", "is %q; three capitals would be right, as in EUR", m.Money)
	}
	if m.Language != "" && !LanguageName.MatchString(m.Language) {
		v.say("settings.manner.language", "is %q; letters, digits and - would be right, as in pt-BR", m.Language)
	}
}

// measures checks the studio's own.
func (v *validator) measures() {
	for i, m := range v.doc.Settings.Measures {
		place := fmt.Sprintf("settings.measures[%d]", i)
		if m.Name == "" {
			v.say(place+".name", "is missing; say what it is called at the bench")
		}
		switch m.Of {
		case MeasuresBall, MeasuresRope, MeasuresThickness, MeasuresCut:
		default:
			v.say(place+".of", "is %q; ball, rope, thickness or cut would be right", m.Of)
		}
		for j, k := range m.Marks {
			within(v, fmt.Sprintf("%s.marks[%d].sizeMicrometres", place, j), k.Size, 1, 1_000_000)
			if slices.ContainsFunc(m.Marks[:j], func(o Mark) bool { return o.Name == k.Name }) {
				v.say(fmt.Sprintf("%s.marks[%d].name", place, j), "%q is there twice", k.Name)
			}
		}
	}
}

// Mistake is what usually goes wrong at a step, and why: what somebody who is new to it looks out for.
type Mistake struct {
	What string `json:"what"`
	Why  string `json:"why,omitempty"`
}
