package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/store"
)

// given is a command, and the line of the journal that it was acknowledged with.
type given struct {
	id string
	n  int64
}

// signedIn is a client of a studio that people sign in to.
type signedIn struct {
	http   http.Client
	person string
	said   []given // what was acknowledged
}

func (c *signedIn) post(url, path string, body any, id string) (*http.Response, error) {
	data, err := json.Marshal(body)
	if err != nil {
		return nil, err
	}
	request, err := http.NewRequest(http.MethodPost, url+path, bytes.NewReader(data))
	if err != nil {
		return nil, err
	}
	request.Header.Set("Content-Type", "application/json")
	request.Header.Set("Command-Id", id)
	request.Header.Set("Person", c.person)
	return c.http.Do(request)
}

// timer has a timer started; acknowledged says with which line, and whether that had been carried out before.
func (c *signedIn) timer(url, id string) (n int64, repeated bool, err error) {
	answer, err := c.post(url, "/api/timers", map[string]any{"name": id, "minutes": 30}, id)
	if err != nil {
		return 0, false, err
	}
	defer answer.Body.Close()
	var moved struct{ N int64 }
	if answer.StatusCode != http.StatusOK {
		return 0, false, fmt.Errorf("answered %d", answer.StatusCode)
	}
	err = json.NewDecoder(answer.Body).Decode(&moved)
	return moved.N, answer.Header.Get("Repeated") == "true", err
}

// killed starts the program and gives it as a process, to be killed.
func killed(t *testing.T, arguments ...string) *exec.Cmd {
	command := exec.Command(os.Args[0], arguments...)
	command.Env = append(os.Environ(), "BRACTUM_RUN=1", "PORT=0")
	require.NoError(t, command.Start())
	return command
}

// The program is killed again and again while five people who have signed in record something, some of the times while
// a backup is made or restored: what was acknowledged is there, each once, and every backup has what was acknowledged
// when it began. BRACTUM_KILLS says how often.
func TestFiveClientsLoseNothingThatWasAcknowledged(t *testing.T) {
	kills := 12
	if n, err := strconv.Atoi(os.Getenv("BRACTUM_KILLS")); err == nil {
		kills = n
	}
	folder, document := t.TempDir(), filepath.Join(t.TempDir(), "studio.json")
	out, _, code := bractum(t, "", "document", "demo")
	require.Zero(t, code)
	out = strings.Replace(out, `"epoch": "2027`, `"epoch": "2025`, 1)
	require.NoError(t, os.WriteFile(document, []byte(out), 0o600))
	url, stop := running(t, "serve", "--data", folder, "--from", document, "--keep", "0")
	stop()
	const words = "three wet harbours"
	_, said, code := bractum(t, words+"\n", "password", "--data", folder)
	require.Zero(t, code, said)
	random := rand.New(rand.NewPCG(24, uint64(kills)))
	clients := make([]*signedIn, 5)
	backups, restores, acknowledged := 0, 0, 0
	for round := range kills {
		url, stop = servedUntilKilled(t, folder)
		for i := range clients {
			if clients[i] == nil {
				clients[i] = signs(t, url, words)
			}
		}
		again(t, url, clients)
		var all sync.WaitGroup
		ctx, end := context.WithCancel(t.Context())
		told, ended := make(chan struct{}), make(chan struct{})
		for _, c := range clients {
			all.Go(func() {
				for ctx.Err() == nil {
					id := uuid.NewString()
					n, _, err := c.timer(url, id)
					if err != nil {
						return
					}
					c.said = append(c.said, given{id, n})
					select {
					case told <- struct{}{}:
					case <-ctx.Done():
					}
				}
			})
		}
		go func() { all.Wait(); close(ended) }()
		hears := func(most int) { // so many acknowledgements, or all that there are
			for range random.IntN(most) {
				select {
				case <-told:
				case <-ended:
				}
			}
		}
		hears(40)
		file, before := "", int64(0)
		if round%10 == 3 { // while a backup is made
			backups++
			before = lastLine(t, folder)
			file = filepath.Join(t.TempDir(), "copy.bractum")
			copying := killed(t, "backup", "--data", folder, file)
			hears(30)
			if random.IntN(2) == 0 {
				_ = copying.Process.Kill()
			}
			stop()
			_ = copying.Wait() // whole, refused or killed
		}
		stop()
		end()
		<-ended
		for _, c := range clients {
			acknowledged += len(c.said)
		}
		if _, err := os.Stat(file); file != "" && err == nil {
			restores++
			restored(t, random, file, before)
		}
	}
	url, stop = servedUntilKilled(t, folder)
	again(t, url, clients)
	stop()
	s, err := store.Open(t.Context(), folder, store.Options{})
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, s.Verify(t.Context(), clockOf))
	t.Logf("%d kills, %d of them while a backup was made, %d backups restored, %d acknowledged",
		kills, backups, restores, acknowledged)
	assert.Positive(t, acknowledged)
}

// servedUntilKilled serves a folder, and gives what kills it at once.
func servedUntilKilled(t *testing.T, folder string) (url string, kill func()) {
	t.Helper()
	url, process := started(t, "serve", "--data", folder, "--keep", "0")
	return url, sync.OnceFunc(func() {
		_ = process.Process.Kill()
		_ = process.Wait() // it was killed
	})
}

// signs somebody in, in a browser of their own.
func signs(t *testing.T, url, words string) *signedIn {
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	c := &signedIn{http: http.Client{Jar: jar, Timeout: 20 * time.Second}}
	answer, err := c.post(url, "/api/access/sign-in", map[string]string{"name": "Odalys", "password": words}, "")
	require.NoError(t, err)
	defer answer.Body.Close()
	require.Equal(t, http.StatusOK, answer.StatusCode)
	var who struct {
		Person string `json:"person"`
	}
	require.NoError(t, json.NewDecoder(answer.Body).Decode(&who))
	c.person = who.Person
	require.NotEmpty(t, c.person)
	return c
}

// lastLine is the last line of a studio's journal, read beside whoever serves it.
func lastLine(t *testing.T, folder string) int64 {
	t.Helper()
	s, err := store.Open(t.Context(), folder, store.Options{})
	require.NoError(t, err)
	defer s.Close()
	n, _, _, err := s.LastN(t.Context())
	require.NoError(t, err)
	return n
}

// again gives every command that was acknowledged once more: each is known, with its line. They are forgotten then.
func again(t *testing.T, url string, clients []*signedIn) {
	t.Helper()
	for _, c := range clients {
		for _, g := range c.said {
			n, repeated, err := c.timer(url, g.id)
			require.NoError(t, err)
			require.True(t, repeated, "line %d was acknowledged and is lost", g.n)
			require.Equal(t, g.n, n)
		}
		c.said = nil
	}
}

// restored puts a backup into an empty folder, killed half way first: it is there as a whole or not at all, and
// has what was acknowledged when it began.
func restored(t *testing.T, random *rand.Rand, file string, before int64) {
	t.Helper()
	into := filepath.Join(t.TempDir(), "restored")
	whole, err := os.Stat(file)
	require.NoError(t, err)
	half := killed(t, "restore", file, "--data", into)
	over := make(chan error, 1)
	go func() { over <- half.Wait() }()
	for enough := random.Int64N(whole.Size()); len(over) == 0; { // once so much of it is there
		part, err := os.Stat(filepath.Join(into, store.FileName+".part"))
		if err == nil && part.Size() >= enough {
			_ = half.Process.Kill()
			break
		}
	}
	<-over // whole or killed
	if _, err := os.Stat(filepath.Join(into, store.FileName)); err != nil {
		_, said, code := bractum(t, "", "restore", file, "--data", into)
		require.Zero(t, code, said)
	}
	s, err := store.Open(t.Context(), into, store.Options{})
	require.NoError(t, err)
	defer s.Close()
	n, _, _, err := s.LastN(t.Context())
	require.NoError(t, err)
	require.GreaterOrEqual(t, n, before)
	require.NoError(t, s.Verify(t.Context(), clockOf))
}
