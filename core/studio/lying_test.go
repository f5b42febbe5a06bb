package studio

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// cups are shaped at 100, hold their shape in a rack, are turned at 200 and dry on in a
// cupboard, where the first wait goes on; then they are dusted.
func cups() (*Document, *WorkLot) {
	dries := func(state State, continues string) *Wait {
		return &Wait{Drying: Drying{Class: "petal", Thickness: 800}, State: state, Continues: continues}
	}
	doc := &Document{
		Now:    600,
		Places: []Place{{ID: "rack", Name: "Rack", Slots: 4}, {ID: "shelf", Name: "Shelf", Slots: 4, In: "cupboard"}},
		Recipes: []Recipe{{ID: "cup", Name: "Cup", Kind: KindPart, Steps: []Step{
			{
				Key:   "shape",
				Work:  &Work{Skill: "shaping"},
				Holds: []Hold{{Place: "rack", PerSlot: 9, Until: "hold"}},
			}, {Key: "hold", Wait: dries(Firm, "")},
			{
				Key:   "turn",
				Work:  &Work{Skill: "shaping"},
				Holds: []Hold{{Place: "shelf", PerSlot: 9, Until: "dry"}},
			}, {Key: "dry", Wait: dries(Dry, "hold")},
			{Key: "dust", Work: &Work{Skill: "dusting"}}}}},
	}
	w := WorkLot{
		ID:      "lot",
		Recipe:  "cup",
		Started: 9,
		Need:    8,
		Records: []TaskRecord{
			{Step: "shape", State: TaskDone, Start: 80, End: 100},
			{Step: "turn", State: TaskDone, Start: 190, End: 200},
		},
	}
	doc.Work = []WorkLot{w}
	return doc, &doc.Work[0]
}

func TestPiecesCarryAlongWhereTheyHaveLain(t *testing.T) {
	doc, w := cups()
	book := NewBook(doc)
	r := book.Of(w.Made())
	assert.Equal(t, 0, r.PutDown(1))
	assert.Equal(t, 0, r.PutDown(3), "through the wait that it continues")
	assert.False(t, w.Lies(r, 1), "they were turned since")
	assert.True(t, w.Lies(r, 3))
	assert.False(t, WorkLot{}.Lies(r, 1))

	spans, lay := Spans(doc, book, w, 3, 500)
	require.True(t, lay)
	assert.Equal(t, []Lain{{Span: Span{100, 200}}, {Span: Span{200, 500}, In: "cupboard", NotYet: true}}, spans)
	_, lay = Spans(doc, book, w, 3, 99)
	assert.False(t, lay)

	lot := &Lot{ID: "lot", Recipe: "cup"}
	d := Known(doc, book, lot, 3, Dry)
	assert.Empty(t, d.Lain, "nothing is known beside the plan")
	assert.Equal(t, ID("cupboard"), d.In)
	w.Checks = []Check{
		{Step: "hold", At: 150, Found: FoundSoft},
		{Step: "dry", At: 320, Found: FoundFirm},
		{Step: "dry", At: 330, Found: FoundDry, Mistaken: true},
	}
	w.Puts = []Put{{Step: "dry", At: 260, In: "attic"}}
	d = Known(doc, book, lot, 3, Dry)
	assert.Equal(
		t,
		[]Lain{
			{Span: Span{100, 150}, NotYet: true},
			{Span: Span{150, 200}},
			{Span: Span{200, 260}, In: "cupboard"},
			{Span: Span{260, 320}, In: "attic", NotYet: true},
		},
		d.Lain,
	)
	assert.Equal(t, ID("attic"), d.In)
	with := *w
	with.Puts = []Put{{Step: "dry", At: 210, Machine: "oven", Minutes: 30}, {Step: "dry", At: 300, In: "attic"}}
	doc.Work[0], with = with, *w
	d = Known(doc, book, lot, 3, Dry)
	assert.Equal(
		t,
		[]Lain{
			{Span: Span{100, 150}, NotYet: true},
			{Span: Span{150, 200}},
			{Span: Span{200, 210}, In: "cupboard"},
			{Span: Span{210, 240}, Machine: "oven"},
			{Span: Span{240, 300}},
			{
				Span:   Span{300, 320},
				In:     "attic",
				NotYet: true,
			},
		},
		d.Lain,
		"half an hour of the oven, and an hour in which it stood still",
	)
	doc.Work[0] = with
	firm := Known(doc, book, lot, 3, Firm)
	assert.EqualValues(t, 320, *firm.Reached, "firm is behind them")
	assert.Empty(t, firm.Lain)
	w.Checks[2].Mistaken = false
	assert.EqualValues(t, 330, *Known(doc, book, lot, 3, Dry).Reached)
	assert.Nil(t, Known(doc, book, lot, 0, Dry), "work dries nothing")
}

func TestSpoiltPiecesCountOnlyAfterTheirWait(t *testing.T) {
	doc, w := cups()
	r := NewBook(doc).Of(w.Made())
	w.Checks = []Check{{Step: "dry", At: 300, Found: FoundSpoilt, Pieces: 2}}
	assert.EqualValues(t, 9, w.Entering(r, "turn"))
	assert.EqualValues(t, 7, w.Entering(r, "dust"))
	assert.EqualValues(t, 7, w.Progress(r).Alive)
}
