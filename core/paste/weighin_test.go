package paste

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/studio"
)

func grams(all ...float64) (weighed []*studio.Milligrams) {
	for _, g := range all {
		if g < 0 {
			weighed = append(weighed, nil)
			continue
		}
		mg := studio.Milligrams(g * 1000)
		weighed = append(weighed, &mg)
	}
	return weighed
}

// 100 g of seven parts to three with half a gram of colour in 100 g.
var blush = []Portion{
	{Weigh: 70_000, Exact: 70_000, Parts: 7},
	{Weigh: 30_000, Exact: 30_000, Parts: 3},
	{Weigh: 500, Exact: 500, Per100g: 500},
}

func TestWhatIsOverPouredScalesTheRest(t *testing.T) {
	w := WeighIn(blush, grams(70.6, -1, -1), 100)
	assert.Equal(t, Right, w.Lines[0].State, "within a hundredth of it")
	assert.EqualValues(t, 30_000, w.Lines[1].Pour)
	assert.EqualValues(t, 1000, w.Factor)

	w = WeighIn(blush, grams(77, -1, -1), 100)
	assert.Equal(t, TooMuch, w.Lines[0].State)
	assert.EqualValues(
		t,
		[]studio.Milligrams{0, 33_000, 550},
		[]studio.Milligrams{w.Lines[0].Pour, w.Lines[1].Pour, w.Lines[2].Pour},
		"a tenth more of everything; 0.6 g of the last would be too strong",
	)
	assert.EqualValues(t, 1100, w.Factor)
	assert.False(t, w.Done)

	w = WeighIn(blush, grams(70, 36, -1), 100)
	assert.Equal(t, TooLow, w.Lines[0].State, "what was right before needs more")
	assert.EqualValues(t, 14_000, w.Lines[0].Pour)

	w = WeighIn(blush, grams(84, 36, 0.6), 100)
	assert.True(t, w.Done)
	assert.EqualValues(t, 120_000, w.Mixed, "the blend; colour is on top")
}

// Whatever is poured in whatever order, following what is asked for ends, nothing is ever
// poured off, and the mix is right: each share within its tolerance of the others.
func TestFollowingTheWeighingEndsInARightMix(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var portions []Portion
		for range rapid.IntRange(1, 5).Draw(t, "ingredients") {
			mg := studio.Milligrams(100 * rapid.Int64Range(1, 3_000).Draw(t, "wanted"))
			portions = append(portions, Portion{Weigh: mg, Exact: mg, Parts: 1})
		}
		weighed := make([]*studio.Milligrams, len(portions))
		for range 200 {
			w := WeighIn(portions, weighed, 100)
			if w.Done {
				for i, line := range w.Lines {
					require.GreaterOrEqual(t, *weighed[i], line.Target-line.Tolerance)
					require.LessOrEqual(
						t,
						*weighed[i],
						max(line.Target+line.Tolerance, portions[i].Weigh+Tolerance(portions[i].Weigh, 100)),
						"ingredient %d",
						i,
					)
				}
				return
			}
			for i, line := range w.Lines {
				if line.Pour > 0 {
					poured := line.Pour
					if rapid.IntRange(0, 9).Draw(t, "slips") == 0 {
						poured += studio.Milligrams(100 * rapid.Int64Range(0, 200).Draw(t, "too much"))
					}
					before := studio.Milligrams(0)
					if weighed[i] != nil {
						before = *weighed[i]
					}
					now := before + poured
					weighed[i] = &now
					break
				}
			}
		}
		require.Fail(t, "it never ends")
	})
}
