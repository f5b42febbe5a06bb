package plan

import (
	"cmp"
	"math"
	"math/rand/v2"
	"sync"

	"bractum/core/studio"
)

// strand is one of the searches that go on beside each other, each from a random source
// of its own; so what they find does not depend on how many run at once.
type strand struct {
	*schedule
	lateOnly       bool
	random         *rand.Rand
	out            *removal
	current        value
	best           value
	bestAt         []spot
	stale          bool // the best is what the schedule is, and not yet kept
	taken          int  // steps
	patience       int  // steps since the best was found
	tried          [12][4]int
	queue          *line
	kicked         bool // this step goes anywhere
	lone           bool // it goes off by itself now and then
	sequenced      bool
	sequence, next []int
	arms           []arm
}

// Searches go on in so many strands, and tell each other after so many steps.
const (
	strands   = 2
	stepsEach = 16
	meetings  = 8   // rounds after which all go on from the best
	cycle     = 300 // steps after which a strand is heated again
	few       = 30  // clusters: of so few any may be taken out together
)

// search is the planning of one problem.
type search struct {
	*problem
	options Options
	strands []*strand
}

func newSearch(p *problem, options Options) *search {
	s := &search{problem: p, options: options}
	first := newSchedule(p)
	first.lay(p.clusters)
	s.begin(first)
	return s
}

// begin has all strands go on from a schedule.
func (s *search) begin(from *schedule) {
	for n := range strands {
		t := &strand{schedule: from, lateOnly: s.options.LatenessOnly, random: rand.New(rand.NewPCG(uint64(s.options.Seed), uint64(n)))}
		if n > 0 {
			if s.options.Steps <= stepsEach {
				break
			}
			t.schedule = newSchedule(s.problem)
		}
		t.queue = s.line()
		t.sequence = t.queue.byDate()
		if n > 0 {
			t.sequence = t.queue.improved(t.sequence)
			t.bySequence(t.sequence)
			t.lay(s.clusters)
		}
		t.out = newRemoval(t.schedule)
		t.lone = n%2 == 1 && len(s.clusters) <= few
		t.arms = make([]arm, len(neighbourhoods))
		t.current = value{t.worth(), t.left()}
		t.best, t.stale = t.current, true
		s.strands = append(s.strands, t)
	}
}

// adopt makes a schedule another, spot by spot.
func (s *schedule) adopt(at []spot) {
	s.clear()
	for _, j := range s.byRank {
		if j.Done() || j.running() {
			continue
		}
		to := at[j.number]
		s.set(j, to)
	}
}

// run searches for so many steps, or until it is told to stop, and gives the steps done.
func (s *search) run() int {
	done := 0
	for round := 0; done < s.options.Steps && !s.stopped() && !s.optimal(); round++ {
		var wait sync.WaitGroup
		for _, t := range s.strands {
			n := min(stepsEach, s.options.Steps-done)
			if n <= 0 {
				break
			}
			done += n
			wait.Go(func() {
				for range n {
					t.step()
				}
			})
		}
		wait.Wait()
		if round%meetings == meetings-1 {
			s.meet()
		}
		if s.options.Report != nil {
			s.options.Report(Progress{Steps: done, Best: s.best().best.Objective})
		}
	}
	return done
}

func (s *search) stopped() bool {
	select {
	case <-s.options.Stop:
		return true
	default:
		return false
	}
}

func (s *search) optimal() bool {
	return s.options.LatenessOnly && s.best().best.Lateness == 0
}

// best is the strand that has found the best, the first of them if several have.
func (s *search) best() *strand {
	best := s.strands[0]
	for _, t := range s.strands[1:] {
		if t.compare(t.best, best.best) < 0 {
			best = t
		}
	}
	return best
}

// meet has strands that have found nothing as good go on from the best.
func (s *search) meet() {
	best := s.best()
	best.keep()
	for _, t := range s.strands {
		if t != best && t.compare(best.best, t.best) < 0 {
			t.adopt(best.bestAt)
			copy(t.sequence, best.sequence)
			copy(t.wish.hurried, best.wish.hurried)
			copy(t.wish.overtime, best.wish.overtime)
			t.current, t.best, t.stale = best.best, best.best, true
		}
	}
}

// value is what a schedule is worth, and how many jobs it leaves out.
type value struct {
	studio.Objective
	out int
}

// compare puts less lateness first, then less that is left out, then the rest of what
// makes a plan better.
func (s *strand) compare(a, b value) int {
	if by := cmp.Or(compare(a.Lateness, b.Lateness), compare(a.out, b.out)); by != 0 || s.lateOnly {
		return by
	}
	return a.Compare(b.Objective)
}

// keep makes sure that the best is kept before the schedule becomes another.
func (s *strand) keep() {
	if s.stale {
		s.bestAt, s.stale = append(s.bestAt[:0], s.at...), false
	}
}

// step tries one neighbour, and goes there if it is no worse, or not much.
func (s *strand) step() {
	if s.taken%cycle == 0 && s.compare(s.best, s.current) < 0 {
		s.adopt(s.bestAt)
		s.current = s.best
	}
	s.taken++
	s.patience++
	s.out.begin()
	nb := s.draw()
	if s.kicked = s.lone && s.taken%cycle == 1; s.kicked {
		nb = 5
	}
	tr := &s.tried[nb]
	tr[0]++
	if !neighbourhoods[nb].take(s) {
		s.out.restore()
		return
	}
	s.out.settle()
	s.wish.patience = []studio.Minute{usualPatience, usualPatience, usualPatience / 4, 2 * usualPatience, 0}[s.random.IntN(5)]
	s.lay(s.out.clusters)
	tr[1] += len(s.out.clusters)
	if s.out.broken() {
		s.learn(nb, 0)
		tr[3]++
		s.out.restore()
		return
	}
	found := value{s.worth(), s.current.out + s.out.lost()}
	if nb == 0 && s.compare(found, s.current) <= 0 {
		copy(s.sequence, s.next)
	}
	gain := 0.0
	if s.compare(found, s.current) < 0 {
		gain = 0.01 + 100*float64(s.current.Lateness-found.Lateness)/float64(1+s.current.Lateness)
	}
	s.learn(nb, gain)
	if s.compare(found, s.current) < 0 {
		tr[2]++
		tr[3] += int(s.current.Lateness - found.Lateness)
	}
	switch {
	case s.compare(found, s.best) < 0:
		s.current, s.best, s.stale, s.patience = found, found, true, 0
	case s.compare(found, s.current) <= 0 || s.tolerates(found):
		if s.stale { // the best was the schedule until this step
			s.keepBefore()
		}
		s.current = found
	default:
		s.out.restore()
	}
}

// keepBefore keeps what the schedule was before what was taken out was laid anew.
func (s *strand) keepBefore() {
	s.keep()
	for _, c := range s.out.clusters {
		for _, j := range c.jobs {
			s.bestAt[j.number] = spot{}
		}
	}
	for _, was := range s.out.jobs {
		s.bestAt[was.job.number] = was.at
	}
}

// tolerates is true of a schedule that is worse, but by so little that there may be a
// way to a better one from there: the less, the longer since the last reheating.
func (s *strand) tolerates(found value) bool {
	if s.kicked {
		return true
	}
	heat := 1 - float64(s.taken%cycle)/cycle
	most := (0.01*float64(s.best.Lateness) + 4) * heat * heat * -math.Log(1-s.random.Float64())
	return float64(found.Lateness-s.current.Lateness) <= most && found.Lateness > s.current.Lateness
}

// arm is what a neighbourhood has brought in a strand, and at what cost, what is long ago
// counting less.
type arm struct{ gain, cost float64 }

// draw picks a neighbourhood by what it has brought for its cost.
func (s *strand) draw() int {
	if len(s.clusters) <= few {
		if s.random.IntN(3) > 0 {
			return 5
		}
		return s.random.IntN(len(neighbourhoods))
	}
	if s.patience < 20 && len(s.orders) > 1 && s.best.Lateness > 0 && !s.sequenced {
		return 0
	}
	s.sequenced = true
	var sum float64
	worth := func(a arm) float64 { return (a.gain + 0.02) / (a.cost + 2000) }
	for _, a := range s.arms {
		sum += worth(a)
	}
	at := s.random.Float64() * sum
	for n, a := range s.arms {
		if at -= worth(a); at < 0 {
			return n
		}
	}
	return 0
}

func (s *strand) learn(n int, gain float64) {
	a := &s.arms[n]
	a.cost = 0.97*a.cost + float64(len(s.out.jobs)) + 20
	a.gain = 0.97*a.gain + gain
}
