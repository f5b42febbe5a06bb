package api

import (
	"context"
	"fmt"
	"log/slog"
	"math"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/store"
)

// searching is the search for a better plan that goes on in the background, one at a time.
type searching struct {
	mu    sync.Mutex
	view  SearchView
	begun time.Time
	stop  func()
	until context.Context // over when the time is up, or when it is stopped
	done  sync.WaitGroup
}

// SearchView is how far the search for a better plan is, or how the last one ended.
type SearchView struct {
	Running bool    `json:"running"`
	How     string  `json:"how,omitempty" enum:"searched,anew"`
	Seconds int64   `json:"seconds" doc:"after which it ends by itself"`
	Elapsed float64 `json:"elapsedSeconds"`
	Steps   int64   `json:"steps"`
	Was     Figures `json:"was" doc:"the plan that it began from"`
	Best    Figures `json:"best" doc:"the best found so far"`
	Ended   string  `json:"ended,omitempty" enum:"found,nothing better,failed" doc:"empty before the first and while one is running"`
}

// Figures are what plans are compared by first.
type Figures struct {
	Lateness int64         `json:"weightedLateness"`
	Worst    studio.Minute `json:"worstSlack"`
	Bound    *int64        `json:"bound,omitempty"`
}

func figures(o studio.Objective) Figures {
	f := Figures{Lateness: o.Lateness, Worst: studio.MostSlack}
	if len(o.Slacks) > 0 {
		f.Worst = o.Slacks[0]
	}
	return f
}

// toldEach is how often everybody is told how far a search is.
const toldEach = 300 * time.Millisecond

func (s *Service) registerSearch(to huma.API) {
	read(to, get("/search", "get-search", "How far the search for a better plan is"),
		func(context.Context, *none) (SearchView, error) {
			return s.searching.now(), nil
		})
	type seek struct {
		Who
		Body struct {
			Seconds int64 `json:"seconds" minimum:"1" maximum:"1800" doc:"after which it ends by itself"`
			Anew    bool  `json:"anew,omitempty" doc:"without regard to what people were told"`
		}
	}
	fact(s, to, post("/search", "start-search", "search begun", "Look for a better plan in the background"),
		func(c *change, in *seek) (SearchView, error) {
			how := store.Searched
			if in.Body.Anew {
				how = store.Anew
			}
			if !s.searching.begin(how, in.Body.Seconds) {
				return SearchView{}, huma.Error409Conflict(
					"a better plan is being looked for already; stop that first, or let it end",
				)
			}
			c.Summary = fmt.Sprintf("A better plan is looked for, for %d s", in.Body.Seconds)
			c.failed = func() { s.searching.end("failed") }
			c.after = func(context.Context) error {
				s.searching.done.Go(func() { s.search(c.N(), how) })
				return nil
			}
			return s.searching.now(), nil
		})
	type halt struct{ Who }
	fact(s, to, post("/search/stop", "stop-search", "search stopped", "Stop the search and keep the best so far"),
		func(c *change, _ *halt) (SearchView, error) {
			s.searching.halt()
			c.Summary = "The search for a better plan is stopped"
			return s.searching.now(), nil
		})
}

func (g *searching) halt() {
	g.mu.Lock()
	defer g.mu.Unlock()
	if g.view.Running {
		g.stop()
	}
}

// begin notes that a search begins; false where one is going on.
func (g *searching) begin(how string, seconds int64) bool {
	g.mu.Lock()
	defer g.mu.Unlock()
	if g.view.Running {
		return false
	}
	g.until, g.stop = context.WithTimeout(context.Background(), time.Duration(seconds)*time.Second)
	g.begun, g.view = time.Now(), SearchView{Running: true, How: how, Seconds: seconds}
	return true
}

// from notes the plan that a search begins from.
func (g *searching) from(plan *studio.Plan) {
	g.mu.Lock()
	defer g.mu.Unlock()
	g.view.Was = figures(plan.Objective)
	g.view.Was.Bound = plan.Bound
	g.view.Best = g.view.Was
}

func (g *searching) now() SearchView {
	g.mu.Lock()
	defer g.mu.Unlock()
	v := g.view
	if v.Running {
		v.Elapsed = time.Since(g.begun).Seconds()
	}
	return v
}

func (g *searching) further(p plan.Progress) {
	g.mu.Lock()
	defer g.mu.Unlock()
	bound := g.view.Best.Bound
	g.view.Steps, g.view.Best = int64(p.Steps), figures(p.Best)
	g.view.Best.Bound = bound
}

func (g *searching) end(how string) {
	g.mu.Lock()
	defer g.mu.Unlock()
	g.stop()
	g.view.Running, g.view.Ended, g.view.Elapsed = false, how, time.Since(g.begun).Seconds()
}

// search looks for a better plan than there is for what is recorded, once that is worked
// out, and offers what it finds.
func (s *Service) search(seed int64, how string) {
	ended, err := s.searchFrom(seed, how)
	if err != nil {
		slog.Error("a search failed", "error", err)
		ended = "failed"
	}
	s.searching.end(ended)
	s.listen(Event{Name: EventSearch, N: seed})
}

func (s *Service) searchFrom(seed int64, how string) (ended string, err error) {
	settled, err := s.situations.Settled(s.searching.until)
	if s.searching.until.Err() != nil {
		return "nothing better", nil // its time was up before there was a plan to begin from
	}
	if err != nil {
		return "", err
	}
	a := momentOf(settled).latestAnswer()
	s.searching.from(a.Plan)
	var told time.Time
	options := plan.Options{Steps: math.MaxInt32, Seed: seed, Stop: s.searching.until.Done(), Report: func(p plan.Progress) {
		s.searching.further(p)
		if time.Since(told) > toldEach {
			told = time.Now()
			s.listen(Event{Name: EventSearch, N: seed})
		}
	}}
	if how == store.Searched {
		options.From = a.Plan
	}
	made, err := plan.Make(a.Doc, a.Count, options)
	if err != nil {
		return "", err
	}
	if made.Objective.Compare(a.Plan.Objective) >= 0 {
		return "nothing better", nil
	}
	if err := s.store.PutOffer(context.Background(),
		store.Offer{ID: newID(), Base: settled.N, How: how, Steps: int64(made.Steps), Plan: made}); err != nil {
		return "", err
	}
	return "found", s.situations.Offered(context.Background())
}
