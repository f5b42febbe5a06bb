// Package printer stands in for a label printer: it takes labels as PNG, as docs/formats/labels.md
// says, and keeps what it printed. A page at its root shows them, newest first.
package printer

import (
	"bytes"
	"fmt"
	"image/png"
	"io"
	"net/http"
	"strconv"
	"strings"
	"sync"
)

// Printer is a stand-in for a label printer. It is safe for concurrent use.
type Printer struct {
	mu      sync.Mutex
	printed [][]byte
	out     bool
}

// New makes a printer with labels in it.
func New() *Printer { return &Printer{} }

// RunOut has no labels left in it, or some again.
func (p *Printer) RunOut(out bool) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.out = out
}

// Printed are the labels that came out, the first first.
func (p *Printer) Printed() [][]byte {
	p.mu.Lock()
	defer p.mu.Unlock()
	return append([][]byte{}, p.printed...)
}

const (
	mostBytes  = 1 << 20
	mostLabels = 200
)

// ServeHTTP speaks the protocol.
func (p *Printer) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	switch {
	case r.Method == http.MethodPost && r.URL.Path == "/print":
		body, err := io.ReadAll(http.MaxBytesReader(w, r.Body, mostBytes))
		if err == nil {
			_, err = png.DecodeConfig(bytes.NewReader(body))
		}
		if err != nil {
			http.Error(w, "a label is a PNG", http.StatusUnsupportedMediaType)
			return
		}
		p.mu.Lock()
		defer p.mu.Unlock()
		if p.out {
			http.Error(w, "no labels are left", http.StatusServiceUnavailable)
			return
		}
		p.printed = append(p.printed, body)
		p.printed = p.printed[max(0, len(p.printed)-mostLabels):]
		w.WriteHeader(http.StatusNoContent)
	case r.Method == http.MethodGet && r.URL.Path == "/":
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		_, _ = fmt.Fprint(w, "<!doctype html><title>Labels that were printed</title><h1>Labels that were printed</h1>")
		for i := len(p.Printed()) - 1; i >= 0; i-- {
			_, _ = fmt.Fprintf(
				w,
				`<p><img src="/printed/%d" width="366" alt="label %d" style="border:1px solid #999">`,
				i,
				i+1,
			)
		}
	case r.Method == http.MethodGet && strings.HasPrefix(r.URL.Path, "/printed/"):
		i, err := strconv.Atoi(strings.TrimPrefix(r.URL.Path, "/printed/"))
		all := p.Printed()
		if err != nil || i < 0 || i >= len(all) {
			http.NotFound(w, r)
			return
		}
		w.Header().Set("Content-Type", "image/png")
		_, _ = w.Write(all[i])
	default:
		http.NotFound(w, r)
	}
}
