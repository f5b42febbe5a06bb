package web

import (
	"bufio"
	"fmt"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"

	"bractum/store"
)

const heartbeat = 15 * time.Second

// hub tells every open stream of new journal numbers. A stream that is behind
// only needs the latest, so each has room for one.
type hub struct {
	mu      sync.Mutex
	streams map[chan int64]struct{}
	closed  bool
}

func newHub() *hub { return &hub{streams: map[chan int64]struct{}{}} }

func (h *hub) tell(n int64) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for stream := range h.streams {
		select {
		case <-stream:
		default:
		}
		stream <- n
	}
}

func (h *hub) open() (chan int64, bool) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.closed {
		return nil, false
	}
	stream := make(chan int64, 1)
	h.streams[stream] = struct{}{}
	return stream, true
}

func (h *hub) leave(stream chan int64) {
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

// stream sends journal numbers as they come; the first is the latest, so that a
// client which was away sees whether it missed anything.
func (h *hub) stream(c fiber.Ctx, s *store.Store) error {
	latest, _, _, err := s.LastN(c.Context())
	if err != nil {
		return err
	}
	stream, ok := h.open()
	if !ok {
		return fiber.ErrServiceUnavailable
	}
	c.Set("Content-Type", "text/event-stream")
	return c.SendStreamWriter(func(w *bufio.Writer) {
		defer h.leave(stream)
		send := func(n int64) bool {
			_, _ = fmt.Fprintf(w, "id: %d\nevent: journal\ndata: %d\n\n", n, n)
			return w.Flush() == nil
		}
		beat := time.NewTicker(heartbeat)
		defer beat.Stop()
		for alive := send(latest); alive; {
			select {
			case n, open := <-stream:
				alive = open && send(n)
			case <-beat.C:
				_, _ = w.WriteString(": still here\n\n")
				alive = w.Flush() == nil
			}
		}
	})
}
