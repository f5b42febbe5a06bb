package web

import (
	"context"
	"errors"
	"net"
	"net/http"
	"strconv"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"
)

// figures are what a monitor is told of a running application: how long requests take, by route and status, how many
// browsers follow what happens, and the process itself. Nothing of the studio is in them.
type figures struct {
	all      *prometheus.Registry
	requests *prometheus.HistogramVec
}

func newFigures(follow func() float64) *figures {
	f := &figures{all: prometheus.NewRegistry(), requests: prometheus.NewHistogramVec(prometheus.HistogramOpts{
		Name: "bractum_request_seconds", Help: "How long requests took, by route and status.",
		Buckets: []float64{.005, .02, .05, .1, .3, 1, 3, 10}}, []string{"route", "status"})}
	f.all.MustRegister(f.requests, collectors.NewGoCollector(),
		collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}),
		prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: "bractum_followers",
			Help: "Browsers that follow what happens."}, follow))
	return f
}

// measured is how long each request takes.
func (f *figures) measured(c fiber.Ctx) error {
	begun := time.Now()
	err := c.Next()
	status := c.Response().StatusCode()
	if known := (*fiber.Error)(nil); errors.As(err, &known) {
		status = known.Code
	}
	f.requests.WithLabelValues(c.Route().Path, strconv.Itoa(status)).Observe(time.Since(begun).Seconds())
	return err
}

// ServeFigures answers figures for a monitor at /metrics, on a listener of their own, until the context ends.
func (a *Application) ServeFigures(ctx context.Context, on net.Listener) error {
	paths := http.NewServeMux()
	paths.Handle("GET /metrics", promhttp.HandlerFor(a.figures.all, promhttp.HandlerOpts{}))
	server := &http.Server{Handler: paths, ReadHeaderTimeout: readingTakes,
		BaseContext: func(net.Listener) context.Context { return ctx }}
	stop := context.AfterFunc(ctx, func() { _ = server.Close() }) // nothing is lost with it
	defer stop()
	if err := server.Serve(on); !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return nil
}
