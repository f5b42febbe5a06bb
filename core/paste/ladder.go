package paste

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// Ladder is the shades that come from one weighing of a deep mix, deepest first: the deep
// one as it is, then those it is thinned to.
type Ladder struct {
	Lot    studio.ID         `json:"lot"`
	Mix    studio.ID         `json:"mix"`
	Weigh  studio.Milligrams `json:"weighMilligrams"`
	AsIs   studio.Milligrams `json:"asIsMilligrams"`
	Shades []Shade           `json:"shades"`
}

// Shade is a mix that takes a share of the deep one, as its mix sheet says; the rest of it is
// white.
type Shade struct {
	Lot   studio.ID         `json:"lot"`
	Mix   studio.ID         `json:"mix"`
	Takes studio.Milligrams `json:"takesMilligrams"`
	Makes studio.Milligrams `json:"makesMilligrams"`
	Deep  studio.PerMille   `json:"deepPerMille"`
}

// Ladders finds, among the mixings still to be weighed, those that others are thinned from:
// coloured, and going into another mixing.
func Ladders(book *studio.Book, sheets []MixSheet, links []studio.Link) []Ladder {
	at := map[studio.ID]*MixSheet{}
	for i := range sheets {
		at[sheets[i].Lot] = &sheets[i]
	}
	into := map[studio.ID][]studio.Link{}
	for _, link := range links {
		if at[link.From] != nil && at[link.To] != nil {
			into[link.From] = append(into[link.From], link)
		}
	}
	ladders := []Ladder{}
	for _, deep := range sheets {
		if len(book.Recipe(deep.Mix).Additives) == 0 {
			continue // nothing colours it: it is what others are thinned with
		}
		taken := map[studio.ID]int64{} // of this mix, by what takes it
		for _, link := range links {
			if from := at[link.From]; from != nil && from.Mix == deep.Mix {
				taken[link.To] += link.Quantity
			}
		}
		l := Ladder{Lot: deep.Lot, Mix: deep.Mix, Weigh: deep.ToMix, AsIs: deep.ToMix, Shades: []Shade{}}
		for _, link := range into[deep.Lot] {
			pale := at[link.To]
			s := Shade{Lot: pale.Lot, Mix: pale.Mix, Makes: pale.ToMix}
			var parts int64
			for _, p := range pale.Portions {
				parts += p.Parts
			}
			for _, p := range pale.Portions {
				if p.Mix == deep.Mix {
					s.Deep = studio.PerMille(studio.CeilDiv(p.Parts*1000, parts))
					s.Takes = p.Weigh * studio.Milligrams(link.Quantity) / studio.Milligrams(taken[pale.Lot])
				}
			}
			l.AsIs -= studio.Milligrams(link.Quantity)
			l.Shades = append(l.Shades, s)
		}
		if len(l.Shades) > 0 {
			slices.SortFunc(
				l.Shades,
				func(a, b Shade) int { return cmp.Or(cmp.Compare(b.Deep, a.Deep), cmp.Compare(a.Lot, b.Lot)) },
			)
			ladders = append(ladders, l)
		}
	}
	return ladders
}
