// Package calendar reads iCalendar files (RFC 5545): the days and times on which somebody is away.
package calendar

import (
	"cmp"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/teambition/rrule-go"

	"bractum/core/studio"
)

// MostBytes is the largest file that is read, mostTimes how many of its times are taken, longest how long an event
// may be.
const (
	MostBytes = 4 << 20
	mostTimes = 2000
	longest   = 2 * 366 * 24 * time.Hour
)

// Away are the days that events of a file take whole, and the times that others take, from one minute to another:
// repeated ones each time, cancelled ones and those that leave one free not at all. An event without a zone is in
// the studio's. Each is given once, in order; times that touch are one.
func Away(
	file io.Reader,
	in studio.Calendar,
	from, to studio.Minute,
) (days []studio.Date, times []studio.Span, err error) {
	parsed, err := ics.ParseCalendar(io.LimitReader(file, MostBytes))
	if err != nil {
		return nil, nil, fmt.Errorf("is no iCalendar file that can be read: %w", err)
	}
	seen := map[studio.Date]bool{}
	for _, e := range parsed.Events() {
		if value(e, ics.ComponentPropertyStatus) == "CANCELLED" ||
			value(e, ics.ComponentPropertyTransp) == "TRANSPARENT" {
			continue
		}
		begins, length, whole, err := of(e, in)
		if err == nil && length > longest {
			err = fmt.Errorf("lasts longer than two years")
		}
		if err != nil {
			return nil, nil, fmt.Errorf("“%s” %w", value(e, ics.ComponentPropertySummary), err)
		}
		starts, err := repeated(e, begins, in, from-studio.Minute(length/time.Minute), to)
		if err != nil {
			return nil, nil, fmt.Errorf("“%s” repeats in a way that is not understood: %w",
				value(e, ics.ComponentPropertySummary), err)
		}
		for _, start := range starts {
			if whole {
				for day := start; day.Before(start.Add(length)); day = day.AddDate(0, 0, 1) {
					d := studio.MustDate(day.Format(time.DateOnly))
					if !seen[d] && in.At(d, 1440) > from && in.At(d, 0) < to {
						seen[d] = true
						days = append(days, d)
					}
				}
				continue
			}
			span := studio.Span{From: max(from, in.MinuteOf(start)), To: min(to, in.MinuteOf(start.Add(length)))}
			if span.From < span.To {
				times = append(times, span)
			}
			if len(times) > mostTimes {
				return nil, nil, fmt.Errorf("holds more than %d times", mostTimes)
			}
		}
	}
	slices.SortFunc(days, func(a, b studio.Date) int { return cmp.Compare(a.String(), b.String()) })
	return days, joined(times), nil
}

func value(e *ics.VEvent, of ics.ComponentProperty) string {
	if p := e.GetProperty(of); p != nil {
		return p.Value
	}
	return ""
}

// of is when an event begins, how long it is, and whether it takes whole days.
func of(e *ics.VEvent, in studio.Calendar) (begins time.Time, length time.Duration, whole bool, err error) {
	start := e.GetProperty(ics.ComponentPropertyDtStart)
	if start == nil {
		return begins, 0, false, fmt.Errorf("has no beginning")
	}
	if begins, whole, err = moment(start.Value, zone(start, in)); err != nil {
		return begins, 0, whole, err
	}
	end := e.GetProperty(ics.ComponentPropertyDtEnd)
	switch {
	case end != nil:
		ends, _, err := moment(end.Value, zone(end, in))
		return begins, max(0, ends.Sub(begins)), whole, err
	case whole:
		return begins, 24 * time.Hour, whole, nil
	}
	length, err = lasting(value(e, ics.ComponentPropertyDuration))
	return begins, length, whole, err
}

var duration = regexp.MustCompile(
	`^\+?P(?:(\d{1,4})W)?(?:(\d{1,5})D)?(?:T(?:(\d{1,5})H)?(?:(\d{1,6})M)?(?:(\d{1,7})S)?)?$`)

// lasting is a duration such as P1DT2H30M; none at all takes no time.
func lasting(text string) (sum time.Duration, err error) {
	if text == "" {
		return 0, nil
	}
	parts := duration.FindStringSubmatch(text)
	if parts == nil {
		return 0, fmt.Errorf("lasts %q, which is no duration", text)
	}
	units := []time.Duration{7 * 24 * time.Hour, 24 * time.Hour, time.Hour, time.Minute, time.Second}
	for i, unit := range units {
		number, _ := strconv.Atoi(parts[i+1]) // digits, or nothing
		sum += time.Duration(number) * unit
	}
	return sum, nil
}

func zone(p *ics.IANAProperty, in studio.Calendar) *time.Location {
	if names := p.ICalParameters["TZID"]; len(names) > 0 {
		if found, err := time.LoadLocation(names[0]); err == nil {
			return found
		}
	}
	return in.Time(0).Location()
}

// moment reads a date or a time; a date is midnight.
func moment(text string, zone *time.Location) (at time.Time, whole bool, err error) {
	switch {
	case len(text) == len("20270920"):
		at, err = time.ParseInLocation("20060102", text, zone)
		return at, true, err
	case strings.HasSuffix(text, "Z"):
		at, err = time.Parse("20060102T150405Z", text)
	default:
		at, err = time.ParseInLocation("20060102T150405", text, zone)
	}
	return at, false, err
}

// repeated are the beginnings of an event in a stretch, those that it leaves out aside.
func repeated(e *ics.VEvent, begins time.Time, in studio.Calendar, from, to studio.Minute) ([]time.Time, error) {
	rule := value(e, ics.ComponentPropertyRrule)
	if rule == "" {
		return []time.Time{begins}, nil
	}
	option, err := rrule.StrToROption(rule)
	if err != nil {
		return nil, err
	}
	if option.Freq > rrule.HOURLY || begins.Year() < 1900 {
		return nil, fmt.Errorf("%s", rule)
	}
	option.Dtstart = begins
	all, err := rrule.NewRRule(*option)
	if err != nil {
		return nil, err
	}
	set := rrule.Set{}
	set.RRule(all)
	for _, p := range e.GetProperties(ics.ComponentPropertyExdate) {
		for _, text := range strings.Split(p.Value, ",") {
			but, _, err := moment(text, zone(p, in))
			if err != nil {
				return nil, err
			}
			set.ExDate(but)
		}
	}
	return set.Between(in.Time(from), in.Time(to), true), nil
}

// joined are spans in order, those that touch as one.
func joined(spans []studio.Span) (all []studio.Span) {
	slices.SortFunc(spans, func(a, b studio.Span) int { return cmp.Compare(a.From, b.From) })
	for _, s := range spans {
		if last := len(all) - 1; last >= 0 && s.From <= all[last].To {
			all[last].To = max(all[last].To, s.To)
			continue
		}
		all = append(all, s)
	}
	return all
}
