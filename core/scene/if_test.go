package scene_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/drying"
	"bractum/core/scene"
	"bractum/core/studio"
	"bractum/demo"
)

func with(t *testing.T, changes ...scene.If) *studio.Document {
	t.Helper()
	doc := demo.Document()
	before, err := json.Marshal(doc)
	require.NoError(t, err)
	is, err := scene.With(doc, changes)
	require.NoError(t, err)
	after, err := json.Marshal(doc)
	require.NoError(t, err)
	assert.JSONEq(t, string(before), string(after), "the studio itself is as it was")
	return is
}

func find[T any](all []T, is func(T) bool) T {
	for _, x := range all {
		if is(x) {
			return x
		}
	}
	panic("not there")
}

func (y yard) order(t *testing.T, doc *studio.Document, name string) studio.Order {
	t.Helper()
	return find(doc.Orders, func(o studio.Order) bool { return o.Name == name })
}

type yard struct{ calendar studio.Calendar }

func opened(t *testing.T) yard {
	doc := demo.Document()
	c, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	return yard{c}
}

// Somebody who is away has no hours then; who stays has them besides; a helper has theirs.
func TestPeopleAreAwayStayAndHelp(t *testing.T) {
	y, doc := opened(t), demo.Document()
	day := studio.MustDate("2027-09-21")
	morning := y.calendar.At(day, 0)
	hours := func(doc *studio.Document, name string) studio.Minute {
		p := find(doc.People, func(p studio.Person) bool { return p.Name == name })
		return studio.HoursOf(p, y.calendar, morning, morning+1440).
			Worked(studio.Span{From: morning, To: morning + 1440})
	}
	teun := demo.ID("Teun")
	require.Positive(t, hours(doc, "Teun"))
	assert.Zero(t, hours(with(t, scene.If{Kind: scene.Away, Of: teun, From: day, Until: day}), "Teun"))
	evening := []studio.Span{{From: morning + 19*60, To: morning + 21*60}}
	assert.Equal(
		t,
		hours(doc, "Teun")+120,
		hours(with(t, scene.If{Kind: scene.Stays, Of: teun, Spans: evening}), "Teun"),
	)
	assert.EqualValues(t, 120, hours(with(t, scene.If{Kind: scene.Helps, Name: "Someone", Skills: []string{"wiring"},
		Spans: evening}), "Someone"))
}

// A damp week makes pieces dry later in the room, and what lies in a closed cupboard as before.
func TestADampWeekDriesLater(t *testing.T) {
	y, doc := opened(t), demo.Document()
	damp := with(t, scene.If{Kind: scene.Air, Number: 60, From: studio.MustDate("2027-09-20"),
		Until: studio.MustDate("2027-09-26")})
	ends := func(doc *studio.Document) studio.Minute {
		c := doc.DryingClasses[0]
		end, ok := drying.NewRoom(doc, y.calendar).
			End(studio.Length{Dries: &studio.Dries{Class: c.ID, Thickness: c.Thickness,
				State: studio.Dry}}, doc.Now)
		require.True(t, ok)
		return end
	}
	assert.Greater(t, ends(damp), ends(doc))
}

// More of a thing is so many more; fewer than none there cannot be.
func TestMoreOfAThing(t *testing.T) {
	doc := demo.Document()
	p := doc.Places[0]
	assert.Equal(t, p.Slots+2, with(t, scene.If{Kind: scene.Places, Of: p.ID, Number: 2}).Places[0].Slots)
	assert.Equal(
		t,
		doc.Tools[0].Number+1,
		with(t, scene.If{Kind: scene.Tools, Of: doc.Tools[0].ID, Number: 1}).Tools[0].Number,
	)
	assert.Equal(t, doc.Machines[0].Slots+3,
		with(t, scene.If{Kind: scene.Machines, Of: doc.Machines[0].ID, Number: 3}).Machines[0].Slots)
	_, err := scene.With(doc, []scene.If{{Kind: scene.Places, Of: p.ID, Number: -p.Slots - 1}})
	assert.ErrorContains(t, err, "so many fewer there cannot be")
}

// An order is moved, grown, recoloured, cancelled and parted, alone or one after the other.
func TestOrdersAreOtherwise(t *testing.T) {
	y, doc := opened(t), demo.Document()
	o := y.order(t, doc, "Lighthouse")
	l := o.Lines[0]
	leaves := y.calendar.Wall(y.calendar.Minute(o.Leaves) + 1440)
	is := with(t, scene.If{Kind: scene.Moved, Of: o.ID, Leaves: leaves},
		scene.If{Kind: scene.Grown, Of: o.ID, Line: l.ID, Number: l.Quantity + 4},
		scene.If{Kind: scene.Recolour, Of: o.ID, Line: l.ID, Colourway: demo.ID("Oyster")},
		scene.If{Kind: scene.Spares, Of: o.ID, Number: 500})
	then := y.order(t, is, "Lighthouse")
	assert.Equal(t, leaves, then.Leaves)
	assert.Equal(t, l.Quantity+4, then.Lines[0].Quantity)
	assert.Equal(t, demo.ID("Oyster"), then.Lines[0].Colourway)
	assert.EqualValues(t, 500, then.Lines[0].ServiceLevel)

	is = with(t, scene.If{Kind: scene.Parted, Of: o.ID, Line: l.ID, Number: 2, Leaves: leaves})
	rest := find(is.Orders, func(r studio.Order) bool { return r.ID == scene.RestOf(o.ID) })
	assert.EqualValues(t, 2, rest.Lines[0].Quantity)
	assert.Equal(t, l.Quantity-2, y.order(t, is, "Lighthouse").Lines[0].Quantity)

	is = with(t, scene.If{Kind: scene.Cancelled, Of: o.ID})
	assert.Equal(t, studio.OrderCancelled, y.order(t, is, "Lighthouse").State)
	for _, s := range is.Shelf {
		for _, c := range s.Reserved {
			assert.NotEqual(t, o.ID, c.Order)
		}
	}
}

// What is bought comes sooner, a supplier is late with what is on its way as well, prices go up.
func TestWhatIsBoughtIsOtherwise(t *testing.T) {
	doc := demo.Document()
	m := find(doc.Materials, func(m studio.Material) bool { return m.Supplier != "" && m.Price > 0 })
	opens := doc.Now + 2000
	is := with(
		t,
		scene.If{Kind: scene.Arrives, Of: m.ID, Number: 500, Spans: []studio.Span{{From: opens, To: opens + 1}}},
	)
	gate := is.Gates[len(is.Gates)-1]
	assert.Equal(t, opens, *gate.Opens)
	assert.EqualValues(t, 500, gate.Amount)

	doc.Gates = append(doc.Gates, studio.Gate{ID: "coming", Name: "Wire", Opens: &opens, Material: m.ID, Amount: 5})
	late, err := scene.With(doc, []scene.If{{Kind: scene.Late, Of: m.Supplier, Number: 3}})
	require.NoError(t, err)
	assert.Equal(t, opens+3*1440, *late.Gates[len(late.Gates)-1].Opens)
	assert.Equal(t, opens, *doc.Gates[len(doc.Gates)-1].Opens)

	dear := with(t, scene.If{Kind: scene.Prices, Number: 1100})
	assert.Equal(t, studio.CeilDiv(m.Price*1100, 1000),
		find(dear.Materials, func(x studio.Material) bool { return x.ID == m.ID }).Price)
}

// What cannot be is said, and by which of the changes.
func TestWhatCannotBeIsSaid(t *testing.T) {
	doc := demo.Document()
	o, day := doc.Orders[0], studio.MustDate("2027-09-21")
	for says, c := range map[string]scene.If{
		"no kind of change":      {Kind: "snow"},
		"not there any more":     {Kind: scene.Away, Of: "nobody", From: day, Until: day},
		"from which day":         {Kind: scene.Away, Of: doc.People[0].ID},
		"from when until when":   {Kind: scene.Stays, Of: doc.People[0].ID},
		"what the helper can do": {Kind: scene.Helps},
		"how much comes":         {Kind: scene.Arrives, Of: doc.Materials[0].ID},
		"cannot leave by":        {Kind: scene.Parted, Of: o.ID, Line: o.Lines[0].ID, Number: 5000},
		"thousandths of a price": {Kind: scene.Prices, Number: -1},
		"an order leaves after":  {Kind: scene.Moved, Of: o.ID, Leaves: studio.WallTimeOf(doc.Epoch)},
		"would be right":         {Kind: scene.Grown, Of: o.ID, Line: o.Lines[0].ID, Number: 900_000},
	} {
		_, err := scene.With(doc, []scene.If{{Kind: scene.Prices, Number: 1000}, c})
		var refused scene.Refused
		require.ErrorAs(t, err, &refused, says)
		assert.Equal(t, 1, refused.At)
		assert.ErrorContains(t, err, says)
	}
}
