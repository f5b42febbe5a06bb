package plan

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// pulling is how many tasks of a plan that is repaired are looked at for whether they can be begun
// earlier: a moment's worth, the nearest first.
const pulling = 100_000

// pullForward begins earlier what can be while all else stays where it is: what was done early is used
// then, and does not only make room. Nobody gets work that somebody else was told of.
func (s *schedule) pullForward() {
	var later []*cluster
	for _, c := range s.clusters {
		if start := s.startOf(c); c.begun == 0 && start > s.now && s.at[c.jobs[0].number].state == placed {
			later = append(later, c)
		}
	}
	slices.SortStableFunc(later, func(a, b *cluster) int { return cmp.Compare(s.startOf(a), s.startOf(b)) })
	s.wish.loyalty = loyalty
	out := newRemoval(s)
	for _, c := range later[:min(len(later), pulling/(1+len(s.jobs)))] {
		out.begin()
		if !s.pull(c, out) {
			out.restore()
		}
	}
	s.wish.loyalty = 0
}

// pull lays one cluster as early as it can be, by the same people if they can; false where it would not
// begin earlier, end later, or move anything else.
func (s *schedule) pull(c *cluster, out *removal) bool {
	start, end := s.spanOf(c)
	makers := make([]int, len(c.jobs))
	for i, j := range c.jobs {
		makers[i] = int(s.at[j.number].maker)
	}
	out.add(c)
	out.addAffected()
	if len(out.clusters) > 1 {
		return false
	}
	for i, j := range c.jobs {
		s.wish.notBefore[j.number], s.wish.prefer[j.number] = 0, makers[i]+1
	}
	s.placeClusters(out.clusters)
	if out.leavesBroken() || s.at[c.jobs[0].number].state != placed {
		return false
	}
	for i, j := range c.jobs {
		if s.toldOf(j) && int(s.at[j.number].maker) != makers[i] {
			return false
		}
	}
	from, to := s.spanOf(c)
	return from < start && to <= end
}

// spanOf is from when to when a cluster that is placed goes on, what is left out of it aside.
func (s *schedule) spanOf(c *cluster) (from, to studio.Minute) {
	from = s.startOf(c)
	for _, j := range c.jobs {
		if at := &s.at[j.number]; at.state == placed {
			from, to = min(from, at.start), max(to, at.end)
		}
	}
	return from, to
}
