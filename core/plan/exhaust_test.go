package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
)

// small is a direct studio from 8:00 to 15:00 in which lots of one or more tasks are wanted by some minute each.
func small(
	people []studio.Person,
	links []studio.Lag,
	wanted map[studio.ID]studio.Minute,
	lots ...studio.Routing,
) *studio.Document {
	doc := held(links, lots...)
	doc.Settings.HorizonMinutes = 1440
	doc.People = people
	for i := range doc.Direct.Orders {
		o := &doc.Direct.Orders[i]
		o.ReadyBy, o.Importance = wanted[o.Lots[0]], 10
	}
	return doc
}

func work(id studio.ID, skill string, minutes studio.Minute) studio.Activity {
	return studio.Activity{ID: id, Work: []studio.Effort{{Skill: skill, Minutes: minutes}}}
}

func maker(id studio.ID, from studio.Minute, skills ...string) studio.Person {
	p := studio.Person{ID: id, Name: string(id), Shifts: []studio.Span{{From: from, To: 900}}}
	for _, skill := range skills {
		p.Skills = append(p.Skills, studio.Skill{Skill: skill, Pace: 100})
	}
	return p
}

func latenessOf(t *testing.T, doc *studio.Document) int64 {
	require.Empty(t, doc.Validate())
	p, err := plan.Make(doc, nil, plan.Options{Steps: 3000})
	require.NoError(t, err)
	require.Empty(t, check.Plan(doc, p))
	return p.Objective.Lateness
}

// What can be done with either of two tools leaves the one to what needs that.
func TestASmallProblemChoosesTools(t *testing.T) {
	long, short := work("roll", "shaping", 70), work("vein", "shaping", 20)
	long.Tools = []studio.ToolUse{{AnyOf: []studio.ID{"veiner", "cutter"}, Number: 1}}
	short.Tools = []studio.ToolUse{{AnyOf: []studio.ID{"veiner"}, Number: 1}}
	doc := small(
		[]studio.Person{maker("Teun", 480, "shaping"), maker("Maren", 480, "shaping")}, nil,
		map[studio.ID]studio.Minute{"leaves": 550, "petals": 500},
		studio.Routing{ID: "leaves", Tasks: []studio.Activity{long}},
		studio.Routing{ID: "petals", Tasks: []studio.Activity{short}},
	)
	doc.Tools = []studio.Tool{{ID: "veiner", Name: "Veiner", Number: 1}, {ID: "cutter", Name: "Cutter", Number: 1}}
	assert.Zero(t, latenessOf(t, doc))
}

// What a window ties to work that itself waits for other work may have to be made room for: the one who
// alone can wire leaves the first minutes to the petals, though the stem could be begun by then.
func TestASmallProblemWaitsWhereThatIsBetter(t *testing.T) {
	most := studio.Length{Minutes: 100}
	tie := studio.Length{Minutes: 285}
	doc := small(
		[]studio.Person{maker("Teun", 480, "shaping"), maker("Ishaan", 540, "wiring")},
		[]studio.Lag{
			{From: "cut", To: "thin"},
			{From: "cut", To: "box", Most: &tie},
			{From: "thin", To: "wire", Most: &most},
		},
		map[studio.ID]studio.Minute{"petals": 580, "stems": 650, "base": 490},
		studio.Routing{ID: "base", Tasks: []studio.Activity{work("cut", "shaping", 10)}},
		studio.Routing{ID: "petals", Tasks: []studio.Activity{work("thin", "shaping", 20), work("wire", "wiring", 40)}},
		studio.Routing{ID: "stems", Tasks: []studio.Activity{
			work("stem", "wiring", 50), work("dust", "shaping", 5), work("box", "wiring", 15),
		}},
	)
	assert.Zero(t, latenessOf(t, doc))
}
