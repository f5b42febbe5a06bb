// Package drive opens the demo studio's real application on a port of its own
// and a headless Chromium on it, for the browser tests and the screenshots.
package drive

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"sync"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/proto"

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

// Chromium is where Debian puts its browser.
const Chromium = "/usr/bin/chromium-headless-shell"

// Studio is a running demo studio in a folder of its own.
type Studio struct {
	URL    string
	Store  *store.Store
	Scale  *scale.Scale
	Labels *printer.Printer
	stop   context.CancelFunc
	served chan error
}

// seeded is the file of the demo as it is begun, made once for all that are opened.
var seeded = sync.OnceValues(func() ([]byte, error) {
	folder, err := os.MkdirTemp("", "yard")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(folder)
	s, err := store.Open(context.Background(), folder, store.Options{})
	if err != nil {
		return nil, err
	}
	if err := errors.Join(yard.Seed(context.Background(), s), s.Close()); err != nil {
		return nil, err
	}
	return os.ReadFile(filepath.Join(folder, store.FileName))
})

// Open opens the studio in a folder; what was entered there before is kept.
func Open(folder string) (*Studio, error) {
	if file := filepath.Join(folder, store.FileName); !exists(file) {
		begun, err := seeded()
		if err == nil {
			err = os.MkdirAll(folder, 0o755)
		}
		if err == nil {
			err = os.WriteFile(file, begun, 0o600)
		}
		if err != nil {
			return nil, err
		}
	}
	ctx, stop := context.WithCancel(context.Background())
	s, err := store.Open(ctx, folder, store.Options{Patience: time.Second})
	if err != nil {
		stop()
		return nil, err
	}
	on, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		stop()
		return nil, errors.Join(err, s.Close())
	}
	standing := func(_ studio.Calendar, at *studio.Minute) studio.Minute { return *at }
	pan := scale.New(1, time.Now)
	scaleAt, err := standIn(ctx, pan)
	desk, e := standIn(ctx, supplier.New())
	labels := printer.New()
	printerAt, failed := standIn(ctx, labels)
	if err = errors.Join(err, e, failed); err != nil {
		stop()
		return nil, errors.Join(err, s.Close())
	}
	open := &Studio{"http://" + on.Addr().String(), s, pan, labels, stop, make(chan error, 1)}
	out := outside.Services{
		Scale:    scaleAt,
		Supplier: desk,
		Printer:  printerAt,
	}
	yard.Follow(ctx, open.URL, func() (time.Time, error) {
		_, calendar, at, err := s.LastN(ctx)
		if err != nil { // it is being closed
			return time.Time{}, err
		}
		return calendar.Time(standing(calendar, at)), nil
	})
	go func() { open.served <- web.New(s, standing, out).Serve(ctx, on) }()
	return open, nil
}

// Empty serves an empty folder by today's clock: nobody has begun a studio there yet.
func Empty(folder string) (*Studio, error) {
	ctx, stop := context.WithCancel(context.Background())
	s, err := store.Open(ctx, folder, store.Options{Patience: time.Second})
	if err != nil {
		stop()
		return nil, err
	}
	on, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		stop()
		return nil, errors.Join(err, s.Close())
	}
	open := &Studio{URL: "http://" + on.Addr().String(), Store: s, stop: stop, served: make(chan error, 1)}
	app := web.New(s, func(calendar studio.Calendar, _ *studio.Minute) studio.Minute {
		return calendar.MinuteOf(time.Now())
	}, outside.Services{})
	app.Begins(api.Beginnings{Starter: demo.Starter})
	go func() { open.served <- app.Serve(ctx, on) }()
	return open, nil
}

func exists(file string) bool {
	_, err := os.Stat(file)
	return err == nil
}

// standIn answers on a port of its own until the context ends.
func standIn(ctx context.Context, answers http.Handler) (address string, err error) {
	on, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", err
	}
	server := &http.Server{Handler: answers, ReadHeaderTimeout: time.Second}
	context.AfterFunc(ctx, func() { _ = server.Close() })
	go func() { _ = server.Serve(on) }()
	return "http://" + on.Addr().String(), nil
}

// Close stops serving and lets go of the file.
func (s *Studio) Close() error {
	s.stop()
	return errors.Join(<-s.served, s.Store.Close())
}

// Browser launches Chromium with a profile in the given folder.
func Browser(profile string) (*rod.Browser, error) {
	if _, err := os.Stat(Chromium); err != nil {
		return nil, err
	}
	url, err := launcher.New().Bin(Chromium).Headless(true).NoSandbox(true).Leakless(false).UserDataDir(profile).
		Set("disable-gpu").Set("disable-quic").Set("disable-background-networking").Set("disable-component-update").
		Set("disable-sync").Set("no-first-run").Set("disable-dev-shm-usage").Set("hide-scrollbars").
		Set("force-prefers-reduced-motion").Launch()
	if err != nil {
		return nil, err
	}
	browser := rod.New().ControlURL(url)
	return browser, browser.Connect()
}

// Sits is a script by which somebody sits at a page's browser, unless another does.
func Sits(name string) string {
	return fmt.Sprintf(`localStorage["bractum.person"] ??= %q`, demo.ID(name))
}

// Press clicks what is found, once it takes the pointer: what is still moving, or is being
// drawn anew, is looked for again.
func Press(find func() (*rod.Element, error), within time.Duration) (err error) {
	for began := time.Now(); time.Since(began) < within; time.Sleep(20 * time.Millisecond) {
		var element *rod.Element
		if element, err = find(); err == nil {
			element = element.Timeout(time.Second)
			if err = element.WaitStableRAF(); err == nil {
				err = element.Click(proto.InputMouseButtonLeft, 1)
			}
		}
		if err == nil {
			return nil
		}
	}
	return err
}

// MixAll has Odalys weigh and knead every mixing, by the interface's own requests,
// whoever sits at the page, and moves the clock on by some hours, in which they rest.
func MixAll(page *rod.Page, hours int) error {
	_, err := page.Eval(`async (hours, person) => {
		const send = (path, body) => fetch("/api" + path, { method: "POST", body: JSON.stringify(body),
			headers: { "Content-Type": "application/json", "Command-Id": crypto.randomUUID(), Person: person } });
		for (let round = 0; round < 3; round++) { // a shade waits for what it is let down from
			const { mixes } = await (await fetch("/api/mixing?days=60", { headers: { Prefer: "wait=10" } })).json();
			for (const { task } of mixes.filter((m) => m.task)) {
				const started = await send("/tasks/" + task.id + "/start", { foundReady: true });
				if (started.ok) await send("/tasks/" + task.id + "/finish", { good: task.quantity, second: 0, broken: 0 });
			}
		}
		for (let i = 0; i < hours; i++) await send("/clock", { by: "hour" });
	}`, hours, demo.ID("Odalys"))
	return err
}
