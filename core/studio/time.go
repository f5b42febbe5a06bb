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

// Date is a calendar day in the studio's zone. It is parsed once, and from then on a day that
// exists; its zero value is no day. Dates are compared with ==.
type Date struct{ midnight time.Time } // as if it were one of UTC

// ParseDate reads "2027-09-20".
func ParseDate(text string) (Date, error) {
	day, err := time.Parse(time.DateOnly, text)
	if err != nil {
		return Date{}, fmt.Errorf("%q is not a date such as \"2027-09-20\"", text)
	}
	return Date{day}, nil
}

// MustDate is a date that is written into the program; it panics where that is none.
func MustDate(text string) Date {
	d, err := ParseDate(text)
	if err != nil {
		panic(err)
	}
	return d
}

// IsZero is true of no day.
func (d Date) IsZero() bool { return d.midnight.IsZero() }

// String is "2027-09-20", and empty for no day.
func (d Date) String() string {
	if d.IsZero() {
		return ""
	}
	return d.midnight.Format(time.DateOnly)
}

// UnmarshalText reads "2027-09-20".
func (d *Date) UnmarshalText(text []byte) (err error) {
	*d, err = ParseDate(string(text))
	return err
}

// MarshalText writes "2027-09-20".
func (d Date) MarshalText() ([]byte, error) { return []byte(d.String()), nil }

// WallTime is a local date and time without a zone, to the minute. It is parsed once, and
// from then on one that exists; its zero value is none. Wall times are compared with ==.
type WallTime struct{ wall time.Time } // as if it were one of UTC

const wallLayout = "2006-01-02T15:04"

// ParseWallTime reads "2027-10-02T14:00".
func ParseWallTime(text string) (WallTime, error) {
	wall, err := time.Parse(wallLayout, text)
	if err != nil {
		return WallTime{}, fmt.Errorf("%q is not a local time such as \"2027-10-02T14:00\"", text)
	}
	return WallTime{wall}, nil
}

// MustWallTime is a wall time that is written into the program; it panics where that is none.
func MustWallTime(text string) WallTime {
	w, err := ParseWallTime(text)
	if err != nil {
		panic(err)
	}
	return w
}

// WallTimeOf is what a clock shows at an instant, to the minute, in the instant's own zone.
func WallTimeOf(t time.Time) WallTime {
	return WallTime{time.Date(t.Year(), t.Month(), t.Day(), t.Hour(), t.Minute(), 0, 0, time.UTC)}
}

// IsZero is true of no time.
func (w WallTime) IsZero() bool { return w.wall.IsZero() }

// Compare is -1, 0 or 1 where one is before, at or after another.
func (w WallTime) Compare(other WallTime) int { return w.wall.Compare(other.wall) }

// String is "2027-10-02T14:00", and empty for no time.
func (w WallTime) String() string {
	if w.IsZero() {
		return ""
	}
	return w.wall.Format(wallLayout)
}

// UnmarshalText reads "2027-10-02T14:00".
func (w *WallTime) UnmarshalText(text []byte) (err error) {
	*w, err = ParseWallTime(string(text))
	return err
}

// MarshalText writes "2027-10-02T14:00".
func (w WallTime) MarshalText() ([]byte, error) { return []byte(w.String()), nil }

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
	return Calendar{epoch: epoch.UTC(), zone: location}, nil
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
func (c Calendar) Wall(m Minute) WallTime { return WallTimeOf(c.Time(m)) }

// Minute is the minute of a local wall time.
func (c Calendar) Minute(w WallTime) Minute { return c.minute(w.wall) }

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
	return c.minute(d.midnight.Add(time.Duration(t) * time.Minute))
}

// Date is the local day that holds a minute.
func (c Calendar) Date(m Minute) Date {
	year, month, day := c.Time(m).Date()
	return Date{time.Date(year, month, day, 0, 0, 0, 0, time.UTC)}
}

// SameDay says whether two minutes lie on one local day.
func (c Calendar) SameDay(a, b Minute) bool { return c.Date(a) == c.Date(b) }

// Next is the day after d.
func (d Date) Next() Date { return d.Plus(1) }

// Compare is -1, 0 or 1 where one is before, on or after another.
func (d Date) Compare(other Date) int { return d.midnight.Compare(other.midnight) }

// Plus is the day so many days later.
func (d Date) Plus(days int) Date { return Date{d.midnight.AddDate(0, 0, days)} }

// Plus is the same time so many days later.
func (w WallTime) Plus(days int) WallTime { return WallTime{w.wall.AddDate(0, 0, days)} }

// Since is how many days lie between a day and an earlier one.
func (d Date) Since(earlier Date) int { return int(d.midnight.Sub(earlier.midnight).Hours() / 24) }

// Weekday is the day of the week of d.
func (d Date) Weekday() Weekday { return Weekday(strings.ToLower(d.midnight.Weekday().String())) }
