package plan

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"
	"sync"

	"bractum/core/studio"
)

// Searches go on in so many strands, and tell each other after so many rounds of steps;
// what they find does not depend on how many of them run at once.
const (
	strands   = 2
	stepsEach = 16   // of a round
	meetings  = 8    // rounds after which strands that have found less go on from the best
	cycle     = 300  // steps after which a strand is heated again
	quick     = 800  // clusters: so few are laid twice for a first plan
	few       = 30   // clusters: of so few any may be taken out together
	heat      = 0.01 // of the best lateness: about how much worse a step may be at first
)

// ordersEach is how many steps come to one that tries another sequence or other times of
// orders, by strand: much is laid anew then, which takes as long as many other steps.
var ordersEach = [strands]int{8, 3}

// search is the planning of one problem: a large neighbourhood search.
type search struct {
	*problem
	options Options
	strands []*strand
	aim     aim // with which strands begin
	rounds  int
	steps   int
}

// strand is one of the searches that go on beside each other, each with a schedule and a
// random source of its own.
type strand struct {
	*schedule
	lateOnly bool
	every    int  // so many steps it tries other sequences or times of orders
	forOrder int  // the order that it is for, -1 for none
	lone     bool // it goes off by itself now and then
	random   *rand.Rand
	out      *removal
	current  value
	best     value
	bestAt   []spot
	stale    bool // the best is what the schedule is, and not yet kept
	taken    int  // steps
	patience int  // steps since the best was found
	byOrders bool // other sequences and times of orders are worth most
	opening  bool // the best has not been the same for long yet
	kicked   bool // this step goes anywhere
	line     *line
	aim      aim
	next     aim // that is being tried
	arms     []arm
	without  []bool // by neighbourhood
}

// value is what a schedule is worth, how many jobs it leaves out, and how far it is from
// what people were told.
type value struct {
	studio.Objective
	out    int
	unrest int64
}

// aim is the order in which orders are taken on, by number, and towards which times they are
// laid.
type aim struct {
	sequence []int
	times    []studio.Minute
}

// copyAim makes an aim another.
func (a *aim) copyAim(b aim) {
	a.sequence, a.times = append(a.sequence[:0], b.sequence...), append(a.times[:0], b.times...)
}

// newSearch begins with a constructive schedule, or with a plan that is to be repaired.
func newSearch(p *problem, options Options) *search {
	s := &search{problem: p, options: options, aim: aim{sequence: p.byDate(), times: p.dueTimes(nil)}}
	first := newSchedule(p)
	if options.From != nil {
		p.noteWhatWasTold(options.From)
		if options.Steps == 0 {
			p.noteWhatIsInVain(options.From)
		}
		var anew *schedule
		lay := func() {
			if anew = s.placedAnew(); anew.worth().Lateness > 0 {
				go p.bound() // it will be asked for
			}
		}
		// At the minute of the plan mostly all is as it was: then nothing is made anew.
		var laying sync.WaitGroup
		changed := p.now != options.From.Now
		if changed {
			laying.Go(lay)
		}
		left := first.keepPlaced(options.From)
		if !changed && !leaves(options.From, left.clusters) {
			changed = true
			laying.Go(lay)
		}
		first.placeRemoved(options.From, left)
		if laying.Wait(); changed && (first.thinSlack() > 0 || first.fell()) {
			first = s.better(first, anew)
		}
		if changed {
			first.pullForward()
		}
	} else {
		first = s.placedAnew()
	}
	if options.Steps > 0 {
		p.noteWhatIsLeftOutBy(first)
	}
	s.begin(first)
	return s
}

// placedAnew is the best of some schedules: laid towards when orders are due or, where a plan is
// repaired, when they were to be ready, as people were told; else also towards when they
// would be in the sequence that the line of orders thinks best; where that takes no time,
// also one in which whoever is done first gets a task.
func (s *search) placedAnew() *schedule {
	times := s.aim.times
	var inLine aim
	var best, second *schedule
	var laying sync.WaitGroup
	if from := s.options.From; from != nil {
		times = s.dueTimes(s.readyIn(from))
	} else if len(s.orders) > 1 {
		laying.Go(func() {
			l := newLine(s.problem)
			for n := range l.lag {
				l.lag[n] = usualLag
			}
			sequence := l.improved(s.aim.sequence)
			inLine = aim{sequence: sequence, times: s.dueTimes(l.ready(sequence))}
			second = s.towardsTimes(inLine.times)
		})
	}
	best = s.towardsTimes(times)
	if laying.Wait(); second != nil {
		if b := s.better(best, second); b != best {
			best, s.aim = b, inLine
		}
	}
	if len(s.clusters) <= quick {
		other := newSchedule(s.problem)
		other.wish.patience, other.wish.thrift = 0, 0
		other.placeClusters(s.clusters)
		other.wish.patience, other.wish.thrift = usualPatience, usualThrift
		best = s.better(best, other)
	}
	return best
}

// towardsTimes is a schedule laid towards times of orders, what people were told as it was.
func (s *search) towardsTimes(times []studio.Minute) *schedule {
	laid := newSchedule(s.problem)
	copy(laid.wish.key, s.latestStartsOfClusters(times, usualQueue))
	for _, j := range s.jobs {
		laid.wishAsTold(j)
	}
	laid.placeClusters(s.clusters)
	return laid
}

// better is the better of two schedules, the first if they are as good.
func (s *search) better(a, b *schedule) *schedule {
	judge := strand{lateOnly: s.options.LatenessOnly}
	if judge.compare(
		value{Objective: b.worth(), out: b.leftOutCount(), unrest: b.unrestOfPeople()},
		value{Objective: a.worth(), out: a.leftOutCount(), unrest: a.unrestOfPeople()},
	) < 0 {
		return b
	}
	return a
}

// begin has strands go on from a schedule.
func (s *search) begin(from *schedule) {
	for n := range strands {
		if n > 0 && s.options.Steps <= stepsEach {
			break
		}
		t := &strand{
			schedule: from,
			lateOnly: s.options.LatenessOnly,
			lone:     n%2 == 1 && len(s.clusters) <= few,
			every:    ordersEach[n],
			forOrder: slices.IndexFunc(s.orders, func(o *order) bool { return o.ID == s.options.For }),
			random: rand.New(
				rand.NewPCG(uint64(s.options.Seed), uint64(n)),
			),
			arms:    make([]arm, len(neighbourhoods)),
			without: make([]bool, len(neighbourhoods)),
		}
		for n := range neighbourhoods {
			t.without[n] = slices.Contains(s.options.Without, neighbourhoods[n].name)
		}
		t.byOrders = len(s.orders) > 1 && len(s.clusters) > few && !t.without[bySequence]
		t.opening = t.byOrders
		if s.options.Steps > 0 {
			t.line = newLine(s.problem)
			t.aim.copyAim(s.aim)
		}
		if n > 0 {
			t.schedule = newSchedule(s.problem)
			t.copySchedule(from.at, &from.wish)
		}
		t.out = newRemoval(t.schedule)
		t.current = value{Objective: t.worth(), out: t.leftOutCount(), unrest: t.unrestOfPeople()}
		t.best, t.stale = t.current, true
		s.strands = append(s.strands, t)
	}
}

// found is the best schedule.
func (s *search) found() *schedule {
	best := s.best()
	if !best.stale {
		best.copySpots(best.bestAt)
	}
	return best.schedule
}

// copySpots makes a schedule another, spot by spot.
func (s *schedule) copySpots(at []spot) {
	s.clear()
	for _, j := range s.byRank {
		if !j.Done() && !j.running() {
			s.putJobBack(j, at[j.number])
		}
	}
}

// copySchedule makes a schedule another, and what is wished for it.
func (s *schedule) copySchedule(at []spot, wish *wish) {
	s.copySpots(at)
	copy(s.wish.hurried, wish.hurried)
	copy(s.wish.overtime, wish.overtime)
}

// run searches for so many steps, or until it is told to stop, and gives the steps done.
func (s *search) run(most int) int {
	done := 0
	if len(s.clusters) == 0 || len(s.hours) == 0 { // nothing to do, or nobody to do it
		return 0
	}
	for done < most && !s.stopped() && !s.optimal() {
		var wait sync.WaitGroup
		for _, t := range s.strands {
			n := min(stepsEach, most-done)
			done, s.steps = done+n, s.steps+n
			wait.Go(func() {
				for range n {
					t.step()
				}
			})
		}
		wait.Wait()
		if s.rounds++; s.rounds%meetings == 0 {
			s.shareBest()
		}
		if s.options.Report != nil {
			s.options.Report(Progress{Steps: s.steps, Best: s.best().best.Objective})
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

// optimal is true where nothing better can be found.
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

// shareBest has strands that have found nothing as good go on from the best.
func (s *search) shareBest() {
	best := s.best()
	best.keep()
	for _, t := range s.strands {
		if t.compare(best.best, t.best) < 0 {
			t.copySchedule(best.bestAt, &best.wish)
			t.aim.copyAim(best.aim)
			t.current, t.best, t.stale = best.best, best.best, true
		}
	}
}

// burden is the lateness, with what disturbs people weighed in.
func (v value) burden() int64 { return v.Lateness + v.unrest/disturbed }

// compare puts less lateness first, that which disturbs people weighed in, then less that
// is left out, then the rest of what makes a plan better.
func (s *strand) compare(a, b value) int {
	by := cmp.Or(cmp.Compare(a.burden(), b.burden()), cmp.Compare(a.out, b.out), cmp.Compare(a.unrest, b.unrest))
	if by != 0 || s.lateOnly {
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
		s.copySpots(s.bestAt)
		s.current = s.best
	}
	s.taken++
	s.patience++
	s.out.begin()
	if s.told != nil {
		s.wish.forgets = forgetting{one: drawn[uint32](s, 0, 0, 0, 8, 16, 32), salt: s.random.Uint32()}
	}
	n := s.draw()
	for s.without[n] {
		n = (n + 1) % len(neighbourhoods)
	}
	if !neighbourhoods[n].take(s) {
		s.out.restore()
		return
	}
	s.out.addAffected()
	if len(s.clusters) <= few {
		s.wish.patience = drawn(s, usualPatience, usualPatience, usualPatience/4, 2*usualPatience, 0)
		s.wish.thrift = drawn(s, usualThrift, usualThrift, usualThrift/3, 2*usualThrift, 0)
	} else {
		s.wish.patience = drawn(s, usualPatience, usualPatience/2, 3*usualPatience/2, 2*usualPatience)
		s.wish.thrift = drawn(s, usualThrift, usualThrift/2, 3*usualThrift/2, 2*usualThrift)
	}
	allowed := s.allowed()
	most := allowed
	if s.wanted() != nil { // what yields is expected to be later than it comes to be
		most = math.MaxInt64
	}
	if !s.placeClustersWithin(s.out.clusters, most) || s.out.leavesBroken() {
		s.learn(n, 0)
		s.out.restore()
		return
	}
	found := value{Objective: s.worth(), out: s.current.out + s.out.moreLeftOut(), unrest: s.unrestOfPeople()}
	better := s.compare(found, s.current)
	s.learn(n, gain(s.current, found, better))
	switch {
	case s.compare(found, s.best) < 0:
		s.best, s.stale, s.patience = found, true, 0
	case better <= 0 || found.Lateness <= allowed && found.Lateness > s.current.Lateness:
		if s.stale { // the best was the schedule until this step
			s.keep()
			s.out.asItWas(s.bestAt)
		}
	default:
		s.out.restore()
		return
	}
	s.current = found
	if n == bySequence || n == byTimes {
		s.aim.copyAim(s.next)
	}
}

// drawn is one of several.
func drawn[T any](s *strand, of ...T) T { return of[s.random.IntN(len(of))] }

// allowed is the weighted lateness up to which a step goes even where that is worse: by so
// little that there may be a way to something better from there, the less, the longer
// since the last heating.
func (s *strand) allowed() int64 {
	if s.kicked {
		return math.MaxInt64
	}
	cooled := 1 - float64(s.taken%cycle)/cycle
	return s.current.Lateness + int64((heat*float64(s.best.Lateness)+4)*cooled*cooled*-math.Log(1-s.random.Float64()))
}

// arm is what a neighbourhood has brought in a strand, and at what cost, what is long ago
// counting less.
type arm struct{ gain, cost float64 }

// worth is how well a neighbourhood pays.
func (a arm) worth() float64 { return (a.gain + 0.02) / (a.cost + 300) }

// draw picks a neighbourhood by what it has brought for its cost, besides the sequences and
// times of orders that are tried now and then; with few clusters, mostly any are taken.
func (s *strand) draw() int {
	if s.kicked = s.lone && s.taken%cycle == 1; s.kicked {
		return byScatter
	}
	if s.wanted() != nil && s.random.IntN(4) > 0 {
		return drawn(s, byRoom, byRoom, byRoom, byRivals, byChain)
	}
	s.opening = s.opening && s.patience < 200
	if s.byOrders && s.best.Lateness > 0 && s.taken%s.every == 0 {
		return drawn(s, bySequence, bySequence, byTimes, byTimes, byTimes)
	}
	if len(s.clusters) <= few {
		if s.random.IntN(3) > 0 {
			return byScatter
		}
		return s.random.IntN(byRoom)
	}
	var sum float64
	for _, a := range s.arms[:byRoom] {
		sum += a.worth()
	}
	at := s.random.Float64() * sum
	for n, a := range s.arms[:byRoom] {
		if at -= a.worth(); at < 0 {
			return n
		}
	}
	return bySequence
}

// gain is how much better a schedule is than another, in percent of its lateness.
func gain(was, found value, better int) float64 {
	if better >= 0 {
		return 0
	}
	return 0.01 + 100*float64(was.Lateness-found.Lateness)/float64(1+was.Lateness)
}

func (s *strand) learn(n int, gain float64) {
	a := &s.arms[n]
	a.gain = 0.97*a.gain + gain
	a.cost = 0.97*a.cost + float64(len(s.out.jobs)) + 20
}
