package plan

import (
	"math"
	"slices"

	"bractum/core/studio"
)

// neighbourhood is a way of taking clusters out of a strand's schedule and of saying in
// which order and how they are to be laid anew; false where there is nothing to take.
type neighbourhood struct {
	name string
	take func(*strand) bool
}

// Neighbourhoods that the search draws from.
const (
	bySequence = iota
	byOrders
	byRivals
	byChain
	bySpan
	byScatter
	byHaste
	byColours
	byAll
	byLeaving
	byTimes
	byRoom // of a search that is for an order alone
)

var neighbourhoods = []neighbourhood{
	bySequence: {name: "sequence", take: (*strand).takeSequence},
	byOrders:   {name: "orders", take: (*strand).takeOrders},
	byRivals:   {name: "rivals", take: (*strand).takeRivals},
	byChain:    {name: "chain", take: (*strand).takeChain},
	bySpan:     {name: "span", take: (*strand).takeSpan},
	byScatter:  {name: "scatter", take: (*strand).takeScatter},
	byHaste:    {name: "haste", take: (*strand).takeHaste},
	byColours:  {name: "colours", take: (*strand).takeColours},
	byAll:      {name: "all", take: (*strand).takeAll},
	byLeaving:  {name: "leaving", take: (*strand).takeLeave},
	byTimes:    {name: "times", take: (*strand).takeTimes},
	byRoom:     {name: "room", take: (*strand).takeRoom},
}

// takeSequence takes on the orders in another sequence, which the line of orders thinks
// better now that it knows how long after their work is done they are ready: what is left
// to do at some minute is laid anew, towards when they would be ready then.
func (s *strand) takeSequence() bool {
	if len(s.orders) < 2 {
		return false
	}
	s.line.learn(s.aim.sequence, s.schedule)
	s.next.copyAim(s.aim)
	sequence := s.next.sequence
	if s.random.IntN(2) == 0 {
		s.line.even(drawn(s, 1, 0.5, 0))
		for n, lag := range s.line.lag {
			s.line.lag[n] += studio.Minute(float64(lag) * 0.2 * s.random.NormFloat64())
		}
		copy(sequence, s.line.improved(sequence))
	} else {
		best, from, to := int64(math.MinInt64), 0, 0
		for range 12 {
			a := s.random.IntN(len(sequence))
			b := a + s.random.IntN(2*farthest+1) - farthest
			s.line.moves(sequence, a, func(at int, gain int64) {
				if at == b && gain > best {
					best, from, to = gain, a, b
				}
			})
		}
		move(sequence, from, to)
	}
	if slices.Equal(sequence, s.aim.sequence) {
		return false
	}
	copy(s.next.times, s.dueTimes(s.line.ready(sequence)))
	s.takeTowards(s.next.times, s.someMinute())
	return true
}

// mostOtherwise is by how many minutes at most an order is laid towards another time.
const mostOtherwise = 3 * 1440

// takeTimes has one order or two, mostly late ones, be laid towards other times: what
// begins from something of theirs on is laid anew.
func (s *strand) takeTimes() bool {
	if len(s.orders) < 2 {
		return false
	}
	s.next.copyAim(s.aim)
	from := s.horizon
	for range 1 + s.random.IntN(2) {
		n := s.random.IntN(len(s.orders))
		if s.random.IntN(3) > 0 {
			n = slices.Index(s.orders, s.lateOrder())
		}
		o, off := s.orders[n], studio.Minute(s.random.IntN(2*mostOtherwise)-mostOtherwise)
		switch s.random.IntN(4) {
		case 0:
			s.next.times[n] = o.ReadyBy - max(off, -off)
		case 1:
			s.next.times[n] = s.readyOf(o) + off
		default:
			s.next.times[n] += off
		}
		if len(o.feeding) > 0 {
			from = min(from, s.startOf(o.feeding[s.random.IntN(len(o.feeding))]))
		}
	}
	s.takeTowards(s.next.times, from)
	return len(s.out.clusters) > 0
}

// takeTowards takes out what begins from a minute on, and lays it towards times of orders.
func (s *strand) takeTowards(times []studio.Minute, from studio.Minute) {
	latest := s.latestStartsOfClusters(times, drawn(s, usualQueue, usualQueue, usualQueue/2, 3*usualQueue/2))
	s.takeFrom(from)
	for _, c := range s.out.clusters {
		s.wish.key[c.number] = latest[c.number]
	}
}

// takeOrders takes out a late order and some others, and lays one after the other.
func (s *strand) takeOrders() bool {
	if len(s.orders) == 0 {
		return false
	}
	taken := []*order{s.lateOrder()}
	for range s.random.IntN(4) {
		if o := s.orders[s.random.IntN(len(s.orders))]; !slices.Contains(taken, o) {
			taken = append(taken, o)
		}
	}
	first := taken[0]
	s.random.Shuffle(len(taken), func(i, j int) { taken[i], taken[j] = taken[j], taken[i] })
	if i := slices.Index(taken, first); s.random.IntN(2) == 0 {
		taken[0], taken[i] = taken[i], taken[0]
	}
	for rank, o := range taken {
		for _, c := range o.feeding {
			if !s.out.in[c.number] {
				s.out.add(c)
				s.wish.key[c.number] = studio.Minute(rank)<<24 + s.keyOf(c)
			}
		}
	}
	s.out.addFollowers()
	for _, c := range s.out.clusters {
		if s.wish.key[c.number] == c.latest {
			s.wish.key[c.number] = studio.Minute(len(taken))<<24 + c.latest
		}
	}
	return true
}

// takeRivals takes out a late order and some of what its people do for others while it
// waits, and lays the order first.
func (s *strand) takeRivals() bool {
	o := s.lateOrder()
	if o == nil || len(o.feeding) == 0 {
		return false
	}
	span := studio.Span{From: s.horizon, To: max(s.now+1, min(s.readyOf(o), s.horizon))}
	for _, c := range o.feeding {
		span.From = min(span.From, s.startOf(c))
	}
	var rivals []*cluster
	for n := 2 + s.random.IntN(30); n > 0; n-- {
		m := s.makers[s.random.IntN(len(s.makers))]
		from, to := m.busyAfter(span.From), m.busyAfter(span.To)
		if from < to {
			rivals = append(rivals, s.jobs[m.busy[from+s.random.IntN(to-from)].job].cluster)
		}
	}
	hurried := s.random.IntN(3) == 0
	for _, c := range o.feeding {
		s.out.add(c)
		s.wish.key[c.number] = s.keyOf(c) - 1<<24
		if hurried {
			s.shortenWaits(c, true)
		}
	}
	for _, c := range rivals {
		s.out.add(c)
	}
	s.out.addFollowers()
	return true
}

// keyOf is how early a cluster is laid among others of one step: as urgent as it is, or a
// little earlier or later.
func (s *strand) keyOf(c *cluster) studio.Minute {
	if s.random.IntN(8) == 0 {
		return c.latest + studio.Minute(s.random.IntN(2881)-1440)
	}
	return c.latest
}

// takeChain takes out what sets the date of a late order, and what its people were at
// just before.
func (s *strand) takeChain() bool {
	o := s.lateOrder()
	if o == nil {
		return false
	}
	j := s.lastOf(o)
	for n := 4 + s.random.IntN(24); j != nil && n > 0; n-- {
		if j.cluster == nil {
			break
		}
		var ahead []*job
		if t := &s.at[j.number]; t.state == placed && t.maker >= 0 {
			m := s.makers[t.maker]
			for i := m.busyAfter(t.start) - 1; i >= 0 && s.random.IntN(3) > 0; i-- {
				ahead = append(ahead, s.jobs[m.busy[i].job])
			}
		}
		need := s.latestNeed(j)
		s.out.add(j.cluster)
		s.wish.key[j.cluster.number] = j.cluster.latest - 1<<24
		for _, k := range ahead {
			s.out.add(k.cluster)
		}
		j = need
	}
	s.out.addFollowers()
	return true
}

// latestNeed is what a job needs that ends last.
func (s *schedule) latestNeed(j *job) *job {
	last := j.before
	for i := range j.in {
		if k := j.in[i].other; last == nil || s.at[k.number].end > s.at[last.number].end {
			last = k
		}
	}
	return last
}

// lastOf is the task of an order that ends last.
func (s *schedule) lastOf(o *order) *job {
	var last *job
	for _, j := range o.last {
		if last == nil || s.at[j.number].state != placed ||
			s.at[j.number].end > s.at[last.number].end && s.at[last.number].state == placed {
			last = j
		}
	}
	return last
}

// takeSpan takes out what some people do within a span of time, and lays it again about
// in the order in which it was: what follows stays.
func (s *strand) takeSpan() bool {
	at := s.anyMinute()
	span := studio.Span{From: at, To: at + studio.Minute(60+s.random.IntN(1440))}
	stays := s.random.IntN(3) > 0
	most := 40
	for _, m := range s.makers {
		if s.random.IntN(2) == 0 {
			continue
		}
		i := m.busyAfter(span.From)
		var found []*job
		for ; i < len(m.busy) && m.busy[i].From < span.To && most > 0; i++ {
			found, most = append(found, s.jobs[m.busy[i].job]), most-1
		}
		for _, j := range found {
			if c := j.cluster; c != nil && !s.out.in[c.number] {
				start := s.startOf(c)
				s.out.add(c)
				s.wish.key[c.number] = start + studio.Minute(s.random.IntN(721)-360)
				if s.random.IntN(3) == 0 {
					s.wish.key[c.number] = c.latest
				}
				s.preferAny(c, 6)
			}
		}
	}
	if !stays {
		s.out.addFollowers()
	}
	return len(s.out.clusters) > 0
}

// preferAny gives a job of a cluster to somebody drawn, once in so many times.
func (s *strand) preferAny(c *cluster, in int) {
	for _, j := range c.jobs {
		if len(j.ways) > 1 && s.random.IntN(in) == 0 {
			s.wish.prefer[j.number] = 1 + j.ways[s.random.IntN(len(j.ways))].maker
		}
	}
}

// takeScatter takes out any few clusters and all that needs them, and lays them in any
// order, by anybody, some later than they could be.
func (s *strand) takeScatter() bool {
	if len(s.clusters) == 0 {
		return false
	}
	for range 1 + s.random.IntN(min(len(s.clusters), 6)) {
		s.out.add(s.clusters[s.random.IntN(len(s.clusters))])
	}
	if s.kicked || len(s.clusters) <= few && s.random.IntN(4) == 0 {
		for _, c := range s.clusters {
			s.out.add(c)
		}
	}
	if s.random.IntN(4) > 0 {
		s.out.addFollowers()
	}
	for _, c := range s.out.clusters {
		s.wish.key[c.number] = c.latest + studio.Minute(s.random.IntN(1<<16))
		if s.random.IntN(2) == 0 {
			s.wish.key[c.number] += studio.Minute(c.begun) << 40
		}
		s.preferAny(c, 3)
		if len(c.jobs) > 2 && s.random.IntN(3) == 0 {
			s.wish.shuffled[c.number] = s.shuffle(c)
		}
		if s.random.IntN(10) == 0 {
			s.wish.overtime[c.number] = !s.wish.overtime[c.number]
		}
		for _, j := range c.jobs {
			if s.random.IntN(8) == 0 {
				s.wish.notBefore[j.number] = s.anyStart(j)
			}
			if j.wishes && s.random.IntN(4) == 0 {
				s.wish.hurried[j.number] = !s.wish.hurried[j.number]
			}
		}
	}
	return true
}

// shortenWaits has the waits of a cluster at their least, or not.
func (s *schedule) shortenWaits(c *cluster, least bool) {
	for _, j := range c.jobs {
		s.wish.hurried[j.number] = least
	}
}

// shuffle draws an order of a cluster's jobs in which each comes after what it needs.
func (s *strand) shuffle(c *cluster) []*job {
	left := slices.Clone(c.jobs)
	var drawn []*job
	for len(left) > 0 {
		n := s.random.IntN(len(left))
		for needs := true; needs; { // back to something that needs nothing that is left
			needs = false
			for i, other := range left[:n] {
				if left[n].before == other ||
					slices.ContainsFunc(left[n].in, func(k lag) bool { return k.other == other }) {
					n, needs = i, true
					break
				}
			}
		}
		drawn = append(drawn, left[n])
		left = slices.Delete(left, n, n+1)
	}
	return drawn
}

// anyStart is a minute at which a job may well begin: when something else ends, so that
// it ends when something else begins or its person goes, or soon after now.
func (s *strand) anyStart(j *job) studio.Minute {
	var length studio.Minute
	var hours studio.Hours
	if len(j.ways) > 0 {
		w := j.ways[s.random.IntN(len(j.ways))]
		length, hours = w.total, s.hours[w.maker]
	}
	t := &s.at[s.random.IntN(len(s.at))]
	switch n := s.random.IntN(6); {
	case n < 3 && t.state == placed:
		return t.end
	case n < 4 && t.state == placed:
		return t.start - length
	case n < 5 && len(hours) > 0:
		return hours[s.random.IntN(len(hours))].To - length
	}
	return s.now + studio.Minute(s.random.IntN(16))
}

// takeHaste has the waits of a late order at their least, or overtime for it, or neither
// again.
func (s *strand) takeHaste() bool {
	o := s.lateOrder()
	if o == nil {
		return false
	}
	overtime, to, part := s.random.IntN(3) == 0, s.random.IntN(4) > 0, s.random.IntN(3)
	for _, c := range o.feeding {
		if part > 0 && s.random.IntN(3) >= part {
			continue
		}
		s.out.add(c)
		if overtime {
			s.wish.overtime[c.number] = to
		} else {
			s.shortenWaits(c, to)
		}
	}
	s.out.addFollowers()
	return len(s.out.clusters) > 0
}

// takeColours takes out what somebody does in colours over some days, and lays it colour
// by colour: what follows stays.
func (s *strand) takeColours() bool {
	if len(s.doc.Families) == 0 || len(s.makers) == 0 {
		return false
	}
	m := s.makers[s.random.IntN(len(s.makers))]
	at := s.anyMinute()
	until := at + studio.Minute(480+s.random.IntN(4*1440))
	var found []*job
	for _, u := range m.turns {
		if j := s.jobs[u.job]; u.start >= at && u.start < until && j.family != nil && j.Fact == nil &&
			len(found) < 30 {
			found = append(found, j)
		}
	}
	first := map[studio.ID]int{}
	for n, j := range found {
		if _, seen := first[j.mix]; !seen {
			first[j.mix] = n
		}
		if c := j.cluster; !s.out.in[c.number] {
			start := s.startOf(c)
			s.out.add(c)
			s.wish.key[c.number] = studio.Minute(first[j.mix])<<24 + start
		}
	}
	return len(s.out.clusters) > 0
}

// someMinute is now or, twice as often, when a job drawn begins.
func (s *strand) someMinute() studio.Minute {
	if s.random.IntN(3) == 0 {
		return s.now
	}
	return s.anyMinute()
}

// takeFrom takes out what begins from a minute on, and what needs that; everything, from now
// on.
func (s *strand) takeFrom(from studio.Minute) {
	if from <= s.now {
		s.out.addAll()
		return
	}
	for _, c := range s.clusters {
		if s.startOf(c) >= from {
			s.out.add(c)
		}
	}
	s.out.addFollowers()
}

// takeAll takes out everything that is left to do at some minute, and lays it about in the
// order in which it was.
func (s *strand) takeAll() bool {
	starts := make([]studio.Minute, len(s.clusters))
	for n, c := range s.clusters {
		starts[n] = s.startOf(c)
	}
	noise := []int{1, 60, 480, 2880}[s.random.IntN(4)]
	s.takeFrom(s.someMinute())
	for _, c := range s.out.clusters {
		s.wish.key[c.number] = starts[c.number] + studio.Minute(s.random.IntN(noise))
	}
	return true
}

// takeLeave leaves out something that no order needs, or whose orders are not met anyway,
// with all that needs it; now and then, what an order is given up with.
func (s *strand) takeLeave() bool {
	j := s.jobs[s.random.IntN(len(s.jobs))]
	if j.cluster == nil || j.Fact != nil {
		return false
	}
	for _, n := range j.cluster.orders {
		if o := s.orders[n]; j.needed && s.readyOf(o) < s.lateIfUnplaced() && s.random.IntN(3) > 0 {
			return false
		}
	}
	out := []*job{j}
	seen := map[*job]bool{j: true}
	for i := 0; i < len(out); i++ {
		out[i].followers(func(k *job) {
			if !seen[k] {
				seen[k] = true
				out = append(out, k)
			}
		})
	}
	if s.random.IntN(2) == 0 {
		s.takeScatter()
	}
	for _, k := range out {
		s.out.add(k.cluster)
	}
	s.out.addFollowers()
	for _, k := range out {
		if k.Fact != nil {
			return false
		}
		s.wish.leave[k.number] = true
	}
	return true
}

// lateOrder is an order drawn by how much its lateness weighs; any where none is late.
func (s *strand) lateOrder() *order {
	if len(s.orders) == 0 {
		return nil
	}
	if o := s.wanted(); o != nil && s.random.IntN(4) > 0 {
		return o
	}
	weight := s.lateness
	if s.random.IntN(2) == 0 { // any that is late
		weight = func(o *order) int64 { return min(1, steps(s.readyOf(o)-o.ReadyBy)) }
	}
	var sum int64
	for _, o := range s.orders {
		sum += weight(o)
	}
	if sum == 0 || s.random.IntN(8) == 0 {
		return s.orders[s.random.IntN(len(s.orders))]
	}
	at := s.random.Int64N(sum)
	for _, o := range s.orders {
		if at -= weight(o); at < 0 {
			return o
		}
	}
	return nil
}

// anyMinute is when a job drawn begins.
func (s *strand) anyMinute() studio.Minute {
	t := &s.at[s.jobs[s.random.IntN(len(s.jobs))].number]
	if t.state != placed {
		return s.now
	}
	return max(s.now, t.start-studio.Minute(s.random.IntN(240)))
}
