package handover_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/contents"
	"bractum/core/handover"
	"bractum/core/studio"
)

func order() *studio.Order {
	return &studio.Order{Name: "Regatta", State: studio.OrderOpen,
		Lines: []studio.OrderLine{{ID: "magnolias", Quantity: 4}, {ID: "leaves", Quantity: 6, Gone: 2}},
		Cakes: []studio.Cake{{Placings: []studio.Placing{{Line: "magnolias", Quantity: 3, Holder: "cup"},
			{Line: "magnolias", Quantity: 1, Holder: "pick"}}}}}
}

func names(id studio.ID) string { return "of " + string(id) }

var strips = contents.Contents{Out: []contents.Piece{{Material: "strip", Least: 8, Most: 12}}}

func packed(t *testing.T, magnolias, leaves int64) (*handover.Packing, *studio.Order) {
	p, o := &handover.Packing{}, order()
	there := map[studio.ID]int64{"magnolias": 4, "leaves": 5}
	require.NoError(t, p.CountIn(o, there, handover.Packed{Line: "magnolias", Good: magnolias - 1, Second: 1}))
	require.NoError(t, p.CountIn(o, there, handover.Packed{Line: "leaves", Good: leaves}))
	return p, o
}

// What is counted in leaves; a count takes the place of the one before; nothing is signed twice or packed after.
func TestWhatIsPackedLeavesOnce(t *testing.T) {
	p, o := packed(t, 4, 3)
	require.ErrorContains(t, p.CountIn(o, map[studio.ID]int64{"leaves": 4}, handover.Packed{Line: "leaves", Good: 5}),
		"4 are owed")
	require.ErrorContains(t, p.CountIn(o, map[studio.ID]int64{"leaves": 3}, handover.Packed{Line: "leaves", Good: 4}),
		"3 lie there")
	require.ErrorContains(t, p.CountIn(o, nil, handover.Packed{Line: "roses"}), "no such line")
	_, err := p.SignOff(o, strips, names, false, handover.Signature{})
	require.ErrorContains(t, err, "1 flowers of \"Regatta\" are not packed")
	require.NoError(t, p.CountIn(o, map[studio.ID]int64{"leaves": 4}, handover.Packed{Line: "leaves", Good: 4}))

	_, err = p.SignOff(o, strips, names, false, handover.Signature{})
	require.ErrorContains(t, err, "8 of of strip were put in and 0 are counted out")
	require.ErrorContains(t, p.CountOut(o, strips, handover.Tally{Material: "pin", Number: 1}), "nothing of that")
	require.NoError(t, p.CountOut(o, strips, handover.Tally{Material: "strip", Number: 7}))
	require.NoError(t, p.CountOut(o, strips, handover.Tally{Material: "strip", Number: 9}))
	leaves, err := p.SignOff(o, strips, names, false, handover.Signature{Person: "brisa"})
	require.NoError(t, err)
	assert.Equal(t, map[studio.ID]int64{"magnolias": 4, "leaves": 4}, leaves)

	_, err = p.SignOff(o, strips, names, false, handover.Signature{})
	assert.ErrorContains(t, err, "signed off already")
	assert.ErrorContains(t, p.Fill(o, nil), "signed off already")
}

// A part leaves when that is said, and the rest begins anew; of what is not packed nothing leaves.
func TestAPartLeavesWhenThatIsSaid(t *testing.T) {
	p, o := packed(t, 2, 1)
	leaves, err := p.SignOff(o, contents.Contents{}, names, true, handover.Signature{})
	require.NoError(t, err)
	assert.Equal(t, map[studio.ID]int64{"magnolias": 2, "leaves": 1}, leaves)
	rest := p.Rest()
	assert.Nil(t, rest.Signed)
	_, err = rest.SignOff(o, contents.Contents{}, names, true, handover.Signature{})
	require.ErrorContains(t, err, "nothing of \"Regatta\" is packed")
	o.State = studio.OrderCancelled
	_, err = rest.SignOff(o, contents.Contents{}, names, true, handover.Signature{})
	assert.ErrorContains(t, err, "only an open order")
}

// One damp hour of the usual day is enough for a desiccant.
func TestADampDayWantsDesiccant(t *testing.T) {
	doc := &studio.Document{Climate: []studio.Air{{HumidityPerMille: 500}, {HumidityPerMille: 649}}}
	assert.False(t, handover.Damp(doc))
	doc.Climate[0].HumidityPerMille = 650
	assert.True(t, handover.Damp(doc))
}

// Only what was lent comes back, no more of it than was lent, and each is booked once.
func TestWhatWasLentComesBack(t *testing.T) {
	book := studio.NewBook(&studio.Document{Materials: []studio.Material{
		{
			ID:     "cup",
			Holder: &studio.Holder{Deep: 60_000, ComesBack: true},
		}, {ID: "pick", Holder: &studio.Holder{Deep: 45_000}}}})
	p, o := packed(t, 4, 4)
	assert.Equal(t, map[studio.ID]int64{"cup": 3, "pick": 1}, handover.Holders(o))
	_, err := p.CameBack(book, o, handover.Tally{Material: "cup", Number: 1})
	require.ErrorContains(t, err, "has not left")
	require.ErrorContains(t, p.Hear(o, handover.Afterward{Says: "fine"}), "has not left")
	_, err = p.SignOff(o, contents.Contents{}, names, false, handover.Signature{})
	require.NoError(t, err)
	for _, number := range []int64{2, 3} {
		more, err := p.CameBack(book, o, handover.Tally{Material: "cup", Number: number})
		require.NoError(t, err)
		assert.Equal(t, map[int64]int64{2: 2, 3: 1}[number], more)
	}
	_, err = p.CameBack(book, o, handover.Tally{Material: "pick", Number: 1})
	require.ErrorContains(t, err, "0 were lent")
	require.ErrorContains(t, p.Hear(o, handover.Afterward{}), "say what was heard")
	require.NoError(t, p.Hear(o, handover.Afterward{Broke: 1, Says: "one petal, at the quay"}))
	assert.Len(t, p.After, 1)
}
