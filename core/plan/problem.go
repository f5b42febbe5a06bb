package plan

import (
	"slices"
	"sync"

	"bractum/core/count"
	"bractum/core/drying"
	"bractum/core/studio"
)

// problem is a document in the form that planning works on: things by number, needs
// and lengths worked out. Nothing of it changes once it is made and told of a plan to
// repair, so that several schedules share it.
type problem struct {
	doc           *studio.Document
	counted       *count.Result
	instance      *studio.Instance
	calendar      studio.Calendar
	air           drying.Room
	everyone      studio.Hours
	now, horizon  studio.Minute
	hours, longer []studio.Hours // by person, in the document's order
	jobs          []*job
	byID          map[studio.ID]*job
	byRank        []*job // each after all that it needs
	clusters      []*cluster
	orders        []*order
	seen          []sight
	told          []*studio.Task  // by job: of a plan that is repaired, what it has for the next days
	was           []studio.Minute // by order: when it was to be ready in that plan, 0 if never
	never         []*fault        // by job: why it can stand at no time
	vain          []bool          // by cluster: looked for in vain by the plan that is repaired, or a first
	craft         []int           // of each job, by number
	kinds         []int           // of work, likewise; 0 of what has none
	wasted        [][]int64       // by craft and person: thousandths of a minute lost if they give it to that
	sought        []int64         // by person: how much of all work they could do, in thousandths
	resets        bool            // some family is reset by other work
	bound         func() studio.Bounds
	abandon       <-chan struct{} // closed when everything is to end
	gripping      [][]*job        // by kind of tool: who may use one
	holding       [][]*job        // by place: who takes up some of it
}

// job is a task to be planned.
type job struct {
	*studio.Activity
	lot           studio.ID
	number        int
	rank          int  // in an order in which everything comes after what it needs
	byName        int  // in the order of ids
	before, after *job // in its lot
	since         studio.Minute
	lies          bool  // what it holds has lain there since
	in, out       []lag // links into and out of it
	holds         []hold
	ends          []*job // the tasks that hold something until this one has ended
	cluster       *cluster
	opens         studio.Minute // its last gate, past all time if one is shut
	gate          *studio.Gate
	pin           *studio.Pin
	ways          []way // of work, by who may do it
	tools         []grip
	family        *studio.Family
	mix           studio.ID
	least, wished drying.Course // of a wait
	wishes        bool
	continues     *job
	machines      []int
	quickest      studio.Minute // the least it takes anybody, in any air
	needed        bool          // by an order
	first         int           // of the orders that need it, the one due first
	usual         studio.Minute // its standard length
	latest        studio.Minute // when to begin it for its orders to be in time, if people are hardly busy
}

// way is a person who may do a task, and how long that takes them.
type way struct {
	maker int
	runs  []studio.Minute
	total studio.Minute
	setup studio.Minute // before the first piece, without coming to a colour

	within []inRun
}

// lag is a link seen from one of its ends.
type lag struct {
	drying.Opening
	other   *job
	usual   studio.Minute // the least, in standard air
	limited bool          // it has a most
	drying  bool          // which is a state
	each    bool          // and binds each piece
}

// hold is what a job occupies of a place, and until when.
type hold struct {
	place int
	slots int64
	keeps studio.Minute // 0 for as long as one likes
	until []*job        // its own among them
}

// grip is a use of a tool of one of several kinds.
type grip struct {
	kinds  []int
	number int64
}

// order is what somebody wants by a time.
type order struct {
	studio.Want
	last    []*job     // the last task of each of its lots
	feeding []*cluster // all that it needs, by number
}

// sight is a task that people were told of.
type sight struct {
	studio.Seen
	job *job
}

func newProblem(doc *studio.Document, counted *count.Result) (*problem, error) {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return nil, err
	}
	if doc.Direct != nil || counted == nil {
		counted = &count.Result{Lots: []studio.Lot{}, Links: []studio.Link{}, Pegs: []studio.Peg{}}
	}
	book := studio.NewBook(doc)
	p := &problem{
		doc:      doc,
		counted:  counted,
		calendar: calendar,
		air:      drying.NewRoom(doc, calendar),
		now:      doc.Now,
		horizon:  doc.Horizon(),
		instance: studio.Route(doc, book, counted.Lots, counted.Links, counted.Pegs),
	}
	for i := range doc.People {
		hours := studio.HoursOf(doc.People[i], calendar, doc.Since(), p.horizon)
		p.hours = append(p.hours, hours)
		p.longer = append(
			p.longer,
			studio.Together(hours, studio.OvertimeOf(doc.People[i], calendar, doc.Since(), p.horizon)),
		)
	}
	p.everyone = studio.Together(p.hours...)
	for i := range doc.Families {
		p.resets = p.resets || doc.Families[i].Reset == studio.ResetOtherWork
	}
	p.collectJobs()
	p.findKinds(book)
	var lengths, pricing sync.WaitGroup
	lengths.Go(p.measureJobs)
	p.rankJobs()
	p.formClusters()
	p.findWhatNeverFits()
	p.collectOrders()
	lengths.Wait()
	pricing.Go(p.priceMakers)
	for n, latest := range p.latestStartsOfJobs(p.dueTimes(nil), leastQueue) {
		p.jobs[n].latest = latest
	}
	for n, latest := range p.latestStartsOfClusters(p.dueTimes(nil), usualQueue) {
		p.clusters[n].latest = latest
	}
	p.weighMakers()
	p.bound = sync.OnceValue(func() studio.Bounds { return newSchedule(p).bounds() })
	pricing.Wait()
	return p, nil
}

// collectJobs makes the jobs of the instance and links them.
func (p *problem) collectJobs() {
	of := numbered(p.doc, p.calendar)
	p.gripping, p.holding = make([][]*job, len(p.doc.Tools)), make([][]*job, len(p.doc.Places))
	var size int
	for i := range p.instance.Lots {
		size += len(p.instance.Lots[i].Tasks)
	}
	all := make([]job, size)
	p.jobs, p.byID = make([]*job, 0, size), make(map[studio.ID]*job, size)
	for i := range p.instance.Lots {
		l := &p.instance.Lots[i]
		var before *job
		for k := range l.Tasks {
			j := &all[len(p.jobs)]
			j.Activity, j.lot, j.number, j.before = &l.Tasks[k], l.ID, len(p.jobs), before
			j.since, j.lies = l.Lies(k)
			if before != nil {
				before.after = j
			}
			p.jobs, p.byID[j.ID], before = append(p.jobs, j), j, j
		}
	}
	for _, k := range p.instance.Links {
		from, to := p.byID[k.From], p.byID[k.To]
		opening := p.air.Opening(k)
		usual, drying := opening.Standard(), k.Most != nil && k.Most.Dries != nil
		l := lag{Opening: opening, other: to, usual: usual, limited: k.Most != nil, drying: drying, each: k.Each}
		from.out = append(from.out, l)
		l.other = from
		to.in = append(to.in, l)
	}
	for _, j := range p.jobs {
		p.resolveJob(j, of)
	}
	for _, seen := range p.doc.Seen {
		if j := p.byID[seen.Task]; j != nil && j.Fact == nil && seen.Start >= p.now &&
			seen.Start < p.now+studio.SeenAhead {
			p.seen = append(p.seen, sight{Seen: seen, job: j})
		}
	}
}

// measureJobs works out how long jobs take, whoever may do them, and numbers them by name.
func (p *problem) measureJobs() {
	for _, j := range p.jobs {
		if w := j.Wait; w != nil {
			j.least = p.air.Course(w.Least)
			if w.Wished != nil {
				j.wished, j.wishes = p.air.Course(*w.Wished), true
			}
		} else if !j.Done() {
			j.ways = p.waysOf(j)
		}
		j.quickest, j.usual = j.shortest(), j.standard()
	}
	byName := slices.Clone(p.jobs)
	slices.SortFunc(byName, func(a, b *job) int { return compare(a.ID, b.ID) })
	for n, j := range byName {
		j.byName = n
	}
}

// waysOf are those in which a work job may be done.
func (p *problem) waysOf(j *job) []way {
	ways := make([]way, 0, len(p.doc.People))
	for i := range p.doc.People {
		if person := &p.doc.People[i]; j.May(person, j.pin) {
			w := way{maker: i, runs: j.Runs(person, 0), setup: j.SetupFor(person, 0)}
			for _, run := range w.runs {
				w.total += run
			}
			w.within = p.withinRuns(j, person, &w)
			ways = append(ways, w)
		}
	}
	return ways
}

// resolveJob works out what a job needs by number.
func (p *problem) resolveJob(j *job, of numbers) {
	j.pin = of.pins[j.ID]
	for _, id := range j.Gates {
		g := of.gates[id]
		opens := drying.Never
		if g.Opens != nil && *g.Opens < p.horizon {
			opens = *g.Opens
		}
		if j.gate == nil || opens > j.opens {
			j.opens, j.gate = opens, g
		}
	}
	for i := range j.Holds {
		h := &j.Holds[i]
		held := hold{place: of.places[h.Place], slots: h.Slots, keeps: p.doc.Places[of.places[h.Place]].KeepsMinutes}
		for _, until := range append([]studio.ID{j.ID}, h.Until...) {
			last := p.byID[until]
			held.until = append(held.until, last)
			if !slices.Contains(last.ends, j) {
				last.ends = append(last.ends, j)
			}
		}
		j.holds = append(j.holds, held)
		p.holding[held.place] = append(p.holding[held.place], j)
	}
	if j.Setup != nil {
		j.family, j.mix = of.families[j.Setup.Family], j.Setup.Mix
	}
	if w := j.Wait; w != nil {
		j.continues = p.byID[w.Continues]
		if w.Load != nil {
			for i := range p.doc.Machines {
				if slices.Contains(w.Load.AnyOf, p.doc.Machines[i].ID) {
					j.machines = append(j.machines, i)
				}
			}
		}
		return
	}
	for _, use := range j.Tools {
		g := grip{number: use.Number}
		for _, kind := range use.AnyOf {
			g.kinds = append(g.kinds, of.tools[kind])
			p.gripping[of.tools[kind]] = append(p.gripping[of.tools[kind]], j)
		}
		j.tools = append(j.tools, g)
	}
}

// numbers finds the things of a document by id.
type numbers struct {
	places, tools map[studio.ID]int
	families      map[studio.ID]*studio.Family
	gates         map[studio.ID]*studio.Gate
	pins          map[studio.ID]*studio.Pin
}

func numbered(doc *studio.Document, calendar studio.Calendar) numbers {
	of := numbers{
		places:   map[studio.ID]int{},
		tools:    map[studio.ID]int{},
		families: map[studio.ID]*studio.Family{},
		gates:    map[studio.ID]*studio.Gate{},
		pins:     map[studio.ID]*studio.Pin{},
	}
	for i := range doc.Places {
		of.places[doc.Places[i].ID] = i
	}
	for i := range doc.Tools {
		of.tools[doc.Tools[i].ID] = i
	}
	for i := range doc.Families {
		of.families[doc.Families[i].ID] = &doc.Families[i]
	}
	gates := doc.Outside(calendar)
	for i := range gates {
		of.gates[gates[i].ID] = &gates[i]
	}
	for i := range doc.Pins {
		if of.pins[doc.Pins[i].Task] == nil {
			of.pins[doc.Pins[i].Task] = &doc.Pins[i]
		}
	}
	return of
}

// rankJobs numbers the jobs so that each comes after all it needs.
func (p *problem) rankJobs() {
	p.byRank = make([]*job, 0, len(p.jobs))
	needs := make([]int, len(p.jobs))
	for _, j := range p.jobs {
		needs[j.number] = len(j.in)
		if j.before != nil {
			needs[j.number]++
		}
		if needs[j.number] == 0 {
			p.byRank = append(p.byRank, j)
		}
	}
	for rank := 0; rank < len(p.byRank); rank++ {
		j := p.byRank[rank]
		j.rank = rank
		next := func(k *job) {
			if needs[k.number]--; needs[k.number] == 0 {
				p.byRank = append(p.byRank, k)
			}
		}
		if j.after != nil {
			next(j.after)
		}
		for _, k := range j.out {
			next(k.other)
		}
	}
}

// collectOrders lists, for each order, the last tasks of its lots and all that feeds them.
func (p *problem) collectOrders() {
	lasts := map[studio.ID]*job{}
	for _, j := range p.jobs {
		if j.after == nil {
			lasts[j.lot] = j
		}
	}
	for _, w := range p.instance.Orders {
		o := &order{Want: w}
		p.orders = append(p.orders, o)
		seen := make([]bool, len(p.jobs))
		var queue []*job
		need := func(j *job) {
			if j != nil && !seen[j.number] {
				seen[j.number] = true
				queue = append(queue, j)
			}
		}
		for _, lot := range w.Lots {
			if last := lasts[lot]; last != nil {
				o.last = append(o.last, last)
			}
		}
		slices.SortFunc(o.last, func(a, b *job) int { return compare(a.number, b.number) })
		for _, last := range o.last {
			need(last)
		}
		taken := make([]bool, len(p.clusters))
		for i := 0; i < len(queue); i++ {
			j := queue[i]
			if !j.needed || w.ReadyBy < p.orders[j.first].ReadyBy {
				j.first = len(p.orders) - 1
			}
			j.needed = true
			if j.cluster != nil && !taken[j.cluster.number] {
				taken[j.cluster.number] = true
				o.feeding = append(o.feeding, j.cluster)
			}
			need(j.before)
			for i := range j.in {
				need(j.in[i].other)
			}
		}
		slices.SortFunc(o.feeding, func(a, b *cluster) int { return a.number - b.number })
		for _, c := range o.feeding {
			c.orders = append(c.orders, len(p.orders)-1)
		}
	}
}

// usualQueue is about how long a task waits for busy people: where that is not reckoned with,
// orders of many steps are begun too late. It hardly ever waits less than leastQueue.
const (
	usualQueue studio.Minute = 400
	leastQueue studio.Minute = 240
)

// dueTimes are times of orders, but when they are dueTimes where that is later or no times are given.
func (p *problem) dueTimes(times []studio.Minute) []studio.Minute {
	due := make([]studio.Minute, len(p.orders))
	for n, o := range p.orders {
		if due[n] = o.ReadyBy; times != nil {
			due[n] = max(due[n], times[n])
		}
	}
	return due
}

// latestStartsOfClusters is when each cluster must begin at the latest for orders to be ready by some
// times, as begins has it, if each task waits so long for people. It is long before now for
// what has begun.
func (p *problem) latestStartsOfClusters(times []studio.Minute, queue studio.Minute) []studio.Minute {
	begins, latest := p.latestStartsOfJobs(times, queue), make([]studio.Minute, len(p.clusters))
	for n, c := range p.clusters {
		latest[n] = p.horizon
		for _, j := range c.jobs {
			latest[n] = min(latest[n], begins[j.number])
		}
		latest[n] -= studio.Minute(c.begun) << 40
	}
	return latest
}

// latestStartsOfJobs is when each job must begin at the latest for orders to be ready by some times:
// backwards from that, standard lengths and so long a wait for people before each task, by
// day and night.
func (p *problem) latestStartsOfJobs(times []studio.Minute, queue studio.Minute) []studio.Minute {
	ends, begins := make([]studio.Minute, len(p.jobs)), make([]studio.Minute, len(p.jobs))
	for i := range ends {
		ends[i] = p.horizon
	}
	for n, o := range p.orders {
		for _, j := range o.last {
			ends[j.number] = min(ends[j.number], times[n])
		}
	}
	for _, j := range slices.Backward(p.byRank) {
		begin := ends[j.number] - j.usual
		if j.Wait == nil {
			begin -= queue
		}
		begins[j.number] = begin
		if j.before != nil {
			ends[j.before.number] = min(ends[j.before.number], begin)
		}
		for i := range j.in {
			k := &j.in[i]
			ends[k.other.number] = min(ends[k.other.number], begin-k.usual)
		}
	}
	return begins
}

// weighMakers works out how much of all work each person could do. What several can do is best
// left to who can do least else.
func (p *problem) weighMakers() {
	p.sought = make([]int64, len(p.hours))
	var all int64
	for _, j := range p.jobs {
		var sum int64
		for _, e := range j.Work {
			sum += int64(e.Total())
		}
		all += sum
		for _, w := range j.ways {
			p.sought[w.maker] += sum
		}
	}
	for i := range p.sought {
		p.sought[i] = p.sought[i] * 1000 / max(1, all)
	}
}

func (j *job) shortest() studio.Minute {
	switch {
	case j.Wait != nil && j.Wait.Load != nil:
		return j.Wait.Least.Minutes
	case j.Wait != nil:
		if j.continues != nil {
			return 0
		}
		return j.least.Quickest()
	}
	var least studio.Minute
	for i, w := range j.ways {
		if i == 0 || w.total < least {
			least = w.total
		}
	}
	return least
}

func (j *job) standard() studio.Minute {
	if j.Wait != nil {
		return j.least.Standard()
	}
	var sum studio.Milliminutes
	for _, e := range j.Work {
		sum += e.Total()
	}
	return sum.Minutes()
}

// running is true of a wait in a machine that was begun.
func (j *job) running() bool { return j.Wait != nil && j.Begun() }

// inAir is true of a wait that begins at the very minute at which the task before ends.
func (j *job) inAir() bool { return j.Wait != nil && j.Wait.Load == nil }

// pace is a person's pace over all skills, in hundredths.
func (p *problem) pace(maker int) int64 {
	skills := p.doc.People[maker].Skills
	var sum int64
	for _, s := range skills {
		sum += s.Pace
	}
	return sum / int64(max(1, len(skills)))
}
