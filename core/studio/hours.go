package studio

import (
	"sort"
	"time"
)

// Hours are the working times of one person or of everyone together: disjoint
// stretches of minutes in rising order, breaks left out. Safe for concurrent use.
type Hours []Span

// HoursOf are a person's working times within [from, to): the shifts stated
// outright, and the weekly hours, less breaks, days and times away.
func HoursOf(p Person, c Calendar, from, to Minute) Hours {
	if p.OutOfUse {
		return nil
	}
	return p.there(joined(append(weekly(p, p.Hours, c, from, to), p.Shifts...))).within(from, to)
}

// OvertimeOf is the overtime that a person allows, without the working times.
func OvertimeOf(p Person, c Calendar, from, to Minute) Hours {
	if p.OutOfUse || len(p.Overtime) == 0 && len(p.OvertimeShifts) == 0 {
		return nil
	}
	allowed := append(weekly(p, p.Overtime, c, from, to), p.OvertimeShifts...)
	for _, s := range HoursOf(p, c, from, to) {
		allowed = cutOut(allowed, s)
	}
	return p.there(joined(allowed)).within(from, to)
}

// there are hours without the times away.
func (p Person) there(hours Hours) Hours {
	for _, away := range p.AwayTimes {
		hours = cutOut(hours, away)
	}
	return hours
}

func weekly(p Person, hours []DayHours, c Calendar, from, to Minute) []Span {
	if len(hours) == 0 {
		return nil
	}
	away := map[Date]bool{}
	for _, d := range p.Away {
		away[d] = true
	}
	var spans []Span
	last := c.Date(to).midnight
	for midnight := c.Date(from).midnight; !midnight.After(last); midnight = midnight.AddDate(0, 0, 1) {
		at := func(t TimeOfDay) Minute { return c.minute(midnight.Add(time.Duration(t) * time.Minute)) }
		if len(away) > 0 && away[Date{midnight}] {
			continue
		}
		for _, h := range hours {
			if weekdays[h.Day] != midnight.Weekday() {
				continue
			}
			open := []Span{{From: at(h.From), To: at(h.To)}}
			for _, b := range p.Breaks {
				open = cutOut(open, Span{From: at(b.From), To: at(b.To)})
			}
			spans = append(spans, open...)
		}
	}
	return spans
}

// Together is the time at which at least one of several is at work.
func Together(all ...Hours) Hours {
	var spans []Span
	for _, hours := range all {
		spans = append(spans, hours...)
	}
	return joined(spans)
}

// Next is the first working minute at or after m; false when there is none left.
func (h Hours) Next(m Minute) (Minute, bool) {
	i := h.At(m)
	if i == len(h) {
		return 0, false
	}
	return max(m, h[i].From), true
}

// After is the start of the first stretch that begins after m; false when there
// is none.
func (h Hours) After(m Minute) (Minute, bool) {
	i := sort.Search(len(h), func(i int) bool { return h[i].From > m })
	if i == len(h) {
		return 0, false
	}
	return h[i].From, true
}

// LastBefore is the latest end of a working minute at or before m; m itself
// when nobody ever worked before it.
func (h Hours) LastBefore(m Minute) Minute {
	i := sort.Search(len(h), func(i int) bool { return h[i].From >= m })
	if i == 0 {
		return m
	}
	return min(m, h[i-1].To)
}

// Lay is the end of runs of work begun at a working minute start, and the pauses
// between. Work that may pause does so over whatever is not working time; other
// work pauses only between runs, each beginning at the first minute from which
// it fits into one stretch. The first begins at start. False when it cannot, or
// the hours run out.
func (h Hours) Lay(start Minute, runs []Minute, mayPause bool) (end Minute, pauses []Span, ok bool) {
	if mayPause {
		var length Minute
		for _, run := range runs {
			length += run
		}
		return h.Advance(start, length)
	}
	end = start
	for n, run := range runs {
		i := h.At(end)
		for i < len(h) && h[i].To-max(end, h[i].From) < run {
			i++
		}
		if i == len(h) {
			return 0, nil, false
		}
		from := max(end, h[i].From)
		if n == 0 && from != start {
			return 0, nil, false
		}
		if from > end {
			pauses = append(pauses, Span{From: end, To: from})
		}
		end = from + run
	}
	return end, pauses, true
}

// Advance is the end of work of the given length begun at a working minute
// start, pausing over what is not working time, and the pauses. False when the
// hours run out.
func (h Hours) Advance(start, length Minute) (end Minute, pauses []Span, ok bool) {
	for i := h.At(start); i < len(h); i++ {
		from := max(start, h[i].From)
		if length <= h[i].To-from {
			return from + length, pauses, true
		}
		length -= h[i].To - from
		if i+1 < len(h) {
			pauses = append(pauses, Span{From: h[i].To, To: h[i+1].From})
		}
	}
	return 0, nil, false
}

// Worked is the number of working minutes within a span.
func (h Hours) Worked(s Span) Minute {
	var sum Minute
	for i := h.At(s.From); i < len(h) && h[i].From < s.To; i++ {
		sum += min(s.To, h[i].To) - max(s.From, h[i].From)
	}
	return sum
}

// At is the index of the first stretch that ends after m.
func (h Hours) At(m Minute) int {
	low, high := 0, len(h)
	for low < high {
		if mid := (low + high) / 2; h[mid].To > m {
			high = mid
		} else {
			low = mid + 1
		}
	}
	return low
}

func cutOut(open []Span, gap Span) []Span {
	var left []Span
	for _, s := range open {
		if gap.To <= s.From || gap.From >= s.To {
			left = append(left, s)
			continue
		}
		if s.From < gap.From {
			left = append(left, Span{From: s.From, To: gap.From})
		}
		if gap.To < s.To {
			left = append(left, Span{From: gap.To, To: s.To})
		}
	}
	return left
}

func joined(spans []Span) Hours {
	sort.Slice(spans, func(i, j int) bool { return spans[i].From < spans[j].From })
	var out Hours
	for _, s := range spans {
		if s.From >= s.To {
			continue
		}
		if n := len(out); n > 0 && s.From <= out[n-1].To {
			out[n-1].To = max(out[n-1].To, s.To)
			continue
		}
		out = append(out, s)
	}
	return out
}

// within is what of the hours lies in [from, to).
func (h Hours) within(from, to Minute) Hours {
	var inside Hours
	for _, s := range h {
		if s = (Span{From: max(s.From, from), To: min(s.To, to)}); s.From < s.To {
			inside = append(inside, s)
		}
	}
	return inside
}

// Everyone is the time at which anybody is at work, since Since and up to the horizon.
func (d *Document) Everyone(c Calendar) Hours {
	all := make([]Hours, 0, len(d.People))
	for _, p := range d.People {
		all = append(all, HoursOf(p, c, d.Since(), d.Horizon()))
	}
	return Together(all...)
}

// memory is how far back hours and the air are reckoned: longer than anything is in the
// making, and no longer however old the studio.
const memory Minute = 28 * 1440

// Since is the minute from which hours and the air are reckoned, at the start of a day of
// the epoch. Of what lies further back, no more is known than that it is past.
func (d *Document) Since() Minute { return max(0, d.Now-memory) / 1440 * 1440 }

// Horizon is the minute at which planning ends.
func (d *Document) Horizon() Minute { return d.Now + d.Settings.HorizonMinutes }

// ReadyBy is when an order's flowers must be finished: its leave time less the
// safety span, moved back to the end of the last working minute before.
func (d *Document) ReadyBy(o Order, c Calendar, everyone Hours) Minute {
	return everyone.LastBefore(c.Minute(o.Leaves) - d.Settings.SafetyMinutes)
}
