package count

import (
	"bractum/core/paste"
	"bractum/core/studio"
	"bractum/core/wire"
)

// MaterialNeed is how much of a bought material the lots still take up, in its
// unit; of a wire, full wires.
type MaterialNeed struct {
	Material studio.ID `json:"material"`
	Needed   int64     `json:"needed"`
	OnHand   int64     `json:"onHand"`
}

// Materials adds up what counted lots still take of each material, in the
// document's order: weighed into mixes, by amount for each piece, and as wires.
func Materials(doc *studio.Document, lots []studio.Lot) []MaterialNeed {
	book := studio.NewBook(doc)
	needed := map[studio.ID]int64{}
	for _, lot := range lots {
		r := book.Of(lot.Made())
		for _, m := range r.Materials {
			if _, at := r.Step(m.Step); at >= lot.NextStep {
				needed[m.Material] += m.Taken(r.At(m.Step, lot.Alive))
			}
		}
		if r.Kind == studio.KindMix && lot.NextStep == 0 {
			for _, p := range paste.Weigh(r, studio.Milligrams(lot.Started), doc.Settings.ScaleStepMilligrams) {
				if p.Material != "" {
					needed[p.Material] += int64(p.Weigh)
				}
			}
		}
	}
	for _, sheet := range wire.Sheets(doc, lots) {
		needed[sheet.Material] += sheet.Cutting.Full
	}
	needs := []MaterialNeed{}
	for _, m := range doc.Materials {
		if needed[m.ID] > 0 {
			needs = append(needs, MaterialNeed{m.ID, needed[m.ID], m.OnHand})
		}
	}
	return needs
}
