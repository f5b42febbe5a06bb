package count

import (
	"math"
	"sort"

	"bractum/core/studio"
)

// leastBreakage is what an estimated breakage of nothing counts as: 0.5 %.
const leastBreakage = 0.005

// mostStarted bounds spares: beyond so many times the need, something is wrong
// with the recipe or the promise, and a person must look.
const mostStarted = 3

// ServiceOfLot is s = S^(1/k): what each of the k lots under an order line must
// reach so that all together reach the line's service level.
func ServiceOfLot(line studio.PerMille, k int) float64 {
	return math.Pow(float64(line)/1000, 1/float64(max(1, k)))
}

// Odds are what is believed of pieces coming out good: a beta distribution, as if so many had
// come out good and so many had been lost.
type Odds struct{ Good, Lost float64 }

// OddsOf are the odds of an estimated breakage that weighs as much as so many pieces, with
// what is recorded: α = w(1 − b₀) + good so far, β = w·b₀ + lost so far.
func OddsOf(s studio.Spares, weight int64) Odds {
	return oddsOf(math.Max(float64(s.Breakage)/1000, leastBreakage), s, weight)
}

func oddsOf(breakage float64, s studio.Spares, weight int64) Odds {
	w := float64(weight)
	return Odds{Good: w*(1-breakage) + float64(s.GoodSoFar), Lost: w*breakage + float64(s.LostSoFar)}
}

// taken are the odds of pieces of which a share breaks as they are taken up: as many pieces
// are known of them.
func (o Odds) taken(share float64) Odds {
	known := o.Good + o.Lost
	good := o.Good * (1 - share)
	return Odds{Good: good, Lost: known - good}
}

// Losing is the share of pieces expected to be lost.
func (o Odds) Losing() float64 { return o.Lost / (o.Good + o.Lost) }

// AtLeast is P(good ≥ need) for n started pieces, good ~ beta-binomial. It sums the
// n − need + 1 cases of breakage by their ratio.
func (o Odds) AtLeast(need, n int64) float64 {
	if n < need {
		return 0
	}
	if need <= 0 || o.Lost == 0 {
		return 1
	}
	alpha, beta := o.Good, o.Lost
	term := math.Exp(logBeta(float64(n)+alpha, beta) - logBeta(alpha, beta))
	sum := term
	for broken := float64(0); broken < float64(n-need); broken++ {
		term *= (float64(n) - broken) / (broken + 1) * (beta + broken) / (alpha + float64(n) - broken - 1)
		sum += term
	}
	return math.Min(1, sum)
}

func logBeta(a, b float64) float64 {
	la, _ := math.Lgamma(a)
	lb, _ := math.Lgamma(b)
	lab, _ := math.Lgamma(a + b)
	return la + lb - lab
}

// ForService is the fewest pieces to start of which so many come out good with the given
// chance; false when three times the need would not do, and then that.
func (o Odds) ForService(need int64, service float64) (n int64, enough bool) {
	most := mostStarted * need
	extra := sort.Search(int(most-need)+1, func(i int) bool { return o.AtLeast(need, need+int64(i)) >= service })
	n = need + int64(extra)
	return min(n, most), n <= most
}

// Remake is what making some more costs, in minutes, where there is the time for it: Piece
// the work in one piece and all that goes into it, Again what beginning once more takes beside
// the pieces, Spare how long it would still be until something is late.
type Remake struct {
	Piece, Again studio.Milliminutes
	Spare        studio.Minute
}

// ForRemaking is the number of pieces to start that is expected to cost least: c for each that
// is started, and for each that is short and made after all, and K where any is. In steps of
// one it costs c·(1 − P(short)·P(good)) more and saves K times what P(short) falls by.
func (o Odds) ForRemaking(need int64, r Remake) (n int64) {
	piece, again := float64(r.Piece), float64(r.Again)
	chance := o.AtLeast(need, need)
	n = need
	for at, cost, least := need, 0.0, 0.0; at < mostStarted*need && cost-again*(1-chance) < least; at++ {
		more := o.AtLeast(need, at+1)
		cost += piece*(1-(1-chance)*(1-o.Losing())) - again*(more-chance)
		if chance = more; cost < least {
			n, least = at+1, cost
		}
	}
	return n
}

// starting is how the pieces of a group are begun: by which rule, with what odds, for which
// service, and what making more of them would cost where there is time to.
type starting struct {
	rule    studio.Spares
	odds    Odds
	service float64
	remake  *Remake
}

// start is how many pieces to begin so that need come out good.
func (s starting) start(need int64) (n int64, enough bool) {
	switch s.rule.Rule {
	case studio.SparesByNumber:
		return need + s.rule.Number, true
	case studio.SparesByPercent:
		return need + studio.CeilDiv(need*s.rule.Percent, 100), true
	case studio.SparesByBreakage:
		if s.remake != nil {
			return s.odds.ForRemaking(need, *s.remake), true
		}
		return s.odds.ForService(need, s.service)
	}
	return need, true
}

// figures are those of a rule for spares: what it goes by, and how often what is started will do.
func (s starting) figures(r *studio.Recipe, need, started int64) []studio.Figure {
	inputs := []studio.Figure{figure(r, "to-make", need)}
	percent := func(name string, share float64) studio.Figure { return studio.NewFigure(name, 100*share, "%") }
	switch s.rule.Rule {
	case studio.SparesNone:
		return inputs
	case studio.SparesByNumber:
		inputs = append(inputs, studio.NewFigure("spares-of-each-lot", s.rule.Number, "pieces"))
	case studio.SparesByPercent:
		inputs = append(inputs, studio.NewFigure("spares", s.rule.Percent, "%"))
	}
	inputs = append(
		inputs,
		percent("expected-to-break", s.odds.Losing()),
		studio.NewFigure("recorded-as-good", s.rule.GoodSoFar, "pieces"),
		studio.NewFigure("recorded-as-lost", s.rule.LostSoFar, "pieces"),
	)
	enough := s.odds.AtLeast(need, started)
	if s.rule.Rule == studio.SparesByBreakage && s.remake == nil {
		inputs = append(inputs, percent("service-of-this-lot", s.service))
	}
	if s.rule.Rule != studio.SparesByBreakage || s.remake == nil {
		return append(inputs, percent("chance-that-this-is-enough", enough))
	}
	usual, _ := s.odds.ForService(need, s.service)
	if enough < 1 {
		inputs = append(inputs, studio.NewFigure("short-once-in", math.Round(1/(1-enough)), "times"))
	}
	return append(
		inputs,
		studio.NewFigure("making-more-costs", s.remake.Again.Minutes(), "min"),
		studio.NewFigure("one-more-costs", float64(s.remake.Piece)/1000, "min"),
		studio.NewFigure("time-to-make-more", s.remake.Spare, "min"),
		figure(r, "for-the-service-level", usual),
	)
}

// timeToRemake is how much there has to be until a shortage would make something late: a day,
// since what is made again waits for its turn.
const timeToRemake = 1440

// starting says how a quantity of an item is begun of which the share lost is expected to
// break as it is taken up, and which is wanted by due.
func (c *counter) starting(
	item *Item,
	r *studio.Recipe,
	need int64,
	lost, service float64,
	due studio.Minute,
) starting {
	s := starting{rule: c.spares(r), service: service}
	breakage, may := r.Losing()
	if may {
		breakage = math.Max(breakage, leastBreakage)
	}
	s.odds = oddsOf(breakage, s.rule, c.doc.Settings.PriorWeight).taken(lost)
	if c.doc.Settings.SparesFor != studio.SparesForRemaking || r.Kind == studio.KindMix {
		return s
	}
	short := max(1, int64(math.Ceil(float64(need)*s.odds.Losing())))
	spare := due - c.hour() - c.room.Elapsed(r, 0, need) - c.room.Elapsed(r, 0, short)
	if spare >= timeToRemake {
		s.remake = &Remake{Piece: c.workOf(item.Made()), Again: c.setups(r), Spare: spare}
	}
	return s
}

// hour is when this hour began: what goes by the time that is left is reckoned anew each hour.
func (c *counter) hour() studio.Minute { return c.doc.Now - c.doc.Now%60 }

// setups is what beginning pieces of a recipe once more takes beside the pieces: the setups of
// its work, and the nuisance of it.
func (c *counter) setups(r *studio.Recipe) studio.Milliminutes {
	all := 1000 * studio.Milliminutes(c.doc.Settings.RemakeMinutes)
	for _, s := range r.Steps {
		if s.Work != nil {
			all += s.Work.Setup
		}
	}
	return all
}

// workOf is the work in one piece and in all that goes into it, worked out once.
func (c *counter) workOf(made studio.Made) studio.Milliminutes {
	if known, done := c.counter.work[made]; done {
		return known
	}
	r := c.book.Of(made)
	var all studio.Milliminutes
	const many = 1000 // pieces, so that shares and yields count
	for i, s := range r.Steps {
		if s.Work != nil {
			all += r.Effort(s.Work, false, r.Pieces(i, many))
		}
	}
	for _, p := range r.Parts {
		all += studio.Milliminutes(r.At(p.Step, many)*p.Count) * c.workOf(p.Made())
	}
	c.counter.work[made] = all / many
	return all / many
}

// spares is a recipe's rule with what is recorded of its breakage so far.
func (c *counter) spares(r *studio.Recipe) studio.Spares {
	s := r.Spares
	recorded := c.counter.recorded[r.Page()]
	s.GoodSoFar += recorded.Good
	s.LostSoFar += recorded.Lost
	return s
}
