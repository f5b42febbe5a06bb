package studio

import (
	"fmt"
	"strings"
	"sync"
	"time"
	_ "time/tzdata" // a document names its zone; the program must know it on any machine
)

// TimeOfDay is a local wall time in minutes after midnight, 0 to 1440.
// Its text form is "HH:MM"; "24:00" is the end of a day.
type TimeOfDay int

// UnmarshalText reads "HH:MM".
func (t *TimeOfDay) UnmarshalText(text []byte) error {
	var hour, minute int
	if n, err := fmt.Sscanf(string(text), "%02d:%02d", &hour, &minute); n != 2 || err != nil || len(text) != 5 ||
		hour < 0 || minute < 0 || minute > 59 || hour*60+minute > 1440 {
		return fmt.Errorf("%q is not a time of day such as \"08:30\"", text)
	}
	*t = TimeOfDay(hour*60 + minute)
	return nil
}

// MarshalText writes "HH:MM".
func (t TimeOfDay) MarshalText() ([]byte, error) { return []byte(t.String()), nil }

func (t TimeOfDay) String() string { return fmt.Sprintf("%02d:%02d", int(t)/60, int(t)%60) }

// Date is a calendar day in the studio's zone, "2027-09-20".
type Date string

// UnmarshalText reads and checks "YYYY-MM-DD".
func (d *Date) UnmarshalText(text []byte) error {
	if _, err := time.Parse(time.DateOnly, string(text)); err != nil {
		return fmt.Errorf("%q is not a date such as \"2027-09-20\"", text)
	}
	*d = Date(text)
	return nil
}

// WallTime is a local date and time without a zone, "2027-10-02T14:00".
type WallTime string

const wallLayout = "2006-01-02T15:04"

// UnmarshalText reads and checks "YYYY-MM-DDTHH:MM".
func (w *WallTime) UnmarshalText(text []byte) error {
	if _, err := time.Parse(wallLayout, string(text)); err != nil {
		return fmt.Errorf("%q is not a local time such as \"2027-10-02T14:00\"", text)
	}
	*w = WallTime(text)
	return nil
}

// Weekday is a day of the week by its lower-case English name.
type Weekday string

var weekdays = map[Weekday]time.Weekday{
	"monday": time.Monday, "tuesday": time.Tuesday, "wednesday": time.Wednesday, "thursday": time.Thursday,
	"friday": time.Friday, "saturday": time.Saturday, "sunday": time.Sunday,
}

// UnmarshalText reads "monday" to "sunday".
func (w *Weekday) UnmarshalText(text []byte) error {
	if _, known := weekdays[Weekday(text)]; !known {
		return fmt.Errorf("%q is not a weekday such as \"monday\"", text)
	}
	*w = Weekday(text)
	return nil
}

// Calendar turns the studio's local wall times into minutes and back.
// A wall time inside a gap moves forward by the gap; an ambiguous one is its
// first occurrence. It is a value and safe for concurrent use.
type Calendar struct {
	epoch time.Time
	zone  *time.Location
}

// NewCalendar needs an epoch on a whole minute and an IANA zone name.
func NewCalendar(epoch time.Time, zone string) (Calendar, error) {
	location, err := located(zone)
	if err != nil || zone == "" || zone == "Local" {
		return Calendar{}, fmt.Errorf("%q is not an IANA time zone such as \"Europe/Dublin\"", zone)
	}
	if !epoch.Equal(epoch.Truncate(time.Minute)) {
		return Calendar{}, fmt.Errorf("epoch %s is not on a whole minute", epoch.Format(time.RFC3339Nano))
	}
	return Calendar{epoch.UTC(), location}, nil
}

// zones are those that were read from their files, by name: a studio has one, and is asked
// for it at every turn.
var zones sync.Map

func located(zone string) (*time.Location, error) {
	if known, ok := zones.Load(zone); ok {
		return known.(*time.Location), nil
	}
	location, err := time.LoadLocation(zone)
	if err == nil {
		zones.Store(zone, location)
	}
	return location, err
}

// Time is the instant of a minute, in the studio's zone.
func (c Calendar) Time(m Minute) time.Time {
	return c.epoch.Add(time.Duration(m) * time.Minute).In(c.zone)
}

// MinuteOf is the whole minute that holds an instant.
func (c Calendar) MinuteOf(t time.Time) Minute {
	return Minute(t.Truncate(time.Minute).Sub(c.epoch) / time.Minute)
}

// Wall is the local wall time of a minute.
func (c Calendar) Wall(m Minute) WallTime { return WallTime(c.Time(m).Format(wallLayout)) }

// Minute is the minute of a local wall time, which must be valid.
func (c Calendar) Minute(w WallTime) Minute {
	wall, err := time.Parse(wallLayout, string(w))
	if err != nil {
		panic("studio: unchecked wall time " + string(w))
	}
	return c.minute(wall)
}

// minute is the minute of a local wall time, given as if it were one of UTC.
func (c Calendar) minute(wall time.Time) Minute {
	offset := func(t time.Time) time.Duration {
		_, seconds := t.In(c.zone).Zone()
		return time.Duration(seconds) * time.Second
	}
	before, after := offset(wall.Add(-24*time.Hour)), offset(wall.Add(24*time.Hour))
	first, second := wall.Add(-before), wall.Add(-after)
	if offset(first) != before && offset(second) == after {
		return c.MinuteOf(second)
	}
	return c.MinuteOf(first)
}

// At is the minute of a time of day on a date.
func (c Calendar) At(d Date, t TimeOfDay) Minute {
	return c.minute(d.midnight().Add(time.Duration(t) * time.Minute))
}

// midnight is the wall time at which a date begins, as if it were one of UTC.
func (d Date) midnight() time.Time {
	day, err := time.Parse(time.DateOnly, string(d))
	if err != nil {
		panic("studio: unchecked date " + string(d))
	}
	return day
}

// Date is the local day that holds a minute.
func (c Calendar) Date(m Minute) Date { return Date(c.Time(m).Format(time.DateOnly)) }

// SameDay says whether two minutes lie on one local day.
func (c Calendar) SameDay(a, b Minute) bool {
	y, m, d := c.Time(a).Date()
	y2, m2, d2 := c.Time(b).Date()
	return y == y2 && m == m2 && d == d2
}

// Next is the day after d.
func (d Date) Next() Date {
	day, _ := time.Parse(time.DateOnly, string(d))
	return Date(day.AddDate(0, 0, 1).Format(time.DateOnly))
}

// Weekday is the day of the week of d.
func (d Date) Weekday() Weekday {
	day, _ := time.Parse(time.DateOnly, string(d))
	return Weekday(strings.ToLower(day.Weekday().String()))
}
