package plan

import (
	"slices"

	"bractum/core/studio"
)

// line is the orders of a problem seen as if all makers together worked on one after the
// other: the problem of one machine and total weighted tardiness.
type line struct {
	*problem
	tempo tempo
	work  []studio.Milliminutes // by order: what is still to be done for it and for none due before
	lag   []studio.Minute       // by order: how long after its work is done it is ready
}

func newLine(p *problem) *line {
	l := &line{p, p.tempo(), make([]studio.Milliminutes, len(p.orders)), make([]studio.Minute, len(p.orders))}
	taken := make([]bool, len(p.clusters))
	for _, n := range l.byDate() {
		for _, c := range p.orders[n].feeding {
			if taken[c.number] {
				continue
			}
			taken[c.number] = true
			for _, j := range c.jobs {
				for _, e := range j.Work {
					l.work[n] += e.Total()
				}
			}
		}
	}
	return l
}

// byDate are the orders, the first due first.
func (p *problem) byDate() []int {
	all := make([]int, len(p.orders))
	for n := range all {
		all[n] = n
	}
	slices.SortStableFunc(all, func(a, b int) int { return compare(p.orders[a].ReadyBy, p.orders[b].ReadyBy) })
	return all
}

func (l *line) ready(sequence []int) []studio.Minute {
	at := make([]studio.Minute, len(l.orders))
	var done studio.Milliminutes
	for _, n := range sequence {
		done += l.work[n]
		at[n] = l.tempo.reached(done) + l.lag[n]
	}
	return at
}

// farthest is how many places an order is moved at most.
const farthest = 24

// improved moves one order after the other to another place in a sequence for as long as
// that makes it less late.
func (l *line) improved(sequence []int) []int {
	sequence = slices.Clone(sequence)
	for improved := true; improved; {
		improved = false
		for from := range sequence {
			best, at := int64(0), from
			for to := max(0, from-farthest); to <= min(len(sequence)-1, from+farthest); to++ {
				if gain := l.gain(sequence, from, to); gain > best {
					best, at = gain, to
				}
			}
			if at != from {
				move(sequence, from, at)
				improved = true
			}
		}
	}
	return sequence
}

// gain is by how much less late a sequence is once the order at a place has been moved to
// another.
func (l *line) gain(sequence []int, from, to int) (gain int64) {
	if from == to {
		return 0
	}
	first, last := min(from, to), max(from, to)
	var done studio.Milliminutes
	for _, n := range sequence[:first] {
		done += l.work[n]
	}
	then := done
	lateAt := func(n int, done studio.Milliminutes) int64 {
		return l.orders[n].Importance * steps(l.tempo.reached(done)+l.lag[n]-l.orders[n].ReadyBy)
	}
	moved := sequence[from]
	if to < from {
		then += l.work[moved]
		gain -= lateAt(moved, then)
	}
	for at := first; at <= last; at++ {
		n := sequence[at]
		done += l.work[n]
		gain += lateAt(n, done)
		if at != from {
			then += l.work[n]
			gain -= lateAt(n, then)
		}
	}
	if to > from {
		gain -= lateAt(moved, then+l.work[moved])
	}
	return gain
}

// move moves an order from one place in a sequence to another.
func move(sequence []int, from, to int) {
	n := sequence[from]
	copy(sequence[from:], sequence[from+1:])
	copy(sequence[to+1:], sequence[to:len(sequence)-1])
	sequence[to] = n
}

// learn takes from a schedule laid in a sequence how long after their work is done by the
// line orders are ready.
func (l *line) learn(sequence []int, s *schedule) {
	clear(l.lag)
	for n, at := range l.ready(sequence) {
		if ready := s.readyOf(l.orders[n]); ready < s.gone() {
			l.lag[n] = ready - at
		}
	}
}

// rank is the first place of a sequence that needs a cluster, given each order's place.
func (c *cluster) rank(places []int) int {
	first := len(places)
	for _, n := range c.orders {
		first = min(first, places[n])
	}
	return first
}

func placesOf(sequence []int) []int {
	places := make([]int, len(sequence))
	for place, n := range sequence {
		places[n] = place
	}
	return places
}

// tempo is how much work all makers together have done by each minute at which one of
// them begins or ends.
type tempo struct {
	at   []studio.Minute
	done []studio.Milliminutes
}

func (p *problem) tempo() tempo {
	var t tempo
	edges := map[studio.Minute]int64{}
	for i, hours := range p.hours {
		pace := 10 * p.pace(i)
		for _, span := range hours {
			if span.To > p.now {
				edges[max(span.From, p.now)] += pace
				edges[span.To] -= pace
			}
		}
	}
	for m := range edges {
		t.at = append(t.at, m)
	}
	slices.Sort(t.at)
	var speed int64
	for i, m := range t.at {
		var done studio.Milliminutes
		if i > 0 {
			done = t.done[i-1] + studio.Milliminutes(int64(m-t.at[i-1])*speed)
		}
		t.done = append(t.done, done)
		speed += edges[m]
	}
	return t
}

// reached is when so much work is done.
func (t tempo) reached(work studio.Milliminutes) studio.Minute {
	i, _ := slices.BinarySearch(t.done, work)
	if i == len(t.done) {
		if i == 0 {
			return 1 << 30
		}
		return t.at[i-1] + (work - t.done[i-1]).Minutes()
	}
	if i == 0 {
		return t.at[0]
	}
	return t.at[i-1] + studio.Minute(int64(t.at[i]-t.at[i-1])*int64(work-t.done[i-1])/int64(t.done[i]-t.done[i-1]))
}

// inSequence has some clusters laid order by order.
func (s *schedule) inSequence(sequence []int, clusters []*cluster) {
	places := placesOf(sequence)
	for _, c := range clusters {
		s.wish.key[c.number] = studio.Minute(c.rank(places))<<24 + c.latest
	}
}
