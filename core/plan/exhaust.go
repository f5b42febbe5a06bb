package plan

import (
	"encoding/binary"
	"slices"
	"sort"

	"bractum/core/studio"
)

// A small problem is also searched as a whole: clusters are placed in every order that what they need
// allows, each by everybody who may do it, as early as they can, with overtime and without, waits as wished and
// at their least. A branch ends where its lateness cannot become less than the best, by the longest
// paths through what is not placed yet, or where it has come to a schedule that was looked at before.
// Where nothing binds work from above the least lateness is among these (Kolisch 1996: active
// schedules); elsewhere it is one more neighbourhood, and a large one.

// Problems of so many clusters are small; so many jobs of one are tried with everybody, and clusters of so
// many in so many orders.
const (
	fewEnough    = 16
	mostTogether = 4
	mostTied     = 7
	mostOrders   = 60
	mostDelays   = 3
)

// nodesPerStep is how many clusters are placed so for one step of search: what takes about as long.
const nodesPerStep = 25

// exhaust is the search of a small problem as a whole.
type exhaust struct {
	*schedule
	best  int64
	found []spot // of the best, nil where none is better
	seen  map[string]bool
	nodes int           // left
	tied  bool          // windows tie work to work, so that it may be better to wait
	start studio.Minute // of the cluster that was placed last
	key   []byte
}

// searchedWhole is the best of a small problem that is less late than a schedule, nil where there is none, or
// so many placings do not do; and how many were made.
func (p *problem) searchedWhole(late int64, nodes int) (found []spot, made int) {
	e := &exhaust{schedule: newSchedule(p), best: late, seen: map[string]bool{}, nodes: nodes}
	e.wish.patience, e.wish.thrift = 0, 0
	e.effort.begin(p.clusters)
	for _, c := range p.clusters {
		work := 0
		for _, j := range c.jobs {
			if j.Wait == nil {
				work++
			}
		}
		e.tied = e.tied || work > 1
	}
	e.branch()
	return e.found, nodes - e.nodes
}

// branch goes on from what is placed in all ways.
func (e *exhaust) branch() {
	if e.nodes <= 0 || e.least() >= e.best || e.known() {
		return
	}
	var open []*cluster
	for _, c := range e.clusters {
		if e.at[c.jobs[0].number].state == 0 && !slices.ContainsFunc(c.previous, func(b *cluster) bool {
			return e.at[b.jobs[0].number].state == 0
		}) {
			open = append(open, c)
		}
	}
	if len(open) == 0 {
		if late := e.worth().Lateness; late < e.best {
			e.best, e.found = late, slices.Clone(e.at)
		}
		return
	}
	sort.SliceStable(open, func(a, b int) bool { return open[a].latest < open[b].latest })
	for _, c := range open {
		e.each(c, func() {
			e.nodes--
			e.effort.begin(e.clusters)
			e.placeOrGiveUp(c)
			e.branch()
			e.start = e.startOf(c)
			for _, j := range slices.Backward(c.jobs) {
				e.removeIfPlaced(j)
				e.wish.leave[j.number] = false
			}
		})
		if c.begun > 0 {
			return // what has begun comes first
		}
	}
}

// each has a cluster wished in every way in which it is tried.
func (e *exhaust) each(c *cluster, try func()) {
	wishes, overtime := false, false
	var work, tools []*job
	for _, j := range c.jobs {
		if slices.ContainsFunc(j.tools, func(g grip) bool { return len(g.kinds) > 1 }) {
			tools = append(tools, j)
		}
		wishes = wishes || j.wishes
		for _, w := range j.ways {
			overtime = overtime || len(e.makers[w.maker].OvertimeShifts)+len(e.makers[w.maker].Overtime) > 0
		}
		if len(j.ways) > 1 && j.Fact == nil {
			work = append(work, j)
		}
	}
	if len(work) > mostTogether {
		work = nil
	}
	if len(tools) > mostTogether {
		tools = nil
	}
	orders := [][]*job{nil}
	if len(c.jobs) > 2 && len(c.jobs) <= mostTied {
		orders = ordersOf(c)
	}
	var choose func(i int)
	choose = func(i int) {
		if e.nodes <= 0 {
			return
		}
		if of := i - len(work); of >= 0 && of < len(tools) {
			j := tools[of]
			for n := range 2 {
				e.wish.tools[j.number] = n
				choose(i + 1)
			}
			e.wish.tools[j.number] = 0
			return
		}
		if i < len(work) {
			for _, w := range work[i].ways {
				e.wish.prefer[work[i].number] = w.maker + 1
				choose(i + 1)
			}
			e.wish.prefer[work[i].number] = 0
			return
		}
		for _, longer := range []bool{false, true} {
			for _, hurried := range []bool{false, true} {
				if longer && !overtime || hurried && !wishes {
					continue
				}
				e.wish.overtime[c.number] = longer
				for _, j := range c.jobs {
					e.wish.hurried[j.number] = hurried && j.wishes
				}
				try()
				if e.tied && len(c.jobs) == 1 && c.begun == 0 {
					e.eachDelay(c.jobs[0], e.start, try)
				}
			}
		}
		e.wish.overtime[c.number] = false
	}
	for _, order := range orders {
		e.wish.shuffled[c.number] = order
		choose(0)
	}
	e.wish.shuffled[c.number] = nil
}

// eachDelay has a job begin later than it might, by as long as the same person would take for other work
// that is not placed: that may have to come first, and yet wait for the job.
func (e *exhaust) eachDelay(j *job, start studio.Minute, try func()) {
	maker := e.wish.prefer[j.number] - 1
	if maker < 0 && len(j.ways) > 0 {
		maker = j.ways[0].maker
	}
	var tried []studio.Minute
	for _, k := range e.jobs {
		i := k.wayOf(maker)
		if k == j || i < 0 || e.at[k.number].state == placed || k.Fact != nil || len(tried) == mostDelays {
			continue
		}
		if by := k.ways[i].total; !slices.Contains(tried, by) {
			tried = append(tried, by)
			e.wish.notBefore[j.number] = start + by
			try()
		}
	}
	e.wish.notBefore[j.number] = 0
}

// ordersOf are the orders in which jobs of a cluster may be placed, each after what it needs; the first so
// many of them.
func ordersOf(c *cluster) (all [][]*job) {
	var order []*job
	needs := func(j, k *job) bool {
		return j.before == k || slices.ContainsFunc(j.in, func(l lag) bool { return l.other == k })
	}
	var next func()
	next = func() {
		if len(all) == mostOrders {
			return
		}
		if len(order) == len(c.jobs) {
			all = append(all, slices.Clone(order))
			return
		}
		for _, j := range c.jobs {
			if slices.Contains(order, j) || slices.ContainsFunc(c.jobs, func(k *job) bool {
				return needs(j, k) && !slices.Contains(order, k)
			}) {
				continue
			}
			order = append(order, j)
			next()
			order = order[:len(order)-1]
		}
	}
	next()
	return all
}

// least is a weighted lateness that nothing that goes on from what is placed is below.
func (e *exhaust) least() (late int64) {
	ends := make([]studio.Minute, len(e.jobs))
	for _, j := range e.byRank {
		switch at := &e.at[j.number]; at.state {
		case placed:
			ends[j.number] = at.end
		case gone:
			ends[j.number] = e.lateIfUnplaced()
		default:
			ends[j.number] = e.soonest(j, ends)
		}
	}
	for _, o := range e.orders {
		ready := o.Since
		for _, j := range o.last {
			ready = min(e.lateIfUnplaced(), max(ready, ends[j.number]))
		}
		late += o.Importance * steps(ready-o.ReadyBy)
	}
	return late
}

// known is true of a schedule that was gone on from before, in another order.
func (e *exhaust) known() bool {
	e.key = e.key[:0]
	for n := range e.at {
		at := &e.at[n]
		e.key = append(e.key, byte(at.state), byte(at.maker))
		if at.state == placed {
			e.key = binary.AppendVarint(e.key, int64(at.start))
			e.key = binary.AppendVarint(e.key, int64(at.end))
			for _, tool := range at.tools() {
				e.key = append(e.key, byte(tool))
			}
		}
	}
	if e.seen[string(e.key)] {
		return true
	}
	e.seen[string(e.key)] = true
	return false
}
