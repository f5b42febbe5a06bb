package promise

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"bractum/core/scene"
	"bractum/core/studio"
)

// Who stays is paid their own rate for all the time that they are there, a helper what is agreed.
func TestWhoStaysIsPaidForIt(t *testing.T) {
	doc := &studio.Document{People: []studio.Person{{ID: "maren", Rate: 1800}, {ID: "teun", Rate: 2400}}}
	two := []studio.Span{{From: 0, To: 120}, {From: 1440, To: 1530}}
	assert.EqualValues(t, 8400, paid(doc, []scene.If{{Kind: scene.Stays, Of: "teun", Spans: two}}))
	assert.EqualValues(t, 7000, paid(doc, []scene.If{{Kind: scene.Helps, Number: 2000, Spans: two}}))
	assert.EqualValues(t, 8400+7000, paid(doc, []scene.If{{Kind: scene.Stays, Of: "teun", Spans: two},
		{Kind: scene.Helps, Number: 2000, Spans: two}, {Kind: scene.Places, Of: "rail", Number: 2}}))
}
