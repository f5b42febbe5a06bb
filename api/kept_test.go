package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"runtime"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/humatest"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/outside"
	"bractum/situation"
	"bractum/store"
)

func situated(n int64, now studio.Minute, changed map[string]int64) *situation.Situation {
	return &situation.Situation{Snapshot: &store.Snapshot{N: n, Now: now}, Planned: situation.Moment{N: n, Now: now},
		Changed: changed, Worked: 7}
}

// A view stands for as long as nothing has changed that it shows, and no longer.
func TestAViewIsStampedWithWhatItShows(t *testing.T) {
	was := situated(20, 600, map[string]int64{"orders": 12, "stores": 20})
	orders := shows{topics: []string{"orders"}, planned: true}
	clocked := shows{topics: []string{"orders"}, now: true}
	stamped := orders.stamp(was)
	for name, c := range map[string]struct {
		shows   shows
		is      *situation.Situation
		another bool
	}{
		"something else was recorded":   {orders, situated(21, 600, map[string]int64{"orders": 12, "stores": 21}), false},
		"an order was":                  {orders, situated(21, 600, map[string]int64{"orders": 21, "stores": 20}), true},
		"the book was, which all show":  {orders, situated(21, 600, map[string]int64{"orders": 12, "book": 21}), true},
		"whatever it was":               {orders, situated(21, 600, map[string]int64{"orders": 12, situation.Any: 21}), true},
		"a minute has passed":           {orders, situated(20, 601, was.Changed), false},
		"a minute, where that is shown": {clocked, situated(20, 601, was.Changed), true},
	} {
		before := c.shows.stamp(was)
		assert.Equal(t, c.another, before != c.shows.stamp(c.is), name)
	}
	worked := situated(20, 600, was.Changed)
	worked.Worked++
	assert.NotEqual(t, stamped, orders.stamp(worked), "another plan")
	assert.Equal(t, shows{topics: []string{"orders"}}.stamp(was), shows{topics: []string{"orders"}}.stamp(worked))
	behind := situated(21, 600, was.Changed)
	behind.Planned.N = 20
	assert.NotEqual(t, shows{behind: true}.stamp(was), shows{behind: true}.stamp(behind))
	all := shows{topics: []string{everything}}
	assert.NotEqual(t, all.stamp(was), all.stamp(situated(21, 600, was.Changed)))
}

func TestViewsAreKeptByAddressAndForgottenWhenTheyAreMany(t *testing.T) {
	var kept views
	first := kept.of("/orders", stamp{recorded: 1})
	assert.Same(t, first, kept.of("/orders", stamp{recorded: 1}))
	assert.NotSame(t, first, kept.of("/orders?text=a", stamp{recorded: 1}))
	second := kept.of("/orders", stamp{recorded: 2})
	assert.NotSame(t, first, second)
	assert.NotSame(t, first, kept.of("/orders", stamp{recorded: 1}), "an older one is made anew")
	for i := range 3 * mostKept {
		kept.of(fmt.Sprint("/orders?text=", i), stamp{})
	}
	assert.LessOrEqual(t, len(kept.known), mostKept+1)
}

// However many ask at once, a view is made once; one that cannot be made says so and leaves
// the studio standing.
func TestAViewIsMadeOnceForAllWhoAsk(t *testing.T) {
	_, to := humatest.New(t)
	var v view
	var made atomic.Int32
	var all sync.WaitGroup
	for range 20 {
		all.Go(func() {
			v.make(to, func() (any, error) {
				made.Add(1)
				runtime.Gosched() // others come meanwhile
				return map[string]string{"text": strings.Repeat("petal ", 1000)}, nil
			})
		})
	}
	all.Wait()
	assert.EqualValues(t, 1, made.Load())
	assert.True(t, v.ready.Load())
	assert.Less(t, len(v.gzipped()), len(v.plain)/10)

	var broken view
	broken.make(to, func() (any, error) { panic("a petal too many") })
	var status huma.StatusError
	require.ErrorAs(t, broken.err, &status)
	assert.Equal(t, http.StatusInternalServerError, status.GetStatus())
	assert.NotContains(t, status.Error(), "petal", "no inner words")
	assert.False(t, broken.ready.Load())
}

func TestHowLongAClientWouldWait(t *testing.T) {
	for said, want := range map[string]time.Duration{
		"": 0, "wait=3": 3 * time.Second, `return=minimal, wait="2"`: 2 * time.Second, "wait=900": patience, "wait=-1": 0, "wait=soon": 0,
	} {
		got, ok := waits(said)
		assert.Equal(t, want, got, said)
		assert.Equal(t, want > 0, ok, said)
	}
}

func TestATextWithANULIsFound(t *testing.T) {
	for body, holds := range map[string]bool{
		`{"name": "Supper"}`: false, "{\"name\": \"Sup\x00per\"}": true, `{"name": "Sup\u0000per"}`: true, "\x00\x01": false, "": false,
	} {
		assert.Equal(t, holds, holdsNUL(strings.NewReader(body)), "%q", body)
	}
}

// Every kind of error is answered with its status, and none with inner words.
func TestErrorsAreAnsweredAsProblems(t *testing.T) {
	for want, errs := range map[int][]error{
		http.StatusConflict: {studio.Refuse("the order stays"),
			store.CannotUndo{Said: studio.Say("too late")}, errOvertaken},
		http.StatusUnprocessableEntity: {store.ErrReused, store.ErrNoPage, studio.Problems{{Place: "name", Message: "is empty"}}},
		http.StatusPreconditionFailed:  {store.Stale{Thing: "the order", Seen: 1, Now: 2}},
		http.StatusNotFound:            {store.NotFound{Thing: "the lot"}},
		http.StatusServiceUnavailable:  {situation.ErrBehind, errBusy, store.ErrBusy, context.Canceled},
		http.StatusInsufficientStorage: {store.Broken{Said: studio.Say("the disk is full")}},
		http.StatusInternalServerError: {errors.New("SQL logic error near SELECT")},
	} {
		for _, err := range errs {
			var status huma.StatusError
			require.ErrorAs(t, problem(fmt.Errorf("while it was written: %w", err)), &status)
			assert.Equal(t, want, status.GetStatus(), "%v", err)
			assert.NotContains(t, status.Error(), "SELECT")
		}
	}
	assert.NoError(t, problem(nil))
	assert.False(t, outside.IsTrouble(errors.New("no device")))
}

// One dear question is worked on at a time, some wait, and the next is refused; who has gone
// waits for nothing.
func TestDearQuestionsTakeTurns(t *testing.T) {
	l := newLimit()
	going, end := make(chan struct{}), make(chan struct{})
	var all sync.WaitGroup
	var together, most atomic.Int32
	ask := func(ctx context.Context) error {
		return l.within(ctx, "explain-plan", func(context.Context) error {
			most.Store(max(most.Load(), together.Add(1)))
			defer together.Add(-1)
			select {
			case going <- struct{}{}:
			default:
			}
			<-end
			return nil
		})
	}
	for range mostBeside {
		all.Go(func() { assert.NoError(t, ask(context.Background())) })
		<-going
	}
	gone, leave := context.WithCancel(context.Background())
	left := make(chan error)
	go func() { left <- ask(gone) }()
	leave()
	assert.ErrorIs(t, <-left, context.Canceled)
	var waiting sync.WaitGroup
	refused := atomic.Int32{}
	for range mostWaiting + 3 {
		waiting.Go(func() {
			if errors.Is(ask(context.Background()), errBusy) {
				refused.Add(1)
			}
		})
	}
	require.Eventually(t, func() bool { return refused.Load() == 3 }, time.Minute, time.Millisecond)
	assert.Equal(t, "explain-plan", l.now().Question)
	close(end)
	all.Wait()
	waiting.Wait()
	assert.EqualValues(t, mostBeside, most.Load())
}
