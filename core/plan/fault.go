package plan

import (
	"fmt"

	"bractum/core/studio"
)

// fault is why a job cannot be placed: for good, or as long as another job begins
// before a minute.
type fault struct {
	kind       faultKind
	of         *job // that cannot be placed
	by         *job // what stands in the way
	gate       *studio.Gate
	place      *studio.Place
	have, most studio.Minute
	pinned     bool // it has a pin
	limited    bool // a place was looked for as far as effort allowed, and no further
	delay      *job
	to         studio.Minute
}

type faultKind uint8

const (
	noFault faultKind = iota
	beaten            // it could only be later than where it could be with somebody else
	unskilled
	noTime
	outlasts // its window
	noTool
	noMachine
	neverDry
	overtaken // it cannot follow in time, or wait no longer
	follower  // what follows stands
	spoils    // it would lie for too long
	crowded
	shut
	pinnedEarly
	pinnedAway
	stalls
	missing  // something it needs is unplaced
	together // with what is unplaced
	spared   // no order needs it, and what orders need could not be placed with it
	untried  // all effort was spent before
)

// reason is the fault in the words of the format.
func (f *fault) reason() studio.Reason {
	switch {
	case f.pinned && (f.kind == unskilled || f.kind == noTime || f.kind == noTool || f.kind == outlasts):
		return studio.PinBroken
	case f.kind == outlasts:
		return studio.TooLate
	}
	switch f.kind {
	case unskilled:
		return studio.NoSkill
	case noTime:
		return studio.NoHours
	case noTool:
		return studio.NoTool
	case noMachine:
		return studio.NoMachine
	case neverDry, stalls:
		return studio.Stalled
	case overtaken, follower, spoils:
		return studio.TooLate
	case crowded:
		return studio.NoPlace
	case spared:
		return studio.LeftOut
	case shut:
		return studio.GateShut
	case pinnedEarly, pinnedAway:
		return studio.PinBroken
	case untried:
		return studio.Untried
	}
	return studio.AfterGone
}

// unplaced is a job that a fault leaves without a place.
func (f *fault) unplaced(j *job) studio.Unplaced {
	u := studio.Unplaced{Task: j.ID, Lot: j.lot, Step: j.Step, Reason: f.reason(), Detail: f.detail(),
		Limited: f.limited}
	if f.kind == pinnedEarly || f.kind == overtaken {
		u.Earliest = &f.have
	}
	if f.by != nil {
		u.By = f.by.ID
	}
	return u
}

// detail says what would be needed, or what stands in the way.
func (f *fault) detail() string {
	switch f.kind {
	case unskilled:
		return fmt.Sprintf("nobody has all of %q", skills(f.of))
	case noTime:
		return "no stretch of working time is long enough before the horizon"
	case outlasts:
		return "takes longer than what is done first in it may wait"
	case noTool:
		return "the tools it needs stay in use"
	case noMachine:
		return fmt.Sprintf(
			"none of %q has room for %d slots before the horizon",
			f.of.Wait.Load.AnyOf,
			f.of.Wait.Load.Slots,
		)
	case neverDry:
		return fmt.Sprintf("what %q made never gets dry enough in the expected air", f.by.ID)
	case stalls:
		return "would not be over before the horizon in the expected air"
	case overtaken, follower:
		return fmt.Sprintf("could begin at %d, %d is the last minute after %q", f.have, f.most, f.by.ID)
	case spoils:
		return fmt.Sprintf("keeps for %d min and would lie for %d, until %q has ended", f.most, f.have, f.by.ID)
	case crowded:
		return fmt.Sprintf("needs %d slots of %q, which has %d and stays full", f.have, f.place.Name, f.place.Slots)
	case shut:
		return fmt.Sprintf("%q has no date before the horizon", f.gate.Name)
	case pinnedEarly:
		return fmt.Sprintf("it is pinned to %d and can begin at %d at the earliest", f.most, f.have)
	case pinnedAway:
		return fmt.Sprintf("it is pinned to %d, when its person or tools are not free", f.most)
	case spared:
		return "no order needs it, and what orders need is placed better without it"
	case untried:
		return "there is more to plan than can be planned at once"
	case missing:
		return fmt.Sprintf("%q is unplaced", f.by.ID)
	}
	return fmt.Sprintf("goes with %q, which is unplaced", f.by.ID)
}

func skills(j *job) []string {
	var all []string
	for _, e := range j.Work {
		all = append(all, e.Skill)
	}
	return all
}
