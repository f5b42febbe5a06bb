package climate_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"bractum/core/climate"
	"bractum/core/studio"
)

// What an hour comes to does not depend on how much around it is looked at, as long as that
// is the reach of the filter.
func TestAnHourDoesNotDependOnHowReadingsWerePacked(t *testing.T) {
	random := rand.New(rand.NewPCG(4, 2))
	for _, apart := range []studio.Minute{1, 3, 5, 10, 15} {
		var samples []climate.Sample
		for at := studio.Minute(0); at < 20*60; at += apart {
			celsius, humidity := int64(190+random.IntN(12)), studio.PerMille(600+random.IntN(40))
			if random.IntN(9) == 0 {
				humidity += 250
			}
			samples = append(samples, climate.Sample{At: at, Celsius: &celsius, Humidity: &humidity})
		}
		whole := climate.Hours(samples)
		for _, h := range whole {
			from, to := studio.Minute(h.Hour*60)-climate.Reach, studio.Minute(h.Hour*60+60)+climate.Reach
			for _, alone := range climate.Hours(samples[climate.Since(samples, from):climate.Since(samples, to)]) {
				if alone.Hour == h.Hour {
					assert.Equal(t, h, alone)
				}
			}
		}
	}
}
