package web

import (
	"bufio"
	"encoding/json"
	"fmt"
	"slices"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"

	"bractum/api"
)

const heartbeat = 15 * time.Second

// mostStreams is how many streams are open at once: one for each browser of a large studio,
// and some that nobody has noticed to be gone.
const mostStreams = 200

// remembered is how many of the latest facts a stream that fell behind still gets the
// topics of; one further behind is to refetch everything.
const remembered = 200

// hub tells every open stream of events. A stream that is behind only needs the latest of
// each, and the topics of all facts since; so it is woken, and looks.
type hub struct {
	mu      sync.Mutex
	latest  map[string]int64 // by name, but for facts
	facts   []api.Event      // the latest
	count   int64            // of facts that were told
	streams map[chan struct{}]struct{}
	closed  bool
}

func newHub() *hub { return &hub{latest: map[string]int64{}, streams: map[chan struct{}]struct{}{}} }

func (h *hub) tell(event api.Event) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if event.Name == api.EventFacts {
		h.count++
		h.facts = append(h.facts, event)
		h.facts = h.facts[max(0, len(h.facts)-remembered):]
	} else {
		h.latest[event.Name] = max(h.latest[event.Name], event.N)
	}
	for stream := range h.streams {
		select {
		case stream <- struct{}{}:
		default:
		}
	}
}

// sent is what a stream has been told.
type sent struct {
	latest map[string]int64
	count  int64
}

// since is what is new for a stream.
func (h *hub) since(s *sent) (events []api.Event) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if behind := h.count - s.count; behind > 0 {
		all := api.Event{Name: api.EventFacts, Topics: []string{api.AllTopics}}
		if behind <= int64(len(h.facts)) {
			all.Topics = nil
			for _, fact := range h.facts[int64(len(h.facts))-behind:] {
				all.Topics = append(all.Topics, fact.Topics...)
			}
			slices.Sort(all.Topics)
			all.Topics = slices.Compact(all.Topics)
		}
		all.N = h.facts[len(h.facts)-1].N
		s.count, events = h.count, append(events, all)
	}
	for name, n := range h.latest {
		if s.latest[name] != n {
			s.latest[name] = n
			events = append(events, api.Event{Name: name, N: n})
		}
	}
	return events
}

// open makes a stream that is told of all that comes from now on; false where there are too
// many, or the application is closing.
func (h *hub) open() (stream chan struct{}, s *sent, ok bool) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.closed || len(h.streams) >= mostStreams {
		return nil, nil, false
	}
	stream = make(chan struct{}, 1)
	h.streams[stream] = struct{}{}
	s = &sent{map[string]int64{}, h.count}
	for name, n := range h.latest {
		s.latest[name] = n
	}
	return stream, s, true
}

func (h *hub) leave(stream chan struct{}) {
	h.mu.Lock()
	defer h.mu.Unlock()
	delete(h.streams, stream)
}

func (h *hub) close() {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.closed = true
	for stream := range h.streams {
		close(stream)
		delete(h.streams, stream)
	}
}

// stream sends events as they come; the first says which journal number is published, so
// that a client which was away sees whether it missed anything.
func (h *hub) stream(c fiber.Ctx, latest int64) error {
	stream, s, ok := h.open()
	if !ok {
		return fiber.NewError(fiber.StatusServiceUnavailable,
			"too many streams are open, or Bractum is closing; ask now and then instead")
	}
	c.Set("Content-Type", "text/event-stream")
	c.Set("Cache-Control", "no-store")
	return c.SendStreamWriter(func(w *bufio.Writer) {
		defer h.leave(stream)
		send := func(event api.Event) bool {
			data, _ := json.Marshal(map[string]any{"n": event.N,
				"topics": append([]string{}, event.Topics...)}) // always marshals
			_, _ = fmt.Fprintf(w, "id: %d\nevent: %s\ndata: %s\n\n", event.N, event.Name, data)
			return w.Flush() == nil
		}
		beat := time.NewTicker(heartbeat)
		defer beat.Stop()
		for alive := send(api.Event{Name: "hello", N: latest}); alive; {
			select {
			case _, open := <-stream:
				alive = open
				for _, event := range h.since(s) {
					alive = alive && send(event)
				}
			case <-beat.C:
				_, _ = w.WriteString(": still here\n\n")
				alive = w.Flush() == nil
			}
		}
	})
}
