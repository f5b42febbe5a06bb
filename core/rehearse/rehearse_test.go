package rehearse_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/rehearse"
	"bractum/core/risk"
	"bractum/core/studio"
	"bractum/demo"
)

// small is the demo with two of its orders.
func small() *studio.Document {
	doc := demo.Document()
	doc.Orders = doc.Orders[:2]
	return doc
}

// quiet are two weeks of few orders, in which nothing goes otherwise than planned.
func quiet() rehearse.Options {
	o := rehearse.Usual()
	o.Weeks, o.Load, o.Spreads = 2, 8, risk.Spreads{Steady: true}
	return o
}

// Where nothing breaks, nobody is away and everything takes as long as it is to take, what is planned is kept; by the
// notebook every order leaves as well, if not in time, and a tenth more is made for it.
func TestWhereNothingGoesWrongWhatIsPlannedIsKept(t *testing.T) {
	r, err := rehearse.Run(small(), quiet())
	require.NoError(t, err)
	for name, side := range map[string]rehearse.Side{"bractum": r.Bractum, "notebook": r.Notebook} {
		assert.Equal(t, len(small().Orders)+side.Orders, side.InTime+len(side.Late), name)
		for _, late := range side.Late {
			assert.False(t, late.Never, "%s: %s leaves", name, late.Order)
		}
	}
	assert.Empty(t, r.Bractum.Late)
	assert.Equal(t, r.Bractum.Stiff, r.Bractum.Broken, "nothing breaks")
	assert.Less(t, 100*r.Bractum.Stiff, r.Bractum.Pieces, "and hardly anything is too stiff: minutes are rounded")
	assert.Less(t, r.Bractum.Pieces, r.Notebook.Pieces)
}

// The same seed gives the same weeks and the same course of things, whoever plays them.
func TestTheSameSeedGivesTheSame(t *testing.T) {
	o := quiet()
	o.Spreads = risk.UsualSpreads()
	run := func(seed uint64) rehearse.Report {
		o.Seed = seed
		r, err := rehearse.Run(small(), o)
		require.NoError(t, err)
		return r
	}
	o.Load = 4
	one := run(1)
	assert.Equal(t, one, run(1))
	assert.Positive(t, one.Bractum.Broken)
}

// A studio without flowers, or with hours nobody has, is refused in words and not played.
func TestAStudioOfNothingIsRefused(t *testing.T) {
	doc := demo.Document()
	doc.Recipes, doc.Orders, doc.Shelf = nil, nil, nil
	_, err := rehearse.Run(doc, quiet())
	assert.ErrorContains(t, err, "no flower")
	empty := studio.Document{}
	_, err = rehearse.Run(&empty, quiet())
	assert.Error(t, err)
}
