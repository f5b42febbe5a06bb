package wire

import "slices"

// firstFit lays pieces, the longest first, into the shortest opened wire or offcut that
// has room, and opens the shortest offcut, then a full wire, where none has.
func (p *problem) firstFit(demand, number []int64) []cut {
	type open struct {
		cut
		left int64
	}
	var wires []open
	left := slices.Clone(number)
	for i, wanted := range demand {
		for wanted > 0 {
			best := -1
			for w := range wires {
				if wires[w].left >= p.lengths[i] && (best < 0 || wires[w].left < wires[best].left) {
					best = w
				}
			}
			if best < 0 {
				best = len(wires)
				from := p.opened(p.lengths[i], left)
				wires = append(
					wires,
					open{cut: cut{from: from, pieces: make([]int64, len(p.lengths)), times: 1}, left: p.length(from)},
				)
			}
			take := min(wanted, wires[best].left/p.lengths[i])
			wires[best].pieces[i] += take
			wires[best].left -= take * p.lengths[i]
			wanted -= take
		}
	}
	cuts := make([]cut, len(wires))
	for w := range wires {
		cuts[w] = wires[w].cut
	}
	return cuts
}

// opened takes the shortest offcut that is left and long enough, else a full wire.
func (p *problem) opened(length int64, left []int64) int {
	for k := range left {
		if left[k] > 0 && p.stock[k] >= length {
			left[k]--
			return k
		}
	}
	return fromFull
}

// fullest opens a wire for the longest piece that is left and fills it as full as it
// goes, over and over: it finds answers that leave nothing over where first-fit does not.
func (p *problem) fullest(demand, number []int64) []cut {
	demand, left := slices.Clone(demand), slices.Clone(number)
	var cuts []cut
	for {
		i := slices.IndexFunc(demand, func(n int64) bool { return n > 0 })
		if i < 0 {
			return cuts
		}
		from := p.opened(p.lengths[i], left)
		demand[i]--
		_, _, pieces := p.pack(p.lengths, demand, p.length(from)-p.lengths[i])
		demand[i]++
		pieces[i]++
		times := demand[i]
		for j, n := range pieces {
			if n > 0 {
				times = min(times, demand[j]/n)
			}
		}
		if from != fromFull {
			times = min(times, 1+left[from])
			left[from] -= times - 1
		}
		for j, n := range pieces {
			demand[j] -= times * n
		}
		cuts = append(cuts, cut{from: from, pieces: pieces, times: times})
	}
}
