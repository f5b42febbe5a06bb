package plan

import (
	"slices"

	"bractum/core/studio"
)

// schedule is a plan in the making: where each job stands, and what people, places,
// tools and machines are taken up with by that. It is for one goroutine.
type schedule struct {
	*problem
	standing
	wish     wish
	spares   bool  // some of each window of pieces
	overruns bool  // windows that run already may be overrun
	blockers []int // by number of cluster, while clusters are laid
	floor    []*fault
	effort   effort
}

// standing is where each job stands, by number, and what is taken up with by that.
type standing struct {
	at           []spot
	makers       []*maker
	rooms, tools []*profile
	machines     []*machine
}

// wish is how clusters are laid: which come first, and in which order their jobs if not
// by rank; which waits are at their least and which clusters may use overtime; which job
// goes to whom, if that is to be somebody, and begins no earlier than when.
type wish struct {
	key               []studio.Minute
	shuffled          [][]*job
	hurried, overtime []bool
	prefer            []int // a maker and one, 0 for anybody
	notBefore         []studio.Minute
	tools             []int          // from which of their kinds on tools are tried, mostly the first
	leave             []bool         // out what no order needs
	as                []*studio.Task // exactly, or not at all for now
	loyalty           studio.Minute  // to who is preferred; with none, nobody else is asked while they can
	patience          studio.Minute  // for those who can do little else
	thrift            studio.Minute  // with people's time
	tries             int            // for each job of a cluster of many
	forgets           forgetting     // what people were told
}

// state of a job in a schedule.
type state uint8

const (
	open state = iota
	placed
	gone // left out
)

// spot is where a job stands in a schedule: of what was begun, what is left of it.
type spot struct {
	state            state
	overtime, narrow bool
	maker, machine   int32 // -1 for none
	setup            int32 // minutes
	start, end       studio.Minute
	more             *detail // nil for most
}

// detail is what few spots have.
type detail struct {
	pauses []studio.Span
	tools  []int  // kinds, as its job lists them
	why    *fault // it is gone
}

func leftOut(why *fault) spot {
	return spot{state: gone, maker: -1, machine: -1, more: &detail{why: why}}
}

func (t *spot) pauses() []studio.Span {
	if t.more == nil {
		return nil
	}
	return t.more.pauses
}

func (t *spot) tools() []int {
	if t.more == nil {
		return nil
	}
	return t.more.tools
}

func newSchedule(p *problem) *schedule {
	s := &schedule{
		problem:  p,
		standing: standing{at: make([]spot, len(p.jobs))},
		blockers: make([]int, len(p.clusters)),
		floor:    make([]*fault, len(p.jobs)),
		wish: wish{
			key:       make([]studio.Minute, len(p.clusters)),
			shuffled:  make([][]*job, len(p.clusters)),
			hurried:   make([]bool, len(p.jobs)),
			overtime:  make([]bool, len(p.clusters)),
			prefer:    make([]int, len(p.jobs)),
			notBefore: make([]studio.Minute, len(p.jobs)),
			tools:     make([]int, len(p.jobs)),
			leave:     make([]bool, len(p.jobs)),
			as:        nil,
			loyalty:   0,
			patience:  usualPatience,
			thrift:    usualThrift,
			tries:     triesEach,
			forgets:   forgetting{},
		},
	}
	s.byUrgency()
	s.clear()
	return s
}

// usualPatience is how many minutes later somebody who can do nothing else may be done
// than somebody who can do everything, and still get a task.
const usualPatience studio.Minute = 960

// usualThrift is how many minutes later somebody may be done whose time is not wasted on
// a task than somebody all of whose time is, and still get it.
const usualThrift studio.Minute = 3000

// byUrgency has clusters laid by when they must begin at the latest, by whoever is done
// first.
func (s *schedule) byUrgency() {
	for _, c := range s.clusters {
		s.wish.key[c.number] = c.latest
	}
	clear(s.wish.prefer)
	clear(s.wish.notBefore)
}

// clear leaves what has happened: done tasks as they were, machines that run, and what
// lies in places, until the horizon where what ends the hold is still to be placed.
func (s *schedule) clear() {
	s.makers, s.rooms, s.tools, s.machines = nil, nil, nil, nil
	for i := range s.doc.People {
		s.makers = append(s.makers, newMaker(&s.doc.People[i], s.hours[i], s.longer[i], s.resets))
	}
	for _, place := range s.doc.Places {
		s.rooms = append(s.rooms, &profile{most: place.Slots})
	}
	for _, tool := range s.doc.Tools {
		s.tools = append(s.tools, &profile{most: tool.Number})
	}
	for i := range s.doc.Machines {
		s.machines = append(s.machines, &machine{Machine: &s.doc.Machines[i]})
	}
	clear(s.at)
	for _, j := range s.jobs {
		if j.Fact == nil {
			continue
		}
		who := slices.IndexFunc(s.makers, func(m *maker) bool { return m.ID == j.Fact.Person })
		if who >= 0 && j.Begun() {
			s.makers[who].turn(j, j.Fact.Start, j.Fact.Start, 0)
		}
		if j.Done() {
			s.at[j.number] = spot{state: placed, maker: int32(who), machine: -1, start: j.Fact.Start, end: j.Fact.End}
			if who >= 0 {
				s.makers[who].occupy(j, &s.at[j.number])
			}
		}
	}
	s.placeWhatHasBegun()
	for _, j := range s.jobs {
		if j.lies {
			for i := range j.holds {
				s.occupyPlace(j, i, 1)
			}
		}
	}
}

// placeWhatHasBegun closes the machines that placeWhatHasBegun, each with the shares that were begun together.
func (s *schedule) placeWhatHasBegun() {
	for _, j := range s.jobs {
		if !j.running() {
			continue
		}
		at := slices.IndexFunc(s.machines, func(m *machine) bool { return m.ID == j.Fact.Machine })
		m := s.machines[at]
		m.put(j, studio.Span{From: j.Fact.Start})
		l := m.loadFrom(j.Fact.Start)
		l.closed = true
		l.To = max(l.To, j.Fact.Start+j.Wait.Least.Minutes)
		for _, share := range l.jobs {
			s.at[share.number] = spot{state: placed, maker: -1, machine: int32(at), start: l.From, end: l.To}
		}
	}
}

// putJob gives a job its spot and takes up what that needs, but for the places whose
// holds it ends.
func (s *schedule) putJob(j *job, to spot) {
	s.at[j.number] = to
	if to.maker >= 0 {
		s.makers[to.maker].occupy(j, &s.at[j.number])
		s.occupyTools(j, &to, 1)
	}
	if to.machine >= 0 {
		s.machines[to.machine].put(j, studio.Span{From: to.start, To: to.end})
	}
}

// removeJob takes a job out of the schedule again, and the holds that it ends.
func (s *schedule) removeJob(j *job) {
	from := &s.at[j.number]
	if from.maker >= 0 {
		s.makers[from.maker].free(j, from)
		s.occupyTools(j, from, -1)
	}
	if from.machine >= 0 {
		s.machines[from.machine].free(j, from.start)
	}
	s.vacatePlaces(j)
}

// occupyTools takes up the tools of a job at a spot, or with -1 lays them down.
func (s *schedule) occupyTools(j *job, at *spot, times int64) {
	for i, tool := range at.tools() {
		for n := range at.stretches() {
			s.tools[tool].add(at.stretch(n), times*j.tools[i].number)
		}
	}
}

// stretches is the number of spans in which somebody is at a task.
func (t *spot) stretches() int { return len(t.pauses()) + 1 }

func (t *spot) stretch(n int) studio.Span {
	span, pauses := studio.Span{From: t.start, To: t.end}, t.pauses()
	if n > 0 {
		span.From = pauses[n-1].To
	}
	if n < len(pauses) {
		span.To = pauses[n].From
	}
	return span
}

// heldSpan is the span of a job's hold as things stand, until it is emptied, and whether
// all that ends it is placed: to the horizon while it is not.
func (s *schedule) heldSpan(j *job, hold int) (span studio.Span, known bool) {
	own := &s.at[j.number]
	span = studio.Span{From: j.since, To: s.horizon}
	if !j.lies {
		span.From = own.start
	}
	end, known := s.heldUntil(j, hold)
	if known {
		span.To = s.firstShiftAfter(end)
	} else if own.state == placed {
		span.To = max(span.To, own.end)
	}
	return span, known
}

// heldUntil is the last end of those that end a hold, its own task among them: the horizon where one of
// them is left out.
func (s *schedule) heldUntil(j *job, hold int) (end studio.Minute, known bool) {
	for _, until := range j.holds[hold].until {
		switch t := &s.at[until.number]; t.state {
		case placed:
			end = max(end, t.end)
		case gone:
			end = s.horizon
		default:
			return 0, false
		}
	}
	return end, true
}

func (s *schedule) firstShiftAfter(end studio.Minute) studio.Minute {
	if to, ok := s.everyone.Next(end); ok {
		return to
	}
	return max(end, s.horizon)
}

// occupyPlace takes the slots of a occupyPlace, or with -1 frees them.
func (s *schedule) occupyPlace(j *job, hold int, times int64) {
	span, _ := s.heldSpan(j, hold)
	h := &j.holds[hold]
	s.rooms[h.place].add(span, times*h.slots)
}

// occupyPlaces takes up the places whose holds a job ends now that it is placed, overfull or
// not; and says which task must begin later for want of room, or of keeping.
func (s *schedule) occupyPlaces(j *job) (why *fault) {
	for _, h := range j.ends {
		for i := range h.holds {
			o := &h.holds[i]
			if !slices.Contains(o.until, j) || s.at[h.number].state != placed && !h.lies {
				continue
			}
			if h.lies {
				is := s.at[j.number].state
				s.at[j.number].state = open
				s.occupyPlace(h, i, -1)
				s.at[j.number].state = is
				s.occupyPlace(h, i, 1)
				continue
			}
			end, known := s.heldUntil(h, i)
			if !known {
				continue
			}
			span := studio.Span{From: s.at[h.number].start, To: s.firstShiftAfter(end)}
			if why == nil && o.keeps > 0 && end-span.From > o.keeps {
				why = s.delayJob(
					h,
					end-span.From-o.keeps,
					fault{kind: spoils, by: j, have: end - span.From, most: o.keeps},
				)
			}
			if why == nil {
				if until, full := s.rooms[o.place].blocked(span, o.slots); full {
					why = s.delayJob(
						h,
						until-span.From,
						fault{kind: crowded, by: j, have: studio.Minute(o.slots), place: &s.doc.Places[o.place]},
					)
				}
			}
			s.rooms[o.place].add(span, o.slots)
		}
	}
	return why
}

// vacatePlaces frees the places whose holds a job ends, for as long as it is not placed.
func (s *schedule) vacatePlaces(j *job) {
	from := &s.at[j.number]
	is := from.state
	for _, h := range j.ends {
		for i := range h.holds {
			if !slices.Contains(h.holds[i].until, j) || s.at[h.number].state != placed && !h.lies {
				continue
			}
			if _, known := s.heldSpan(h, i); known || h.lies {
				s.occupyPlace(h, i, -1)
			}
			if from.state = open; h.lies {
				s.occupyPlace(h, i, 1)
			}
			from.state = is
		}
	}
	from.state = open
}
