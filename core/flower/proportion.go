package flower

import (
	"math"
	"slices"
	"strings"

	"bractum/core/paste"
	"bractum/core/studio"
)

// Rule is a rule of proportion. All of them warn, none of them blocks.
type Rule string

// Rules of proportion: a cone against the petals that close over it, a wire against
// the head that it carries, a former against what lies in it, a cutter against the
// size wanted once dry.
const (
	RuleCone   Rule = "cone"
	RuleWire   Rule = "wire"
	RuleFormer Rule = "former"
	RuleCutter Rule = "cutter"
	// Softness is no proportion: what wants pieces soft, and whether they can be.
	RuleSoftness Rule = "softness"
)

// Case is in which way a rule is broken.
type Case string

// Cases of the rules: of a cone, a wire as a stem holds, a former, a cutter.
const (
	TooLow   Case = "too-low"   // for its first petals: they close over nothing
	TooTall  Case = "too-tall"  // they will not close over it
	WireNods Case = "nods"      // held level
	WireHang Case = "hangs"     // held level
	WireBend Case = "bends"     // for good
	TooSmall Case = "too-small" // it will lie flat in its former
	TooLarge Case = "too-large" // it will stand out over the rim
	Other    Case = "other"     // it dries to another size than wanted
	NotHeld  Case = "not-held"  // nothing says how long pieces stay as a step wants them
	DriesOut Case = "dries-out" // they wait for longer than they stay so, before a step that wants them so
)

// Warning is a proportion that is out of the usual, as a code. Reason is why it is let stand.
type Warning struct {
	Recipe  studio.ID      `json:"recipe"`
	Rule    Rule           `json:"rule"`
	Case    Case           `json:"case"`
	Working studio.Working `json:"working"`
	Reason  string         `json:"reason,omitempty"`
}

// Proportions judges recipes of a valid document, by the schools chosen. Thresholds are
// the trade's rules of thumb: a cone is about three quarters as high as its petal
// (taken as 60 to 90 %), a stem nods no more than 10°, what lies in a former is half
// to one and a fifth times as wide as its cup, a cut piece dries to within 5 % of the
// size wanted.
func Proportions(doc *studio.Document, book *studio.Book, recipes []studio.Recipe) []Warning {
	j := &judge{doc: doc, book: book, warnings: []Warning{}}
	for i := range recipes {
		made := studio.Made{Recipe: recipes[i].ID}
		r := book.Of(made)
		if r == nil || r.Kind == studio.KindMix {
			continue
		}
		j.cone(r)
		j.stem(r, made)
		j.former(r)
		j.cutter(r)
		j.softness(r)
	}
	return j.warnings
}

type judge struct {
	doc      *studio.Document
	book     *studio.Book
	warnings []Warning
}

func (j *judge) warn(r *studio.Recipe, rule Rule, broken Case, result studio.Figure, inputs ...studio.Figure) {
	w := Warning{
		Recipe:  r.ID,
		Rule:    rule,
		Case:    broken,
		Working: studio.Working{Rule: "proportion-" + string(rule), Inputs: inputs, Result: result},
	}
	if i := slices.IndexFunc(r.Silenced, func(s studio.Silence) bool { return s.Rule == string(rule) }); i >= 0 {
		w.Reason = r.Silenced[i].Reason
	}
	j.warnings = append(j.warnings, w)
}

func millimetres[T ~int64](name string, l T) studio.Figure {
	return studio.NewFigure(name, float64(l)/1000, "mm")
}

// height is how tall a piece stands: a rope's or a cut's length, a ball's diameter.
func height(r *studio.Recipe) studio.Micrometres {
	if len(r.Pastes) == 0 {
		return 0
	}
	g := r.Pastes[0].Shape
	if g.Shape == studio.ShapeBall {
		return g.Diameter
	}
	return g.Length
}

// cone holds a cone against the first petals that are joined to it.
func (j *judge) cone(r *studio.Recipe) {
	for i, in := range r.Parts {
		core := j.book.Of(in.Made())
		if core == nil || core.Form != "cone" || height(core) == 0 {
			continue
		}
		for _, next := range slices.Concat(r.Parts[i+1:], r.Parts[:i]) {
			petal := j.book.Of(next.Made())
			if petal == nil || !strings.Contains(petal.Form, "petal") || height(petal) == 0 {
				continue
			}
			if share := 100 * float64(height(core)) / float64(height(petal)); share < 60 || share > 90 {
				broken := TooLow
				if share > 90 {
					broken = TooTall
				}
				j.warn(
					r,
					RuleCone,
					broken,
					studio.NewFigure("cone-of-petal", math.Round(share), "%"),
					millimetres(
						"height-of-the-cone",
						height(core),
					),
					millimetres("height-of", height(petal)).OfThing(petal.Name),
				)
			}
			break
		}
	}
}

// mass is that of the paste of one piece and all that goes into it.
func (j *judge) mass(made studio.Made) (sum studio.Milligrams) {
	r := j.book.Of(made)
	if r == nil {
		return 0
	}
	for _, p := range r.Pastes {
		sum += paste.Mass(p.Shape, j.doc.Settings.DensityMgPerMl) * studio.Milligrams(r.Cut(p, 1))
	}
	for _, in := range r.Parts {
		sum += j.mass(in.Made()) * studio.Milligrams(in.Count)
	}
	return sum
}

// stem says where the wires that carry a flower do not hold its head.
func (j *judge) stem(r *studio.Recipe, made studio.Made) {
	if r.Kind == studio.KindSpray {
		return
	}
	if s := j.carried(r, made); s != nil && s.Holds != Holds {
		j.warn(r, RuleWire, Case(s.Holds), s.Working.Result, s.Working.Inputs...)
	}
}

// former holds the cups that pieces lie in against their size. A flower is as wide as
// two of its longest petals, or as its widest ring of them.
func (j *judge) former(r *studio.Recipe) {
	size := height(r)
	for _, in := range r.Parts {
		if p := j.book.Of(in.Made()); p != nil && r.Kind == studio.KindFlower {
			if width := height(p); p.Form == "daisy" {
				size = max(size, width)
			} else {
				size = max(size, 2*width)
			}
		}
	}
	for _, s := range r.Steps {
		for _, h := range s.Holds {
			i := slices.IndexFunc(j.doc.Places, func(p studio.Place) bool { return p.ID == h.Place })
			if i < 0 || j.doc.Places[i].Size == 0 || size == 0 || h.PerSlot > 1 {
				continue
			}
			cup := j.doc.Places[i]
			if share := 100 * float64(size) / float64(cup.Size); share < 50 || share > 120 {
				broken := TooSmall
				if share > 120 {
					broken = TooLarge
				}
				j.warn(
					r,
					RuleFormer,
					broken,
					studio.NewFigure("of-the-cups-width", math.Round(share), "%"),
					millimetres("across", size),
					millimetres("across-the-cup", cup.Size).OfThing(cup.Name),
				)
			}
		}
	}
}

// cutter holds a cut against the size wanted once dry: dried = cut × (1 − shrinkage).
func (j *judge) cutter(r *studio.Recipe) {
	for _, p := range r.Pastes {
		g := p.Shape
		if g.Shape != studio.ShapeCut || g.Dried == 0 {
			continue
		}
		shrinks := j.doc.Settings.ShrinkagePerMille
		dries := g.Length * studio.Micrometres(1000-shrinks) / 1000
		if off := math.Abs(float64(dries-g.Dried)) / float64(g.Dried); off <= 0.05 {
			continue
		}
		inputs := []studio.Figure{
			millimetres("cut", g.Length),
			studio.NewFigure("shrinks-by", float64(shrinks)/10, "%"),
			millimetres("wanted-dry", g.Dried),
			millimetres("to-cut", CutFor(g.Dried, shrinks)),
		}
		if t := CutterFor(j.doc.Tools, g.Dried, shrinks); t != nil {
			inputs = append(inputs, millimetres("cutter-to-take", t.Size).OfThing(t.Name))
		}
		j.warn(
			r,
			RuleCutter,
			Other,
			millimetres("dries-to", dries),
			inputs...)
	}
}

// Cut is what to cut for a size wanted once dry, and the cutter to take for it, if the
// studio has one.
type Cut struct {
	Recipe studio.ID          `json:"recipe"`
	Paste  int                `json:"paste"` // which of its pastes
	Dried  studio.Micrometres `json:"driedMicrometres"`
	Length studio.Micrometres `json:"lengthMicrometres"`
	Tool   string             `json:"tool,omitempty"`
	Size   studio.Micrometres `json:"toolMicrometres,omitempty"`
}

// Cuts lists what to cut for every size wanted dry in recipes.
func Cuts(doc *studio.Document, recipes []studio.Recipe) []Cut {
	cuts := []Cut{}
	for _, r := range recipes {
		for i, p := range r.Pastes {
			if p.Shape.Dried == 0 {
				continue
			}
			cut := Cut{
				Recipe: r.ID,
				Paste:  i,
				Dried:  p.Shape.Dried,
				Length: CutFor(p.Shape.Dried, doc.Settings.ShrinkagePerMille),
			}
			if t := CutterFor(doc.Tools, p.Shape.Dried, doc.Settings.ShrinkagePerMille); t != nil {
				cut.Tool, cut.Size = t.Name, t.Size
			}
			cuts = append(cuts, cut)
		}
	}
	return cuts
}

// CutFor is the size to cut for one wanted once dry, rounded up to the micrometre.
func CutFor(dried studio.Micrometres, shrinks studio.PerMille) studio.Micrometres {
	return studio.CeilDiv(dried*1000, studio.Micrometres(1000-shrinks))
}

// CutterFor is the smallest cutter that cuts at least as much as that; nil where none
// is large enough.
func CutterFor(tools []studio.Tool, dried studio.Micrometres, shrinks studio.PerMille) *studio.Tool {
	var best *studio.Tool
	for i := range tools {
		if t := &tools[i]; t.Size >= CutFor(dried, shrinks) && (best == nil || t.Size < best.Size) {
			best = t
		}
	}
	return best
}
