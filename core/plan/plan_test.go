package plan_test

import (
	"encoding/json"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/cases"
	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

// Each case plans a studio.
func TestMain(m *testing.M) { cases.Few(m, "25") }

func made(t require.TestingT, doc *studio.Document) *studio.Plan {
	require.Empty(t, doc.Validate())
	counted, err := count.Up(doc)
	require.NoError(t, err)
	p, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	return p
}

func taskOf(p *studio.Plan, recipe studio.ID, step string) *studio.Task {
	for _, lot := range p.Lots {
		for i := range p.Tasks {
			if lot.Recipe == recipe && p.Tasks[i].Lot == lot.ID && p.Tasks[i].Step == step {
				return &p.Tasks[i]
			}
		}
	}
	return nil
}

func TestTheDemoIsPlannedWithoutBreachAndTheSameEveryTime(t *testing.T) {
	doc := demo.Document()
	first := made(t, doc)
	assert.Empty(t, check.Plan(doc, first))
	assert.Empty(t, first.Unplaced)
	a, _ := json.Marshal(first)
	for range 5 {
		b, _ := json.Marshal(made(t, demo.Document()))
		require.Equal(t, string(a), string(b))
	}
}

func TestEveryOrderSaysWhatItsDateHangsOn(t *testing.T) {
	p := made(t, demo.Document())
	require.Len(t, p.Orders, 4)
	for _, o := range p.Orders {
		require.NotNil(t, o.Ready)
		assert.NotEmpty(t, o.Limit)
	}
}

func TestWhatCannotBePlacedSaysWhyAndSoDoesWhatNeedsIt(t *testing.T) {
	reasons := func(p *studio.Plan) map[studio.Reason]bool {
		seen := map[studio.Reason]bool{}
		for _, u := range p.Unplaced {
			seen[u.Reason] = true
		}
		return seen
	}
	for _, c := range []struct {
		name  string
		spoil func(*studio.Document)
		want  studio.Reason
	}{
		{"nobody can dust", func(d *studio.Document) {
			for i := range d.People {
				var kept []studio.Skill
				for _, s := range d.People[i].Skills {
					if s.Skill != "dusting" {
						kept = append(kept, s)
					}
				}
				d.People[i].Skills = kept
			}
		}, studio.NoSkill},
		{"fog for weeks", func(d *studio.Document) {
			for i := range d.Climate {
				d.Climate[i].HumidityPerMille = 880
			}
		}, studio.Stalled},
		{"nobody works", func(d *studio.Document) {
			for i := range d.People {
				d.People[i].Hours = nil
			}
		}, studio.NoHours},
	} {
		t.Run(c.name, func(t *testing.T) {
			doc := demo.Document()
			c.spoil(doc)
			p := made(t, doc)
			assert.True(t, reasons(p)[c.want], p.Unplaced)
			assert.True(t, reasons(p)[studio.AfterGone])
			assert.Empty(t, check.Plan(doc, p), "an honest incomplete plan is no breach")
			assert.Positive(t, p.Objective.Lateness)
			var gone int
			for _, o := range p.Orders {
				if o.Ready == nil {
					gone++
				}
			}
			assert.Positive(t, gone)
		})
	}
}

// What can never run says what there would have to be.
func TestWhatIsNeverPossibleSaysWhatWouldBeNeeded(t *testing.T) {
	held := shaping(5)
	held.Holds = []studio.Occupation{{Place: "tray", Slots: 3}}
	unskilled := studio.Activity{Work: []studio.Effort{{Skill: "dusting", Minutes: 5}}}
	doc := direct(60, []studio.Activity{held}, []studio.Activity{unskilled}, []studio.Activity{shaping(2000)})
	require.Empty(t, doc.Validate())
	p, err := plan.Make(doc, nil, plan.Options{Steps: 20, Seed: 1})
	require.NoError(t, err)
	require.Empty(t, check.Plan(doc, p))
	why := map[studio.ID]studio.Unplaced{}
	for _, u := range p.Unplaced {
		why[u.Task] = u
	}
	assert.Equal(t, studio.NoPlace, why["lot 0.0"].Reason)
	assert.EqualValues(
		t,
		studio.With{"place": "Spoon tray", "needs": studio.Minute(3), "has": int64(1)},
		why["lot 0.0"].With,
	)
	assert.Equal(t, studio.NoSkill, why["lot 1.0"].Reason)
	assert.Equal(t, studio.With{"skills": []string{"dusting"}}, why["lot 1.0"].With)
	assert.Equal(t, studio.NoHours, why["lot 2.0"].Reason)
}

// Flowers that were finished in time and still wait for their day are not late,
// however long they wait.
func TestWhatLiesFinishedIsReadySinceItWasMade(t *testing.T) {
	doc := demo.Document()
	doc.Orders = doc.Orders[:1]
	doc.Orders[0].Lines = doc.Orders[0].Lines[:1]
	oyster := map[string]studio.ID{
		"core":        demo.ID("Centre white"),
		"petal":       demo.ID("Oyster ivory"),
		"inner petal": demo.ID("Oyster shell"),
		"dust":        demo.ID("Pebble dust"),
	}
	for i := range doc.Recipes {
		doc.Recipes[i].KeepInStock = 0
	}
	doc.Shelf = []studio.ShelfLot{
		{
			ID:      "finished",
			Recipe:  demo.ID("Magnolia"),
			Mixes:   oyster,
			Amount:  4,
			Quality: studio.Good,
			MadeOn:  doc.Now - 100,
		},
	}
	made0 := made(t, doc)
	require.Empty(t, made0.Tasks)
	doc.Now += 10 * 1440
	later := made(t, doc)
	require.Empty(t, check.Plan(doc, later))
	assert.Zero(t, later.Orders[0].Late)
	assert.Equal(t, made0.Orders, later.Orders)
}

// A tray in which a made lot still dries is free again when the wait is over,
// even though nobody needs the pieces.
func TestPlacesOfSurplusThatDriesAreFreedInTime(t *testing.T) {
	doc := demo.Document()
	p := made(t, doc)
	task := taskOf(p, demo.ID("Ranunculus outer petal"), "cut")
	lot := p.Lots[slices.IndexFunc(p.Lots, func(l studio.Lot) bool { return l.ID == task.Lot })]
	doc.Work = []studio.WorkLot{
		{ID: lot.ID, Recipe: lot.Recipe, Mixes: lot.Mixes, Ordinal: lot.Ordinal, Need: lot.Need, Started: lot.Started,
			Records: []studio.TaskRecord{
				{
					Step:   "cut",
					State:  studio.TaskDone,
					Person: demo.ID("Teun"),
					Start:  doc.Now - 30,
					End:    doc.Now - 1,
					Good:   lot.Started,
				},
			}},
	}
	doc.Shelf = append(
		doc.Shelf,
		studio.ShelfLot{
			ID:      "surplus",
			Recipe:  lot.Recipe,
			Mixes:   lot.Mixes,
			Amount:  lot.Started,
			Quality: studio.Good,
			MadeOn:  doc.Now - 1,
			From:    lot.ID,
		},
	)
	for i := range doc.Orders {
		doc.Orders[i].Lines = slices.DeleteFunc(doc.Orders[i].Lines, func(l studio.OrderLine) bool {
			return l.Recipe == demo.ID("Ranunculus") && l.Colourway == demo.ID("Signal")
		})
	}
	for i := range doc.Places {
		if doc.Places[i].Name == "Spoon tray" {
			doc.Places[i].Slots = 8
		}
	}
	after := made(t, doc)
	assert.Empty(t, after.Unplaced)
	assert.Empty(t, check.Plan(doc, after))
}

func BenchmarkDemo(b *testing.B) {
	doc := demo.Document()
	for b.Loop() {
		made(b, doc)
	}
}
