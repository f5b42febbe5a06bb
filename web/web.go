// Package web is the Fiber application: the API on its adapter, the live event
// stream, and the front end that is built into the program.
package web

import (
	"cmp"
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"mime"
	"net"
	"net/http"
	"path"
	"reflect"
	"runtime/debug"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/limiter"
	"github.com/gofiber/fiber/v3/middleware/recover"

	"bractum/api"
	"bractum/outside"
	"bractum/store"
)

//go:embed all:site
var site embed.FS

// Application is the running web application of one studio file.
type Application struct {
	app     *fiber.App
	events  *hub
	figures *figures
	service *api.Service
	names   names
	root    []byte // a certificate that tablets are to trust
	API     huma.API
}

// New makes the application; the store may be nil when only the API's
// description is wanted.
func New(s *store.Store, clock store.Clock, out outside.Services) *Application {
	huma.DefaultArrayNullable = false // our answers write empty lists, never null
	a := &Application{events: newHub(), names: names{}}
	a.figures = newFigures(func() float64 { return float64(a.events.number()) })
	a.app = fiber.New(fiber.Config{AppName: "Bractum", Immutable: true, BodyLimit: api.MostBody, ErrorHandler: failed,
		ReadTimeout: readingTakes, IdleTimeout: idles, Concurrency: mostConnections})
	a.app.Use(logged, a.figures.measured, recover.New(recover.Config{EnableStackTrace: true,
		StackTraceHandler: panicked}), guard,
		a.names.mayAsk)
	a.app.Post(
		"/api/readings",
		limiter.New(limiter.Config{Max: readingsEach, Expiration: time.Minute, LimitReached: func(fiber.Ctx) error {
			return fiber.NewError(
				http.StatusTooManyRequests,
				fmt.Sprintf(
					"more than %d packs of readings came within a minute; send less often, with more in each. What came before is kept",
					readingsEach,
				),
			)
		}}),
	)
	config := huma.DefaultConfig("Bractum", "0")
	config.DocsPath = ""
	config.OpenAPIPath = "/api/openapi"
	config.SchemasPath = ""
	config.CreateHooks = nil // no links to schemas in answers
	config.Components.Schemas = huma.NewMapRegistry("#/components/schemas/", namer())
	a.API = huma.NewAPI(config, adapter{a.app, a.admit})
	a.service = api.Register(a.API, s, clock, a.events.tell, out)
	a.app.Get("/api/events", func(c fiber.Ctx) error {
		if _, err := a.admit(c, "follow-events", false); err != nil {
			return err
		}
		if _, err := a.service.Latest(c.Context()); errors.Is(err, store.ErrEmpty) {
			return fiber.NewError(http.StatusConflict, "no studio is begun here yet")
		}
		token := strings.Clone(c.Cookies(api.Cookie))
		return a.events.stream(c, func() (int64, error) { return a.service.Latest(c.Context()) },
			func() bool { return a.service.Still(context.Background(), token) })
	})
	a.app.Get("/healthz", func(c fiber.Ctx) error {
		if _, _, _, err := s.LastN(c.Context()); err != nil && !errors.Is(err, store.ErrEmpty) {
			slog.Warn("not well", "error", err)
			return fiber.NewError(http.StatusServiceUnavailable, "the studio's file cannot be read")
		}
		return c.SendString("ok\n")
	})
	a.app.Get("/root.crt", func(c fiber.Ctx) error {
		if a.root == nil {
			return fiber.ErrNotFound
		}
		c.Set("Content-Type", "application/x-x509-ca-cert")
		c.Set("Content-Disposition", `attachment; filename="bractum-root.crt"`)
		return c.Send(a.root)
	})
	a.app.All("/api/*", func(fiber.Ctx) error { return fiber.ErrNotFound })
	a.app.Get("/*", page)
	return a
}

// namer names schemas by their types; of two that share a name the second is named with
// its package as well.
func namer() func(reflect.Type, string) string {
	taken := map[string]reflect.Type{}
	return func(t reflect.Type, hint string) string {
		for t.Kind() == reflect.Pointer {
			t = t.Elem()
		}
		name := huma.DefaultSchemaNamer(t, hint)
		if other, known := taken[name]; known && other != t && t.Name() != "" {
			of := path.Base(t.PkgPath())
			return strings.ToUpper(of[:1]) + of[1:] + name
		}
		taken[name] = t
		return name
	}
}

// readingsEach is how many packs of readings are taken from one address in a minute.
const readingsEach = 240

// Receive keeps what a sensor has sent, as a SenML pack.
func (a *Application) Receive(ctx context.Context, pack []byte) error {
	_, err := a.service.Receive(ctx, "application/senml+json", pack)
	return err
}

// Begins says what an empty folder can become.
func (a *Application) Begins(from api.Beginnings) { a.service.Begins(from) }

// Named lets a studio be asked for by a name, beside its address; before it is served.
func (a *Application) Named(name string) { a.names[strings.ToLower(name)] = true }

// Reached says how the studio is reached, and whether over HTTPS; before it is served.
func (a *Application) Reached(secure bool, addresses ...string) { a.service.Door(secure, addresses...) }

// Root gives out the root that tablets are to trust.
func (a *Application) Root(pem []byte, fingerprint string) {
	a.root = pem
	a.service.Trusted(fingerprint)
}

// KeepBackups makes a backup every night and keeps so many of the newest, until the context ends.
func (a *Application) KeepBackups(ctx context.Context, keep int) { a.service.KeepBackups(ctx, keep) }

// Close stops what goes on in the background; Serve ends with it.
func (a *Application) Close() { a.service.Close() }

// closing is how long requests that are being answered may go on when the program ends.
const closing = 500 * time.Millisecond

// Open has plans reckon with the air as it is now; Serve begins with it.
func (a *Application) Open(ctx context.Context) error { return a.service.Open(ctx) }

// Serve answers on a listener until the context ends.
func (a *Application) Serve(ctx context.Context, on net.Listener) error {
	if err := a.Open(ctx); err != nil {
		return err
	}
	stopped := make(chan error, 1)
	go func() { stopped <- a.app.Listener(on, fiber.ListenConfig{DisableStartupMessage: true}) }()
	select {
	case err := <-stopped:
		return err
	case <-ctx.Done():
		a.events.close() // open streams would hold the shutdown up
		a.service.Close()
		if err := a.app.ShutdownWithTimeout(closing); err != nil && !errors.Is(err, context.DeadlineExceeded) {
			return err
		}
		return nil // whatever was still open; nothing half-written is kept
	}
}

// How long a request may take to come in, and a connection lie idle, and how many of them
// there may be: who sends half a request and holds it is let go.
const (
	readingTakes    = 20 * time.Second
	idles           = 75 * time.Second
	mostConnections = 2000
)

// panicked leaves a panic's stack for whoever looks after the program; the studio goes on.
func panicked(c fiber.Ctx, what any) {
	slog.Error("a panic in an operation", "method", c.Method(), "path", c.Path(), "panic", what, "stack",
		string(debug.Stack()))
}

// logged writes a line for each request, for whoever looks into one: at the level debug.
func logged(c fiber.Ctx) error {
	if !slog.Default().Enabled(c.Context(), slog.LevelDebug) {
		return c.Next()
	}
	begun := time.Now()
	err := c.Next()
	status := c.Response().StatusCode()
	if known := (*fiber.Error)(nil); errors.As(err, &known) {
		status = known.Code
	}
	slog.Debug("request", "method", c.Method(), "path", c.OriginalURL(), "status", status, "took", time.Since(begun),
		"error", err)
	return err
}

func guard(c fiber.Ctx) error {
	c.Set(
		"Content-Security-Policy",
		"default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; frame-ancestors 'none'",
	)
	c.Set("X-Content-Type-Options", "nosniff")
	c.Set("Referrer-Policy", "no-referrer")
	if strings.HasPrefix(c.Path(), "/api/") {
		c.Set("Cache-Control", "no-store")
	}
	return c.Next()
}

// failed answers what no operation answered, as a problem without inner words.
func failed(c fiber.Ctx, err error) error {
	status, detail := http.StatusInternalServerError, "something failed that should not; nothing was written"
	var known *fiber.Error
	if errors.As(err, &known) {
		status, detail = known.Code, known.Message
	}
	if status == http.StatusRequestEntityTooLarge {
		detail = fmt.Sprintf(
			"this is larger than the %d MiB that are taken at once; nothing was written",
			api.MostBody>>20,
		)
	}
	c.Status(status).Set("Content-Type", "application/problem+json")
	return c.JSON(
		huma.ErrorModel{Status: status, Title: http.StatusText(status), Detail: detail},
		"application/problem+json",
	)
}

// page answers with a file of the front end, or with its one page.
func page(c fiber.Ctx) error {
	name := path.Clean(strings.TrimPrefix(c.Path(), "/"))
	if name == "." || path.Ext(name) == "" {
		name = "index.html"
	}
	body, err := fs.ReadFile(site, "site/app/"+name)
	if err != nil {
		if name == "index.html" {
			return c.Status(http.StatusServiceUnavailable).
				SendString("The front end is not built into this program: make build.")
		}
		return fiber.ErrNotFound
	}
	c.Set("Content-Type", cmp.Or(mime.TypeByExtension(path.Ext(name)), "application/manifest+json"))
	c.Set("Cache-Control", "no-cache")
	if strings.HasPrefix(name, "assets/") {
		c.Set("Cache-Control", "public, max-age=31536000, immutable")
	}
	c.Set("Vary", "Accept-Encoding")
	for _, packed := range []struct{ encoding, ending string }{{encoding: "br", ending: ".br"}, {encoding: "gzip", ending: ".gz"}} {
		if strings.Contains(c.Get("Accept-Encoding"), packed.encoding) {
			if small, err := fs.ReadFile(site, "site/app/"+name+packed.ending); err == nil {
				c.Set("Content-Encoding", packed.encoding)
				return c.Send(small)
			}
		}
	}
	return c.Send(body)
}
