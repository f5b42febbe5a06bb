// Package situation keeps what the facts of a studio come to: the count, the plan in
// force repaired for what has happened since, what the lead's wishes would make of it,
// and the plans that await a word.
//
// A Worker publishes one Situation after another, whole, and nobody ever waits for it:
//
//   - As soon as something is recorded, the facts are read in one transaction at journal
//     number N and published with the plan of before carried on to them (Behind is true).
//   - One goroutine then counts and plans for that N and minute, and publishes what comes
//     of it. What is recorded meanwhile is carried on, and worked out next.
//   - Where orders have become later, it looks for something better as long as nothing
//     else happens, and publishes that.
//
// docs/decisions/situation.md says why.
package situation

import (
	"sync"
	"sync/atomic"

	"bractum/core/studio"
	"bractum/store"
)

// Moment is what a situation is worked out for: a journal number and a minute.
type Moment struct {
	N   int64
	Now studio.Minute
}

// Situation is a studio at one moment. It is never changed once it is published.
type Situation struct {
	*store.Snapshot
	// Planned is the moment that counts and plans answer.
	Planned Moment
	Version int64 // of the plan in force
	InForce *Answer
	Wished  *Answer // nil where nothing awaits acceptance
	Offers  []Offer
	// Kept is where what is made of this situation may be kept, by name, for as long as it
	// is the one that is published; KeptViews is how many names were asked for.
	Kept      *sync.Map
	KeptViews *atomic.Int64

	taken int64 // the base of the latest plan that was put in force and taken from the file
}

// Offer is a plan that was searched for, or gone back to, and awaits the lead's word.
type Offer struct {
	store.Offer
	Answer *Answer
}

// Moment is the one that the facts are of.
func (s *Situation) Moment() Moment { return Moment{s.N, s.Now} }

// Behind is true while counts and plans are of an earlier moment than the facts, or a plan
// that is offered is not read yet.
func (s *Situation) Behind() bool {
	return s.Planned != s.Moment() || len(s.Offers) != len(s.Snapshot.Offers)
}

// Latest is the answer to all wishes, accepted or not.
func (s *Situation) Latest() *Answer {
	if s.Wished != nil {
		return s.Wished
	}
	return s.InForce
}

// Waits is true where a plan awaits the lead's word.
func (s *Situation) Waits() bool { return s.Wished != nil || len(s.Offers) > 0 }

// on is the situation with facts of a later moment: what was worked out is carried on.
func (s *Situation) on(facts *store.Snapshot) *Situation {
	next := &Situation{Snapshot: facts, Planned: s.Planned, Version: s.Version, taken: s.taken, InForce: s.InForce.carried(facts.Accepted, facts.Calendar), Kept: &sync.Map{}, KeptViews: &atomic.Int64{}}
	if facts.Wished != nil {
		next.Wished = s.Latest().carried(facts.Wished, facts.Calendar)
	}
	for _, head := range facts.Offers {
		for _, known := range s.Offers {
			if known.ID == head.ID {
				next.Offers = append(next.Offers, Offer{known.Offer, known.Answer.carried(next.Latest().Doc, facts.Calendar)})
			}
		}
	}
	return next
}
