package plan

import (
	"slices"
	"sort"

	"bractum/core/drying"
	"bractum/core/studio"
)

// readiness is when a job could begin for all that it needs, what came last of
// that, and the last minute that the windows into it leave.
type readiness struct {
	from  studio.Minute // no earlier, for whatever reason
	needs studio.Minute // for what it needs, and now
	bound studio.Minute // for links and gates alone, whatever the time is now
	cause studio.Cause
	by    *job
	last  studio.Minute
	limit *job // whose window ends at last
	// narrow is true where states that limit it were taken at their medians
	narrow bool
	fixed  bool // its start is pinned
}

func (r *readiness) delayStart(m studio.Minute, cause studio.Cause, by *job) {
	r.bound = max(r.bound, m)
	if m > r.needs {
		r.needs, r.cause, r.by = m, cause, by
	}
}

func (s *schedule) readinessOf(j *job, from studio.Minute) (readiness, *fault) {
	r := readiness{needs: s.now, cause: studio.CauseNow, last: drying.Never}
	if j.Fact != nil {
		r.from = max(r.needs, from)
		return r, nil
	}
	r.bound = from
	if j.before != nil {
		r.delayStart(s.at[j.before.number].end, studio.CauseStep, j.before)
	}
	for i := range j.in {
		k := &j.in[i]
		first, last, narrow, ok := k.At(s.at[k.other.number].end)
		r.narrow = r.narrow || narrow
		if !ok {
			return r, &fault{kind: neverDry, of: j, by: k.other}
		}
		cause := studio.CauseInput
		if k.other.lot == j.lot {
			cause = studio.CauseStep
		}
		switch {
		case k.each && s.overruns && k.other.begunPieces():
			last = drying.Never
		case k.each:
			last = s.firstDone(k, k.other)
		}
		r.delayStart(first, cause, k.other)
		if last < r.last {
			r.last, r.limit = last, k.other
		}
	}
	if j.gate != nil {
		if j.opens == drying.Never {
			return r, &fault{kind: shut, of: j, gate: j.gate}
		}
		r.delayStart(j.opens, studio.CauseGate, nil)
	}
	r.from = max(r.needs, from)
	if j.pin != nil && j.pin.Start != nil && j.Wait == nil {
		if *j.pin.Start < r.from {
			return r, &fault{kind: pinnedEarly, of: j, by: r.by, most: *j.pin.Start, have: r.from}
		}
		r.from, r.fixed = *j.pin.Start, true
	}
	return r, nil
}

// spotForWait lays a spotForWait in the air at the end of the task before it.
func (s *schedule) spotForWait(j *job, r readiness, least bool) (spot, *fault) {
	to := spot{state: placed, maker: -1, machine: -1, narrow: r.narrow, start: s.at[j.before.number].end}
	if r.bound > to.start {
		return to, s.delayJob(
			j,
			r.bound-to.start,
			fault{kind: overtaken, of: j, have: r.bound, most: to.start, by: j.before},
		)
	}
	end, ok := s.endOfWait(j, to.start, j.least, j.Wait.Least)
	if j.wishes && !least {
		if wished, reached := s.endOfWait(j, to.start, j.wished, *j.Wait.Wished); reached && wished <= s.horizon {
			end = max(end, wished)
		}
	}
	if !ok || end > s.horizon {
		return to, &fault{kind: stalls, of: j}
	}
	to.end = end
	return to, nil
}

// endOfWait is when a wait is over, what the piece has dried where it lay before taken off.
func (s *schedule) endOfWait(
	j *job,
	start studio.Minute,
	course drying.Course,
	length studio.Length,
) (studio.Minute, bool) {
	if j.continues == nil {
		return course.End(start)
	}
	var all []studio.Lain
	until := start
	for a := j; a.continues != nil; a = a.continues {
		earlier := &s.at[a.continues.number]
		all = append(
			all,
			studio.Lain{Span: studio.Span{From: earlier.start, To: until}, In: a.continues.Wait.Least.Dries.In},
		)
		until = earlier.start
	}
	return s.air.End(length, start, all...)
}

// spotInMachine puts a wait into a machine: into a spotInMachine of its setting that is long enough
// and has room, or into one of its own.
func (s *schedule) spotInMachine(j *job, r readiness) (spot, *fault) {
	ready := max(r.bound, s.now)
	use, need := j.Wait.Load, j.Wait.Least.Minutes
	to := spot{state: placed, maker: -1, machine: -1, narrow: r.narrow, end: drying.Never}
	try := func(m int, l studio.Span) {
		if l.To < to.end {
			to.machine, to.start, to.end = int32(m), l.From, l.To
		}
	}
	for _, n := range j.machines {
		m := s.machines[n]
		if use.Slots > m.Slots {
			continue
		}
		for _, l := range m.joinable(ready, need, use) {
			try(n, l.Span)
		}
		if l, ok := s.loadOfItsOwn(m, ready, need, s.at[j.before.number].end); ok {
			try(n, l)
		}
	}
	if to.machine < 0 || to.end > s.horizon {
		why := fault{kind: noMachine, of: j}
		if loaded := s.at[j.before.number].end; loaded < ready { // nobody is there then, but for who loads it
			return to, s.delayJob(j.before, ready-loaded, why)
		}
		return to, &why
	}
	return to, nil
}

// loadOfItsOwn is a load of its own at the earliest: at the minute it was loaded, or
// when somebody is there to begin it.
func (s *schedule) loadOfItsOwn(m *machine, ready, need, loaded studio.Minute) (studio.Span, bool) {
	start := ready
	at := sort.Search(len(m.loads), func(i int) bool { return s.firstShiftAfter(m.loads[i].To) > start })
	for start < s.horizon {
		if start != loaded {
			next, ok := s.everyone.Next(start)
			if !ok {
				return studio.Span{}, false
			}
			start = next
		}
		for at < len(m.loads) && start >= s.firstShiftAfter(m.loads[at].To) {
			at++
		}
		if at == len(m.loads) || m.loads[at].From >= s.firstShiftAfter(start+need) {
			return studio.Span{From: start, To: start + need}, true
		}
		start = max(start+1, s.firstShiftAfter(m.loads[at].To))
	}
	return studio.Span{}, false
}

// slot is where a work task fits into a maker's time, and whether a tool kept it back.
type slot struct {
	spot
	tool bool
}

// biasAgainst is by how many minutes later others may be done with a task than a person who
// is that much sought, or whose time is that much wasted on it, and still get it.
func (s *schedule) biasAgainst(j *job, w *way) studio.Minute {
	sought, wasted := studio.Minute(s.sought[w.maker]), studio.Minute(s.wasted[s.craft[j.number]][w.maker])
	return s.wish.patience*sought/1000 + (s.wish.thrift+10*w.total)*wasted/1000
}

// spotForWork finds the person who is done with a task first.
func (s *schedule) spotForWork(j *job, r readiness) (spot, *fault) {
	best := slot{spot: spot{state: open, maker: -1}}
	cost := drying.Never
	why := fault{kind: unskilled, of: j}
	prefer := s.wish.prefer[j.number]
	ask := func(w *way, bias studio.Minute) {
		for _, overtime := range []bool{false, true} {
			if overtime && (j.cluster == nil || !s.wish.overtime[j.cluster.number]) {
				continue
			}
			sitting := s.doc.Settings.SittingMinutes
			found, failed := s.earliestSlot(w, j, &r, overtime, cost-bias+sitting)
			bias := bias
			if failed == noFault && s.goesOnSitting(j, &found) {
				bias -= sitting
			}
			switch {
			case failed == beaten:
			case failed != noFault:
				if why.kind = failed; r.fixed && failed == noTime {
					why = s.away(j, w)
				}
			case found.end+bias < cost || best.state == placed && found.end+bias == cost && s.makers[found.maker].load < s.makers[best.maker].load:
				best, cost = found, found.end+bias
			}
		}
	}
	if i := j.wayOf(prefer - 1); i >= 0 {
		ask(&j.ways[i], 0)
		if best.state == placed && (s.wish.loyalty == 0 || best.start == r.from || s.wish.as != nil) {
			best.narrow = r.narrow
			return best.spot, nil
		}
	}
	had := s.handBefore(j)
	for i := range j.ways {
		bias := s.biasAgainst(j, &j.ways[i])
		if had >= 0 && j.ways[i].maker != had {
			bias += handedOver
		}
		if prefer != 0 && j.ways[i].maker != prefer-1 {
			bias += s.wish.loyalty
		}
		ask(&j.ways[i], bias)
	}
	if best.state != placed {
		why.pinned = j.pin != nil
		failed := why
		return best.spot, &failed
	}
	best.narrow = r.narrow
	return best.spot, nil
}

// handedOver is by how many minutes later whoever had a lot in hand before may be done with its next work
// than others, and still gets it.
const handedOver = 30

// handBefore is who did the work before a job of its lot and can do it too, -1 where nobody did. Of a
// direct document nothing says that its lots want one hand; what comes together hardly goes to whoever is
// in time.
func (s *schedule) handBefore(j *job) int {
	if s.doc.Direct != nil || s.wish.thrift == 0 {
		return -1
	}
	before := j.before
	for before != nil && before.Wait != nil {
		before = before.before
	}
	if before == nil {
		return -1
	}
	if had := int(s.at[before.number].maker); had >= 0 && j.wayOf(had) >= 0 {
		return had
	}
	return -1
}

// wayOf is the index of the way in which a maker does a job, -1 if they do not.
func (j *job) wayOf(maker int) int {
	if maker < 0 {
		return -1
	}
	return slices.IndexFunc(j.ways, func(w way) bool { return w.maker == maker })
}

// How many jobs of a cluster are laid anew before it is looked for room elsewhere, and how
// many gaps in a maker's time are tried for one of them.
const (
	usualTries = 400
	triesEach  = 28 // where jobs are many
	mostTries  = 4000
)

// earliestSlot finds the first place in a maker's time for a job: hours, other work,
// colour setup, tools and the length that windows out of it allow. It need not end
// later than another has it.
func (s *schedule) earliestSlot(w *way, j *job, r *readiness, overtime bool, before studio.Minute) (slot, faultKind) {
	m := s.makers[w.maker]
	time := m.regular
	if overtime {
		time = m.longer
	}
	found := slot{spot: spot{state: placed, maker: int32(w.maker), machine: -1, overtime: overtime}}
	none, pauses := noTime, j.Pauses()
	from := r.from
	if from+w.total > before {
		return found, beaten
	}
	i := time.after(from)
	for tries := 0; i < len(time.free) && tries < mostTries; {
		room := time.free[i]
		start := max(from, room.From)
		if r.fixed && start != r.from {
			return found, none
		}
		if start+w.total > before {
			return found, beaten
		}
		if room.To-start < w.runs[0] && !(pauses && time.goesOn(room)) {
			i++
			continue
		}
		tries++
		s.effort.spend(1)
		again := func(t studio.Minute) {
			from = max(start+1, t)
			for i < len(time.free) && time.free[i].To <= from {
				i++
			}
		}
		var setup studio.Minute
		as := s.asKept(j)
		if as != nil {
			setup = as.Setup
		} else if j.family != nil {
			setup, _, _ = s.setupBetween(m, j, start, start)
		}
		end, paused := start+w.total+setup, []studio.Span(nil)
		if end > room.To { // not in one go
			fits := false
			if pauses {
				end, fits = time.through(i, start, w.total+setup)
			} else if len(w.runs) > 1 {
				end, paused, fits = time.Lay(start, w.runsWithSetup(setup), false)
				fits = fits && time.holds(i, studio.Span{From: start, To: end})
			}
			if !fits || m.busyBetween(room.To, end) {
				i++
				continue
			}
			if end > before {
				i++
				continue
			}
			if pauses {
				_, paused, _ = time.Advance(start, w.total+setup)
			}
		}
		if as == nil && (j.family != nil || s.resets) {
			if _, later, fits := s.setupBetween(m, j, start, end); !fits {
				again(later)
				continue
			}
		}
		if next, long := s.outlastsWindow(w, j, start, end, setup, paused); long {
			if none = outlasts; next == 0 {
				return found, none
			}
			again(next)
			continue
		}
		found.start, found.end, found.setup = start, end, int32(setup)
		if found.more = nil; len(paused)+len(j.tools) > 0 {
			found.more = &detail{pauses: paused}
		}
		if len(j.tools) > 0 {
			if free, ok := s.chooseTools(j, &found.spot); !ok {
				if none = noTool; free >= s.horizon {
					return found, none
				}
				found.tool = true
				again(free)
				continue
			}
		}
		found.overtime = overtime && s.usesOvertime(m, &found.spot)
		return found, noFault
	}
	return found, none
}

// asKept is the task that a job is to be exactly, nil where it need not be one: what has
// begun is placed whether or not the plan knows all of its cluster.
func (s *schedule) asKept(j *job) *studio.Task {
	if s.wish.as == nil {
		return nil
	}
	return s.wish.as[j.number]
}

// runsWithSetup are the runs of a way runsWithSetup a colour setup in the first.
func (w *way) runsWithSetup(setup studio.Minute) []studio.Minute {
	if setup == 0 {
		return w.runs
	}
	runs := append([]studio.Minute{}, w.runs...)
	runs[0] += setup
	return runs
}

// outlastsWindow says that a task takes longer than a window out of it allows, and from
// when to try again; 0 is never.
func (s *schedule) outlastsWindow(
	w *way,
	j *job,
	start, end, setup studio.Minute,
	pauses []studio.Span,
) (studio.Minute, bool) {
	if j.Fact != nil {
		return 0, false
	}
	if next, late := w.lateInRuns(start, setup, pauses); late {
		return next, true
	}
	for i := range j.out {
		k := &j.out[i]
		if !k.limited || k.other.Fact != nil || s.wish.leave[k.other.number] {
			continue
		}
		first, last := start, k.Last
		if k.each {
			p := j.passageAt(
				&spot{
					start: start,
					end:   end,
					maker: int32(w.maker),
					setup: int32(setup),
					more:  &detail{pauses: pauses},
				},
			)
			first, last = p.Done(1), s.lastTake(k, j)
		}
		if end <= last(first) {
			continue
		}
		switch {
		case len(pauses) > 0:
			return max(start+1, pauses[0].To), true
		case k.drying:
			return start + 60, true
		}
		return 0, true
	}
	return 0, false
}

// chooseTools chooses the tools of a job, the first kind of each that is free, from the one that is wished
// on; or says
// when one comes free.
func (s *schedule) chooseTools(j *job, to *spot) (free studio.Minute, ok bool) {
	tools := make([]int, 0, len(j.tools))
	for n := range j.tools {
		chosen, soonest := -1, drying.Never
		kinds := j.tools[n].kinds
		for i := range kinds {
			kind := kinds[(i+s.wish.tools[j.number])%len(kinds)]
			need := j.tools[n].number
			for earlier, other := range tools {
				if other == kind {
					need += j.tools[earlier].number
				}
			}
			blocked := false
			for i := range to.stretches() {
				if until, full := s.tools[kind].blocked(to.stretch(i), need); full {
					soonest, blocked = min(soonest, until), true
				}
			}
			if !blocked {
				chosen = kind
				break
			}
		}
		if chosen < 0 {
			return soonest, false
		}
		tools = append(tools, chosen)
	}
	to.more.tools = tools
	return 0, true
}

// usesOvertime is true of a spot that goes usesOvertime its maker's hours.
func (s *schedule) usesOvertime(m *maker, to *spot) bool {
	for n := range to.stretches() {
		if span := to.stretch(n); m.regular.Worked(span) < span.To-span.From {
			return true
		}
	}
	return false
}
