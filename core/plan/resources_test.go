package plan

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"bractum/core/studio"
)

func TestBlocked(t *testing.T) {
	p := &profile{most: 10}
	p.add(studio.Span{From: 100, To: 200}, 6)
	p.add(studio.Span{From: 150, To: 300}, 4)
	for _, c := range []struct {
		name     string
		from, to studio.Minute
		slots    int64
		until    studio.Minute
		full     bool
	}{
		{"before all", 0, 100, 10, 0, false},
		{"beside the first", 100, 150, 4, 0, false},
		{"beside the first, one too many", 100, 150, 5, 150, true},
		{"no slot is left when both lie there", 120, 160, 1, 200, true},
		{"beside the second", 200, 300, 6, 0, false},
		{"after all", 300, 400, 10, 0, false},
		{"more than there are", 250, 260, 7, 300, true},
		{"the last that stands in the way", 90, 310, 7, 300, true},
	} {
		until, full := p.blocked(studio.Span{From: c.from, To: c.to}, c.slots)
		assert.Equal(t, c.full, full, c.name)
		assert.Equal(t, c.until, until, c.name)
	}
	p.add(studio.Span{From: 100, To: 200}, -6)
	_, full := p.blocked(studio.Span{From: 120, To: 160}, 6)
	assert.False(t, full)
}

// A profile says of every minute what an array of minutes says.
func TestAProfileIsWhatItsMinutesAre(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	p, minutes := &profile{most: 5}, [60]int64{}
	var taken []studio.Span
	for range 3000 {
		span := studio.Span{From: studio.Minute(random.IntN(50))}
		span.To = span.From + studio.Minute(random.IntN(10))
		amount := int64(1)
		if random.IntN(3) == 0 && len(taken) > 0 {
			span, amount = taken[len(taken)-1], -1
			taken = taken[:len(taken)-1]
		} else {
			taken = append(taken, span)
		}
		p.add(span, amount)
		for m := span.From; m < span.To; m++ {
			minutes[m] += amount
		}
		asked := studio.Span{From: studio.Minute(random.IntN(50)), To: studio.Minute(random.IntN(60))}
		full := false
		for m := asked.From; m < asked.To; m++ {
			full = full || minutes[m]+1 > p.most
		}
		_, got := p.blocked(asked, 1)
		assert.Equal(t, full, got && asked.From < asked.To)
		for i := 1; i < len(p.levels); i++ {
			assert.NotEqual(t, p.levels[i-1].used, p.levels[i].used, "no level is there for nothing")
		}
	}
}
