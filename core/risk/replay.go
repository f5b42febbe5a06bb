package risk

import (
	"math"
	"math/rand/v2"
	"slices"

	"bractum/core/studio"
)

// replay is one course of things. It is used again and again: nothing of the one before is left.
type replay struct {
	*model
	random *rand.Rand
	end    []studio.Minute // by task
	start  []studio.Minute
	by     []int           // the task that a task waited for, -1 for none
	cause  []Cause         // what made a task take longer than it was planned to
	over   []studio.Minute // by how much
	busy   [][]busy        // by person, in order of time
	taken  [][]release     // by place
	loads  map[[2]studio.Minute]studio.Span
	free   []studio.Minute // by machine
	opens  []studio.Minute
	runs   []studio.Minute // of what is laid now
	ready  []studio.Minute // by order
	limits []int           // the last task of an order
}

// busy is when somebody is at a task, -1 where they are not there.
type busy struct {
	studio.Span
	task int
}

// release is when some slots of a place are free again; past all time where that is not known yet.
type release struct {
	at    studio.Minute
	slots int64
	task  int
}

// Cause is what makes something late.
type Cause string

// Causes.
const (
	Drying   Cause = "drying"
	Minutes  Cause = "minutes"
	Breakage Cause = "breakage"
	Delivery Cause = "delivery"
	Away     Cause = "away"
	Waiting  Cause = "waiting" // for people, places or machines that something else was late in
)

func (m *model) newReplay() *replay {
	n := len(m.tasks)
	return &replay{model: m, end: make([]studio.Minute, n), start: make([]studio.Minute, n), by: make([]int, n),
		cause: make([]Cause, n), over: make([]studio.Minute, n), busy: make([][]busy, len(m.hours)),
		taken: make([][]release, len(m.places)), loads: map[[2]studio.Minute]studio.Span{},
		free: make([]studio.Minute, m.machines), opens: make([]studio.Minute, len(m.gates)),
		ready: make([]studio.Minute, len(m.orders)), limits: make([]int, len(m.orders))}
}

// run goes through the plan once, by a seed and the number of the replay: the same give the same.
func (r *replay) run(seed uint64, n int) {
	r.random = rand.New(rand.NewPCG(seed, uint64(n)))
	r.begin()
	for i := range r.tasks {
		r.do(i)
	}
	for i := range r.orders {
		o := &r.orders[i]
		r.ready[i], r.limits[i] = o.ready, -1
		for _, last := range o.last {
			if r.end[last] > r.ready[i] || r.limits[i] < 0 {
				r.ready[i], r.limits[i] = max(r.ready[i], r.end[last]), last
			}
		}
		if o.never {
			r.ready[i] = r.horizon + 1440
		}
	}
}

// begin draws who is away and which deliveries are late.
func (r *replay) begin() {
	for p := range r.busy {
		r.busy[p] = r.busy[p][:0]
		for _, day := range r.days {
			if r.chance(r.spreads.Away) {
				r.busy[p] = append(r.busy[p], busy{day, -1})
			}
		}
	}
	for p := range r.taken {
		r.taken[p] = append(r.taken[p][:0], release{slots: r.places[p], task: -1})
	}
	clear(r.loads)
	clear(r.free)
	for g, at := range r.gates {
		for at > r.now && at < r.horizon && r.chance(r.spreads.Late) {
			at += 1440
		}
		r.opens[g] = at
	}
}

func (r *replay) chance(of studio.PerMille) bool { return r.random.IntN(1000) < int(of) }

// factor is by how much attended time is longer than planned, with a mean of one.
func (r *replay) factor() float64 {
	sigma := float64(r.spreads.Minutes) / 1000
	return math.Exp(sigma*r.random.NormFloat64() - sigma*sigma/2)
}

// do has a task come about.
func (r *replay) do(i int) {
	t := &r.tasks[i]
	r.by[i], r.cause[i], r.over[i] = -1, "", 0
	if t.done {
		r.start[i], r.end[i] = t.start, t.end
		r.occupy(i, t)
		return
	}
	from := r.now
	wait := func(until studio.Minute, by int, cause Cause, over studio.Minute) {
		if until > from {
			from, r.by[i] = until, by
			if over > r.over[i] {
				r.cause[i], r.over[i] = cause, over
			}
		}
	}
	for _, k := range t.needs {
		until := r.end[k.of] + k.least
		if k.dries != nil {
			if until = r.dry(k.dries, r.end[k.of]); r.spreads.Steady {
				until, _ = r.model.room.End(studio.Length{Dries: k.dries}, r.end[k.of])
			}
		}
		wait(until, k.of, "", 0)
	}
	for _, g := range t.gates {
		wait(r.opens[g], -1, Delivery, r.opens[g]-r.gates[g])
	}
	from = r.roomFor(t, from, i)
	switch {
	case t.person >= 0:
		r.work(i, t, from, 1)
	case t.machine >= 0:
		r.inMachine(i, t, from)
	default:
		r.start[i] = from
		if r.end[i] = from + t.length; t.dries != nil && !r.spreads.Steady {
			if r.end[i] = r.dry(t.dries, from); t.begun {
				r.end[i] = r.dry(t.dries, t.start)
			}
		}
		if over := r.end[i] - r.start[i] - (t.end - t.start); over > r.over[i] {
			r.cause[i], r.over[i] = Drying, over
		}
	}
	r.occupy(i, t)
	if l := &r.lots[t.lot]; i == l.tasks[len(l.tasks)-1] {
		r.lose(l, i)
	}
}

// dry is when something that is put down at a minute is as far as it has to be, of its kind this one.
func (r *replay) dry(d *studio.Dries, at studio.Minute) studio.Minute {
	end, ok := r.model.room.When(*d, 1+int64(r.random.IntN(99)), at)
	if !ok {
		return r.horizon + 1440
	}
	return max(at, end)
}

// handsOn is by how much sooner another has to be done with a task for it to be handed on to them.
const handsOn = 60

// work has its person do a task, or a share of it, at the first time that they have for it, or somebody who may do it
// too and is done a good deal sooner.
func (r *replay) work(i int, t *task, from studio.Minute, share float64) {
	factor := r.factor() * share
	var best studio.Span
	who, kept := -1, -1
	for n := range t.ways {
		w := &t.ways[n]
		r.runs = r.runs[:0]
		for _, run := range w.runs {
			r.runs = append(r.runs, scaled(run, factor))
		}
		start, end, blocker := r.fits(w.person, from, r.runs, t.pauses || t.begun)
		if n == 0 {
			best, who, kept = studio.Span{From: start, To: end}, w.person, blocker
			if start == from {
				break // nobody is sooner
			}
		} else if end+handsOn < best.To {
			best, who = studio.Span{From: start, To: end}, w.person
		}
	}
	if best.From > from && kept >= 0 {
		r.by[i] = kept
	}
	r.start[i], r.end[i] = best.From, best.To
	if over := scaled(t.length, factor) - t.length; over > r.over[i] {
		r.cause[i], r.over[i] = Minutes, over
	}
	if kept == absent && best.From-from > r.over[i] {
		r.cause[i], r.over[i] = Away, best.From-from
	}
	all := r.busy[who]
	at, _ := slices.BinarySearchFunc(all, best.From, func(b busy, m studio.Minute) int { return int(b.From - m) })
	r.busy[who] = slices.Insert(all, at, busy{best, i})
}

// absent stands for somebody who was not there.
const absent = -2

// fits is the first time from a minute on at which somebody has time for runs of work, and what kept them last.
func (r *replay) fits(
	person int,
	from studio.Minute,
	runs []studio.Minute,
	pauses bool,
) (start, end studio.Minute, blocker int) {
	hours, all := r.hours[person], r.busy[person]
	blocker = -1
	at, _ := slices.BinarySearchFunc(all, from, func(b busy, m studio.Minute) int {
		if b.To <= m {
			return -1
		}
		return 1
	})
	for {
		next, ok := hours.Next(from)
		if !ok {
			return r.horizon, r.horizon + 1440, blocker
		}
		from = next
		for at < len(all) && all[at].To <= from {
			at++
		}
		if at < len(all) && all[at].From <= from {
			if blocker = all[at].task; blocker < 0 {
				blocker = absent
			}
			from = all[at].To
			continue
		}
		end, _, ok := hours.Lay(from, runs, pauses)
		if !ok {
			later, there := hours.After(from)
			if !there {
				return r.horizon, r.horizon + 1440, blocker
			}
			from = later
			continue
		}
		if at < len(all) && all[at].From < end {
			if blocker = all[at].task; blocker < 0 {
				blocker = absent
			}
			from = all[at].To
			continue
		}
		return from, end, blocker
	}
}

// inMachine puts a task into its load: what is loaded together begins together, after the load before.
func (r *replay) inMachine(i int, t *task, from studio.Minute) {
	key := [2]studio.Minute{studio.Minute(t.machine), t.load}
	load, there := r.loads[key]
	if !there {
		load.From = max(from, r.free[t.machine])
		if load.From > from {
			r.cause[i] = Waiting
		}
		load.To = load.From + t.length
	} else if from > load.From { // what comes last has the others wait
		load = studio.Span{From: from, To: from + max(t.length, load.To-load.From)}
	}
	r.loads[key], r.free[t.machine] = load, max(r.free[t.machine], load.To)
	r.start[i], r.end[i] = load.From, load.To
}

// roomFor is from when a task has its slots of places and its tools.
func (r *replay) roomFor(t *task, from studio.Minute, i int) studio.Minute {
	for _, k := range t.takes {
		all, need := r.taken[k.place], k.slots
		slices.SortFunc(all, func(a, b release) int { return int(a.at - b.at) })
		for n := 0; n < len(all) && need > 0; n++ {
			if need -= all[n].slots; need <= 0 && all[n].at > from && all[n].at < never {
				from, r.by[i] = all[n].at, all[n].task
			}
		}
	}
	return from
}

// never is a minute past all time: what is taken until something that has not come about yet.
const never = math.MaxInt64 / 4

// occupy takes the slots of a task, until what frees them has ended.
func (r *replay) occupy(i int, t *task) {
	for _, k := range t.takes {
		all, need := r.taken[k.place], k.slots
		for n := 0; n < len(all) && need > 0; n++ {
			used := min(need, all[n].slots)
			all[n].slots -= used
			need -= used
		}
		all = slices.DeleteFunc(all, func(f release) bool { return f.slots == 0 })
		r.taken[k.place] = append(all, release{at: never, slots: k.slots - max(0, need), task: i})
	}
	for _, p := range t.frees {
		for n := range r.taken[p] {
			if f := &r.taken[p][n]; f.at == never {
				f.at = r.freed(f.task, p, i)
			}
		}
	}
}

// freed is when what a task takes of a place is free, where the last that it is taken until has come about by a turn.
func (r *replay) freed(taker, place, turn int) studio.Minute {
	at := studio.Minute(never)
	for _, k := range r.tasks[taker].takes {
		if k.place == place && k.last <= turn {
			at = r.end[taker]
			for _, until := range k.until {
				at = max(at, r.end[until])
			}
		}
	}
	return at
}

// lose has pieces of a lot break as its last task is done. What is short beyond its spares is made once more, by whom
// it was made.
func (r *replay) lose(l *lot, last int) {
	if l.loses <= 0 || l.started <= 0 || l.need <= 0 {
		return
	}
	short := l.need - (l.started - r.binomial(l.started, l.loses))
	if short <= 0 {
		return
	}
	share := float64(short) / float64(l.started)
	was := r.end[last]
	at := was
	for _, i := range l.tasks {
		t := &r.tasks[i]
		switch {
		case t.person >= 0:
			whole := max(1, t.length)
			part := (float64(t.setup) + float64(whole-t.setup)*share) / float64(whole)
			start, end, by, cause, over := r.start[i], r.end[i], r.by[i], r.cause[i], r.over[i]
			r.work(i, t, at, part)
			at = r.end[i]
			r.start[i], r.end[i], r.by[i], r.cause[i], r.over[i] = start, end, by, cause, over
		case t.dries != nil:
			at = r.dry(t.dries, at)
		default:
			at += t.length
		}
	}
	r.end[last] = at
	if over := at - was; over > r.over[last] {
		r.cause[last], r.over[last] = Breakage, over
	}
}

// binomial draws how many of n are lost.
func (r *replay) binomial(n int64, p float64) (lost int64) {
	if n > 200 { // near enough to normal
		mean := float64(n) * p
		return min(n, max(0, int64(math.Round(mean+math.Sqrt(mean*(1-p))*r.random.NormFloat64()))))
	}
	for skip := math.Log1p(-p); ; lost++ { // from one that is lost to the next
		if n -= 1 + int64(math.Log(1-r.random.Float64())/skip); n < 0 {
			return lost
		}
	}
}
