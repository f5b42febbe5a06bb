package api

import (
	"context"
	"log"
	"math"
	"net/http"
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
	ticks int64
	view  SearchView
	begun time.Time
	stop  func()
	until <-chan struct{} // closed when the time is up, or when it is stopped
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
	get(to, "/search", "get-search", "How far the search for a better plan is", func(context.Context, *nothing) (SearchView, error) {
		return s.searching.now(), nil
	})
	type seek struct {
		Who
		Body struct {
			Seconds int64 `json:"seconds" minimum:"1" maximum:"1800" doc:"after which it ends by itself"`
			Anew    bool  `json:"anew,omitempty" doc:"without regard to what people were told"`
		}
	}
	command(to, http.MethodPost, "/search", "start-search", "Look for a better plan in the background", func(ctx context.Context, in *seek) (SearchView, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return SearchView{}, err
		}
		if err := at.knows(in.Person); err != nil {
			return SearchView{}, err
		}
		how := store.Searched
		if in.Body.Anew {
			how = store.Anew
		}
		if !s.searching.begin(how, in.Body.Seconds, at.latestAnswer().plan) {
			return SearchView{}, huma.Error409Conflict("a better plan is being looked for already; stop that first, or let it end")
		}
		s.searching.done.Go(func() { s.search(at.n, how, at.latestAnswer()) })
		return s.searching.now(), nil
	})
	type halt struct{ Who }
	command(to, http.MethodPost, "/search/stop", "stop-search", "Stop the search and keep the best so far", func(_ context.Context, _ *halt) (SearchView, error) {
		s.searching.halt()
		return s.searching.now(), nil
	})
}

// Close stops a search that is going on, and waits until what it has found is kept.
func (s *Service) Close() {
	s.searching.halt()
	s.searching.done.Wait()
}

func (g *searching) halt() {
	g.mu.Lock()
	defer g.mu.Unlock()
	if g.view.Running {
		g.stop()
	}
}

// begin notes that a search begins; false where one is going on.
func (g *searching) begin(how string, seconds int64, from *studio.Plan) bool {
	g.mu.Lock()
	defer g.mu.Unlock()
	if g.view.Running {
		return false
	}
	was := figures(from.Objective)
	was.Bound = from.Bound
	stopped := make(chan struct{})
	g.until, g.stop = stopped, sync.OnceFunc(func() { close(stopped) })
	time.AfterFunc(time.Duration(seconds)*time.Second, g.stop)
	g.begun = time.Now()
	g.view = SearchView{Running: true, How: how, Seconds: seconds, Was: was, Best: was}
	return true
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

// tick numbers what listeners are told.
func (g *searching) tick() int64 {
	g.mu.Lock()
	defer g.mu.Unlock()
	g.ticks++
	return g.ticks
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

// search looks for a better plan than an answer has, and offers what it finds.
func (s *Service) search(n int64, how string, a *answer) {
	var told time.Time
	options := plan.Options{Steps: math.MaxInt32, Seed: n, Stop: s.searching.until, Report: func(p plan.Progress) {
		s.searching.further(p)
		if time.Since(told) > toldEach {
			told = time.Now()
			s.listen(EventSearch, s.searching.tick())
		}
	}}
	if how == store.Searched {
		options.From = a.plan
	}
	made, err := plan.Make(a.doc, a.count, options)
	ended := "found"
	switch {
	case err == nil && made.Objective.Compare(a.plan.Objective) >= 0:
		ended = "nothing better"
	case err == nil:
		err = s.store.PutOffer(context.Background(), store.Offer{ID: newID(), Base: n, How: how, Steps: int64(made.Steps), Plan: made})
	}
	if err != nil {
		log.Printf("api: a search failed: %v", err) // for whoever looks after the program
		ended = "failed"
	}
	s.searching.end(ended)
	s.changed()
}
