package web

import (
	"bufio"
	"fmt"
	"maps"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"

	"bractum/api"
	"bractum/store"
)

const heartbeat = 15 * time.Second

// hub tells every open stream of new numbers of events. A stream that is behind only
// needs the latest of each, so it is woken, and looks.
type hub struct {
	mu      sync.Mutex
	latest  map[string]int64
	streams map[chan struct{}]struct{}
	closed  bool
}

func newHub() *hub { return &hub{latest: map[string]int64{}, streams: map[chan struct{}]struct{}{}} }

func (h *hub) tell(event string, n int64) {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.latest[event] = max(h.latest[event], n)
	for stream := range h.streams {
		select {
		case stream <- struct{}{}:
		default:
		}
	}
}

// now are the latest numbers.
func (h *hub) now() map[string]int64 {
	h.mu.Lock()
	defer h.mu.Unlock()
	return maps.Clone(h.latest)
}

func (h *hub) open() (chan struct{}, bool) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.closed {
		return nil, false
	}
	stream := make(chan struct{}, 1)
	h.streams[stream] = struct{}{}
	return stream, true
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

// stream sends events' numbers as they come; the first is the latest of the journal, so
// that a client which was away sees whether it missed anything.
func (h *hub) stream(c fiber.Ctx, s *store.Store) error {
	stream, ok := h.open()
	if !ok {
		return fiber.ErrServiceUnavailable
	}
	sent := h.now()
	latest, _, _, err := s.LastN(c.Context())
	if err != nil {
		h.leave(stream)
		return err
	}
	c.Set("Content-Type", "text/event-stream")
	return c.SendStreamWriter(func(w *bufio.Writer) {
		defer h.leave(stream)
		send := func(event string, n int64) bool {
			sent[event] = n
			_, _ = fmt.Fprintf(w, "id: %d\nevent: %s\ndata: %d\n\n", n, event, n)
			return w.Flush() == nil
		}
		beat := time.NewTicker(heartbeat)
		defer beat.Stop()
		for alive := send(api.EventJournal, latest); alive; {
			select {
			case _, open := <-stream:
				alive = open
				for event, n := range h.now() {
					if sent[event] != n {
						alive = alive && send(event, n)
					}
				}
			case <-beat.C:
				_, _ = w.WriteString(": still here\n\n")
				alive = w.Flush() == nil
			}
		}
	})
}
