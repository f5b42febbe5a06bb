package plan

import (
	"math"
	"slices"

	"bractum/core/studio"
)

// bounds works out, from a schedule in which nothing is laid yet, weighted latenesses that no plan of the problem is below, by three
// relaxations: each order's longest path with nobody else in the way; and for teams and
// for places all work, or all occupied slots, of all orders, as if every bit of an order
// could be done at any time and were as late by itself (the transportation bound for
// total weighted tardiness of Gelders and Kleindorfer). The bound is the most of them,
// what hours or slots add to the paths included.
func (s *schedule) bounds() studio.Bounds {
	paths := s.paths()
	b := studio.Bounds{}
	for n, o := range s.orders {
		b.Path += o.Importance * steps(paths[n]-o.ReadyBy)
	}
	tails := s.tails()
	best := func(all []capacity, plain *int64) {
		for _, c := range all {
			*plain = max(*plain, s.transport(c, make([]studio.Minute, len(s.orders))))
			b.Least = max(b.Least, b.Path+s.transport(c, paths))
		}
	}
	best(s.teams(tails), &b.Skills)
	best(s.slots(tails), &b.Slots)
	return b
}

// paths is when each order is ready at the earliest if nothing else is to be done.
func (s *schedule) paths() []studio.Minute {
	ends := make([]studio.Minute, len(s.jobs))
	for _, j := range s.byRank {
		ends[j.number] = s.soonest(j, ends)
	}
	ready := make([]studio.Minute, len(s.orders))
	for n, o := range s.orders {
		ready[n] = o.Since
		for _, j := range o.last {
			ready[n] = min(s.lateIfUnplaced(), max(ready[n], ends[j.number]))
		}
	}
	return ready
}

// soonest is when a job ends at the earliest, given that of all it needs; past the
// horizon where it never does.
func (s *schedule) soonest(j *job, ends []studio.Minute) studio.Minute {
	switch {
	case j.Done():
		return j.Fact.End
	case j.running():
		return s.at[j.number].end
	}
	if s.never[j.number] != nil {
		return s.lateIfUnplaced()
	}
	from := s.now
	if j.inAir() {
		from = ends[j.before.number]
	}
	if j.Fact == nil {
		if j.before != nil {
			from = max(from, ends[j.before.number])
		}
		for i := range j.in {
			first, _, _, ok := j.in[i].At(ends[j.in[i].other.number])
			if !ok {
				return s.lateIfUnplaced()
			}
			from = max(from, first)
		}
		if j.gate != nil {
			from = max(from, j.opens)
		}
		if j.pin != nil && j.pin.Start != nil && j.Wait == nil {
			from = max(from, *j.pin.Start)
		}
	}
	if from >= s.lateIfUnplaced() {
		return s.lateIfUnplaced()
	}
	switch {
	case j.continues != nil:
		return from
	case j.inAir():
		if end, ok := j.least.End(from); ok {
			return end
		}
		return s.lateIfUnplaced()
	case j.Wait != nil:
		return from + j.Wait.Least.Minutes
	}
	end := s.lateIfUnplaced()
	for i := range j.ways {
		w := &j.ways[i]
		hours := s.makers[w.maker].longer.Hours
		for start, ok := hours.Next(from); ok && start+w.total < end; start, ok = hours.After(start) {
			if last, _, fits := hours.Lay(start, w.runs, j.Pauses()); fits {
				end = min(end, last)
				break
			}
		}
	}
	return end
}

// tails is how long after the end of a job the first order that needs it is ready at
// least, by what that order is the first to need.
func (p *problem) tails() []studio.Minute {
	tails := make([]studio.Minute, len(p.jobs))
	for _, j := range slices.Backward(p.byRank) {
		if k := j.after; k != nil && k.needed && k.first == j.first {
			tails[j.number] = max(tails[j.number], k.quickest+tails[k.number])
		}
		for i := range j.out {
			if k := j.out[i].other; k.needed && k.first == j.first && k.Fact == nil {
				tails[j.number] = max(tails[j.number], j.out[i].Quickest()+k.quickest+tails[k.number])
			}
		}
	}
	return tails
}

// capacity is something that orders need and of which there is so much by each minute.
type capacity struct {
	need  []float64 // by order
	tail  []studio.Minute
	until func(studio.Span) float64 // what there is in a span
}

// newCapacity has each job that takes some of it counted for the order first due of those
// that need it.
func (p *problem) newCapacity(tails []studio.Minute, takes func(*job) float64) capacity {
	c := capacity{need: make([]float64, len(p.orders)), tail: make([]studio.Minute, len(p.orders))}
	for _, j := range p.jobs {
		if !j.needed || j.Done() {
			continue
		}
		if amount := takes(j); amount > 0 {
			if c.need[j.first] == 0 || tails[j.number] < c.tail[j.first] {
				c.tail[j.first] = tails[j.number]
			}
			c.need[j.first] += amount
		}
	}
	return c
}

// Of teams and of places so many are looked at, those that are most in demand.
const mostCapacities = 2

// teams are the hours of those who can do some kinds of work and nobody else can: for
// each kind, and for all together.
func (s *schedule) teams(tails []studio.Minute) []capacity {
	who := map[uint64]bool{}
	var masks []uint64
	var all uint64
	mask := func(j *job) (m uint64) {
		for _, w := range j.ways {
			m |= 1 << (w.maker % 64)
		}
		return m
	}
	for _, j := range s.jobs {
		if m := mask(j); m != 0 && !who[m] {
			who[m] = true
			masks = append(masks, m)
			all |= m
		}
	}
	if !who[all] {
		masks = append(masks, all)
	}
	if len(s.makers) > 64 {
		masks = nil
	}
	var found []capacity
	for _, m := range masks {
		rates := make([]float64, len(s.makers))
		c := s.newCapacity(tails, func(j *job) float64 {
			if own := mask(j); own == 0 || own&^m != 0 {
				return 0
			}
			var work float64
			for _, e := range j.Work {
				work += float64(e.Total())
			}
			for _, w := range j.ways {
				rates[w.maker] = max(rates[w.maker], work/float64(w.total))
			}
			return work
		})
		c.until = func(span studio.Span) (sum float64) {
			for i, rate := range rates {
				if rate > 0 {
					sum += rate * float64(s.makers[i].longer.Worked(span))
				}
			}
			return sum
		}
		found = append(found, c)
	}
	return s.scarcest(found)
}

// slots are the places, and the machines.
func (s *schedule) slots(tails []studio.Minute) []capacity {
	var found []capacity
	for place := range s.doc.Places { // the end of a hold is what its order waits for: no tails
		c := s.newCapacity(make([]studio.Minute, len(s.jobs)), func(j *job) (sum float64) {
			for i := range j.holds {
				if h := &j.holds[i]; h.place == place && !j.lies {
					sum += float64(h.slots) * float64(j.quickest+s.between(j, h))
				}
			}
			return sum
		})
		c.until = func(span studio.Span) float64 {
			return float64(s.doc.Places[place].Slots) * float64(span.To-span.From)
		}
		found = append(found, c)
	}
	var most int64
	for i := range s.doc.Machines {
		most += s.doc.Machines[i].Slots
	}
	if most > 0 {
		c := s.newCapacity(tails, func(j *job) float64 {
			if j.Wait == nil || j.Wait.Load == nil || j.running() {
				return 0
			}
			return float64(j.Wait.Load.Slots) * float64(j.Wait.Least.Minutes)
		})
		c.until = func(span studio.Span) float64 { return float64(most) * float64(span.To-span.From) }
		found = append(found, c)
	}
	return s.scarcest(found)
}

// between is the least time from the end of a job to the end of what of its own lot ends
// its hold and is needed.
func (s *schedule) between(j *job, h *hold) (most studio.Minute) {
	for _, until := range h.until {
		var sum studio.Minute
		for k := j.after; k != nil && k.needed; k = k.after {
			if sum += k.quickest; k == until {
				most = max(most, sum)
				break
			}
		}
	}
	return most
}

// scarcest are those of which most is needed for what there is until the last order.
func (s *schedule) scarcest(all []capacity) []capacity {
	until := s.now + 1
	for _, o := range s.orders {
		until = max(until, o.ReadyBy)
	}
	demand := func(c capacity) float64 {
		var sum float64
		for _, need := range c.need {
			sum += need
		}
		return sum / (1e-9 + c.until(studio.Span{From: s.now, To: until}))
	}
	slices.SortStableFunc(all, func(a, b capacity) int { return compare(demand(b), demand(a)) })
	return all[:min(len(all), mostCapacities)]
}

// enough is true of a capacity of which every order, the first due first, has what it
// needs in time.
func (s *schedule) enough(c capacity) bool {
	due := func(n int) studio.Minute { return s.orders[n].ReadyBy - c.tail[n] }
	all := s.byDate()
	slices.SortStableFunc(all, func(a, b int) int { return compare(due(a), due(b)) })
	var sum float64
	for _, n := range all {
		if sum += c.need[n]; c.need[n] > 0 &&
			(due(n) <= s.now || c.until(studio.Span{From: s.now, To: due(n)}) < sum) {
			return false
		}
	}
	return true
}

// transport is the least sum by which orders are later than they are anyhow, if every bit
// of what they need of a capacity may be had at any time: a transportation problem from
// orders to spans of time, by shortest augmenting paths.
func (s *schedule) transport(c capacity, anyhow []studio.Minute) int64 {
	if s.enough(c) {
		return 0
	}
	const spans = 80
	var total float64
	for _, need := range c.need {
		total += need
	}
	end := s.now + 60 // when there has been enough for everything
	for end < s.horizon && c.until(studio.Span{From: s.now, To: end}) < total {
		end += max(60, (end-s.now)/4)
	}
	end = min(end, s.horizon)
	length := max(1, studio.CeilDiv(end-s.now, spans))
	var begins []studio.Minute
	var room []float64
	for t := s.now; t < end; t += length {
		if there := c.until(studio.Span{From: t, To: min(end, t+length)}); there > 0 {
			begins, room = append(begins, t), append(room, there)
		}
	}
	begins, room = append(begins, s.lateIfUnplaced()), append(room, 1e15) // left out
	f := flow{room: room}
	for n, o := range s.orders {
		if c.need[n] == 0 {
			continue
		}
		costs := make([]float64, len(begins))
		base := steps(anyhow[n] - o.ReadyBy)
		for t, begin := range begins {
			at := min(begin+c.tail[n], s.lateIfUnplaced())
			costs[t] = float64(o.Importance*max(0, steps(at-o.ReadyBy)-base)) / c.need[n]
		}
		f.need, f.costs = append(f.need, c.need[n]), append(f.costs, costs)
	}
	return int64(math.Ceil(f.least() - 1e-6))
}
