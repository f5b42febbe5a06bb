package outside_test

import (
	"encoding/json"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/outside"
	"bractum/standin/hygrometer"
)

var yard = func() studio.Calendar {
	c, err := studio.NewCalendar(time.Date(2027, 9, 20, 0, 0, 0, 0, time.UTC), "Europe/Dublin")
	if err != nil {
		panic(err)
	}
	return c
}()

func unix(minute studio.Minute) int64 { return yard.Time(minute).Unix() }

func TestAPackIsResolvedAsItsStandardSays(t *testing.T) {
	pack := strings.NewReplacer("T0", jsonOf(t, unix(100))).Replace(`[
		{"bn": "urn:dev:mac:0024befffe804ff1:", "bt": T0, "bver": 10, "n": "temperature", "u": "Cel", "v": 19.46},
		{"n": "humidity", "u": "%RH", "v": 63.2},
		{"n": "temperature", "u": "K", "t": 60, "v": 292.65},
		{"n": "humidity", "u": "/", "t": 65, "v": 0.5},
		{"bn": "cupboard:", "bt": 0, "bu": "%RH", "bv": 40},
		{"n": "humidity", "t": -120, "v": 5}]`)
	sent, unread, err := outside.ReadSenML([]byte(pack), yard, 500)
	require.NoError(t, err)
	assert.Empty(t, unread)
	require.Len(t, sent, 3)
	assert.Equal(t, "urn:dev:mac:0024befffe804ff1", sent[0].Device)
	assert.EqualValues(t, 100, sent[0].At)
	assert.EqualValues(t, 195, *sent[0].Celsius)
	assert.EqualValues(t, 632, *sent[0].Humidity)
	assert.EqualValues(t, 101, sent[1].At)
	assert.EqualValues(t, 195, *sent[1].Celsius, "kelvin")
	assert.EqualValues(t, 500, *sent[1].Humidity, "a ratio")
	assert.Equal(t, "cupboard", sent[2].Device)
	assert.EqualValues(t, 498, sent[2].At, "two minutes ago")
	assert.Nil(t, sent[2].Celsius)
	assert.EqualValues(t, 450, *sent[2].Humidity, "base value and value add up")
}

func TestWhatIsNoPackIsRefusedAndWhatIsNoRecordIsNamed(t *testing.T) {
	for body, why := range map[string]string{
		`{"n": "loft:humidity"}`:          "a list of records",
		`[{"n": "a:t", "u": "Cel"`:        "a list of records",
		`[] []`:                           "something follows",
		`[{"bver": 11}]`:                  "version 11",
		`[{"n": "a:t", "v": 1, "x_": 2}]`: `"x_", which must be understood`,
		`[` + strings.Repeat(`{"n":"a"},`, 20_000) + `{"n":"a"}]`: "more than 20000 records",
	} {
		_, _, err := outside.ReadSenML([]byte(body), yard, 0)
		assert.ErrorContains(t, err, why)
	}
	sent, unread, err := outside.ReadSenML(
		[]byte(
			`[{"bn": "loft:"}, {"n": "t", "u": "Cel", "v": 20}, {"n": "lux", "u": "lx", "v": 3}, {"n": "humidity", "u": "%RH", "vs": "dry"},
		{"n": "é", "u": "Cel", "v": 1}, {"n": "t", "u": "Cel", "v": "warm"}, {"n": "t", "u": "Cel", "v": 1e9}]`,
		),
		yard,
		70,
	)
	require.NoError(t, err)
	assert.Len(t, sent, 1, "one of them is a temperature")
	require.Len(t, unread, 5)
	assert.Contains(t, unread[0].Why, `its unit is "lx"`)
	assert.Contains(t, unread[1].Why, "no number")
	assert.Contains(t, unread[2].Why, "not how a name is written")
	assert.Contains(t, unread[3].Why, "not a record")
	assert.Contains(t, unread[4].Why, "no temperature")
}

func TestATableOfReadings(t *testing.T) {
	sent, unread, err := outside.ReadReadings(
		[]byte(
			"\xef\xbb\xbfTime,Sensor,Celsius,Humidity\n2027-09-20 08:30,loft,19.5,63\n2027-09-20T08:31:20,loft,\"19,6\",\n"+
				"2027-09-20T07:32:00Z,loft,19.7,64.5\nnoon,loft,19,60\n2027-09-20 08:40,loft,warm,60\n2027-09-20 08:41\n2027-09-20 08:42,,19,60\n",
		),
		yard,
	)
	require.NoError(t, err)
	require.Len(t, sent, 4)
	assert.EqualValues(t, 7*60+30, sent[0].At, "local time is an hour ahead in summer")
	assert.EqualValues(t, 196, *sent[1].Celsius)
	assert.Nil(t, sent[1].Humidity)
	assert.EqualValues(t, 7*60+32, sent[2].At)
	assert.EqualValues(t, 645, *sent[2].Humidity)
	assert.EqualValues(t, 600, *sent[3].Humidity, "half of its row can be read")
	require.Len(t, unread, 4)
	assert.Equal(t, "line 5", unread[0].Record)
	assert.Contains(t, unread[0].Why, `"noon" is no time`)
	assert.Contains(t, unread[1].Why, `"warm" is not a number`)
	assert.Contains(t, unread[2].Why, "1 of 4 columns")

	sent, _, err = outside.ReadReadings([]byte("sensor,time,fahrenheit\nloft,2027-09-20 08:30,68\n"), yard)
	require.NoError(t, err)
	assert.EqualValues(t, 200, *sent[0].Celsius)
	for _, body := range []string{"", "when,what\n1,2\n", "sensor,time\nloft,2027-09-20 08:30\n"} {
		_, _, err := outside.ReadReadings([]byte(body), yard)
		assert.ErrorContains(t, err, "no table of readings", body)
	}
}

func TestTheStandInSpeaksSenML(t *testing.T) {
	body, err := json.Marshal(hygrometer.New(1, hygrometer.Loft).Pack(yard.Time(0), yard.Time(180)))
	require.NoError(t, err)
	sent, unread, err := outside.ReadSenML(body, yard, 180)
	require.NoError(t, err)
	assert.Empty(t, unread)
	assert.Greater(t, len(sent), 100)
	for _, s := range sent {
		assert.Equal(t, "loft", s.Device)
		assert.NotNil(t, s.Celsius)
		assert.NotNil(t, s.Humidity)
	}
}

func jsonOf(t *testing.T, v any) string {
	text, err := json.Marshal(v)
	require.NoError(t, err)
	return string(text)
}

func FuzzReadSenML(f *testing.F) {
	f.Add([]byte(`[{"bn": "loft:", "bt": 1821425400, "n": "t", "u": "Cel", "v": 19.5}]`))
	f.Add([]byte(`[{"n": "a.b", "u": "%RH", "t": -1e300, "v": 1}]`))
	f.Fuzz(func(t *testing.T, body []byte) {
		sent, _, err := outside.ReadSenML(body, yard, 100)
		for _, s := range sent {
			assert.NoError(t, err)
			assert.NotEmpty(t, s.Device)
			assert.True(t, s.Celsius != nil || s.Humidity != nil)
		}
	})
}
