package plan

import (
	"math"
	"slices"
	"strconv"
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
// often as can be, nobody working longer than they do. Makers who are alike are one.
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
	alike := alikeMakers(all, len(p.hours))
	able := make([]float64, 0, len(p.hours))
	for i, hours := range p.hours {
		if alike[i] == len(able) {
			able = append(able, 1)
		}
		able[alike[i]] += float64(hours.Worked(studio.Span{From: p.now, To: until}))
	}
	for n := range all {
		lengths, of := make([]float64, len(able)), make([]float64, len(able))
		for m, length := range all[n].lengths {
			lengths[alike[m]], of[alike[m]] = lengths[alike[m]]+length, of[alike[m]]+1
		}
		for m := range lengths {
			lengths[m] /= of[m]
		}
		all[n].lengths = lengths
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
	lost := make([][]int64, len(all))
	for n := range all {
		lost[n] = make([]int64, makers)
	}
	for i, w := range ways {
		lost[w[0]][w[1]] = int64(math.Round(1000 * x[makers+len(all)+i] / (worth / hours)))
	}
	for n := range all {
		for m := range p.hours {
			p.wasted[n][m] = lost[n][alike[m]]
		}
	}
}

// alikeMakers numbers makers so that those who do all crafts about as quickly, within a twentieth, have one
// number: the price of a minute is that of their kind, and of kinds there are few in a studio of any size.
func alikeMakers(crafts []craft, makers int) []int {
	kinds := map[string]int{}
	alike := make([]int, makers)
	for m := range alike {
		var key strings.Builder
		for n := range crafts {
			quick := int64(-1)
			if length := crafts[n].lengths[m]; length > 0 {
				quick = int64(math.Round(math.Log(length) / math.Log(1.1)))
			}
			key.WriteString(strconv.FormatInt(quick, 10))
			key.WriteByte(' ')
		}
		n, known := kinds[key.String()]
		if !known {
			n = len(kinds)
			kinds[key.String()] = n
		}
		alike[m] = n
	}
	return alike
}
