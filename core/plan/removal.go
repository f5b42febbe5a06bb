package plan

import (
	"slices"

	"bractum/core/studio"
)

// removal is a set of clusters that have been taken out of a schedule, and what it needs
// to put them back as they were.
type removal struct {
	s        *schedule
	in       []bool // by number of cluster
	clusters []*cluster
	follows  bool // what needs what is taken out is taken out too
	all      bool // everything is taken out at once
	kept     standing
	jobs     []saved
	lying    []lying
	overtime []bool
}

// lying is what lay in a place already, and until when it was to.
type lying struct {
	job  *job
	hold int
	to   studio.Minute
}

type saved struct {
	job     *job
	at      spot
	hurried bool
}

func newRemoval(s *schedule) *removal {
	return &removal{s: s, in: make([]bool, len(s.clusters))}
}

// begin forgets what was removed before.
func (r *removal) begin() {
	for _, c := range r.clusters {
		r.in[c.number] = false
	}
	r.follows, r.all = false, false
	r.clusters, r.jobs, r.lying, r.overtime = r.clusters[:0], r.jobs[:0], r.lying[:0], r.overtime[:0]
}

// add takes a cluster out of the schedule and, with it, what shares its loads.
func (r *removal) add(c *cluster) {
	if c == nil || r.in[c.number] {
		return
	}
	r.in[c.number] = true
	r.clusters = append(r.clusters, c)
	r.overtime = append(r.overtime, r.s.wish.overtime[c.number])
	r.s.wish.key[c.number], r.s.wish.shuffled[c.number] = c.latest, nil
	for _, j := range c.jobs {
		for _, h := range j.ends {
			for i := range h.holds {
				if h.lies && slices.Contains(h.holds[i].until, j) {
					span, _ := r.s.heldSpan(h, i)
					r.lying = append(r.lying, lying{job: h, hold: i, to: span.To})
				}
			}
		}
	}
	var along []*job
	for _, j := range slices.Backward(c.jobs) {
		r.s.wish.prefer[j.number], r.s.wish.notBefore[j.number], r.s.wish.leave[j.number] = 0, 0, false
		r.s.wishAsTold(j)
		at := r.s.at[j.number]
		r.jobs = append(r.jobs, saved{job: j, at: at, hurried: r.s.wish.hurried[j.number]})
		if r.all {
			continue
		}
		if at.state != placed {
			r.s.removeIfPlaced(j)
			continue
		}
		if at.machine >= 0 && !j.running() {
			along = append(along, r.s.machines[at.machine].loadFrom(at.start).jobs...)
		}
		r.s.removeJob(j)
	}
	for _, j := range along {
		r.add(j.cluster)
	}
}

// addAll takes out everything: what has happened is all that is left.
func (r *removal) addAll() {
	r.follows, r.all = true, true
	for _, c := range r.s.clusters {
		r.add(c)
	}
	spare := r.kept.at
	if spare == nil {
		spare = make([]spot, len(r.s.at))
	}
	r.kept, r.s.standing = r.s.standing, standing{at: spare}
	r.s.clear()
}

// addFollowers takes out, too, all that needs what was taken out; without it, what follows
// stays where it is.
func (r *removal) addFollowers() {
	r.follows = true
	for i := 0; i < len(r.clusters); i++ {
		for _, next := range r.clusters[i].next {
			r.add(next)
		}
	}
}

// addAffected takes out, too, what can be placed only when what was taken out is, and whose
// colour setup is another without what was taken out.
func (r *removal) addAffected() {
	for i := 0; i < len(r.clusters); i++ {
		for _, next := range r.clusters[i].next {
			if r.s.at[next.jobs[len(next.jobs)-1].number].state == gone || r.s.at[next.jobs[0].number].state == gone {
				r.add(next)
			}
		}
	}
	if len(r.s.doc.Families) == 0 {
		return
	}
	for again := true; again; { // taking out what one maker does takes from others
		again = false
		for _, m := range r.s.makers {
			for j := r.s.mischarged(m); j != nil; j = r.s.mischarged(m) {
				again = true
				r.addWhereItIs(j.cluster)
				if r.follows {
					r.addFollowers()
				}
			}
		}
	}
}

// addWhereItIs takes out a cluster to be laid first, where it is.
func (r *removal) addWhereItIs(c *cluster) {
	was := make([]spot, len(c.jobs))
	for i, j := range c.jobs {
		was[i] = r.s.at[j.number]
	}
	r.add(c)
	r.s.wish.key[c.number] = -1 << 40
	for i, j := range c.jobs {
		if was[i].maker >= 0 {
			r.s.wish.prefer[j.number], r.s.wish.notBefore[j.number] = int(was[i].maker)+1, was[i].start
		}
	}
}

// restore puts back what was taken out as it was, in place of what was laid since.
func (r *removal) restore() {
	for i, c := range r.clusters {
		r.s.wish.overtime[c.number] = r.overtime[i]
	}
	for _, was := range r.jobs {
		r.s.wish.hurried[was.job.number] = was.hurried
	}
	if r.all {
		r.kept, r.s.standing = r.s.standing, r.kept
		return
	}
	for _, c := range r.clusters {
		for _, j := range slices.Backward(c.jobs) {
			r.s.removeIfPlaced(j)
		}
	}
	for _, was := range slices.Backward(r.jobs) {
		r.s.putJobBack(was.job, was.at)
	}
}

// leavesBroken is true where something is left out that what is placed needs, or what lies in a
// place now lies there for longer than it has room.
func (r *removal) leavesBroken() bool {
	for _, l := range r.lying {
		span, _ := r.s.heldSpan(l.job, l.hold)
		if _, full := r.s.rooms[l.job.holds[l.hold].place].blocked(studio.Span{From: l.to, To: span.To}, 0); full &&
			span.To > l.to {
			return true
		}
	}
	for _, c := range r.clusters {
		for _, j := range c.jobs {
			if r.s.at[j.number].state != gone {
				continue
			}
			if r.s.endsAnotherHold(j) {
				return true
			}
			stays := false
			j.followers(func(k *job) { stays = stays || k.Fact == nil && r.s.at[k.number].state == placed })
			if stays {
				return true
			}
		}
	}
	return false
}

// moreLeftOut is by how many more jobs are left out than before.
func (r *removal) moreLeftOut() (more int) {
	for _, was := range r.jobs {
		if was.at.state == gone {
			more--
		}
		if r.s.at[was.job.number].state == gone {
			more++
		}
	}
	return more
}

// asItWas has a copy of the spots say what they were before what was taken out was laid
// anew.
func (r *removal) asItWas(at []spot) {
	for _, was := range r.jobs {
		at[was.job.number] = was.at
	}
}

// putJobBack puts a job where it is known to fit.
func (s *schedule) putJobBack(j *job, to spot) {
	if to.state == placed {
		s.putJob(j, to)
	} else {
		s.at[j.number] = to
	}
	if to.state != open {
		s.occupyPlaces(j)
	}
}

// startOf is when the first work of a cluster begins, past all time if it is left out.
func (s *schedule) startOf(c *cluster) studio.Minute {
	if t := &s.at[c.jobs[0].number]; t.state == placed {
		return t.start
	}
	return s.lateIfUnplaced()
}
