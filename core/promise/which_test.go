package promise_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/promise"
	"bractum/core/studio"
	"bractum/demo"
)

// quoted is the demo with some orders as quotes.
func quoted(t *testing.T, lines ...any) (yard, []studio.ID) {
	doc := demo.Document()
	y := opened(t, doc)
	ids := []studio.ID{}
	for i := 0; i < len(lines); i += 2 {
		o := y.order("2027-09-25T12:00", lines[i], lines[i+1])
		o.ID, o.State = studio.ID(fmt.Sprint("quote ", i/2)), studio.OrderQuote
		o.Lines[0].ID = "line of " + o.ID
		doc.Orders = append(doc.Orders, o)
		ids = append(ids, o.ID)
	}
	return y, ids
}

// Two of three fit, or none of them together: every set that is named works, no larger one does, and none is left out.
func TestWhichOfThemCanBeTakenOn(t *testing.T) {
	y, ids := quoted(t, 7, "Gardenia", 6, "Gardenia", 2, "Waxflower stem")
	told := 0
	sets, err := promise.Which(y.doc, y.made, y.made, ids, nil, func(done, of int) {
		assert.Equal(t, 7, of)
		told++
	})
	require.NoError(t, err)
	require.NotEmpty(t, sets)
	assert.Equal(t, 7, told)
	for i, s := range sets {
		assert.Less(t, len(s.Orders), 3, "all three are too many")
		assert.GreaterOrEqual(t, s.Least, studio.Minute(0))
		for j, other := range sets {
			if i != j {
				assert.NotSubset(t, other.Orders, s.Orders)
			}
		}
	}
	assert.Contains(t, sets[0].Orders, ids[2], "the waxflower goes with either")
}

// What is no quote, and too few or too many, is refused.
func TestWhatIsNotWeighed(t *testing.T) {
	y, ids := quoted(t, 1, "Gardenia", 1, "Gardenia")
	_, err := promise.Which(y.doc, y.made, y.made, ids[:1], nil, nil)
	assert.ErrorContains(t, err, "from 2 to 6")
	_, err = promise.Which(y.doc, y.made, y.made, []studio.ID{ids[0], y.doc.Orders[0].ID}, nil, nil)
	assert.ErrorContains(t, err, "one of these is none any more")
}
