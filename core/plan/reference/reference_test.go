package reference

import (
	"encoding/json"
	"flag"
	"go/parser"
	"go/token"
	"io"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
)

func drawn(seed uint64, tasks int, tight bool) *studio.Document {
	random := rand.New(rand.NewPCG(seed, uint64(tasks)))
	return tiny(random.IntN, tasks, tight)
}

// plan writes the solver's best as a plan that says of itself what the checker finds.
func (s *solver) plan() *studio.Plan {
	p := studio.Plan{
		Format:   studio.PlanFormat,
		Version:  studio.Version,
		Now:      s.doc.Now,
		Lots:     []studio.Lot{},
		Links:    []studio.Link{},
		Pegs:     []studio.Peg{},
		Tasks:    []studio.Task{},
		Unplaced: []studio.Unplaced{},
	}
	n := &s.best.node
	for i, a := range s.tasks {
		if n.gone[i] {
			p.Unplaced = append(
				p.Unplaced,
				studio.Unplaced{
					Task:   a.ID,
					Lot:    a.lot,
					Step:   a.Step,
					Reason: studio.NoHours,
					Detail: "leaving it out is best",
				},
			)
			continue
		}
		t := studio.Task{
			ID:     a.ID,
			Lot:    a.lot,
			Step:   a.Step,
			State:  studio.TaskPlanned,
			Start:  n.start[i],
			End:    n.end[i],
			Pieces: a.Pieces,
		}
		switch {
		case a.Done():
			t.State, t.Person = studio.TaskDone, a.Fact.Person
		case a.Wait == nil:
			w := a.ways[n.way[i]]
			t.Person, t.Overtime, t.Tools, t.Setup = s.doc.People[w.person].ID, w.overtime, w.tools, n.charge[i]
			_, t.Pauses, _ = w.hours.Lay(t.Start, a.Runs(&s.doc.People[w.person], t.Setup), a.Pauses())
			if a.Fact != nil {
				resume := t.Start
				t.State, t.Start, t.Resume = a.Fact.State, a.Fact.Start, &resume
			}
		case a.Wait.Load != nil:
			t.Load = &studio.Share{
				Machine: s.doc.Machines[a.ways[n.way[i]].machine].ID,
				Setting: a.Wait.Load.Setting,
				Slots:   a.Wait.Load.Slots,
			}
			if a.Fact != nil {
				t.State = a.Fact.State
			}
		}
		p.Tasks = append(p.Tasks, t)
	}
	p = completed(s.doc, p)
	report := check.Reckon(s.doc, &p)
	p.Orders, p.Objective = report.Orders, report.Objective
	return &p
}

func readable(doc *studio.Document) string {
	data, _ := json.MarshalIndent(doc.Direct, "", " ")
	return string(data)
}

func TestTheSolverImportsNothingOfOursButTheDocument(t *testing.T) {
	for _, name := range []string{"solver_test.go", "earliest_test.go", "clash_test.go"} {
		file, err := parser.ParseFile(token.NewFileSet(), name, nil, parser.ImportsOnly)
		require.NoError(t, err)
		for _, i := range file.Imports {
			assert.True(
				t,
				!strings.Contains(i.Path.Value, "bractum/") || i.Path.Value == `"bractum/core/studio"`,
				i.Path.Value,
			)
		}
	}
}

// Up to five tasks: what the solver proves best is what trying every minute finds.
func TestTheSolverAgreesWithEveryMinute(t *testing.T) {
	compared := map[int]int{}
	for seed := range uint64(300) {
		tasks := 1 + int(seed%5)
		doc := drawn(seed, tasks, true)
		require.Empty(t, doc.Validate(), "%d: %s", seed, readable(doc))
		e, all := enumerate(doc, 4_000)
		if !all {
			continue
		}
		compared[tasks]++
		s := solve(doc, false, 1<<30)
		require.NotNil(t, e.best, "leaving everything out is a plan")
		require.NotNil(t, s.best, "%d: %s", seed, readable(doc))
		require.Equal(t, *e.best, s.best.objective, "%d: %s", seed, readable(doc))
		late := solve(doc, true, 1<<30)
		require.Equal(t, e.best.Lateness, late.best.objective.Lateness, "%d: %s", seed, readable(doc))
	}
	t.Logf("%v compared, by number of tasks", compared)
	assert.Greater(t, compared[4], 20)
	assert.Greater(t, compared[5], 10)
}

// measured plans documents whose optimum is proven: the planner never breaches, is never
// better, and its bound is never above. It counts how often it is as good.
func measured(t testing.TB, seeds uint64, most int, decisions int) (proven, same int) {
	for seed := range seeds {
		doc := drawn(seed, 5+int(seed)%(most-4), seed%2 == 0)
		require.Empty(t, doc.Validate(), "%d: %s", seed, readable(doc))
		s := solve(doc, true, decisions)
		if !s.proven() {
			continue
		}
		proven++
		optimum := s.best.objective.Lateness
		optimal := s.plan()
		require.Empty(t, check.Plan(doc, optimal), "%d: %s", seed, readable(doc))
		require.Equal(t, optimum, optimal.Objective.Lateness)
		p, err := plan.Make(doc, nil, plan.Options{Steps: 4000, Seed: 1, LatenessOnly: true})
		require.NoError(t, err)
		require.Empty(t, check.Plan(doc, p), "%d: %s", seed, readable(doc))
		require.GreaterOrEqual(t, p.Objective.Lateness, optimum, "%d: %s", seed, readable(doc))
		require.LessOrEqual(t, *p.Bound, optimum, "%d: %+v of %s", seed, *p.Bounds, readable(doc))
		var step int64
		for _, o := range doc.Direct.Orders {
			step = max(step, o.Importance)
		}
		require.LessOrEqual(
			t,
			p.Objective.Lateness,
			max(optimum+optimum/20, optimum+step),
			"%d: %s",
			seed,
			readable(doc),
		)
		if p.Objective.Lateness == optimum {
			same++
		}
	}
	return proven, same
}

// Up to ten tasks, all rules mixed: nearly every time nothing better is possible.
func TestThePlannerIsMeasuredByTheSolver(t *testing.T) {
	proven, same := measured(t, 300, 10, 20_000)
	t.Logf("%d optima proven; the planner reaches %d", proven, same)
	assert.Greater(t, proven, 200)
	assert.GreaterOrEqual(t, float64(same), 0.98*float64(proven))
}

// BenchmarkSmallInstances is the same for up to fourteen tasks.
func BenchmarkSmallInstances(b *testing.B) {
	for b.Loop() {
		proven, same := measured(b, 300, 14, 200_000)
		b.ReportMetric(float64(proven), "proven")
		b.ReportMetric(100*float64(same)/float64(proven), "%optimal")
	}
}

var write = flag.Bool("write", false, "write the optimal plans of docs/formats/instances anew")

const instances = "../../../docs/formats/instances/"

// The instances of the format page: their plans are proven best, and the plan beside
// each breaks the one rule that its name says.
func TestTheInstancesOfTheFormatPage(t *testing.T) {
	files, err := filepath.Glob(instances + "?-*.json")
	require.NoError(t, err)
	spoilt := 0
	for _, file := range files {
		if strings.Count(filepath.Base(file), ".") > 1 {
			continue
		}
		name := strings.TrimSuffix(file, ".json")
		doc := reading(t, file, studio.Read)
		s := solve(doc, false, 1<<30)
		if *write {
			data, err := json.MarshalIndent(s.plan(), "", "  ")
			require.NoError(t, err)
			require.NoError(t, os.WriteFile(name+".plan.json", append(data, '\n'), 0o644))
		}
		optimal := reading(t, name+".plan.json", studio.ReadPlan)
		assert.Empty(t, check.Plan(doc, optimal), name)
		assert.Equal(t, s.best.objective, optimal.Objective, name)
		neighbours, err := filepath.Glob(name + ".breaks-*.json")
		require.NoError(t, err)
		for _, neighbour := range neighbours {
			code := strings.TrimSuffix(strings.TrimPrefix(neighbour, name+".breaks-"), ".json")
			breaches := check.Plan(doc, reading(t, neighbour, studio.ReadPlan))
			require.Len(t, breaches, 1, neighbour)
			assert.Equal(t, code, string(breaches[0].Code))
			spoilt++
		}
	}
	assert.Equal(t, 5, spoilt)
}

func reading[T any](t *testing.T, path string, read func(io.Reader) (*T, error)) *T {
	file, err := os.Open(path)
	require.NoError(t, err)
	defer file.Close()
	value, err := read(file)
	require.NoError(t, err, path)
	return value
}

// Larger direct documents, with waits and windows on the drying clock, pieces that
// are moved and tasks that were seen: planned without a breach, whatever they are.
func TestRandomDirectDocumentsArePlanned(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pick := func(n int) int { return rapid.IntRange(0, n-1).Draw(t, "pick") }
		doc := tiny(pick, 5+pick(30), false)
		for range 24 {
			doc.Climate = append(
				doc.Climate,
				studio.Air{TenthsCelsius: 200, HumidityPerMille: studio.PerMille(500 + pick(330))},
			)
		}
		doc.Surroundings = []studio.Surroundings{
			{ID: "cupboard", Name: "Dry cupboard", Hours: doc.Climate, Closed: true},
		}
		doc.DryingClasses = []studio.DryingClass{
			{
				ID:            "bead",
				Name:          "Bead",
				FirmMinutes:   3,
				StiffMinutes:  3 + int64(pick(20)),
				DryMinutes:    40,
				Thickness:     1000,
				Spread:        200,
				StallHumidity: 800,
			},
		}
		dries := func(state studio.State) studio.Length {
			return studio.Length{
				Dries: &studio.Dries{
					Class:     "bead",
					Thickness: 1000,
					State:     state,
					In:        []studio.ID{"", "cupboard"}[pick(2)],
				},
			}
		}
		for i := range doc.Direct.Lots {
			tasks := doc.Direct.Lots[i].Tasks
			for j := range tasks {
				if w := tasks[j].Wait; w != nil && w.Load == nil && pick(2) == 0 {
					w.Least, w.Wished = dries(studio.Firm), nil
					if j > 1 && tasks[j-2].Wait != nil && tasks[j-2].Wait.Least.Dries != nil {
						w.Least, w.Continues = dries(studio.Dry), tasks[j-2].ID
					}
				}
				if pick(4) == 0 {
					doc.Seen = append(
						doc.Seen,
						studio.Seen{Task: tasks[j].ID, Person: "teun", Start: studio.Minute(95 + pick(40))},
					)
				}
			}
		}
		for i := range doc.Direct.Links {
			k := &doc.Direct.Links[i]
			if k.Most != nil && pick(2) == 0 {
				firm, stiff := dries(studio.Firm), dries(studio.Stiff)
				k.Least, k.Most = &firm, &stiff
			}
		}
		require.Empty(t, doc.Validate())
		p, err := plan.Make(doc, nil, plan.Options{Steps: 120, Seed: 7})
		require.NoError(t, err)
		require.Empty(t, check.Plan(doc, p))
	})
}
