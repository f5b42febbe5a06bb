package plan

import (
	"maps"
	"math/rand/v2"
	"slices"

	"bractum/core/count"
	"bractum/core/studio"
)

// Between two stretches of search the sizes of some lots are tried: each takes so many
// steps from the plan as it is. Where that brings nothing and steps take long, the next
// stretch is twice as long.
const (
	shortest     = 128
	sizesAtOnce  = 3
	stepsPerSize = 32
)

// sizes is the search over lot sizes: groups of lots that were gathered together, divided
// into more lots than the count has, or fewer.
type sizes struct {
	*search
	divided map[studio.ID]studio.Division
	random  *rand.Rand
}

func newSizes(s *search) *sizes {
	random := rand.New(rand.NewPCG(uint64(s.options.Seed), 1<<32))
	z := &sizes{search: s, divided: map[studio.ID]studio.Division{}, random: random}
	if s.options.From != nil {
		z.divided = count.Beyond(s.doc, s.options.From.Divided)
	}
	return z
}

// searched searches for the steps of the options, lot sizes included and with what is weighed twice on a
// day weighed once unless lots are fixed, and gives the steps done.
func (z *sizes) searched() int {
	options := z.options
	fixed := options.FixedLots || z.doc.Direct != nil
	done := z.stretches(fixed)
	if !fixed && (options.Steps > 0 || options.Proposes) {
		z.weighOnce()
	}
	return done
}

// stretches searches stretch by stretch, with other sizes of lots between them unless they are fixed,
// and gives the steps done.
func (z *sizes) stretches(fixed bool) int {
	s := z.search
	done, stretch := s.whole(), shortest
	for {
		did := z.run(min(stretch, s.options.Steps-done))
		done += did
		if did < stretch || done >= s.options.Steps || z.stopped() || z.optimal() {
			return done
		}
		if fixed || z.best().best.Lateness == 0 || z.best().opening {
			continue
		}
		before := z.search
		for range sizesAtOnce {
			if s.options.Steps-done < stepsPerSize || z.stopped() {
				break
			}
			done += z.try()
		}
		if z.search != before {
			stretch = shortest
		} else if len(z.clusters) > quick {
			stretch *= 2
		}
	}
}

// mostWhole is of how many steps thirds are taken at the most, where a search goes on until it is stopped.
const mostWhole = 30_000

// whole searches a small problem as a whole, after a third of the steps of the options and for up to another,
// and has strands go on from what that finds. It gives the steps that it all took.
func (s *search) whole() (steps int) {
	if s.options.Steps == 0 || s.options.From != nil || len(s.clusters) > fewEnough {
		return 0
	}
	third := min(s.options.Steps, mostWhole) / 3
	steps = s.run(third)
	best := s.best()
	if best.best.Lateness <= s.bound().Least || s.stopped() {
		return steps
	}
	best.keep()
	at, made := s.searchedWhole(best.best.Lateness, third*nodesPerStep)
	if at != nil {
		best.copySpots(at)
		best.current = value{Objective: best.worth(), out: best.leftOutCount(), unrest: best.unrestOfPeople()}
		best.best, best.bestAt, best.stale = best.current, at, false
		s.shareBest()
	}
	return steps + made/nodesPerStep
}

// try divides a group of which a late order waits for a lot otherwise, and goes on from
// there if that is no later: two groups may have to be divided before it is less late. It
// gives the steps done.
func (z *sizes) try() int {
	group, lots := z.draw()
	if lots == 0 {
		return 0
	}
	divided := maps.Clone(z.divided)
	divided[group] = studio.Division{Group: group, Lots: lots}
	next := z.recounted(divided)
	if next == nil {
		return 0
	}
	done := next.run(stepsPerSize)
	z.steps = next.steps
	if next.best().best.burden() <= z.best().best.burden() {
		next.options = z.options
		z.search, z.divided = next, divided
	}
	return done
}

// recounted is a search that goes on from what was found with groups divided otherwise; nil where that
// cannot be.
func (z *sizes) recounted(divided map[studio.ID]studio.Division) *search {
	counted, err := count.Divided(z.doc, divided)
	if err != nil {
		return nil
	}
	p, err := newProblem(z.doc, counted)
	if err != nil {
		return nil
	}
	p.abandon = z.abandon
	options := z.options
	options.Seed += int64(z.random.Uint32())
	before := z.found().finished()
	next := &search{problem: p, options: options, aim: z.best().aim, steps: z.steps}
	if z.options.From != nil {
		p.noteWhatWasTold(z.options.From)
	}
	first := newSchedule(p)
	first.repairFrom(before)
	next.begin(first)
	return next
}

// draw picks a lot that a late order waits for, and into how many its group is to be
// divided; into none where there is nothing to divide.
func (z *sizes) draw() (studio.ID, int64) {
	best := z.best()
	if !best.stale {
		best.copySpots(best.bestAt)
		best.current = best.best
	}
	o := best.lateOrder()
	if o == nil {
		return "", 0
	}
	var groups []studio.ID
	lots := map[studio.ID]*studio.Lot{}
	members := map[studio.ID]int64{}
	for i := range z.counted.Lots {
		l := &z.counted.Lots[i]
		lots[l.ID] = l
		members[l.Group]++
	}
	book := studio.NewBook(z.doc)
	for j := best.lastOf(o); j != nil; j = best.latestNeed(j) {
		l := lots[j.lot]
		if l != nil && l.Group != "" && !l.InWork && !l.Decided && book.Of(l.Made()).Kind != studio.KindMix &&
			!slices.Contains(groups, l.Group) {
			groups = append(groups, l.Group)
		}
	}
	if len(groups) == 0 {
		return "", 0
	}
	group := groups[z.random.IntN(len(groups))]
	n := members[group] + 1
	if members[group] > 1 && z.random.IntN(2) == 0 {
		n = members[group] - 1
	}
	return group, n
}
