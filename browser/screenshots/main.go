// Command screenshots retakes docs/screenshots from the demo data.
package main

import (
	"fmt"
	"os"
	"path/filepath"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/proto"

	"bractum/browser/drive"
	"bractum/demo"
)

type shot struct {
	name, path    string
	clicks        []string // what is clicked, one after the other
	person        string
	width, height int
}

var shots = []shot{
	{"orders", "/orders", nil, "Odalys", 1280, 800},
	{"count-up", "/count-up", nil, "Odalys", 1280, 800},
	{
		"promise",
		"/promise?leaves=2027-09-29T10:00&of=30|Magnolia|Oyster&of=6|Waxflower%20stem|Signal",
		nil,
		"Odalys",
		1280,
		800,
	},
	{"mixing", "/mixing", nil, "Odalys", 1280, 800},
	{"weigh-in", "/mixing", []string{`[data-test="weigh-Petal white"]`}, "Odalys", 1280, 800},
	{"wires", "/wires", nil, "Odalys", 1280, 800},
	{"stores", "/stores", nil, "Odalys", 1280, 800},
	{"shopping", "/stores", []string{`[data-test="view-To buy"]`}, "Odalys", 1280, 800},
	{"plan", "/plan", nil, "Odalys", 1280, 800},
	{"plan-chain", "/plan", []string{`.pick`, `[data-test="a-week"]`}, "Odalys", 1280, 800},
	{
		"drying-room",
		"/drying",
		[]string{`[data-test="lying-Eucalyptus leaf"] [data-test="found-soft"]`},
		"Maren",
		1280,
		800,
	},
	{"log", "/log", []string{`[data-test="proposal-class-Thin petal paste"] [data-test="ask"]`}, "Odalys", 1280, 800},
	{"studio", "/studio", []string{`[data-test="person-Teun"]`, `[data-test="ill-today"]`}, "Odalys", 1280, 800},
	{"flower-book", "/book", nil, "Odalys", 1280, 800},
	{"recipe", "/book", []string{`[data-test="page-Dahlia"]`}, "Odalys", 1280, 800},
	{
		"recipe-steps",
		"/book",
		[]string{
			`[data-test="page-Gardenia"]`,
			`[data-test="tab-steps"]`,
			`[data-test="step-Dust while it gives a little"]`,
		},
		"Odalys",
		1280,
		800,
	},
	{"hand-over", "/orders/" + string(demo.ID("order Lighthouse")) + "/sheet", nil, "Brisa", 1280, 800},
	{"bench", "/bench", []string{`[data-test="start"]`}, "Teun", 1024, 768}, // after a morning's mixing
	{"bench-phone", "/bench", nil, "Teun", 390, 844},
}

func main() {
	folder := "docs/screenshots"
	if len(os.Args) > 1 {
		folder = os.Args[1]
	}
	if err := take(folder); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func take(folder string) error {
	temporary, err := os.MkdirTemp("", "bractum-screenshots")
	if err != nil {
		return err
	}
	defer os.RemoveAll(temporary)
	studio, err := drive.Open(filepath.Join(temporary, "data"))
	if err != nil {
		return err
	}
	defer studio.Close()
	browser, err := drive.Browser(filepath.Join(temporary, "profile"))
	if err != nil {
		return err
	}
	defer browser.Close()
	studio.Scale.Put(61_300) // somebody is pouring
	for _, s := range shots {
		if err := rod.Try(func() { one(browser, studio.URL, s, filepath.Join(folder, s.name+".png")) }); err != nil {
			return fmt.Errorf("%s: %w", s.name, err)
		}
	}
	return nil
}

func one(browser *rod.Browser, url string, s shot, file string) {
	page := browser.MustIncognito().MustPage().Timeout(time.Minute)
	defer page.MustClose()
	page.MustSetViewport(s.width, s.height, 1, false)
	page.MustEvalOnNewDocument(drive.Sits(s.person))
	page.MustNavigate(url + s.path).MustWaitLoad()
	if s.name == "bench" {
		if err := drive.MixAll(page, 3); err != nil {
			panic(err)
		}
	}
	page.MustElement(".sheet, .station-head")
	for _, what := range s.clicks {
		if err := drive.Press(func() (*rod.Element, error) { return page.Element(what) }, 20*time.Second); err != nil {
			panic(err)
		}
	}
	page.MustWaitRequestIdle()()
	if s.name == "promise" { // it looks for something better, once nobody types any more
		page.MustElement(`[data-test="take-later"]`)
	}
	time.Sleep(500 * time.Millisecond) // fonts and the opening of drawers
	picture, err := page.Screenshot(false, &proto.PageCaptureScreenshot{Format: proto.PageCaptureScreenshotFormatPng})
	if err != nil {
		panic(err)
	}
	if err := os.WriteFile(file, picture, 0o644); err != nil {
		panic(err)
	}
}
