package count

import (
	"slices"

	"bractum/core/studio"
)

// weighTogether adds groups of needs of a mix to others that they are to be weighed with, and leaves
// nothing of them; each group is of one lot.
func (c *counter) weighTogether(item *Item, groups [][]need, latest func(need) studio.Minute) {
	ids := make([]studio.ID, len(groups))
	at := make([]studio.Minute, len(groups))
	last := c.last[item.Key]
	for i := range groups {
		last = c.freeOrdinal(item.Key, last)
		ids[i], at[i] = studio.LotID(item.Key, last), latest(groups[i][0])
	}
	for i := range groups {
		d := c.counter.divided[ids[i]]
		into := slices.Index(ids, d.Into)
		if d.Into == "" || into < 0 || into == i || len(groups[into]) == 0 ||
			max(at[into]-at[i], at[i]-at[into]) > d.Within {
			continue
		}
		groups[into], groups[i] = append(groups[into], groups[i]...), nil
		slices.SortStableFunc(groups[into], c.sooner)
	}
}
