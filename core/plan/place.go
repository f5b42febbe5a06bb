package plan

import (
	"container/heap"
	"fmt"
	"slices"

	"bractum/core/studio"
)

// placement is one plan in the making.
type placement struct {
	*search
	wish
	all      []*job
	byID     map[studio.ID]*job
	makers   []*maker
	rooms    map[studio.ID]*stock
	tools    map[studio.ID]*stock
	machines []*machine
	unplaced []studio.Unplaced
}

// fault is why a job cannot be placed: for good, or as long as another job of its
// cluster begins before a minute.
type fault struct {
	reason   studio.Reason
	detail   string
	delay    *job
	to       studio.Minute
	cause    studio.Cause
	causedBy studio.ID
	of       *job // that cannot be placed
}

// mostTries is how many jobs of a cluster are laid anew before it is given up, and how
// many gaps in a maker's time are tried for one of them.
const mostTries = 4000

func (s *search) place(w wish) *studio.Plan {
	p := &placement{search: s, wish: w, rooms: map[studio.ID]*stock{}, tools: map[studio.ID]*stock{}}
	for i := range s.doc.People {
		p.makers = append(p.makers, &maker{Person: &s.doc.People[i], hours: s.hours[i], longer: s.longer[i]})
	}
	for _, place := range s.doc.Places {
		p.rooms[place.ID] = &stock{most: place.Slots}
	}
	for _, tool := range s.doc.Tools {
		p.tools[tool.ID] = &stock{most: tool.Number}
	}
	for i := range s.doc.Machines {
		p.machines = append(p.machines, &machine{Machine: &s.doc.Machines[i]})
	}
	p.all, p.byID = jobs(s.instance)
	p.recall()
	clusters := clustered(p.all)
	p.urgencies(clusters)
	p.run(clusters)
	return p.finished()
}

// recall lays down what has happened: done tasks as they were, and what lies in
// places, until the horizon where what ends the hold is still to be placed.
func (p *placement) recall() {
	for _, j := range p.all {
		if j.Fact == nil {
			continue
		}
		if m := p.maker(j.Fact.Person); m != nil && j.Begun() {
			m.turns = slices.Insert(m.turns, m.turnAt(j.ID, j.Fact.Start), turn{j, j.Fact.Start, j.Fact.Start, 0})
		}
		if j.Done() {
			j.task = &studio.Task{ID: j.ID, Lot: j.lot, Step: j.Step, State: studio.TaskDone, Person: j.Fact.Person, Start: j.Fact.Start, End: j.Fact.End, Pieces: j.Pieces}
			if m := p.maker(j.Fact.Person); m != nil {
				m.occupy(j, j.task)
			}
		}
	}
	p.running()
	for _, j := range p.all {
		if j.lies {
			for i := range j.Holds {
				p.hold(j, i)
			}
		}
	}
}

// running closes the machines that run, each with the shares that were begun
// together.
func (p *placement) running() {
	for _, j := range p.all {
		if !j.running() {
			continue
		}
		m := p.machines[slices.IndexFunc(p.machines, func(m *machine) bool { return m.ID == j.Fact.Machine })]
		i := slices.IndexFunc(m.loads, func(l *load) bool { return l.From == j.Fact.Start })
		if i < 0 {
			i = len(m.loads)
			m.loads = append(m.loads, &load{Span: studio.Span{From: j.Fact.Start}, closed: true, setting: j.Wait.Load.Setting})
		}
		l := m.loads[i]
		l.To = max(l.To, j.Fact.Start+j.Wait.Least.Minutes)
		l.slots, l.tasks = l.slots+j.Wait.Load.Slots, append(l.tasks, j.ID)
	}
	for _, m := range p.machines {
		for _, l := range m.loads {
			for _, id := range l.tasks {
				j := p.byID[id]
				j.task = &studio.Task{ID: j.ID, Lot: j.lot, Step: j.Step, State: studio.TaskStarted, Start: l.From, End: l.To, Pieces: j.Pieces,
					Load: &studio.Share{Machine: m.ID, Setting: j.Wait.Load.Setting, Slots: j.Wait.Load.Slots}, Cause: studio.CauseNow}
			}
		}
	}
}

func (p *placement) maker(person studio.ID) *maker {
	i := slices.IndexFunc(p.makers, func(m *maker) bool { return m.ID == person })
	if i < 0 {
		return nil
	}
	return p.makers[i]
}

// urgencies works out when each cluster must begin at the latest, backwards from
// what orders want: standard lengths, no nights.
func (p *placement) urgencies(clusters []*cluster) {
	byRank := make([]*job, len(p.all))
	ends := make([]studio.Minute, len(p.all))
	for _, j := range p.all {
		byRank[j.rank], ends[j.number] = j, p.doc.Horizon()
	}
	for _, l := range p.instance.Lots {
		last := p.byID[l.Tasks[len(l.Tasks)-1].ID]
		for _, o := range p.instance.Orders {
			if slices.Contains(o.Lots, l.ID) {
				ends[last.number] = min(ends[last.number], o.ReadyBy)
			}
		}
	}
	for _, j := range slices.Backward(byRank) {
		j.latest = ends[j.number] - p.standard(j)
		if j.before != nil {
			ends[j.before.number] = min(ends[j.before.number], j.latest)
		}
		for _, k := range j.in {
			from := j.latest
			if k.Least != nil {
				from -= studio.Milliminutes(p.air.Need(*k.Least)).Minutes()
			}
			ends[k.other.number] = min(ends[k.other.number], from)
		}
	}
	for _, c := range clusters {
		c.latest = p.doc.Horizon()
		for _, j := range c.jobs {
			c.latest = min(c.latest, j.latest+p.shift[j.lot])
		}
	}
}

func (p *placement) standard(j *job) studio.Minute {
	if j.Wait != nil {
		return studio.Milliminutes(p.air.Need(j.Wait.Least)).Minutes()
	}
	var sum studio.Milliminutes
	for _, e := range j.Work {
		sum += e.Total()
	}
	return sum.Minutes()
}

func (p *placement) run(clusters []*cluster) {
	var q queue
	for _, c := range clusters {
		if c.blockers == 0 {
			q = append(q, c)
		}
	}
	heap.Init(&q)
	for q.Len() > 0 {
		c := heap.Pop(&q).(*cluster)
		p.settle(c)
		for _, next := range c.next {
			if next.blockers--; next.blockers == 0 {
				heap.Push(&q, next)
			}
		}
	}
}

// settle places a cluster, with its waits as one would wish, else at their least,
// or gives it up. What has begun is placed even then.
func (p *placement) settle(c *cluster) {
	if missing := p.missing(c); missing != nil {
		p.giveUp(c, &fault{reason: studio.AfterGone, detail: fmt.Sprintf("%q is unplaced", missing.ID)})
		return
	}
	why := p.lay(c, false)
	if why != nil {
		why = p.lay(c, true)
	}
	if why != nil {
		p.giveUp(c, why)
	}
}

// missing is something unplaced that a cluster needs.
func (p *placement) missing(c *cluster) *job {
	for _, j := range c.jobs {
		if j.Fact != nil {
			continue
		}
		if j.before != nil && j.before.gone {
			return j.before
		}
		for _, k := range j.in {
			if k.other.gone {
				return k.other
			}
		}
	}
	return nil
}

func (p *placement) giveUp(c *cluster, why *fault) {
	first := c.jobs[0]
	if why.of != nil {
		first = why.of
	}
	for _, j := range c.jobs {
		running := j.lies
		for _, k := range j.in {
			running = running && (k.other.task != nil || j.Fact != nil)
		}
		if running && p.put(j, 0, true) == nil {
			continue
		}
		j.gone = true
		u := studio.Unplaced{Task: j.ID, Lot: j.lot, Step: j.Step, Reason: studio.AfterGone, Detail: fmt.Sprintf("goes with %q, which is unplaced", first.ID)}
		if j == first {
			u.Reason, u.Detail = why.reason, why.detail
		}
		p.unplaced = append(p.unplaced, u)
	}
}

// lay places the jobs of a cluster one after the other. Where one finds that
// another should have begun later, that one and all after it are laid anew.
func (p *placement) lay(c *cluster, least bool) *fault {
	floor := map[*job]*fault{}
	for i, tries := 0, 0; i < len(c.jobs); {
		j := c.jobs[i]
		var from studio.Minute
		if floor[j] != nil {
			from = floor[j].to
		}
		why := p.put(j, from, least)
		if why == nil {
			if f := floor[j]; f != nil && j.task.Begin() >= f.to && j.task.Cause != studio.CausePerson {
				j.task.Cause, j.task.CausedBy = f.cause, f.causedBy
			}
			i++
			continue
		}
		back := slices.Index(c.jobs, why.delay)
		if tries += 1 + i - max(0, back); back < 0 || tries > mostTries || why.to > p.doc.Horizon() {
			for _, k := range slices.Backward(c.jobs[:i]) {
				p.take(k)
			}
			why.of = j
			return why
		}
		for _, k := range slices.Backward(c.jobs[back:i]) {
			p.take(k)
		}
		floor[why.delay] = why
		i = back
	}
	return nil
}

// later asks that a job begin later by so much than it does: it, or the work from
// whose end it runs. What has happened cannot; then the fault is for good.
func (p *placement) later(j *job, by studio.Minute, f fault) *fault {
	for j.Wait != nil && j.Wait.Load == nil && j.Fact == nil {
		j = j.before
	}
	if j.Fact == nil && j.task != nil {
		f.delay, f.to = j, j.task.Start+max(1, by)
	}
	return &f
}

// put places one job, not before a minute, or says what stands in the way.
func (p *placement) put(j *job, from studio.Minute, least bool) *fault {
	r, why := p.ready(j, from)
	if why != nil {
		return why
	}
	t := &studio.Task{ID: j.ID, Lot: j.lot, Step: j.Step, State: studio.TaskPlanned, Pieces: j.Pieces, Cause: r.cause, CausedBy: r.by, Narrow: r.narrow}
	switch {
	case j.Wait == nil:
		why = p.work(j, t, r)
	case j.Wait.Load != nil:
		why = p.load(j, t, r)
	default:
		why = p.wait(j, t, r, least || p.hurried[j.lot])
	}
	if why != nil {
		return why
	}
	j.task = t
	if m := p.maker(t.Person); m != nil {
		m.occupy(j, t)
	}
	for i, tool := range t.Tools {
		for _, span := range worked(t) {
			p.tools[tool].take(t.ID, 0, span, j.Tools[i].Number)
		}
	}
	if r.last < t.Start && j.Fact == nil {
		why = p.later(r.limit, t.Start-r.last, fault{reason: studio.TooLate, cause: studio.CauseWindow, causedBy: j.ID,
			detail: fmt.Sprintf("could begin at %d, %d is the last minute after %q", t.Start, r.last, r.limit.ID)})
	}
	if why == nil {
		why = p.holds(j)
	}
	if why != nil {
		p.take(j)
	}
	return why
}

// take takes a job back out of the plan.
func (p *placement) take(j *job) {
	if m := p.maker(j.task.Person); m != nil {
		m.free(j.task)
	}
	for _, tool := range j.task.Tools {
		p.tools[tool].free(j.ID, 0)
	}
	if j.task.Load != nil {
		for _, m := range p.machines {
			m.free(j.ID, j.Wait.Load.Slots)
		}
	}
	j.task = nil
	for _, h := range j.held {
		for i := range h.Holds {
			if slices.Contains(h.Holds[i].Until, j.ID) {
				p.rooms[h.Holds[i].Place].free(h.ID, i)
				if h.lies {
					p.hold(h, i)
				}
			}
		}
	}
}

// worked are the spans of a task in which somebody is at it.
func worked(t *studio.Task) []studio.Span {
	var spans []studio.Span
	from := t.Begin()
	for _, pause := range t.Pauses {
		spans = append(spans, studio.Span{From: from, To: pause.From})
		from = pause.To
	}
	return append(spans, studio.Span{From: from, To: t.End})
}

// held is a job's hold as it stands, and whether all that ends it is placed; its
// end without emptying comes with it.
func (p *placement) heldBy(j *job, hold int) (studio.Held, studio.Minute, bool) {
	h := j.Holds[hold]
	start := j.since
	if !j.lies && j.task != nil {
		start = j.task.Start
	}
	held := studio.Held{Place: h.Place, Slots: h.Slots, From: start, To: p.doc.Horizon()}
	if j.task != nil {
		held.To = max(held.To, j.task.End)
	}
	var end studio.Minute
	if j.task != nil {
		end = j.task.End
	}
	for _, until := range h.Until {
		t := p.byID[until].task
		if t == nil {
			return held, 0, false
		}
		end = max(end, t.End)
	}
	held.To = p.emptied(end)
	return held, end, true
}

func (p *placement) emptied(end studio.Minute) studio.Minute {
	if to, ok := p.everyone.Next(end); ok {
		return to
	}
	return max(end, p.doc.Horizon())
}

func (p *placement) hold(j *job, hold int) {
	held, _, _ := p.heldBy(j, hold)
	p.rooms[held.Place].take(j.ID, hold, studio.Span{From: held.From, To: held.To}, held.Slots)
}

// holds occupies the places whose holds end with a job, now that it is placed;
// or says which task must begin later for want of room, or of keeping.
func (p *placement) holds(j *job) *fault {
	for _, h := range j.held {
		for i, o := range h.Holds {
			if !slices.Contains(o.Until, j.ID) {
				continue
			}
			held, end, known := p.heldBy(h, i)
			if !known {
				continue
			}
			room := p.rooms[o.Place]
			if h.lies {
				room.free(h.ID, i)
				p.hold(h, i)
				continue
			}
			if keeps := p.keeps(o.Place); keeps > 0 && end-held.From > keeps {
				return p.later(h, end-held.From-keeps, fault{reason: studio.TooLate, cause: studio.CauseWindow, causedBy: j.ID,
					detail: fmt.Sprintf("keeps for %d min and would lie from %d to %d", keeps, held.From, end)})
			}
			if until, task, full := room.blocked(studio.Span{From: held.From, To: held.To}, held.Slots); full {
				return p.later(h, until-held.From, fault{reason: studio.NoPlace, cause: studio.CausePlace, causedBy: task,
					detail: fmt.Sprintf("waits for %d slots of a place that stays full", held.Slots)})
			}
			p.hold(h, i)
		}
	}
	return nil
}

func (p *placement) keeps(place studio.ID) studio.Minute {
	for _, x := range p.doc.Places {
		if x.ID == place {
			return x.KeepsMinutes
		}
	}
	return 0
}

// queue is a heap of the clusters that can be placed, most urgent first.
type queue []*cluster

func (q queue) Len() int           { return len(q) }
func (q queue) Less(i, j int) bool { return urgent(q[i], q[j]) < 0 }
func (q queue) Swap(i, j int)      { q[i], q[j] = q[j], q[i] }
func (q *queue) Push(x any)        { *q = append(*q, x.(*cluster)) }
func (q *queue) Pop() any {
	old := *q
	c := old[len(old)-1]
	*q = old[:len(old)-1]
	return c
}
