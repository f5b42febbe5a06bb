package promise

import (
	"bractum/core/plan"
	"bractum/core/studio"
)

// Mending goes on for some rounds, of so many steps of search each, and ends after so many in vain.
const (
	mendingEach = 32
	mostInVain  = 4
	leastRounds = 8
	mostRounds  = 100
)

// mended looks in some rounds for a plan in which those who are late by the order are so no more: round by round what
// has slack makes room for whoever it harms most or, once nobody is harmed, for the order itself.
func (q *Question) mended(t *trial, by Search, rounds int) (*trial, error) {
	inVain := 0
	for round := range rounds {
		mend, most := q.Order, studio.Minute(0)
		for _, o := range q.others(t.made) {
			if o.harm() > most {
				mend, most = o.Order, o.harm()
			}
		}
		if t.kept() || most == 0 && t.outcome.Late == 0 || inVain == mostInVain || stopped(by.Stop) ||
			stopped(q.Abandon) {
			break
		}
		made, err := plan.Make(
			guarded(t.doc, q.Order),
			t.counted,
			plan.Options{From: t.made, For: mend, Seed: int64(round),
				LatenessOnly: true, FixedLots: true, Steps: mendingEach, Stop: by.Stop, Abandon: q.Abandon},
		)
		if err != nil {
			return nil, err
		}
		better, err := q.as(t.doc, t.counted, made)
		if err != nil {
			return nil, err
		}
		if inVain++; better.better(t) {
			t, inVain = better, 0
			t.found = true
		}
	}
	return t, nil
}

func stopped(stop <-chan struct{}) bool {
	select {
	case <-stop:
		return true
	default:
		return false
	}
}
