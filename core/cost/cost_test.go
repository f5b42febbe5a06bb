package cost_test

import (
	"math/big"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/cases"
	"bractum/core/cost"
	"bractum/core/count"
	"bractum/core/flower"
	"bractum/core/plan"
	"bractum/core/stores"
	"bractum/core/studio"
	"bractum/core/wire"
	"bractum/demo"
)

func TestMain(m *testing.M) { cases.Few(m, "40") }

func planned(t require.TestingT, doc *studio.Document) (*studio.Plan, map[studio.ID][]stores.Take) {
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	return made, stores.Takes(doc, made, wire.Sheets(doc, made.Lots))
}

// share is the part of a lot that is for an order, exactly.
func share(l studio.Lot, order studio.ID) *big.Rat {
	whole := studio.Sum(l.For)
	if whole == 0 {
		if order == "" {
			return big.NewRat(1, 1)
		}
		return new(big.Rat)
	}
	part := int64(0)
	for _, c := range l.For {
		if c.Order == order {
			part += c.Quantity
		}
	}
	return big.NewRat(part, whole)
}

// coins rounds half a coin upward.
func coins(r *big.Rat) studio.Money {
	doubled := new(big.Rat).Add(r, big.NewRat(1, 2))
	return studio.Money(new(big.Int).Div(doubled.Num(), doubled.Denom()).Int64())
}

// Whatever hours, prices and shares are, a bill is what a slow walk over every task and every take comes to, exactly
// and by fractions, to the smallest coin.
func TestBillsAreWhatEveryTaskAndTakeComeTo(t *testing.T) {
	doc := demo.Document()
	made, takes := planned(t, doc)
	rapid.Check(t, func(t *rapid.T) {
		d := *doc
		money := func(name string) studio.Money { return studio.Money(rapid.Int64Range(0, 9999).Draw(t, name)) }
		d.People = append([]studio.Person{}, doc.People...)
		for i := range d.People {
			d.People[i].Rate = money("rate")
		}
		d.Materials = append([]studio.Material{}, doc.Materials...)
		for i := range d.Materials {
			d.Materials[i].Price = money("price")
		}
		d.Settings.Costing = studio.Costing{Overhead: money("house"), Box: money("box"), Delivery: money("delivery"),
			Factor: studio.PerMille(rapid.Int64Range(0, 4000).Draw(t, "factor"))}
		for _, bill := range cost.Bills(&d, made, takes) {
			slow := slowly(&d, made, takes, bill.Order)
			for _, h := range bill.Hours {
				require.Equal(t, coins(slow.labour[h.Person]), h.Cost, "hours of %s", h.Person)
			}
			for _, u := range bill.Used {
				require.Equal(t, coins(slow.stuff[u.Material]), u.Cost, "material %s", u.Material)
			}
			require.Equal(t, coins(slow.house), bill.House)
			var labour, materials studio.Money
			for _, r := range slow.labour {
				labour += coins(r)
			}
			for _, r := range slow.stuff {
				materials += coins(r)
			}
			require.Equal(t, labour, bill.Labour)
			require.Equal(t, materials, bill.Materials)
			require.Equal(t, labour+materials+bill.House+bill.Box+bill.Delivery, bill.Total)
		}
	})
}

type sums struct {
	labour, stuff map[studio.ID]*big.Rat
	house         *big.Rat
}

func add(to map[studio.ID]*big.Rat, id studio.ID, r *big.Rat) {
	if to[id] == nil {
		to[id] = new(big.Rat)
	}
	to[id].Add(to[id], r)
}

func slowly(d *studio.Document, made *studio.Plan, takes map[studio.ID][]stores.Take, order studio.ID) sums {
	s := sums{labour: map[studio.ID]*big.Rat{}, stuff: map[studio.ID]*big.Rat{}, house: new(big.Rat)}
	lots := map[studio.ID]studio.Lot{}
	for _, l := range made.Lots {
		lots[l.ID] = l
	}
	for _, task := range made.Tasks {
		for _, p := range d.People {
			if p.ID != task.Person {
				continue
			}
			minutes := int64(task.End - task.Start)
			for _, pause := range task.Pauses {
				minutes -= int64(pause.To - pause.From)
			}
			part := new(big.Rat).Mul(share(lots[task.Lot], order), big.NewRat(minutes, 60))
			add(s.labour, p.ID, new(big.Rat).Mul(part, big.NewRat(int64(p.Rate), 1)))
			s.house.Add(s.house, new(big.Rat).Mul(part, big.NewRat(int64(d.Settings.Costing.Overhead), 1)))
		}
	}
	for _, m := range d.Materials {
		per := m.Pack
		if per == 0 {
			per = map[studio.Unit]int64{studio.UnitMilligrams: 1000, studio.UnitMicrometres: 1_000_000,
				studio.UnitPieces: 1}[m.Unit]
		}
		for _, take := range takes[m.ID] {
			part := new(big.Rat).Mul(share(lots[take.Lot], order), big.NewRat(take.Amount, per))
			add(s.stuff, m.ID, part.Mul(part, big.NewRat(int64(m.Price), 1)))
		}
	}
	return s
}

// By hand: two hours at 24.00 and half a pack of 9.00, a house of 3.00 an hour, a box and a delivery of 5.00 and 12.00;
// asked for at 40.00 an hour and twice the materials, in whole fives.
func TestAPriceByHand(t *testing.T) {
	doc := &studio.Document{
		Settings: studio.Settings{
			MoneyStep: 500,
			Costing: studio.Costing{Overhead: 300, Hour: 4000, Factor: 2000, Box: 500,
				Delivery: 1200},
		},
		People:    []studio.Person{{ID: "teun", Rate: 2400}},
		Materials: []studio.Material{{ID: "paste", Unit: studio.UnitMilligrams, Pack: 500_000, Price: 900}},
		Recipes:   []studio.Recipe{{ID: "rose", Recipe: "rose", Kind: studio.KindFlower}},
		Orders:    []studio.Order{{ID: "choir", State: studio.OrderOpen, Leaving: "delivered"}},
	}
	made := &studio.Plan{
		Lots: []studio.Lot{
			{ID: "lot", Recipe: "rose", For: []studio.Claim{{Order: "choir", Quantity: 3}, {Quantity: 1}}},
		},
		Pegs: []studio.Peg{{Order: "choir", Quantity: 2}},
		Tasks: []studio.Task{
			{ID: "lot.wire", Lot: "lot", Person: "teun", Start: 0, End: 200, Pauses: []studio.Span{{From: 40, To: 80}}},
		},
	}
	takes := map[studio.ID][]stores.Take{"paste": {{Task: "lot.wire", Lot: "lot", Amount: 333_334}}}
	bills := cost.Bills(doc, made, takes)
	require.Len(t, bills, 2)
	b := bills[0]
	assert.EqualValues(t, 4800, b.Labour, "three quarters of 160 minutes")
	assert.EqualValues(t, 450, b.Materials)
	assert.EqualValues(t, 600, b.House)
	assert.EqualValues(t, 4800+450+600+500+1200, b.Total)
	assert.EqualValues(t, 11000, b.Price, "80.00, 9.00, 5.00 and 12.00 are 106.00: in whole fives 110.00")
	assert.EqualValues(t, 2, b.FromShelf)
	require.Len(t, b.Made, 1)
	assert.EqualValues(t, 4800+450+600, b.Made[0].Cost)
	assert.Equal(t, studio.ID(""), bills[1].Order, "a quarter is nobody's")
	assert.EqualValues(t, 1600, bills[1].Labour)

	doc.People[0].Rate, doc.Materials[0].Price = 0, 0
	b = cost.Bills(doc, made, takes)[0]
	assert.Equal(t, []studio.ID{"teun"}, b.Unrated)
	assert.Equal(t, []studio.ID{"paste"}, b.Unpriced)
}

// By hand: half an hour of setup and an hour and a half at 20.00 on the mean, a house of 3.00; a tenth of a pack of
// paste at 9.00 in a mix of a mix, a third of a wire at 0.30, two stamens at 0.05 each: 46.00, and 0.90, 0.10 and 0.10.
func TestAFlowerByHand(t *testing.T) {
	doc := &studio.Document{
		Settings: studio.Settings{ScaleStepMilligrams: 100, Costing: studio.Costing{Overhead: 300}},
		People:   []studio.Person{{ID: "teun", Rate: 2500}, {ID: "maren", Rate: 1500}, {ID: "guest"}},
		Materials: []studio.Material{
			{ID: "paste", Unit: studio.UnitMilligrams, Pack: 500_000, Price: 900},
			{ID: "wire", Unit: studio.UnitPieces, Price: 30, Wire: &studio.Wire{Length: 360_000}},
			{ID: "stamens", Unit: studio.UnitPieces, Price: 5}, {ID: "dust", Unit: studio.UnitMilligrams}},
		Recipes: []studio.Recipe{
			{ID: "white", Recipe: "white", Kind: studio.KindMix,
				Blend: []studio.Ingredient{{Material: "paste", Parts: 1}}},
			{ID: "oyster", Recipe: "oyster", Kind: studio.KindMix,
				Blend: []studio.Ingredient{{Mix: "white", Parts: 1}}}},
	}
	e := cost.OfSheet(doc, &flower.Sheet{Quantity: 4, Setup: 30_000, Attended: 90_000,
		Pastes:    []flower.Paste{{Mix: "oyster", Mass: 50_000}},
		Wires:     []flower.Wires{{Material: "wire", Length: 120_000, Number: 1}},
		Materials: []flower.Amount{{Material: "stamens", Amount: 2}, {Material: "dust", Amount: 7}}})
	assert.EqualValues(t, 2000, e.Rate)
	assert.EqualValues(t, 4000, e.Labour)
	assert.EqualValues(t, 600, e.House)
	assert.EqualValues(t, 90+10+10, e.Materials)
	assert.EqualValues(t, 4710, e.Total)
	assert.EqualValues(t, 1178, e.One, "a quarter of it, half a coin upward")
	assert.Equal(t, []studio.ID{"dust"}, e.Unpriced)
}
