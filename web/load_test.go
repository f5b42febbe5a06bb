package web_test

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"runtime"
	"runtime/debug"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/demo"
	"bractum/outside"
	"bractum/store"
	"bractum/web"
)

// Load on a whole season: so many readers of the main views and writers of facts, each with
// a connection of its own and no pause between requests, on a running clock.
const (
	readers = 40
	writers = 5
)

// loadFor is how long each part of the benchmark goes on.
func loadFor() time.Duration {
	if seconds, err := strconv.Atoi(os.Getenv("BRACTUM_LOAD_SECONDS")); err == nil {
		return time.Duration(seconds) * time.Second
	}
	return 30 * time.Second
}

// BenchmarkSeasonUnderLoad sets the season at 90 % beside a bare Fiber handler that does one
// read of SQLite, in the same run.
func BenchmarkSeasonUnderLoad(b *testing.B) { underLoad(b, demo.Season(1, 1, 90)) }

// BenchmarkSeasonWithAnOrderThatCannotBeMet is the same with an order in it that takes the
// planner all it may spend.
func BenchmarkSeasonWithAnOrderThatCannotBeMet(b *testing.B) { underLoad(b, unmeetable()) }

func underLoad(b *testing.B, doc *studio.Document) {
	defer debug.SetGCPercent(debug.SetGCPercent(200)) // as the program does
	defer debug.SetMemoryLimit(debug.SetMemoryLimit(350 << 20))
	for b.Loop() {
		bare := bareHandler(b)
		s, err := store.Open(context.Background(), b.TempDir(), store.Options{})
		require.NoError(b, err)
		defer s.Close()
		require.NoError(b, s.Seed(context.Background(), doc, true))
		begun := time.Now()
		clock := func(_ studio.Calendar, at *studio.Minute) studio.Minute {
			return *at + studio.Minute(time.Since(begun)/(10*time.Second)) // a minute in ten seconds
		}
		d := desk{b, web.New(s, clock, outside.Services{}), s, doc.People[0].ID}
		url, stop := d.serve()
		d.ask("GET", "/api/studio", "", nil)
		l := &load{url: url, doc: doc, paths: mainReads(doc)}
		l.run(loadFor())
		require.NoError(b, stop())
		b.ReportMetric(l.reads.at(50), "read-ms-50%")
		b.ReportMetric(l.reads.at(99), "read-ms-99%")
		b.ReportMetric(l.writes.at(50), "write-ms-50%")
		b.ReportMetric(l.writes.at(99), "write-ms-99%")
		b.ReportMetric(l.planned.at(100), "fact-in-plan-ms-most")
		b.ReportMetric(float64(l.reads.number())/loadFor().Seconds(), "reads/s")
		b.ReportMetric(float64(l.writes.number())/loadFor().Seconds(), "writes/s")
		b.ReportMetric(bare, "bare-reads/s")
		b.ReportMetric(float64(l.reads.number())/loadFor().Seconds()/bare, "of-bare")
		b.ReportMetric(float64(l.failed.Load()), "errors")
		b.ReportMetric(float64(residentMB()), "MB-resident")
		if said, ok := l.said.Load().(string); ok {
			b.Log(said)
		}
	}
}

// mainReads are what the screens ask for most.
func mainReads(doc *studio.Document) []string {
	paths := []string{"/api/studio", "/api/orders", "/api/plan", "/api/count", "/api/mixing", "/api/wires",
		"/api/stores", "/api/drying-room", "/api/proposal"}
	for _, p := range doc.People {
		paths = append(paths, "/api/bench/"+string(p.ID))
	}
	return paths
}

// load is some readers and writers, and how long they waited.
type load struct {
	url     string
	doc     *studio.Document
	paths   []string
	reads   waits
	writes  waits
	planned waits
	failed  atomic.Int64
	said    atomic.Value
}

func (l *load) run(length time.Duration) {
	ctx, stop := context.WithTimeout(context.Background(), length)
	defer stop()
	var all sync.WaitGroup
	for n := range readers {
		all.Go(func() { l.read(ctx, n) })
	}
	for n := range writers {
		all.Go(func() { l.write(ctx, n) })
	}
	all.Go(func() { l.follow(ctx) })
	all.Wait()
}

// one is a client with one connection, as a browser's tab has.
func one() *http.Client {
	return &http.Client{Transport: &http.Transport{MaxConnsPerHost: 1, MaxIdleConnsPerHost: 1,
		DisableCompression: true}}
}

func (l *load) read(ctx context.Context, n int) {
	client := one()
	for i := n; ctx.Err() == nil; i++ {
		request, _ := http.NewRequestWithContext(ctx, "GET", l.url+l.paths[i%len(l.paths)], nil)
		request.Header.Set("Accept-Encoding", "gzip")
		begun := time.Now()
		l.did(ctx, client, request, &l.reads, begun)
	}
}

// write starts and stops timers, counts stock and enters orders: facts and wishes.
func (l *load) write(ctx context.Context, n int) {
	client := one()
	for i := 0; ctx.Err() == nil; i++ {
		path, body := "/api/timers", any(object{"name": fmt.Sprintf("Oven %d", i), "minutes": 15})
		switch (i + n) % 4 {
		case 1:
			path, body = "/api/stores/stock", object{"recipe": l.doc.Recipes[0].ID,
				"amount": object{"value": 1, "unit": "g"}, "madeOn": l.doc.Now - 60, "quality": "good"}
		case 2:
			path, body = "/api/orders", object{"name": fmt.Sprintf("Supper %d %d", n, i), "occasion": "A supper",
				"leaves": l.doc.Orders[len(l.doc.Orders)-1].Leaves, "leaving": "collected",
				"state": "quote", "lines": []any{object{"recipe": l.doc.Orders[0].Lines[0].Recipe,
					"colourway": l.doc.Orders[0].Lines[0].Colourway, "quantity": 2}}}
		}
		data, _ := json.Marshal(body)
		request, _ := http.NewRequestWithContext(ctx, "POST", l.url+path, bytes.NewReader(data))
		request.Header.Set("Content-Type", "application/json")
		request.Header.Set("Command-Id", uuid.NewString())
		request.Header.Set("Person", string(l.doc.People[n].ID))
		l.did(ctx, client, request, &l.writes, time.Now())
	}
}

func (l *load) did(ctx context.Context, client *http.Client, request *http.Request, into *waits, begun time.Time) {
	answer, err := client.Do(request)
	if err != nil {
		if ctx.Err() == nil {
			l.failed.Add(1)
			l.said.Store(err.Error())
		}
		return
	}
	data, _ := io.ReadAll(answer.Body)
	_ = answer.Body.Close()
	if answer.StatusCode >= 400 {
		l.failed.Add(1)
		l.said.Store(request.URL.Path + " " + string(data))
		return
	}
	into.add(time.Since(begun))
}

// follow notes how long it takes until a fact is in the plan that is published: from when it
// is first seen to be recorded until the studio is no longer behind that.
func (l *load) follow(ctx context.Context) {
	answer, err := http.Get(l.url + "/api/events")
	if err != nil {
		l.failed.Add(1)
		return
	}
	defer answer.Body.Close()
	context.AfterFunc(ctx, func() { _ = answer.Body.Close() })
	recorded := map[int64]time.Time{}
	var event string
	for lines := newLines(answer.Body); ; {
		line, ok := lines()
		if !ok {
			return
		}
		if name, is := strings.CutPrefix(line, "event: "); is {
			event = name
		}
		data, is := strings.CutPrefix(line, "data: ")
		if !is {
			continue
		}
		var told struct{ N int64 }
		_ = json.Unmarshal([]byte(data), &told)
		switch event {
		case "facts":
			if _, known := recorded[told.N]; !known {
				recorded[told.N] = time.Now()
			}
		case "planned":
			for n, at := range recorded {
				if n <= told.N {
					l.planned.add(time.Since(at))
					delete(recorded, n)
				}
			}
		}
	}
}

// waits are lengths of time.
type waits struct {
	mu  sync.Mutex
	all []time.Duration
}

func (w *waits) add(d time.Duration) {
	w.mu.Lock()
	defer w.mu.Unlock()
	w.all = append(w.all, d)
}

func (w *waits) number() int { return len(w.all) }

// at is a percentile in milliseconds.
func (w *waits) at(percent int) float64 {
	if len(w.all) == 0 {
		return 0
	}
	slices.Sort(w.all)
	return float64(w.all[min(len(w.all)-1, len(w.all)*percent/100)].Microseconds()) / 1000
}

// bareHandler is how many reads a second a Fiber handler answers that does one read of
// SQLite, to as many readers.
func bareHandler(b *testing.B) float64 {
	s, err := store.Open(context.Background(), b.TempDir(), store.Options{})
	require.NoError(b, err)
	defer s.Close()
	require.NoError(b, s.Seed(context.Background(), demo.Document(), true))
	app := fiber.New()
	app.Get("/*", func(c fiber.Ctx) error {
		n, _, _, err := s.LastN(c.Context())
		if err != nil {
			return err
		}
		return c.JSON(map[string]int64{"n": n})
	})
	on, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(b, err)
	go func() { _ = app.Listener(on, fiber.ListenConfig{DisableStartupMessage: true}) }()
	defer func() { _ = app.Shutdown() }()
	l := &load{url: "http://" + on.Addr().String(), paths: []string{"/"}}
	length := loadFor() / 3
	ctx, stop := context.WithTimeout(context.Background(), length)
	defer stop()
	var all sync.WaitGroup
	for n := range readers {
		all.Go(func() { l.read(ctx, n) })
	}
	all.Wait()
	return float64(l.reads.number()) / length.Seconds()
}

// residentMB is the memory of this process, clients and all.
func residentMB() int64 {
	runtime.GC()
	data, err := os.ReadFile("/proc/self/statm")
	if err != nil {
		return 0
	}
	pages, _ := strconv.ParseInt(strings.Fields(string(data))[1], 10, 64)
	return pages * int64(os.Getpagesize()) >> 20
}

// newLines reads a stream line by line.
func newLines(from io.Reader) func() (string, bool) {
	lines := bufio.NewScanner(from)
	return func() (string, bool) {
		ok := lines.Scan()
		return lines.Text(), ok
	}
}

// unmeetable is the season with an order of four hundred dahlias whose parts must be put
// together within an hour and a half of each other: it hangs together hard, and never fits.
func unmeetable() *studio.Document {
	doc := demo.Season(1, 1, 90)
	within := studio.Minute(90)
	for i := range doc.Recipes {
		r := &doc.Recipes[i]
		for k := range r.Parts {
			if r.Kind == studio.KindPart || r.Name == "Dahlia" {
				r.Parts[k].Window = &studio.Window{AtMost: &within}
			}
		}
	}
	last := doc.Orders[len(doc.Orders)/2]
	doc.Orders = append(doc.Orders, studio.Order{ID: demo.ID("hard"), Name: "Hard", Leaves: last.Leaves,
		Leaving: "collected", Importance: 10, State: studio.OrderOpen,
		Lines: []studio.OrderLine{{ID: demo.ID("hard line"), Recipe: demo.ID("Dahlia"),
			Colourway: last.Lines[0].Colourway, Quantity: 400, ServiceLevel: 950}}})
	return doc
}
