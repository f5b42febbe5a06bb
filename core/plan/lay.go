package plan

import (
	"container/heap"
	"math"
	"slices"

	"bractum/core/studio"
)

// placeClusters places clusters that are open, the most urgent of those that can be placed
// first. One whose needs are unplaced is given up.
func (s *schedule) placeClusters(clusters []*cluster) { s.placeClustersWithin(clusters, math.MaxInt64) }

// placeClustersWithin lays clusters until orders come to be later than a weighted lateness; then it
// stops, and answers false.
func (s *schedule) placeClustersWithin(clusters []*cluster, most int64) bool {
	s.effort.begin(clusters)
	t := s.tally(clusters)
	for _, c := range clusters {
		s.blockers[c.number] = 0
	}
	for _, c := range clusters {
		for _, next := range c.next {
			s.blockers[next.number]++
		}
	}
	q := queue{s: s}
	for _, c := range clusters {
		if s.blockers[c.number] == 0 {
			q.clusters = append(q.clusters, c)
		}
	}
	heap.Init(&q)
	for q.Len() > 0 {
		if t.late > most {
			return false
		}
		c := heap.Pop(&q).(*cluster)
		s.placeOrGiveUp(c)
		s.countPlaced(c, &t)
		for _, next := range c.next {
			if s.blockers[next.number]--; s.blockers[next.number] == 0 && s.at[next.jobs[0].number].state == open {
				heap.Push(&q, next)
			}
		}
	}
	return true
}

// tally is, while clusters are laid, how many each order still needs, how late it will be
// at the usual lengths of what comes after those that it has, and what that comes to.
type tally struct {
	pending  []int
	expected []int64 // weighted lateness
	late     int64
}

func (s *schedule) tally(clusters []*cluster) tally {
	t := tally{pending: make([]int, len(s.orders)), expected: make([]int64, len(s.orders))}
	for _, c := range clusters {
		for _, n := range c.orders {
			t.pending[n]++
		}
	}
	for n, o := range s.orders {
		if t.pending[n] == 0 {
			t.expect(n, s.lateness(o))
		}
	}
	return t
}

func (t *tally) expect(n int, late int64) {
	t.late += late - t.expected[n]
	t.expected[n] = late
}

// countPlaced has a cluster that is laid change what is expected of the orders that need it.
func (s *schedule) countPlaced(c *cluster, t *tally) {
	for _, n := range c.orders {
		o := s.orders[n]
		if t.pending[n]--; t.pending[n] == 0 {
			t.expect(n, s.lateness(o))
		} else if first := c.jobs[0]; len(c.orders) == 1 && s.at[first.number].state == placed {
			behind := s.at[first.number].start - first.latest
			t.expect(n, max(t.expected[n], o.Importance*steps(behind)))
		}
	}
}

// placeOrGiveUp places a cluster, with its waits as one would wish, else at their least,
// or gives it up. What has begun is placed even then.
func (s *schedule) placeOrGiveUp(c *cluster) {
	if s.wish.as != nil && c.begun == 0 {
		s.placeClusterAsKept(c)
		return
	}
	s.limitEffortFor(c)
	if why := s.missingInput(c); why != nil {
		s.giveUp(c, why)
		return
	}
	if c.begun == 0 && s.spentOut() {
		s.giveUp(c, &fault{kind: untried, limited: true})
		return
	}
	why := s.placeClusterSparing(c)
	if why != nil {
		why = s.placeCluster(c, false)
	}
	if why != nil {
		why = s.placeCluster(c, true)
	}
	if patience, thrift := s.wish.patience, s.wish.thrift; why != nil {
		s.wish.patience, s.wish.thrift = 0, 0
		why = s.placeCluster(c, true)
		s.wish.patience, s.wish.thrift = patience, thrift
	}
	for why != nil && !s.exhausted() && s.leaveOut(c, why) {
		why = s.placeCluster(c, true)
	}
	if why != nil && c.begun >= 2 && s.doc.Direct == nil {
		why = s.placeClusterOverdue(c)
	}
	if why != nil && s.leaveOutAllUnneeded(c) {
		why = s.placeCluster(c, true)
	}
	for why != nil && s.saveWhatStands(c, why) {
		failed := why
		if why = s.placeCluster(c, true); why == nil {
			s.at[failed.of.number].more.why = failed
		}
	}
	if why != nil {
		why.limited = s.exhausted()
		s.giveUp(c, why)
	}
}

// placeClusterOverdue places a cluster of which pieces are there as early as can be, though they are taken
// up too late: who takes them up says which are spoilt.
func (s *schedule) placeClusterOverdue(c *cluster) *fault {
	s.overruns = true
	why := s.placeCluster(c, true)
	s.overruns = false
	return why
}

// placeClusterSparing places a cluster so that some of each window of its pieces is spared, where it has any:
// with the effort that is usual for its jobs, and none where it was looked for in vain before.
func (s *schedule) placeClusterSparing(c *cluster) *fault {
	ends := s.effort.ends
	if !c.soft || s.doc.Direct != nil || s.vain != nil && s.vain[c.number] {
		return &fault{kind: untried}
	}
	s.spares, s.effort.ends = true, min(ends, s.effort.spent+effortEach*int64(len(c.jobs)))
	why := s.placeCluster(c, false)
	s.spares, s.effort.ends = false, ends
	return why
}

// leaveOut leaves out what could not be placed if no order needs it, and all of its cluster
// that needs it, so that the rest may be placed; false where an order does, or nothing is
// left.
func (s *schedule) leaveOut(c *cluster, why *fault) bool {
	if why.of == nil || why.of.needed || s.wish.leave[why.of.number] {
		return false
	}
	left := []*job{why.of}
	s.wish.leave[why.of.number] = true
	ok := true
	for i := 0; i < len(left) && ok; i++ {
		ok = left[i].Fact == nil && !s.endsAnotherHold(left[i])
		left[i].followers(func(k *job) {
			if k.cluster == c && !s.wish.leave[k.number] {
				s.wish.leave[k.number] = true
				left = append(left, k)
			}
		})
	}
	if ok && slices.ContainsFunc(c.jobs, func(j *job) bool { return !s.wish.leave[j.number] }) {
		return true
	}
	for _, j := range left {
		s.wish.leave[j.number] = false
	}
	return false
}

// leaveOutAllUnneeded leaves out all of a cluster that no order needs and that can be; false where
// that is nothing more, or everything.
func (s *schedule) leaveOutAllUnneeded(c *cluster) bool {
	more, some := false, false
	for _, j := range c.jobs {
		if !j.needed && j.Fact == nil && !s.wish.leave[j.number] {
			more, s.wish.leave[j.number] = true, true
		}
	}
	for changed := true; changed; { // what must stay keeps what it needs
		changed = false
		for _, j := range c.jobs {
			keep := s.endsAnotherHold(j)
			j.followers(func(k *job) { keep = keep || k.cluster == c && !s.wish.leave[k.number] && k.Fact == nil })
			if s.wish.leave[j.number] && keep {
				s.wish.leave[j.number], changed = false, true
			}
		}
	}
	for _, j := range c.jobs {
		some = some || !s.wish.leave[j.number]
	}
	return more && some
}

// saveWhatStands leaves out of a cluster what cannot be placed and all that only orders need which need
// that, so that the rest may stand for others; what it holds for what is left out is held to the
// horizon. False where no order would be ready by that.
func (s *schedule) saveWhatStands(c *cluster, why *fault) bool {
	if why.of == nil || len(c.orders) < 2 || s.wish.leave[why.of.number] {
		return false
	}
	keeps, some := map[*job]bool{}, false
	for _, n := range c.orders {
		needs := map[*job]bool{}
		lost := false
		for _, last := range s.orders[n].last {
			for j := range s.neededBy(last) {
				needs[j] = true
			}
			needs[last] = true
		}
		for j := range needs {
			lost = lost || j == why.of || j.cluster == c && s.wish.leave[j.number] ||
				j.cluster != c && s.at[j.number].state == gone
		}
		if lost {
			continue
		}
		some = true
		for j := range needs {
			keeps[j] = keeps[j] || j.cluster == c
		}
	}
	for _, j := range c.jobs {
		if some && !keeps[j] && j.Fact == nil {
			s.wish.leave[j.number] = true
		}
	}
	return some && s.wish.leave[why.of.number]
}

// followers calls for each job that comes right after a job or takes up what it makes.
func (j *job) followers(each func(*job)) {
	if j.after != nil {
		each(j.after)
	}
	for i := range j.out {
		each(j.out[i].other)
	}
}

// endsAnotherHold is true of a job whose end endsAnotherHold what another holds: without it that would be
// held to the horizon.
func (s *schedule) endsAnotherHold(j *job) bool {
	return slices.ContainsFunc(
		j.ends,
		func(h *job) bool { return h != j && !h.lies && !s.wish.leave[h.number] && s.at[h.number].state != gone },
	)
}

// missingInput is something unplaced that a cluster needs.
func (s *schedule) missingInput(c *cluster) *fault {
	for _, j := range c.jobs {
		if j.Fact != nil || s.wish.leave[j.number] {
			continue
		}
		if j.before != nil && j.before.cluster != c && s.at[j.before.number].state == gone {
			return &fault{kind: missing, of: j, by: j.before}
		}
		for i := range j.in {
			if other := j.in[i].other; other.cluster != c && s.at[other.number].state == gone {
				return &fault{kind: missing, of: j, by: other}
			}
		}
	}
	return nil
}

func (s *schedule) giveUp(c *cluster, why *fault) {
	first := c.jobs[0]
	if why.of != nil {
		first = why.of
	}
	for _, j := range c.jobs {
		running := j.lies
		for i := range j.in {
			running = running && (s.at[j.in[i].other.number].state == placed || j.Fact != nil)
		}
		if running && s.placeJob(j, 0, true) == nil {
			continue
		}
		if s.at[j.number] = leftOut(&fault{kind: together, of: j, by: first}); j == first {
			s.at[j.number] = leftOut(why)
		}
	}
}

// placeCluster places a cluster as early as it finds room, or says what stands in the way. Where
// people are too busy for it to come together, it looks again some time later, and then
// later still.
func (s *schedule) placeCluster(c *cluster, least bool) *fault {
	var base studio.Minute
	for step := studio.Minute(240); ; step = min(2*step, 2*1440) {
		tried, why := s.placeClusterFrom(c, least, base)
		if why == nil || tried < s.mostRestarts(c) || base+step > s.horizon {
			return why
		}
		if s.exhausted() {
			return why
		}
		base = max(base, s.floor[c.jobs[0].number].at(s.now)) + step
	}
}

// mostRestarts is how many jobs of a cluster are laid anew before it is looked for room elsewhere.
func (s *schedule) mostRestarts(c *cluster) int {
	if s.exhausted() {
		return 2 * len(c.jobs)
	}
	return max(usualTries, s.wish.tries*len(c.jobs))
}

// at is the minute that a fault asks for, now where there is none.
func (f *fault) at(now studio.Minute) studio.Minute {
	if f == nil {
		return now
	}
	return f.to
}

// placeClusterFrom places the jobs of a cluster one after the other, none before a minute. Where
// one finds that another should have begun later, that one and all after it are laid
// anew. It counts the jobs laid anew, and gives up after so many.
func (s *schedule) placeClusterFrom(c *cluster, least bool, base studio.Minute) (tries int, why *fault) {
	jobs := c.jobs
	if shuffled := s.wish.shuffled[c.number]; shuffled != nil {
		jobs = shuffled
	}
	for _, j := range jobs {
		s.floor[j.number] = nil
	}
	for i := 0; i < len(jobs); {
		j := jobs[i]
		if s.wish.leave[j.number] {
			s.at[j.number] = leftOut(&fault{kind: spared, of: j})
			why := s.occupyPlaces(j)
			if why == nil {
				i++
				continue
			}
			s.vacatePlaces(j)
			back := slices.Index(jobs, why.delay)
			if tries++; back < 0 || tries > s.mostRestarts(c) || why.to > s.horizon {
				back, tries = 0, 0
			} else {
				s.floor[why.delay.number] = why
			}
			for _, k := range slices.Backward(jobs[back:i]) {
				s.removeIfPlaced(k)
			}
			if i = back; tries == 0 {
				return 0, why
			}
			continue
		}
		from := max(base, s.wish.notBefore[j.number])
		if f := s.floor[j.number]; f != nil {
			from = max(from, f.to)
		}
		why := s.placeJob(j, from, least)
		if why == nil {
			i++
			continue
		}
		back := slices.Index(jobs, why.delay)
		if tries += 1 + i - max(0, back); back < 0 || tries > s.mostRestarts(c) || why.to > s.horizon {
			for _, k := range slices.Backward(jobs[:i]) {
				s.removeIfPlaced(k)
			}
			why.of = j
			if back < 0 {
				tries = 0 // it would be no better later
			}
			return tries, why
		}
		for _, k := range slices.Backward(jobs[back:i]) {
			s.removeIfPlaced(k)
		}
		s.floor[why.delay.number] = why
		i = back
	}
	return tries, nil
}

// removeIfPlaced takes a job out if it is in, or was left out of what is.
func (s *schedule) removeIfPlaced(j *job) {
	switch s.at[j.number].state {
	case placed:
		s.removeJob(j)
	case gone:
		s.vacatePlaces(j)
	}
	s.at[j.number].state = open
}

// delayJob asks that a job begin delayJob by so much than it does: it, or the work from
// whose end it runs. What has happened cannot; then the fault is for good.
func (s *schedule) delayJob(j *job, by studio.Minute, f fault) *fault {
	for j.inAir() && j.Fact == nil {
		j = j.before
	}
	if j.Fact == nil && s.at[j.number].state == placed {
		f.delay, f.to = j, s.at[j.number].start+max(1, by)
	}
	return &f
}

// placeJob places one job, not before a minute, or says what stands in the way.
func (s *schedule) placeJob(j *job, from studio.Minute, least bool) *fault {
	s.effort.spend(effortOfTry)
	if why := s.never[j.number]; why != nil {
		return why.again()
	}
	r, why := s.readinessOf(j, from)
	if why != nil {
		return why
	}
	var to spot
	switch {
	case j.Wait == nil:
		to, why = s.spotForWork(j, r)
	case j.Wait.Load != nil:
		to, why = s.spotInMachine(j, r)
	default:
		to, why = s.spotForWait(j, r, least || s.wish.hurried[j.number])
	}
	if why != nil {
		return why
	}
	s.putJob(j, to)
	if r.last < to.start && j.Fact == nil {
		why = s.delayJob(r.limit, to.start-r.last, fault{kind: overtaken, by: r.limit, have: to.start, most: r.last})
	}
	if why == nil {
		why = s.spoilt(j)
	}
	if why == nil {
		why = s.clashWithFollower(j)
	}
	if crowded := s.occupyPlaces(j); why == nil {
		why = crowded
	}
	if why != nil {
		s.removeJob(j)
	}
	return why
}

// clashWithFollower says whether what follows a job and stands already comes too early after it.
func (s *schedule) clashWithFollower(j *job) *fault {
	end := s.at[j.number].end
	if k := j.after; k != nil && k.Fact == nil && s.at[k.number].state == placed &&
		(s.at[k.number].start < end || !s.somebodyLoads(k)) {
		return &fault{kind: follower, by: j, have: s.at[k.number].start, most: end}
	}
	for i := range j.out {
		k := &j.out[i]
		if to := &s.at[k.other.number]; k.other.Fact == nil && to.state == placed {
			first, last, _, ok := k.At(end)
			if k.each {
				last = to.start - s.late(k, j, k.other)
			}
			if !ok || to.start < first || to.start > last {
				return &fault{kind: follower, by: j, have: to.start, most: first}
			}
		}
	}
	return nil
}

// somebodyLoads is true of a wait whose load somebody is there to begin: who is on shift, or
// who has just loaded it.
func (s *schedule) somebodyLoads(j *job) bool {
	at := &s.at[j.number]
	if at.machine < 0 {
		return true
	}
	if next, ok := s.everyone.Next(at.start); ok && next == at.start {
		return true
	}
	return slices.ContainsFunc(
		s.machines[at.machine].loadFrom(at.start).jobs,
		func(k *job) bool { return s.at[k.before.number].end == at.start },
	)
}

// moreUrgent orders clusters as they are wished.
func (s *schedule) moreUrgent(a, b *cluster) bool {
	if x, y := s.wish.key[a.number], s.wish.key[b.number]; x != y {
		return x < y
	}
	return a.number < b.number
}

// queue is a heap of the clusters that can be placed, most urgent first.
type queue struct {
	s        *schedule
	clusters []*cluster
}

func (q *queue) Len() int           { return len(q.clusters) }
func (q *queue) Less(i, j int) bool { return q.s.moreUrgent(q.clusters[i], q.clusters[j]) }
func (q *queue) Swap(i, j int)      { q.clusters[i], q.clusters[j] = q.clusters[j], q.clusters[i] }
func (q *queue) Push(x any)         { q.clusters = append(q.clusters, x.(*cluster)) }
func (q *queue) Pop() any {
	c := q.clusters[len(q.clusters)-1]
	q.clusters = q.clusters[:len(q.clusters)-1]
	return c
}
