package learn

import (
	"cmp"
	"math"
	"slices"

	"bractum/core/drying"
	"bractum/core/studio"
)

// Kind is what a record is about.
type Kind string

// Kinds of records: how long a class dries, how long a step takes, how fast a person is at
// a skill, how much breaks at a step.
const (
	OfClass    Kind = "class"
	OfStep     Kind = "step"
	OfPace     Kind = "pace"
	OfBreakage Kind = "breakage"
)

// Record sets a standard against what was recorded. Standard and Found are in the unit of
// the kind: minutes to dry, thousandths of a minute a piece, hundredths of the recipe's
// pace, per mille. Evidence is how many waits, or pieces, it rests on, Unsure the standard
// deviation of Found's logarithm, or of the rate itself, in per mille. Clear records are
// surely other than the standard: something to propose. What is recorded of a variant is
// told and not proposed: its standard is what the recipe says for all.
type Record struct {
	Key      string          `json:"key"`
	Kind     Kind            `json:"kind" enum:"class,step,pace,breakage"`
	Class    studio.ID       `json:"class,omitempty"`
	Recipe   studio.ID       `json:"recipe,omitempty" doc:"the page of the flower book"`
	Variant  string          `json:"variant,omitempty" doc:"the way of making it, empty for the plain one"`
	Step     string          `json:"step,omitempty"`
	Person   studio.ID       `json:"person,omitempty"`
	Skill    string          `json:"skill,omitempty"`
	Standard int64           `json:"standard"`
	Found    int64           `json:"found"`
	Evidence int64           `json:"evidence"`
	Unsure   studio.PerMille `json:"unsurePerMille"`
	Clear    bool            `json:"clear"`
	Points   []Point         `json:"points" doc:"single findings, the latest last"`
}

// Point is a single finding as a multiple of the standard, in per mille: between Low and
// High, the same for a known one; High of nothing is not known. Weight are its pieces.
type Point struct {
	Low    int64 `json:"low"`
	High   int64 `json:"high"`
	Weight int64 `json:"weight"`
}

// mostPoints of a record are kept for its chart.
const mostPoints = 60

// History is what was recorded: a document whose work are all lots that were ever begun
// within it, those that are used up as well, with the air of those days.
type History struct {
	Doc      *studio.Document
	Book     *studio.Book
	Air      drying.Room
	Calendar studio.Calendar
}

// Look sets all standards against the record, the clearest first.
func Look(h History) []Record {
	l := looking{History: h, pages: map[studio.ID]*studio.Recipe{}, classes: map[studio.ID]studio.DryingClass{}}
	for _, r := range h.Doc.Current() {
		l.pages[r.Page()] = r
	}
	for _, c := range h.Doc.DryingClasses {
		l.classes[c.ID] = c
	}
	records := slices.Concat(l.drying(), l.minutes(), l.breakage())
	slices.SortStableFunc(records, func(a, b Record) int {
		if a.Clear != b.Clear {
			if a.Clear {
				return -1
			}
			return 1
		}
		return cmp.Or(-cmp.Compare(a.Evidence, b.Evidence), cmp.Compare(a.Key, b.Key))
	})
	return records
}

type looking struct {
	History
	pages   map[studio.ID]*studio.Recipe
	classes map[studio.ID]studio.DryingClass
}

// drying weighs what was found of each class by touch and by taking things up.
func (l *looking) drying() (records []Record) {
	of := map[studio.ID][]Evidence{}
	for i := range l.Doc.Work {
		w := &l.Doc.Work[i]
		r := l.Book.Of(w.Made())
		for wait, step := range r.Steps {
			if step.Wait == nil || step.Wait.Class == "" || step.Wait.State == "" {
				continue
			}
			if e, known := l.wait(w, r, wait); known {
				of[step.Wait.Class] = append(of[step.Wait.Class], e)
			}
		}
	}
	for _, c := range l.Doc.DryingClasses {
		evidence := of[c.ID]
		if len(evidence) == 0 {
			continue
		}
		f := FactorOf(evidence, float64(c.Spread)/1000)
		record := Record{Key: string(OfClass) + "/" + string(c.ID), Kind: OfClass, Class: c.ID, Standard: c.DryMinutes,
			Found: int64(math.Round(f.Median * float64(c.DryMinutes))), Evidence: int64(f.N),
			Unsure: perMille(f.Unsure), Clear: f.Clear(ofFew), Points: []Point{}}
		for _, e := range evidence[max(0, len(evidence)-mostPoints):] {
			p := Point{Low: int64(1000 * e.Low), Weight: 1}
			if !math.IsInf(e.High, 1) {
				p.High = int64(1000 * e.High)
			}
			record.Points = append(record.Points, p)
		}
		records = append(records, record)
	}
	return records
}

// wait is what is known of how long one wait took: by touch, and by its pieces being
// taken up as ready.
func (l *looking) wait(w *studio.WorkLot, r *studio.Recipe, wait int) (Evidence, bool) {
	key, class := r.Steps[wait].Key, r.Steps[wait].Wait.Class
	if slices.ContainsFunc(w.Puts, func(p studio.Put) bool { return p.Step == key && p.Machine != "" }) {
		return Evidence{}, false // the room says nothing of it
	}
	lot := &studio.Lot{ID: w.ID, Recipe: w.Recipe, Variant: w.Variant, Mixes: w.Mixes}
	// multiple is the standard time that had passed at a minute, in medians of a state.
	multiple := func(state studio.State, until studio.Minute) (float64, bool) {
		spans, lay := studio.Spans(l.Doc, l.Book, w, wait, until)
		if !lay {
			return 0, false
		}
		d := studio.Known(l.Doc, l.Book, lot, wait, state)
		median := drying.Need(l.classes[class], d.Thickness, state, d.Factor, 50)
		return float64(l.Air.Passed(class, spans)) / float64(median), true
	}
	e := Evidence{High: math.Inf(1)}
	know := func(found studio.Found, at studio.Minute) {
		for _, state := range []studio.State{studio.Firm, studio.Dry} {
			m, lay := multiple(state, at)
			switch {
			case !lay:
			case found.Reaches(state):
				e.High = min(e.High, m)
			default:
				e.Low = max(e.Low, m)
			}
		}
	}
	for _, c := range w.Checks {
		if c.Step == key && !c.Mistaken && c.Found != studio.FoundSpoilt {
			know(c.Found, c.At)
		}
	}
	for _, next := range r.Steps[wait+1:] {
		if record := w.Record(next.Key); record != nil {
			if m, lay := multiple(r.Steps[wait].Wait.State, record.Start); lay {
				e.High = min(e.High, m)
			}
			break
		}
	}
	if e.High <= e.Low { // findings of two states that do not go together
		e.Low = 0
	}
	return e, (e.Low > 0 || !math.IsInf(e.High, 1)) && e.High > 0
}

func perMille(v float64) studio.PerMille { return studio.PerMille(math.Round(1000 * v)) }

// stint is one finished task: by how much longer than the standard it took.
type stint struct {
	page    studio.ID
	variant string
	step    string
	person  studio.ID
	skill   string
	pieces  int64
	off     float64 // logarithm
}

// What a person or a step is worth before anything is recorded, in pieces; how far single
// tasks are spread around it; and the rounds in which the two are told apart.
const (
	priorPieces = 50
	taskSpread  = 0.25
	fewestTasks = 3 // of which anything is proposed
	priorTasks  = 4
	apartRounds = 12
)

// minutes tells apart what a step and what a person takes: a task takes the standard at
// the person's pace, times what its step is off by, times what its person is, both
// log-normal around one. They are fitted in turn (backfitting: Hastie and Tibshirani,
// "Generalized Additive Models"), each shrunk by what the standard is worth.
func (l *looking) minutes() (records []Record) {
	stints := l.stints()
	steps, people := map[string]*effect{}, map[string]*effect{}
	under := func(of map[string]*effect, key string) *effect {
		if of[key] == nil {
			of[key] = &effect{}
		}
		return of[key]
	}
	for i := range stints {
		s := &stints[i]
		step, person := under(steps, s.work()), under(people, s.who())
		step.of, person.of = append(step.of, s), append(person.of, s)
	}
	for range apartRounds {
		for _, e := range steps {
			e.fit(func(s *stint) float64 { return people[s.who()].off })
		}
		for _, e := range people {
			e.fit(func(s *stint) float64 { return steps[s.work()].off })
		}
	}
	for key, e := range steps {
		s := e.of[0]
		step, _ := l.now(s.page, s.variant).Step(s.step)
		record := e.record(
			Record{
				Key:      string(OfStep) + "/" + key,
				Kind:     OfStep,
				Recipe:   s.page,
				Variant:  s.variant,
				Step:     s.step,
				Standard: int64(step.Work.PerPiece),
			},
			1,
		)
		record.Clear = record.Clear && s.variant == ""
		records = append(records, record)
	}
	for key, e := range people {
		s := e.of[0]
		i := slices.IndexFunc(l.Doc.People, func(p studio.Person) bool { return p.ID == s.person })
		records = append(
			records,
			e.record(
				Record{
					Key:      string(OfPace) + "/" + key,
					Kind:     OfPace,
					Person:   s.person,
					Skill:    s.skill,
					Standard: l.Doc.People[i].Pace(s.skill),
				},
				-1,
			),
		)
	}
	return records
}

func (s *stint) work() string { return way(s.page, s.variant) + "/" + s.step }
func (s *stint) who() string  { return string(s.person) + "/" + s.skill }

// effect is by how much tasks that share a step, or a person, are off, as a logarithm.
type effect struct {
	of          []*stint
	off, unsure float64
}

// fit is the mean of what is left once the other effect is taken off, by pieces. A large task is
// scattered as a small one is, so that what counts towards its certainty are tasks, by their squares; how
// far they are scattered is what is usual, as if seen in priorTasks of them, and what is seen.
func (e *effect) fit(other func(*stint) float64) {
	sum, pieces, squares := 0.0, 0.0, 0.0
	for _, s := range e.of {
		weight := float64(s.pieces)
		sum += weight * (s.off - other(s))
		pieces, squares = pieces+weight, squares+weight*weight
	}
	e.off = sum / (pieces + priorPieces)
	mean, scatter := sum/pieces, 0.0
	for _, s := range e.of {
		scatter += float64(s.pieces) * math.Pow(s.off-other(s)-mean, 2)
	}
	tasks := pieces * pieces / squares // as many of one size would tell as much
	spread := math.Sqrt((priorTasks*taskSpread*taskSpread + tasks*scatter/pieces) / (priorTasks + max(0, tasks-1)))
	e.unsure = spread * math.Sqrt(squares) / (pieces + priorPieces)
}

// record completes a record of an effect; towards is -1 where more is less of it.
func (e *effect) record(r Record, towards float64) Record {
	pieces := 0.0
	r.Points = []Point{}
	for _, s := range e.of {
		pieces += float64(s.pieces)
		multiple := int64(math.Round(1000 * math.Exp(s.off)))
		r.Points = append(r.Points, Point{Low: multiple, High: multiple, Weight: s.pieces})
	}
	r.Points = r.Points[max(0, len(r.Points)-mostPoints):]
	f := Factor{Median: math.Exp(e.off), Unsure: e.unsure, N: len(e.of)}
	r.Found = int64(math.Round(float64(r.Standard) * math.Pow(f.Median, towards)))
	r.Evidence, r.Unsure, r.Clear = int64(pieces), perMille(f.Unsure), f.Clear(ofMany) && len(e.of) >= fewestTasks
	return r
}

// FirstLots is how many lots of a recipe somebody makes before it is not new to them any more: their minutes
// until then are no standard.
const FirstLots = 3

// firstTime is somebody at a lot of what is new to them.
type firstTime struct{ person, lot studio.ID }

// beforehand is how long after the record begins somebody may first be seen at a recipe and still be taken
// to have known it before: the record cannot tell.
const beforehand studio.Minute = 7 * 1440

// firstTimes are who was at which lots of what was new to them.
func (l *looking) firstTimes() map[firstTime]bool {
	type knows struct{ person, page studio.ID }
	first := map[firstTime]bool{}
	lots := slices.Clone(l.Doc.Work)
	began := func(w studio.WorkLot) (at studio.Minute) {
		for i, r := range w.Records {
			if i == 0 || r.Start < at {
				at = r.Start
			}
		}
		return at
	}
	slices.SortStableFunc(lots, func(a, b studio.WorkLot) int { return cmp.Compare(began(a), began(b)) })
	made := map[knows]int{}
	for _, w := range lots {
		known := began(w) <= began(lots[0])+beforehand
		here := map[studio.ID]bool{}
		for _, r := range w.Records {
			if r.Machine == "" && r.State == studio.TaskDone {
				here[r.Person] = true
			}
		}
		for person := range here {
			k := knows{person, l.Book.Of(w.Made()).Page()}
			if known && made[k] == 0 {
				made[k] = FirstLots
			}
			if made[k]++; made[k] <= FirstLots {
				first[firstTime{person, w.ID}] = true
			}
		}
	}
	return first
}

// stints are the finished tasks of steps that the flower book still has, with what they
// took in working time that was not spent on something else.
func (l *looking) stints() (stints []stint) {
	of := map[studio.ID][]studio.Span{} // when each person was at some task
	for _, w := range l.Doc.Work {
		for _, r := range w.Records {
			if r.State == studio.TaskDone && r.Machine == "" {
				of[r.Person] = append(of[r.Person], studio.Span{From: r.Start, To: r.End})
			}
		}
	}
	new := l.firstTimes()
	for _, w := range l.Doc.Work {
		made := l.Book.Of(w.Made())
		now := l.now(made.Page(), w.Variant)
		for _, record := range w.Records {
			if record.State != studio.TaskDone || record.Machine != "" || now == nil || made.Kind == studio.KindMix ||
				new[firstTime{record.Person, w.ID}] {
				continue
			}
			i := slices.IndexFunc(l.Doc.People, func(p studio.Person) bool { return p.ID == record.Person })
			step, at := now.Step(record.Step)
			if i < 0 || at < 0 || step.Work == nil || step.Work.Stint != "" || record.Counted() == 0 {
				continue
			}
			person := l.Doc.People[i]
			pace := person.Pace(step.Work.Skill)
			took := l.took(person, record, of[record.Person])
			standard := float64(now.Effort(step.Work, true, record.Counted())) / 1000 * 100 / float64(max(1, pace))
			if pace == 0 || took < 1 || standard < 1 {
				continue
			}
			stints = append(
				stints,
				stint{
					page:    now.Page(),
					variant: w.Variant,
					step:    record.Step,
					person:  record.Person,
					skill:   step.Work.Skill,
					pieces:  record.Counted(),
					off:     math.Log(float64(took) / standard),
				},
			)
		}
	}
	return stints
}

// took is the working time of a person within a task, without what another task that was
// begun later took of it.
func (l *looking) took(p studio.Person, r studio.TaskRecord, others []studio.Span) studio.Minute {
	hours := studio.HoursOf(p, l.Calendar, r.Start-1440, r.End+1440)
	took := hours.Worked(studio.Span{From: r.Start, To: r.End})
	for _, o := range others {
		if o.From > r.Start && o.To <= r.End && o != (studio.Span{From: r.Start, To: r.End}) {
			took -= hours.Worked(o)
		}
	}
	return took
}

// way is a page, and the variant of it that was made.
func way(page studio.ID, variant string) string {
	if variant == "" {
		return string(page)
	}
	return string(page) + "~" + variant
}

// now is the current recipe of a page in a variant; nil where the book has none any more.
func (l *looking) now(page studio.ID, variant string) *studio.Recipe {
	if current := l.pages[page]; current != nil {
		return l.Book.Of(studio.Made{Recipe: current.ID, Variant: variant})
	}
	return nil
}

// breakage is what broke of each thing that the book has, by the way it was made, what it took up
// among it, beside what is reckoned with.
// The rate is Beta, its prior what the recipe says, worth priorPieces.
func (l *looking) breakage() (records []Record) {
	type tally struct {
		broken, counted int64
		lots            [][2]int64 // what was lost of each, and begun
	}
	of := map[string]*tally{}
	first := map[string]Record{}
	for _, w := range l.Doc.Work {
		made := l.Book.Of(w.Made())
		now := l.now(made.Page(), w.Variant)
		if now == nil || made.Kind == studio.KindMix || now.Spares.Rule != studio.SparesByBreakage {
			continue
		}
		key := string(OfBreakage) + "/" + way(now.Page(), w.Variant)
		if of[key] == nil {
			of[key], first[key] = &tally{}, Record{
				Key:      key,
				Kind:     OfBreakage,
				Recipe:   now.Page(),
				Variant:  w.Variant,
				Standard: int64(now.Breaks()),
				Points:   []Point{},
			}
		}
		if progress := w.Progress(made); progress.Made {
			lost := w.Started - progress.Serves(made) + w.Broke()
			of[key].broken, of[key].counted = of[key].broken+lost, of[key].counted+w.Started
			of[key].lots = append(of[key].lots, [2]int64{lost, w.Started})
			r := first[key]
			rate := 1000 * lost / max(1, w.Started)
			r.Points = append(r.Points, Point{Low: rate, High: rate, Weight: w.Started})
			first[key] = r
		}
	}
	for key, t := range of {
		if t.counted == 0 {
			continue
		}
		r := first[key]
		prior := float64(r.Standard) / 1000 * priorPieces
		n := float64(t.counted) + priorPieces
		rate := min(1, (float64(t.broken)+prior)/n)
		unsure := math.Sqrt(rate * (1 - rate) / (n + 1))
		var byLots float64 // where whole trays break, lots differ by more than single pieces would
		for _, lot := range t.lots {
			byLots += math.Pow(float64(lot[0])-rate*float64(lot[1]), 2)
		}
		unsure = max(unsure, math.Sqrt(byLots)/n)
		r.Found, r.Evidence, r.Unsure = int64(perMille(rate)), t.counted, perMille(unsure)
		r.Clear = r.Variant == "" && math.Abs(rate-float64(r.Standard)/1000) > max(0.01, ofMany*unsure) &&
			len(t.lots) >= fewestTasks
		r.Points = r.Points[max(0, len(r.Points)-mostPoints):]
		records = append(records, r)
	}
	return records
}
