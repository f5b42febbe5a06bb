package plan

import (
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/optimize/convex/lp"

	"bractum/core/studio"
)

// craft is all work that asks for the same skills.
type craft struct {
	lengths []float64 // of all of it, by maker; 0 for those who cannot do it
}

// priceMakers works out, for each craft and maker, what of a minute that the maker gives to it
// is lost to the whole: by how much a minute of theirs is worth more elsewhere, against
// the worth of anybody's minute. The worths are the dual prices of the linear programme
// that makes the most of everybody's hours: all crafts done in the same proportion, as
// often as can be, nobody working longer than they do.
func (p *problem) priceMakers() {
	crafts := map[string]int{}
	var all []craft
	p.craft = make([]int, len(p.jobs))
	for _, j := range p.jobs {
		if len(j.ways) == 0 {
			continue
		}
		var skills []string
		for _, e := range j.Work {
			if !slices.Contains(skills, e.Skill) {
				skills = append(skills, e.Skill)
			}
		}
		slices.Sort(skills)
		key := strings.Join(skills, "\n")
		n, known := crafts[key]
		if !known {
			n = len(all)
			crafts[key] = n
			all = append(all, craft{make([]float64, len(p.hours))})
		}
		p.craft[j.number] = n
		for _, w := range j.ways {
			all[n].lengths[w.maker] += float64(w.total)
		}
	}
	p.wasted = make([][]int64, len(all))
	for n := range all {
		p.wasted[n] = make([]int64, len(p.hours))
	}
	until := p.now + 1440
	for _, o := range p.orders {
		until = max(until, o.ReadyBy)
	}
	able := make([]float64, len(p.hours))
	for i, hours := range p.hours {
		able[i] = 1 + float64(hours.Worked(studio.Span{From: p.now, To: until}))
	}
	// variables: a price of each maker's minute, a price of each craft, a slack for each way
	var ways [][2]int
	for n := range all {
		for m, length := range all[n].lengths {
			if length > 0 {
				ways = append(ways, [2]int{n, m})
			}
		}
	}
	if len(ways) == 0 {
		return
	}
	makers, width := len(able), len(able)+len(all)+len(ways)
	cost := make([]float64, width)
	copy(cost, able)
	a := mat.NewDense(len(ways)+1, width, nil)
	b := make([]float64, len(ways)+1)
	for i, w := range ways {
		a.Set(i, w[1], 1)
		a.Set(i, makers+w[0], -1e3/all[w[0]].lengths[w[1]])
		a.Set(i, makers+len(all)+i, -1)
	}
	for n := range all {
		a.Set(len(ways), makers+n, 1)
	}
	b[len(ways)] = 1
	_, x, err := lp.Simplex(cost, a, b, 1e-9, nil)
	if err != nil {
		return
	}
	var worth, hours float64
	for m := range able {
		worth += x[m] * able[m]
		hours += able[m]
	}
	for i, w := range ways {
		p.wasted[w[0]][w[1]] = int64(math.Round(1000 * x[makers+len(all)+i] / (worth / hours)))
	}
}
