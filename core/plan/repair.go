package plan

import (
	"slices"

	"bractum/core/count"
	"bractum/core/studio"
)

// A repair begins with a schedule as much like a plan in force as what has happened
// allows, and moves what people have been told of only where that is worth more than it
// disturbs them.

// moment is how many tasks a search lays that nobody waits for: some tenths of a second.
const moment = 200_000

// mending is how many tasks a search lays by which a repair makes good that orders are ready later
// than they were; where that is not worth leastMending steps, none is made.
const (
	mending      = 30_000
	leastMending = 16
)

// Repair plans a valid document with its counted lots from a plan in force, which may be
// nil, at once: with no more search than mends what made an order later in a plan that is not large.
// It ends early when it is abandoned, as Options have it.
func Repair(
	doc *studio.Document,
	counted *count.Result,
	from *studio.Plan,
	abandon <-chan struct{},
) (*studio.Plan, error) {
	return repaired(doc, counted, Options{From: from, FixedLots: true, Abandon: abandon})
}

// Propose repairs a plan as Repair does for what nobody was told yet: what is new and weighed twice on a day
// is weighed once, where nothing is later by it.
func Propose(
	doc *studio.Document,
	counted *count.Result,
	from *studio.Plan,
	abandon <-chan struct{},
) (*studio.Plan, error) {
	return repaired(doc, counted, Options{From: from, Proposes: true, Abandon: abandon})
}

func repaired(doc *studio.Document, counted *count.Result, options Options) (*studio.Plan, error) {
	from := options.From
	made, err := Make(doc, counted, options)
	if err != nil || from == nil || !Fell(from, made) {
		return made, err
	}
	if options.Steps = mending / max(1, len(made.Tasks)); options.Steps < leastMending {
		return made, nil
	}
	return Make(doc, counted, options)
}

// Fell is true where an order that was to be ready in one plan is so much later in another, late only there, or
// never ready, that something better should be looked for.
func Fell(before, after *studio.Plan) bool {
	was := map[studio.ID]studio.Minute{}
	for _, o := range before.Orders {
		if o.Ready != nil {
			was[o.Order] = *o.Ready
		}
	}
	return slices.ContainsFunc(after.Orders, func(o studio.Outcome) bool {
		ready, known := was[o.Order]
		return known && (o.Ready == nil || hasFallen(ready, *o.Ready, o.ReadyBy))
	})
}

// Mends is true where a plan is better than another that was made from one in force: by what plans are
// compared by, or of as little lateness with no order fallen where some had.
func Mends(from, other, better *studio.Plan) bool {
	if better.Objective.Lateness != other.Objective.Lateness {
		return better.Objective.Lateness < other.Objective.Lateness
	}
	if fell := Fell(from, better); fell != Fell(from, other) {
		return !fell
	}
	return better.Objective.Compare(other.Objective) < 0
}

// Improve repairs a plan in force and searches on from there for a moment, or until it is
// told to stop: the same document and plan give the same, unless it is.
func Improve(
	doc *studio.Document,
	counted *count.Result,
	from *studio.Plan,
	stop <-chan struct{},
) (*studio.Plan, error) {
	steps := moment / max(1, len(from.Tasks))
	return Make(doc, counted, Options{From: from, FixedLots: true, Steps: steps, Stop: stop, Abandon: stop})
}

// loyalty is how many minutes later than others the person whom a plan gave a task may be
// done with it, and still keep it.
const loyalty studio.Minute = 240

// disturbed is how much disturbance of what people were told, in the minutes of the
// objective, weighs as much as one step of lateness of an order of importance 1.
const disturbed = 600

// safeSlack is how much slack keeps an order safe, and thinness how many minutes of
// disturbance a minute less of it is worth to an order of importance 1: a tenth of what a
// minute late is.
const (
	safeSlack = 480
	thinness  = 4
)

// bother is how many minutes of disturbance it is worth to leave alone what people were
// told of a task. More than mostMoved percent of what they were told is to change only
// where each change more makes up for tooMuch steps of lateness.
const (
	bother    = 120
	mostMoved = 40
	tooMuch   = 10
)

// noteWhatWasTold takes from a plan what people have been told for the next two days, and when orders
// were to be ready.
func (p *problem) noteWhatWasTold(from *studio.Plan) {
	p.told, p.was = make([]*studio.Task, len(p.jobs)), p.readyIn(from)
	for i := range from.Tasks {
		t := &from.Tasks[i]
		if j := p.byID[t.ID]; j != nil && j.Fact == nil && t.Person != "" && t.Start >= p.now &&
			t.Start < p.now+studio.SeenAhead {
			p.told[j.number] = t
		}
	}
}

// noteWhatIsInVain takes from a plan what it looked for as far as effort allowed. A repair is to be
// there at once, and does not look as far again; a search does.
func (p *problem) noteWhatIsInVain(from *studio.Plan) {
	p.vain = make([]bool, len(p.clusters))
	for i := range from.Unplaced {
		u := &from.Unplaced[i]
		if j := p.byID[u.Task]; u.Limited && j != nil && j.cluster != nil {
			p.vain[j.cluster.number] = true
		}
	}
}

// noteWhatIsLeftOutBy takes from a first schedule what it found no place for: a search tries
// that again, and not as far each time.
func (p *problem) noteWhatIsLeftOutBy(s *schedule) {
	p.vain = make([]bool, len(p.clusters))
	for _, j := range p.jobs {
		if j.cluster != nil && s.at[j.number].state == gone {
			p.vain[j.cluster.number] = true
		}
	}
}

// repairFrom lays what a plan has as it has it, and the rest about so.
func (s *schedule) repairFrom(from *studio.Plan) { s.placeRemoved(from, s.keepPlaced(from)) }

// keepPlaced lays every cluster exactly as a plan has it, as far as that can still be, and answers
// what cannot, with all that the plan does not know or has no place for.
func (s *schedule) keepPlaced(from *studio.Plan) *removal {
	known := make([]*studio.Task, len(s.jobs))
	people := map[studio.ID]int{}
	for i := range s.doc.People {
		people[s.doc.People[i].ID] = i + 1
	}
	for i := range from.Tasks {
		t := &from.Tasks[i]
		j := s.byID[t.ID]
		if j == nil || j.cluster == nil {
			continue
		}
		known[j.number] = t
		c := j.cluster
		s.wish.key[c.number] = min(s.wish.key[c.number], t.Begin())
		if j.Fact == nil && !j.inAir() {
			s.wish.prefer[j.number], s.wish.notBefore[j.number] = people[t.Person], t.Begin()
		}
		if j.wishes {
			end, ok := s.endOfWait(j, t.Start, j.least, j.Wait.Least)
			s.wish.hurried[j.number] = ok && end >= t.End
		}
		s.wish.overtime[c.number] = s.wish.overtime[c.number] || t.Overtime
	}
	s.wish.as = known
	s.placeClusters(s.clusters)
	s.wish.as = nil
	out := newRemoval(s)
	for _, c := range s.clusters {
		if s.at[c.jobs[0].number].state == open {
			out.in[c.number] = true
			out.clusters = append(out.clusters, c)
		}
	}
	return out
}

// placeRemoved lays what a plan could not keep, and all that needs it, about when it was to be and by
// the same people if they can.
func (s *schedule) placeRemoved(from *studio.Plan, out *removal) {
	if len(out.clusters) == 0 {
		return
	}
	out.addFollowers()
	out.addAffected() // and what is now charged otherwise

	// It is to be there at once: what comes together hardest is not tried for long.
	s.wish.loyalty, s.wish.patience, s.wish.thrift, s.wish.tries = loyalty, 0, 0, 0
	s.placeClusters(out.clusters)
	s.wish.loyalty, s.wish.patience, s.wish.thrift, s.wish.tries = 0, usualPatience, usualThrift, triesEach
	s.removeWhatBlocks()
	s.placeUntoldAnew(from)
}

// leaves is true where a plan has no place for any of some clusters.
func leaves(from *studio.Plan, clusters []*cluster) bool {
	left := map[studio.ID]bool{}
	for i := range from.Unplaced {
		left[from.Unplaced[i].Task] = true
	}
	for _, c := range clusters {
		if slices.ContainsFunc(c.jobs, func(j *job) bool { return !left[j.ID] }) {
			return false
		}
	}
	return true
}

// removeWhatBlocks lays anew what was laid as the plan has it where something that lies in a place
// already stays for longer now than it was to.
func (s *schedule) removeWhatBlocks() {
	const most = 8 // what is laid anew may in turn free something later
	for range most {
		out := newRemoval(s)
		for _, j := range s.jobs {
			for i := 0; j.lies && i < len(j.holds); i++ {
				span, _ := s.heldSpan(j, i)
				s.inTheWay(j.holds[i].place, studio.Span{From: max(span.From, s.now), To: span.To}, out)
			}
		}
		if len(out.clusters) == 0 {
			return
		}
		out.addFollowers()
		out.addAffected()
		s.placeClusters(out.clusters)
	}
}

// inTheWay takes out what is to take a place over a span in which that is overfull.
func (s *schedule) inTheWay(place int, span studio.Span, out *removal) {
	if _, full := s.rooms[place].blocked(span, 0); !full {
		return
	}
	for _, j := range s.holding[place] {
		if j.lies || j.cluster == nil || s.at[j.number].state != placed {
			continue
		}
		for i := range j.holds {
			if held, _ := s.heldSpan(j, i); j.holds[i].place == place && held.From < span.To && held.To > span.From {
				out.add(j.cluster)
				break
			}
		}
	}
}

// readyIn is when orders are ready in a plan, zero where they never are.
func (p *problem) readyIn(from *studio.Plan) []studio.Minute {
	ready := map[studio.ID]studio.Minute{}
	for _, o := range from.Orders {
		if o.Ready != nil {
			ready[o.Order] = *o.Ready
		}
	}
	times := make([]studio.Minute, len(p.orders))
	for n, o := range p.orders {
		times[n] = ready[o.ID]
	}
	return times
}

// placeUntoldAnew lays all that people were not told of anew, towards when orders were ready, and
// keeps that if it is better; where nothing is later than it was, it leaves things alone.
func (s *schedule) placeUntoldAnew(from *studio.Plan) {
	was, left := s.worth().Lateness, s.leftOutCount()
	if was <= from.Objective.Lateness {
		return
	}
	out := newRemoval(s)
	for _, c := range s.clusters {
		if c.begun == 0 && !slices.ContainsFunc(c.jobs, s.toldOf) {
			out.add(c)
		}
	}
	out.addFollowers()
	out.addAffected()
	latest := s.latestStartsOfClusters(s.dueTimes(s.readyIn(from)), usualQueue)
	for _, c := range out.clusters {
		s.wish.key[c.number] = latest[c.number]
	}
	if !s.placeClustersWithin(out.clusters, was) || out.leavesBroken() {
		out.restore()
	} else if now := s.worth().Lateness; now > was || now == was && s.leftOutCount() > left {
		out.restore()
	}
}

// placeClusterAsKept places a cluster exactly as a plan has it; false where that cannot be, or the
// plan does not have it.
func (s *schedule) placeClusterAsKept(c *cluster) bool {
	if s.missingInput(c) != nil {
		return false
	}
	for _, before := range c.previous {
		if s.at[before.jobs[len(before.jobs)-1].number].state == open {
			return false
		}
	}
	for n, j := range c.jobs {
		t := s.wish.as[j.number]
		if t != nil && s.placeJob(j, s.wish.notBefore[j.number], false) == nil {
			if at := &s.at[j.number]; j.Fact != nil ||
				at.start == t.Start && at.end == t.End && s.personOf(at) == t.Person {
				continue
			}
			s.removeJob(j)
		}
		for _, placed := range slices.Backward(c.jobs[:n]) {
			s.removeJob(placed)
		}
		return false
	}
	return true
}

// toldOf is true of a job that people were told of.
func (s *schedule) toldOf(j *job) bool { return s.told != nil && s.told[j.number] != nil }

// forgetting is of what people were told of one task in so many, drawn by a salt; of none
// where that is 0.
type forgetting struct{ one, salt uint32 }

func (f forgetting) some(j *job) bool {
	return f.one > 0 && (uint32(j.number)^f.salt)*2654435761>>16%f.one == 0
}

// wishAsTold has a job that people were told of go back to where they were told, if it can.
func (s *schedule) wishAsTold(j *job) {
	if !s.toldOf(j) || s.wish.forgets.some(j) {
		return
	}
	t := s.told[j.number]
	s.wish.notBefore[j.number] = t.Start
	for i, m := range s.makers {
		if m.ID == t.Person {
			s.wish.prefer[j.number] = i + 1
		}
	}
}

// fallen is how many minutes later than it was an order of importance 1 is ready for one of disturbance,
// and risen how many earlier.
const (
	fallen = 10
	risen  = 100
)

// movedOrders is what it is worth, in minutes of disturbance, that orders are ready later than they were in
// the plan that is repaired; less than nothing where they are ready earlier.
func (s *schedule) movedOrders() (sum int64) {
	for n, o := range s.orders {
		if s.was[n] == 0 {
			continue
		}
		if later := int64(s.readyOf(o) - s.was[n]); later > 0 {
			sum += o.Importance * later / fallen
		} else {
			sum += o.Importance * later / risen
		}
	}
	return max(sum, 1-disturbed) // no gain makes up for lateness
}

// fell is true where some order is ready so much later than it was that it should not stay so.
func (s *schedule) fell() bool {
	for n, o := range s.orders {
		if s.was[n] > 0 && hasFallen(s.was[n], s.readyOf(o), o.ReadyBy) {
			return true
		}
	}
	return false
}

// mostFall is how much later than it was an order may be ready for nothing to be laid anew, as long as it is in time.
const mostFall = 60

// hasFallen is true of an order that is to be ready by a minute, was, and is.
func hasFallen(was, is, by studio.Minute) bool { return is > was+mostFall || was <= by && by < is }

// unrestOfPeople is how far what people were told is off, as disturbance is reckoned, and in the
// same minutes how thin the slack of orders is, and how far orders are later than they were; nothing
// where no plan is repaired.
func (s *schedule) unrestOfPeople() (sum int64) {
	if s.told == nil {
		return 0
	}
	told, moved := int64(0), int64(0)
	for n, t := range s.told {
		if t == nil {
			continue
		}
		told++
		if off := s.departure(s.jobs[n], t.Start, t.Person); off > 0 {
			moved++
			sum += off + bother
		}
	}
	return sum + s.thinSlack() + s.movedOrders() + disturbed*tooMuch*max(0, moved-told*mostMoved/100)
}

// thinSlack is by how much the slack of orders falls short of what keeps them safe from small
// things that happen, by importance, in minutes of disturbance.
func (s *schedule) thinSlack() (sum int64) {
	for _, o := range s.orders {
		sum += thinness * o.Importance * int64(max(0, s.readyOf(o)+safeSlack-max(o.ReadyBy, s.now)))
	}
	return sum
}
