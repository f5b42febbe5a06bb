package web

import (
	"context"
	"crypto/tls"
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
	under := c.RequestCtx().Conn()
	if secure, is := under.(*tls.Conn); is {
		under = secure.NetConn()
	}
	socket, ok := under.(syscall.Conn)
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
