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
	in := map[int]int{} // what was joined already, and into what
	for i := range groups {
		d := c.counter.divided[ids[i]]
		named := slices.Index(ids, d.Into)
		into := named
		for at, joined := in[into]; joined; at, joined = in[into] {
			into = at
		}
		if d.Into == "" || named < 0 || into == i || max(at[named]-at[i], at[i]-at[named]) > d.Within {
			continue
		}
		groups[into], groups[i], in[i] = append(groups[into], groups[i]...), nil, into
		slices.SortStableFunc(groups[into], c.sooner)
	}
}
