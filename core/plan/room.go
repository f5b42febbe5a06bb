package plan

import (
	"slices"

	"bractum/core/studio"
)

// mostRoom is how many clusters are taken out to make room for an order, at the most.
const mostRoom = 400

// takeRoom takes out what begins within some hours or days before an order that a search is for is wanted, and lays the
// order first and the rest by when it is due; nothing where that order is in time, or the search is for none.
func (s *strand) takeRoom() bool {
	o := s.wanted()
	if o == nil {
		return false
	}
	from := s.now + studio.Minute(s.random.Int64N(int64(max(1, min(o.ReadyBy, s.readyOf(o))-s.now))))
	span := studio.Span{From: from, To: from + studio.Minute(drawn(s, 240, 480, 1440, 2880))}
	if s.random.IntN(3) == 0 {
		span.From = s.now
	}
	for _, c := range o.feeding {
		s.out.add(c)
		s.wish.key[c.number] = s.keyOf(c) - 1<<24
	}
	spare := drawn[studio.Minute](s, 240, 1440, 2880, 5760)
	for _, m := range s.makers {
		for i := m.busyAfter(span.From); i < len(m.busy) && m.busy[i].From < span.To; i++ {
			c := s.jobs[m.busy[i].job].cluster
			if c == nil || c.begun > 0 || s.out.in[c.number] || len(s.out.clusters) > mostRoom || s.tight(c, spare) {
				continue
			}
			s.out.add(c)
			s.wish.key[c.number] = s.keyOf(c)
		}
	}
	s.out.addFollowers()
	return true
}

// tight is true of a cluster that an order needs which has less than so much slack.
func (s *strand) tight(c *cluster, spare studio.Minute) bool {
	return slices.ContainsFunc(c.orders, func(n int) bool {
		return n != s.forOrder && s.orders[n].ReadyBy-s.readyOf(s.orders[n]) < spare
	})
}

// wanted is the order that the search is for while it is late, nil where it is for none.
func (s *strand) wanted() *order {
	if s.forOrder < 0 || s.lateness(s.orders[s.forOrder]) == 0 {
		return nil
	}
	return s.orders[s.forOrder]
}
