package climate_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/climate"
	"bractum/core/studio"
)

// loft is a studio of a room and a shut cupboard, on its twentieth day.
func loft() *studio.Document {
	return &studio.Document{
		Now:          20 * 1440,
		Climate:      profile(),
		Surroundings: []studio.Surroundings{{ID: "cupboard", Name: "Cupboard", Hours: profile(), Closed: true}},
		DryingClasses: []studio.DryingClass{
			{ID: "petal", FirmMinutes: 30, StiffMinutes: 100, DryMinutes: 300, Thickness: 800, StallHumidity: 800},
		},
	}
}

// steady are the hours before a minute, all of one air.
func steady(until studio.Minute, hours int64, humidity studio.PerMille) (measured []climate.Hour) {
	for hour := int64(until/60) - hours; hour < int64(until/60); hour++ {
		measured = append(
			measured,
			climate.Hour{Hour: hour, Air: studio.Air{TenthsCelsius: 195, HumidityPerMille: humidity}, Samples: 60},
		)
	}
	return measured
}

func TestTheAirIsTakenWhereSomethingIsKnownOfIt(t *testing.T) {
	doc := loft()
	doc.Readings = []studio.Reading{
		{Hour: 481, In: "cupboard", Air: studio.Air{TenthsCelsius: 230, HumidityPerMille: 400}},
	}
	nothing := climate.Take(doc, dublin, nil, nil)
	assert.Equal(t, doc.Readings, nothing.Readings, "what the document states stays")
	assert.Empty(t, nothing.Usual)
	assert.False(t, climate.Departs(doc, dublin, nothing))

	air := climate.Take(doc, dublin, map[studio.ID][][]climate.Hour{"": {steady(doc.Now, 240, 760)}}, nil)
	require.Len(t, air.Usual[""], 24)
	assert.Greater(t, air.Usual[""][3].HumidityPerMille, studio.PerMille(700))
	assert.True(t, climate.Departs(doc, dublin, air))
	after := *doc
	air.Into(&after)
	assert.False(t, climate.Departs(&after, dublin, air), "it is reckoned with now")
	old := air
	old.Made -= 23
	assert.False(t, climate.Due(&after, dublin, old, air))
	old.Made--
	assert.True(t, climate.Due(&after, dublin, old, air), "it is a day old")
	assert.EqualValues(t, 800, climate.Stall(doc))
	doc.DryingClasses[0].StallHumidity = 750
	assert.EqualValues(t, 750, climate.Stall(doc))
	doc.DryingClasses[0].StallHumidity = 800
	assert.Len(t, after.Readings, climate.Behind+climate.Coming+1)
	assert.Equal(t, doc.Surroundings[0].Hours, after.Surroundings[0].Hours)
	assert.EqualValues(t, 650, doc.Climate[0].HumidityPerMille, "the document itself stays as it was")
}

func TestAWordDoesNotReachWhatIsShut(t *testing.T) {
	doc := loft()
	word, err := climate.Say("very damp", doc.Now, doc.Now+5*1440)
	require.NoError(t, err)
	old := climate.Word{From: 0, Until: doc.Now, Humidity: 80}
	air := climate.Take(doc, dublin, nil, []climate.Word{word, old})
	assert.Equal(t, []climate.Word{word}, air.Words, "what is over is forgotten")
	last := air.Readings[len(air.Readings)-1]
	assert.Equal(t, studio.ID(""), last.In)
	assert.EqualValues(t, word.Until/60, last.Hour+1, "it is laid out as far as the word goes")
	assert.EqualValues(t, 810, last.HumidityPerMille)
	assert.Empty(t, air.Usual["cupboard"])
	for feels, until := range map[string]studio.Minute{"odd": doc.Now + 60, "damp": doc.Now, "dry": doc.Now + 20*1440} {
		_, err := climate.Say(feels, doc.Now, until)
		assert.Error(t, err, feels)
	}
}

func TestTheLatestIsTheMedianOfTheLastMinutes(t *testing.T) {
	samples := minutes(0, 40, func(i int) studio.PerMille { return studio.PerMille(600 + i) })
	assert.Equal(t, 30, climate.Since(samples, 30))
	assert.Equal(t, 40, climate.Since(samples, 99))
	latest := climate.Latest(samples[30:])
	assert.EqualValues(t, 634, latest.HumidityPerMille)
	assert.Nil(t, climate.Latest(nil))
	half := samples[0]
	half.Humidity = nil
	assert.Nil(t, climate.Latest([]climate.Sample{half}))
}
