package bench_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/bench"
	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

const (
	petals = studio.ID("petals in moulds")
	drying = petals + ".dry"
)

// inMoulds is the demo with eighteen magnolia petals that have lain in their moulds for so
// long.
func inMoulds(since studio.Minute) *studio.Document {
	doc := demo.Document()
	doc.Orders = doc.Orders[:1]
	doc.Work = []studio.WorkLot{
		demo.Lying(
			doc,
			petals,
			"Magnolia outer petal",
			map[string]string{"petal": "Oyster ivory", "dust": "Pebble dust"},
			"dry",
			18,
			since,
		),
	}
	return doc
}

// planned is the plan of a document, which holds.
func planned(t *testing.T, doc *studio.Document) *studio.Plan {
	require.Empty(t, doc.Validate())
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	require.Empty(t, check.Plan(doc, made))
	return made
}

func task(t *testing.T, p *studio.Plan, id studio.ID) studio.Task {
	i := slices.IndexFunc(p.Tasks, func(t studio.Task) bool { return t.ID == id })
	require.GreaterOrEqual(t, i, 0, id)
	return p.Tasks[i]
}

// touched is a document in which somebody has touched the petals, with its plan.
func touched(t *testing.T, doc *studio.Document, found bench.Touched) *studio.Plan {
	b, _ := at(t, doc)
	lot, moved, err := b.Touch(drying, demo.ID("Maren"), found)
	require.NoError(t, err)
	assert.Empty(t, moved)
	put(doc, lot)
	return planned(t, doc)
}

func TestWhatIsFoundDryIsTakenUpAndWhatIsNotWaits(t *testing.T) {
	doc := inMoulds(300)
	end := task(t, planned(t, doc), drying).End
	require.Greater(t, end, doc.Now+60, "the clock has it dry later")

	p := touched(t, inMoulds(300), bench.Touched{Found: studio.FoundDry})
	dry := task(t, p, drying)
	assert.Equal(t, studio.TaskDone, dry.State)
	assert.Equal(t, doc.Now, dry.End)
	assert.Less(t, task(t, p, petals+".dust").Begin(), end, "it is dusted sooner")

	assert.Equal(
		t,
		studio.TaskPlanned,
		task(t, touched(t, inMoulds(300), bench.Touched{Found: studio.FoundFirm}), drying).State,
		"firm is not dry yet",
	)

	doc = inMoulds(2000) // by the clock it was dry long since
	require.Less(t, task(t, planned(t, doc), drying).End, doc.Now)
	first := task(t, touched(t, doc, bench.Touched{Found: studio.FoundSoft}), drying).End
	assert.Greater(t, first, doc.Now, "it is not, and needs more")
	doc.Now += 60
	assert.Greater(t, task(t, touched(t, doc, bench.Touched{Found: studio.FoundSoft}), drying).End, first, "and more")
}

func TestChecksThatContradictEachOther(t *testing.T) {
	doc := inMoulds(300)
	touched(t, doc, bench.Touched{Found: studio.FoundDry})
	b, _ := at(t, doc)
	_, _, err := b.Touch(drying, demo.ID("Odalys"), bench.Touched{Found: studio.FoundDry})
	assert.NoError(t, err, "two people may find the same")
	_, _, err = b.Touch(drying, demo.ID("Odalys"), bench.Touched{Found: studio.FoundFirm})
	assert.Equal(t, "surely", unsure(t, err).Confirm)
	assert.Contains(t, err.Error(), "Maren found them dry before")
	p := touched(t, doc, bench.Touched{Found: studio.FoundFirm, Surely: true})
	assert.True(t, doc.Work[0].Checks[0].Mistaken)
	assert.Greater(t, task(t, p, drying).End, doc.Now, "it dries on")
}

func unsure(t *testing.T, err error) (r studio.Refusal) {
	require.ErrorAs(t, err, &r)
	return r
}

func TestSpoiltPiecesAreGone(t *testing.T) {
	doc := inMoulds(300)
	b, before := at(t, doc)
	for _, pieces := range []int64{0, -1, 19} {
		_, _, err := b.Touch(drying, demo.ID("Maren"), bench.Touched{Found: studio.FoundSpoilt, Pieces: pieces})
		assert.ErrorContains(t, err, "from 1 to 18 pieces")
	}
	p := touched(t, doc, bench.Touched{Found: studio.FoundSpoilt, Pieces: 7})
	alive := func(p *studio.Plan) (sum int64) {
		for _, l := range p.Lots {
			if l.Recipe == demo.ID("Magnolia outer petal") {
				sum += l.Alive
			}
		}
		return sum
	}
	assert.Greater(t, alive(p), alive(before)-7, "more than the spares: others are made in their place")
	assert.EqualValues(t, 11, task(t, p, petals+".dust").Pieces)
	_, _, err := b.Touch("nothing.dry", demo.ID("Maren"), bench.Touched{Found: studio.FoundDry})
	assert.ErrorContains(t, err, "nothing of this lies in the drying room")
	doc.Work[0].Records = doc.Work[0].Records[:2]
	b, _ = at(t, doc)
	_, _, err = b.Touch(drying, demo.ID("Maren"), bench.Touched{Found: studio.FoundDry})
	assert.ErrorContains(t, err, "not put down yet")
}

// What lies between two tasks can be found spoilt, and nothing else: it is counted off for the next.
func TestPiecesBetweenTwoTasksCanBeSpoilt(t *testing.T) {
	doc := inMoulds(300)
	doc.Work[0].Records = doc.Work[0].Records[:2]
	last := petals + "." + studio.ID(doc.Work[0].Records[1].Step)
	b, _ := at(t, doc)
	_, _, err := b.Touch(last, demo.ID("Maren"), bench.Touched{Found: studio.FoundFirm})
	assert.ErrorContains(t, err, "nothing of this lies")
	_, _, err = b.Touch(last, demo.ID("Maren"), bench.Touched{Found: studio.FoundSpoilt, Pieces: 19})
	assert.ErrorContains(t, err, "from 1 to 18 pieces")
	lot, moved, err := b.Touch(last, demo.ID("Maren"), bench.Touched{Found: studio.FoundSpoilt, Pieces: 3})
	require.NoError(t, err)
	assert.Empty(t, moved)
	put(doc, lot)
	require.Empty(t, doc.Validate())
	p := planned(t, doc)
	assert.EqualValues(t, 15, task(t, p, petals+".set").Pieces)
	lot.Records = append(
		slices.Clone(lot.Records),
		studio.TaskRecord{Step: "set", State: studio.TaskStarted, Person: demo.ID("Maren"), Start: doc.Now},
	)
	put(doc, lot)
	b, _ = at(t, doc)
	_, _, err = b.Touch(last, demo.ID("Maren"), bench.Touched{Found: studio.FoundSpoilt, Pieces: 1})
	assert.ErrorContains(t, err, "nothing of this lies", "they are in somebody's hands")
}

// elsewhere is a document in which the petals were put elsewhere, with its plan.
func elsewhere(t *testing.T, doc *studio.Document, to bench.Elsewhere) *studio.Plan {
	b, _ := at(t, doc)
	lot, err := b.Put(drying, demo.ID("Maren"), to)
	require.NoError(t, err)
	put(doc, lot)
	return planned(t, doc)
}

func holds(p *studio.Plan, place string) bool {
	return slices.ContainsFunc(p.Tasks, func(t studio.Task) bool {
		return t.Lot == petals &&
			slices.ContainsFunc(t.Holds, func(h studio.Held) bool { return h.Place == demo.ID(place) })
	})
}

func TestATrayIsMovedAndItsCupsAreTippedOut(t *testing.T) {
	stays := task(t, planned(t, inMoulds(300)), drying).End
	p := elsewhere(t, inMoulds(300), bench.Elsewhere{In: demo.ID("Dry cupboard")})
	assert.Less(t, task(t, p, drying).End, stays, "the cupboard is drier")
	assert.True(t, holds(p, "Half-sphere mould 60 mm"), "the tray goes with them")
	for _, back := range []bool{false, true} { // straight away back again: as if nothing had been
		doc := inMoulds(300)
		elsewhere(t, doc, bench.Elsewhere{In: demo.ID("Dry cupboard")})
		if back {
			assert.Equal(t, stays, task(t, elsewhere(t, doc, bench.Elsewhere{}), drying).End)
		}
	}
	p = elsewhere(t, inMoulds(300), bench.Elsewhere{Place: demo.ID("Cupboard shelf"), Slots: 2, Frees: true})
	assert.False(t, holds(p, "Half-sphere mould 60 mm"), "the moulds are free")
	assert.True(t, holds(p, "Cupboard shelf"))
	assert.Less(t, task(t, p, drying).End, stays, "its air is that of the place")
	doc := inMoulds(300)
	p = elsewhere(t, doc, bench.Elsewhere{Frees: true})
	assert.False(t, holds(p, "Half-sphere mould 60 mm"))
	p = elsewhere(t, doc, bench.Elsewhere{Place: demo.ID("Half-sphere mould 60 mm"), Slots: 18})
	assert.True(t, holds(p, "Half-sphere mould 60 mm"), "they are put back")

	b, _ := at(t, inMoulds(300))
	_, err := b.Put(drying, demo.ID("Maren"), bench.Elsewhere{Place: demo.ID("Cupboard shelf"), Slots: 5})
	assert.Equal(t, "surely", unsure(t, err).Confirm)
	for _, to := range []bench.Elsewhere{{In: "attic"}, {Place: "attic"}, {Machine: "kiln", Minutes: 5}} {
		_, err = b.Put(drying, demo.ID("Maren"), to)
		assert.ErrorContains(t, err, "any more")
	}
}

func TestPiecesInAMachineDryWhateverTheAir(t *testing.T) {
	doc := inMoulds(300)
	p := elsewhere(t, doc, bench.Elsewhere{Machine: demo.ID("Dehydrator"), Minutes: 45, Slots: 2})
	in := task(t, p, drying)
	assert.Equal(t, doc.Now+45, in.End)
	require.NotNil(t, in.Load)
	assert.Equal(t, demo.ID("Dehydrator"), in.Load.Machine)
	doc.Now += 30 // somebody cannot wait to touch them
	p = touched(t, doc, bench.Touched{Found: studio.FoundDry})
	assert.Equal(t, doc.Now, task(t, p, drying).End)

	// Taken out before they are dry, they have what they got there behind them.
	stays := task(t, planned(t, inMoulds(300)), drying).End
	doc = inMoulds(300)
	elsewhere(t, doc, bench.Elsewhere{Machine: demo.ID("Dehydrator"), Minutes: 30})
	doc.Now += 30
	out := task(t, elsewhere(t, doc, bench.Elsewhere{}), drying)
	assert.Nil(t, out.Load)
	assert.Less(t, out.End, stays-120, "half an hour of the hour that they need in all")

	b, _ := at(t, inMoulds(300))
	for _, minutes := range []studio.Minute{0, 2000} {
		_, err := b.Put(drying, demo.ID("Maren"), bench.Elsewhere{Machine: demo.ID("Dehydrator"), Minutes: minutes})
		assert.ErrorContains(t, err, "from 1 to 1440")
	}
	_, err := b.Put(drying, demo.ID("Maren"), bench.Elsewhere{Machine: demo.ID("Oven"), Minutes: 10, Slots: 3})
	assert.Equal(t, "surely", unsure(t, err).Confirm)
}

func TestWhatCannotHaveLainSoIsNamed(t *testing.T) {
	doc := inMoulds(300)
	w := &doc.Work[0]
	w.Checks = []studio.Check{
		{Step: "dust", At: 300, Found: studio.FoundDry},
		{Step: "dry", At: doc.Now + 1, Found: "crisp"},
		{Step: "dry", At: 1, Found: studio.FoundSpoilt, Pieces: 99},
		{Step: "dry", At: 1, Found: studio.FoundDry, Pieces: 1},
	}
	w.Puts = []studio.Put{
		{Step: "dry", At: 1, In: "moon"},
		{Step: "dry", At: 1, Place: "moon"},
		{Step: "set", At: 1, Machine: "kiln", Slots: 1, Minutes: 5},
	}
	said := func(wanted ...string) {
		var all strings.Builder
		for _, p := range doc.Validate() {
			all.WriteString(p.Place + " " + p.Message + "\n")
		}
		for _, want := range wanted {
			assert.Contains(t, all.String(), want)
		}
	}
	said(
		`"dust" is no wait of "Magnolia outer petal"`,
		`is "crisp"`,
		"checks[1].at",
		"checks[2].pieces",
		"99 pieces are spoilt of 18",
		"only spoilt ones are counted",
		`no surroundings "moon"`,
		`no place "moon"`,
		`no machine "kiln"`,
		`"set" is no wait`,
	)
	doc.Sensors = []studio.Sensor{{Device: "a", In: "moon"}, {Device: "a"}}
	doc.Machines[0].Dries = []studio.MachineDrying{{Class: "lace", Minutes: 0}}
	said(`sensors[0] "a".in no surroundings`, "a name of its own", `no drying class "lace"`, "dries[0].minutes")
}
