package plan

import (
	"fmt"
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
	by    studio.ID
	last  studio.Minute
	limit *job // whose window ends at last
	// narrow is true where states that limit it were taken at their medians
	narrow bool
	pin    *studio.Pin
}

func (p *placement) ready(j *job, from studio.Minute) (readiness, *fault) {
	r := readiness{needs: p.doc.Now, cause: studio.CauseNow, last: drying.Never, pin: p.doc.Pinned(j.ID)}
	later := func(m studio.Minute, cause studio.Cause, by studio.ID) {
		r.bound = max(r.bound, m)
		if m > r.needs {
			r.needs, r.cause, r.by = m, cause, by
		}
	}
	if j.Fact != nil {
		r.from = max(r.needs, from)
		return r, nil
	}
	r.bound = from
	if j.before != nil {
		later(j.before.task.End, studio.CauseStep, j.before.ID)
	}
	for _, k := range j.in {
		first, last, narrow, ok := p.air.Window(k.Lag, k.other.task.End)
		r.narrow = r.narrow || narrow
		if !ok {
			return r, &fault{reason: studio.Stalled, detail: fmt.Sprintf("what %q made never gets dry enough in the expected air", k.other.ID)}
		}
		cause := studio.CauseInput
		if k.other.lot == j.lot {
			cause = studio.CauseStep
		}
		later(first, cause, k.other.ID)
		if last < r.last {
			r.last, r.limit = last, k.other
		}
	}
	for _, id := range j.Gates {
		for _, g := range p.doc.Gates {
			if g.ID != id {
				continue
			}
			if g.Opens == nil || *g.Opens >= p.doc.Horizon() {
				return r, &fault{reason: studio.GateShut, detail: fmt.Sprintf("%q has no date before the horizon", g.Name)}
			}
			later(*g.Opens, studio.CauseGate, g.ID)
		}
	}
	r.from = max(r.needs, from)
	if r.pin != nil && r.pin.Start != nil && j.Wait == nil {
		if *r.pin.Start < r.from {
			return r, &fault{reason: studio.PinBroken, detail: fmt.Sprintf("it is pinned to %d and can begin at %d at the earliest", *r.pin.Start, r.from)}
		}
		r.from, r.cause, r.by = *r.pin.Start, studio.CausePin, ""
	}
	return r, nil
}

// wait lays a wait in the air at the end of the task before it.
func (p *placement) wait(j *job, t *studio.Task, r readiness, least bool) *fault {
	t.Start, t.Cause, t.CausedBy = j.before.task.End, studio.CauseStep, j.before.ID
	if r.bound > t.Start {
		return p.later(j, r.bound-t.Start, fault{reason: studio.TooLate, cause: studio.CauseInput, causedBy: r.by,
			detail: fmt.Sprintf("begins when %q ends, and may not before %d", j.before.ID, r.bound)})
	}
	lain := p.lain(j, t.Start)
	end, ok := p.air.End(j.Wait.Least, t.Start, lain...)
	if j.Wait.Wished != nil && !least {
		if wished, reached := p.air.End(*j.Wait.Wished, t.Start, lain...); reached && wished <= p.doc.Horizon() {
			end = max(end, wished)
		}
	}
	if !ok || end > p.doc.Horizon() {
		return &fault{reason: studio.Stalled, detail: "would not be over before the horizon in the expected air"}
	}
	t.End = end
	if end <= p.doc.Now && j.before.Done() {
		t.State = studio.TaskDone
	}
	return nil
}

// lain is where a piece that has been moved has lain before a wait.
func (p *placement) lain(j *job, until studio.Minute) []drying.Lain {
	var all []drying.Lain
	for a := j.Activity; a.Wait.Continues != ""; {
		earlier := p.byID[a.Wait.Continues]
		a = earlier.Activity
		all = append(all, drying.Lain{Span: studio.Span{From: earlier.task.Start, To: until}, In: a.Wait.Least.Dries.In})
		until = earlier.task.Start
	}
	return all
}

// load puts a wait into a machine: into a load of its setting that is long enough
// and has room, or into one of its own.
func (p *placement) load(j *job, t *studio.Task, r readiness) *fault {
	ready := max(r.bound, p.doc.Now)
	use, need := j.Wait.Load, j.Wait.Least.Minutes
	var best *load
	var in *machine
	for _, m := range p.machines {
		if !slices.Contains(use.AnyOf, m.ID) || use.Slots > m.Slots {
			continue
		}
		for _, l := range append(m.joinable(ready, need, use), p.fresh(m, ready, need, j.before.task.End)) {
			if l != nil && (best == nil || l.To < best.To) {
				best, in = l, m
			}
		}
	}
	if best == nil || best.To > p.doc.Horizon() {
		return &fault{reason: studio.NoMachine, detail: fmt.Sprintf("none of %q has room for %d slots before the horizon", use.AnyOf, use.Slots)}
	}
	t.Start, t.End, t.Load = best.From, best.To, &studio.Share{Machine: in.ID, Setting: use.Setting, Slots: use.Slots}
	if best.From > ready {
		t.Cause = studio.CauseTool
	}
	if len(best.tasks) == 0 {
		best.setting = use.Setting
		in.loads = append(in.loads, best)
	}
	best.tasks, best.slots = append(best.tasks, j.ID), best.slots+use.Slots
	return nil
}

// joinable are the loads of a machine that a wait can still go into.
func (m *machine) joinable(ready, need studio.Minute, use *studio.MachineUse) []*load {
	var out []*load
	for _, l := range m.loads {
		if !l.closed && l.From >= ready && l.setting == use.Setting && l.To-l.From >= need && l.slots+use.Slots <= m.Slots {
			out = append(out, l)
		}
	}
	return out
}

// fresh is a load of its own at the earliest: at the minute it was loaded, or
// when somebody is there to begin it.
func (p *placement) fresh(m *machine, ready, need, loaded studio.Minute) *load {
	for start := ready; start < p.doc.Horizon(); {
		if start != loaded {
			next, ok := p.everyone.Next(start)
			if !ok {
				return nil
			}
			start = next
		}
		var clash *load
		for _, l := range m.loads {
			if start < p.emptied(l.To) && l.From < p.emptied(start+need) {
				clash = l
				break
			}
		}
		if clash == nil {
			return &load{Span: studio.Span{From: start, To: start + need}}
		}
		start = max(start+1, p.emptied(clash.To))
	}
	return nil
}

// slot is where a work task fits into a maker's time.
type slot struct {
	maker      *maker
	start, end studio.Minute
	pauses     []studio.Span
	setup      studio.Minute
	tools      []studio.ID
	overtime   bool
	cause      studio.Cause
	behind     studio.ID // the task that kept the maker or the tool busy, if any
}

// work finds the person who is done with a task first.
func (p *placement) work(j *job, t *studio.Task, r readiness) *fault {
	var best *slot
	why := &fault{reason: studio.NoSkill, detail: fmt.Sprintf("nobody has all of %q", skills(j))}
	for _, m := range p.makers {
		if !j.May(m.Person, r.pin) {
			continue
		}
		if why.reason == studio.NoSkill {
			why = &fault{reason: studio.NoHours, detail: fmt.Sprintf("%d pieces find no time", j.Pieces)}
		}
		ways := []bool{false}
		if p.overtime[j.lot] {
			ways = append(ways, true)
		}
		for _, overtime := range ways {
			s, failed := p.earliest(m, j, r, overtime)
			if failed != nil {
				why = failed
			} else if best == nil || s.end < best.end || s.end == best.end && s.maker.load < best.maker.load {
				best = s
			}
		}
	}
	if best == nil {
		if r.pin != nil {
			why.reason = studio.PinBroken
		}
		return why
	}
	t.Person, t.End, t.Pauses, t.Setup, t.Tools, t.Overtime = best.maker.ID, best.end, best.pauses, best.setup, best.tools, best.overtime
	if best.start > r.needs && t.Cause != studio.CausePin {
		t.Cause = studio.CauseHours
		if best.behind != "" {
			t.Cause, t.CausedBy = best.cause, best.behind
		}
	}
	t.Start = best.start
	if j.Fact != nil {
		t.State, t.Start, t.Resume = j.Fact.State, j.Fact.Start, &best.start
	}
	return nil
}

func skills(j *job) []string {
	var all []string
	for _, e := range j.Work {
		all = append(all, e.Skill)
	}
	return all
}

// earliest finds the first place in a maker's time for a job: hours, other work,
// colour setup, tools and the length that windows out of it allow.
func (p *placement) earliest(m *maker, j *job, r readiness, overtime bool) (*slot, *fault) {
	hours := m.hours
	if overtime {
		hours = m.longer
	}
	s := &slot{maker: m}
	none := &fault{reason: studio.NoHours, detail: "no stretch of working time is long enough before the horizon"}
	for t, tries := r.from, 0; tries < mostTries; tries++ {
		start, ok := hours.Next(t)
		if !ok || j.Fact == nil && r.pin != nil && r.pin.Start != nil && start != *r.pin.Start {
			return nil, none
		}
		if busy := m.at(start); busy != nil {
			t, s.cause, s.behind = busy.To, studio.CausePerson, busy.task
			continue
		}
		setup, _, _ := p.setup(m, j, start, start)
		end, pauses, ok := hours.Lay(start, j.Runs(m.Person, setup), j.Pauses())
		if !ok {
			if t, ok = hours.After(start); !ok || j.Pauses() {
				return nil, none
			}
			continue
		}
		if busy := m.between(start, end); busy != nil {
			t, s.cause, s.behind = busy.To, studio.CausePerson, busy.task
			continue
		}
		if _, later, fits := p.setup(m, j, start, end); !fits {
			t = max(start+1, later)
			continue
		}
		if next, long := p.tooLong(j, start, end, pauses); long {
			none = &fault{reason: studio.TooLate, detail: "takes longer than what is done first in it may wait"}
			if next == 0 {
				return nil, none
			}
			t = next
			continue
		}
		s.start, s.end, s.pauses, s.setup = start, end, pauses, setup
		free, by, ok := p.grip(j, s)
		if ok {
			s.overtime = overtime && p.beyond(m, s)
			return s, nil
		}
		none = &fault{reason: studio.NoTool, detail: "the tools it needs stay in use"}
		if free >= p.doc.Horizon() {
			return nil, none
		}
		t, s.cause, s.behind = max(start+1, free), studio.CauseTool, by
	}
	return nil, none
}

// at is what a maker is at in a minute, between the first of it within a span.
func (m *maker) at(t studio.Minute) *occupied { return m.between(t, t+1) }

func (m *maker) between(from, to studio.Minute) *occupied {
	i := sort.Search(len(m.busy), func(i int) bool { return m.busy[i].To > from })
	if i == len(m.busy) || m.busy[i].From >= to {
		return nil
	}
	return &m.busy[i]
}

// tooLong says that a task takes longer than a window out of it allows, and from
// when to try again; 0 is never.
func (p *placement) tooLong(j *job, start, end studio.Minute, pauses []studio.Span) (studio.Minute, bool) {
	if j.Fact != nil {
		return 0, false
	}
	for _, k := range j.out {
		if k.Most == nil || k.other.Fact != nil {
			continue
		}
		if _, last, _, ok := p.air.Window(k.Lag, start); ok && end > last {
			switch {
			case len(pauses) > 0:
				return max(start+1, pauses[0].To), true
			case k.Most.Dries != nil:
				return start + 60, true
			}
			return 0, true
		}
	}
	return 0, false
}

// grip chooses the tools of a job, the first kind of each that is free; or says
// when one comes free, and whose it is.
func (p *placement) grip(j *job, s *slot) (free studio.Minute, by studio.ID, ok bool) {
	t := &studio.Task{Start: s.start, End: s.end, Pauses: s.pauses}
	s.tools = nil
	mine := map[studio.ID]int64{}
	for _, use := range j.Tools {
		chosen := studio.ID("")
		soonest := studio.Minute(1) << 40
		for _, kind := range use.AnyOf {
			blocked := false
			for _, span := range worked(t) {
				until, task, full := p.tools[kind].blocked(span, use.Number+mine[kind])
				if full && until < soonest {
					soonest, by = until, task
				}
				blocked = blocked || full
			}
			if !blocked {
				chosen = kind
				break
			}
		}
		if chosen == "" {
			return soonest, by, false
		}
		mine[chosen] += use.Number
		s.tools = append(s.tools, chosen)
	}
	return 0, "", true
}

// beyond is true of a slot that goes beyond its maker's hours.
func (p *placement) beyond(m *maker, s *slot) bool {
	for _, span := range worked(&studio.Task{Start: s.start, End: s.end, Pauses: s.pauses}) {
		if m.hours.Worked(span) < span.To-span.From {
			return true
		}
	}
	return false
}
