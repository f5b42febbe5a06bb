package count

import (
	"math"
	"sort"

	"bractum/core/studio"
)

// leastBreakage is what an estimated breakage of nothing counts as: 0.5 %.
const leastBreakage = 0.005

// mostStarted bounds spares: beyond so many times the need, something is wrong
// with the recipe or the promise, and a person must look.
const mostStarted = 3

// ServiceOfLot is s = S^(1/k): what each of the k lots under an order line must
// reach so that all together reach the line's service level.
func ServiceOfLot(line studio.PerMille, k int) float64 {
	return math.Pow(float64(line)/1000, 1/float64(k))
}

// GoodAtLeast is P(good ≥ need) for n started pieces, good ~ beta-binomial(n; α, β)
// with α = w(1 − b₀) + good so far and β = w·b₀ + broken so far. It sums the
// n − need + 1 cases of breakage by their ratio.
func GoodAtLeast(need, n int64, s studio.Spares, weight int64) float64 {
	if need <= 0 {
		return 1
	}
	if n < need {
		return 0
	}
	b0 := math.Max(float64(s.Breakage)/1000, leastBreakage)
	w := float64(weight)
	alpha, beta := w*(1-b0)+float64(s.GoodSoFar), w*b0+float64(s.LostSoFar)
	term := math.Exp(logBeta(float64(n)+alpha, beta) - logBeta(alpha, beta))
	sum := term
	for broken := float64(0); broken < float64(n-need); broken++ {
		term *= (float64(n) - broken) / (broken + 1) * (beta + broken) / (alpha + float64(n) - broken - 1)
		sum += term
	}
	return math.Min(1, sum)
}

func logBeta(a, b float64) float64 {
	la, _ := math.Lgamma(a)
	lb, _ := math.Lgamma(b)
	lab, _ := math.Lgamma(a + b)
	return la + lb - lab
}

// Start is how many pieces to begin so that need come out good, by the recipe's
// rule for spares and, for the rule by breakage, a service between 0 and 1.
// Enough is false when three times the need would not do; then that is started.
func Start(need int64, s studio.Spares, service float64, weight int64) (n int64, enough bool) {
	switch s.Rule {
	case studio.SparesByNumber:
		return need + s.Number, true
	case studio.SparesByPercent:
		return need + studio.CeilDiv(need*s.Percent, 100), true
	case studio.SparesByBreakage:
		most := mostStarted * need
		extra := sort.Search(int(most-need)+1, func(i int) bool {
			return GoodAtLeast(need, need+int64(i), s, weight) >= service
		})
		n = need + int64(extra)
		return min(n, most), n <= most
	}
	return need, true
}

// spares is a recipe's rule with what is recorded of its breakage so far.
func (c *counter) spares(r *studio.Recipe) studio.Spares {
	s := r.Spares
	recorded := c.counter.recorded[r.Page()]
	s.GoodSoFar += recorded.Good
	s.LostSoFar += recorded.Lost
	return s
}
