package web

import (
	"bytes"
	"context"
	"crypto/tls"
	"io"
	"mime/multipart"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gofiber/fiber/v3"

	"bractum/api"
)

// adapter puts the API's operations on a Fiber application.
type adapter struct {
	app   *fiber.App
	admit func(c fiber.Ctx, operation string, command bool) (context.Context, error)
}

func (a adapter) Handle(op *huma.Operation, handler func(huma.Context)) {
	path := strings.NewReplacer("{", ":", "}", "").Replace(op.Path)
	a.app.Add([]string{op.Method}, path, func(c fiber.Ctx) error {
		admitted, err := a.admit(c, op.OperationID, op.Extensions[api.Way] == api.WayCommand)
		if err != nil {
			return err
		}
		e := &exchange{op: op, ctx: c, while: admitted}
		if op.Extensions[api.Way] == api.WayBeside {
			while, done := whileConnected(c)
			defer done()
			e.while = api.AskerOf(admitted).With(while)
		}
		handler(e)
		return nil
	})
}

func (a adapter) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	r.Host = "localhost"                                       // it is asked within the program
	answer, err := a.app.Test(r, fiber.TestConfig{Timeout: 0}) // however long it takes
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	defer answer.Body.Close()
	for name, values := range answer.Header {
		for _, value := range values {
			w.Header().Add(name, value)
		}
	}
	w.WriteHeader(answer.StatusCode)
	_, _ = io.Copy(w, answer.Body) // the caller is gone if this fails
}

// exchange is one request and its answer as the API sees them.
type exchange struct {
	op     *huma.Operation
	ctx    fiber.Ctx
	while  context.Context // it is wanted
	status int
}

func (e *exchange) Operation() *huma.Operation   { return e.op }
func (e *exchange) Context() context.Context     { return e.while }
func (e *exchange) Method() string               { return e.ctx.Method() }
func (e *exchange) Host() string                 { return e.ctx.Hostname() }
func (e *exchange) RemoteAddr() string           { return e.ctx.IP() }
func (e *exchange) Query(name string) string     { return e.ctx.Query(name) }
func (e *exchange) Header(name string) string    { return e.ctx.Get(name) }
func (e *exchange) Status() int                  { return e.status }
func (e *exchange) BodyReader() io.Reader        { return bytes.NewReader(e.ctx.Body()) }
func (e *exchange) BodyWriter() io.Writer        { return e.ctx.Response().BodyWriter() }
func (e *exchange) TLS() *tls.ConnectionState    { return nil }
func (e *exchange) Version() huma.ProtoVersion   { return huma.ProtoVersion{Proto: e.ctx.Protocol()} }
func (e *exchange) SetHeader(name, value string) { e.ctx.Set(name, value) }

// Param is a part of the path, as it was meant: a step's key may hold a space.
func (e *exchange) Param(name string) string {
	written := e.ctx.Params(name)
	if meant, err := url.PathUnescape(written); err == nil {
		return meant
	}
	return written
}

func (e *exchange) AppendHeader(name, value string) {
	e.ctx.Append(name, value)
}

func (e *exchange) URL() url.URL {
	u, err := url.Parse(string(e.ctx.Request().RequestURI()))
	if err != nil {
		return url.URL{Path: e.ctx.Path()}
	}
	return *u
}

func (e *exchange) EachHeader(each func(name, value string)) {
	for name, value := range e.ctx.Request().Header.All() {
		each(string(name), string(value))
	}
}

func (e *exchange) GetMultipartForm() (*multipart.Form, error) { return e.ctx.MultipartForm() }

func (e *exchange) SetReadDeadline(at time.Time) error {
	return e.ctx.RequestCtx().Conn().SetReadDeadline(at)
}

func (e *exchange) SetStatus(code int) {
	e.status = code
	e.ctx.Status(code)
}
