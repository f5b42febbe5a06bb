package plan

import "bractum/core/studio"

// fault is why a job cannot be placed: for good, or as long as another job begins
// before a minute.
type fault struct {
	kind       faultKind
	of         *job // that cannot be placed
	by         *job // what stands in the way
	gate       *studio.Gate
	place      *studio.Place
	have, most studio.Minute
	slots      string // of holds that are too many together
	person     string // who cannot do it as it is pinned
	pinned     bool   // it has a pin
	limited    bool   // a place was looked for as far as effort allowed, and no further
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
	offWork  // when it is pinned to, its person is: until have
	onBreak  // the same
	atWork   // something else that stays, the same
	tooShort // is the time from then until have for the minutes of most that it takes in one go
	stalls
	missing  // something it needs is unplaced
	together // with what is unplaced
	spared   // no order needs it, and what orders need could not be placed with it
	untried  // all effort was spent before
	overfull // together with what is held at its start it takes more than a place has
)

// again is a fault of its own that says the same.
func (f *fault) again() *fault {
	c := *f
	return &c
}

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
	case crowded, overfull:
		return studio.NoPlace
	case spared:
		return studio.LeftOut
	case shut:
		return studio.GateShut
	case pinnedEarly, offWork, onBreak, atWork, tooShort:
		return studio.PinBroken
	case untried:
		return studio.Untried
	}
	return studio.AfterGone
}

// unplaced is a job that a fault leaves without a place.
func (f *fault) unplaced(j *job) studio.Unplaced {
	u := studio.Unplaced{Task: j.ID, Lot: j.lot, Step: j.Step, Reason: f.reason(), Limited: f.limited}
	u.Case, u.With = f.about()
	if f.kind == pinnedEarly || f.kind == overtaken {
		u.Earliest = &f.have
	}
	if f.by != nil {
		u.By = f.by.ID
	}
	return u
}

// about says what would be needed, or what stands in the way.
func (f *fault) about() (code string, with studio.With) {
	switch f.kind {
	case unskilled:
		return "skill", studio.With{"skills": skills(f.of)}
	case outlasts:
		return "outlasts", nil
	case noMachine:
		return "load", studio.With{"machines": f.of.Wait.Load.AnyOf, "slots": f.of.Wait.Load.Slots}
	case neverDry:
		return "before", nil
	case stalls:
		return "itself", nil
	case overtaken, follower:
		return "after", studio.With{"beginsMinute": f.have, "lastMinute": f.most}
	case spoils:
		return "keeps", studio.With{"liesMinutes": f.have, "keepsMinutes": f.most}
	case crowded:
		return "slots", studio.With{"place": f.place.Name, "needs": f.have, "has": f.place.Slots}
	case overfull:
		return "together", studio.With{"place": f.place.Name, "slots": f.slots, "has": f.place.Slots}
	case shut:
		return "gate", studio.With{"gate": f.gate.Name}
	case pinnedEarly:
		return "early", studio.With{"pinnedMinute": f.most, "beginsMinute": f.have}
	case offWork:
		return "off", studio.With{"person": f.person, "untilMinute": f.have}
	case onBreak:
		return "break", studio.With{"person": f.person, "untilMinute": f.have}
	case atWork:
		return "busy", studio.With{"person": f.person, "untilMinute": f.have}
	case tooShort:
		return "short", studio.With{"person": f.person, "needsMinutes": f.most, "untilMinute": f.have}
	}
	return "", nil
}

func skills(j *job) []string {
	var all []string
	for _, e := range j.Work {
		all = append(all, e.Skill)
	}
	return all
}
