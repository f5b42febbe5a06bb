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
	"maps"
	"slices"

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
	// Falls are the orders that lost slack, and why, the latest first.
	Falls []studio.Fall
	// Changed is, by topic, the journal number at which something about it was recorded
	// last; Any is about everything.
	Changed map[string]int64
	// Worked counts what was worked out: it is another when counts, plans or offers are.
	Worked int64

	taken int64 // the base of the latest plan that was put in force and taken from the file
}

// Offer is a plan that was searched for, or gone back to, and awaits the lead's word.
type Offer struct {
	store.Offer
	Answer *Answer
}

// Moment is the one that the facts are of.
func (s *Situation) Moment() Moment { return Moment{N: s.N, Now: s.Now} }

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

// answersAs is true where counts, plans and offers are those of another situation.
func (s *Situation) answersAs(other *Situation) bool {
	same := func(a, b *Answer) bool { return a == b || a != nil && b != nil && a.settled == b.settled }
	return s.Version == other.Version && same(s.InForce, other.InForce) && same(s.Wished, other.Wished) &&
		len(s.Falls) == len(other.Falls) && (len(s.Falls) == 0 || studio.Shared(s.Falls, other.Falls)) &&
		slices.EqualFunc(s.Offers, other.Offers,
			func(a, b Offer) bool { return a.ID == b.ID && same(a.Answer, b.Answer) })
}

// Any is the topic of what is about everything.
const Any = "any"

// ChangedSince is the latest journal number at which something about one of some topics was
// recorded.
func (s *Situation) ChangedSince(topics []string) int64 {
	last := s.Changed[Any]
	for _, topic := range topics {
		last = max(last, s.Changed[topic])
	}
	return last
}

// noted is the situation with a note that something about topics was recorded by now.
func (s *Situation) noted(before *Situation, topics []string) *Situation {
	s.Changed = map[string]int64{Any: s.N}
	if before == nil {
		return s
	}
	if s.Changed = maps.Clone(before.Changed); s.N > before.N && len(topics) == 0 {
		topics = []string{Any} // by somebody else
	}
	for _, topic := range topics {
		s.Changed[topic] = s.N
	}
	return s
}

// on is the situation with facts of a later moment: what was worked out is carried on.
func (s *Situation) on(facts *store.Snapshot) *Situation {
	next := &Situation{Snapshot: facts, Planned: s.Planned, Version: s.Version, Changed: s.Changed, Worked: s.Worked,
		taken: s.taken, Falls: s.Falls, InForce: s.InForce.carried(facts.Accepted, facts.Calendar)}
	if facts.Wished != nil {
		next.Wished = s.Latest().carried(facts.Wished, facts.Calendar)
	}
	for _, head := range facts.Offers {
		for _, known := range s.Offers {
			if known.ID == head.ID {
				next.Offers = append(next.Offers, Offer{Offer: known.Offer,
					Answer: known.Answer.carried(next.Latest().Doc, facts.Calendar)})
			}
		}
	}
	return next
}
