package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"runtime/debug"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"

	"bractum/api"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/demo/yard"
	"bractum/outside"
	"bractum/standin/printer"
	"bractum/standin/scale"
	"bractum/standin/supplier"
	"bractum/store"
	"bractum/web"
)

type serveCommand struct {
	Data    string `help:"Folder of the studio's file." default:"./data" type:"path"`
	Port    int    `help:"Port on 127.0.0.1." default:"8080" env:"PORT"`
	From    string `help:"Start an empty file from this studio document." placeholder:"FILE"`
	Backups string `help:"Folder of backups, a stick or a share; within the data folder if none is named." type:"path" placeholder:"DIR"`
	Metrics string `help:"Address for a monitor, such as 127.0.0.1:9464: /metrics there tells how long requests take; none by itself." placeholder:"ADDRESS"`
	Keep    int    `help:"How many backups are kept, one a night; 0 makes none." default:"14"`
	networkFlags
	outsideFlags
}

func (c *serveCommand) Run() error {
	listen, others, err := c.listen(c.Port)
	if err != nil {
		return err
	}
	return serving{
		folder: c.Data, listen: listen, others: others, network: c.networkFlags, clock: realTime, out: c.services(),
		backups: c.Backups, keep: c.Keep, metrics: c.Metrics,
		fill: func(ctx context.Context, s *store.Store) error {
			if c.From == "" {
				return nil // it is begun in the browser
			}
			doc, err := read(c.From, studio.Read)
			if err != nil {
				return err
			}
			if err := api.Begin(ctx, s, doc, false); err != nil {
				return fmt.Errorf("%s: %w", c.From, err)
			}
			return nil
		},
	}.serve()
}

func loopback(port int) string { return net.JoinHostPort("127.0.0.1", strconv.Itoa(port)) }

// look opens the demo beside a studio, on a port and in a folder of its own that is forgotten, until the
// context ends. Opened once, it is the same.
func look(ctx context.Context) func() (string, error) {
	return sync.OnceValues(func() (string, error) {
		folder, err := os.MkdirTemp("", "bractum-demo")
		if err != nil {
			return "", err
		}
		s, err := store.Open(ctx, folder, store.Options{})
		if err == nil {
			err = yard.Seed(ctx, s)
		}
		if err != nil {
			return "", errors.Join(err, os.RemoveAll(folder))
		}
		on, err := net.Listen("tcp", "127.0.0.1:0")
		if err != nil {
			return "", errors.Join(err, s.Close(), os.RemoveAll(folder))
		}
		go func() {
			if err := web.New(s, stands, outside.Services{}).Serve(ctx, on); err != nil {
				slog.Error("the demo beside ended", "error", err)
			}
			_ = errors.Join(s.Close(), os.RemoveAll(folder)) // the system empties its own folder otherwise
		}()
		return "http://" + on.Addr().String(), nil
	})
}

// outsideFlags say where a scale, a label printer and the suppliers' order desk are reached,
// and how much is told of all that.
type outsideFlags struct {
	Log      string `help:"What is told on standard error: problems (warn), or every request as well (debug)." enum:"debug,info,warn" default:"info"`
	Scale    string `help:"Address of a scale that speaks docs/formats/scale.md." placeholder:"http://127.0.0.1:8091"`
	Printer  string `help:"Address of a label printer that speaks docs/formats/labels.md." placeholder:"http://127.0.0.1:8093"`
	Supplier string `help:"Address of an order desk that speaks docs/formats/purchase.md." placeholder:"http://127.0.0.1:8092"`
}

// AfterApply sets how much is told.
func (f outsideFlags) AfterApply() error {
	var level slog.Level
	if err := level.UnmarshalText([]byte(f.Log)); err != nil {
		return err
	}
	slog.SetLogLoggerLevel(level)
	return nil
}

func (f outsideFlags) services() outside.Services {
	return outside.Services{Scale: f.Scale, Printer: f.Printer, Supplier: f.Supplier}
}

// standIns starts stand-ins for what has no address, on ports of their own.
func (f outsideFlags) standIns() (outsideFlags, error) {
	start := func(address *string, answers http.Handler) error {
		if *address != "" {
			return nil
		}
		on, err := net.Listen("tcp", "127.0.0.1:0")
		if err != nil {
			return err
		}
		*address = "http://" + on.Addr().String()
		go func() { _ = http.Serve(on, answers) }() // until the program ends
		return nil
	}
	err := errors.Join(
		start(&f.Scale, scale.New(1, time.Now)),
		start(&f.Supplier, supplier.New()),
		start(&f.Printer, printer.New()),
	)
	return f, err
}

type scaleCommand struct {
	Port int `help:"Port on 127.0.0.1." default:"8091"`
}

func (c *scaleCommand) Run() error {
	address := loopback(c.Port)
	fmt.Printf("A stand-in for a scale: http://%s\n", address)
	return http.ListenAndServe(address, scale.New(1, time.Now))
}

type demoCommand struct {
	Data   string `help:"Folder of the demo's file." default:"./.demo" type:"path"`
	Port   int    `help:"Port on 127.0.0.1." default:"8080" env:"PORT"`
	Fresh  bool   `help:"Forget what was entered and start over."`
	Season bool   `help:"Open the season for load instead, sixty orders at 90 %, in the same folder if it is empty."`
	outsideFlags
	Clock string `help:"stand: the clock stands until it is moved on; run: it runs from there." enum:"stand,run" default:"stand"`
}

func (c *demoCommand) Run() error {
	if c.Fresh {
		for _, ending := range []string{"", "-wal", "-shm"} {
			if err := os.Remove(filepath.Join(c.Data, store.FileName+ending)); err != nil &&
				!errors.Is(err, os.ErrNotExist) {
				return err
			}
		}
	}
	flags, err := c.standIns()
	if err != nil {
		return err
	}
	clock := stands
	if c.Clock == "run" {
		if clock, err = runsFrom(c.Data); err != nil {
			return err
		}
	}
	return serving{
		folder: c.Data, listen: loopback(c.Port), clock: clock, follow: yard.Follow, out: flags.services(),
		fill: func(ctx context.Context, s *store.Store) error {
			if c.Season {
				return api.Begin(ctx, s, demo.Season(1, 1, 90), true)
			}
			return yard.Seed(ctx, s)
		},
		opened: func(address string) {
			fmt.Printf(`Pellowen Yard is open: http://%s
It is Monday 20 September 2027, 08:30 there, until you move the clock on (top right).
Try first:
  1. Orders: enter one for twelve of a flower, two weeks ahead; see what it moves; accept.
  2. Count-up: open any figure to see how it was worked out. Then Mixing and Wires.
  3. Bench: say who you are, start the task, finish it with 3 broken.
The demo's scale stands at %s: pour there, and weigh in at Mixing.
Its label printer stands at %s and keeps what it printed.
What you enter is kept in %s; make demo-fresh starts over. Ctrl-C closes.
`, address, flags.Scale, flags.Printer, c.Data)
		},
	}.serve()
}

func realTime(calendar studio.Calendar, _ *studio.Minute) studio.Minute {
	return calendar.MinuteOf(time.Now())
}

func stands(_ studio.Calendar, standing *studio.Minute) studio.Minute { return *standing }

// runsFrom is a clock that runs on from where it stands, or from where it was moved to; opened again, from
// the last that was written.
func runsFrom(folder string) (store.Clock, error) {
	s, err := store.Open(context.Background(), folder, store.Options{})
	if err != nil {
		return nil, err
	}
	defer s.Close()
	last, err := s.LastMinute(context.Background())
	if err != nil {
		return nil, err
	}
	return runs(last, time.Now), nil
}

func runs(last studio.Minute, now func() time.Time) store.Clock {
	var lock sync.Mutex
	stood, since := studio.Minute(-1), now()
	return func(_ studio.Calendar, standing *studio.Minute) studio.Minute {
		lock.Lock()
		defer lock.Unlock()
		if stood != *standing { // it was moved
			stood, since = *standing, now()
			last = max(last, stood)
		}
		return last + studio.Minute(now().Sub(since)/time.Minute)
	}
}

// mostMemory is from how many bytes on memory is sought more eagerly.
const mostMemory = 350 << 20

// serving is a studio's folder, and how it is served.
type serving struct {
	folder  string
	listen  string // host and port
	others  bool   // than this computer reach it
	network networkFlags
	fill    func(context.Context, *store.Store) error
	clock   store.Clock
	follow  func(ctx context.Context, address string, now func() (time.Time, error))
	opened  func(address string)
	out     outside.Services

	backups string
	keep    int // backups, made by themselves; 0 for none
	metrics string
}

// addresses are what the studio can be asked for by, from other computers.
func (v serving) addresses(address string) (all []string) {
	if !v.others {
		return nil
	}
	host, port, _ := net.SplitHostPort(address) // it is listened on
	named := v.network.Host
	if ip := net.ParseIP(host); ip != nil && !ip.IsUnspecified() {
		named = append(named, host)
	} else {
		for _, a := range reached() {
			named = append(named, a.String())
		}
	}
	for _, name := range named {
		all = append(all, v.network.scheme()+"://"+net.JoinHostPort(name, port))
	}
	return all
}

// serve opens the studio's file, fills it when it is empty, and answers until
// the program is told to stop.
func (v serving) serve() error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	debug.SetGCPercent(200) // the same few hundred MB are made anew with each situation
	debug.SetMemoryLimit(mostMemory)
	s, err := store.Open(ctx, v.folder, store.Options{Served: true, Backups: v.backups})
	if err != nil {
		return err
	}
	defer s.Close()
	if _, _, _, err := s.LastN(ctx); errors.Is(err, store.ErrEmpty) {
		if err := v.fill(ctx, s); err != nil {
			return err
		}
	} else if err != nil {
		return err
	}
	if v.others {
		if err := guarded(ctx, s); err != nil {
			return err
		}
	}
	on, err := net.Listen("tcp", v.listen)
	if err != nil {
		return fmt.Errorf("%s cannot be listened on (%w); PORT=8081 takes another port", v.listen, err)
	}
	if v.follow != nil {
		v.follow(ctx, "http://"+on.Addr().String(), func() (time.Time, error) {
			_, calendar, standing, err := s.LastN(ctx)
			if err != nil { // it is being closed, or cannot be read just now
				return time.Time{}, err
			}
			return calendar.Time(v.clock(calendar, standing)), nil
		})
	}
	app := web.New(s, v.clock, v.out)
	address := on.Addr().String()
	if on, err = v.network.secured(on, app, v.folder); err != nil {
		return err
	}
	if v.opened != nil {
		v.opened(address)
	} else if others := v.addresses(address); len(others) > 0 {
		fmt.Println("Bractum is open:", strings.Join(others, ", "))
	} else {
		fmt.Printf("Bractum is open: %s://%s\n", v.network.scheme(), address)
	}
	for _, name := range v.network.Host {
		app.Named(name)
	}
	app.Reached(v.network.scheme() == "https", v.addresses(address)...)
	app.Begins(api.Beginnings{Starter: demo.Starter, Look: look(ctx)})
	var beside sync.WaitGroup
	if v.metrics != "" {
		monitor, err := net.Listen("tcp", v.metrics)
		if err != nil {
			return fmt.Errorf("figures for a monitor cannot be told on %s: %w", v.metrics, err)
		}
		beside.Go(func() {
			if err := app.ServeFigures(ctx, monitor); err != nil {
				slog.Error("figures for a monitor are told no more", "error", err)
			}
		})
	}
	if v.keep > 0 {
		beside.Go(func() { app.KeepBackups(ctx, v.keep) })
	}
	err = app.Serve(ctx, on)
	stop()
	beside.Wait()                         // a copy that is being made ends first
	if errors.Is(err, context.Canceled) { // told to stop before it was open
		return nil
	}
	return err
}

type openAPICommand struct{}

func (c *openAPICommand) Run() error {
	return write(web.New(nil, realTime, outside.Services{}).API.OpenAPI())
}
