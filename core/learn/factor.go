// Package learn sets what was recorded against the standards: how long pieces of a class
// really dry, how long a step really takes, what really breaks. It proposes; it changes
// nothing.
package learn

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"
)

// Evidence is what is known of how long one wait took, in multiples of what is the
// median by the standard: longer than Low, no longer than High. Low and High that are the
// same are an exact time; High is infinite where it was only ever found not to be there.
type Evidence struct{ Low, High float64 }

// Factor is by how much waits of a class take longer than the standard: Median, with the
// standard deviation of its logarithm Unsure, from N waits of which something is known.
type Factor struct {
	Median float64
	Unsure float64
	N      int
}

// PriorChecks is what the standard is worth: as much as so many waits whose time is known.
const PriorChecks = 5

// What the likelihood is worked out on: factors from a third to three, in steps of a
// hundred and eightieth of that range.
const (
	widest = 1.1 // of the logarithm
	steps  = 360
	// slips is how often a finding is simply wrong.
	slips = 0.01
)

// Belief is what is held of a factor: its posterior, to which evidence is added one by one.
// The time to dry is log-normal around the factor, with a spread that is the standard
// deviation of its logarithm; the prior of the factor is log-normal around one, as narrow
// as PriorChecks exact times make it. Evidence of an interval counts as an interval:
// P(low < T ≤ high). It is worked out on a grid of the factor.
type Belief struct {
	spread    float64
	posterior []float64 // logarithms, up to a constant
	n         int
}

// NewBelief is the prior.
func NewBelief(spread float64) *Belief {
	b := &Belief{spread: max(spread, 0.01), posterior: make([]float64, steps+1)}
	for i := range b.posterior {
		b.posterior[i] = -PriorChecks * at(i) * at(i) / (2 * b.spread * b.spread)
	}
	return b
}

// Add counts the evidence of one wait.
func (b *Belief) Add(e Evidence) {
	b.n++
	for i := range b.posterior {
		b.posterior[i] += math.Log((1-slips)*likelihood(e, at(i), b.spread) + slips)
	}
}

// Factor is what is believed now.
func (b *Belief) Factor() Factor {
	most := slices.Max(b.posterior)
	var sum, mean, square float64
	for i, log := range b.posterior {
		p := math.Exp(log - most)
		sum += p
		mean += p * at(i)
		square += p * at(i) * at(i)
	}
	mean /= sum
	return Factor{Median: math.Exp(mean), Unsure: math.Sqrt(max(0, square/sum-mean*mean)), N: b.n}
}

// FactorOf weighs evidence.
func FactorOf(evidence []Evidence, spread float64) Factor {
	b := NewBelief(spread)
	for _, e := range evidence {
		b.Add(e)
	}
	return b.Factor()
}

func at(step int) float64 { return widest * (2*float64(step)/steps - 1) }

func likelihood(e Evidence, mu, spread float64) float64 {
	n := distuv.Normal{Mu: mu, Sigma: spread}
	if e.Low == e.High {
		return math.Exp(-math.Pow((math.Log(e.Low)-mu)/spread, 2) / 2)
	}
	below := 0.0
	if e.Low > 0 {
		below = n.CDF(math.Log(e.Low))
	}
	if math.IsInf(e.High, 1) {
		return 1 - below
	}
	return n.CDF(math.Log(e.High)) - below
}

// Spread is that of the next wait, whose class is not known for sure: what a promise is
// reckoned with.
func (f Factor) Spread(spread float64) float64 { return math.Hypot(spread, f.Unsure) }

// Promise is by which multiple of the standard's median a percentile of the next waits are
// over.
func (f Factor) Promise(spread float64, percentile int64) float64 {
	return f.Median * math.Exp(f.Spread(spread)*distuv.UnitNormal.Quantile(float64(percentile)/100))
}

// By how many of its own standard deviations a finding is off that is proposed: one of a handful, as a
// studio has drying classes, and one of dozens, of which one or two would be off by two by scatter alone.
const (
	ofFew  = 2
	ofMany = 3
)

// Clear is true of a factor that is surely not one, by so many of its own standard deviations, and off by
// more than a little.
func (f Factor) Clear(surely float64) bool {
	const little = 0.04
	off := math.Abs(math.Log(f.Median))
	return off > little && off > surely*f.Unsure
}
