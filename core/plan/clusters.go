package plan

import (
	"cmp"
	"slices"

	"gonum.org/v1/gonum/graph"
	"gonum.org/v1/gonum/graph/iterator"
	"gonum.org/v1/gonum/graph/simple"
	"gonum.org/v1/gonum/graph/topo"

	"bractum/core/studio"
)

// cluster is a group of jobs that are placed together, by rank.
type cluster struct {
	jobs           []*job
	number         int
	previous, next []*cluster    // what it needs, and what needs it
	latest         studio.Minute // when to begin; long before now of what has begun
	begun          int
	orders         []int // that need it
	soft           bool  // windows in it bind pieces
}

func compare[T cmp.Ordered](a, b T) int { return cmp.Compare(a, b) }

// graphOfJobs is some jobs by number and, for each, those that come after it. The search for
// components asks a graph for no more than that.
type graphOfJobs struct {
	graph.Directed
	nodes []graph.Node
	after [][]graph.Node
}

func (g graphOfJobs) Nodes() graph.Nodes { return iterator.NewOrderedNodes(g.nodes) }

func (g graphOfJobs) From(id int64) graph.Nodes {
	if len(g.after[id]) == 0 {
		return graph.Empty
	}
	return iterator.NewOrderedNodes(g.after[id])
}

// formClusters divides the jobs that are not over into clusters: the strongly connected
// components of what comes before what, where that which has to be placed together
// counts as coming before each other.
func (p *problem) formClusters() {
	g := graphOfJobs{after: make([][]graph.Node, len(p.jobs))}
	with := make([]int, len(p.jobs)) // a wait in the air begins when that before ends: they are one node
	for n, j := range p.jobs {
		if j.before != nil && j.inAir() {
			with[n] = with[j.before.number]
		} else {
			with[n] = n
			g.nodes = append(g.nodes, simple.Node(n))
		}
	}
	edge := func(a, b *job) {
		if from, to := with[a.number], with[b.number]; from != to {
			g.after[from] = append(g.after[from], simple.Node(to))
		}
	}
	for _, j := range p.jobs {
		if j.before != nil && !j.goesOn() {
			edge(j.before, j)
		}
		for i := range j.in {
			k := &j.in[i]
			if !j.goesOn() {
				edge(k.other, j)
			}
			if k.limited && !k.other.goesOn() {
				edge(j, k.other)
			}
		}
		for _, h := range j.ends {
			edge(h, j)
			edge(j, h)
		}
	}
	of := make([]*cluster, len(p.jobs))
	for _, component := range topo.TarjanSCC(g) {
		c := &cluster{}
		for _, node := range component {
			of[node.ID()] = c
		}
	}
	for n, j := range p.jobs {
		if j.Done() || j.running() {
			continue
		}
		if j.cluster = of[with[n]]; len(j.cluster.jobs) == 0 {
			p.clusters = append(p.clusters, j.cluster)
		}
		j.cluster.jobs = append(j.cluster.jobs, j)
	}
	for _, c := range p.clusters {
		slices.SortFunc(c.jobs, func(a, b *job) int { return compare(a.rank, b.rank) })
		c.number = slices.MinFunc(c.jobs, func(a, b *job) int { return compare(a.number, b.number) }).number
		for _, j := range c.jobs {
			c.begun = max(c.begun, j.urgency())
			c.soft = c.soft || slices.ContainsFunc(j.in, func(k lag) bool { return k.each })
		}
	}
	slices.SortFunc(p.clusters, func(a, b *cluster) int { return compare(a.number, b.number) })
	for n, c := range p.clusters {
		c.number = n
	}
	for _, j := range p.jobs {
		if j.goesOn() {
			continue
		}
		if j.before != nil {
			j.before.cluster.leads(j.cluster)
		}
		for i := range j.in {
			j.in[i].other.cluster.leads(j.cluster)
		}
	}
}

func (c *cluster) leads(to *cluster) {
	if c != nil && to != nil && c != to && !slices.Contains(c.next, to) {
		c.next, to.previous = append(c.next, to), append(to.previous, c)
	}
}

// goesOn is true of what somebody is at: it needs nothing more to come about, and goes on now whatever
// becomes of what is to take up its pieces.
func (j *job) goesOn() bool {
	return j.Wait == nil && j.Fact != nil && j.Fact.State == studio.TaskStarted
}

// urgency puts waits that run already first: they take nobody's time, and what they
// hold is held. Then comes what has a start, what somebody is at, what has to take up in time what
// was begun, and what was paused.
func (j *job) urgency() int {
	switch {
	case j.Wait != nil && j.before != nil && j.before.Done():
		return 5
	case j.pin != nil && j.pin.Start != nil:
		return 4
	case j.goesOn():
		return 3
	case j.Fact == nil && slices.ContainsFunc(j.in, func(k lag) bool { return k.limited && k.other.Fact != nil }):
		return 2
	case j.Begun():
		return 1
	}
	return 0
}
