package scene_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/scene"
	"bractum/core/studio"
	"bractum/demo"
)

func besides(t *testing.T, changes ...scene.If) (*studio.Plan, *scene.Beside) {
	t.Helper()
	doc := demo.Document()
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	b, err := scene.Try(doc, made, made, changes, nil)
	require.NoError(t, err)
	require.Empty(t, check.Plan(b.Doc, b.Plan))
	return made, b
}

// Where nothing is otherwise nothing differs.
func TestNothingOtherwiseDiffersInNothing(t *testing.T) {
	_, b := besides(t)
	assert.Empty(t, b.Hours)
	assert.Empty(t, b.Buys)
	assert.Equal(t, b.Was, b.Is)
	assert.Zero(t, b.Moves.Moved)
	for _, o := range b.Orders {
		assert.Equal(t, o.Was.Ready, o.Is.Ready)
	}
}

// Without its largest order there is less to do and to pay; what prices do is in the materials alone.
func TestLessToDoCostsLess(t *testing.T) {
	doc := demo.Document()
	_, b := besides(t, scene.If{Kind: scene.Cancelled, Of: doc.Orders[0].ID})
	assert.Less(t, b.Is.Labour, b.Was.Labour)
	var gone int
	for _, o := range b.Orders {
		if o.Is == nil {
			gone++
			assert.Equal(t, doc.Orders[0].ID, o.Order)
		}
	}
	assert.Equal(t, 1, gone)
	minutes := int64(0)
	for _, h := range b.Hours {
		minutes += h.Is - h.Was
	}
	assert.Negative(t, minutes)

	_, b = besides(t, scene.If{Kind: scene.Prices, Number: 2000})
	require.Positive(t, b.Was.Materials)
	assert.InDelta(t, 2, float64(b.Is.Materials)/float64(b.Was.Materials), 0.05)
	assert.Equal(t, b.Was.Labour, b.Is.Labour)
}

// Somebody who is away does nothing then, and others do it.
func TestWhoIsAwayWorksLess(t *testing.T) {
	teun := demo.ID("Teun")
	_, b := besides(t, scene.If{Kind: scene.Away, Of: teun, From: studio.MustDate("2027-09-20"),
		Until: studio.MustDate("2027-10-08")})
	for _, h := range b.Hours {
		if h.Of == teun {
			assert.Less(t, h.Is, h.Was)
			return
		}
	}
	assert.Fail(t, "it makes no difference to Teun")
}
