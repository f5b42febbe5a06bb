package wire

import (
	"cmp"
	"math"
	"slices"
)

// largestTable bounds the memory of filling one wire by a table; past it, and once the
// effort is spent, what branch and bound has found is taken.
const (
	largestTable = 8_000_000
	mostSteps    = 400_000
	hastySteps   = 2_000
)

// pack fills one length with pieces of the greatest value, no more of each than are
// wanted; values are not negative. It is a bounded knapsack. No filling is worth more than
// most, which is best where every filling was looked at.
func (p *problem) pack(value, wanted []int64, room int64) (best, most int64, pieces []int64) {
	if room <= 0 {
		return 0, 0, make([]int64, len(value))
	}
	if p.spent() {
		best, pieces, done := p.branch(value, wanted, room, hastySteps)
		return best, p.mostWorth(value, wanted, room, best, done), pieces
	}
	step := room
	for i, length := range p.lengths {
		if value[i] > 0 && wanted[i] > 0 {
			step = gcd(step, length)
		}
	}
	cells := (room/step + 1) * int64(len(value))
	best, pieces, done := p.branch(value, wanted, room, min(cells, mostSteps))
	if done || cells > largestTable {
		return best, p.mostWorth(value, wanted, room, best, done), pieces
	}
	best, pieces = p.table(value, wanted, room, step)
	return best, best, pieces
}

// mostWorth is the best where it is known to be that, else what pieces that may be cut into
// parts come to, the dearest by length first (Dantzig 1957), rounded up.
func (p *problem) mostWorth(value, wanted []int64, room, best int64, done bool) int64 {
	if done {
		return best
	}
	worth := int64(0)
	for _, i := range p.dearestFirst(value, wanted, room) {
		n := min(wanted[i], room/p.lengths[i])
		worth, room = worth+n*value[i], room-n*p.lengths[i]
		if n < wanted[i] {
			return worth + (room*value[i]+p.lengths[i]-1)/p.lengths[i]
		}
	}
	return worth
}

// dearestFirst are the lengths that are worth cutting from so much, the dearest by length
// first.
func (p *problem) dearestFirst(value, wanted []int64, room int64) (order []int) {
	for i := range value {
		if value[i] > 0 && wanted[i] > 0 && p.lengths[i] <= room {
			order = append(order, i)
		}
	}
	slices.SortFunc(order, func(a, b int) int {
		return cmp.Or(cmp.Compare(float64(value[b])/float64(p.lengths[b]), float64(value[a])/float64(p.lengths[a])),
			cmp.Compare(a, b))
	})
	return order
}

func gcd(a, b int64) int64 {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}

// table fills by dynamic programming over the room in steps.
func (p *problem) table(value, wanted []int64, room, step int64) (int64, []int64) {
	cells := room/step + 1
	type bundle struct {
		length int
		number int64
	}
	var bundles []bundle
	for i := range value {
		left := min(wanted[i], room/p.lengths[i])
		if value[i] <= 0 {
			continue
		}
		for n := int64(1); left > 0; n *= 2 {
			n = min(n, left)
			bundles = append(bundles, bundle{length: i, number: n})
			left -= n
		}
	}
	p.effort += int64(len(bundles)) * cells / 8
	worth := make([]int64, cells)
	taken := make([]bool, int64(len(bundles))*cells)
	for b, one := range bundles {
		length, gain := one.number*p.lengths[one.length]/step, one.number*value[one.length]
		row := taken[int64(b)*cells:]
		for c := cells - 1; c >= length; c-- {
			if with := worth[c-length] + gain; with > worth[c] {
				worth[c], row[c] = with, true
			}
		}
	}
	pieces := make([]int64, len(value))
	c := cells - 1
	for b := len(bundles) - 1; b >= 0; b-- {
		if taken[int64(b)*cells+c] {
			pieces[bundles[b].length] += bundles[b].number
			c -= bundles[b].number * p.lengths[bundles[b].length] / step
		}
	}
	return worth[cells-1], pieces
}

// branch fills depth first, the dearest by length first, and leaves a branch that cannot
// become better; done is false when it gave up after so many steps. Most fillings are
// found in fewer steps than a table has cells.
func (p *problem) branch(value, wanted []int64, room, most int64) (best int64, pieces []int64, done bool) {
	order := p.dearestFirst(value, wanted, room)
	shortest := make([]int64, len(order)+1)
	shortest[len(order)] = math.MaxInt64
	for at := len(order) - 1; at >= 0; at-- {
		shortest[at] = min(shortest[at+1], p.lengths[order[at]])
	}
	now, found := make([]int64, len(value)), make([]int64, len(value))
	steps := int64(0)
	var fill func(at int, room, worth int64)
	fill = func(at int, room, worth int64) {
		steps++
		if worth > best {
			best = worth
			copy(found, now)
		}
		if at == len(order) || steps > most || room < shortest[at] {
			return
		}
		i := order[at]
		if worth+room*value[i]/p.lengths[i] <= best {
			return
		}
		for n := min(wanted[i], room/p.lengths[i]); n >= 0; n-- {
			now[i] = n
			fill(at+1, room-n*p.lengths[i], worth+n*value[i])
			if at+1 < len(order) {
				next, fewer := order[at+1], max(0, n-1)
				if worth+fewer*value[i]+(room-fewer*p.lengths[i])*value[next]/p.lengths[next] <= best {
					break
				}
			}
		}
		now[i] = 0
	}
	fill(0, room, 0)
	p.effort += steps
	return best, found, steps <= most
}
