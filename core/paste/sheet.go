package paste

import (
	"slices"

	"bractum/core/studio"
)

// Use is what one lot takes of a mixing: pieces × mass of a piece, before loss.
type Use struct {
	Lot    studio.ID         `json:"lot"`
	Pieces int64             `json:"pieces"`
	Mass   studio.Milligrams `json:"massMilligrams"`
	Used   studio.Milligrams `json:"usedMilligrams"`
	// Shape is the geometry the mass follows from.
	Shape *studio.Geometry `json:"shape,omitempty"`
	// Drawn is what the lot is given from this mixing, loss included.
	Drawn studio.Milligrams `json:"drawnMilligrams"`
}

// MixSheet is one mixing: what it is for, what to weigh, and how that was counted.
type MixSheet struct {
	Lot      studio.ID         `json:"lot"`
	Mix      studio.ID         `json:"mix"`
	Used     studio.Milligrams `json:"usedMilligrams"`
	ToMix    studio.Milligrams `json:"toMixMilligrams"`
	Portions []Portion         `json:"portions"`
	// Least is the least amount of which all can be weighed, where of this some cannot.
	Least studio.Milligrams `json:"leastMilligrams,omitempty"`
	Uses  []Use             `json:"uses"`
	UseBy studio.Minute     `json:"useByAfterMinutes"`
}

// MixSheets are the mix sheets of all mix lots that are still to be weighed.
// A use that takes part of its paste from elsewhere counts in proportion.
func MixSheets(doc *studio.Document, lots []studio.Lot, links []studio.Link) []MixSheet {
	book := studio.NewBook(doc)
	byID := make(map[studio.ID]*studio.Lot, len(lots))
	for i := range lots {
		byID[lots[i].ID] = &lots[i]
	}
	from := map[studio.ID][]*studio.Link{}
	for i := range links {
		from[links[i].From] = append(from[links[i].From], &links[i])
	}
	sheets := []MixSheet{}
	for i := range lots {
		lot := &lots[i]
		r := book.Of(lot.Made())
		if r.Kind != studio.KindMix || lot.NextStep > 0 {
			continue
		}
		s := MixSheet{Lot: lot.ID, Mix: lot.Recipe, ToMix: studio.Milligrams(lot.Started), UseBy: r.LifeMinutes,
			Portions: Weigh(r, studio.Milligrams(lot.Started), doc.Settings.ScaleStepMilligrams), Uses: []Use{}}
		if slices.ContainsFunc(s.Portions, func(p Portion) bool { return p.TooLittle }) {
			s.Least, _ = Least(r, s.ToMix, doc.Settings.ScaleStepMilligrams)
		}
		for _, link := range from[lot.ID] {
			use := useOf(doc, book.Of(byID[link.To].Made()), byID[link.To], link)
			s.Uses = append(s.Uses, use)
			s.Used += use.Used
		}
		sheets = append(sheets, s)
	}
	return sheets
}

func useOf(doc *studio.Document, consumer *studio.Recipe, lot *studio.Lot, link *studio.Link) Use {
	use := Use{Lot: lot.ID, Drawn: studio.Milligrams(link.Quantity),
		Used: studio.Milligrams(link.Quantity) * studio.Milligrams(1000-doc.Settings.LossPerMille) / 1000}
	for _, p := range consumer.Pastes {
		if p.Step == link.Step && lot.Mixes[p.Slot] == link.Recipe {
			use.Pieces, use.Mass, use.Shape = consumer.Cut(
				p,
				lot.Alive,
			), Mass(
				p.Shape,
				doc.Settings.DensityMgPerMl,
			), &p.Shape
		}
	}
	return use
}
