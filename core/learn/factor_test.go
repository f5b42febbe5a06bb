package learn_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"bractum/core/learn"
)

const (
	studios = 400
	classes = 0.2 // how far the true factors of classes are spread
	waits   = 0.2 // and single waits around them
)

// round is when somebody goes round and touches, in multiples of the median that is
// reckoned with: first, and by how much later each time, with as much by chance.
type round struct{ first, chance, later, more float64 }

func (r round) touches(random *rand.Rand, truth, median float64) learn.Evidence {
	e := learn.Evidence{Low: 0, High: math.Inf(1)}
	for at := median * (r.first + r.chance*random.Float64()); ; at *= r.later + r.more*random.Float64() {
		if at >= truth {
			e.High = at
			return e
		}
		e.Low = at
	}
}

// A studio of known truth dries one wait after the other, learns, and promises the next.
func TestLearningFindsTheTruthOfSimulatedStudios(t *testing.T) {
	near := func(b *learn.Belief, truth float64) bool { return math.Abs(b.Factor().Median/truth-1) <= 0.1 }
	for name, r := range map[string]round{"every tenth to fifth of the time": {0.65, 0.2, 1.1, 0.12}, "every third to half of the time": {0.4, 0.4, 1.3, 0.3}} {
		random := rand.New(rand.NewPCG(7, 8))
		var exact20, touch20, touch40 int
		var kept, promised int
		for range studios {
			truth := math.Exp(classes * random.NormFloat64())
			exact, touched := learn.NewBelief(waits), learn.NewBelief(waits)
			for n := range 40 {
				takes := truth * math.Exp(waits*random.NormFloat64())
				known := touched.Factor()
				promised++
				if takes <= known.Promise(waits, 80) {
					kept++
				}
				exact.Add(learn.Evidence{Low: takes, High: takes})
				touched.Add(r.touches(random, takes, known.Median))
				if n == 19 && near(exact, truth) {
					exact20++
				}
				if n == 19 && near(touched, truth) {
					touch20++
				}
			}
			if near(touched, truth) {
				touch40++
			}
		}
		share := func(n, of int) float64 { return float64(n) / float64(of) }
		t.Logf(
			"touched %s: within a tenth of the truth with exact times %.1f %% after 20; by touch %.1f %% after 20, %.1f %% after 40; promises kept %.1f %%",
			name,
			100*share(exact20, studios),
			100*share(touch20, studios),
			100*share(touch40, studios),
			100*share(kept, promised),
		)
		assert.GreaterOrEqual(t, share(exact20, studios), 0.90)
		assert.GreaterOrEqual(t, share(touch20, studios), 0.70)
		assert.GreaterOrEqual(t, share(touch40, studios), 0.85)
		assert.InDelta(t, 0.80, share(kept, promised), 0.03)
	}
}

func TestEvidenceMovesAFactorItsOwnWay(t *testing.T) {
	assert.InDelta(t, 1, learn.FactorOf(nil, 0.2).Median, 1e-9)
	assert.InDelta(
		t,
		0.2/math.Sqrt(learn.PriorChecks),
		learn.FactorOf(nil, 0.2).Unsure,
		1e-3,
		"the prior is worth five checks",
	)
	one := learn.Evidence{Low: 1.3, High: 1.3}
	five := learn.FactorOf([]learn.Evidence{one, one, one, one, one}, 0.2)
	assert.InDelta(t, math.Sqrt(1.3), five.Median, 0.01, "half of the way with as much evidence as prior")
	assert.False(t, learn.FactorOf([]learn.Evidence{one}, 0.2).Clear(2))
	twenty := make([]learn.Evidence, 20)
	for i := range twenty {
		twenty[i] = one
	}
	assert.True(t, learn.FactorOf(twenty, 0.2).Clear(2))
	assert.Greater(
		t,
		learn.FactorOf([]learn.Evidence{{Low: 1.5, High: math.Inf(1)}}, 0.2).Median,
		1.0,
		"still soft when it should be dry",
	)
	assert.Less(
		t,
		learn.FactorOf([]learn.Evidence{{Low: 0, High: 0.6}}, 0.2).Median,
		1.0,
		"dry when it should be soft",
	)
	assert.InDelta(
		t,
		1,
		learn.FactorOf([]learn.Evidence{{Low: 0, High: 20}}, 0.2).Median,
		1e-3,
		"taken up a day later says nothing",
	)
	assert.Less(
		t,
		learn.FactorOf([]learn.Evidence{{Low: 90, High: 91}}, 0.2).Median,
		1.1,
		"one absurd finding does not turn a standard over",
	)
	rapid.Check(t, func(t *rapid.T) {
		var evidence []learn.Evidence
		for range rapid.IntRange(0, 30).Draw(t, "n") {
			low := rapid.Float64Range(0, 3).Draw(t, "low")
			evidence = append(
				evidence,
				learn.Evidence{Low: low, High: low + rapid.Float64Range(0.01, 2).Draw(t, "more")},
			)
		}
		f := learn.FactorOf(evidence, 0.25)
		assert.True(t, f.Median > 0.3 && f.Median < 3.1 && f.Unsure > 0 && f.Unsure <= 0.7, "%+v", f)
		assert.Less(t, f.Promise(0.25, 50), f.Promise(0.25, 80))
	})
}
