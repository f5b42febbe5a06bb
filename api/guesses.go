package api

import (
	"fmt"
	"net/http"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	lru "github.com/hashicorp/golang-lru/v2"
)

// guesses slow down who guesses at a password, a PIN or a code: after a few wrong ones each takes longer to come. They
// are counted for one browser or address and one person, so that nobody else is kept out.
type guesses struct {
	mu    sync.Mutex
	wrong *lru.Cache[string, guess]
}

type guess struct {
	times int
	until time.Time
}

const (
	freeGuesses = 5
	firstWait   = 30 * time.Second
	longestWait = 15 * time.Minute
	mostGuesses = 10_000
)

func newGuesses() guesses {
	wrong, err := lru.New[string, guess](mostGuesses)
	if err != nil {
		panic(err) // the size is a constant
	}
	return guesses{wrong: wrong}
}

// may says when it is too early for another guess; one at a time is let through after a wait.
func (g *guesses) may(who string, now time.Time) error {
	g.mu.Lock()
	defer g.mu.Unlock()
	was, _ := g.wrong.Get(who)
	if wait := was.until.Sub(now); wait > 0 {
		return huma.NewError(http.StatusTooManyRequests, fmt.Sprintf(
			"this was wrong %d times; wait for %d s and try again. A lead can set another",
			was.times,
			int(wait/time.Second)+1,
		))
	}
	was.times++ // taken back if it was right, so that many at once are no way round
	if over := was.times - freeGuesses; over >= 0 {
		was.until = now.Add(min(firstWait<<min(over, 10), longestWait))
	}
	g.wrong.Add(who, was)
	return nil
}

// right forgets the wrong ones.
func (g *guesses) right(who string) {
	g.mu.Lock()
	defer g.mu.Unlock()
	g.wrong.Remove(who)
}
