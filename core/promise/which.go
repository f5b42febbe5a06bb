package promise

import (
	"cmp"
	"math/bits"
	"slices"

	"bractum/core/count"
	"bractum/core/studio"
)

// MostWeighed is how many orders are weighed against each other at the most.
const MostWeighed = 6

// Together are some of the orders that were asked for which can be taken on together: each in time, nobody else late by
// them.
type Together struct {
	Orders []studio.ID `json:"orders"`
	// Least is the least slack that one of them has then.
	Least studio.Minute `json:"leastSlackMinutes"`
	// Buys is true where something has to be ordered for them.
	Buys bool `json:"buys"`
}

// Which says which of several orders can be taken on together: every set of them that works and that no larger one
// holds, the largest first and then by the least slack. The document has them as quotes. Of n orders up to 2ⁿ − 1 sets
// are planned; more than MostWeighed are refused.
func Which(doc *studio.Document, before, from *studio.Plan, orders []studio.ID, abandon <-chan struct{},
	tell func(done, of int)) ([]Together, error) {
	if len(orders) < 2 || len(orders) > MostWeighed {
		return nil, studio.Refuse(
			"%d orders are not weighed against each other; from 2 to %d would be right",
			len(orders),
			MostWeighed,
		)
	}
	sets := make([]uint, 0, 1<<len(orders))
	for set := uint(1); set < 1<<len(orders); set++ {
		sets = append(sets, set)
	}
	slices.SortStableFunc(sets, func(a, b uint) int { return cmp.Compare(bits.OnesCount(b), bits.OnesCount(a)) })
	found, works := []Together{}, []uint{}
	for i, set := range sets {
		if tell != nil {
			tell(i, len(sets))
		}
		if slices.ContainsFunc(works, func(larger uint) bool { return larger&set == set }) {
			continue
		}
		t, err := weigh(doc, before, from, chosen(orders, set), abandon)
		if err != nil {
			return nil, err
		}
		if t != nil {
			found, works = append(found, *t), append(works, set)
		}
	}
	slices.SortStableFunc(found, func(a, b Together) int {
		return cmp.Or(cmp.Compare(len(b.Orders), len(a.Orders)), cmp.Compare(b.Least, a.Least))
	})
	return found, nil
}

func chosen(orders []studio.ID, set uint) (some []studio.ID) {
	for i, o := range orders {
		if set&(1<<i) != 0 {
			some = append(some, o)
		}
	}
	return some
}

// weigh plans some orders together; nil where one of them is late, or another by them.
func weigh(
	doc *studio.Document,
	before, from *studio.Plan,
	some []studio.ID,
	abandon <-chan struct{},
) (*Together, error) {
	d := *doc
	d.Orders = slices.Clone(doc.Orders)
	for _, id := range some {
		i := slices.IndexFunc(d.Orders, func(o studio.Order) bool { return o.ID == id })
		if i < 0 || d.Orders[i].State != studio.OrderQuote {
			return nil, studio.Refuse("what is weighed are quotes; one of these is none any more")
		}
		d.Orders[i].State = studio.OrderOpen
		if problems := d.CheckOrder(d.Orders[i]); len(problems) > 0 {
			return nil, nil // its day is over
		}
	}
	counted, err := count.Up(&d)
	if err != nil {
		return nil, err
	}
	q := Question{Doc: &d, Order: some[0], Before: before, From: from, Abandon: abandon}
	t, err := q.try(&d, counted)
	if err != nil || t.harm > 0 {
		return nil, err
	}
	all := &Together{Orders: some, Least: studio.MostSlack}
	for _, o := range t.made.Orders {
		if !slices.Contains(some, o.Order) {
			continue
		}
		if o.Slack == nil || o.Late > 0 {
			return nil, nil
		}
		all.Least = min(all.Least, *o.Slack)
	}
	for i := range t.made.Lots {
		l := &t.made.Lots[i]
		theirs := slices.ContainsFunc(l.For, func(c studio.Claim) bool { return slices.Contains(some, c.Order) })
		all.Buys = all.Buys || theirs && slices.ContainsFunc(l.Awaits, func(a studio.Await) bool {
			_, ordered := studio.Ordered(a.Gate)
			return ordered
		})
	}
	return all, nil
}
