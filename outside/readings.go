package outside

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"

	"bractum/core/studio"
)

// units of the columns of a table of readings.
var units = map[string]string{"celsius": "Cel", "kelvin": "K", "fahrenheit": "degF", "humidity": "%RH"}

// ReadReadings reads a table of readings, CSV with a head: sensor, time, and celsius,
// kelvin or fahrenheit and humidity in per cent. Times are RFC 3339 or the studio's own
// wall time. Rows that cannot be read are named, the others count.
func ReadReadings(body []byte, calendar studio.Calendar) ([]Sent, []Unread, error) {
	table := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(body, []byte("\xef\xbb\xbf"))))
	table.FieldsPerRecord = -1
	table.TrimLeadingSpace = true
	head, err := table.Read()
	if err != nil {
		return nil, nil, fmt.Errorf("this is no table of readings: its head cannot be read (%w)", err)
	}
	column := map[string]int{}
	for i, name := range head {
		column[strings.ToLower(strings.TrimSpace(name))] = i
	}
	_, named := column["sensor"]
	_, timed := column["time"]
	var measured []string
	for name := range units {
		if _, has := column[name]; has {
			measured = append(measured, name)
		}
	}
	if !named || !timed || len(measured) == 0 {
		return nil, nil, errors.New(
			"this is no table of readings: its head must name sensor, time, and celsius, kelvin, fahrenheit or humidity",
		)
	}
	g := newGathering()
	for line := 2; ; line++ {
		row, err := table.Read()
		if errors.Is(err, io.EOF) {
			return g.sent, g.unread, nil
		}
		if line > mostRecords {
			return nil, nil, ErrTooMany
		}
		at := fmt.Sprintf("line %d", line)
		if err != nil || len(row) < len(head) {
			g.refuse(at, fmt.Sprintf("it has %d of %d columns", len(row), len(head)))
			continue
		}
		name := strings.TrimSpace(row[column["sensor"]])
		if !nameOf.MatchString(name) {
			g.refuse(at, fmt.Sprintf("%q is not how a sensor's name is written", name))
			continue
		}
		minute, err := minuteOf(strings.TrimSpace(row[column["time"]]), calendar)
		if err != nil {
			g.refuse(at, err.Error())
			continue
		}
		for _, what := range measured {
			text := strings.TrimSpace(row[column[what]])
			if text == "" {
				continue
			}
			value, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
			if err != nil {
				g.refuse(at, fmt.Sprintf("%q is not a number", text))
				continue
			}
			g.take(name+"."+what, units[what], minute, value)
		}
	}
}

func minuteOf(text string, calendar studio.Calendar) (studio.Minute, error) {
	if t, err := time.Parse(time.RFC3339, text); err == nil {
		return calendar.MinuteOf(t), nil
	}
	const minutes = len("2006-01-02T15:04")
	wall := strings.Replace(text, " ", "T", 1)
	at, err := studio.ParseWallTime(wall[:min(minutes, len(wall))])
	if err != nil {
		return 0, fmt.Errorf("%q is no time; 2027-09-20T08:30 is one", text)
	}
	return calendar.Minute(at), nil
}
