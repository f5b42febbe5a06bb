package wire

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// Pattern is a way of cutting one wire, and how many are cut that way, together or one
// after the other. From is the length it is cut from: a full wire's, or an offcut's.
type Pattern struct {
	From   studio.Micrometres   `json:"fromMicrometres"`
	Cuts   []studio.Micrometres `json:"cuts"`
	Offcut studio.Micrometres   `json:"offcutMicrometres"`
	Kept   bool                 `json:"kept"`
	Wires  int64                `json:"wires"`
}

// Cutting is the answer for one wire material: how many full wires and offcuts are
// taken, the fewest full wires that could possibly do, and the patterns, offcuts first,
// then by falling use. It is the optimum where Full is LowerBound, and where Proven
// says that every other way was looked at.
type Cutting struct {
	Full       int64     `json:"fullWires"`
	Offcuts    int64     `json:"offcuts"`
	LowerBound int64     `json:"lowerBound"`
	Proven     bool      `json:"proven"`
	Patterns   []Pattern `json:"patterns"`
}

// Cut divides wires of one length, as many as it takes, and the offcuts there are among
// the pieces, so that the fewest full wires are taken. Offcuts of at least keep are
// kept. Every piece must fit a full wire.
//
// The bound is that of column generation (Gilmore and Gomory 1961) over patterns that
// cut no more of a length than is wanted, with the prices rounded to integers so that it
// holds exactly; the answer comes from rounding its solution and, where that leaves a
// gap, from a search that branches on the longest piece left. Up to some 40 lengths and
// 2,000 pieces it is nearly always the optimum in a fraction of a second. Whatever it is
// given, it ends once it has spent mostEffort, with the best so far and its bound, and then
// Proven is false.
func Cut(pieces []Piece, full, keep studio.Micrometres, offcuts []studio.Offcut) Cutting {
	p := newProblem(pieces, full, offcuts)
	best, bound, proven := p.solve()
	return p.cutting(p.fewPatterns(best), bound, proven, keep)
}

// Count is how many full wires first-fit takes for pieces, without offcuts: quick, and
// of one length the optimum.
func Count(pieces []Piece, full studio.Micrometres) int64 {
	if len(pieces) == 1 {
		return studio.CeilDiv(pieces[0].Number, int64(full/pieces[0].Length))
	}
	p := newProblem(pieces, full, nil)
	return p.full(p.firstFit(p.demand, nil))
}

// problem is what to cut in plain integers: so many of each length, falling, from full
// wires and from a limited number of offcuts, the shortest first.
type problem struct {
	lengths []int64
	demand  []int64
	wire    int64
	stock   []int64
	number  []int64
	effort  int64 // spent, in steps of filling one wire
}

// mostEffort is what a cutting may spend: about half a second. It is counted, not timed, so
// that the same pieces are cut the same way.
const mostEffort = 30_000_000

// spent is true once nothing more may be tried.
func (p *problem) spent() bool { return p.effort > mostEffort }

// cut is a way of cutting a full wire, or an offcut by its index in the stock, and how
// many are cut so. Pieces are counted by length.
type cut struct {
	from   int
	pieces []int64
	times  int64
}

const fromFull = -1

func newProblem(pieces []Piece, full studio.Micrometres, offcuts []studio.Offcut) *problem {
	wanted := map[int64]int64{}
	for _, piece := range pieces {
		wanted[int64(piece.Length)] += piece.Number
	}
	p := &problem{wire: int64(full)}
	for length, number := range wanted {
		if number > 0 {
			p.lengths = append(p.lengths, length)
		}
	}
	slices.SortFunc(p.lengths, func(a, b int64) int { return cmp.Compare(b, a) })
	for _, length := range p.lengths {
		p.demand = append(p.demand, wanted[length])
	}
	if len(p.lengths) == 0 {
		return p
	}
	there := map[int64]int64{}
	for _, o := range offcuts {
		if length := int64(o.Length); length >= p.lengths[len(p.lengths)-1] {
			there[length] += o.Number
		}
	}
	for length, number := range there {
		if number > 0 {
			p.stock = append(p.stock, length)
		}
	}
	slices.Sort(p.stock)
	for _, length := range p.stock {
		p.number = append(p.number, there[length])
	}
	return p
}

func (p *problem) length(from int) int64 {
	if from == fromFull {
		return p.wire
	}
	return p.stock[from]
}

func (p *problem) full(cuts []cut) (wires int64) {
	for _, c := range cuts {
		if c.from == fromFull {
			wires += c.times
		}
	}
	return wires
}

// cutting puts an answer into patterns; equal ones are one.
func (p *problem) cutting(cuts []cut, bound int64, proven bool, keep studio.Micrometres) Cutting {
	c := Cutting{Full: p.full(cuts), LowerBound: bound, Proven: proven, Patterns: []Pattern{}}
	for _, one := range cuts {
		pattern := Pattern{From: studio.Micrometres(p.length(one.from)), Wires: one.times}
		pattern.Offcut = pattern.From
		for i, n := range one.pieces {
			for range n {
				pattern.Cuts = append(pattern.Cuts, studio.Micrometres(p.lengths[i]))
				pattern.Offcut -= studio.Micrometres(p.lengths[i])
			}
		}
		pattern.Kept = pattern.Offcut >= keep && pattern.Offcut > 0
		if one.from != fromFull {
			c.Offcuts += one.times
		}
		same := slices.IndexFunc(
			c.Patterns,
			func(q Pattern) bool { return q.From == pattern.From && slices.Equal(q.Cuts, pattern.Cuts) },
		)
		if same >= 0 {
			c.Patterns[same].Wires += one.times
			continue
		}
		c.Patterns = append(c.Patterns, pattern)
	}
	isFull := func(q Pattern) int {
		if int64(q.From) == p.wire {
			return 1
		}
		return 0
	}
	slices.SortStableFunc(c.Patterns, func(a, b Pattern) int {
		return cmp.Or(cmp.Compare(isFull(a), isFull(b)), cmp.Compare(b.Wires, a.Wires), slices.Compare(b.Cuts, a.Cuts))
	})
	return c
}
