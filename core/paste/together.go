package paste

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// Mixing is when a lot of a mix is weighed by a plan, and for how long it keeps after that.
type Mixing struct {
	Lot, Mix  studio.ID
	At, Keeps studio.Minute
}

// Together are the lots of mixes that could be one weighing: of one mix, weighed on one day and while
// the first of them keeps. They are given by the first, itself among them. It takes O(n log n).
func Together(mixings []Mixing, day func(studio.Minute) studio.Date) map[studio.ID][]studio.ID {
	all := slices.Clone(mixings)
	slices.SortStableFunc(all, func(a, b Mixing) int {
		return cmp.Or(cmp.Compare(a.Mix, b.Mix), cmp.Compare(a.At, b.At))
	})
	together := map[studio.ID][]studio.ID{}
	for i := 0; i < len(all); {
		first, past := all[i], i
		var lots []studio.ID
		for ; past < len(all) && all[past].Mix == first.Mix && day(all[past].At) == day(first.At) &&
			all[past].At <= first.At+first.Keeps; past++ {
			lots = append(lots, all[past].Lot)
		}
		if i = past; len(lots) > 1 {
			together[first.Lot] = lots
		}
	}
	return together
}
