package main

import (
	"context"
	"errors"
	"fmt"
	"net"
	"os"
	"os/signal"
	"path/filepath"
	"strconv"
	"syscall"
	"time"

	"bractum/api"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/store"
	"bractum/web"
)

type serveCommand struct {
	Data string `help:"Folder of the studio's file." default:"./data" type:"path"`
	Port int    `help:"Port on 127.0.0.1." default:"8080" env:"PORT"`
	From string `help:"Start an empty file from this studio document." placeholder:"FILE"`
}

func (c *serveCommand) Run() error {
	return serve(c.Data, c.Port, func(ctx context.Context, s *store.Store) error {
		if c.From == "" {
			return fmt.Errorf("%s holds no studio yet; begin one with --from FILE, a studio document (bractum document demo writes one to start from)", c.Data)
		}
		doc, err := read(c.From, studio.Read)
		if err != nil {
			return err
		}
		if doc.Epoch.After(time.Now()) {
			return fmt.Errorf("%s: its epoch, %s, lies in the future; a studio that is served begins in the past", c.From, doc.Epoch.Format(time.DateOnly))
		}
		return s.Seed(ctx, doc, false)
	}, realTime, nil)
}

type demoCommand struct {
	Data  string `help:"Folder of the demo's file." default:"./.demo" type:"path"`
	Port  int    `help:"Port on 127.0.0.1." default:"8080" env:"PORT"`
	Fresh bool   `help:"Forget what was entered and start over."`
	Clock string `help:"stand: the clock stands until it is moved on; run: it runs from there." enum:"stand,run" default:"stand"`
}

func (c *demoCommand) Run() error {
	if c.Fresh {
		for _, ending := range []string{"", "-wal", "-shm"} {
			if err := os.Remove(filepath.Join(c.Data, store.FileName+ending)); err != nil && !errors.Is(err, os.ErrNotExist) {
				return err
			}
		}
	}
	begun := time.Now()
	clock := func(_ studio.Calendar, standing *studio.Minute) studio.Minute {
		if c.Clock == "run" {
			return *standing + studio.Minute(time.Since(begun)/time.Minute)
		}
		return *standing
	}
	return serve(c.Data, c.Port, func(ctx context.Context, s *store.Store) error {
		return s.Seed(ctx, demo.Document(), true)
	}, clock, func(address string) {
		fmt.Printf(`Pellowen Yard is open: http://%s
It is Monday 20 September 2027, 08:30 there, until you move the clock on (top right).
Try first:
  1. Orders: enter one for twelve of a flower, two weeks ahead; see what it moves; accept.
  2. Count-up: open any figure to see how it was worked out. Then Mixing and Wires.
  3. Bench: say who you are, start the task, finish it with 3 broken.
What you enter is kept in %s; make demo-fresh starts over. Ctrl-C closes.
`, address, c.Data)
	})
}

func realTime(calendar studio.Calendar, _ *studio.Minute) studio.Minute {
	return calendar.MinuteOf(time.Now())
}

// serve opens the studio's file, fills it when it is empty, and answers until
// the program is told to stop.
func serve(folder string, port int, fill func(context.Context, *store.Store) error, clock api.Clock, opened func(address string)) error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	s, err := store.Open(ctx, folder, store.Options{})
	if err != nil {
		return err
	}
	defer s.Close()
	if _, _, _, err := s.LastN(ctx); errors.Is(err, store.ErrEmpty) {
		if err := fill(ctx, s); err != nil {
			return err
		}
	} else if err != nil {
		return err
	}
	on, err := net.Listen("tcp", net.JoinHostPort("127.0.0.1", strconv.Itoa(port)))
	if err != nil {
		return fmt.Errorf("port %d cannot be used (%w); PORT=8081 takes another", port, err)
	}
	if opened == nil {
		opened = func(address string) { fmt.Printf("Bractum is open: http://%s\n", address) }
	}
	opened(on.Addr().String())
	return web.New(s, clock).Serve(ctx, on)
}

type openAPICommand struct{}

func (c *openAPICommand) Run() error {
	return write(web.New(nil, realTime).API.OpenAPI())
}
