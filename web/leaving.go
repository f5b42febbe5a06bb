package web

import (
	"context"
	"syscall"
	"time"

	"github.com/gofiber/fiber/v3"
)

// looksEach is how often it is looked whether an asker is still there.
const looksEach = 100 * time.Millisecond

// whileConnected is a context that ends when whoever asked is gone: nobody reads the answer
// then. The server underneath does not say so while an answer is being worked out, so the
// connection is looked at; what the client has sent meanwhile is left in it.
func whileConnected(c fiber.Ctx) (ctx context.Context, done func()) {
	ctx, done = context.WithCancel(c.Context())
	socket, ok := c.RequestCtx().Conn().(syscall.Conn)
	if !ok {
		return ctx, done
	}
	raw, err := socket.SyscallConn()
	if err != nil {
		return ctx, done
	}
	go func() {
		defer done()
		each := time.NewTicker(looksEach)
		defer each.Stop()
		for {
			select {
			case <-ctx.Done():
				return
			case <-each.C:
				if left(raw) {
					return
				}
			}
		}
	}()
	return ctx, done
}

// left is true of a connection whose other end is closed.
func left(raw syscall.RawConn) (gone bool) {
	err := raw.Control(func(socket uintptr) {
		var one [1]byte
		n, _, err := syscall.Recvfrom(int(socket), one[:], syscall.MSG_PEEK|syscall.MSG_DONTWAIT)
		gone = n == 0 && err == nil || err == syscall.ECONNRESET || err == syscall.EPIPE
	})
	return gone || err != nil
}
