package check_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"slices"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

// bench is the demo, one lot of it begun, with a plan that holds.
func bench(t *testing.T) (*studio.Document, *studio.Plan) {
	doc := demo.Document()
	first, err := count.Up(doc)
	require.NoError(t, err)
	for _, lot := range first.Lots {
		if lot.Recipe == demo.ID("Magnolia inner petal") {
			doc.Work = []studio.WorkLot{
				{
					ID:      lot.ID,
					Recipe:  lot.Recipe,
					Mixes:   lot.Mixes,
					Ordinal: lot.Ordinal,
					Need:    lot.Need,
					Started: lot.Started,
					Records: []studio.TaskRecord{
						{
							Step:   "cut",
							State:  studio.TaskDone,
							Person: demo.ID("Teun"),
							Start:  doc.Now - 60,
							End:    doc.Now - 10,
							Good:   lot.Started,
						},
					},
				},
			}
			break
		}
	}
	return doc, planned(t, doc)
}

func task(p *studio.Plan, wanted func(studio.Task) bool) *studio.Task {
	for i := range p.Tasks {
		if wanted(p.Tasks[i]) {
			return &p.Tasks[i]
		}
	}
	panic("no such task in the plan")
}

// Each case takes a counted plan that holds and breaks one rule of supply.
var supply = []struct {
	code  check.Code
	spoil func(*studio.Document, *studio.Plan)
}{
	{check.UnknownThing, func(_ *studio.Document, p *studio.Plan) { p.Lots[0].Recipe = "nowhere" }},
	{check.UnknownThing, func(_ *studio.Document, p *studio.Plan) { p.Links[0].Step = "nowhere" }},
	{check.OrderShort, func(d *studio.Document, _ *studio.Plan) { d.Orders[0].Lines[0].Quantity++ }},
	{check.InputShort, func(_ *studio.Document, p *studio.Plan) {
		for i := range p.Links {
			if p.Links[i].Step == "tape" {
				p.Links[i].Quantity--
				return
			}
		}
	}},
	{check.InputFromStock, func(d *studio.Document, p *studio.Plan) {
		for i := range d.Recipes {
			for j := range d.Recipes[i].Parts {
				if in := &d.Recipes[i].Parts[j]; in.Recipe == d.Shelf[0].Recipe {
					most := studio.Minute(60 * 1440)
					in.Window = &studio.Window{AtMost: &most}
				}
			}
		}
	}},
	{check.LotOverdrawn, func(d *studio.Document, p *studio.Plan) { d.Shelf[0].Amount = 1 }},
	{check.TakesReserved, func(d *studio.Document, p *studio.Plan) {
		from := p.Links[slices.IndexFunc(p.Links, func(k studio.Link) bool { return k.From == d.Shelf[0].ID })]
		for i := range p.Lots {
			if p.Lots[i].ID == from.To { // three quarters of it for an order that has no part in it
				p.Lots[i].For = []studio.Claim{
					{Order: d.Orders[1].ID, Quantity: 1},
					{Order: d.Orders[0].ID, Quantity: 3},
				}
			}
		}
		d.Shelf[0].Reserved = []studio.Claim{{Order: d.Orders[0].ID, Quantity: d.Shelf[0].Amount}}
	}},
	{check.TakesReserved, func(d *studio.Document, p *studio.Plan) {
		d.Shelf[0].Reserved = []studio.Claim{{Quantity: 1}}
	}},
	{check.MaterialShort, func(d *studio.Document, p *studio.Plan) {
		for i := range d.Materials {
			d.Materials[i].OnHand = 0
		}
		d.Offcuts = nil
	}},
	{check.LotWrong, func(d *studio.Document, p *studio.Plan) { p.Lots[0].Reached = "nowhere" }},
	{check.LotWrong, func(d *studio.Document, p *studio.Plan) {
		for i := range p.Lots {
			p.Lots[i].InWork = false
		}
	}},
}

func TestEachRuleOfSupplyBrokenIsTheOneBreachNamed(t *testing.T) {
	for _, c := range supply {
		t.Run(string(c.code), func(t *testing.T) {
			doc, p := bench(t)
			c.spoil(doc, p)
			codes := map[check.Code]bool{}
			for _, b := range check.Plan(doc, restated(doc, p)) {
				codes[b.Code] = true
			}
			assert.Equal(t, map[check.Code]bool{c.code: true}, codes)
		})
	}
}

// Every code that the checker knows stands in a table of spoilt plans.
func TestNoRuleIsWithoutATest(t *testing.T) {
	tried := map[string]bool{}
	for _, c := range supply {
		tried[string(c.code)] = true
	}
	for _, c := range spoilt {
		tried[string(c.code)] = true
	}
	file, err := parser.ParseFile(token.NewFileSet(), "check.go", nil, 0)
	require.NoError(t, err)
	known := 0
	ast.Inspect(file, func(n ast.Node) bool {
		if spec, is := n.(*ast.ValueSpec); is && len(spec.Values) == 1 {
			if kind, is := spec.Type.(*ast.Ident); is && kind.Name == "Code" {
				code, err := strconv.Unquote(spec.Values[0].(*ast.BasicLit).Value)
				require.NoError(t, err)
				assert.True(t, tried[code], "%s has no plan that breaks it", code)
				known++
			}
		}
		return true
	})
	assert.Len(t, tried, known)
}

func TestAPlanForAnotherDocumentIsNoPlan(t *testing.T) {
	doc, p := bench(t)
	doc.Orders[1].Lines[0].Colourway = demo.ID("Oyster")
	breaches := check.Plan(doc, p)
	require.Len(t, breaches, 1)
	assert.Equal(t, check.OrderShort, breaches[0].Code, "what was pegged has another colour")
	doc.Recipes = doc.Recipes[1:]
	assert.NotEmpty(t, check.Plan(doc, p))
}
