package wire

import "slices"

// fewPatterns gives a cutting with as few full wires and, where it finds one, fewer
// different patterns: people cut bundles. Offcuts stay as they are; of the full wires it
// takes the pattern that can be cut most often while it wastes no more of a wire than
// there is to waste on average, or half as much again, or twice as much, over and over.
// A heuristic, it claims nothing.
func (p *problem) fewPatterns(best []cut) []cut {
	wanted := make([]int64, len(p.demand))
	var same []cut
	for _, c := range best {
		if c.from != fromFull {
			same = append(same, c)
			continue
		}
		for i, n := range c.pieces {
			wanted[i] += n * c.times
		}
	}
	wires := p.full(best)
	few := best
	for _, halves := range []int64{2, 3, 4} {
		if p.spent() {
			break
		}
		cuts := p.oftenest(wanted, wires, halves)
		if cuts == nil {
			continue
		}
		if cuts = append(slices.Clip(same), cuts...); different(cuts) < different(few) {
			few = cuts
		}
	}
	return few
}

// oftenest cuts wanted from so many full wires, or gives nothing where it needs more.
func (p *problem) oftenest(wanted []int64, wires, halves int64) []cut {
	rest := slices.Clone(wanted)
	var cuts []cut
	for {
		var most, sum int64
		for i, n := range rest {
			most, sum = max(most, n), sum+n*p.lengths[i]
		}
		if most == 0 {
			return cuts
		}
		if wires == 0 || sum > wires*p.wire {
			return nil
		}
		waste := (wires*p.wire - sum) * halves / 2 / wires
		pieces, low := p.fill(rest, 1), int64(1)
		for high := min(most, wires); low < high; {
			times := (low + high + 1) / 2
			if more := p.fill(rest, times); p.wire-p.long(more) <= waste {
				pieces, low = more, times
			} else {
				high = times - 1
			}
		}
		for i, n := range pieces {
			rest[i] -= n * low
		}
		wires -= low
		cuts = append(cuts, cut{from: fromFull, pieces: pieces, times: low})
	}
}

// fill is the fullest pattern that can be cut so many times.
func (p *problem) fill(rest []int64, times int64) []int64 {
	number := make([]int64, len(rest))
	for i, n := range rest {
		number[i] = n / times
	}
	_, _, pieces := p.pack(p.lengths, number, p.wire)
	return pieces
}

func (p *problem) long(pieces []int64) (length int64) {
	for i, n := range pieces {
		length += n * p.lengths[i]
	}
	return length
}

// different counts the patterns in a cutting that are not alike.
func different(cuts []cut) (patterns int) {
	for i, c := range cuts {
		if !slices.ContainsFunc(
			cuts[:i],
			func(d cut) bool { return c.from == d.from && slices.Equal(c.pieces, d.pieces) },
		) {
			patterns++
		}
	}
	return patterns
}
