package web

import (
	"bufio"
	"encoding/json"
	"fmt"
	"maps"
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
// each name, and the topics of all facts since; so it is woken, and looks.
type hub struct {
	mu      sync.Mutex
	latest  map[string]api.Event // by name
	told    map[string]int64     // how many of each name
	facts   []api.Event          // the latest
	streams map[chan struct{}]struct{}
	closed  bool
}

func newHub() *hub {
	return &hub{latest: map[string]api.Event{}, told: map[string]int64{}, streams: map[chan struct{}]struct{}{}}
}

// number is how many streams are open.
func (h *hub) number() int {
	h.mu.Lock()
	defer h.mu.Unlock()
	return len(h.streams)
}

func (h *hub) tell(event api.Event) {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.latest[event.Name] = event
	h.told[event.Name]++
	if event.Name == api.EventFacts {
		h.facts = append(h.facts, event)
		h.facts = h.facts[max(0, len(h.facts)-remembered):]
	}
	for stream := range h.streams {
		select {
		case stream <- struct{}{}:
		default:
		}
	}
}

// since is what is new for a stream that has heard so many of each name. Another event of a
// name is new also when its journal number is not: a better plan for what is recorded, say.
func (h *hub) since(heard map[string]int64) (events []api.Event) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for _, name := range slices.Sorted(maps.Keys(h.told)) {
		behind := h.told[name] - heard[name]
		if behind == 0 {
			continue
		}
		heard[name] = h.told[name]
		event := h.latest[name]
		if name == api.EventFacts {
			event.Topics = h.topics(behind)
		}
		events = append(events, event)
	}
	return events
}

// topics of the latest facts.
func (h *hub) topics(facts int64) (topics []string) {
	if facts > int64(len(h.facts)) {
		return []string{api.AllTopics}
	}
	for _, fact := range h.facts[int64(len(h.facts))-facts:] {
		topics = append(topics, fact.Topics...)
	}
	slices.Sort(topics)
	return slices.Compact(topics)
}

// open makes a stream that is told of all that comes from now on; false where there are too
// many, or the application is closing.
func (h *hub) open() (stream chan struct{}, heard map[string]int64, ok bool) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.closed || len(h.streams) >= mostStreams {
		return nil, nil, false
	}
	stream = make(chan struct{}, 1)
	h.streams[stream] = struct{}{}
	return stream, maps.Clone(h.told), true
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

// stream sends events as they come; the first says which journal number is published by
// the time that nothing more is missed.
// stream tells a browser of events for as long as it may be told: it ends with its sign-in.
func (h *hub) stream(c fiber.Ctx, latest func() (int64, error), still func() bool) error {
	stream, heard, ok := h.open()
	if !ok {
		return fiber.NewError(fiber.StatusServiceUnavailable,
			"too many streams are open, or Bractum is closing; ask now and then instead")
	}
	n, err := latest()
	if err != nil {
		h.leave(stream)
		return err
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
		for alive := send(api.Event{Name: "hello", N: n}); alive; {
			select {
			case _, open := <-stream:
				alive = open && still()
				for _, event := range h.since(heard) {
					alive = alive && send(event)
				}
			case <-beat.C:
				_, _ = w.WriteString(": still here\n\n")
				alive = w.Flush() == nil && still()
			}
		}
	})
}
