package count_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/count"
	"bractum/core/paste"
	"bractum/core/studio"
	"bractum/demo"
)

// onlyOrder is the demo with one order of one line and nothing on the shelf.
func onlyOrder(recipe, colourway string, quantity int64) *studio.Document {
	doc := demo.Document()
	bare(doc)
	doc.Orders = []studio.Order{
		{
			ID:         "order",
			Name:       "Harvest supper",
			Leaves:     studio.MustWallTime("2027-10-04T10:00"),
			Importance: 10,
			State:      studio.OrderOpen,
			Lines: []studio.OrderLine{
				{
					ID:           "line",
					Recipe:       demo.ID(recipe),
					Colourway:    demo.ID(colourway),
					Quantity:     quantity,
					ServiceLevel: 950,
				},
			},
		},
	}
	return doc
}

// bare takes away what lies there and what is kept in stock.
func bare(doc *studio.Document) {
	doc.Shelf, doc.Offcuts = nil, nil
	for i := range doc.Recipes {
		doc.Recipes[i].KeepInStock = 0
	}
}

func up(t require.TestingT, doc *studio.Document) *count.Result {
	require.Empty(t, doc.Validate())
	counted, err := count.Up(doc)
	require.NoError(t, err)
	return counted
}

func itemOf(t require.TestingT, counted *count.Result, recipe string) count.Item {
	for _, item := range counted.Items {
		if item.Recipe == demo.ID(recipe) {
			return item
		}
	}
	require.Fail(t, "nothing counted of "+recipe)
	return count.Item{}
}

// P(good ≥ need) by the slow and obvious sum over all outcomes.
func goodAtLeast(need, n int64, alpha, beta float64) float64 {
	lchoose := func(n, k float64) float64 {
		a, _ := math.Lgamma(n + 1)
		b, _ := math.Lgamma(k + 1)
		c, _ := math.Lgamma(n - k + 1)
		return a - b - c
	}
	lbeta := func(a, b float64) float64 {
		x, _ := math.Lgamma(a)
		y, _ := math.Lgamma(b)
		z, _ := math.Lgamma(a + b)
		return x + y - z
	}
	var sum float64
	for good := need; good <= n; good++ {
		sum += math.Exp(
			lchoose(float64(n), float64(good)) + lbeta(float64(good)+alpha, float64(n-good)+beta) - lbeta(alpha, beta),
		)
	}
	return sum
}

func TestSparesAreTheFewestThatReachTheService(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		need := rapid.Int64Range(1, 300).Draw(t, "need")
		s := studio.Spares{
			Rule:      studio.SparesByBreakage,
			Breakage:  studio.PerMille(rapid.Int64Range(0, 150).Draw(t, "b0")),
			GoodSoFar: rapid.Int64Range(0, 500).Draw(t, "good"),
			LostSoFar: rapid.Int64Range(0, 40).Draw(t, "broken"),
		}
		service := rapid.Float64Range(0.6, 0.995).Draw(t, "s")
		n, enough := count.OddsOf(s, 50).ForService(need, service)
		b0 := math.Max(float64(s.Breakage)/1000, 0.005)
		alpha, beta := 50*(1-b0)+float64(s.GoodSoFar), 50*b0+float64(s.LostSoFar)
		if !enough {
			require.Equal(t, 3*need, n)
			require.Less(t, goodAtLeast(need, n, alpha, beta), service+1e-9)
			return
		}
		require.GreaterOrEqual(t, goodAtLeast(need, n, alpha, beta), service-1e-9, "never fewer than promised")
		if n > need {
			require.Less(t, goodAtLeast(need, n-1, alpha, beta), service+1e-9, "one less would miss the service")
		}
	})
}

// What is started by a number or a share is that, whatever breaks.
func TestOtherSchoolsOfSpares(t *testing.T) {
	for _, c := range []struct {
		spares studio.Spares
		want   int64
	}{
		{studio.Spares{Rule: studio.SparesByNumber, Number: 2, Breakage: 100}, 12 + 2},
		{studio.Spares{Rule: studio.SparesByPercent, Percent: 10, Breakage: 100}, 12 + 2},
		{studio.Spares{Rule: studio.SparesNone}, 12},
	} {
		doc := onlyOrder("Ranunculus core", "Oyster", 12)
		for i := range doc.Recipes {
			if doc.Recipes[i].ID == demo.ID("Ranunculus core") {
				doc.Recipes[i].Spares = c.spares
			}
		}
		core := itemOf(t, up(t, doc), "Ranunculus core")
		assert.Equal(t, c.want, core.Started, c.spares.Rule)
		for _, w := range core.Workings {
			for _, in := range w.Inputs {
				if in.Name == "chance-that-this-is-enough" {
					assert.InDelta(
						t,
						100*goodAtLeast(12, c.want, 45, 5),
						in.Value,
						1e-6,
						"%s says what it really gives",
						w.Rule,
					)
				}
			}
		}
	}
}

// Twelve waxflower stems by hand: 12 + 1 stems; 13 × 5 blossoms at 6 % breakage
// and the service of the one lot that may run short; paste of a 9 mm ball each.
func TestTwelveWaxflowerStems(t *testing.T) {
	doc := onlyOrder("Waxflower stem", "Oyster", 12)
	doc.Settings.SparesFor = studio.SparesForService
	counted := up(t, doc)
	stem, blossom, mix := itemOf(
		t,
		counted,
		"Waxflower stem",
	), itemOf(
		t,
		counted,
		"Waxflower blossom",
	), itemOf(
		t,
		counted,
		"Oyster ivory",
	)
	assert.Equal(t, []int64{12, 12, 1, 13}, []int64{stem.Gross, stem.Net, stem.Spare, stem.Started})
	assert.EqualValues(t, 65, blossom.Gross)
	assert.GreaterOrEqual(t, goodAtLeast(65, blossom.Started, 47, 3), 0.95)
	assert.Less(t, goodAtLeast(65, blossom.Started-1, 47, 3), 0.95)

	// π/6 × 9³ = 381.7 mm³ × 1.4 = 534.4 mg, so 535 each; 8 % loss; to 0.1 g.
	used := blossom.Started * 535
	withLoss := (used*1000 + 919) / 920
	assert.Equal(t, withLoss, mix.Gross)
	assert.Equal(t, (withLoss+99)/100*100, mix.Started)
	shell := itemOf(t, counted, "Oyster shell")
	half := (mix.Started/2 + 99) / 100 * 100
	assert.Equal(t, (half*1000+919)/920, shell.Gross, "half of the shade is the deep paste, itself mixed with loss")
}

func TestShelfFirstOldestFirstAndWithinUseBy(t *testing.T) {
	doc := onlyOrder("Magnolia", "Oyster", 4)
	white := map[string]studio.ID{"core": demo.ID("Centre white")}
	gone := doc.Now + 60
	doc.Shelf = []studio.ShelfLot{
		{ID: "new", Recipe: demo.ID("Magnolia cone"), Mixes: white, Amount: 9, Quality: studio.Good, MadeOn: 500},
		{ID: "old", Recipe: demo.ID("Magnolia cone"), Mixes: white, Amount: 2, Quality: studio.Second, MadeOn: 100},
		{
			ID:      "spoilt by then",
			Recipe:  demo.ID("Magnolia cone"),
			Mixes:   white,
			Amount:  9,
			Quality: studio.Good,
			MadeOn:  1,
			UseBy:   &gone,
		},
	}
	counted := up(t, doc)
	cone := itemOf(t, counted, "Magnolia cone")
	assert.Equal(t, cone.Gross, cone.FromShelf)
	assert.Zero(t, cone.Started)
	taken := map[studio.ID]int64{}
	for _, link := range counted.Links {
		if link.Recipe == cone.Recipe {
			taken[link.From] += link.Quantity
		}
	}
	assert.Equal(
		t,
		map[studio.ID]int64{"old": 2, "new": cone.Gross - 2},
		taken,
		"seconds serve where the recipe allows",
	)
}

func TestLotsNeverOverfillTheirFormersAndSplitEvenly(t *testing.T) {
	counted := up(t, onlyOrder("Magnolia", "Oyster", 12))
	outer := itemOf(t, counted, "Magnolia outer petal")
	require.Greater(t, len(outer.Lots), 1)
	var started, least, most int64 = 0, 1 << 40, 0
	for _, lot := range counted.Lots {
		if lot.Key == outer.Key {
			started, least, most = started+lot.Started, min(least, lot.Started), max(most, lot.Started)
		}
	}
	assert.Equal(t, outer.Started, started)
	assert.LessOrEqual(t, most, int64(36), "36 moulds of one petal each")
	assert.LessOrEqual(t, most-least, int64(1), "split evenly")
}

func TestNeedsFarApartAreNotGatheredNearOnesAre(t *testing.T) {
	for leaves, lots := range map[string]int{"2027-10-08T10:00": 1, "2027-10-20T10:00": 2} {
		doc := onlyOrder("Waxflower stem", "Oyster", 4)
		second := doc.Orders[0]
		second.ID, second.Leaves = "second", studio.MustWallTime(leaves)
		second.Lines = []studio.OrderLine{
			{
				ID:           "line 2",
				Recipe:       demo.ID("Waxflower stem"),
				Colourway:    demo.ID("Oyster"),
				Quantity:     4,
				ServiceLevel: 950,
			},
		}
		doc.Orders = append(doc.Orders, second)
		assert.Len(t, itemOf(t, up(t, doc), "Waxflower stem").Lots, lots, leaves)
	}
}

func TestBreakageWithinTheSparesChangesNothingBeyondThemMakesANewLot(t *testing.T) {
	doc := onlyOrder("Waxflower stem", "Oyster", 2)
	before := up(t, doc)
	petal := itemOf(t, before, "Waxflower blossom")
	require.Len(t, petal.Lots, 1)
	spare := petal.Spare
	for broken, lots := range map[int64]int{spare: 1, spare + 1: 2} {
		doc.Work = []studio.WorkLot{
			{
				ID:      petal.Lots[0],
				Recipe:  petal.Recipe,
				Mixes:   petal.Mixes,
				Ordinal: 1,
				Need:    petal.Net,
				Started: petal.Started,
				Records: []studio.TaskRecord{
					{Step: "pull", State: studio.TaskDone, Person: demo.ID("Teun"), Start: doc.Now - 60, End: doc.Now,
						Good: petal.Started - broken, Broken: broken},
				},
			},
		}
		after := itemOf(t, up(t, doc), "Waxflower blossom")
		assert.Len(t, after.Lots, lots, "%d broken of %d spare", broken, spare)
		if lots == 2 {
			assert.EqualValues(t, 1, after.Net)
			assert.NotEqual(t, after.Lots[0], after.Lots[1])
		}
	}
}

func TestQuotesAndCancelledOrdersAreNotMade(t *testing.T) {
	doc := onlyOrder("Magnolia", "Oyster", 2)
	doc.Orders[0].State = studio.OrderQuote
	assert.Empty(t, up(t, doc).Items)
}

func TestTooRiskyAPromiseIsExplained(t *testing.T) {
	doc := onlyOrder("Magnolia", "Oyster", 1)
	for i := range doc.Recipes {
		if doc.Recipes[i].Name == "Magnolia cone" {
			doc.Recipes[i].Spares.Breakage = 700
		}
	}
	doc.Settings.SparesFor = studio.SparesForService
	counted := up(t, doc)
	require.NotEmpty(t, counted.Notes)
	assert.Equal(t, count.SparesBeyond, counted.Notes[0].Code)
	assert.Equal(t, "Magnolia cone", counted.Notes[0].With["of"])
}

// For any orders: what is needed is shelf, work and net; every lot is fed what it
// takes up, every line gets what it wants, and no lot gives more than it needs.
func TestTheCountBalances(t *testing.T) {
	flowers := []string{"Ranunculus", "Magnolia", "Waxflower stem", "Eucalyptus sprig"}
	rapid.Check(t, func(t *rapid.T) {
		doc := demo.Document()
		for i := range doc.Orders {
			for j := range doc.Orders[i].Lines {
				doc.Orders[i].Lines[j].Quantity = rapid.Int64Range(1, 60).Draw(t, "quantity")
				doc.Orders[i].Lines[j].Recipe = demo.ID(rapid.SampledFrom(flowers).Draw(t, "flower"))
			}
		}
		counted := up(t, doc)
		given, got, lots := map[studio.ID]int64{}, map[[3]studio.ID]int64{}, map[studio.ID]studio.Lot{}
		for _, link := range counted.Links {
			given[link.From] += link.Quantity
			got[[3]studio.ID{link.To, studio.ID(link.Step), link.Recipe}] += link.Quantity
		}
		for _, lot := range counted.Lots {
			lots[lot.ID] = lot
			for _, peg := range lot.Pegs {
				given[lot.ID] += peg.Quantity
			}
		}
		book := studio.NewBook(doc)
		for _, item := range counted.Items {
			require.Equal(t, item.Gross, item.FromShelf+item.FromWork+item.FromHalfMade+item.Net)
			require.Equal(t, item.Started, item.Net+item.Spare)
		}
		for id, lot := range lots {
			require.Equal(t, lot.Need, given[id])
			if lot.From != "" {
				continue // most of it is in the half-made pieces already
			}
			for _, part := range book.Recipe(lot.Recipe).Parts {
				require.Equal(t, lot.Started*part.Count, got[[3]studio.ID{id, studio.ID(part.Step), part.Recipe}])
			}
			for _, p := range book.Recipe(lot.Recipe).Pastes {
				want := paste.WithLoss(
					paste.Mass(p.Shape, doc.Settings.DensityMgPerMl)*studio.Milligrams(lot.Started),
					doc.Settings.LossPerMille,
				)
				require.EqualValues(t, want, got[[3]studio.ID{id, studio.ID(p.Step), lot.Mixes[p.Slot]}])
			}
		}
	})
}

func TestBeginningOneLotLeavesTheIdsOfTheOthers(t *testing.T) {
	doc := onlyOrder("Magnolia", "Oyster", 20)
	before := itemOf(t, up(t, doc), "Magnolia outer petal")
	require.GreaterOrEqual(t, len(before.Lots), 3)
	var second studio.Lot
	for _, l := range up(t, doc).Lots {
		if l.ID == before.Lots[1] {
			second = l
		}
	}
	doc.Work = []studio.WorkLot{
		{
			ID:      second.ID,
			Recipe:  second.Recipe,
			Mixes:   second.Mixes,
			Ordinal: second.Ordinal,
			Need:    second.Need,
			Started: second.Started,
			Records: []studio.TaskRecord{
				{Step: "cut", State: studio.TaskStarted, Person: demo.ID("Teun"), Start: doc.Now},
			},
		},
	}
	assert.ElementsMatch(t, before.Lots, itemOf(t, up(t, doc), "Magnolia outer petal").Lots)
	doc.Work, doc.Ordinals = nil, map[string]int{second.Key: 2}
	for _, id := range itemOf(t, up(t, doc), "Magnolia outer petal").Lots {
		assert.NotContains(t, before.Lots[:2], id, "an id that was used up is never taken again")
	}
}

// White petals that are set serve any colourway with the same paste, with spares for
// what is still to be done, furthest and oldest first, and nothing is promised twice.
func TestHalfMadePiecesAreFinishedBeforeNewOnesAreBegun(t *testing.T) {
	doc := onlyOrder("Magnolia", "Oyster", 4)
	before := itemOf(t, up(t, doc), "Magnolia outer petal")
	paste := map[string]studio.ID{"petal": demo.ID("Oyster ivory")}
	half := func(id studio.ID, amount int64, mixes map[string]studio.ID) studio.ShelfLot {
		return studio.ShelfLot{
			ID:      id,
			Recipe:  demo.ID("Magnolia outer petal"),
			Mixes:   mixes,
			Reached: "set",
			Amount:  amount,
			Quality: studio.Good,
			MadeOn:  100,
		}
	}
	doc.Shelf = []studio.ShelfLot{
		half("few", 10, paste),
		half("red", 99, map[string]studio.ID{"petal": demo.ID("Signal red")}),
	}
	counted := up(t, doc)
	after := itemOf(t, counted, "Magnolia outer petal")
	assert.Equal(t, before.Net, after.Net+after.FromHalfMade)
	assert.Positive(t, after.FromHalfMade)
	for _, l := range counted.Lots {
		if l.From != "" {
			assert.Equal(t, studio.ID("few"), l.From)
			assert.LessOrEqual(t, l.Started, int64(10))
			assert.Greater(t, l.Started, l.Need, "spares")
			assert.Equal(t, "set", l.Reached)
		}
	}
	doc.Shelf[0].Amount = 500
	assert.Zero(t, itemOf(t, up(t, doc), "Magnolia outer petal").Net)
}

func TestWhatIsKeptInStockIsMadeUpAndBelongsToNoOrder(t *testing.T) {
	doc := onlyOrder("Magnolia", "Oyster", 4)
	of := func(name string) *studio.Recipe {
		for i := range doc.Recipes {
			if doc.Recipes[i].ID == demo.ID(name) {
				return &doc.Recipes[i]
			}
		}
		return nil
	}
	before := itemOf(t, up(t, doc), "Magnolia cone").Gross
	of("Magnolia cone").KeepInStock = 30
	counted := up(t, doc)
	assert.Equal(t, before+30, itemOf(t, counted, "Magnolia cone").Gross)
	for _, l := range counted.Lots {
		for _, p := range l.Pegs {
			assert.True(t, p.Order != "" || l.Recipe == demo.ID("Magnolia cone"))
		}
	}
	of("Waxflower blossom").KeepInStock = 5
	assert.Contains(t, doc.Validate().Error(), "what is kept in stock has one", "a petal without a default colour")
}

func TestAShareOfALotIsEnoughForWhoWantsThatForm(t *testing.T) {
	doc := onlyOrder("Magnolia", "Oyster", 4)
	for i := range doc.Recipes {
		r := &doc.Recipes[i]
		switch r.ID {
		case demo.ID("Magnolia outer petal"):
			r.Forms = []studio.Form{{Name: "turned", Share: 250}}
		case demo.ID("Magnolia"):
			for j := range r.Parts {
				if r.Parts[j].Recipe == demo.ID("Magnolia outer petal") {
					r.Parts[j].Form = "turned"
				}
			}
		}
	}
	petal := itemOf(t, up(t, doc), "Magnolia outer petal")
	assert.GreaterOrEqual(t, petal.Started, 4*petal.Gross, "a quarter of them are turned")
}

// Of two stamens on hand the most urgent lots take what they need; the next wait for
// the delivery that comes first, and what none covers until what is ordered now would be there.
func TestLotsWaitForTheDeliveriesThatTheyNeed(t *testing.T) {
	doc := onlyOrder("Magnolia", "Oyster", 4)
	soon, late := doc.Now+600, doc.Now+6000
	stamens, cone := demo.ID("Fine stamens"), demo.ID("Magnolia cone")
	for i := range doc.Materials {
		if doc.Materials[i].ID == stamens {
			doc.Materials[i].OnHand = 2
		}
	}
	for i := range doc.Recipes {
		if doc.Recipes[i].ID == cone {
			doc.Recipes[i].Materials = []studio.MaterialInput{
				{Step: doc.Recipes[i].Steps[0].Key, Material: stamens, Amount: 2},
			}
		}
	}
	waits := func() (gates []studio.ID) {
		for _, l := range up(t, doc).Lots {
			if l.Recipe == cone {
				for _, a := range l.Awaits {
					gates = append(gates, a.Gate)
				}
				return gates
			}
		}
		return nil
	}
	assert.Equal(t, []studio.ID{studio.Ordering(stamens)}, waits(), "nothing is on its way")
	doc.Gates = []studio.Gate{
		{ID: "late", Name: "Late", Opens: &late, Material: stamens, Amount: 99},
		{ID: "soon", Name: "Soon", Opens: &soon, Material: stamens, Amount: 4},
	}
	assert.Equal(t, []studio.ID{"soon", "late"}, waits())
	doc.Gates[1].Amount = 99
	assert.Equal(t, []studio.ID{"soon"}, waits())
	doc.Gates[1].Amount = 1
	doc.Gates[0].Amount = 1
	assert.Equal(t, []studio.ID{"soon", "late", studio.Ordering(stamens)}, waits())
	for i := range doc.Materials {
		doc.Materials[i].Supplier = ""
	}
	assert.Equal(t, []studio.ID{"soon", "late"}, waits(), "what nobody sells holds nothing up")
	assert.True(t, slices.ContainsFunc(up(t, doc).Notes, func(n count.Note) bool {
		return n.Code == count.NobodySells && n.With["of"] == "Fine stamens"
	}))
}

// Of wires, lots share what is cut from one: of four pieces to a wire, five wires do for twenty in
// all, however many lots they are of; with four the last lot waits at the step that takes them.
func TestLotsShareTheWiresThatThereAre(t *testing.T) {
	doc := soft(20, 5000)
	doc.Suppliers = []studio.Supplier{{ID: "wireworks", Name: "Wireworks", Days: 3}}
	doc.Materials = append(doc.Materials, studio.Material{ID: "wire", Name: "26 white wire", Unit: studio.UnitPieces,
		Supplier: "wireworks", Wire: &studio.Wire{Gauge: 26, Length: 360_000, Diameter: 450}})
	doc.Recipes[2].Wires = []studio.WireInput{{Step: "build", Material: "wire", Number: 1, Stem: 90_000}}
	waits := func(onHand int64) (steps []string) {
		doc.Materials[1].OnHand = onHand
		for _, l := range up(t, doc).Lots {
			for _, a := range l.Awaits {
				assert.Equal(t, studio.Ordering("wire"), a.Gate)
				steps = append(steps, a.Step)
			}
		}
		return steps
	}
	assert.Greater(t, len(lotsMade(up(t, doc), "rose")), 1)
	assert.Empty(t, waits(5))
	assert.Equal(t, []string{"build"}, waits(4))
	assert.Len(t, waits(0), len(lotsMade(up(t, doc), "rose")))
}

// An order whose wires are there does not wait with one that shares its lots and whose are not:
// they are made apart, each whole.
func TestWhatNeedNotWaitForAMaterialDoesNot(t *testing.T) {
	doc := soft(6, 5000)
	doc.Suppliers = []studio.Supplier{{ID: "wireworks", Name: "Wireworks", Days: 3}}
	doc.Materials = append(doc.Materials, studio.Material{ID: "wire", Name: "26 white wire", Unit: studio.UnitPieces,
		Supplier: "wireworks", OnHand: 6, Wire: &studio.Wire{Gauge: 26, Length: 100_000, Diameter: 450}})
	for i := range doc.Recipes[1].Steps { // petals that keep, of a batch for all
		doc.Recipes[1].Steps[i].Wants = studio.WantsAny
	}
	doc.Recipes[2].Parts[0].Wants = studio.WantsAny
	doc.Recipes[2].Wires = []studio.WireInput{{Step: "build", Material: "wire", Number: 1, Stem: 90_000}}
	later := doc.Orders[0]
	later.ID, later.Name, later.Leaves = "crew", "Ferry crew", later.Leaves.Plus(2)
	later.Lines = []studio.OrderLine{later.Lines[0]}
	later.Lines[0].ID = "second"
	doc.Orders = append(doc.Orders, later)
	together := func() int {
		roses := lotsMade(up(t, doc), "rose")
		for _, l := range roses {
			for _, claim := range l.For {
				assert.Equal(t, claim.Order == "crew", len(l.Awaits) > 0, "%v", l.For)
			}
		}
		return len(roses)
	}
	assert.Equal(t, 2, together())
	doc.Materials[1].OnHand = 12
	assert.Len(t, lotsMade(up(t, doc), "rose"), 1)

	doc.Materials[1].OnHand = 3 // neither has enough: they may as well be one
	assert.Len(t, lotsMade(up(t, doc), "rose"), 1)
}
