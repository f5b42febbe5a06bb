package wire

import (
	"cmp"
	"slices"
)

// Limits of the search: how many relaxations each of its dives may solve, and the first
// search over everything, before they give up. Nearly all are done within the first ten;
// for the others it is searched again, further, for as long as the effort lasts.
const (
	mostInDive = 80
	mostInAll  = 60
)

// search looks for a cutting as good as the bound.
type search struct {
	*relaxation
	best     []cut
	bound    int64
	relaxed  int
	complete bool
}

// solve gives a cutting, a lower bound on its full wires, and whether it is proven best.
func (p *problem) solve() (best []cut, bound int64, proven bool) {
	if len(p.demand) == 0 {
		return nil, 0, true
	}
	s := &search{relaxation: &relaxation{problem: p}}
	s.best = p.firstFit(p.demand, p.number)
	if s.bound = p.least(); s.done() {
		return s.best, s.bound, true
	}
	root := s.relax(p.demand, p.number)
	s.bound = max(s.bound, root.bound)
	s.round(root, p.demand, p.number, nil)
	for spared := int64(0); spared < 3 && !s.done(); spared++ {
		s.dive(root, spared)
	}
	for most := mostInAll; !s.done() && !s.complete && !s.spent(); most *= 4 {
		s.complete = true
		s.branch(p.demand, p.number, nil, s.relaxed+most)
		if s.complete {
			s.bound = p.full(s.best)
		}
	}
	return s.best, s.bound, s.done()
}

func (s *search) done() bool { return s.full(s.best) <= s.bound }

func (s *search) relax(demand, number []int64) relaxed {
	s.relaxed++
	return s.relaxation.solve(demand, number)
}

// least bounds the full wires by length, and by counting: of pieces longer than a
// (k+1)th of a wire at most k share one.
func (p *problem) least() int64 {
	var sum, there int64
	for i, n := range p.demand {
		sum += n * p.lengths[i]
	}
	for k, n := range p.number {
		there += n * p.stock[k]
	}
	bound := (max(0, sum-there) + p.wire - 1) / p.wire
	if len(p.stock) > 0 {
		return bound
	}
	for k := int64(1); k <= 12; k++ {
		var long int64
		for i, n := range p.demand {
			if p.lengths[i]*(k+1) > p.wire {
				long += n
			}
		}
		bound = max(bound, (long+k-1)/k)
	}
	return bound
}

// keep takes an answer that is better.
func (s *search) keep(cuts []cut) {
	if s.full(cuts) < s.full(s.best) {
		s.best = slices.Clone(cuts)
	}
}

// round makes whole cuttings of a fractional one: its whole parts, and as many of the
// others as fit, the largest fraction first; the rest by what fits best.
func (s *search) round(r relaxed, demand, number []int64, before []cut) {
	order := make([]int, len(r.cuts))
	for i := range order {
		order[i] = i
	}
	fraction := func(i int) float64 { return r.often[i] - float64(int64(r.often[i]+1e-6)) }
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(fraction(b), fraction(a)) })
	for _, up := range []bool{true, false} {
		rest, left, cuts := slices.Clone(demand), slices.Clone(number), slices.Clone(before)
		for _, i := range order {
			cuts = s.apply(cuts, r.cuts[i], int64(r.often[i]+1e-6), rest, left)
		}
		if up {
			for _, i := range order {
				cuts = s.apply(cuts, r.cuts[i], 1, rest, left)
			}
		}
		s.keep(append(slices.Clip(cuts), s.firstFit(rest, left)...))
		if !s.done() {
			s.keep(append(slices.Clip(cuts), s.fullest(rest, left)...))
		}
		if s.done() {
			return
		}
	}
}

// apply cuts a pattern up to so many times, as far as all its pieces are wanted and its
// offcut is there, and takes them off.
func (s *search) apply(cuts []cut, c cut, times int64, rest, left []int64) []cut {
	for i, n := range c.pieces {
		if n > 0 {
			times = min(times, rest[i]/n)
		}
	}
	if c.from != fromFull {
		times = min(times, left[c.from])
	}
	if times <= 0 {
		return cuts
	}
	for i, n := range c.pieces {
		rest[i] -= times * n
	}
	if c.from != fromFull {
		left[c.from] -= times
	}
	return append(cuts, cut{from: c.from, pieces: c.pieces, times: times})
}

// dive takes the whole parts of the relaxation for good, less so many of each, then
// branches on what is left: far smaller, and mostly with an answer that reaches the bound.
func (s *search) dive(root relaxed, spared int64) {
	rest, left := slices.Clone(s.demand), slices.Clone(s.number)
	var cuts []cut
	for i, c := range root.cuts {
		cuts = s.apply(cuts, c, int64(root.often[i]+1e-6)-spared, rest, left)
	}
	s.branch(rest, left, cuts, s.relaxed+mostInDive)
}

// branch tries every way to cut the longest piece that is left, those of the
// relaxation first, and leaves what cannot become better than the best.
func (s *search) branch(rest, left []int64, cuts []cut, most int) {
	longest := slices.IndexFunc(rest, func(n int64) bool { return n > 0 })
	if longest < 0 {
		s.keep(cuts)
		return
	}
	if s.relaxed >= most || s.spent() {
		s.complete = false
		return
	}
	r := s.relax(rest, left)
	if s.full(cuts)+r.bound >= s.full(s.best) {
		return
	}
	if s.round(r, rest, left, cuts); s.done() {
		return
	}
	for _, c := range s.ways(longest, r, rest, left) {
		fewer, less := slices.Clone(rest), slices.Clone(left)
		s.branch(fewer, less, s.apply(slices.Clip(cuts), c, 1, fewer, less), most)
		if s.done() || s.relaxed >= most || s.spent() {
			s.complete = s.complete && s.relaxed < most && !s.spent()
			return
		}
	}
}

// mostWays bounds the patterns tried at one branching.
const mostWays = 20_000

// ways are the patterns with a piece of a length to which nothing can be added, from a
// full wire and from each offcut: those of the relaxation first, then the dearest.
func (s *search) ways(longest int, r relaxed, rest, left []int64) []cut {
	var ways []cut
	var worth []int64
	add := func(from int) {
		now := make([]int64, len(rest))
		now[longest] = 1
		var fill func(at int, room, value int64)
		fill = func(at int, room, value int64) {
			s.effort++
			if len(ways) >= mostWays {
				s.complete = false
				return
			}
			if at == len(rest) {
				for i, n := range now {
					if n < rest[i] && s.lengths[i] <= room {
						return
					}
				}
				ways, worth = append(ways, cut{from: from, pieces: slices.Clone(now), times: 1}), append(worth, value)
				return
			}
			have := now[at]
			for n := min(rest[at], have+room/s.lengths[at]); n >= have; n-- {
				now[at] = n
				fill(at+1, room-(n-have)*s.lengths[at], value+n*r.dear[at])
			}
			now[at] = have
		}
		fill(longest, s.length(from)-s.lengths[longest], 0)
	}
	add(fromFull)
	for k, n := range left {
		if n > 0 && s.stock[k] >= s.lengths[longest] {
			add(k)
		}
	}
	often := func(c cut) float64 {
		for i := range r.cuts {
			if r.cuts[i].from == c.from && equal(r.cuts[i].pieces, c.pieces) {
				return r.often[i]
			}
		}
		return 0
	}
	order := make([]int, len(ways))
	frequent := make([]float64, len(ways))
	for i := range ways {
		order[i], frequent[i] = i, often(ways[i])
	}
	slices.SortStableFunc(order, func(a, b int) int {
		return cmp.Or(cmp.Compare(frequent[b], frequent[a]), cmp.Compare(worth[b], worth[a]))
	})
	sorted := make([]cut, len(ways))
	for i, at := range order {
		sorted[i] = ways[at]
	}
	return sorted
}
