// Package plan answers who does what when.
//
// A plan gives every task of every lot a start and an end: work a person who has
// the skills and the hours, tools and slots of places, waits the time that the
// drying clock or a machine asks for. What cannot be placed is unplaced, with the
// reason, and so is what needs it. What has happened stays as it happened: a
// started task keeps its person and its remainder is planned from now.
//
// This planner is forward list scheduling (serial schedule generation). Tasks
// that cannot be placed one by one are placed together, as a cluster: those
// between which there is a most time, or a hold that runs from one to the other.
// The cluster with the earliest latest start comes next, each of its tasks as
// early as people, tools, places and machines allow, gaps between earlier
// placements included; where one comes too late for its window, or finds its
// place full, the task it hangs on is begun later and the rest laid anew. Search
// repeats this from other orders of urgency and keeps the best. Everything is a
// pure function of document and options: the same give the same plan, to the byte.
package plan

import (
	"math/rand/v2"

	"bractum/core/count"
	"bractum/core/drying"
	"bractum/core/studio"
)

// Options of planning. The zero value asks for the constructive plan only.
type Options struct {
	// LatenessOnly compares plans by weighted lateness alone.
	LatenessOnly bool
	// FixedLots keeps lots as they were counted. This planner never splits or
	// merges them, so it changes nothing yet.
	FixedLots bool
	// Steps of search after the constructive plan, from a seed.
	Steps int
	Seed  int64
}

// Make plans a valid document, with its counted lots, from its moment now on.
// A direct document needs no count.
func Make(doc *studio.Document, counted *count.Result, options Options) (*studio.Plan, error) {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return nil, err
	}
	if doc.Direct != nil || counted == nil {
		counted = &count.Result{Lots: []studio.Lot{}, Links: []studio.Link{}, Pegs: []studio.Peg{}}
	}
	s := &search{doc: doc, counted: counted, options: options, calendar: calendar, air: drying.NewRoom(doc, calendar), everyone: doc.Everyone(calendar),
		instance: studio.Route(doc, studio.NewBook(doc), counted.Lots, counted.Links, counted.Pegs)}
	for i := range doc.People {
		p := &doc.People[i]
		hours := studio.HoursOf(*p, calendar, 0, doc.Horizon())
		s.hours = append(s.hours, hours)
		s.longer = append(s.longer, studio.Together(hours, studio.OvertimeOf(*p, calendar, 0, doc.Horizon())))
	}
	s.feeding = feedingOf(s.instance)
	return s.best(), nil
}

// search makes plans of one document and keeps the best.
type search struct {
	doc           *studio.Document
	counted       *count.Result
	instance      *studio.Instance
	options       Options
	calendar      studio.Calendar
	air           drying.Room
	everyone      studio.Hours
	hours, longer []studio.Hours            // by person, in the document's order
	feeding       map[studio.ID][]studio.ID // lots, by the order they are for
}

// wish is what one placement tries: which lots are in a hurry (waits at their
// least), which may use overtime, and by how much their urgency is shifted.
type wish struct {
	hurried  map[studio.ID]bool
	overtime map[studio.ID]bool
	shift    map[studio.ID]studio.Minute
}

func (s *search) best() *studio.Plan {
	now := wish{hurried: map[studio.ID]bool{}, overtime: map[studio.ID]bool{}, shift: map[studio.ID]studio.Minute{}}
	best := s.place(now)
	hurry := func(p *studio.Plan, into map[studio.ID]bool) {
		for _, o := range p.Orders {
			if o.Late > 0 {
				for _, lot := range s.feeding[o.Order] {
					into[lot] = true
				}
			}
		}
	}
	// what is late takes its least waits, then overtime
	for _, into := range []map[studio.ID]bool{now.hurried, now.overtime} {
		if best.Objective.Lateness == 0 {
			break
		}
		hurry(best, into)
		if tried := s.place(now); s.better(tried, best) {
			best = tried
		} else {
			clear(into)
		}
	}
	random := rand.New(rand.NewPCG(uint64(s.options.Seed), 0x9e3779b97f4a7c15))
	for range s.options.Steps {
		next := wish{now.hurried, now.overtime, map[studio.ID]studio.Minute{}}
		for _, l := range s.instance.Lots {
			next.shift[l.ID] = now.shift[l.ID]
			if random.IntN(3) == 0 {
				next.shift[l.ID] += studio.Minute(random.IntN(2*1440) - 1440)
			}
		}
		if tried := s.place(next); s.better(tried, best) {
			best, now = tried, next
		}
	}
	best.Steps, best.Seed = s.options.Steps, s.options.Seed
	return best
}

func (s *search) better(a, b *studio.Plan) bool {
	if s.options.LatenessOnly {
		return a.Objective.Lateness < b.Objective.Lateness
	}
	return a.Objective.Compare(b.Objective) < 0
}

// feedingOf lists, for each order, the lots it needs and all that feed them.
func feedingOf(instance *studio.Instance) map[studio.ID][]studio.ID {
	lotOf := map[studio.ID]studio.ID{}
	for _, l := range instance.Lots {
		for _, a := range l.Tasks {
			lotOf[a.ID] = l.ID
		}
	}
	into := map[studio.ID][]studio.ID{}
	for _, k := range instance.Links {
		into[lotOf[k.To]] = append(into[lotOf[k.To]], lotOf[k.From])
	}
	feeding := map[studio.ID][]studio.ID{}
	for _, o := range instance.Orders {
		seen := map[studio.ID]bool{}
		queue := append([]studio.ID{}, o.Lots...)
		for len(queue) > 0 {
			lot := queue[0]
			queue = queue[1:]
			if !seen[lot] {
				seen[lot] = true
				feeding[o.ID] = append(feeding[o.ID], lot)
				queue = append(queue, into[lot]...)
			}
		}
	}
	return feeding
}
