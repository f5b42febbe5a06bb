package plan

import (
	"math/rand/v2"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/optimize/convex/lp"

	"bractum/core/count"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

// season is the problem of a small season that has too much to do.
func season(t *testing.T) *problem { return problemOf(t, demo.Season(3, 0.1, 120)) }

func problemOf(t *testing.T, doc *studio.Document) *problem {
	counted, err := count.Up(doc)
	require.NoError(t, err)
	p, err := newProblem(doc, counted)
	require.NoError(t, err)
	return p
}

// state is all that a schedule takes up, in a form that can be compared.
func (s *schedule) state() []any {
	var all []any
	for _, m := range s.makers {
		all = append(
			all,
			append([]occupied{}, m.busy...),
			append([]turn{}, m.turns...),
			append([]gap{}, m.regular.free...),
			append([]gap{}, m.longer.free...),
			m.load,
		)
	}
	for _, p := range append(append([]*profile{}, s.rooms...), s.tools...) {
		all = append(all, append([]level{}, p.levels...))
	}
	for _, m := range s.machines {
		for _, l := range m.loads {
			var in []int
			for _, j := range l.jobs {
				in = append(in, j.number)
			}
			slices.Sort(in)
			all = append(all, in, l.Span, l.slots, l.setting, l.closed)
		}
	}
	for n := range s.at {
		at := s.at[n]
		if at.more != nil {
			at.more = &detail{pauses: at.more.pauses, tools: at.more.tools}
		}
		all = append(all, at)
	}
	return all
}

// Whatever a neighbourhood takes out, and whatever is laid in its place: put back, the
// schedule is what it was; and what it is taken up with is what its spots say.
func TestWhatIsTakenOutIsPutBackAsItWas(t *testing.T) {
	s := newSearch(season(t), Options{Steps: 100, Seed: 5})
	for _, strand := range s.strands {
		strand.forOrder = slices.IndexFunc(strand.orders, func(o *order) bool { return strand.lateness(o) > 0 })
	}
	tried := map[int]int{}
	for round := range 120 {
		strand := s.strands[round/len(neighbourhoods)%2]
		before := strand.state()
		n := round % len(neighbourhoods)
		strand.out.begin()
		if neighbourhoods[n].take(strand) {
			tried[n]++
			strand.out.addAffected()
			for _, m := range strand.makers {
				require.Nil(t, strand.mischarged(m), "%s is charged what stands costs", m.Name)
			}
			strand.placeClustersWithin(strand.out.clusters, strand.current.Lateness)
		}
		strand.out.restore()
		after := strand.state()
		require.Len(t, after, len(before), neighbourhoods[n].name)
		for i := range before {
			require.Equal(t, before[i], after[i], neighbourhoods[n].name)
		}
		strand.step()
		strand.keep()
		again := newSchedule(strand.problem)
		again.copySpots(strand.at)
		for i, m := range again.makers {
			require.Equal(t, m.regular.free, strand.makers[i].regular.free)
			require.Equal(t, m.busy, strand.makers[i].busy)
		}
		for i, p := range again.rooms {
			require.Equal(t, append([]level{}, p.levels...), append([]level{}, strand.rooms[i].levels...))
		}
		require.Equal(
			t,
			again.worth(),
			strand.current.Objective,
			"what is kept in step with the schedule is what it comes to",
		)
	}
	assert.Len(t, tried, len(neighbourhoods), "each has had something to take")
}

// Free time is what an array of minutes says is free.
func TestACalendarIsWhatItsMinutesAre(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 7))
	hours := studio.Hours{{From: 5, To: 20}, {From: 24, To: 40}, {From: 45, To: 60}}
	c, free := newCalendar(hours), [70]bool{}
	for _, h := range hours {
		for m := h.From; m < h.To; m++ {
			free[m] = true
		}
	}
	var taken []studio.Span
	for range 2000 {
		span := studio.Span{From: studio.Minute(random.IntN(60))}
		span.To = span.From + 1 + studio.Minute(random.IntN(9))
		clear := true
		for m := span.From; m < span.To; m++ {
			clear = clear && (free[m] || hours.Worked(studio.Span{From: m, To: m + 1}) == 0)
		}
		ends := hours.Worked(studio.Span{From: span.To - 1, To: span.To}) > 0 // as work does, in working time
		if i := c.after(span.From); ends && i < len(c.free) && c.free[i].From <= span.From {
			assert.Equal(t, clear, c.holds(i, span), "%v of %v", span, c.free)
		}
		switch {
		case clear && random.IntN(2) == 0:
			taken = append(taken, span)
			c.take(span)
		case len(taken) > 0:
			span = taken[len(taken)-1]
			taken = taken[:len(taken)-1]
			c.give(span)
			clear = false
		default:
			continue
		}
		for m := span.From; m < span.To; m++ {
			free[m] = !clear && hours.Worked(studio.Span{From: m, To: m + 1}) > 0
		}
		said := [70]bool{}
		for _, g := range c.free {
			assert.Equal(
				t,
				hours[g.in],
				studio.Span{From: min(g.From, hours[g.in].From), To: max(g.To, hours[g.in].To)},
			)
			for m := g.From; m < g.To; m++ {
				said[m] = true
			}
		}
		assert.Equal(t, free, said)
	}
}

// The gain of moving an order in the line is the difference of two sums made anew.
func TestTheGainOfAMoveIsWhatItSaves(t *testing.T) {
	p := season(t)
	l := newLine(p)
	random := rand.New(rand.NewPCG(1, 1))
	late := func(sequence []int) (sum int64) {
		for n, at := range l.ready(sequence) {
			sum += p.orders[n].Importance * steps(at-p.orders[n].ReadyBy)
		}
		return sum
	}
	sequence, tried := l.byDate(), 0
	for range 300 {
		l.lag[random.IntN(len(l.lag))] = studio.Minute(random.IntN(4000))
		from, to := random.IntN(len(sequence)), random.IntN(len(sequence))
		before := late(sequence)
		l.moves(sequence, from, func(at int, gain int64) {
			if at == to {
				next := slices.Clone(sequence)
				move(next, from, to)
				require.Equal(t, before-late(next), gain)
				tried++
			}
		})
		move(sequence, from, to)
	}
	assert.Positive(t, tried)
	assert.LessOrEqual(t, late(l.improved(sequence)), late(sequence))
}

// Work begins towards when orders are to be ready: later where that is later than they are
// due, and never earlier; and by as much sooner as people are busy.
func TestClustersAreLaidTowardsWhenOrdersAreToBeReady(t *testing.T) {
	p := season(t)
	due, early, late := p.latestStartsOfClusters(
		p.dueTimes(nil),
		usualQueue,
	), make(
		[]studio.Minute,
		len(p.orders),
	), make(
		[]studio.Minute,
		len(p.orders),
	)
	for n, o := range p.orders {
		early[n], late[n] = o.ReadyBy-500, o.ReadyBy+500
	}
	assert.Equal(t, due, p.latestStartsOfClusters(p.dueTimes(early), usualQueue))
	alone := 0
	for n, latest := range p.latestStartsOfClusters(late, usualQueue) {
		c := p.clusters[n]
		require.Equal(t, due[n], c.latest)
		if len(c.orders) > 0 && due[n] < latest {
			require.Equal(t, due[n]+500, latest, "all orders are to be later by as much")
			alone++
		}
	}
	assert.Greater(t, alone, len(p.clusters)/2)
	for n, free := range p.latestStartsOfClusters(p.dueTimes(nil), 0) {
		require.LessOrEqual(t, due[n], free-usualQueue, "nobody is free at once")
	}
}

// Whoever reckons with how long tasks wait for people lays seasons that are less late than
// whoever takes them to be free at once.
func TestReckoningWithQueuesIsLessLate(t *testing.T) {
	var late [2]int64
	for _, seed := range []uint64{1, 3} {
		p := problemOf(t, demo.Season(seed, 1, 105))
		l := newLine(p)
		for n := range l.lag {
			l.lag[n] = 3 * 1440
		}
		times := p.dueTimes(l.ready(l.improved(p.byDate())))
		for n, queue := range []studio.Minute{0, usualQueue} {
			s := newSchedule(p)
			copy(s.wish.key, p.latestStartsOfClusters(times, queue))
			s.placeClusters(s.clusters)
			late[n] += s.worth().Lateness
		}
	}
	assert.Less(t, 10*late[1], 9*late[0], "by more than a tenth")
}

// Lags made even are all their mean, and by half are half as far from it.
func TestLagsAreMadeEven(t *testing.T) {
	l := &line{lag: []studio.Minute{100, 200, 600}}
	l.even(0.5)
	assert.Equal(t, []studio.Minute{200, 250, 450}, l.lag)
	l.even(1)
	assert.Equal(t, []studio.Minute{300, 300, 300}, l.lag)
}

// While a schedule is laid, what is expected of its orders never comes to clearly more than
// they turn out to be late, so that nothing good is given up; and before the end it shows.
func TestWhatIsExpectedOfOrdersIsWhatTheyComeTo(t *testing.T) {
	p := season(t)
	s := newSchedule(p)
	s.placeClusters(s.clusters)
	comes := s.worth().Lateness
	require.Positive(t, comes)
	within := func(most int64) (bool, int) {
		again := newSchedule(p)
		done := again.placeClustersWithin(again.clusters, most)
		left := 0
		for i := range again.at {
			if again.at[i].state == open {
				left++
			}
		}
		return done, left
	}

	done, _ := within(comes + comes/10)
	assert.True(t, done)
	done, left := within(comes / 2)
	assert.False(t, done)
	assert.Greater(t, left, len(p.jobs)/4, "it is given up long before all is laid")
}

// The flow costs what a general solver finds for the same linear programme.
func TestTheFlowIsAsCheapAsALinearProgrammeSays(t *testing.T) {
	random := rand.New(rand.NewPCG(2, 2))
	for range 60 {
		sources, sinks := 1+random.IntN(4), 1+random.IntN(4)
		f := flow{}
		var sum float64
		for range sources {
			f.need = append(f.need, float64(1+random.IntN(9)))
			sum += f.need[len(f.need)-1]
			var costs []float64
			for range sinks + 1 {
				costs = append(costs, float64(random.IntN(20)))
			}
			f.costs = append(f.costs, costs)
		}
		for range sinks {
			f.room = append(f.room, float64(1+random.IntN(9)))
		}
		f.room = append(f.room, sum)
		sinks++
		c, b := make([]float64, sources*sinks+sinks), append(append([]float64{}, f.need...), f.room...)
		a := mat.NewDense(sources+sinks, len(c), nil)
		for i := range sources {
			for k := range sinks {
				c[i*sinks+k] = f.costs[i][k]
				a.Set(i, i*sinks+k, 1)
				a.Set(sources+k, i*sinks+k, 1)
			}
		}
		for k := range sinks {
			a.Set(sources+k, sources*sinks+k, 1)
		}
		least, _, err := lp.Simplex(c, a, b, 1e-9, nil)
		require.NoError(t, err)
		require.InDelta(t, least, f.least(), 1e-6)
	}
}

func TestNeighbourhoodsToDoWithoutAreChecked(t *testing.T) {
	assert.NoError(t, known(nil))
	assert.NoError(t, known([]string{"chain", "chain"}))
	assert.ErrorContains(t, known([]string{"petals"}), `"petals"`)
	var all []string
	for _, n := range neighbourhoods {
		all = append(all, n.name)
	}
	assert.ErrorContains(t, known(all), "needs a neighbourhood")
}

// What is taken out of one maker's day for its colour takes along what it needs of others, whose own
// charges are then other too: a document in which a search forgot those.
func TestWhatIsTakenAlongOfOtherMakersIsChargedAnew(t *testing.T) {
	file, err := os.Open("testdata/mischarged.json")
	require.NoError(t, err)
	defer file.Close()
	doc, err := studio.Read(file)
	require.NoError(t, err)
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := Make(doc, counted, Options{Steps: 12})
	require.NoError(t, err)
	assert.Empty(t, check.Plan(doc, made))
}
