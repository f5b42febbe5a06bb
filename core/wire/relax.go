package wire

import "math"

// price is what 1 is in integer prices.
const price = 1_000_000_000

// relaxed is the best cutting that may use fractions of patterns, and the bound on full
// wires that follows from its prices.
type relaxed struct {
	cuts  []cut
	often []float64
	bound int64
	dear  []int64 // the price of each length
}

// relaxation solves what is left of a problem by the revised simplex method, and keeps
// the patterns it has met: what was worth cutting once is likely to be so again.
type relaxation struct {
	*problem
	pool []cut
}

// row kinds of the linear programme: lengths must be cut at least so often, offcuts
// used at most so often. Column j ≥ 0 is pool[j]; others are the surplus of a length
// or the slack of an offcut.
type column struct {
	pool, row int // pool < 0: the surplus or slack of a row
	cost      float64
}

const (
	mostPivots = 3_000
	tiny       = 1e-9
)

// solve minimises the full wires for what is wanted with the offcuts that are left. The
// bound holds exactly however the arithmetic was rounded: any prices give one, namely
// (Σ wanted·price − Σ offcuts·worth of one) ÷ worth of a full wire.
func (r *relaxation) solve(demand, number []int64) relaxed {
	lp := newSimplex(r, demand, number)
	var dear []int64
	for pivots := 0; ; pivots++ {
		prices := lp.prices()
		dear = lp.integral(prices)
		r.effort += int64(lp.rows) * int64(lp.rows) / 8
		if pivots < mostPivots && !r.spent() && (lp.enter(lp.cheapest(prices)) || lp.enter(lp.worthwhile(prices,
			dear))) {
			continue
		}
		break
	}
	out := relaxed{dear: dear, bound: r.boundOf(demand, number, dear)}
	for row, c := range lp.basis {
		if c.pool >= 0 && lp.value[row] > tiny {
			out.cuts, out.often = append(out.cuts, r.pool[c.pool]), append(out.often, lp.value[row])
		}
	}
	return out
}

func (r *relaxation) boundOf(demand, number, dear []int64) int64 {
	_, worth, _ := r.pack(dear, demand, r.wire)
	if worth == 0 {
		return 0
	}
	var sum int64
	for i, n := range demand {
		sum += n * dear[i]
	}
	for k, n := range number {
		if n > 0 {
			_, one, _ := r.pack(dear, demand, r.stock[k])
			sum -= n * one
		}
	}
	if sum <= 0 {
		return 0
	}
	return (sum + worth - 1) / worth
}

// simplex is one linear programme with its basis, the inverse of that, and the values
// of its columns.
type simplex struct {
	*relaxation
	demand, number []int64
	rowOfLength    []int // −1 where nothing is wanted
	rowOfStock     []int
	rows           int
	basis          []column
	inverse        [][]float64
	value          []float64
}

func newSimplex(r *relaxation, demand, number []int64) *simplex {
	lp := &simplex{
		relaxation:  r,
		demand:      demand,
		number:      number,
		rowOfLength: make([]int, len(demand)),
		rowOfStock:  make([]int, len(number)),
	}
	begin := func(c column, diagonal, value float64) {
		row := make([]float64, lp.rows, len(demand)+len(number))
		lp.inverse = append(lp.inverse, append(row, diagonal))
		lp.basis, lp.value = append(lp.basis, c), append(lp.value, value)
		lp.rows++
	}
	for i, n := range demand {
		lp.rowOfLength[i] = -1
		if n > 0 {
			lp.rowOfLength[i] = lp.rows
			each := min(n, r.wire/r.lengths[i])
			pieces := make([]int64, len(demand))
			pieces[i] = each
			begin(
				column{pool: lp.pooled(cut{from: fromFull, pieces: pieces, times: 1}), row: -1, cost: 1},
				1/float64(each),
				float64(n)/float64(each),
			)
		}
	}
	for k, n := range number {
		lp.rowOfStock[k] = -1
		if n > 0 {
			lp.rowOfStock[k] = lp.rows
			begin(column{pool: -1, row: lp.rows, cost: 0}, 1, float64(n))
		}
	}
	for i := range lp.inverse {
		lp.inverse[i] = append(lp.inverse[i], make([]float64, lp.rows-len(lp.inverse[i]))...)
	}
	return lp
}

// pooled is where a pattern is in the pool.
func (r *relaxation) pooled(c cut) int {
	for j := range r.pool {
		if r.pool[j].from == c.from && equal(r.pool[j].pieces, c.pieces) {
			return j
		}
	}
	r.pool = append(r.pool, c)
	return len(r.pool) - 1
}

func equal(a, b []int64) bool {
	for i := range a {
		if a[i] != b[i] {
			return false
		}
	}
	return true
}

// prices are the dual values of the rows.
func (lp *simplex) prices() []float64 {
	prices := make([]float64, lp.rows)
	for row, c := range lp.basis {
		if c.cost != 0 {
			for i, v := range lp.inverse[row] {
				prices[i] += c.cost * v
			}
		}
	}
	return prices
}

func (lp *simplex) integral(prices []float64) []int64 {
	dear := make([]int64, len(lp.demand))
	for i, row := range lp.rowOfLength {
		if row >= 0 {
			dear[i] = int64(math.Max(0, prices[row]) * price)
		}
	}
	return dear
}

// cheapest is the column that we have already with the most negative reduced cost.
func (lp *simplex) cheapest(prices []float64) (column, bool) {
	lp.effort += int64(len(lp.pool)) * int64(len(lp.demand)) / 4
	best, least := column{}, -1e-7
	try := func(c column, reduced float64) {
		if reduced < least {
			best, least = c, reduced
		}
	}
	for j := range lp.pool {
		c := &lp.pool[j]
		cost, reduced := 1.0, 1.0
		if c.from != fromFull {
			cost, reduced = 0, 0
			if lp.rowOfStock[c.from] < 0 {
				continue
			}
			reduced -= prices[lp.rowOfStock[c.from]]
		}
		fits := true
		for i, n := range c.pieces {
			if n > lp.demand[i] {
				fits = false
				break
			}
			if n > 0 {
				reduced -= float64(n) * prices[lp.rowOfLength[i]]
			}
		}
		if fits {
			try(column{pool: j, row: -1, cost: cost}, reduced)
		}
	}
	for _, row := range lp.rowOfLength {
		if row >= 0 {
			try(column{pool: -1, row: row, cost: 0}, prices[row])
		}
	}
	for _, row := range lp.rowOfStock {
		if row >= 0 {
			try(column{pool: -1, row: row, cost: 0}, -prices[row])
		}
	}
	return best, least < -1e-7
}

// worthwhile is a new pattern that the prices make worth cutting.
func (lp *simplex) worthwhile(prices []float64, dear []int64) (column, bool) {
	const least = 1_000 // of a price of 1
	if worth, _, pieces := lp.pack(dear, lp.demand, lp.wire); worth > price+least {
		return column{pool: lp.pooled(cut{from: fromFull, pieces: pieces, times: 1}), row: -1, cost: 1}, true
	}
	for k, row := range lp.rowOfStock {
		if row < 0 {
			continue
		}
		if worth, _, pieces := lp.pack(dear, lp.demand, lp.stock[k]); worth > int64(-prices[row]*price)+least {
			return column{pool: lp.pooled(cut{from: k, pieces: pieces, times: 1}), row: -1, cost: 0}, true
		}
	}
	return column{}, false
}

// enter brings a column into the basis in place of the one that runs out first.
func (lp *simplex) enter(c column, worth bool) bool {
	if !worth {
		return false
	}
	direction := make([]float64, lp.rows)
	add := func(row int, n float64) {
		for i := range direction {
			direction[i] += n * lp.inverse[i][row]
		}
	}
	if c.pool >= 0 {
		one := &lp.pool[c.pool]
		for i, n := range one.pieces {
			if n > 0 {
				add(lp.rowOfLength[i], float64(n))
			}
		}
		if one.from != fromFull {
			add(lp.rowOfStock[one.from], 1)
		}
	} else if lp.isStock(c.row) {
		add(c.row, 1)
	} else {
		add(c.row, -1)
	}
	out, least := -1, math.Inf(1)
	for i, d := range direction {
		if d <= tiny {
			continue
		}
		if ratio := lp.value[i] / d; ratio < least-tiny || ratio < least+tiny && d > direction[out] {
			out, least = i, ratio
		}
	}
	if out < 0 {
		return false
	}
	pivot := lp.inverse[out]
	for i := range pivot {
		pivot[i] /= direction[out]
	}
	lp.value[out] /= direction[out]
	for i, d := range direction {
		if i == out || d == 0 {
			continue
		}
		for j, v := range pivot {
			lp.inverse[i][j] -= d * v
		}
		lp.value[i] = math.Max(0, lp.value[i]-d*lp.value[out])
	}
	lp.basis[out] = c
	return true
}

func (lp *simplex) isStock(row int) bool {
	for _, r := range lp.rowOfStock {
		if r == row {
			return true
		}
	}
	return false
}
