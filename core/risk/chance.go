package risk

import (
	"cmp"
	"math"
	"slices"
	"sync"

	"bractum/core/studio"
)

// Options of a risk.
type Options struct {
	Spreads Spreads
	Seed    uint64
	// Most is how many replays are made at the most, 1000 if nothing is said. They end sooner once every chance is
	// known within Within, where that is said: half the width of its interval, in thousandths.
	Most   int
	Within studio.PerMille
	// Workers is how many replays are made at once; what comes of them does not depend on it. One if nothing is said.
	Workers int
	Stop    <-chan struct{}
	Tell    func(done, of int)
}

// Chance is how sure it is that an order is in time.
type Chance struct {
	Order studio.ID `json:"order"`
	// Replays is of how many, InTime in how many of them it was ready when it leaves, Kept in how many with the safety
	// span besides.
	Replays int `json:"replays"`
	InTime  int `json:"inTime"`
	Kept    int `json:"kept"`
	// Least and Most are between which thousandths its chance of being in time lies, nineteen times out of twenty.
	Least studio.PerMille `json:"leastPerMille"`
	Most  studio.PerMille `json:"mostPerMille"`
	// Early, Usual and Late are when it was ready in one of ten replays, half of them, and nine of ten.
	Early studio.Minute `json:"early"`
	Usual studio.Minute `json:"usual"`
	Late  studio.Minute `json:"late"`
	// Grains are when it was ready, replay by replay, in order: as many as are drawn.
	Grains []studio.Minute `json:"grains"`
	// WithHour is in how many it would have been in time if it left an hour later.
	WithHour int `json:"withHour"`
	// Causes are what made it late, where it was: the most frequent first.
	Causes []Blame `json:"causes"`
	// By and Leaves are when it is to be ready with the safety span, and when it leaves.
	By     studio.Minute `json:"readyBy"`
	Leaves studio.Minute `json:"leaves"`
}

// Blame is a task whose delay made an order late, by what, and in how many replays.
type Blame struct {
	Task  studio.ID `json:"task"`
	Cause Cause     `json:"cause"`
	Times int       `json:"times"`
}

// Replays are made in batches of so many, after each of which it is looked whether they are enough.
const (
	batch       = 100
	usualMost   = 1000
	mostGrains  = 240
	mostBlamed  = 3
	nineteenth  = 1.959964 // of twenty: how many standard deviations
	mostReplays = 1_000_000
)

// Chances replays a plan, and answers for each open order how sure it is. The same options give the same answer. It
// takes time proportional to replays and tasks.
func Chances(doc *studio.Document, made *studio.Plan, options Options) ([]Chance, error) {
	m, err := newModel(doc, made, options.Spreads)
	if err != nil {
		return nil, err
	}
	most := min(max(1, cmp.Or(options.Most, usualMost)), mostReplays)
	all := make([]tally, len(m.orders))
	for i := range all {
		all[i].blamed = map[Blame]int{}
	}
	workers := max(1, options.Workers)
	courses := make([]*replay, workers)
	for w := range courses {
		courses[w] = m.newReplay()
	}
	for done := 0; done < most && !stopped(options.Stop); {
		n := min(batch, most-done)
		batches := make([][]result, n)
		var wait sync.WaitGroup
		for w, r := range courses {
			wait.Go(func() {
				for i := w; i < n; i += workers {
					r.run(options.Seed, done+i)
					batches[i] = r.results()
				}
			})
		}
		wait.Wait()
		for _, one := range batches {
			for i, res := range one {
				all[i].add(&m.orders[i], res)
			}
		}
		if done += n; options.Tell != nil {
			options.Tell(done, most)
		}
		if options.Within > 0 &&
			!slices.ContainsFunc(all, func(t tally) bool { return t.halfWidth() > options.Within }) {
			break
		}
	}
	chances := make([]Chance, len(all))
	for i := range all {
		chances[i] = all[i].chance(m, &m.orders[i])
	}
	return chances, nil
}

func stopped(stop <-chan struct{}) bool {
	select {
	case <-stop:
		return true
	default:
		return false
	}
}

// result is what one replay comes to for one order.
type result struct {
	ready studio.Minute
	task  int // to blame where it is late
	cause Cause
}

// results are those of the replay that was made last.
func (r *replay) results() []result {
	all := make([]result, len(r.orders))
	for i := range r.orders {
		all[i] = result{ready: r.ready[i], task: -1}
		if r.ready[i] > r.orders[i].leaves {
			all[i].task, all[i].cause = r.blame(r.limits[i])
		}
	}
	return all
}

// blame is the task of a chain, from its last one back, that took the most longer than it was planned to.
func (r *replay) blame(last int) (worst int, cause Cause) {
	worst, most := last, studio.Minute(0)
	for i, steps := last, 0; i >= 0 && steps <= len(r.tasks); i, steps = r.by[i], steps+1 {
		if r.over[i] > most {
			worst, most, cause = i, r.over[i], r.cause[i]
		}
	}
	if cause == "" {
		cause = Waiting
	}
	return worst, cause
}

// tally is what is counted of an order.
type tally struct {
	inTime, kept, withHour int
	ready                  []studio.Minute
	blamed                 map[Blame]int
}

func (t *tally) add(o *order, r result) {
	t.ready = append(t.ready, r.ready)
	if r.ready <= o.leaves {
		t.inTime++
	} else if r.task >= 0 {
		t.blamed[Blame{Times: r.task, Cause: r.cause}]++
	}
	if r.ready <= o.by {
		t.kept++
	}
	if r.ready <= o.leaves+60 {
		t.withHour++
	}
}

// interval is between which shares a chance lies that was met so often, nineteen times out of twenty (Wilson 1927).
func (t *tally) interval() (least, most float64) {
	n := float64(len(t.ready))
	if n == 0 {
		return 0, 1
	}
	p, z2 := float64(t.inTime)/n, nineteenth*nineteenth
	middle := (p + z2/(2*n)) / (1 + z2/n)
	half := nineteenth / (1 + z2/n) * math.Sqrt(p*(1-p)/n+z2/(4*n*n))
	return max(0, middle-half), min(1, middle+half)
}

func (t *tally) halfWidth() studio.PerMille {
	least, most := t.interval()
	return studio.PerMille(math.Ceil(500 * (most - least)))
}

func (t *tally) chance(m *model, o *order) Chance {
	least, most := t.interval()
	c := Chance{Order: o.id, Replays: len(t.ready), InTime: t.inTime, Kept: t.kept, WithHour: t.withHour, By: o.by,
		Leaves: o.leaves, Least: studio.PerMille(math.Floor(1000 * least)),
		Most:   studio.PerMille(math.Ceil(1000 * most)),
		Grains: []studio.Minute{}, Causes: []Blame{}}
	sorted := slices.Sorted(slices.Values(t.ready))
	if n := len(sorted); n > 0 {
		c.Early, c.Usual, c.Late = sorted[n/10], sorted[n/2], sorted[n*9/10]
		for i := range min(n, mostGrains) {
			c.Grains = append(c.Grains, sorted[i*n/min(n, mostGrains)])
		}
	}
	for b, times := range t.blamed {
		c.Causes = append(c.Causes, Blame{Task: m.tasks[b.Times].id, Cause: b.Cause, Times: times})
	}
	slices.SortFunc(c.Causes, func(a, b Blame) int {
		return cmp.Or(cmp.Compare(b.Times, a.Times), cmp.Compare(a.Task, b.Task), cmp.Compare(a.Cause, b.Cause))
	})
	c.Causes = c.Causes[:min(len(c.Causes), mostBlamed)]
	return c
}
