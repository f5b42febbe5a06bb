// Package scale stands in for a kitchen scale: it speaks the protocol of
// docs/formats/scale.md, shakes while something is poured, rounds to a tenth of a gram,
// and drifts as such scales do. A page at its root pours and takes off.
package scale

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"net/http"
	"sync"
	"time"
)

//go:embed page.html
var page []byte

// Scale is a stand-in for a scale. It is safe for concurrent use.
type Scale struct {
	mu      sync.Mutex
	now     func() time.Time
	random  *rand.Rand
	on      int64 // what lies on it, in mg
	zero    int64
	since   time.Time // it was tared
	touched time.Time
	says    string // what it answers instead of a weight, to try things out
}

const (
	step    = 100                     // mg
	settles = 1200 * time.Millisecond // until it shows a stable weight
	drift   = 60.0                    // mg in an hour
)

// New makes an empty scale; the same seed shakes the same.
func New(seed uint64, now func() time.Time) *Scale {
	return &Scale{now: now, random: rand.New(rand.NewPCG(seed, 5)), since: now()}
}

// Put pours so many milligrams onto it, or takes them off.
func (s *Scale) Put(milligrams int64) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.on = max(0, s.on+milligrams)
	s.touched = s.now()
}

// Says makes it answer something else than a weight; empty, it works again.
func (s *Scale) Says(text string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.says = text
}

// Reading is what it shows, in mg, and whether it has come to rest.
func (s *Scale) reading() (milligrams int64, stable bool) {
	shown := float64(s.on-s.zero) + drift*s.now().Sub(s.since).Hours()
	stable = s.now().Sub(s.touched) > settles
	if noise := 40.0; !stable {
		shown += (s.random.Float64() - 0.5) * 40 * noise
	} else {
		shown += (s.random.Float64() - 0.5) * noise
	}
	return int64(math.Round(shown/step)) * step, stable
}

// ServeHTTP speaks the protocol.
func (s *Scale) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	switch r.Method + " " + r.URL.Path {
	case "GET /":
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		_, _ = w.Write(page)
	case "GET /reading":
		s.mu.Lock()
		defer s.mu.Unlock()
		w.Header().Set("Content-Type", "application/json")
		if s.says != "" {
			_, _ = fmt.Fprint(w, s.says)
			return
		}
		milligrams, stable := s.reading()
		_ = json.NewEncoder(w).Encode(map[string]any{"milligrams": milligrams, "stable": stable})
	case "POST /tare":
		s.mu.Lock()
		defer s.mu.Unlock()
		s.zero, s.since = s.on, s.now()
		w.WriteHeader(http.StatusNoContent)
	case "POST /put":
		var put struct {
			Milligrams int64 `json:"milligrams"`
		}
		if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, 1000)).Decode(&put); err != nil {
			http.Error(w, "say how much: {\"milligrams\": 1000}", http.StatusBadRequest)
			return
		}
		s.Put(put.Milligrams)
		w.WriteHeader(http.StatusNoContent)
	default:
		http.NotFound(w, r)
	}
}
