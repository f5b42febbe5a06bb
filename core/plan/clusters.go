package plan

import (
	"cmp"
	"slices"

	"gonum.org/v1/gonum/graph/simple"
	"gonum.org/v1/gonum/graph/topo"

	"bractum/core/studio"
)

// job is a task while it is being planned.
type job struct {
	*studio.Activity
	lot     studio.ID
	number  int  // among all jobs
	before  *job // in its lot
	since   studio.Minute
	lies    bool         // what it holds has lain there since
	in, out []lag        // links into and out of it
	held    []*job       // tasks whose holds end with this one
	cluster *cluster     // nil of what is over
	rank    int          // in an order in which everything comes after what it needs
	task    *studio.Task // nil until placed
	gone    bool         // unplaced
	latest  studio.Minute
}

// running is true of a wait in a machine that was begun.
func (j *job) running() bool { return j.Wait != nil && j.Begun() }

// lag is a link seen from one of its ends.
type lag struct {
	studio.Lag
	other *job
}

// cluster is a group of jobs that are placed together, by rank.
type cluster struct {
	jobs     []*job
	number   int
	blockers int
	next     []*cluster
	latest   studio.Minute
}

// jobs makes the jobs of an instance and links them.
func jobs(instance *studio.Instance) ([]*job, map[studio.ID]*job) {
	var all []*job
	byID := map[studio.ID]*job{}
	for i := range instance.Lots {
		l := &instance.Lots[i]
		var before *job
		for k := range l.Tasks {
			j := &job{Activity: &l.Tasks[k], lot: l.ID, number: len(all), before: before}
			j.since, j.lies = l.Lies(k)
			all, byID[j.ID], before = append(all, j), j, j
		}
	}
	for _, k := range instance.Links {
		from, to := byID[k.From], byID[k.To]
		from.out = append(from.out, lag{k, to})
		to.in = append(to.in, lag{k, from})
	}
	for _, j := range all {
		for _, h := range j.Holds {
			for _, until := range h.Until {
				if last := byID[until]; !slices.Contains(last.held, j) {
					last.held = append(last.held, j)
				}
			}
		}
	}
	return all, byID
}

// clustered divides the jobs that are not over into clusters: the strongly
// connected components of what comes before what, where that which has to be
// placed together counts as coming before each other.
func clustered(all []*job) []*cluster {
	g := simple.NewDirectedGraph()
	for _, j := range all {
		g.AddNode(simple.Node(j.number))
	}
	edge := func(a, b *job) {
		if a != b {
			g.SetEdge(g.NewEdge(simple.Node(a.number), simple.Node(b.number)))
		}
	}
	for _, j := range all {
		if j.before != nil {
			edge(j.before, j)
			if j.Wait != nil && j.Wait.Load == nil {
				edge(j, j.before) // it begins when that ends
			}
		}
		for _, k := range j.in {
			edge(k.other, j)
			if k.Most != nil {
				edge(j, k.other)
			}
		}
		for _, h := range j.held {
			edge(h, j)
			edge(j, h)
		}
	}
	var clusters []*cluster
	for _, component := range topo.TarjanSCC(g) {
		c := &cluster{}
		for _, node := range component {
			if j := all[node.ID()]; !j.Done() && !j.running() {
				c.jobs = append(c.jobs, j)
				j.cluster = c
			}
		}
		if len(c.jobs) > 0 {
			clusters = append(clusters, c)
		}
	}
	ranked(all)
	for _, c := range clusters {
		slices.SortFunc(c.jobs, func(a, b *job) int { return cmp.Compare(a.rank, b.rank) })
		c.number = c.jobs[0].number
		for _, j := range c.jobs {
			c.number = min(c.number, j.number)
		}
		seen := map[*cluster]bool{c: true, nil: true}
		follow := func(j *job) {
			if !seen[j.cluster] {
				seen[j.cluster] = true
				c.next = append(c.next, j.cluster)
				j.cluster.blockers++
			}
		}
		for _, j := range all {
			if j.before != nil && j.before.cluster == c {
				follow(j)
			}
			for _, k := range j.in {
				if k.other.cluster == c {
					follow(j)
				}
			}
		}
	}
	slices.SortFunc(clusters, func(a, b *cluster) int { return cmp.Compare(a.number, b.number) })
	return clusters
}

// ranked numbers the jobs so that each comes after all it needs.
func ranked(all []*job) {
	needs := make([]int, len(all))
	after := make([][]*job, len(all))
	for _, j := range all {
		if j.before != nil {
			needs[j.number]++
			after[j.before.number] = append(after[j.before.number], j)
		}
		for _, k := range j.in {
			needs[j.number]++
			after[k.other.number] = append(after[k.other.number], j)
		}
	}
	var queue []*job
	for _, j := range all {
		if needs[j.number] == 0 {
			queue = append(queue, j)
		}
	}
	for rank := 0; rank < len(queue); rank++ {
		queue[rank].rank = rank
		for _, next := range after[queue[rank].number] {
			if needs[next.number]--; needs[next.number] == 0 {
				queue = append(queue, next)
			}
		}
	}
}

// urgent orders clusters: what is running comes first, then what must begin
// earliest to be in time.
func urgent(a, b *cluster) int {
	return cmp.Or(-cmp.Compare(a.begun(), b.begun()), cmp.Compare(a.latest, b.latest), cmp.Compare(a.number, b.number))
}

// begun puts waits that run already first: they take nobody's time, and what they
// hold is held. Then comes what somebody is at, then what was paused.
func (c *cluster) begun() int {
	most := 0
	for _, j := range c.jobs {
		switch {
		case j.Wait != nil && j.before != nil && j.before.Done():
			most = max(most, 3)
		case j.Fact != nil && j.Fact.State == studio.TaskStarted:
			most = max(most, 2)
		case j.Begun():
			most = max(most, 1)
		}
	}
	return most
}
