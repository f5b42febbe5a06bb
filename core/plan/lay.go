package plan

import (
	"container/heap"
	"slices"

	"bractum/core/studio"
)

// lay places clusters that are open, the most urgent of those that can be placed
// first. One whose needs are unplaced is given up.
func (s *schedule) lay(clusters []*cluster) {
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
		c := heap.Pop(&q).(*cluster)
		s.settle(c)
		for _, next := range c.next {
			if s.blockers[next.number]--; s.blockers[next.number] == 0 && s.at[next.jobs[0].number].state == open {
				heap.Push(&q, next)
			}
		}
	}
}

// settle places a cluster, with its waits as one would wish, else at their least,
// or gives it up. What has begun is placed even then.
func (s *schedule) settle(c *cluster) {
	if why := s.missing(c); why != nil {
		s.giveUp(c, why)
		return
	}
	why := s.place(c, s.wish.hurried[c.number])
	if why != nil && !s.wish.hurried[c.number] {
		why = s.place(c, true)
	}
	if why != nil {
		s.giveUp(c, why)
	}
}

// missing is something unplaced that a cluster needs.
func (s *schedule) missing(c *cluster) *fault {
	for _, j := range c.jobs {
		if j.Fact != nil {
			continue
		}
		if j.before != nil && s.at[j.before.number].state == gone {
			return &fault{kind: missing, of: j, by: j.before}
		}
		for i := range j.in {
			if other := j.in[i].other; s.at[other.number].state == gone {
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
		if running && s.try(j, 0, true) == nil {
			continue
		}
		s.at[j.number] = spot{state: gone, maker: -1, machine: -1, why: &fault{kind: together, of: j, by: first}}
		if j == first {
			s.at[j.number].why = why
		}
	}
}

// place places the jobs of a cluster one after the other. Where one finds that
// another should have begun later, that one and all after it are laid anew.
func (s *schedule) place(c *cluster, least bool) *fault {
	for _, j := range c.jobs {
		s.floor[j.number] = nil
	}
	for i, tries := 0, 0; i < len(c.jobs); {
		j := c.jobs[i]
		from := s.wish.notBefore[j.number]
		if f := s.floor[j.number]; f != nil {
			from = max(from, f.to)
		}
		why := s.try(j, from, least)
		if why == nil {
			i++
			continue
		}
		back := slices.Index(c.jobs, why.delay)
		if tries += 1 + i - max(0, back); back < 0 || tries > mostTries || why.to > s.horizon {
			for _, k := range slices.Backward(c.jobs[:i]) {
				s.take(k)
			}
			why.of = j
			return why
		}
		for _, k := range slices.Backward(c.jobs[back:i]) {
			s.take(k)
		}
		s.floor[why.delay.number] = why
		i = back
	}
	return nil
}

// later asks that a job begin later by so much than it does: it, or the work from
// whose end it runs. What has happened cannot; then the fault is for good.
func (s *schedule) later(j *job, by studio.Minute, f fault) *fault {
	for j.inAir() && j.Fact == nil {
		j = j.before
	}
	if j.Fact == nil && s.at[j.number].state == placed {
		f.delay, f.to = j, s.at[j.number].start+max(1, by)
	}
	return &f
}

// try places one job, not before a minute, or says what stands in the way.
func (s *schedule) try(j *job, from studio.Minute, least bool) *fault {
	r, why := s.ready(j, from)
	if why != nil {
		return why
	}
	var to spot
	switch {
	case j.Wait == nil:
		to, why = s.work(j, r)
	case j.Wait.Load != nil:
		to, why = s.load(j, r)
	default:
		to, why = s.wait(j, r, least)
	}
	if why != nil {
		return why
	}
	s.put(j, to)
	if r.last < to.start && j.Fact == nil {
		why = s.later(r.limit, to.start-r.last, fault{kind: overtaken, by: r.limit, have: to.start, most: r.last})
	}
	if why == nil {
		why = s.followed(j)
	}
	if crowded := s.occupy(j); why == nil {
		why = crowded
	}
	if why != nil {
		s.take(j)
	}
	return why
}

// followed says whether what follows a job and stands already comes too early after it.
func (s *schedule) followed(j *job) *fault {
	end := s.at[j.number].end
	if k := j.after; k != nil && k.Fact == nil && s.at[k.number].state == placed && s.at[k.number].start < end {
		return &fault{kind: follower, by: j, have: s.at[k.number].start, most: end}
	}
	for i := range j.out {
		k := &j.out[i]
		if to := &s.at[k.other.number]; k.other.Fact == nil && to.state == placed {
			if first, last, _, ok := k.At(end); !ok || to.start < first || to.start > last {
				return &fault{kind: follower, by: j, have: to.start, most: first}
			}
		}
	}
	return nil
}

// urgent orders clusters: what is running comes first, then what must begin
// earliest to be in time.
func (s *schedule) urgent(a, b *cluster) bool {
	if a.begun != b.begun {
		return a.begun > b.begun
	}
	if x, y := a.latest+s.wish.shift[a.number], b.latest+s.wish.shift[b.number]; x != y {
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
func (q *queue) Less(i, j int) bool { return q.s.urgent(q.clusters[i], q.clusters[j]) }
func (q *queue) Swap(i, j int)      { q.clusters[i], q.clusters[j] = q.clusters[j], q.clusters[i] }
func (q *queue) Push(x any)         { q.clusters = append(q.clusters, x.(*cluster)) }
func (q *queue) Pop() any {
	c := q.clusters[len(q.clusters)-1]
	q.clusters = q.clusters[:len(q.clusters)-1]
	return c
}
