package count_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/studio"
)

// petalled is a studio that makes flowers of five petals and a leaf, so many of a thousand
// petals, leaves and flowers breaking: of flowers, one piece of what they are made of.
func petalled(flowers int64, petals, leaves, taping studio.PerMille) *studio.Document {
	doc := soft(flowers, 1)
	step := func(glyph string, setup, perPiece studio.Milliminutes) []studio.Step {
		return []studio.Step{{Key: glyph, Name: glyph, Wants: studio.WantsAny,
			Work: &studio.Work{Glyph: glyph, Skill: "shaping", Setup: setup, PerPiece: perPiece, MayPause: true}}}
	}
	made := func(id studio.ID, kind studio.Kind, breakage studio.PerMille, steps []studio.Step) studio.Recipe {
		return studio.Recipe{ID: id, Name: string(id), Kind: kind, Steps: steps,
			Spares: studio.Spares{Rule: studio.SparesByBreakage, Breakage: breakage}}
	}
	rose := made("rose", studio.KindFlower, taping, step("tape", 5000, 12_000))
	for part, number := range map[studio.ID]int64{"petal": 5, "leaf": 1} {
		rose.Parts = append(
			rose.Parts,
			studio.PartInput{Step: "tape", Recipe: part, Count: number, Wants: studio.WantsAny},
		)
	}
	doc.Recipes = []studio.Recipe{doc.Recipes[0], rose,
		made("petal", studio.KindPart, petals, step("cut", 10_000, 1500)),
		made("leaf", studio.KindPart, leaves, step("cut", 10_000, 1500))}
	return doc
}

// Of 24 flowers made with 5 % of petals lost, and 6 % of flowers costing one of their six
// pieces, a petal is lost with 1 − 0.95 × 0.99. Each petal costs 1.5 min, making more of them
// 30 + 10: of all numbers that one is started which costs least, with the petals that are then
// short made too.
func TestWhatCanBeMadeAgainIsStartedForTheLeastCost(t *testing.T) {
	doc := petalled(24, 50, 33, 60)
	counted := up(t, doc)
	assert.EqualValues(t, 24, itemMade(counted, "rose").Started, "what breaks is a petal, not a flower")
	good := 0.95 * (1 - 0.06/6)
	enough := func(need, n int64) float64 { return goodAtLeast(need, n, 50*good, 50*(1-good)) }
	want, least := int64(0), math.Inf(1)
	for n := int64(120); n < 180; n++ {
		cost := 1.5*float64(n) + 40*(1-enough(120, n))
		for short := int64(1); short <= 120; short++ { // one more piece for each chance of that many short
			cost += 1.5 * (1 - enough(121-short, n))
		}
		if cost < least {
			want, least = n, cost
		}
	}
	petal := itemMade(counted, "petal")
	assert.Equal(t, want, petal.Started)

	figures := map[string]float64{}
	for _, w := range petal.Workings {
		for _, in := range w.Inputs {
			figures[in.Name] = in.Value
		}
	}
	assert.InDelta(t, 100*(1-good), figures["expected-to-break"], 1e-9)
	assert.InDelta(t, 1/(1-enough(120, want)), figures["short-once-in"], 0.5)
	assert.EqualValues(t, 40, figures["making-more-costs"])
	assert.Greater(t, figures["for-the-service-level"], float64(want))

	doc.Settings.SparesFor = studio.SparesForService
	assert.EqualValues(t, figures["for-the-service-level"], itemMade(up(t, doc), "petal").Started)
}

// Without a day to spare nothing can be made again, and the service level holds.
func TestWhereThereIsNoTimeTheServiceLevelHolds(t *testing.T) {
	doc := petalled(24, 50, 33, 60)
	doc.Orders[0].Leaves = studio.MustWallTime("2027-09-22T12:00")
	tight := itemMade(up(t, doc), "petal")
	doc.Settings.SparesFor = studio.SparesForService
	assert.Equal(t, itemMade(up(t, doc), "petal"), tight)
}

// A step may say what it loses, and how often: dropped flowers are spared, and what they are
// made of with them.
func TestAStepSaysWhatItLoses(t *testing.T) {
	doc := petalled(24, 50, 33, 60)
	tape := &doc.Recipes[1].Steps[0]
	tape.Loses, tape.LosesPerMille = studio.LosesPiece, 100
	doc.Settings.SparesFor = studio.SparesForService
	rose := itemMade(up(t, doc), "rose")
	assert.Greater(t, rose.Started, int64(24))
	assert.Equal(t, 5*rose.Started, itemMade(up(t, doc), "petal").Gross)

	tape.Loses = "leaf"
	assert.ErrorContains(t, doc.Validate(), `is "leaf"; piece, input or nothing would be right`)
	doc.Recipes[2].Steps[0].Loses, tape.Loses = studio.LosesInput, ""
	assert.ErrorContains(t, doc.Validate(), "nothing is taken up")
}

// BenchmarkSpares are ten thousand orders of simulated studios, with true breakage as is
// recorded; what it reports is in docs/spares.md.
func BenchmarkSpares(b *testing.B) {
	for _, breakage := range []studio.PerMille{10, 50, 100} {
		for _, of := range studios {
			b.Run(fmt.Sprintf("%d of a thousand/%s", breakage, of.name), func(b *testing.B) {
				for range b.N {
					onTime, spares, again := of.simulated(b, breakage, 10_000)
					b.ReportMetric(100*onTime, "on-time-%")
					b.ReportMetric(spares, "spares/order")
					b.ReportMetric(100*again, "again-%")
				}
			})
		}
	}
}

// With remaking in mind as many orders are in time as at the plain level of 95 % that counts
// flowers as lost, with no more than half of the spares.
func TestRemakingNeedsHalfOfTheSpares(t *testing.T) {
	plain, plainly, _ := studios[0].simulated(t, 50, 1000)
	onTime, spares, _ := studios[len(studios)-1].simulated(t, 50, 1000)
	assert.GreaterOrEqual(t, onTime, plain)
	assert.LessOrEqual(t, 2*spares, plainly)
}

// simulatedStudio is how a studio reckons its spares, and whether it makes again what is short.
type simulatedStudio struct {
	name   string
	by     studio.SparesFor
	loses  studio.Loss
	remake bool
}

var studios = []simulatedStudio{
	{"plain, of flowers and petals", studio.SparesForService, studio.LosesPiece, false},
	{"plain, of petals", studio.SparesForService, studio.LosesInput, false},
	{"remaking", studio.SparesForRemaking, studio.LosesInput, true},
}

// simulated makes orders of six to sixty flowers, due in two to sixteen days: how many are in
// time, how many spare pieces each has, and how many are short of some. What is made again
// waits for up to a day for its turn; what is not makes the order late.
func (s simulatedStudio) simulated(
	t require.TestingT,
	breakage studio.PerMille,
	orders int,
) (onTime, spares, again float64) {
	random := rand.New(rand.NewPCG(20, 27))
	broken := func(of int64, share float64) (n int64) {
		for range of {
			if random.Float64() < share {
				n++
			}
		}
		return n
	}
	doc := petalled(1, breakage, breakage, breakage)
	doc.Settings.SparesFor = s.by
	for i := range doc.Recipes {
		r := &doc.Recipes[i]
		if r.Kind == studio.KindFlower {
			r.Steps[0].Loses = s.loses
		}
		if _, may := r.Losing(); may && r.Kind != studio.KindMix { // known by long record
			doc.Recorded = append(doc.Recorded, studio.Recorded{Recipe: r.ID,
				Good: 4 * (1000 - int64(breakage)), Lost: 4 * int64(breakage)})
		}
	}
	var counter count.Counter
	for range orders {
		flowers, days := 6+random.Int64N(55), 2+random.IntN(15)
		next := *doc
		next.Orders = []studio.Order{doc.Orders[0]}
		order := &next.Orders[0]
		order.Lines = []studio.OrderLine{doc.Orders[0].Lines[0]}
		order.Lines[0].Quantity = flowers
		order.Leaves = studio.WallTimeOf(doc.Epoch.Add(time.Duration(days+1)*24*time.Hour + 17*time.Hour))
		counted, err := counter.Up(&next)
		require.NoError(t, err)

		left := studio.Minute(days)*1440 + 1020 - doc.Now // until it is to be ready
		var first, more studio.Minute
		for _, lot := range counted.Lots {
			perFlower := map[studio.ID]int64{"petal": 5, "leaf": 1}[lot.Recipe]
			needed := flowers * max(1, perFlower)
			spares += float64(lot.Started - needed)
			if perFlower == 0 {
				first += studio.Minute(5 + 12*lot.Started)
				continue
			}
			first += studio.Minute(10 + 3*lot.Started/2)
			taken := broken(flowers, float64(breakage)/1000*float64(perFlower)/6)
			short := needed + taken - (lot.Started - broken(lot.Started, float64(breakage)/1000))
			if short > 0 && !s.remake {
				more = left
			}
			for short > 0 && s.remake { // until there are enough
				more += studio.Minute(10 + 3*short/2 + random.Int64N(1440))
				short = broken(short, float64(breakage)/1000)
			}
		}
		if more > 0 {
			again++
		}
		if first+more <= left {
			onTime++
		}
	}
	n := float64(orders)
	return onTime / n, spares / n, again / n
}
