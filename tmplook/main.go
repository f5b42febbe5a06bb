package main

import (
	"os"
	"time"

	"github.com/go-rod/rod/lib/proto"

	"bractum/browser/drive"
)

func main() {
	b, err := drive.Browser("/tmp/lkprofile")
	if err != nil {
		panic(err)
	}
	defer b.Close()
	p := b.MustPage(os.Args[1]).Timeout(40 * time.Second)
	p.MustSetViewport(1280, 800, 1, false)
	p.MustWaitLoad()
	time.Sleep(1500 * time.Millisecond)
	if len(os.Args) > 3 {
		p.MustEval(os.Args[3])
		time.Sleep(1200 * time.Millisecond)
	}
	img, _ := p.Screenshot(false, &proto.PageCaptureScreenshot{})
	os.WriteFile(os.Args[2], img, 0o644)
}
