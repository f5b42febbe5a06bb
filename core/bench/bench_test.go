package bench_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/bench"
	"bractum/core/count"
	"bractum/core/paste"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

// at is the bench of a document as it stands.
func at(t *testing.T, doc *studio.Document) (bench.Bench, *studio.Plan) {
	require.Empty(t, doc.Validate())
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	return bench.New(doc, made), made
}

// stems is the demo with blossoms for ten stems lying dry, and an order for eight.
func stems() *studio.Document {
	doc := demo.Document()
	oyster := map[string]studio.ID{"petal": demo.ID("Oyster ivory")}
	doc.Orders = doc.Orders[:1]
	doc.Orders[0].Lines = []studio.OrderLine{
		{ID: "line", Recipe: demo.ID("Waxflower stem"), Colourway: demo.ID("Oyster"), Quantity: 8, ServiceLevel: 950},
	}
	doc.Shelf = []studio.ShelfLot{
		{
			ID:      "new",
			Recipe:  demo.ID("Waxflower blossom"),
			Mixes:   oyster,
			Amount:  40,
			Quality: studio.Good,
			MadeOn:  900,
		},
		{
			ID:      "old",
			Recipe:  demo.ID("Waxflower blossom"),
			Mixes:   oyster,
			Amount:  12,
			Quality: studio.Second,
			MadeOn:  100,
		},
	}
	return doc
}

func lotOf(t *testing.T, p *studio.Plan, recipe string) studio.Lot {
	for _, l := range p.Lots {
		if l.Recipe == demo.ID(recipe) {
			return l
		}
	}
	t.Fatal("no lot of " + recipe)
	return studio.Lot{}
}

// put writes a lot into the document, as the store does.
func put(doc *studio.Document, w studio.WorkLot) {
	for i := range doc.Work {
		if doc.Work[i].ID == w.ID {
			doc.Work[i] = w
			return
		}
	}
	doc.Work = append(doc.Work, w)
}

func refused(t *testing.T, err error, says string) {
	t.Helper()
	var refusal studio.Refusal
	require.ErrorAs(t, err, &refusal)
	assert.Contains(t, refusal.Error(), says)
}

func TestATaskFromStartToDone(t *testing.T) {
	doc := stems()
	b, p := at(t, doc)
	lot := lotOf(t, p, "Waxflower stem")
	require.EqualValues(t, 9, lot.Started, "eight and a spare")
	task := studio.TaskID(lot.ID, "tape")
	maren := demo.ID("Maren")

	_, err := b.Pause(task, bench.Counts{})
	refused(t, err, "start it first")
	_, _, err = b.Start(task, "nobody", false)
	refused(t, err, "nobody with this id")
	_, _, err = b.Start("lot-0.bake", maren, false)
	refused(t, err, "no such task")
	w, moved, err := b.Start(task, maren, false)
	require.NoError(t, err)
	assert.Equal(
		t,
		[]studio.Movement{{Kind: studio.Reserved, Lot: lot.ID, Order: doc.Orders[0].ID, Amount: 8}},
		moved,
		"the spare is nobody's",
	)
	assert.Equal(
		t,
		[]studio.TaskRecord{{Step: "tape", State: studio.TaskStarted, Person: maren, Start: doc.Now}},
		w.Records,
	)
	assert.Equal(t, lot.Need, w.Need)
	put(doc, w)

	doc.Now += 20
	b, _ = at(t, doc)
	_, _, err = b.Start(task, maren, false)
	refused(t, err, "is being done already")
	_, err = b.Pause(task, bench.Counts{Good: 10})
	refused(t, err, "only 9 pieces are left")
	_, err = b.Pause(task, bench.Counts{Good: 2, Broken: -1})
	refused(t, err, "below nothing")
	w, err = b.Pause(task, bench.Counts{Good: 3, Broken: 1})
	require.NoError(t, err)
	assert.Equal(t, bench.Consequence{SparesLeft: 0, Short: 0}, b.After(w), "the spare is gone")
	put(doc, w)

	b, _ = at(t, doc)
	w, _, err = b.Start(task, demo.ID("Brisa"), false)
	require.NoError(t, err, "somebody else may go on with it")
	assert.Equal(t, demo.ID("Brisa"), w.Records[0].Person)
	put(doc, w)

	b, _ = at(t, doc)
	_, _, err = b.Finish(task, bench.Counts{Good: 4})
	refused(t, err, "come to 4; 5 pieces are to be counted")
	w, moved, err = b.Finish(task, bench.Counts{Good: 3, Second: 1, Broken: 1})
	require.NoError(t, err)
	assert.Equal(t, bench.Consequence{Short: 2}, b.After(w), "seconds do not serve as stems, and one more broke")
	assert.Equal(t, []studio.Movement{
		{Kind: studio.UsedUp, Shelf: "old", Amount: -12}, {Kind: studio.UsedUp, Shelf: "new", Amount: -33},
		{Kind: studio.UsedUp, Material: demo.ID("Half-width green tape"), Amount: -9 * 220_000},
		{Kind: studio.Released, Lot: lot.ID, Order: doc.Orders[0].ID, Amount: -8},
		{
			Kind:   studio.MadeOf,
			Made:   studio.Good,
			Amount: 6,
		}, {Kind: studio.Reserved, Made: studio.Good, Order: doc.Orders[0].ID, Amount: 6},
		{Kind: studio.MadeOf, Made: studio.Second, Amount: 1},
	}, moved, "nine stems of five blossoms, oldest first; those that are good stay reserved for who ordered them")
	put(doc, w)

	b, _ = at(t, doc)
	_, _, err = b.Finish(task, bench.Counts{})
	refused(t, err, "is done already: finished by Brisa")
}

func TestOneTaskAtATime(t *testing.T) {
	doc := stems()
	doc.Orders[0].Lines = append(
		doc.Orders[0].Lines,
		studio.OrderLine{
			ID:           "more",
			Recipe:       demo.ID("Magnolia"),
			Colourway:    demo.ID("Oyster"),
			Quantity:     1,
			ServiceLevel: 950,
		},
	)
	b, p := at(t, doc)
	first := studio.TaskID(lotOf(t, p, "Petal white").ID, "knead")
	w, _, err := b.Start(first, demo.ID("Odalys"), false)
	require.NoError(t, err)
	put(doc, w)
	b, p = at(t, doc)
	second := studio.TaskID(lotOf(t, p, "Oyster shell").ID, "knead")
	_, _, err = b.Start(second, demo.ID("Odalys"), false)
	refused(t, err, "Weigh and knead, Petal white")
	_, _, err = b.Start(second, demo.ID("Ishaan"), false)
	assert.NoError(t, err, "at another bench it may")
}

func TestStepsAndInputsComeFirstAndTouchOverrulesTheClock(t *testing.T) {
	doc := stems()
	doc.Shelf = nil
	b, p := at(t, doc)
	blossom := lotOf(t, p, "Waxflower blossom")
	_, _, err := b.Start(studio.TaskID(lotOf(t, p, "Waxflower stem").ID, "tape"), demo.ID("Maren"), false)
	refused(t, err, `"Waxflower blossom" is not made yet`)
	_, _, err = b.Start(studio.TaskID(blossom.ID, "centre"), demo.ID("Teun"), false)
	refused(t, err, `"Pull five petals on a hooked wire" comes first`)

	put(
		doc,
		studio.WorkLot{
			ID:      blossom.ID,
			Recipe:  blossom.Recipe,
			Mixes:   blossom.Mixes,
			Ordinal: 1,
			Need:    blossom.Need,
			Started: blossom.Started,
			Records: []studio.TaskRecord{
				{
					Step:   "pull",
					State:  studio.TaskDone,
					Person: demo.ID("Teun"),
					Start:  doc.Now - 120,
					End:    doc.Now - 30,
					Good:   blossom.Started,
				},
			},
		},
	)
	b, _ = at(t, doc)
	centre := studio.TaskID(blossom.ID, "centre")
	_, _, err = b.Start(centre, demo.ID("Teun"), false)
	refused(t, err, "is expected to be ready in")
	var refusal studio.Refusal
	require.ErrorAs(t, err, &refusal)
	assert.Equal(t, "foundReady", refusal.Confirm)
	w, _, err := b.Start(centre, demo.ID("Teun"), true)
	require.NoError(t, err)
	put(doc, w)
	b, p = at(t, doc)
	for _, task := range p.Tasks {
		if task.ID == studio.TaskID(blossom.ID, "dry") {
			assert.Equal(t, doc.Now, task.End, "the wait ended when it was found ready")
		}
	}
	w, moved, err := b.Finish(centre, bench.Counts{Good: blossom.Started - 2, Second: 2})
	require.NoError(t, err)
	assert.Contains(
		t,
		moved,
		studio.Movement{Kind: studio.UsedUp, Material: demo.ID("Fine stamens"), Amount: -2 * blossom.Started},
	)
	assert.Contains(t, moved, studio.Movement{Kind: studio.MadeOf, Made: studio.Second, Amount: 2})
	assert.Positive(t, b.After(w).SparesLeft, "seconds serve as blossoms")
}

func TestAMixingIsBookedByWhatWasWeighed(t *testing.T) {
	doc := stems()
	doc.Shelf = []studio.ShelfLot{
		{
			ID:      "white",
			Recipe:  demo.ID("Petal white"),
			Mixes:   map[string]studio.ID{},
			Amount:  90_000,
			Quality: studio.Good,
		},
		{
			ID:      "shell",
			Recipe:  demo.ID("Oyster shell"),
			Mixes:   map[string]studio.ID{},
			Amount:  90_000,
			Quality: studio.Good,
		},
	}
	b, p := at(t, doc)
	ivory := lotOf(t, p, "Oyster ivory")
	task := studio.TaskID(ivory.ID, "knead")
	w, _, err := b.Start(task, demo.ID("Odalys"), false)
	require.NoError(t, err)
	put(doc, w)
	b, _ = at(t, doc)
	_, moved, err := b.Finish(task, bench.Counts{Good: ivory.Started})
	require.NoError(t, err)
	half := int64(paste.ToStep(studio.Milligrams((ivory.Started+1)/2), 100))
	require.Len(t, moved, 5)
	assert.Equal(t, studio.Movement{Kind: studio.UsedUp, Shelf: "shell", Amount: -half}, moved[0])
	assert.Equal(t, studio.Movement{Kind: studio.UsedUp, Shelf: "white", Amount: -half}, moved[1])
	assert.Equal(t, studio.Mixed, moved[3].Kind)
	assert.Equal(t, doc.Now+14*1440, *moved[3].UseBy, "its life begins")
	assert.Equal(t, ivory.Started, moved[3].Amount)
}

func TestMoreUsedThanThereIsStandsAsAMinus(t *testing.T) {
	doc := stems()
	b, p := at(t, doc)
	task := studio.TaskID(lotOf(t, p, "Waxflower stem").ID, "tape")
	w, _, err := b.Start(task, demo.ID("Maren"), false)
	require.NoError(t, err)
	put(doc, w)
	doc.Shelf[0].Amount = 20 // somebody took some
	b, _ = at(t, doc)
	_, moved, err := b.Finish(task, bench.Counts{Good: 9})
	require.NoError(t, err)
	assert.Equal(
		t,
		studio.Movement{Kind: studio.UsedUp, Shelf: "new", Amount: -33},
		moved[1],
		"20 were there: 13 are to be explained",
	)
}

func TestAnOrderLeavesWithItsFinishedFlowers(t *testing.T) {
	doc := stems()
	oyster := map[string]studio.ID{"petal": demo.ID("Oyster ivory")}
	b, _ := at(t, doc)
	_, _, err := b.HandOver(doc.Orders[0], nil)
	refused(t, err, "8 of 8 Waxflower stem are not finished")
	doc.Shelf = append(
		doc.Shelf,
		studio.ShelfLot{
			ID:      "late",
			Recipe:  demo.ID("Waxflower stem"),
			Mixes:   oyster,
			Amount:  6,
			Quality: studio.Good,
			MadeOn:  20_000,
		},
		studio.ShelfLot{
			ID:      "early",
			Recipe:  demo.ID("Waxflower stem"),
			Mixes:   oyster,
			Amount:  5,
			Quality: studio.Good,
			MadeOn:  10_000,
		},
		studio.ShelfLot{
			ID:      "poor",
			Recipe:  demo.ID("Waxflower stem"),
			Mixes:   oyster,
			Amount:  9,
			Quality: studio.Second,
			MadeOn:  1,
		},
	)
	b, _ = at(t, doc)
	_, moved, err := b.HandOver(doc.Orders[0], nil)
	require.NoError(t, err)
	assert.Equal(
		t,
		[]studio.Movement{
			{Kind: studio.UsedUp, Shelf: "early", Amount: -5},
			{Kind: studio.UsedUp, Shelf: "late", Amount: -3},
		},
		moved,
	)
	doc.Orders[0].State = studio.OrderQuote
	_, _, err = b.HandOver(doc.Orders[0], nil)
	refused(t, err, "only an open order leaves")
}

// A part that leaves is counted off: only the rest is made, and once the last of it has left, the order has.
func TestAnOrderLeavesInParts(t *testing.T) {
	doc := stems()
	line := doc.Orders[0].Lines[0].ID
	doc.Shelf = []studio.ShelfLot{{ID: "five", Recipe: demo.ID("Waxflower stem"), Quality: studio.Good, Amount: 5,
		MadeOn: 900, Mixes: map[string]studio.ID{"petal": demo.ID("Oyster ivory")},
		Reserved: []studio.Claim{{Order: doc.Orders[0].ID, Quantity: 5}}}}
	b, _ := at(t, doc)
	assert.Equal(t, map[studio.ID]int64{line: 5}, b.There(doc.Orders[0]))
	for n, words := range map[int64]string{
		6:  "1 of 6 Waxflower stem are not finished",
		9:  "9 of Waxflower stem cannot leave: 8 are",
		-1: "-1 of",
		0:  "say how many",
	} {
		_, _, err := b.HandOver(doc.Orders[0], map[studio.ID]int64{line: n})
		refused(t, err, words)
		b, _ = at(t, doc)
	}
	_, _, err := b.HandOver(doc.Orders[0], map[studio.ID]int64{line: 4, "another order's": 1})
	refused(t, err, "no such line")
	o, moved, err := b.HandOver(doc.Orders[0], map[studio.ID]int64{line: 4})
	require.NoError(t, err)
	assert.Equal(t, studio.OrderOpen, o.State)
	assert.EqualValues(t, 4, o.Lines[0].Owed())
	there, reserved := amounts(moved)
	assert.EqualValues(t, -4, there["five"])
	assert.EqualValues(t, -4, reserved[[2]studio.ID{"five", o.ID}])

	doc.Orders[0], doc.Shelf[0].Amount, doc.Shelf[0].Reserved[0].Quantity = o, 1, 1
	_, p := at(t, doc)
	assert.EqualValues(t, 3, lotOf(t, p, "Waxflower stem").Need, "of four that are owed one lies there")
	assert.Empty(t, check.Plan(doc, p))
	doc.Shelf[0].Amount = 4
	b, _ = at(t, doc)
	o, _, err = b.HandOver(doc.Orders[0], nil)
	require.NoError(t, err)
	assert.Equal(t, studio.OrderLeft, o.State)
	assert.Zero(t, o.Lines[0].Owed())
}

// happened puts a lot as it stands after something happened at the bench.
func happened(t *testing.T, doc *studio.Document) func(studio.WorkLot, []studio.Movement, error) []studio.Movement {
	return func(w studio.WorkLot, moved []studio.Movement, err error) []studio.Movement {
		require.NoError(t, err)
		put(doc, w)
		return moved
	}
}

func TestWhatIsToMendIsMendedBeforeItIsMade(t *testing.T) {
	doc := stems()
	for i := range doc.Recipes {
		if doc.Recipes[i].ID == demo.ID("Waxflower stem") {
			doc.Recipes[i].Steps[0].Mend = &studio.Work{Skill: "assembly", PerPiece: 1000}
		}
	}
	b, p := at(t, doc)
	lot := lotOf(t, p, "Waxflower stem")
	task, maren, lots := studio.TaskID(lot.ID, "tape"), demo.ID("Maren"), len(p.Lots)
	happened(t, doc)(b.Start(task, maren, false))
	b, _ = at(t, doc)
	moved := happened(t, doc)(b.Finish(task, bench.Counts{Good: lot.Started - 2, Mend: 2}))
	for _, m := range moved {
		assert.Empty(t, m.Made, "nothing is made while something is to mend")
	}
	b, p = at(t, doc)
	mend := studio.TaskID(lot.ID, studio.MendKey("tape"))
	var planned studio.Task
	for _, x := range p.Tasks {
		if x.ID == mend {
			planned = x
		}
	}
	assert.EqualValues(t, 2, planned.Pieces, "a short task of its own")
	assert.Len(t, p.Lots, lots, "what is being mended is not made anew")
	happened(t, doc)(b.Start(mend, maren, false))
	b, _ = at(t, doc)
	_, _, err := b.Finish(mend, bench.Counts{Mend: 2})
	refused(t, err, "says no way of mending")
	moved = happened(t, doc)(b.Finish(mend, bench.Counts{Good: 1, Broken: 1}))
	assert.Contains(t, moved, studio.Movement{Kind: studio.MadeOf, Made: studio.Good, Amount: lot.Started - 1})
}

func TestOfInputsAsNeededOnlyWhatWasUsedIsTaken(t *testing.T) {
	doc := stems()
	least := int64(2)
	for i := range doc.Recipes {
		if doc.Recipes[i].ID == demo.ID("Waxflower stem") {
			doc.Recipes[i].Parts[0].Least = &least
		}
	}
	b, p := at(t, doc)
	lot := lotOf(t, p, "Waxflower stem")
	task, blossom := studio.TaskID(lot.ID, "tape"), demo.ID("Waxflower blossom")
	happened(t, doc)(b.Start(task, demo.ID("Maren"), false))
	b, _ = at(t, doc)
	_, _, err := b.Finish(task, bench.Counts{Good: lot.Started, Used: []studio.Used{{Recipe: blossom, Pieces: 9999}}})
	refused(t, err, "9999 pieces are said to be used")
	taken := int64(0)
	for _, m := range happened(t, doc)(b.Finish(task, bench.Counts{Good: lot.Started, Used: []studio.Used{{Recipe: blossom, Pieces: 21}}})) {
		if m.Shelf != "" {
			taken -= m.Amount
		}
	}
	assert.EqualValues(t, 21, taken, "the rest stays in stock")
}

func TestHalfMadePiecesLeaveTheShelfAsTheyAreFinished(t *testing.T) {
	doc := demo.Document()
	doc.Shelf = []studio.ShelfLot{
		{
			ID:      "white",
			Recipe:  demo.ID("Magnolia outer petal"),
			Mixes:   map[string]studio.ID{"petal": demo.ID("Oyster ivory")},
			Reached: "set",
			Amount:  500,
			Quality: studio.Good,
			MadeOn:  100,
		},
		{
			ID:      "dust",
			Recipe:  demo.ID("Pebble dust"),
			Mixes:   map[string]studio.ID{},
			Amount:  90_000,
			Quality: studio.Good,
			MadeOn:  100,
		},
	}
	b, p := at(t, doc)
	lot := lotOf(t, p, "Magnolia outer petal")
	require.Equal(t, studio.ID("white"), lot.From)
	r := studio.NewBook(doc).Recipe(lot.Recipe)
	moved := happened(t, doc)(b.Start(studio.TaskID(lot.ID, r.Steps[lot.NextStep].Key), demo.ID("Odalys"), false))
	assert.Equal(t, studio.Movement{Kind: studio.UsedUp, Shelf: "white", Amount: -lot.Started}, moved[len(moved)-1])
	_, p = at(t, doc)
	assert.Equal(t, lot.From, lotOf(t, p, "Magnolia outer petal").From)
}

func TestAMachineIsSetOffAndRunsToItsEnd(t *testing.T) {
	doc := stems()
	doc.Machines = append(doc.Machines, studio.Machine{ID: demo.ID("dehydrator"), Name: "Second dehydrator", Slots: 9})
	for i := range doc.Recipes {
		if doc.Recipes[i].ID == demo.ID("Waxflower stem") {
			doc.Recipes[i].Steps = append(
				doc.Recipes[i].Steps[:1:1],
				studio.Step{Key: "warm", Name: "Warm through", Wait: &studio.Wait{Minutes: 40,
					Load: &studio.Load{Machines: []studio.ID{demo.ID("dehydrator")}, Setting: "45 °C", PerSlot: 4}}},
			)
		}
	}
	b, p := at(t, doc)
	lot := lotOf(t, p, "Waxflower stem")
	tape, warm, maren := studio.TaskID(lot.ID, "tape"), studio.TaskID(lot.ID, "warm"), demo.ID("Maren")
	_, _, err := b.Start(warm, maren, false)
	refused(t, err, "comes first")
	happened(t, doc)(b.Start(tape, maren, false))
	b, _ = at(t, doc)
	happened(t, doc)(b.Finish(tape, bench.Counts{Good: lot.Started}))
	doc.Shelf = append(
		doc.Shelf,
		studio.ShelfLot{
			ID:      "made",
			Recipe:  lot.Recipe,
			Mixes:   lot.Mixes,
			Amount:  lot.Started,
			Quality: studio.Good,
			MadeOn:  doc.Now,
			From:    lot.ID,
		},
	)
	doc.Now += 7
	b, _ = at(t, doc)
	happened(t, doc)(b.Start(warm, maren, false))
	_, p = at(t, doc)
	for _, x := range p.Tasks {
		if x.ID == warm {
			assert.Equal(t, [2]studio.Minute{doc.Now, doc.Now + 40}, [2]studio.Minute{x.Start, x.End})
			assert.Equal(t, studio.TaskStarted, x.State)
		}
	}
	b, _ = at(t, doc)
	_, err = b.Pause(warm, bench.Counts{})
	refused(t, err, "runs in a machine")
	doc.Now += 40
	happened(t, doc)(b.Finish(warm, bench.Counts{}))
	require.Empty(t, doc.Validate())
}
