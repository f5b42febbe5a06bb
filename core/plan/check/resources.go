package check

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// makers checks that everybody does one thing at a time, and what each task is
// charged for coming to its colour.
func (c *checker) makers() {
	for i := range c.doc.People {
		p := &c.doc.People[i]
		var all, ahead []*studio.Task
		for j := range c.plan.Tasks {
			if t := &c.plan.Tasks[j]; t.Person == p.ID {
				all = append(all, t)
				if !c.activities[t.ID].Done() {
					ahead = append(ahead, t)
				}
			}
		}
		slices.SortStableFunc(ahead, func(a, b *studio.Task) int { return cmp.Compare(a.Begin(), b.Begin()) })
		for k := 1; k < len(ahead); k++ {
			if ahead[k].Begin() < ahead[k-1].End {
				c.say(TwoAtOnce, ahead[k].ID, "%q is at %q until %d", p.Name, ahead[k-1].ID, ahead[k-1].End)
			}
		}
		c.setups(p, c.turns(p, all))
	}
}

// turn is one go of a person at a task. A task that was begun is a turn when it was
// begun, and another, perhaps of somebody else, when it is gone on with.
type turn struct {
	*studio.Activity
	start, end studio.Minute
	charged    studio.Minute
}

// turns are what a person has begun and what is planned for them, in order.
func (c *checker) turns(p *studio.Person, tasks []*studio.Task) []turn {
	var all []turn
	for _, l := range c.instance.Lots {
		for i := range l.Tasks {
			if a := &l.Tasks[i]; a.Wait == nil && a.Begun() && a.Fact.Person == p.ID {
				all = append(all, turn{Activity: a, start: a.Fact.Start, end: a.Fact.Start, charged: 0})
			}
		}
	}
	for _, t := range tasks {
		all = append(all, turn{Activity: c.activities[t.ID], start: t.Begin(), end: t.End, charged: t.Setup})
	}
	slices.SortStableFunc(
		all,
		func(a, b turn) int { return cmp.Or(cmp.Compare(a.start, b.start), cmp.Compare(a.ID, b.ID)) },
	)
	return all
}

// setups goes through a person's turns in order.
func (c *checker) setups(p *studio.Person, turns []turn) {
	type last struct {
		mix   studio.ID
		day   studio.Date
		other bool // other work came since
	}
	state := map[studio.ID]*last{}
	for family, mix := range p.Colours {
		state[family] = &last{mix: mix, day: c.calendar.Date(c.doc.Now)}
	}
	for _, t := range turns {
		var want studio.Minute
		for _, f := range c.doc.Families {
			use, known := t.Setup, state[f.ID]
			if use == nil || use.Family != f.ID {
				if known != nil {
					known.other = true
				}
				continue
			}
			var from studio.ID
			if known != nil && !(f.Reset == studio.ResetNight && known.day != c.calendar.Date(t.start)) &&
				!(f.Reset == studio.ResetOtherWork && known.other) {
				from = known.mix
			}
			if t.Fact == nil {
				want = f.Cost(from, use.Mix)
			}
			state[f.ID] = &last{mix: use.Mix, day: c.calendar.Date(max(t.start, t.end-1))}
		}
		if t.charged != want {
			c.say(WrongSetup, t.ID, "is charged %d min for its colour; %d would be right", t.charged, want)
		}
	}
}

type change struct {
	at      studio.Minute
	slots   int64
	task    studio.ID
	planned bool // it did not happen before
}

// overfull goes through changes in time, what is freed first, then what happened,
// and names what is planned to take more than there is.
func overfull(changes []change, most int64, say func(at change, used int64)) {
	rank := func(c change) int {
		switch {
		case c.slots < 0:
			return 0
		case !c.planned:
			return 1
		}
		return 2
	}
	slices.SortStableFunc(
		changes,
		func(a, b change) int { return cmp.Or(cmp.Compare(a.at, b.at), cmp.Compare(rank(a), rank(b))) },
	)
	var used int64
	for _, ch := range changes {
		used += ch.slots
		if used > most && ch.slots > 0 && ch.planned {
			say(ch, used)
		}
	}
}

// places works out every hold anew and adds up what lies in each place.
func (c *checker) places() {
	changes := map[studio.ID][]change{}
	for i := range c.plan.Tasks {
		t := &c.plan.Tasks[i]
		a := c.activities[t.ID]
		_, lies := c.lying[t.ID]
		want := []studio.Held{}
		for _, h := range a.Holds {
			end, known := c.lastEnd(t.End, h.Until)
			to := c.emptied(end)
			if !known {
				to = max(t.End, c.doc.Horizon())
			}
			want = append(want, studio.Held{Place: h.Place, Slots: h.Slots, From: t.Start, To: to})
			if to > c.doc.Now {
				changes[h.Place] = append(
					changes[h.Place],
					change{at: t.Start, slots: h.Slots, task: t.ID, planned: !lies},
					change{at: to, slots: -h.Slots, task: t.ID, planned: true},
				)
			}
			for _, p := range c.doc.Places {
				if p.ID == h.Place && p.KeepsMinutes > 0 && !lies && known && end-t.Start > p.KeepsMinutes {
					c.say(
						KeptTooLong,
						t.ID,
						"%q keeps for %d min, not from %d to %d",
						p.Name,
						p.KeepsMinutes,
						t.Start,
						end,
					)
				}
			}
		}
		if !slices.Equal(want, append([]studio.Held{}, t.Holds...)) {
			c.say(WrongHold, t.ID, "holds %v; %v would be right", t.Holds, want)
		}
	}
	for id, since := range c.lying { // though it is unplaced
		for _, h := range c.activities[id].Holds {
			if c.tasks[id] == nil {
				changes[h.Place] = append(changes[h.Place], change{at: since, slots: h.Slots, task: id, planned: false})
			}
		}
	}
	for _, p := range c.doc.Places {
		overfull(changes[p.ID], p.Slots, func(ch change, used int64) {
			c.say(PlaceOverfull, ch.task, "%q has %d slots, %d are taken at %d", p.Name, p.Slots, used, ch.at)
		})
	}
}

// lastEnd is when the last of some tasks ends, or its own end if that is later; false
// when one is unplaced.
func (c *checker) lastEnd(end studio.Minute, tasks []studio.ID) (studio.Minute, bool) {
	for _, id := range tasks {
		t := c.tasks[id]
		if t == nil {
			return 0, false
		}
		end = max(end, t.End)
	}
	return end, true
}

// tools checks that each use names a tool that will do, and that no kind is in
// more hands than there are; a task that pauses lets go.
func (c *checker) tools() {
	changes := map[studio.ID][]change{}
	for i := range c.plan.Tasks {
		t := &c.plan.Tasks[i]
		a := c.activities[t.ID]
		if a.Done() {
			continue
		}
		if len(t.Tools) != len(a.Tools) {
			c.say(WrongTool, t.ID, "takes %q; it needs %d", t.Tools, len(a.Tools))
			continue
		}
		for j, use := range a.Tools {
			if !slices.Contains(use.AnyOf, t.Tools[j]) {
				c.say(WrongTool, t.ID, "takes %q; one of %q would do", t.Tools[j], use.AnyOf)
				continue
			}
			from := t.Begin()
			for _, pause := range append(slices.Clone(t.Pauses), studio.Span{From: t.End, To: t.End}) {
				changes[t.Tools[j]] = append(
					changes[t.Tools[j]],
					change{at: from, slots: use.Number, task: t.ID, planned: true},
					change{at: pause.From, slots: -use.Number, task: t.ID, planned: true},
				)
				from = pause.To
			}
		}
	}
	for _, tool := range c.doc.Tools {
		overfull(changes[tool.ID], tool.Number, func(ch change, used int64) {
			c.say(
				ToolOverused,
				ch.task,
				"there are %d of %q, %d are in use at %d",
				tool.Number,
				tool.Name,
				used,
				ch.at,
			)
		})
	}
}

// machines checks that the waits in a machine make loads: the same start, end and
// setting, as long as the longest needs, one after the other with somebody there
// to empty it, and begun when somebody is there or has just loaded it.
func (c *checker) machines() {
	loads := map[studio.ID][]*studio.Task{}
	for i := range c.plan.Tasks {
		t := &c.plan.Tasks[i]
		a := c.activities[t.ID]
		switch {
		case a.Done():
		case a.Wait == nil || a.Wait.Load == nil:
			if t.Load != nil {
				c.say(WrongLoad, t.ID, "is in %q and is no load", t.Load.Machine)
			}
		case t.Load == nil || !slices.Contains(a.Wait.Load.AnyOf, t.Load.Machine) || t.Load.Setting != a.Wait.Load.Setting || t.Load.Slots != a.Wait.Load.Slots:
			c.say(
				WrongLoad,
				t.ID,
				"has load %+v; %d slots of one of %q at %q would be right",
				t.Load,
				a.Wait.Load.Slots,
				a.Wait.Load.AnyOf,
				a.Wait.Load.Setting,
			)
		default:
			loads[t.Load.Machine] = append(loads[t.Load.Machine], t)
		}
	}
	for _, m := range c.doc.Machines {
		c.loads(m, loads[m.ID])
	}
}

func (c *checker) loads(m studio.Machine, tasks []*studio.Task) {
	slices.SortStableFunc(tasks, func(a, b *studio.Task) int { return cmp.Compare(a.Start, b.Start) })
	free := studio.Minute(-1) << 40
	for i := 0; i < len(tasks); {
		first, past := tasks[i], i
		var longest studio.Minute
		var slots int64
		onShift, ok := c.everyone.Next(first.Start)
		shared := true
		attended := ok && onShift == first.Start || c.activities[first.ID].Fact != nil
		if first.Start < c.doc.Now && c.activities[first.ID].Fact == nil {
			c.say(BeforeNow, first.ID, "its load begins at %d, now is %d", first.Start, c.doc.Now)
		}
		for past < len(tasks) && tasks[past].Start == first.Start {
			t := tasks[past]
			a := c.activities[t.ID]
			longest, slots = max(longest, a.Wait.Least.Minutes), slots+a.Wait.Load.Slots
			attended = attended || c.loadedAt(t) == t.Start
			switch {
			case t.End != first.End || t.Load.Setting != first.Load.Setting && a.Fact == nil:
				shared = false
				c.say(WrongLoad, t.ID, "shares a load of %q with %q, and not its end or setting", m.Name, first.ID)
			case a.Begun() != c.activities[first.ID].Begun():
				c.say(WrongLoad, t.ID, "joins a load of %q that was begun and is closed", m.Name)
			}
			past++
		}
		switch {
		case c.activities[first.ID].Fact != nil: // it is so
		case first.Start < free:
			c.say(MachineOverful, first.ID, "begins at %d; %q is free from %d", first.Start, m.Name, free)
		case slots > m.Slots:
			c.say(
				MachineOverful,
				first.ID,
				"%q has %d slots, its load at %d takes %d",
				m.Name,
				m.Slots,
				first.Start,
				slots,
			)
		}
		if shared && first.End-first.Start != longest {
			c.say(
				WrongWait,
				first.ID,
				"the load of %q from %d lasts %d min; %d would be right",
				m.Name,
				first.Start,
				first.End-first.Start,
				longest,
			)
		}
		if !attended {
			c.say(WrongLoad, first.ID, "the load of %q begins at %d, when nobody is there", m.Name, first.Start)
		}
		free = max(free, c.emptied(first.End))
		i = past
	}
}

// loadedAt is when the work before a wait in a machine ends.
func (c *checker) loadedAt(t *studio.Task) studio.Minute {
	for _, l := range c.instance.Lots {
		for i := 1; i < len(l.Tasks); i++ {
			if before := c.tasks[l.Tasks[i-1].ID]; l.Tasks[i].ID == t.ID && before != nil {
				return before.End
			}
		}
	}
	return -1
}
