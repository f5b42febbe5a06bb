package main

import (
	"fmt"
	"os"
	"time"

	"bractum/browser/drive"

	"github.com/go-rod/rod/lib/proto"
)

func main() {
	dir, _ := os.MkdirTemp("", "look")
	s, err := drive.Open(dir)
	if err != nil {
		panic(err)
	}
	defer s.Close()
	prof, _ := os.MkdirTemp("", "prof")
	b, err := drive.Browser(prof)
	if err != nil {
		panic(err)
	}
	defer b.Close()
	shots := [][]string{
		{"count", "/count-up", "Odalys"},
		{"count-working", "/count-up", "Odalys", `[data-test="cell-Magnolia outer petal-Oyster ivory"]`},
		{"order", "/orders", "Odalys", `[data-test="new-order"]`},
		{"bench", "/bench", "Teun"},
		{"plan", "/plan", "Odalys"},
	}
	for _, x := range shots {
		page := b.MustPage().Timeout(40 * time.Second)
		page.MustSetViewport(1280, 800, 1, false)
		page.MustEvalOnNewDocument(drive.Sits(x[2]))
		page.MustNavigate(s.URL + x[1]).MustWaitLoad()
		time.Sleep(1500 * time.Millisecond)
		for _, sel := range x[3:] {
			if e, err := page.Element(sel); err == nil {
				e.MustClick()
				time.Sleep(900 * time.Millisecond)
			}
		}
		data, err := page.Screenshot(false, &proto.PageCaptureScreenshot{Format: proto.PageCaptureScreenshotFormatPng})
		if err != nil {
			fmt.Println(x[0], err)
			continue
		}
		os.WriteFile("/tmp/look-"+x[0]+".png", data, 0o644)
	}
}
