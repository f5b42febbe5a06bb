package web_test

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/api"
	"bractum/core/climate"
	"bractum/core/drying"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/core/workshop"
	"bractum/demo"
	"bractum/standin/hygrometer"
	"bractum/store"
)

// send sends readings as a device does.
func (d desk) send(media, body string) (int, api.Received, string) {
	request := httptest.NewRequest("POST", "/api/readings", strings.NewReader(body))
	request.Header.Set("Content-Type", media)
	answer := httptest.NewRecorder()
	d.app.API.Adapter().ServeHTTP(answer, request)
	var received api.Received
	_ = json.Unmarshal(answer.Body.Bytes(), &received)
	return answer.Code, received, answer.Body.String()
}

func read[T any](d desk, path string) (out T) {
	answer := httptest.NewRecorder()
	request := httptest.NewRequest("GET", path, nil)
	request.Header.Set("Prefer", "wait=10")
	d.app.API.Adapter().ServeHTTP(answer, request)
	require.Equal(d.t, 200, answer.Code, answer.Body.String())
	require.NoError(d.t, json.Unmarshal(answer.Body.Bytes(), &out))
	return out
}

// damp is a pack of loft readings of the hours before the demo's now, so damp.
func damp(doc *studio.Document, hours int, humidity float64) string {
	calendar, _ := studio.NewCalendar(doc.Epoch, doc.Zone)
	var pack []map[string]any
	for minute := doc.Now - studio.Minute(60*hours); minute < doc.Now; minute++ {
		at := calendar.Time(minute).Unix()
		pack = append(
			pack,
			map[string]any{"n": "loft:temperature", "u": "Cel", "t": at, "v": 18 + float64(minute%3)/10},
			map[string]any{"n": "loft:humidity", "u": "%RH", "t": at, "v": humidity + float64(minute%5)/10},
		)
	}
	body, _ := json.Marshal(pack)
	return string(body)
}

const senML = "application/senml+json"

// lyingDoc is the demo with magnolia petals lying in their moulds for an hour.
func lyingDoc() *studio.Document {
	doc := demo.Document()
	doc.Work = []studio.WorkLot{
		demo.Lying(
			doc,
			demo.ID("petals"),
			"Magnolia outer petal",
			map[string]string{"petal": "Oyster ivory", "dust": "Pebble dust"},
			"dry",
			18,
			60,
		),
	}
	return doc
}

func TestReadingsMakeTheAirThatPlansReckonWith(t *testing.T) {
	d := newDeskOf(t, lyingDoc())
	before := read[api.RoomView](d, "/api/drying-room")
	require.Len(t, before.Lying, 1)
	code, received, _ := d.send(senML, damp(demo.Document(), 24, 74))
	require.Equal(t, 200, code)
	assert.Equal(t, 1440, received.Fresh)
	assert.Empty(t, received.Refused)
	air := read[api.AirView](d, "/api/air")
	assert.InDelta(t, 742, int64(air.Places[0].Latest.HumidityPerMille), 3)
	assert.Equal(t, "measured", string(air.Places[0].Curve[35].Kind))
	assert.Equal(t, "expected", string(air.Places[0].Curve[36].Kind))
	after := read[api.RoomView](d, "/api/drying-room")
	assert.Greater(t, *after.Lying[0].Dry.Likely, *before.Lying[0].Dry.Likely, "it dries later")
	assert.Greater(t, *after.Lying[0].Over, *before.Lying[0].Over, "and the plan waits")
	journal := read[store.Page[store.Entry]](d, "/api/journal").Lines
	assert.Contains(t, journal[0].Summary, "The air is other than was reckoned with; ")
	assert.Contains(t, journal[0].Summary, "move")

	n := journal[0].N
	_, received, _ = d.send(senML, damp(demo.Document(), 24, 30))
	assert.Equal(t, 1440, received.Repeated, "sent again, it says nothing new")
	assert.Equal(t, n, read[store.Page[store.Entry]](d, "/api/journal").Lines[0].N)
}

func TestBadReadingsAreNamedAndNothingIsLost(t *testing.T) {
	d := newDesk(t)
	for body, want := range map[string]string{
		"{}":                        "no SenML pack",
		`[{"bver": 99}]`:            "version 99",
		strings.Repeat(" ", 5<<20):  "",
		`[{"n":"loft:t","u":"Cel",`: "no SenML pack",
	} {
		code, _, answer := d.send(senML, body)
		assert.GreaterOrEqual(t, code, 400)
		assert.Less(t, code, 500)
		assert.Contains(t, answer, want)
	}
	code, _, answer := d.send("image/png", "x")
	assert.Equal(t, 415, code)
	assert.Contains(t, answer, "text/csv")
	code, received, _ := d.send(
		"text/csv; charset=utf-8",
		"sensor,time,celsius,humidity\nloft,2027-09-20 08:10,19.4,64\nloft,2027-09-20 09:40,19.4,64\nloft,2027-09-20 08:12,85,64\n",
	)
	assert.Equal(t, 200, code)
	assert.Equal(t, 1, received.Fresh)
	require.Len(t, received.Refused, 2)
	why := fmt.Sprint(received.Refused)
	assert.Contains(t, why, "from the future")
	assert.Contains(t, why, "85.0 °C cannot be")
	air := read[api.AirView](d, "/api/air")
	assert.EqualValues(t, 2, air.Sensors[1].Refused)
	_, _, _ = d.send(senML, `[{"n": "attic:t", "u": "Cel", "v": 20}, {"n": "attic:h", "u": "%RH", "v": 50}]`)
	air = read[api.AirView](d, "/api/air")
	require.Len(t, air.Sensors, 3)
	assert.Nil(t, air.Sensors[0].In, "attic: nobody said where it hangs")
	code, _ = d.ask(
		"POST",
		fmt.Sprintf("/api/sensors/%d/hang", air.Sensors[0].ID),
		map[string]any{"in": "nowhere"},
		nil,
	)
	assert.Equal(t, 422, code)
	code, _ = d.ask(
		"POST",
		fmt.Sprintf("/api/sensors/%d/hang", air.Sensors[0].ID),
		map[string]any{"in": demo.ID("Dry cupboard")},
		nil,
	)
	assert.Equal(t, 200, code)
	flooded := 0
	for range 300 {
		if code, _, answer := d.send(senML, `[]`); code == 429 {
			flooded++
			assert.Contains(t, answer, "send less often")
		}
	}
	assert.Positive(t, flooded)
	assert.Less(t, flooded, 100)
}

func TestTheLeadsWordOfTheAirMovesThePlanAndIsTakenBack(t *testing.T) {
	d := newDeskOf(t, lyingDoc())
	now := demo.Document().Now
	dry := func() studio.Minute { return *read[api.RoomView](d, "/api/drying-room").Lying[0].Over }
	was := dry()
	for _, bad := range []map[string]any{{"feels": "damp", "until": now}, {"feels": "damp", "until": now + 40*1440}, {"feels": "odd", "until": now + 60}} {
		code, _ := d.ask("POST", "/api/air/words", bad, nil)
		assert.GreaterOrEqual(t, code, 400, "%v", bad)
	}
	code, moved := d.ask("POST", "/api/air/words", map[string]any{"feels": "very damp", "until": now + 2880}, nil)
	require.Equal(t, 200, code)
	assert.Greater(t, dry(), was)
	assert.Equal(t, "Very damp", read[api.AirView](d, "/api/air").Words[0].Said)
	code, undone := d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", moved["n"]), nil, nil)
	require.Equal(t, 200, code, undone)
	assert.Empty(t, read[api.AirView](d, "/api/air").Words)
	code, _ = d.ask("DELETE", "/api/air/words", nil, nil)
	require.Equal(t, 200, code)
	assert.Equal(t, was, dry())
}

func TestTwoPeopleCheckOneTray(t *testing.T) {
	d := newDeskOf(t, lyingDoc())
	task := string(read[api.RoomView](d, "/api/drying-room").Lying[0].Task)
	found := func(who, what string, more map[string]any) (int, map[string]any) {
		body := map[string]any{"found": what}
		for k, v := range more {
			body[k] = v
		}
		return d.ask("POST", "/api/lying/"+task+"/check", body, map[string]string{"Person": string(demo.ID(who))})
	}
	code, _ := found("Maren", "firm", nil)
	require.Equal(t, 200, code)
	code, _ = found("Teun", "firm", nil)
	assert.Equal(t, 200, code, "the same again is no trouble")
	code, answer := found("Teun", "soft", nil)
	assert.Equal(t, 409, code)
	assert.Contains(t, answer["detail"], "found them firm before")
	code, answer = found("Teun", "soft", map[string]any{"surely": true})
	require.Equal(t, 200, code)
	room := read[api.RoomView](d, "/api/drying-room")
	assert.Equal(t, studio.FoundSoft, room.Lying[0].State)
	assert.Equal(t, "Teun", room.Lying[0].FoundBy)
	code, _ = d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", answer["n"]), nil, nil)
	require.Equal(t, 200, code)
	assert.Equal(t, studio.FoundFirm, read[api.RoomView](d, "/api/drying-room").Lying[0].State)
	code, _ = found("Maren", "spoilt", map[string]any{"pieces": 99})
	assert.Equal(t, 409, code)
	code, _ = found("Maren", "spoilt", map[string]any{"pieces": 2})
	assert.Equal(t, 200, code)
	assert.EqualValues(t, 16, read[api.RoomView](d, "/api/drying-room").Lying[0].Pieces)
	code, _ = d.ask(
		"POST",
		"/api/lying/"+task+"/put",
		map[string]any{"place": demo.ID("Cupboard shelf"), "slots": 2, "frees": true},
		nil,
	)
	require.Equal(t, 200, code)
	assert.Equal(t, demo.ID("Dry cupboard"), read[api.RoomView](d, "/api/drying-room").Lying[0].In)
	code, _ = found("Maren", "dry", nil)
	require.Equal(t, 200, code)
	_ = read[api.RoomView](d, "/api/drying-room")
	doc, _, err := d.store.Document(t.Context(), store.Accepted, standing)
	require.NoError(t, err)
	require.Empty(t, doc.Validate())
	inForce, _, _, err := d.store.PlanInForce(t.Context())
	require.NoError(t, err)
	assert.Empty(t, check.Plan(doc, inForce))
	code, _ = found("Maren", "dry", nil)
	assert.Equal(t, 200, code, "they still lie there")
	code, answer = d.ask("POST", "/api/lying/nothing.dry/check", map[string]any{"found": "dry"}, nil)
	assert.Equal(t, 409, code)
	assert.Contains(t, answer["detail"], "look at it again")
}

func TestLabelsAndTimers(t *testing.T) {
	d := newDeskOf(t, lyingDoc())
	lot := string(read[api.RoomView](d, "/api/drying-room").Lying[0].Lot)
	for ending, begins := range map[string]string{"svg": "<svg", "png": "\x89PNG"} {
		answer := httptest.NewRecorder()
		d.app.API.Adapter().ServeHTTP(answer, httptest.NewRequest("GET", "/api/lots/"+lot+"/label."+ending, nil))
		require.Equal(t, 200, answer.Code)
		assert.True(t, bytes.HasPrefix(answer.Body.Bytes(), []byte(begins)), ending)
		if ending == "svg" {
			assert.Contains(t, answer.Body.String(), "Magnolia outer petal")
			assert.Contains(t, answer.Body.String(), "18, Oyster ivory")
		}
	}
	code, answer := d.ask("POST", "/api/lots/"+lot+"/label/print", nil, nil)
	assert.Equal(t, 502, code)
	assert.Contains(t, answer["detail"], "No label printer is connected")
	code, _ = d.ask("GET", "/api/lots/gone/label.svg", nil, nil)
	assert.Equal(t, 404, code)

	code, _ = d.ask("POST", "/api/timers", map[string]any{"name": "Lace in the oven", "minutes": 10}, nil)
	require.Equal(t, 200, code)
	timers := read[api.RoomView](d, "/api/drying-room").Timers
	require.Len(t, timers, 1)
	assert.False(t, timers[0].Rings)
	_, _ = d.ask("POST", "/api/clock", map[string]any{"by": "quarter"}, nil)
	assert.True(t, read[api.RoomView](d, "/api/drying-room").Timers[0].Rings)
	code, _ = d.ask("POST", "/api/timers/"+string(timers[0].ID)+"/stop", nil, nil)
	assert.Equal(t, 200, code)
	code, _ = d.ask("POST", "/api/timers/"+string(timers[0].ID)+"/stop", nil, nil)
	assert.Equal(t, 404, code)
}

// withPast is a desk of the demo with its measured weeks and past work behind it.
func withPast(t testing.TB) desk {
	d := newDesk(t)
	doc := demo.Document()
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	now := calendar.Time(doc.Now)
	for _, h := range hygrometer.Harbour() {
		require.NoError(
			t,
			h.Recall(
				now.AddDate(0, 0, -demo.DaysMeasured),
				now,
				func(pack []byte) error { return d.app.Receive(t.Context(), pack) },
			),
		)
	}
	return d
}

// tablets listen to the events of an application; each tells the numbers that it hears.
func tablets(t testing.TB, url string, number int) (heard []chan string) {
	for range number {
		heard = append(heard, follows(t, url, ""))
	}
	return heard
}

// follows is a browser, with its cookie if it has one, that hears of every line of the journal.
func follows(t testing.TB, url, cookie string) chan string {
	request, err := http.NewRequest(http.MethodGet, url+"/api/events", nil)
	require.NoError(t, err)
	if cookie != "" {
		request.Header.Set("Cookie", api.Cookie+"="+cookie)
	}
	answer, err := http.DefaultClient.Do(request)
	require.NoError(t, err)
	require.Equal(t, http.StatusOK, answer.StatusCode)
	t.Cleanup(func() { _ = answer.Body.Close() })
	says := make(chan string, 1000)
	go func() {
		lines := bufio.NewScanner(answer.Body)
		for lines.Scan() {
			if data, is := strings.CutPrefix(lines.Text(), "data: "); is {
				var told struct{ N int64 }
				_ = json.Unmarshal([]byte(data), &told)
				says <- fmt.Sprint(told.N)
			}
		}
	}()
	return says
}

// BenchmarkACheckSeenByFortyTablets is one touch until forty tablets were told and one of
// them has read the room anew; a forty-first, whose network is gone, reads nothing.
func BenchmarkACheckSeenByFortyTablets(b *testing.B) {
	d := newDeskOf(b, lyingDoc())
	url, stop := d.serve()
	defer func() { _ = stop() }()
	asleep, err := http.Get(url + "/api/events")
	require.NoError(b, err)
	defer asleep.Body.Close()
	heard := tablets(b, url, 40)
	for _, says := range heard {
		<-says
	}
	task := string(read[api.RoomView](d, "/api/drying-room").Lying[0].Task)
	found := []string{"firm", "firm"}
	for i := 0; b.Loop(); i++ {
		code, answer := d.ask("POST", "/api/lying/"+task+"/check", map[string]any{"found": found[i%2]}, nil)
		if code != 200 {
			b.Fatal(answer)
		}
		for _, says := range heard {
			for n := ""; n != fmt.Sprint(answer["n"]); {
				n = <-says
			}
		}
		read[api.RoomView](d, "/api/drying-room")
	}
}

func TestATabletThatIsAwayDelaysNobody(t *testing.T) {
	d := newDeskOf(t, lyingDoc())
	url, stop := d.serve()
	defer func() { _ = stop() }()
	asleep, err := http.Get(url + "/api/events")
	require.NoError(t, err)
	defer asleep.Body.Close()
	heard := tablets(t, url, 40)
	task := string(read[api.RoomView](d, "/api/drying-room").Lying[0].Task)
	_, answer := d.ask("POST", "/api/lying/"+task+"/check", map[string]any{"found": "firm"}, nil)
	for _, says := range heard {
		for n := ""; n != fmt.Sprint(answer["n"]); {
			select {
			case n = <-says:
			case <-time.After(time.Minute):
				t.Fatal("a tablet was not told")
			}
		}
	}
}

func TestPlacesAreAddedChangedAndKeptWhileInUse(t *testing.T) {
	d := newDeskOf(t, lyingDoc())
	place := func(id studio.ID) *studio.Place {
		for _, p := range d.workshop().Places {
			if p.ID == id {
				return &p
			}
		}
		return nil
	}
	moulds := demo.ID("Half-sphere mould 60 mm")
	code, answer := d.wishes(workshop.Places, moulds, place(moulds), nil)
	assert.Equal(t, 409, code)
	assert.Contains(t, answer["detail"], "is used by")
	rack := studio.Place{ID: studio.ID(uuid.NewString()), Name: "Wide rack", In: demo.ID("Dry cupboard")}
	code, _ = d.wishes(workshop.Places, rack.ID, nil, rack)
	assert.Equal(t, 422, code, "of no slots")
	rack.Slots = 6
	code, _ = d.wishes(workshop.Places, rack.ID, nil, rack)
	require.Equal(t, 200, code)
	shelf := func() *api.ShelfView {
		room := read[api.RoomView](d, "/api/drying-room")
		for i := range room.Shelves {
			if room.Shelves[i].ID == rack.ID {
				return &room.Shelves[i]
			}
		}
		return nil
	}
	require.NotNil(t, shelf())
	code, changed := d.wishes(workshop.Places, rack.ID, rack, studio.Place{ID: rack.ID, Name: rack.Name, Slots: 9})
	require.Equal(t, 200, code)
	assert.EqualValues(t, 9, shelf().Slots)
	code, _ = d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", changed["n"]), nil, nil)
	require.Equal(t, 200, code)
	assert.EqualValues(t, 6, shelf().Slots)
	assert.Equal(t, demo.ID("Dry cupboard"), shelf().In)
	code, removed := d.wishes(workshop.Places, rack.ID, rack, nil)
	require.Equal(t, 200, code)
	assert.Nil(t, shelf())
	code, answer = d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", removed["n"]), nil, nil)
	require.Equal(t, 200, code, answer)
	assert.EqualValues(t, 6, shelf().Slots)
}

// What was recorded is weighed, accepted with its effect on the plan, refused, taken back.
func TestStandardsAreAcceptedAndRefused(t *testing.T) {
	d := newDesk(t)
	doc := demo.Document()
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	require.NoError(t, d.store.SeedHistory(t.Context(), demo.History(doc, drying.NewRoom(doc, calendar), calendar)))
	proposals := func() (keys []string) {
		for _, r := range read[api.LogView](d, "/api/log").Records {
			if r.Proposes {
				keys = append(keys, r.Key)
			}
		}
		return keys
	}
	before := proposals()
	require.NotEmpty(t, before)
	accepted := 0
	for _, r := range read[api.LogView](d, "/api/log").Records {
		if !r.Proposes {
			continue
		}
		effect := read[api.Effect](d, "/api/log/effect?key="+url.QueryEscape(r.Key))
		assert.NotEmpty(t, effect.Orders, r.Key)
		code, answer := d.ask("POST", "/api/log/accept", map[string]any{"key": r.Key}, nil)
		require.Equal(t, 200, code, answer)
		assert.NotContains(t, proposals(), r.Key)
		for _, now := range read[api.LogView](d, "/api/log").Records {
			if now.Key == r.Key {
				assert.Equal(t, r.Found, now.Standard, r.Key)
			}
		}
		if r.Kind != "step" && r.Kind != "breakage" { // a revision stays in the book
			code, answer = d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", answer["n"]), nil, nil)
			require.Equal(t, 200, code, answer)
			assert.Contains(t, proposals(), r.Key)
			code, answer = d.ask("POST", "/api/log/refuse", map[string]any{"key": r.Key}, nil)
			require.Equal(t, 200, code, answer)
			assert.NotContains(t, proposals(), r.Key)
			code, answer = d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", answer["n"]), nil, nil)
			require.Equal(t, 200, code, answer)
			assert.Contains(t, proposals(), r.Key)
		}
		accepted++
	}
	assert.Positive(t, accepted)
	code, _ := d.ask("POST", "/api/log/accept", map[string]any{"key": "class/gone"}, nil)
	assert.Equal(t, 404, code)
	code, _ = d.ask("POST", "/api/log/percentile", map[string]any{"percentile": 90}, nil)
	require.Equal(t, 200, code)
	code, _ = d.ask(
		"POST",
		"/api/log/percentile",
		map[string]any{"class": demo.ID("thin petal"), "percentile": 65},
		nil,
	)
	require.Equal(t, 200, code)
	log := read[api.LogView](d, "/api/log")
	assert.EqualValues(t, 90, log.Percentile)
	assert.EqualValues(t, 65, log.Classes[0].Percentile)
	code, _ = d.ask("POST", "/api/log/percentile", map[string]any{"percentile": 12}, nil)
	assert.Equal(t, 422, code)
}

// A year of readings, one a minute from each of four sensors, behind the demo.
func aYear(b *testing.B) desk {
	doc := lyingDoc()
	doc.Sensors = []studio.Sensor{
		{Device: "a"},
		{Device: "b"},
		{Device: "c", In: demo.ID("Dry cupboard")},
		{Device: "d", In: demo.ID("Dry cupboard")},
	}
	const year = 365 * 1440
	doc.Epoch, doc.Now = doc.Epoch.AddDate(0, 0, -365), doc.Now+year
	for i := range doc.Work {
		for j := range doc.Work[i].Records {
			doc.Work[i].Records[j].Start += year
			doc.Work[i].Records[j].End += year
		}
	}
	for i := range doc.Shelf {
		doc.Shelf[i].MadeOn += year
		if doc.Shelf[i].UseBy != nil {
			*doc.Shelf[i].UseBy += year
		}
	}
	d := newDeskOf(b, doc)
	for _, sensor := range doc.Sensors {
		for day := studio.Minute(0); day < doc.Now/1440; day++ {
			var samples []climate.Sample
			for minute := day * 1440; minute < (day+1)*1440; minute++ {
				celsius, humidity := 195+int64(minute%3), studio.PerMille(640+minute%7+50*(minute/720%2))
				samples = append(samples, climate.Sample{At: minute, Celsius: &celsius, Humidity: &humidity})
			}
			_, err := d.store.TakeSamples(b.Context(), sensor.Device, samples)
			require.NoError(b, err)
		}
	}
	require.NoError(b, d.app.Open(b.Context()))
	return d
}

func BenchmarkTheDryingRoomAfterAYear(b *testing.B) {
	d := aYear(b)
	for _, path := range []string{"drying-room", "air", "log"} {
		b.Run(path, func(b *testing.B) {
			for b.Loop() {
				if status, answer := d.ask("GET", "/api/"+path, "", nil); status != 200 {
					b.Fatal(answer)
				}
			}
		})
	}
	b.Run("opened after a command", func(b *testing.B) {
		for b.Loop() {
			d.ask("POST", "/api/timers", map[string]any{"name": "x", "minutes": 5}, nil)
			d.ask("GET", "/api/drying-room", "", nil)
			d.ask("GET", "/api/air", "", nil)
		}
	})
}

func TestTheSensorsOfTheYardAreUnderstood(t *testing.T) {
	d := withPast(t)
	air := read[api.AirView](d, "/api/air")
	for _, s := range air.Sensors {
		assert.Positive(t, s.Refused, "%s sends nonsense now and then", s.Device)
		assert.False(t, s.Stuck)
	}
	measured := 0
	for _, p := range air.Places[0].Curve {
		if p.Kind == "measured" {
			measured++
		}
	}
	assert.Greater(t, measured, 30)
	assert.Positive(t, air.Places[0].Aside+air.Places[1].Aside, "what could be and stands out is left aside, and said")
	assert.Greater(t, air.Places[0].Curve[40].Spread, studio.PerMille(5))
}

// What cannot be what it was, because another has its name by now, is told so.
func TestANameThatIsTakenByNowIsNotTakenBack(t *testing.T) {
	d := newDesk(t)
	rack := studio.Place{ID: studio.ID(uuid.NewString()), Name: "Wide rack", Slots: 4}
	status, _ := d.wishes(workshop.Places, rack.ID, nil, rack)
	require.Equal(t, 200, status)
	narrow := rack
	narrow.Name = "Narrow rack"
	status, renamed := d.wishes(workshop.Places, rack.ID, rack, narrow)
	require.Equal(t, 200, status, renamed)
	rack.ID = studio.ID(uuid.NewString())
	status, _ = d.wishes(workshop.Places, rack.ID, nil, rack)
	require.Equal(t, 200, status)
	status, refused := d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", renamed["n"]), "", nil)
	assert.Equal(t, 409, status)
	assert.Contains(t, refused["detail"], "something else has its name")
}
