package plan

import "runtime"

// No laying goes on for longer than its effort allows, whatever it is given: what is hard to
// bring together gets no more tries once that is spent, and what can be placed at once still
// is, until twice as much is spent. Effort is counted and not timed, so that the same problem gives the same plan.

// effort is what a laying has spent, in gaps of makers' time that were looked at.
type effort struct {
	spent, most int64
	ends        int64 // of what is laid now: most, or sooner
	last        int64 // after which nothing is tried any more
	abandoned   bool
}

// What a laying may spend: so much, and so much more for each of its jobs. Seasons at 75 to
// 105 percent spend 10 to 13 for a job, never more than half of what they may
// (TestSeasonsAreLaidWithinHalfOfTheirEffort); to spend it all takes some tenths of a second.
const (
	effortEach  = 60
	effortLeast = 300_000
	effortOfTry = 4
	// effortBeyond is how many times as much is spent on what can be placed at once.
	effortBeyond = 2
)

// courteous is after how much effort, some milliseconds, planning lets others have the
// processor: who asks for what is planned already does not wait until it is planned anew.
const courteous = 8192

func (e *effort) spend(n int64) {
	if e.spent += n; e.spent%courteous < n {
		runtime.Gosched()
	}
}

func (e *effort) begin(clusters []*cluster) {
	e.spent, e.most = 0, effortLeast
	for _, c := range clusters {
		e.most += effortEach * int64(len(c.jobs))
	}
	e.ends, e.last = e.most, effortBeyond*e.most
}

// limitEffortFor is when a cluster is laid: one that was looked for in vain before spends no more than
// is usual for its jobs.
func (s *schedule) limitEffortFor(c *cluster) {
	s.effort.ends = s.effort.most
	if s.vain != nil && s.vain[c.number] {
		s.effort.ends = min(s.effort.most, s.effort.spent+effortEach*int64(len(c.jobs)))
	}
}

// spentOut is true once a laying has spent so much that nothing more is tried at all.
func (s *schedule) spentOut() bool { return s.exhausted() && s.effort.spent > s.effort.last }

// exhausted is true once a laying has spent what it may for what it is at, or everything is to end.
func (s *schedule) exhausted() bool {
	if s.effort.spent > s.effort.ends || s.effort.abandoned {
		return true
	}
	if !s.isAbandoned() {
		return false
	}
	s.effort.abandoned = true
	s.effort.last = min(s.effort.last, s.effort.spent+effortLeast)
	return true
}

// isAbandoned is true once everything is to end.
func (p *problem) isAbandoned() bool {
	select {
	case <-p.abandon:
		return true
	default:
		return false
	}
}
