package calendar_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/calendar"
	"bractum/core/studio"
)

func event(lines ...string) string {
	return "BEGIN:VEVENT\r\nUID:1\r\nSUMMARY:Away\r\n" + strings.Join(lines, "\r\n") + "\r\nEND:VEVENT\r\n"
}

func away(t *testing.T, events ...string) (days []string, times []string, err error) {
	in, e := studio.NewCalendar(time.Date(2027, 1, 1, 0, 0, 0, 0, time.UTC), "Europe/Dublin")
	require.NoError(t, e)
	at := func(text string) studio.Minute { return in.Minute(studio.MustWallTime(text)) }
	file := "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\n" + strings.Join(events, "") + "END:VCALENDAR\r\n"
	found, spans, err := calendar.Away(strings.NewReader(file), in, at("2027-09-20T08:30"), at("2027-12-01T00:00"))
	for _, d := range found {
		days = append(days, d.String())
	}
	for _, s := range spans {
		times = append(times, in.Wall(s.From).String()+" "+in.Wall(s.To).String())
	}
	return days, times, err
}

// Days and times are those of the studio's clock, whatever zone an event is in; what repeats does each time, what is
// over, called off or takes no time away is not there.
func TestDaysAndTimesAwayAreRead(t *testing.T) {
	days, times, err := away(t,
		event("DTSTART;VALUE=DATE:20270918", "DTEND;VALUE=DATE:20270922"),
		event("DTSTART;VALUE=DATE:20271025"),
		event("DTSTART;VALUE=DATE:20271025", "STATUS:CANCELLED"),
		event("DTSTART;VALUE=DATE:20271101", "TRANSP:TRANSPARENT"),
		event("DTSTART:20270921T120000Z", "DURATION:PT1H30M"),
		event("DTSTART;TZID=America/New_York:20270921T093000", "DTEND;TZID=America/New_York:20270921T110000"),
		event("DTSTART:20271025T140000", "DTEND:20271025T150000", "RRULE:FREQ=WEEKLY;COUNT=4", "EXDATE:20271101T140000"),
		event("DTSTART:20270101T080000", "DTEND:20270101T090000"))
	require.NoError(t, err)
	assert.Equal(t, []string{"2027-09-20", "2027-09-21", "2027-10-25"}, days)
	assert.Equal(t, []string{"2027-09-21T13:00 2027-09-21T16:00", "2027-10-25T14:00 2027-10-25T15:00",
		"2027-11-08T14:00 2027-11-08T15:00", "2027-11-15T14:00 2027-11-15T15:00"}, times)
}

// What cannot be read says so, and by which event.
func TestACalendarThatCannotBeReadSaysWhy(t *testing.T) {
	for lines, says := range map[string]string{
		"DTSTART:yesterday":                                                                "Away",
		"DTEND:20270921T120000":                                                            "has no beginning",
		"DTSTART:20270921T120000\r\nDURATION:a while":                                      "which is no duration",
		"DTSTART:20270921T120000\r\nDURATION:P9999D":                                       "longer than two years",
		"DTSTART:20270921T120000\r\nRRULE:FREQ=SECONDLY":                                   "repeats in a way",
		"DTSTART:20270921T120000\r\nRRULE:FREQ=FORTNIGHTLY":                                "repeats in a way",
		"DTSTART:00010921T120000\r\nRRULE:FREQ=HOURLY":                                     "repeats in a way",
		"DTSTART:20270101T000000\r\nDURATION:PT1M\r\nRRULE:FREQ=HOURLY;BYMINUTE=1,3,5,7,9": "more than 2000 times",
	} {
		_, _, err := away(t, event(strings.Split(lines, "\r\n")...))
		require.Error(t, err, lines)
		assert.Contains(t, err.Error(), says)
	}
	in, err := studio.NewCalendar(time.Date(2027, 1, 1, 0, 0, 0, 0, time.UTC), "UTC")
	require.NoError(t, err)
	_, _, err = calendar.Away(strings.NewReader("name,day\n"), in, 0, 1)
	assert.Error(t, err)
}
