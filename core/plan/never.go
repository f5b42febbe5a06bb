package plan

import (
	"strconv"
	"strings"

	"bractum/core/studio"
)

// Some work can never stand whatever else does: what is held at its start, by itself and by what it
// needs until it or something after it has ended, takes more slots than a place has. It is known
// before anything is laid.

// findWhatNeverFits notes for each job what makes it impossible at any time. It takes time only where the
// holds of a cluster come to more than a place has.
func (p *problem) findWhatNeverFits() {
	p.never = make([]*fault, len(p.jobs))
	for _, c := range p.clusters {
		slots := make([]int64, len(p.doc.Places))
		for _, j := range c.jobs {
			for i := range j.holds {
				slots[j.holds[i].place] += j.holds[i].slots
			}
		}
		for place, all := range slots {
			if all > p.doc.Places[place].Slots {
				p.findWhatNeverFitsIn(c, place)
			}
		}
	}
}

func (p *problem) findWhatNeverFitsIn(c *cluster, place int) {
	for _, j := range c.jobs {
		var held int64
		var each []string
		for i := range j.holds {
			if j.holds[i].place == place {
				held, each = held+j.holds[i].slots, append(each, strconv.FormatInt(j.holds[i].slots, 10))
			}
		}
		if held == 0 || j.Fact != nil || j.lies || p.never[j.number] != nil {
			continue
		}
		needs := p.neededBy(j)
		after := p.madeOf(j)
		var by *job
		for _, a := range c.jobs {
			for i := range a.holds {
				h := &a.holds[i]
				lasts := false
				for _, until := range h.until {
					lasts = lasts || until == j || after[until]
				}
				if needs[a] && !a.lies && h.place == place && lasts {
					held, by, each = held+h.slots, a, append(each, strconv.FormatInt(h.slots, 10))
				}
			}
		}
		if there := p.doc.Places[place].Slots; held > there {
			p.never[j.number] = &fault{kind: overfull, of: j, by: by, have: studio.Minute(held),
				slots: strings.Join(each, " + "), place: &p.doc.Places[place]}
			if len(each) == 1 {
				p.never[j.number].kind = crowded
			}
		}
	}
}

// neededBy are the jobs that come before a job.
func (p *problem) neededBy(j *job) map[*job]bool {
	return closure(j, func(k *job, each func(*job)) {
		if k.before != nil {
			each(k.before)
		}
		for i := range k.in {
			each(k.in[i].other)
		}
	})
}

// madeOf are the jobs that come after a job.
func (p *problem) madeOf(j *job) map[*job]bool {
	return closure(j, func(k *job, each func(*job)) { k.followers(each) })
}

// closure is all that is reached from a job, without itself.
func closure(from *job, next func(*job, func(*job))) map[*job]bool {
	seen := map[*job]bool{}
	queue := []*job{from}
	for len(queue) > 0 {
		j := queue[0]
		queue = queue[1:]
		next(j, func(k *job) {
			if !seen[k] {
				seen[k] = true
				queue = append(queue, k)
			}
		})
	}
	return seen
}
