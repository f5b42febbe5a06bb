package learn_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/drying"
	"bractum/core/learn"
	"bractum/core/studio"
	"bractum/demo"
)

// truth is what is really so in a studio whose standards are the demo's.
type truth struct {
	dries, wires, teun float64 // multiples of the standard
	breaks             float64
	scatter            float64 // of minutes, beyond a tenth
	seed               uint64
}

// recorded is a history of so many lots of magnolia petals under a truth: cut and wired by
// Teun or Ishaan, dried in moulds, touched now and then, dusted by Maren.
func recorded(t *testing.T, lots int, is truth) learn.History {
	doc := demo.Document()
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	for i := range doc.People { // everybody is always there, so that a minute is a minute
		doc.People[i].Hours, doc.People[i].Breaks, doc.People[i].Away = nil, nil, nil
		doc.People[i].Shifts = []studio.Span{{From: 0, To: doc.Now}}
	}
	book, air := studio.NewBook(doc), drying.NewRoom(doc, calendar)
	petal := book.Recipe(demo.ID("Magnolia outer petal"))
	random := rand.New(rand.NewPCG(3, 4+is.seed))
	noise := func(spread float64) float64 { return math.Exp(spread * random.NormFloat64()) }
	for lot := range lots {
		const pieces = 20
		w := studio.WorkLot{
			ID:      studio.ID(fmt.Sprint("lot ", lot)),
			Recipe:  petal.ID,
			Ordinal: lot + 1,
			Need:    15,
			Started: pieces,
			Mixes:   map[string]studio.ID{"petal": demo.ID("Oyster ivory"), "dust": demo.ID("Pebble dust")},
		}
		at := studio.Minute(500 + 2700*lot/max(1, lots)*10)
		task := func(step, person string, times float64) {
			s, _ := petal.Step(step)
			i := 0
			for doc.People[i].ID != demo.ID(person) {
				i++
			}
			standard := float64(
				petal.Effort(s.Work, true, pieces),
			) / 1000 * 100 / float64(
				doc.People[i].Pace(s.Work.Skill),
			)
			takes := max(1, studio.Minute(math.Round(standard*times*noise(0.1+is.scatter))))
			w.Records = append(
				w.Records,
				studio.TaskRecord{
					Step:   step,
					State:  studio.TaskDone,
					Person: demo.ID(person),
					Start:  at,
					End:    at + takes,
					Good:   pieces,
				},
			)
			at += takes
		}
		who, times := "Teun", is.teun
		if lot%2 == 1 {
			who, times = "Ishaan", 1
		}
		task("cut", who, times)
		task("wire", who, is.wires) // as fast as everybody at wiring
		task("set", who, times)
		d := studio.Known(doc, book, &studio.Lot{ID: w.ID, Recipe: w.Recipe, Mixes: w.Mixes}, 3, studio.Dry)
		need := int64(float64(air.Standard(*d, 50)) * is.dries * noise(0.2))
		down, clock := at, air.Clock(d.Class, d.In)
		dry, ok := clock.Ready(down, need)
		require.True(t, ok)
		for touch := down + 120; ; touch += 60 + studio.Minute(random.IntN(60)) {
			found := studio.FoundSoft
			if touch >= dry {
				found = studio.FoundDry
			} else if clock.At(touch)-clock.At(down) > need/10 { // as the hours to firm are to those to dry
				found = studio.FoundFirm
			}
			w.Checks = append(w.Checks, studio.Check{Step: "dry", At: touch, Person: demo.ID("Maren"), Found: found})
			if at = touch; found == studio.FoundDry {
				break
			}
		}
		task("dust", "Maren", 1)
		last := &w.Records[len(w.Records)-1]
		for range pieces {
			if random.Float64() < is.breaks {
				last.Good, last.Broken = last.Good-1, last.Broken+1
			}
		}
		doc.Work = append(doc.Work, w)
	}
	return learn.History{Doc: doc, Book: book, Air: air, Calendar: calendar}
}

// Whoever makes something for the first time is slow; that is no standard, nor their pace.
func TestFirstTimesAreNoStandard(t *testing.T) {
	weeksBefore := func() learn.History {
		h := recorded(t, 24, truth{dries: 1, wires: 1, teun: 1})
		h.Doc.Work = append(h.Doc.Work, studio.WorkLot{ID: "long ago", Recipe: demo.ID("Dahlia"), Started: 1,
			Records: []studio.TaskRecord{{Step: "inner", State: studio.TaskDone, Person: demo.ID("Maren"), Start: -20_000,
				End: -19_990, Good: 1}}})
		return h
	}
	usual := learn.Look(weeksBefore())
	h := weeksBefore()
	for i := range 6 { // three of Teun's and three of Ishaan's
		for j := range h.Doc.Work[i].Records {
			if r := &h.Doc.Work[i].Records[j]; r.Person != demo.ID("Maren") {
				r.Start -= 2 * (r.End - r.Start)
			}
		}
	}
	step := func(r learn.Record) bool { return r.Step == "wire" }
	assert.EqualValues(t, 360, find(usual, learn.OfStep, step).Evidence, "of 24 lots of 20, three of each of two makers")
	assert.Equal(t, find(usual, learn.OfStep, step), find(learn.Look(h), learn.OfStep, step))
}

func find(records []learn.Record, kind learn.Kind, match func(learn.Record) bool) *learn.Record {
	for i := range records {
		if records[i].Kind == kind && match(records[i]) {
			return &records[i]
		}
	}
	return nil
}

func TestWhatIsOtherThanTheStandardIsFoundAndTheRestIsNot(t *testing.T) {
	h := recorded(t, 24, truth{dries: 1.3, wires: 0.75, teun: 0.7, breaks: 0.2})
	records := learn.Look(h)
	class := find(records, learn.OfClass, func(r learn.Record) bool { return r.Class == demo.ID("thin petal") })
	require.NotNil(t, class)
	assert.True(t, class.Clear)
	assert.EqualValues(t, 24, class.Evidence)
	assert.InDelta(t, 1.3, float64(class.Found)/float64(class.Standard), 0.13)
	assert.Len(t, class.Points, 24)

	step := func(key string) *learn.Record {
		return find(records, learn.OfStep, func(r learn.Record) bool { return r.Step == key })
	}
	assert.True(t, step("wire").Clear)
	assert.InDelta(t, 0.75, float64(step("wire").Found)/float64(step("wire").Standard), 0.12)
	assert.EqualValues(t, 480, step("wire").Evidence)
	assert.False(t, step("dust").Clear, "dusting is as it was reckoned")

	pace := func(name, skill string) *learn.Record {
		return find(
			records,
			learn.OfPace,
			func(r learn.Record) bool { return r.Person == demo.ID(name) && r.Skill == skill },
		)
	}
	teun, ishaan := pace("Teun", "shaping"), pace("Ishaan", "shaping")
	assert.Greater(
		t,
		float64(teun.Found)/float64(teun.Standard),
		1.1*float64(ishaan.Found)/float64(ishaan.Standard),
		"Teun is the faster of the two beyond his pace",
	)
	assert.False(t, pace("Maren", "dusting").Clear)

	breaks := find(records, learn.OfBreakage, func(learn.Record) bool { return true })
	assert.True(t, breaks.Clear)
	assert.InDelta(t, 200, float64(breaks.Found), 50)
	for i, r := range records[1:] {
		assert.False(t, r.Clear && !records[i].Clear, "what is clear comes first")
	}
}

func TestWhatIsMadeAnotherWayIsToldApart(t *testing.T) {
	h := recorded(t, 24, truth{dries: 1, wires: 1, teun: 1, breaks: 0.3})
	for i := range h.Doc.Recipes {
		if r := &h.Doc.Recipes[i]; r.ID == demo.ID("Magnolia outer petal") {
			r.Variants = []studio.Variant{{Name: "undusted", StopAfter: "dust"}}
		}
	}
	for i := range h.Doc.Work[:12] {
		h.Doc.Work[i].Variant = "undusted"
	}
	h.Book = studio.NewBook(h.Doc)
	records := learn.Look(h)
	for _, variant := range []string{"", "undusted"} {
		breaks := find(records, learn.OfBreakage, func(r learn.Record) bool { return r.Variant == variant })
		require.NotNil(t, breaks, variant)
		assert.EqualValues(t, 240, breaks.Evidence)
		assert.Equal(t, variant == "", breaks.Clear, "only the plain way has a standard of its own")
		assert.NotNil(
			t,
			find(records, learn.OfStep, func(r learn.Record) bool { return r.Variant == variant && r.Step == "wire" }),
		)
	}
}

func TestAStudioThatIsAsItsStandardsSayGetsNoProposals(t *testing.T) {
	wrong := 0
	h := recorded(t, 24, truth{dries: 1, wires: 1, teun: 1, breaks: 0.06})
	for _, r := range learn.Look(h) {
		if r.Clear {
			wrong++
			t.Log(r.Key, r.Standard, r.Found)
		}
	}
	assert.LessOrEqual(t, wrong, 1, "one in twenty may be off by chance")
	assert.Empty(t, learn.Look(recorded(t, 0, truth{dries: 1, wires: 1, teun: 1})))
}

// Of four tasks, or twelve, that are scattered as work is, hardly ever comes a proposal.
func TestScatterIsNotProposed(t *testing.T) {
	var looked, proposed int
	for seed := range uint64(60) {
		for _, lots := range []int{4, 12} {
			h := recorded(t, lots, truth{dries: 1, wires: 1, teun: 1, breaks: 0.06, scatter: 0.2, seed: seed})
			for _, r := range learn.Look(h) {
				if looked++; r.Clear {
					proposed++
					t.Log(r.Key, r.Standard, r.Found, r.Evidence)
				}
			}
		}
	}
	assert.Greater(t, looked, 500)
	assert.LessOrEqual(t, 100*proposed, looked, "one in a hundred")
}

func TestAcceptingMovesTheStandardAndRefusingKeepsItAway(t *testing.T) {
	h := recorded(t, 24, truth{dries: 1.3, wires: 0.75, teun: 1, breaks: 0.2})
	for _, r := range learn.Look(h) {
		if !r.Clear {
			continue
		}
		change, err := learn.Accept(h.Doc, r)
		require.NoError(t, err)
		after := change.Into(h.Doc)
		if change.Recipe != nil {
			after = after.With([]studio.Recipe{*change.Recipe})
		}
		was := h
		was.Doc, was.Book = after, studio.NewBook(after)
		was.Air = drying.NewRoom(after, h.Calendar)
		same := find(learn.Look(was), r.Kind, func(other learn.Record) bool { return other.Key == r.Key })
		assert.Equal(t, r.Found, same.Standard, r.Key)
		assert.Less(
			t,
			math.Abs(math.Log(float64(same.Found)/float64(same.Standard))),
			math.Abs(math.Log(float64(r.Found)/float64(r.Standard)))/2,
			"%s: little is left to propose",
			r.Key,
		)
	}
	r := learn.Record{Standard: 100, Found: 130, Evidence: 20, Unsure: 40, Clear: true}
	assert.True(t, r.Proposes(nil))
	assert.False(t, r.Proposes(&learn.Refused{Found: 130, Evidence: 20}))
	r.Evidence = 31
	assert.False(t, r.Proposes(&learn.Refused{Found: 130, Evidence: 20}), "more of the same")
	r.Found = 140
	assert.True(t, r.Proposes(&learn.Refused{Found: 130, Evidence: 20}), "more, and further")
	r.Found, r.Evidence = 130, 40
	assert.True(t, r.Proposes(&learn.Refused{Found: 130, Evidence: 20}), "twice as much")
	r.Clear = false
	assert.False(t, r.Proposes(nil))
	_, err := learn.Accept(h.Doc, learn.Record{Kind: learn.OfClass, Class: "gone"})
	assert.ErrorContains(t, err, "is gone")
}
