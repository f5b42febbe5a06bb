package risk_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/risk"
	"bractum/core/studio"
	"bractum/demo"
)

func planned(t require.TestingT, doc *studio.Document) *studio.Plan {
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	return made
}

func chances(
	t require.TestingT,
	doc *studio.Document,
	made *studio.Plan,
	options risk.Options,
) map[studio.ID]risk.Chance {
	all, err := risk.Chances(doc, made, options)
	require.NoError(t, err)
	require.Len(t, all, len(made.Orders))
	by := map[studio.ID]risk.Chance{}
	for _, c := range all {
		by[c.Order] = c
	}
	return by
}

// Where everything goes as it is planned every order is ready when the plan says, or sooner where somebody has time.
func TestWhatGoesAsPlannedIsReadyAsPlanned(t *testing.T) {
	for _, doc := range []*studio.Document{demo.Document(), demo.Season(3, 0.3, 75), demo.Season(4, 0.5, 90)} {
		made := planned(t, doc)
		of := chances(t, doc, made, risk.Options{Most: 1, Spreads: risk.Spreads{Steady: true}})
		for _, o := range made.Orders {
			if o.Ready != nil {
				assert.LessOrEqual(t, of[o.Order].Usual, *o.Ready, "order %s of %s", o.Order, doc.Name)
			}
		}
	}
}

// direct is one maker's work of so many minutes a day before it is wanted.
func direct(minutes studio.Minute, by studio.Minute) (*studio.Document, *studio.Plan) {
	doc := demo.Document()
	doc.Orders, doc.Work, doc.Shelf, doc.Decided, doc.Divided, doc.Pins, doc.Seen = nil, nil, nil, nil, nil, nil, nil
	teun := doc.People[1]
	teun.Hours, teun.Breaks, teun.Away, teun.AwayTimes, teun.Overtime = nil, nil, nil, nil, nil
	teun.Shifts = []studio.Span{{From: doc.Now, To: doc.Now + 20_000}}
	doc.People = []studio.Person{teun}
	doc.Direct = &studio.Instance{
		Lots: []studio.Routing{
			{ID: "lot", Tasks: []studio.Activity{{ID: "wire", Work: []studio.Effort{{Skill: teun.Skills[0].Skill,
				Minutes: minutes}}}}},
		},
		Orders: []studio.Want{{ID: "choir", ReadyBy: doc.Now + by, Importance: 1, Lots: []studio.ID{"lot"}}},
	}
	made, err := plan.Make(doc, &count.Result{}, plan.Options{})
	if err != nil {
		panic(err)
	}
	return doc, made
}

// The chance that one task is in time is that of its minutes: what a normal distribution gives, within what so many
// replays can say.
func TestAChanceIsThatOfItsSpread(t *testing.T) {
	doc, made := direct(400, 480)
	took := float64(made.Tasks[0].End - made.Tasks[0].Start)
	of := chances(t, doc, made, risk.Options{Most: 4000, Seed: 7, Spreads: risk.Spreads{Minutes: 250}})["choir"]
	z := (math.Log(480/took) + 0.25*0.25/2) / 0.25
	exact := 1000 * math.Erfc(-z/math.Sqrt2) / 2
	assert.InDelta(t, exact, float64(of.Least+of.Most)/2, 20)
	assert.Less(t, of.Most-of.Least, studio.PerMille(30))
	assert.Greater(t, of.WithHour, of.InTime)
	assert.Equal(t, risk.Minutes, of.Causes[0].Cause)
	assert.Equal(t, studio.ID("wire"), of.Causes[0].Task)
}

// A delivery that is late once in ten times makes what waits for it late so often.
func TestALateDeliveryMakesLate(t *testing.T) {
	doc, _ := direct(60, 400)
	opens := doc.Now + 200
	doc.Gates = []studio.Gate{{ID: "wires", Name: "Wires", Opens: &opens}}
	doc.Direct.Lots[0].Tasks[0].Gates = []studio.ID{"wires"}
	made, err := plan.Make(doc, &count.Result{}, plan.Options{})
	require.NoError(t, err)
	of := chances(t, doc, made, risk.Options{Most: 4000, Spreads: risk.Spreads{Late: 100}})["choir"]
	assert.InDelta(t, 0.9, float64(of.InTime)/float64(of.Replays), 0.02)
	assert.Equal(t, risk.Delivery, of.Causes[0].Cause)
}

// The same seed gives the same, on however many workers; another gives something else within what is said.
func TestReplaysAreTheSameForASeed(t *testing.T) {
	doc := demo.Document()
	made := planned(t, doc)
	options := risk.Options{Most: 200, Seed: 1, Spreads: risk.UsualSpreads()}
	one, err := risk.Chances(doc, made, options)
	require.NoError(t, err)
	options.Workers = 3
	three, err := risk.Chances(doc, made, options)
	require.NoError(t, err)
	assert.Equal(t, one, three)
}

// Replays end once every chance is known as well as is wanted, and sooner where they are to stop.
func TestReplaysEndWhenTheyAreEnough(t *testing.T) {
	doc := demo.Document()
	made := planned(t, doc)
	told := 0
	options := risk.Options{
		Most:    5000,
		Within:  40,
		Spreads: risk.UsualSpreads(),
		Tell:    func(done, of int) { told = done },
	}
	for _, c := range chances(t, doc, made, options) {
		assert.LessOrEqual(t, c.Most-c.Least, studio.PerMille(82))
		assert.Less(t, c.Replays, 5000)
		assert.Equal(t, told, c.Replays)
		assert.Len(t, c.Grains, min(240, c.Replays))
	}
	stop := make(chan struct{})
	close(stop)
	options.Stop = stop
	for _, c := range chances(t, doc, made, options) {
		assert.Zero(t, c.Replays)
		assert.EqualValues(t, 1000, c.Most, "nothing is known of it")
	}
}

// More that goes wrong never makes an order surer, beyond chance.
func TestWorseIsNoSurer(t *testing.T) {
	doc := demo.Season(5, 0.2, 95)
	made := planned(t, doc)
	sure := func(s risk.Spreads) (in int) {
		for _, c := range chances(t, doc, made, risk.Options{Most: 200, Spreads: s, Workers: 2}) {
			in += c.Kept
		}
		return in
	}
	usual := sure(risk.UsualSpreads())
	worse := risk.UsualSpreads()
	worse.Minutes, worse.Away, worse.Breakage = 500, 100, 2500
	assert.Less(t, sure(worse), usual)
}

// An order of which something has no place is never in time.
func TestWhatHasNoPlaceIsNeverInTime(t *testing.T) {
	doc, _ := direct(60, 400)
	doc.Direct.Lots[0].Tasks[0].Work[0].Skill = "nobody's"
	made, err := plan.Make(doc, &count.Result{}, plan.Options{})
	require.NoError(t, err)
	require.NotEmpty(t, made.Unplaced)
	assert.Zero(t, chances(t, doc, made, risk.Options{Most: 100, Spreads: risk.UsualSpreads()})["choir"].InTime)
}

// BenchmarkReplaysOfTheDemo and of the season are a thousand of each on two workers.
func BenchmarkReplaysOfTheDemo(b *testing.B) { replays(b, demo.Document()) }

func BenchmarkReplaysOfTheSeason(b *testing.B) { replays(b, demo.Season(1, 1, 75)) }

func replays(b *testing.B, doc *studio.Document) {
	made := planned(b, doc)
	for b.Loop() {
		chances(b, doc, made, risk.Options{Most: 1000, Seed: rand.Uint64(), Spreads: risk.UsualSpreads(), Workers: 2})
	}
}
