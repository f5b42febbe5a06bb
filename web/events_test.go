package web

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"bractum/api"
)

// A better plan for what is recorded is told too, though its journal number is told already.
func TestEveryEventIsNewThoughItsNumberIsNot(t *testing.T) {
	h := newHub()
	h.tell(api.Event{Name: api.EventPlanned, N: 5})
	_, heard, ok := h.open()
	assert.True(t, ok)
	assert.Empty(t, h.since(heard), "what came before is in the first answer")
	planned := []api.Event{{Name: api.EventPlanned, N: 5}}
	h.tell(planned[0])
	assert.Equal(t, planned, h.since(heard))
	h.tell(planned[0])
	h.tell(planned[0])
	assert.Equal(t, planned, h.since(heard), "once for all that a stream is behind")
	assert.Empty(t, h.since(heard))
}

func TestAStreamThatIsBehindIsToldAllTopicsOnce(t *testing.T) {
	h := newHub()
	_, heard, _ := h.open()
	h.tell(api.Event{Name: api.EventFacts, N: 1, Topics: []string{"work", "stores"}})
	h.tell(api.Event{Name: api.EventFacts, N: 2, Topics: []string{"work", "air"}})
	assert.Equal(t, []api.Event{{Name: api.EventFacts, N: 2, Topics: []string{"air", "stores", "work"}}},
		h.since(heard))
	for n := range int64(remembered + 1) {
		h.tell(api.Event{Name: api.EventFacts, N: 3 + n, Topics: []string{"work"}})
	}
	assert.Equal(t, []api.Event{{Name: api.EventFacts, N: 3 + remembered, Topics: []string{api.AllTopics}}},
		h.since(heard))
}
