package plan

import (
	"slices"
	"sync"

	"bractum/core/studio"
)

// finished writes a schedule as a plan, with what it means and is worth.
func (s *schedule) finished() *studio.Plan {
	out := &studio.Plan{
		Format:    studio.PlanFormat,
		Version:   studio.Version,
		Now:       s.now,
		Lots:      s.counted.Lots,
		Links:     s.counted.Links,
		Pegs:      s.counted.Pegs,
		Tasks:     make([]studio.Task, 0, len(s.jobs)),
		Unplaced:  []studio.Unplaced{},
		Orders:    []studio.Outcome{},
		Objective: s.worth(),
	}
	bounds := studio.Bounds{}
	var bounding sync.WaitGroup
	if out.Objective.Lateness > 0 {
		bounding.Go(func() { bounds = s.bound() })
	}
	causes := make([]because, len(s.jobs))
	for _, j := range s.jobs {
		t := &s.at[j.number]
		if t.state == gone {
			out.Unplaced = append(out.Unplaced, t.more.why.unplaced(j))
			continue
		}
		causes[j.number] = s.because(j)
		out.Tasks = append(out.Tasks, s.task(j, causes[j.number]))
	}
	for _, o := range s.orders {
		out.Orders = append(out.Orders, s.outcome(o, causes))
	}
	bounding.Wait()
	out.Bound, out.Bounds = &bounds.Least, &bounds
	return out
}

// task writes a placed job as a task of a plan.
func (s *schedule) task(j *job, why because) studio.Task {
	at := &s.at[j.number]
	t := studio.Task{
		ID:       j.ID,
		Lot:      j.lot,
		Step:     j.Step,
		State:    studio.TaskPlanned,
		Person:   s.personOf(at),
		Start:    at.start,
		End:      at.end,
		Pauses:   at.pauses(),
		Overtime: at.overtime,
		Setup:    studio.Minute(at.setup),
		Pieces:   j.Pieces,
		Narrow:   at.narrow,
		Overdue:  s.overdue(j),
		Cause:    why.cause,
	}
	if why.by != nil {
		t.CausedBy = why.by.ID
	} else if why.cause == studio.CauseGate {
		t.CausedBy = j.gate.ID
	}
	switch {
	case j.Done():
		t.State, t.Person, t.Cause, t.CausedBy = studio.TaskDone, j.Fact.Person, "", ""
	case j.running():
		t.State, t.Cause, t.CausedBy = studio.TaskStarted, studio.CauseNow, ""
	case j.Fact != nil:
		resume := at.start
		t.State, t.Start, t.Resume = j.Fact.State, j.Fact.Start, &resume
	case j.inAir() && at.end <= s.now && j.before.Done():
		t.State = studio.TaskDone
	}
	for _, kind := range at.tools() {
		t.Tools = append(t.Tools, s.doc.Tools[kind].ID)
	}
	if at.machine >= 0 {
		t.Load = &studio.Share{
			Machine: s.machines[at.machine].ID,
			Setting: j.Wait.Load.Setting,
			Slots:   j.Wait.Load.Slots,
		}
	}
	for i := range j.holds {
		span, _ := s.heldSpan(j, i)
		t.Holds = append(
			t.Holds,
			studio.Held{Place: j.Holds[i].Place, Slots: j.holds[i].slots, From: span.From, To: span.To},
		)
	}
	return t
}

// outcome says when an order is ready, how late that is, and which task its date
// hangs on.
func (s *schedule) outcome(want *order, causes []because) studio.Outcome {
	o := studio.Outcome{Order: want.ID, ReadyBy: want.ReadyBy}
	ready := s.readyOf(want)
	slack := want.ReadyBy - ready
	o.Late, o.Steps = max(0, -slack), steps(-slack)
	if ready == s.lateIfUnplaced() {
		return o
	}
	o.Ready, o.Slack = &ready, &slack
	var last *job
	for _, j := range want.last {
		if s.at[j.number].end == ready {
			last = j
			break
		}
	}
	if limit := s.limit(last, want, causes); limit != nil {
		o.Limit = limit.ID
	}
	return o
}

// limit walks the chain of causes back from the last task of an order and gives
// the one of its own that adds the most time: from the end of its own task
// before, work of other orders in between included.
func (s *schedule) limit(last *job, of *order, causes []because) *job {
	var longest *job
	var most studio.Minute
	for j := last; j != nil; {
		cause := s.cause(j, causes)
		for cause != nil && !of.needs(cause) {
			cause = s.cause(cause, causes)
		}
		from := s.now
		if cause != nil && s.at[cause.number].end < s.at[j.number].end {
			from = max(from, s.at[cause.number].end)
		}
		if added := s.at[j.number].end - from; added > most {
			longest, most = j, added
		}
		j = cause
	}
	return longest
}

// needs is true of a job that an order needs and that is not over.
func (o *order) needs(j *job) bool {
	if j.cluster == nil {
		return slices.Contains(o.last, j)
	}
	_, found := slices.BinarySearchFunc(
		o.feeding,
		j.cluster.number,
		func(c *cluster, n int) int { return c.number - n },
	)
	return found
}

// cause is the task that a task waited for, nil where the chain begins.
func (s *schedule) cause(j *job, causes []because) *job {
	by := causes[j.number].by
	if by == nil || s.at[by.number].state != placed || s.at[by.number].start >= s.at[j.number].start {
		return nil
	}
	return by
}
