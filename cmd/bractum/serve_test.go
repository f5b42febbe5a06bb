package main

import (
	"bufio"
	"encoding/json"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/demo"
)

// running starts the program and gives its address once it says so, and how to
// stop it as Ctrl-C does.
func running(t *testing.T, arguments ...string) (url string, stop func()) {
	url, command := started(t, arguments...)
	return url, func() {
		require.NoError(t, command.Process.Signal(syscall.SIGTERM))
		require.NoError(t, command.Wait(), "it ends in good order")
	}
}

// started runs the program, and waits until it says where it is.
func started(t *testing.T, arguments ...string) (url string, command *exec.Cmd) {
	command = exec.Command(os.Args[0], arguments...)
	command.Env = append(os.Environ(), "BRACTUM_RUN=1", "PORT=0")
	out, err := command.StdoutPipe()
	require.NoError(t, err)
	command.Stderr = os.Stderr
	require.NoError(t, command.Start())
	t.Cleanup(func() { _ = command.Process.Kill() }) // it has ended, or the test has failed
	lines := bufio.NewScanner(out)
	require.True(t, lines.Scan(), "it says where it is")
	url = regexp.MustCompile(`http://\S+`).FindString(lines.Text())
	require.NotEmpty(t, url, lines.Text())
	go func() {
		for lines.Scan() { // what to try first
		}
	}()
	return url, command
}

func orders(t *testing.T, url string) int {
	answer, err := http.Get(url + "/api/orders")
	require.NoError(t, err)
	defer answer.Body.Close()
	var list []any
	require.NoError(t, json.NewDecoder(answer.Body).Decode(&list))
	return len(list)
}

func TestTheDemoKeepsWhatWasEnteredUntilItStartsOver(t *testing.T) {
	folder := t.TempDir()
	url, stop := running(t, "demo", "--data", folder)
	require.Equal(t, 4, orders(t, url))
	body := `{"name":"Harvest supper","occasion":"","leaves":"2027-10-04T10:00","leaving":"posted","lines":[{"recipe":"` + string(demo.ID("Magnolia")) +
		`","colourway":"` + string(demo.ID("Signal")) + `","quantity":2}]}`
	request, err := http.NewRequest("POST", url+"/api/orders", strings.NewReader(body))
	require.NoError(t, err)
	request.Header.Set("Content-Type", "application/json")
	request.Header.Set("Command-Id", uuid.NewString())
	request.Header.Set("Person", string(demo.ID("Odalys")))
	answer, err := http.DefaultClient.Do(request)
	require.NoError(t, err)
	require.NoError(t, answer.Body.Close())
	require.Equal(t, 200, answer.StatusCode)
	stop()
	url, stop = running(t, "demo", "--data", folder)
	assert.Equal(t, 5, orders(t, url))
	stop()
	url, stop = running(t, "demo", "--data", folder, "--fresh")
	assert.Equal(t, 4, orders(t, url))
	stop()
}

func TestAStudioOfItsOwnBeginsFromADocument(t *testing.T) {
	folder := t.TempDir()
	document, _, _ := bractum(t, "", "document", "demo")
	file := filepath.Join(t.TempDir(), "studio.json")
	require.NoError(t, os.WriteFile(file, []byte(document), 0o600))
	_, messages, code := bractum(t, "", "serve", "--data", folder, "--port", "0", "--from", file)
	assert.Equal(t, exitUnusable, code)
	assert.Contains(t, messages, "lies in the future")
	require.NoError(
		t,
		os.WriteFile(file, []byte(strings.Replace(document, `"epoch": "2027`, `"epoch": "2025`, 1)), 0o600),
	)
	url, stop := running(t, "serve", "--data", folder, "--from", file)
	assert.Equal(t, 4, orders(t, url))
	stop()
	_, messages, code = bractum(t, "", "serve", "--data", file)
	assert.Equal(t, exitUnusable, code)
	assert.Contains(t, messages, "data folder")
}

// An empty folder is served at its beginning and begun there once, by a file or by what is told; the whole studio as a
// file opens as the same in another.
func TestAnEmptyFolderIsBegunWhereItIsServed(t *testing.T) {
	folder := t.TempDir()
	url, stop := running(t, "serve", "--data", folder)
	empty := func() bool {
		answer, err := http.Get(url + "/api/beginning")
		require.NoError(t, err)
		defer answer.Body.Close()
		var view struct{ Empty bool }
		require.NoError(t, json.NewDecoder(answer.Body).Decode(&view))
		return view.Empty
	}
	require.True(t, empty())
	document, _, _ := bractum(t, "", "document", "demo")
	document = strings.Replace(document, `"epoch": "2027`, `"epoch": "2025`, 1)
	begin := func(body string) int {
		answer, err := http.Post(url+"/api/beginning/file", "application/octet-stream", strings.NewReader(body))
		require.NoError(t, err)
		defer answer.Body.Close()
		return answer.StatusCode
	}
	assert.Equal(t, 422, begin("no studio"))
	assert.Equal(t, 422, begin(strings.Replace(document, `"slots": 8`, `"slots": -8`, 1)))
	assert.True(t, empty(), "nothing is left of what was refused")
	assert.Equal(t, 200, begin(document))
	assert.False(t, empty())
	assert.Equal(t, 409, begin(document), "a studio is begun once")
	assert.Equal(t, 4, orders(t, url))
	stop()
	whole := func(folder string) string {
		text, messages, code := bractum(t, "", "export", "--data", folder, "--whole")
		require.Zero(t, code, messages)
		return regexp.MustCompile(`"now": \d+`).ReplaceAllString(text, "")
	}
	file, other := filepath.Join(t.TempDir(), "studio.json"), t.TempDir()
	text, _, _ := bractum(t, "", "export", "--data", folder, "--whole")
	require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
	_, stop = running(t, "serve", "--data", other, "--from", file)
	stop()
	assert.Equal(t, whole(folder), whole(other))

	backup, third := filepath.Join(t.TempDir(), "yard.bractum"), t.TempDir()
	_, messages, code := bractum(t, "", "backup", "--data", folder, backup)
	require.Zero(t, code, messages)
	kept, err := os.ReadFile(backup)
	require.NoError(t, err)
	url, stop = running(t, "serve", "--data", third)
	assert.Equal(t, http.StatusInsufficientStorage, begin(string(kept[:len(kept)/2])), "a torn one")
	assert.Equal(t, 200, begin(string(kept)))
	assert.Equal(t, 409, begin(string(kept)))
	assert.Equal(t, 4, orders(t, url), "it is gone on with at once")
	stop()
	assert.Equal(t, whole(folder), whole(third))
}

// A monitor is told, apart from the application, how long requests take; nothing of the studio.
func TestAMonitorIsToldHowLongRequestsTake(t *testing.T) {
	on, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	monitor := on.Addr().String()
	require.NoError(t, on.Close())
	url, stop := running(t, "serve", "--data", t.TempDir(), "--metrics", monitor)
	defer stop()
	_, err = http.Get(url + "/api/beginning")
	require.NoError(t, err)
	answer, err := http.Get("http://" + monitor + "/metrics")
	require.NoError(t, err)
	defer answer.Body.Close()
	told, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	assert.Contains(t, string(told), `bractum_request_seconds_count{route="/api/beginning",status="200"} 1`)
	assert.Contains(t, string(told), "bractum_followers 0")
	elsewhere, err := http.Get(url + "/metrics")
	require.NoError(t, err)
	defer elsewhere.Body.Close()
	page, err := io.ReadAll(elsewhere.Body)
	require.NoError(t, err)
	assert.NotContains(t, string(page), "bractum_request")
}

// A clock that runs goes on by the minute from where it stands, from where it is moved to, and, opened again, from
// the last that was written; never back.
func TestARunningClockGoesOn(t *testing.T) {
	now := time.Now()
	clock := runs(130, func() time.Time { return now })
	at := func(stands studio.Minute) studio.Minute { return clock(studio.Calendar{}, &stands) }
	assert.Equal(t, studio.Minute(130), at(100), "the last that was written")
	now = now.Add(2*time.Minute + 59*time.Second)
	assert.Equal(t, studio.Minute(132), at(100))
	assert.Equal(t, studio.Minute(147), at(147), "moved on")
	now = now.Add(time.Minute)
	assert.Equal(t, studio.Minute(148), at(147))
}
