package studio

import (
	"fmt"
	"slices"
)

// Size is one row of the table of a part that is made in several sizes: one recipe with one
// order of work, each size under its name as a variant is. What it says takes the place of what
// the recipe says of its first paste and first wire, and of the tool at the step that takes the
// paste. Count is how many of it are taken where all sizes are.
type Size struct {
	Name  string      `json:"name"`
	Count int64       `json:"count"`
	Shape Geometry    `json:"shape"`
	Wire  ID          `json:"wire,omitempty"`
	Stem  Micrometres `json:"stemMicrometres,omitempty"`
	Tool  string      `json:"tool,omitempty"`
	// PerPiece is the time of a piece at the step that takes the paste, where that differs by size.
	PerPiece Milliminutes `json:"pieceMilliminutes,omitempty"`
}

// sized is the recipe in one of its sizes.
func (r *Recipe) sized(s Size) *Recipe {
	made := *r
	made.Sizes = nil
	made.Steps, made.Pastes, made.Wires = slices.Clone(r.Steps), slices.Clone(r.Pastes), slices.Clone(r.Wires)
	if len(made.Pastes) > 0 {
		made.Pastes[0].Shape = s.Shape
		if _, at := made.Step(made.Pastes[0].Step); at >= 0 && made.Steps[at].Work != nil {
			work := *made.Steps[at].Work
			if s.Tool != "" {
				work.Tool = s.Tool
			}
			if s.PerPiece > 0 {
				work.PerPiece = s.PerPiece
			}
			made.Steps[at].Work = &work
		}
	}
	if len(made.Wires) > 0 {
		if s.Wire != "" {
			made.Wires[0].Material = s.Wire
		}
		if s.Stem > 0 {
			made.Wires[0].Stem = s.Stem
		}
	}
	return &made
}

// size finds one of the sizes by name, -1 if there is none.
func (r *Recipe) size(name string) int {
	return slices.IndexFunc(r.Sizes, func(s Size) bool { return s.Name == name })
}

// inSizes are the inputs of a recipe, one that takes all sizes of a part as one of each, in the
// order of the table.
func (b *Book) inSizes(r *Recipe, recipes map[ID]*Recipe) *Recipe {
	if !slices.ContainsFunc(r.Parts, func(p PartInput) bool { return p.Sizes }) {
		return r
	}
	made := *r
	made.Parts = nil
	for _, p := range r.Parts {
		part := recipes[p.Recipe]
		if !p.Sizes || part == nil {
			made.Parts = append(made.Parts, p)
			continue
		}
		for _, s := range part.Sizes {
			of := p
			of.Sizes, of.Rows, of.Variant, of.Count = false, nil, s.Name, p.Count*s.Count
			if p.Key != "" {
				of.Key = p.Key + " " + s.Name
			}
			if of.Count > 0 {
				made.Parts = append(made.Parts, of)
			}
		}
	}
	return &made
}

// sizeTable checks the table of sizes: every row says what the others say.
func (v *validator) sizeTable(place string, r *Recipe) {
	if len(r.Sizes) > 0 && len(r.Pastes) == 0 {
		v.say(place+".sizes", "are of a part that takes no paste; sizes are those of its first paste")
		return
	}
	for i, s := range r.Sizes {
		at := fmt.Sprintf("%s.sizes[%d]", place, i)
		if s.Name == "" || r.size(s.Name) < i || named(r.Variants, s.Name) >= 0 {
			v.say(at+".name", "%q is empty, or used twice in this recipe", s.Name)
		}
		within(v, at+".count", s.Count, 0, MostCount)
		within(v, at+".stemMicrometres", s.Stem, 0, 1_000_000)
		within(v, at+".pieceMilliminutes", s.PerPiece, 0, 1_000_000)
		if s.Shape.Shape != r.Pastes[0].Shape.Shape {
			v.say(
				at+".shape",
				"is %q; %q would be right, as the recipe's own paste",
				s.Shape.Shape,
				r.Pastes[0].Shape.Shape,
			)
		} else {
			v.shape(at+".shape", s.Shape)
		}
		if s.Wire != "" {
			if m, known := v.materials[s.Wire]; !known || m.Wire == nil {
				v.say(at+".wire", "no wire %q", s.Wire)
			} else if len(r.Wires) == 0 {
				v.say(at+".wire", "is %q, and the recipe takes no wire", m.Name)
			}
		}
		for says, gap := range map[string]bool{
			"wire":              (s.Wire == "") != (r.Sizes[0].Wire == ""),
			"stemMicrometres":   (s.Stem == 0) != (r.Sizes[0].Stem == 0),
			"tool":              (s.Tool == "") != (r.Sizes[0].Tool == ""),
			"pieceMilliminutes": (s.PerPiece == 0) != (r.Sizes[0].PerPiece == 0),
		} {
			if gap {
				v.say(at+"."+says, "is said of some sizes and not of others; say it of all, or of none")
			}
		}
	}
}
