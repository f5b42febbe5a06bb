package api

import (
	"context"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/count"
	"bractum/core/flower"
	"bractum/core/paste"
	"bractum/core/studio"
	"bractum/core/wire"
)

// MixingView are the mixes to weigh, with when and by whom.
type MixingView struct {
	N         int64          `json:"n"`
	Density   int64          `json:"densityMilligramsPerMillilitre"`
	Mixes     []MixCard      `json:"mixes"`
	Ladders   []paste.Ladder `json:"ladders" doc:"shades that come from one weighing of a deep mix"`
	Notes     []string       `json:"notes"`
	Unused    []Taken        `json:"onShelf" doc:"mixes that lie ready"`
	Materials []MaterialLine `json:"materials" doc:"what all mixings together take"`
}

// MaterialLine is what is needed of a material, and what is there.
type MaterialLine struct {
	count.MaterialNeed
	Name string      `json:"name"`
	Unit studio.Unit `json:"unit"`
}

// MixCard is one mix sheet with names.
type MixCard struct {
	paste.MixSheet
	Name     string           `json:"name"`
	Colour   string           `json:"colour"`
	Task     *TaskCard        `json:"task,omitempty"`
	Weighed  bool             `json:"weighed" doc:"weighed in, and to be kneaded"`
	Weigh    []Ingredient     `json:"weigh"`
	For      []MixUse         `json:"for"`
	Workings []studio.Working `json:"workings"`
}

// Ingredient is a line to weigh.
type Ingredient struct {
	Name   string            `json:"name"`
	Colour string            `json:"colour,omitempty"`
	Weigh  studio.Milligrams `json:"weighMilligrams"`
	Exact  studio.Milligrams `json:"exactMilligrams"`
	Rule   string            `json:"rule"`
	Share  int64             `json:"share"`
	Drops  int64             `json:"drops,omitempty" doc:"of what is counted in drops"`
}

// MixUse is what one lot takes of a mixing.
type MixUse struct {
	paste.Use
	Name string `json:"name"`
}

// WiresView are the cutting sheets.
type WiresView struct {
	N      int64          `json:"n"`
	Sheets []WireSheet    `json:"sheets"`
	Others []MaterialLine `json:"others" doc:"tape, stamens and what else is counted out"`
	Keep   int64          `json:"keepOffcutMicrometres"`
	Stems  []flower.Stem  `json:"stems" doc:"what carries each flower that is wanted, and whether it holds"`
}

// TapeAnswer is how much tape of the stock is taken.
type TapeAnswer struct {
	Length studio.Micrometres `json:"lengthMicrometres"`
}

// WireSheet is a cutting sheet with names.
type WireSheet struct {
	wire.Sheet
	Name  string      `json:"name"`
	Wire  studio.Wire `json:"wire"`
	Parts []WirePart  `json:"parts"`
}

// WirePart is what the lots of one part in one colour need of a wire.
type WirePart struct {
	wire.Piece
	Name   string `json:"name"`
	Colour string `json:"colour"`
	Of     string `json:"of" doc:"depth + stem + allowance in millimetres"`
}

func (s *Service) registerQuantities(to huma.API) {
	kept(s, to, get("/mixing", "get-mixing", "What to weigh"), func(_ context.Context, at *moment, _ *none) (MixingView, error) {
		return at.inForce.mixingView(at.N), nil
	})
	type taping struct{ Body wire.Taping }
	ask(s, to, post("/wires/tape", "reckon-tape", "", "How much tape a stem takes; nothing is written"), func(_ context.Context, _ *moment, in *taping) (TapeAnswer, error) {
		return TapeAnswer{wire.Tape(in.Body)}, nil
	})
	kept(s, to, get("/wires", "get-wires", "What to cut"), func(_ context.Context, at *moment, _ *none) (WiresView, error) {
		return at.inForce.wiresView(at.N), nil
	})
}

func (a *answer) mixingView(n int64) MixingView {
	density := a.Doc.Settings.DensityMgPerMl
	v := MixingView{Density: density, N: n, Mixes: []MixCard{}, Notes: []string{}, Unused: []Taken{}, Materials: a.materials(true)}
	for _, note := range a.Count.Notes {
		if a.Book.Recipe(note.Recipe).Kind == studio.KindMix {
			v.Notes = append(v.Notes, note.Detail)
		}
	}
	lots := map[studio.ID]studio.Lot{}
	for _, l := range a.Plan.Lots {
		lots[l.ID] = l
	}
	sheets := paste.MixSheets(a.Doc, a.Plan.Lots, a.Plan.Links)
	v.Ladders = paste.Ladders(a.Book, sheets, a.Plan.Links)
	for _, sheet := range sheets {
		r := a.Book.Recipe(sheet.Mix)
		c := MixCard{MixSheet: sheet, Name: r.Name, Colour: r.Colour, Weigh: []Ingredient{}, For: []MixUse{}, Workings: []studio.Working{}}
		if t := a.Tasks[studio.TaskID(sheet.Lot, r.Steps[0].Key)]; t != nil {
			card := a.card(*t)
			c.Task = &card
		}
		if record := a.Doc.Begun(lots[sheet.Lot]).Record(r.Steps[0].Key); record != nil {
			c.Weighed = len(record.Weighed) > 0
		}
		for _, p := range sheet.Portions {
			c.Weigh = append(c.Weigh, a.ingredient(p))
		}
		for _, u := range sheet.Uses {
			c.For = append(c.For, MixUse{u, a.Book.Of(lots[u.Lot].Made()).Name})
		}
		for _, item := range a.Count.Items {
			for _, w := range item.Workings {
				if item.Key == lots[sheet.Lot].Key && (len(w.Lots) == 0 || slices.Contains(w.Lots, sheet.Lot)) {
					c.Workings = append(c.Workings, w)
				}
			}
		}
		v.Mixes = append(v.Mixes, c)
	}
	for _, s := range a.Doc.Shelf {
		r := a.Book.Recipe(s.Recipe)
		if r.Kind != studio.KindMix {
			continue
		}
		if same := slices.IndexFunc(v.Unused, func(t Taken) bool { return t.What == r.Name }); same >= 0 {
			v.Unused[same].Amount += s.Amount
			continue
		}
		v.Unused = append(v.Unused, Taken{r.Name, s.Amount, "mg", r.Colour, ""})
	}
	return v
}

// wanted are the recipes that open orders want, each once.
func (a *answer) wanted() []studio.Made {
	var all []studio.Made
	for _, o := range a.Doc.Orders {
		for _, l := range o.Lines {
			if o.State == studio.OrderOpen && !slices.Contains(all, l.Made()) {
				all = append(all, l.Made())
			}
		}
	}
	return all
}

// materials lists what is needed of the materials that are, or are not, weighed.
func (a *answer) materials(weighed bool) []MaterialLine {
	lines := []MaterialLine{}
	for _, need := range count.Materials(a.Doc, a.Plan.Lots) {
		i := slices.IndexFunc(a.Doc.Materials, func(m studio.Material) bool { return m.ID == need.Material })
		if m := a.Doc.Materials[i]; m.Wire == nil && (m.Unit == studio.UnitMilligrams) == weighed {
			lines = append(lines, MaterialLine{need, m.Name, m.Unit})
		}
	}
	return lines
}

func (a *answer) ingredient(p paste.Portion) Ingredient {
	in := Ingredient{Weigh: p.Weigh, Exact: p.Exact, Rule: "parts", Share: p.Parts, Drops: p.Drops}
	if p.Per100g > 0 {
		in.Rule, in.Share = "per 100 g", int64(p.Per100g)
	}
	if p.Mix != "" {
		mix := a.Book.Recipe(p.Mix)
		in.Name, in.Colour = mix.Name, mix.Colour
	} else {
		in.Name = a.material(p.Material)
	}
	return in
}

func (a *answer) wiresView(n int64) WiresView {
	v := WiresView{N: n, Sheets: []WireSheet{}, Others: a.materials(false), Keep: int64(a.Doc.Settings.KeepOffcut)}
	v.Stems = flower.Stems(a.Doc, a.Book, a.wanted())
	lots := map[studio.ID]studio.Lot{}
	for _, l := range a.Plan.Lots {
		lots[l.ID] = l
	}
	for _, sheet := range wire.Sheets(a.Doc, a.Plan.Lots) {
		i := slices.IndexFunc(a.Doc.Materials, func(m studio.Material) bool { return m.ID == sheet.Material })
		w := WireSheet{Sheet: sheet, Name: a.Doc.Materials[i].Name, Wire: *a.Doc.Materials[i].Wire, Parts: []WirePart{}}
		for _, piece := range sheet.Pieces {
			l := lots[piece.Lot]
			r := a.Book.Of(l.Made())
			part := WirePart{Piece: piece, Name: r.Name}
			part.Colour, _ = a.swatch(l.Made(), l.Mixes)
			if same := slices.IndexFunc(w.Parts, func(p WirePart) bool {
				return p.Name == part.Name && p.Colour == part.Colour && p.Length == part.Length
			}); same >= 0 {
				w.Parts[same].Number += piece.Number
				continue
			}
			for _, in := range r.Wires {
				if in.Material == sheet.Material && wire.Length(in) == piece.Length {
					part.Of = millimetres(in.Depth) + " in the paste + " + millimetres(in.Stem) + " stem"
					if in.Allowance > 0 {
						part.Of += " + " + millimetres(in.Allowance) + " hook"
					}
				}
			}
			w.Parts = append(w.Parts, part)
		}
		v.Sheets = append(v.Sheets, w)
	}
	return v
}
