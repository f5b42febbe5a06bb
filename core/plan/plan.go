// Package plan answers who does what when.
//
// A plan gives every task of every lot a start and an end: work a person who has
// the skills and the hours, tools and slots of places, waits the time that the
// drying clock or a machine asks for. What cannot be placed is unplaced, with the
// reason, and so is what needs it. What has happened stays as it happened: a
// started task keeps its person and its remainder is planned from now.
//
// How a plan is made, from the whole down to one spot:
//
//	problem     all that does not change while planning: jobs, their clusters, who could do them (problem.go)
//	cluster     jobs that windows tie to each other, and that are placed together or not at all (clusters.go)
//	schedule    where each job stands, and what people, places, tools and machines are taken up with (schedule.go)
//	wish        how a schedule is to be laid: which clusters first, which waits at their least, who for whom
//	search      many schedules, each laid after another wish than the best so far (search.go, neighbourhood.go)
//	repair      the schedule of an earlier plan, as far as it can still be, and the rest anew (repair.go)
//
// placeClusters takes clusters by urgency; placeOrGiveUp places one or says why not; placeCluster
// looks for room, later and later; placeClusterFrom places its jobs one after the other, and where
// one finds that another should have begun later (delayJob) places both anew; placeJob finds one
// job its spot (spotForWork, spotInMachine, spotForWait) when all that it needs is there
// (readinessOf) and occupies what it needs. A removal takes clusters out, with their followers,
// and can put them back as they were.
package plan

import (
	"cmp"
	"fmt"
	"maps"
	"slices"

	"bractum/core/count"
	"bractum/core/studio"
)

// Options of planning. The zero value asks for the constructive plan only.
type Options struct {
	// LatenessOnly compares plans by weighted lateness alone.
	LatenessOnly bool
	// FixedLots keeps lots as they were counted; else a search may divide those that
	// were gathered together otherwise, and weighs a mix once a day.
	FixedLots bool
	// For is an order that a search makes room for, as long as it is late: all else yields that can.
	For studio.ID
	// Proposes has a repair weigh once a day what is new since the plan From.
	Proposes bool
	// Steps of search after the constructive plan, from a seed.
	Steps int
	Seed  int64
	// From is a plan in force, which is repaired rather than made anew: what people have
	// been told stays as far as it can.
	From *studio.Plan
	// Without names neighbourhoods that the search is to do without: to measure what each
	// is worth.
	Without []string
	// Stop ends the search when it is closed, with the best found so far.
	Stop <-chan struct{}
	// Abandon ends everything when it is closed, the first plan too: what has no place by
	// then that is easily found is left without.
	Abandon <-chan struct{}
	// Report, if given, is told now and then how far the search is.
	Report func(Progress)
}

// Progress is how far a search is.
type Progress struct {
	Steps int
	Best  studio.Objective
}

// Make plans a valid document, with its counted lots, from its moment now on.
// A direct document needs no count.
func Make(doc *studio.Document, counted *count.Result, options Options) (*studio.Plan, error) {
	if err := known(options.Without); err != nil {
		return nil, err
	}
	p, err := newProblem(doc, counted)
	if err != nil {
		return nil, err
	}
	p.abandon = options.Abandon
	z := newSizes(newSearch(p, options))
	done := z.searched()
	out := z.found().finished()
	out.Steps, out.Seed = done, options.Seed
	out.Divided = slices.SortedFunc(
		maps.Values(z.divided),
		func(a, b studio.Division) int { return cmp.Compare(a.Group, b.Group) },
	)
	return out, nil
}

// UsualSteps is how many steps of search take a second or so: fewer, the more lots or tasks there
// are, so that a plan is the same wherever it is made.
func UsualSteps(doc *studio.Document, counted *count.Result) int {
	tasks := 4 * len(counted.Lots)
	if doc.Direct != nil {
		tasks = 0
		for _, l := range doc.Direct.Lots {
			tasks += len(l.Tasks)
		}
	}
	return min(20_000, 200_000/max(1, tasks))
}

// known refuses names of no neighbourhood, and a search without any.
func known(without []string) error {
	left := len(neighbourhoods)
	for i, name := range without {
		if !slices.ContainsFunc(neighbourhoods, func(n neighbourhood) bool { return n.name == name }) {
			return fmt.Errorf("there is no neighbourhood %q to do without", name)
		}
		if !slices.Contains(without[:i], name) {
			left--
		}
	}
	if left == 0 {
		return fmt.Errorf("a search needs a neighbourhood")
	}
	return nil
}
