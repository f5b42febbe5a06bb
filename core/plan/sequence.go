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

// usualLag is about how long after its work by the line an order is ready.
const usualLag studio.Minute = 3 * 1440

func newLine(p *problem) *line {
	l := &line{
		problem: p,
		tempo:   p.tempo(),
		work:    make([]studio.Milliminutes, len(p.orders)),
		lag:     make([]studio.Minute, len(p.orders)),
	}
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
			l.moves(sequence, from, func(to int, gain int64) {
				if gain > best {
					best, at = gain, to
				}
			})
			if at != from {
				move(sequence, from, at)
				improved = true
			}
		}
	}
	return sequence
}

// moves calls, for each place to which the order at a place may be moved, with by how much
// less late the sequence is then.
func (l *line) moves(sequence []int, from int, each func(to int, gain int64)) {
	var before studio.Milliminutes
	for _, n := range sequence[:from] {
		before += l.work[n]
	}
	moved := sequence[from]
	own := l.work[moved]
	done, gain := before+own, l.late(moved, before+own)
	for to := from + 1; to <= min(len(sequence)-1, from+farthest); to++ {
		n := sequence[to]
		done += l.work[n]
		gain += l.late(n, done) - l.late(n, done-own)
		each(to, gain-l.late(moved, done))
	}
	done, gain = before, l.late(moved, before+own)
	for to := from - 1; to >= max(0, from-farthest); to-- {
		n := sequence[to]
		gain += l.late(n, done) - l.late(n, done+own)
		done -= l.work[n]
		each(to, gain-l.late(moved, done+own))
	}
}

// late is how late an order is once so much work is done with its own, by importance.
func (l *line) late(n int, done studio.Milliminutes) int64 {
	return l.orders[n].Importance * steps(l.tempo.reached(done)+l.lag[n]-l.orders[n].ReadyBy)
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
		if ready := s.readyOf(l.orders[n]); ready < s.lateIfUnplaced() {
			l.lag[n] = ready - at
		}
	}
}

// even has lags differ less from their mean, by a part of what they do.
func (l *line) even(part float64) {
	var sum studio.Minute
	for _, lag := range l.lag {
		sum += lag
	}
	for n := range l.lag {
		mean := sum / studio.Minute(len(l.lag))
		l.lag[n] -= studio.Minute(part * float64(l.lag[n]-mean))
	}
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
