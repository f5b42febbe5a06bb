package bench_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/bench"
	"bractum/core/paste"
	"bractum/core/studio"
	"bractum/demo"
)

// amounts adds up movements of shelf lots, and of their reservations by order.
func amounts(moved []studio.Movement) (there map[studio.ID]int64, reserved map[[2]studio.ID]int64) {
	there, reserved = map[studio.ID]int64{}, map[[2]studio.ID]int64{}
	for _, m := range moved {
		switch {
		case m.Kind == studio.Reserved || m.Kind == studio.Released:
			reserved[[2]studio.ID{m.Shelf, m.Order}] += m.Amount
		case m.Shelf != "":
			there[m.Shelf] += m.Amount
		}
	}
	return there, reserved
}

// Nine stems take forty-five blossoms: their own reserved ones first, then free ones, and
// somebody else's only when nothing else is there.
func TestATaskTakesWhatIsReservedForItsOrder(t *testing.T) {
	doc := stems()
	mine := doc.Orders[0].ID
	doc.Shelf = append(
		doc.Shelf,
		studio.ShelfLot{
			ID:       "mine",
			Recipe:   demo.ID("Waxflower blossom"),
			Mixes:    doc.Shelf[0].Mixes,
			Amount:   20,
			Quality:  studio.Good,
			MadeOn:   950,
			Reserved: []studio.Claim{{Order: mine, Quantity: 20}},
		},
	)
	b, p := at(t, doc)
	lot := lotOf(t, p, "Waxflower stem")
	task := studio.TaskID(lot.ID, "tape")
	w, _, err := b.Start(task, demo.ID("Maren"), false)
	require.NoError(t, err)
	put(doc, w)
	doc.Shelf[0].Reserved = []studio.Claim{{Order: "somebody", Quantity: 30}} // meanwhile
	_, moved, err := bench.New(doc, p).Finish(task, bench.Counts{Good: 9})
	require.NoError(t, err)
	there, reserved := amounts(moved)
	assert.Equal(
		t,
		map[studio.ID]int64{"mine": -20, "old": -12, "new": -13},
		there,
		"three of somebody else's had to be taken",
	)
	assert.EqualValues(t, -20, reserved[[2]studio.ID{"mine", mine}])
	assert.Zero(t, reserved[[2]studio.ID{"new", "somebody"}], "who is short is still owed them")
}

func TestWhatWasNeverOnTheShelfStandsAsAMinusOfItsOwn(t *testing.T) {
	doc := stems()
	b, p := at(t, doc)
	task := studio.TaskID(lotOf(t, p, "Waxflower stem").ID, "tape")
	w, _, err := b.Start(task, demo.ID("Maren"), false)
	require.NoError(t, err)
	put(doc, w)
	doc.Shelf = nil
	b = bench.New(doc, p)
	_, moved, err := b.Finish(task, bench.Counts{Good: 9})
	require.NoError(t, err)
	require.NotNil(t, moved[0].New)
	assert.Equal(t, demo.ID("Waxflower blossom"), moved[0].New.Recipe)
	assert.EqualValues(t, -45, moved[0].Amount)
}

func TestWiresThatLieCutAreTakenBeforeFullOnes(t *testing.T) {
	doc := stems()
	doc.Shelf = nil
	material := demo.ID("28 green wire")
	_, p := at(t, doc)
	lot := lotOf(t, p, "Waxflower blossom")
	task := studio.TaskID(lot.ID, "pull")
	record := studio.TaskRecord{Step: "pull", State: studio.TaskStarted, Person: demo.ID("Teun"), Start: doc.Now - 30}
	w := doc.Begun(lot)
	w.Records = []studio.TaskRecord{record}
	put(doc, w)
	doc.Offcuts = []studio.Offcut{
		{Material: material, Length: 69_000, Number: 10},
		{Material: material, Length: 70_000, Number: 99},
		{Material: demo.ID("26 white wire"), Length: 69_000, Number: 9},
	}
	_, moved, err := bench.New(doc, p).Finish(task, bench.Counts{Good: lot.Started})
	require.NoError(t, err)
	assert.Contains(t, moved, studio.Movement{Kind: studio.UsedUp, Material: material, Length: 69_000, Amount: -10})
	assert.Contains(
		t,
		moved,
		studio.Movement{Kind: studio.UsedUp, Material: material, Amount: -(lot.Started - 10 + 4) / 5},
		"five of 69 mm from a wire",
	)
}

func TestWhatWasWeighedIsUsedAndMade(t *testing.T) {
	doc := stems()
	doc.Shelf = nil
	b, p := at(t, doc)
	lot := lotOf(t, p, "Petal white")
	task, odalys := studio.TaskID(lot.ID, "knead"), demo.ID("Odalys")
	r := studio.NewBook(doc).Recipe(lot.Recipe)
	var weighed []studio.Milligrams
	for _, portion := range paste.Weigh(r, studio.Milligrams(lot.Started), 100) {
		weighed = append(weighed, portion.Weigh)
	}
	short := append([]studio.Milligrams{}, weighed...)
	short[0] /= 2
	_, _, err := b.Weigh(task, odalys, short)
	refused(t, err, "are still to weigh")
	_, _, err = b.Weigh(task, odalys, weighed[:1])
	refused(t, err, "1 weights are given")
	_, _, err = b.Weigh(task, odalys, []studio.Milligrams{-5, 4})
	refused(t, err, "cannot be")
	_, _, err = b.Weigh(studio.TaskID(lotOf(t, p, "Waxflower stem").ID, "tape"), odalys, nil)
	refused(t, err, "no mixing")

	for i := range weighed {
		weighed[i] += weighed[i] / 10 // a tenth over, all of it
	}
	w, moved, err := b.Weigh(task, odalys, weighed)
	require.NoError(t, err)
	assert.Equal(t, studio.TaskStarted, w.Records[0].State, "weighing in begins the mixing")
	assert.Contains(
		t,
		moved,
		studio.Movement{Kind: studio.UsedUp, Material: demo.ID("Flower paste"), Amount: -int64(weighed[0])},
	)
	put(doc, w)
	b, _ = at(t, doc)
	_, _, err = b.Weigh(task, odalys, weighed)
	refused(t, err, "weighed in already")
	_, moved, err = b.Finish(task, bench.Counts{Good: lot.Started})
	require.NoError(t, err)
	for _, m := range moved {
		assert.NotEqual(t, studio.UsedUp, m.Kind, "it was used when it was weighed")
		if m.Kind == studio.Mixed {
			assert.EqualValues(t, weighed[0]+weighed[1], m.Amount, "as much as was poured")
		}
	}
}

func TestAnOrderLeavesWithItsOwnAndLetsGoOfTheRest(t *testing.T) {
	doc := stems()
	oyster := map[string]studio.ID{"petal": demo.ID("Oyster ivory")}
	mine := doc.Orders[0].ID
	doc.Shelf[0].Reserved = []studio.Claim{{Order: mine, Quantity: 7}}
	doc.Shelf = append(
		doc.Shelf,
		studio.ShelfLot{
			ID:       "others",
			Recipe:   demo.ID("Waxflower stem"),
			Mixes:    oyster,
			Amount:   6,
			Quality:  studio.Good,
			MadeOn:   10,
			Reserved: []studio.Claim{{Order: "somebody", Quantity: 4}},
		},
		studio.ShelfLot{
			ID:       "mine",
			Recipe:   demo.ID("Waxflower stem"),
			Mixes:    oyster,
			Amount:   6,
			Quality:  studio.Good,
			MadeOn:   20,
			Reserved: []studio.Claim{{Order: mine, Quantity: 6}},
		},
	)
	b := bench.New(doc, &studio.Plan{})
	_, moved, err := b.HandOver(doc.Orders[0], nil)
	require.NoError(t, err)
	there, reserved := amounts(moved)
	assert.Equal(t, map[studio.ID]int64{"mine": -6, "others": -2}, there)
	assert.Equal(
		t,
		map[[2]studio.ID]int64{{"mine", mine}: -6, {"new", mine}: -7},
		reserved,
		"blossoms that it had kept are free again",
	)
	doc.Shelf[2].Reserved = []studio.Claim{{Order: "somebody", Quantity: 6}}
	_, _, err = bench.New(doc, &studio.Plan{}).HandOver(doc.Orders[0], nil)
	refused(t, err, "reserved for others; move the reservation first")
}

// Two wires of one length at one step: what lies cut is taken for one of them, not twice.
func TestWiresThatLieCutAreTakenOnce(t *testing.T) {
	doc := stems()
	doc.Shelf = nil
	material := demo.ID("28 green wire")
	for i := range doc.Recipes {
		if r := &doc.Recipes[i]; r.ID == demo.ID("Waxflower blossom") {
			r.Wires = append(r.Wires, r.Wires[0])
		}
	}
	_, p := at(t, doc)
	lot := lotOf(t, p, "Waxflower blossom")
	w := doc.Begun(lot)
	w.Records = []studio.TaskRecord{
		{Step: "pull", State: studio.TaskStarted, Person: demo.ID("Teun"), Start: doc.Now - 30},
	}
	put(doc, w)
	doc.Offcuts = []studio.Offcut{{Material: material, Length: 69_000, Number: lot.Started}}
	_, moved, err := bench.New(doc, p).Finish(studio.TaskID(lot.ID, "pull"), bench.Counts{Good: lot.Started})
	require.NoError(t, err)
	var cut, full int64
	for _, m := range moved {
		if m.Material == material && m.Length > 0 {
			cut -= m.Amount
		} else if m.Material == material {
			full -= m.Amount
		}
	}
	assert.Equal(t, []int64{lot.Started, (lot.Started + 4) / 5}, []int64{cut, full})
}

// What is left of a mixing once its last piece is cut is thrown away where it is too little to keep, and
// kept where it is more, or somebody is to take of it.
func TestRemnantsOfAMixAreThrownAwayByRule(t *testing.T) {
	for what, is := range map[string]struct {
		more, thrown int64
		reserved     bool
	}{"a remnant": {800, -800, false}, "enough": {1000, 0, false}, "somebody's": {800, 0, true}} {
		doc := stems()
		doc.Shelf = nil
		_, p := at(t, doc)
		lot := lotOf(t, p, "Waxflower blossom")
		mix := studio.NewBook(doc).Recipe(lot.Mixes["petal"])
		var needed int64
		for _, k := range p.Links {
			if k.Recipe == mix.ID {
				needed += k.Quantity
			}
		}
		left := studio.ShelfLot{
			ID:      "mixed",
			Recipe:  mix.ID,
			Amount:  needed + is.more,
			Quality: studio.Good,
			MadeOn:  doc.Now - 10,
		}
		if is.reserved {
			left.Reserved = []studio.Claim{{Order: "somebody", Quantity: is.more}}
		}
		doc.Shelf = []studio.ShelfLot{left}
		b, p := at(t, doc)
		lot = lotOf(t, p, "Waxflower blossom")
		require.Contains(
			t,
			p.Links,
			studio.Link{From: "mixed", To: lot.ID, Step: "pull", Recipe: mix.ID, Quantity: needed},
			what,
		)
		task := studio.TaskID(lot.ID, "pull")
		w, _, err := b.Start(task, demo.ID("Odalys"), false)
		require.NoError(t, err)
		put(doc, w)
		_, moved, err := bench.New(doc, p).Finish(task, bench.Counts{Good: lot.Started})
		require.NoError(t, err)
		var used, thrown int64
		for _, m := range moved {
			switch {
			case m.Shelf == "mixed" && m.Kind == studio.UsedUp:
				used += m.Amount
			case m.Shelf == "mixed" && m.Kind == studio.Spoilt:
				thrown += m.Amount
			}
		}
		assert.Equal(t, -needed, used, what)
		assert.Equal(t, is.thrown, thrown, what)
	}
}
