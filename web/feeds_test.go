package web_test

import (
	"fmt"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/emersion/go-ical"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/demo"
)

// event is one of a calendar, as a program reads it.
type event struct {
	status, summary, from, to string
}

// subscribed reads a calendar by two programs that know nothing of each other, which have to find the same in it.
func (d desk) subscribed(t testing.TB, of string) map[string]event {
	t.Helper()
	answer := httptest.NewRecorder()
	d.app.API.Adapter().ServeHTTP(answer, httptest.NewRequest("GET", "/api/calendars/"+of+".ics", nil))
	require.Equal(t, 200, answer.Code, answer.Body)
	require.Equal(t, "text/calendar; charset=utf-8", answer.Header().Get("Content-Type"))
	text := answer.Body.String()
	first, second := map[string]event{}, map[string]event{}
	one, err := ics.ParseCalendar(strings.NewReader(text))
	require.NoError(t, err)
	for _, e := range one.Events() {
		from, err := e.GetStartAt()
		require.NoError(t, err)
		to, err := e.GetEndAt()
		require.NoError(t, err)
		first[e.Id()] = event{e.GetProperty(ics.ComponentPropertyStatus).Value,
			e.GetProperty(ics.ComponentPropertySummary).Value, from.UTC().String(), to.UTC().String()}
	}
	other, err := ical.NewDecoder(strings.NewReader(text)).Decode()
	require.NoError(t, err)
	for _, e := range other.Events() {
		from, err := e.DateTimeStart(time.UTC)
		require.NoError(t, err)
		to, err := e.DateTimeEnd(time.UTC)
		require.NoError(t, err)
		id, _ := e.Props.Text(ical.PropUID)
		status, _ := e.Props.Text(ical.PropStatus)
		summary, _ := e.Props.Text(ical.PropSummary)
		assert.False(t, to.Before(from))
		second[id] = event{status, summary, from.UTC().String(), to.UTC().String()}
	}
	require.Equal(t, first, second)
	return first
}

// Hand-overs, a maker's work and what dries are subscribed to; what is changed or cancelled keeps its UID.
func TestCalendarsFollowTheStudio(t *testing.T) {
	d := newDesk(t)
	wish := with(order(2, "Waxflower stem"), "name", "Regatta; at the quay, noon")
	id := d.asked(t, "/api/orders", wish)["id"].(string)
	before := d.subscribed(t, "hand-overs")
	assert.Len(t, before, 5)
	mine := before[id+".hand-over@bractum"]
	assert.Equal(t, event{"CONFIRMED", "Regatta; at the quay, noon, collected", "2027-10-04 09:00:00 +0000 UTC",
		"2027-10-04 09:30:00 +0000 UTC"}, mine)
	status, answer := d.ask("POST", "/api/orders/"+id+"/cancel", nil, map[string]string{"If-Match": "1"})
	require.Equal(t, 200, status, answer)
	after := d.subscribed(t, "hand-overs")
	assert.Len(t, after, 5)
	assert.Equal(t, "CANCELLED", after[id+".hand-over@bractum"].status)

	d.ask("GET", "/api/plan", "", nil) // once it is worked out
	assert.NotEmpty(t, d.subscribed(t, "people/"+string(demo.ID("Teun"))))
	assert.NotEmpty(t, d.subscribed(t, "drying"))
	nobody := httptest.NewRecorder()
	d.app.API.Adapter().
		ServeHTTP(nobody, httptest.NewRequest("GET", "/api/calendars/people/"+uuid.NewString()+".ics", nil))
	assert.Equal(t, 404, nobody.Code)
}

// BenchmarkHandOversCalendar is the calendar of the season's sixty orders beside as many cancelled ones as make a year
// of four hundred.
func BenchmarkHandOversCalendar(b *testing.B) {
	doc := demo.Season(1, 1, 75)
	lines := doc.Orders[0].Lines
	for i := range 340 {
		doc.Orders = append(doc.Orders, studio.Order{ID: studio.ID(uuid.NewString()), Name: fmt.Sprint("Gone ", i),
			Leaves: doc.Orders[0].Leaves.Plus(-1 - i%300), Leaving: studio.Collected, Importance: 10,
			State: studio.OrderLeft, Lines: []studio.OrderLine{{ID: studio.ID(uuid.NewString()), Recipe: lines[0].Recipe,
				Colourway: lines[0].Colourway, Quantity: 1, ServiceLevel: 950, Gone: 1}}})
	}
	d := newDeskOf(b, doc)
	assert.Len(b, d.subscribed(b, "hand-overs"), 400)
	for b.Loop() {
		answer := httptest.NewRecorder()
		d.app.API.Adapter().ServeHTTP(answer, httptest.NewRequest("GET", "/api/calendars/hand-overs.ics", nil))
		require.Equal(b, 200, answer.Code)
	}
}
