package promise_test

import (
	"flag"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/promise"
	"bractum/core/studio"
	"bractum/demo"
)

// yard is the demo with its plan in force.
type yard struct {
	doc      *studio.Document
	calendar studio.Calendar
	made     *studio.Plan
	flowers  map[string]studio.ID
}

func opened(t require.TestingT, doc *studio.Document) yard {
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	y := yard{doc: doc, calendar: calendar, made: made, flowers: map[string]studio.ID{}}
	for _, r := range doc.Recipes {
		if r.Kind == studio.KindFlower {
			y.flowers[r.Name] = r.ID
		}
	}
	return y
}

// order is one of so many of some flowers in Oyster, in turn.
func (y yard) order(leaves string, lines ...any) studio.Order {
	o := studio.Order{
		ID:         promise.AskedID,
		Name:       "Regatta",
		Importance: 10,
		State:      studio.OrderOpen,
		Allergies:  []string{},
		Leaving:    studio.Collected,
	}
	when, err := studio.ParseWallTime(leaves)
	if err != nil {
		panic(err)
	}
	o.Leaves = when
	for i := 0; i < len(lines); i += 2 {
		o.Lines = append(
			o.Lines,
			studio.OrderLine{ID: studio.ID(fmt.Sprint("line ", i/2)), Colourway: demo.ID("Oyster"),
				Quantity: int64(lines[i].(int)), Recipe: y.flowers[lines[i+1].(string)], ServiceLevel: 950},
		)
	}
	return o
}

func (y yard) asks(t require.TestingT, o studio.Order) promise.Question {
	with, err := promise.With(y.doc, o)
	require.NoError(t, err)
	return promise.Question{Doc: with, Order: o.ID, Before: y.made, From: y.made}
}

func look(t require.TestingT, q promise.Question) *promise.Answer {
	search, err := promise.UsualSearch(q)
	require.NoError(t, err)
	a, err := promise.Look(q, search)
	require.NoError(t, err)
	return a
}

func outcome(p *studio.Plan, order studio.ID) studio.Outcome {
	for _, o := range p.Orders {
		if o.Order == order {
			return o
		}
	}
	return studio.Outcome{}
}

// harmless holds a plan against the one before: it breaks no rule, and nobody else is later in steps of lateness.
func (y yard) harmless(t require.TestingT, doc *studio.Document, made *studio.Plan) {
	require.Empty(t, check.Plan(doc, made))
	for _, was := range y.made.Orders {
		assert.LessOrEqual(t, outcome(made, was.Order).Steps, was.Steps, "order %s", was.Order)
	}
}

// Three waxflower stems in a fortnight are a yes, and nothing stands in their way.
func TestWhatIsEasyIsAYes(t *testing.T) {
	y := opened(t, demo.Document())
	a, err := promise.Ask(y.asks(t, y.order("2027-10-06T10:00", 3, "Waxflower stem")))
	require.NoError(t, err)
	assert.NotEqual(t, promise.Not, a.Verdict)
	assert.Positive(t, *a.Outcome.Slack)
	assert.NotEmpty(t, a.Chain.Links)
	assert.NotEmpty(t, a.Bill.Hours)
	assert.Empty(t, a.Harms)
	assert.Empty(t, a.Unplaced)
}

// Twelve magnolias need more wire than there is: it is a yes if that is ordered, and says from whom and until when.
func TestWhatIsShortIsAYesIfItIsOrdered(t *testing.T) {
	y := opened(t, demo.Document())
	a, err := promise.Ask(y.asks(t, y.order("2027-10-08T10:00", 12, "Magnolia")))
	require.NoError(t, err)
	require.Equal(t, promise.If, a.Verdict)
	for _, b := range a.Buys {
		assert.NotNil(t, b.Supplier)
		assert.GreaterOrEqual(t, *b.OrderBy, y.doc.Now)
		assert.Positive(t, b.Packs)
	}
}

// Thirty magnolias in a week are too many: there is a date for all of them and a number for that date, and both hold.
// The plan in force is what it was, whatever is looked for.
func TestWhatIsTooMuchHasADateAndANumber(t *testing.T) {
	y := opened(t, demo.Document())
	tasks, orders := fmt.Sprint(y.made.Tasks), fmt.Sprint(y.doc.Orders)
	o := y.order("2027-09-29T10:00", 30, "Magnolia", 6, "Waxflower stem")
	a := look(t, y.asks(t, o))
	assert.Equal(t, tasks, fmt.Sprint(y.made.Tasks))
	assert.Equal(t, orders, fmt.Sprint(y.doc.Orders))
	require.Equal(t, promise.Not, a.Verdict)
	require.NotNil(t, a.Earliest)
	assert.Positive(t, a.Earliest.Compare(o.Leaves))
	y.harmless(t, a.Doc, a.Plan)

	later := o
	later.Leaves = *a.Earliest
	with, err := promise.With(y.doc, later)
	require.NoError(t, err)
	counted, err := count.Up(with)
	require.NoError(t, err)
	kept, err := plan.Repair(with, counted, a.Plan, nil)
	require.NoError(t, err)
	y.harmless(t, with, kept)
	assert.Zero(t, outcome(kept, o.ID).Late, "the date that is named is kept by the plan that goes with it")

	named := y.asks(t, later)
	named.Known = a.Plan
	then, err := promise.Ask(named)
	require.NoError(t, err)
	assert.NotEqual(t, promise.Not, then.Verdict, "and asked for by it, it is a yes at once")

	require.Len(t, a.Fewer, 2)
	assert.Less(t, a.Fewer[0].Could, a.Fewer[0].Asked)
	assert.Equal(t, a.Fewer[1].Asked, a.Fewer[1].Could, "it does not hang on the waxflower")
	for n := range 2 {
		fewer := o
		fewer.Lines = append([]studio.OrderLine{}, o.Lines...)
		if fewer.Lines[0].Quantity = a.Fewer[0].Could + int64(n); fewer.Lines[0].Quantity == 0 {
			fewer.Lines = fewer.Lines[1:]
		}
		then, err := promise.Ask(y.asks(t, fewer))
		require.NoError(t, err)
		assert.Equal(t, n == 0, then.Verdict != promise.Not, "%d of them", fewer.Lines[0].Quantity)
	}
}

var asked = flag.Uint64("asked", 3, "orders that are asked for at random, entered and held against what was answered")

// Whatever is asked, a yes is in time and harms nobody, and is what is planned when the order is entered; a date that
// is named is kept by a plan that breaks no rule. More are asked for with -asked.
func TestWhatIsPromisedIsKept(t *testing.T) {
	y := opened(t, demo.Document())
	names := []string{}
	for _, r := range y.doc.Recipes {
		if r.Kind == studio.KindFlower {
			names = append(names, r.Name)
		}
	}
	for seed := range *asked {
		t.Logf("order %d", seed)
		random := rand.New(rand.NewPCG(seed, 1))
		lines := []any{}
		for range 1 + random.IntN(3) {
			lines = append(lines, 1+random.IntN(24), names[random.IntN(len(names))])
		}
		leaves := y.calendar.Wall(y.doc.Now + studio.Minute(1440+random.IntN(14*1440)))
		o := y.order(leaves.String(), lines...)
		if y.doc.CheckOrder(o) != nil { // not in this colour
			continue
		}
		q := y.asks(t, o)
		a, err := promise.Ask(q)
		require.NoError(t, err)
		if a.Verdict != promise.Not && !a.Found {
			counted, err := count.Up(q.Doc)
			require.NoError(t, err)
			entered, err := plan.Propose(q.Doc, counted, y.made, nil)
			require.NoError(t, err)
			require.Equal(t, *a.Outcome.Ready, *outcome(entered, o.ID).Ready, "as it is planned when it is entered")
		} else if a.Verdict == promise.Not {
			a = look(t, q)
		}
		y.harmless(t, a.Doc, a.Plan)
		if a.Verdict != promise.Not {
			require.Zero(t, a.Outcome.Late)
			require.Empty(t, a.Harms)
		} else if a.Earliest != nil {
			require.Zero(t, outcome(a.Plan, o.ID).Late)
			require.GreaterOrEqual(t, a.Earliest.Compare(leaves), 0)
		}
	}
}

// An order of a file takes the usual values for what it leaves out; what is wrong is said by its place.
func TestAnOrderIsReadFromAFile(t *testing.T) {
	y := opened(t, demo.Document())
	file := fmt.Sprintf(
		`{"name":"Regatta","leaves":"2027-10-08T10:00","lines":[{"recipe":%q,"colourway":%q,"quantity":3}]}`,
		y.flowers["Magnolia"],
		demo.ID("Oyster"),
	)
	o, err := promise.ReadOrder(strings.NewReader(file), y.doc)
	require.NoError(t, err)
	assert.EqualValues(t, 950, o.Lines[0].ServiceLevel)
	_, err = promise.With(y.doc, o)
	require.NoError(t, err)

	o.Lines[0].Quantity = -1
	_, err = promise.With(y.doc, o)
	assert.ErrorContains(t, err, "lines[0].quantity")
	_, err = promise.ReadOrder(strings.NewReader(`{"nam":"Regatta"}`), y.doc)
	assert.ErrorContains(t, err, "nam")
}

// BenchmarkFirstAnswer is what somebody waits for as they type, on the demo and on seasons.
func BenchmarkFirstAnswer(b *testing.B) {
	for name, doc := range map[string]*studio.Document{"demo": demo.Document(), "season": demo.Season(1, 1, 75),
		"full season": demo.Season(1, 1, 90)} {
		b.Run(name, func(b *testing.B) { firstAnswers(b, doc) })
	}
}

func firstAnswers(b *testing.B, doc *studio.Document) {
	y := opened(b, doc)
	q := y.asks(b, y.order("2027-10-08T10:00", 12, "Magnolia", 20, "Waxflower stem"))
	for b.Loop() {
		_, err := promise.Ask(q)
		require.NoError(b, err)
	}
}
