package promise

import (
	"math"
	"slices"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
)

// outward is by how much later than the first date that is thought of others are tried, until one can be kept.
var outward = []studio.Minute{0, 60, 4 * 60, 1440, 2 * 1440, 4 * 1440, 8 * 1440, 16 * 1440, 32 * 1440}

// Between a date that cannot be kept and one that can, so many are tried, until they are as near as that.
const (
	mostBetween = 8
	nearEnough  = 15
)

// nearest is a plan that keeps an order at the nearest date that is found, from the one that was asked on; nil where
// there is none within the horizon. That there is one is found out however long it takes; how near it is, in the time
// that there is.
func (q *Question) nearest(t *trial, by Search) (*trial, error) {
	calendar, err := studio.NewCalendar(t.doc.Epoch, t.doc.Zone)
	if err != nil {
		return nil, err
	}
	from := t.outcome.ReadyBy
	if by, ok := plan.EarliestReadyBy(t.doc, calendar, t.outcome); ok {
		from = max(from, by)
	}
	bad, good, best := from-1, studio.Minute(0), (*trial)(nil)
	for _, ahead := range outward {
		if from+ahead >= t.doc.Horizon() {
			break
		}
		k, err := q.keptAt(from+ahead, calendar, t, by)
		if err != nil {
			return nil, err
		}
		if k != nil {
			good, best = from+ahead, k
			break
		}
		bad = from + ahead
	}
	if best == nil {
		return nil, nil
	}
	for range mostBetween {
		if good-bad <= nearEnough || stopped(by.End) {
			break
		}
		middle := bad + (good-bad)/2
		k, err := q.keptAt(middle, calendar, best, by)
		if err != nil {
			return nil, err
		}
		if k != nil {
			good, best = middle, k
		} else {
			bad = middle
		}
	}
	// It may be ready before that date.
	if earlier, ok := plan.EarliestReadyBy(best.doc, calendar, best.outcome); ok && earlier < good && earlier >= from {
		k, err := q.keptAt(earlier, calendar, best, by)
		if err != nil {
			return nil, err
		}
		if k != nil {
			best = k
		}
	}
	return best, nil
}

// keptAt is a plan that keeps the order if it is to be ready by a minute; nil where none comes about: by what would
// come about at once, by a plan that is known or, where nothing is in force, by a search.
func (q *Question) keptAt(by studio.Minute, calendar studio.Calendar, known *trial, search Search) (*trial, error) {
	doc := readyBy(q.Doc, q.Order, by, calendar)
	counted, err := count.Up(doc)
	if err != nil {
		return nil, err
	}
	ways := []func() (*trial, error){
		func() (*trial, error) { return q.try(doc, counted) },
		func() (*trial, error) { return q.as(doc, counted, known.made) },
	}
	if q.From == nil { // a search either way: what is known comes first
		slices.Reverse(ways)
		ways = append(ways, func() (*trial, error) { return q.searched(known.at(doc, counted), search) })
	}
	for _, way := range ways {
		if t, err := way(); err != nil || t.kept() {
			return t, err
		}
	}
	return nil, nil
}

// at is nothing better than a trial for a document in which the order is to be ready by another minute.
func (t *trial) at(doc *studio.Document, counted *count.Result) *trial {
	return &trial{doc: doc, counted: counted, made: t.made, outcome: t.outcome, harm: math.MaxInt64}
}

// readyBy is a document in which an order is to be ready by another minute, and leaves that much later.
func readyBy(doc *studio.Document, order studio.ID, by studio.Minute, calendar studio.Calendar) *studio.Document {
	d := *doc
	d.Orders = slices.Clone(doc.Orders)
	for i := range d.Orders {
		if d.Orders[i].ID == order {
			d.Orders[i].Leaves = calendar.Wall(by + doc.Settings.SafetyMinutes)
		}
	}
	if doc.Direct != nil {
		direct := *doc.Direct
		direct.Orders = slices.Clone(direct.Orders)
		for i := range direct.Orders {
			if direct.Orders[i].ID == order {
				direct.Orders[i].ReadyBy = by
			}
		}
		d.Direct = &direct
	}
	return &d
}
