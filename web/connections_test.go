package web_test

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"net"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/demo"
)

// Who has an answer already is told so, and gets nothing; what has changed comes anew.
func TestAnAnswerThatIsKnownIsNotSentAgain(t *testing.T) {
	d := newDesk(t)
	url, stop := d.serve()
	defer func() { _ = stop() }()
	d.ask("GET", "/api/orders", "", nil)
	get := func(tag string) *http.Response {
		request, _ := http.NewRequest("GET", url+"/api/orders", nil)
		request.Header.Set("If-None-Match", tag)
		request.Header.Set("Prefer", "wait=10")
		answer, err := http.DefaultClient.Do(request)
		require.NoError(t, err)
		_, _ = io.Copy(io.Discard, answer.Body)
		_ = answer.Body.Close()
		return answer
	}
	first := get("")
	require.Equal(t, 200, first.StatusCode)
	tag := first.Header.Get("ETag")
	require.NotEmpty(t, tag)
	assert.Equal(t, 304, get(tag).StatusCode)
	d.ask("POST", "/api/timers", object{"name": "Oven", "minutes": 15}, nil)
	assert.Equal(t, 304, get(tag).StatusCode, "a timer is nothing that orders show")
	d.ask("POST", "/api/orders", order(3, "Magnolia"), nil)
	assert.Equal(t, 200, get(tag).StatusCode)
}

// How far the dear question is that is worked on is told to whoever asks.
func TestADearQuestionSaysHowFarItIs(t *testing.T) {
	d := newDeskOf(t, demo.Season(1, 0.3, 105))
	d.ask("GET", "/api/studio", "", nil)
	_, none := d.ask("GET", "/api/beside", "", nil)
	assert.Empty(t, none["question"])
	answered := make(chan int, 1)
	go func() {
		status, _ := d.ask("GET", "/api/plan/scarce", "", nil)
		answered <- status
	}()
	far := map[string]bool{}
	for {
		select {
		case status := <-answered:
			assert.Equal(t, 200, status)
			assert.True(t, far["1 of 3"] && far["2 of 3"], far)
			return
		default:
			if _, beside := d.ask("GET", "/api/beside", "", nil); beside["question"] == "get-scarce" {
				far[fmt.Sprintf("%v of %v", beside["done"], beside["of"])] = true
			}
		}
	}
}

// Who leaves while something dear is worked out for them frees the place for others.
func TestADearAnswerEndsWhenItsAskerIsGone(t *testing.T) {
	d := newDeskOf(t, demo.Season(1, 0.3, 105))
	url, stop := d.serve()
	defer func() { _ = stop() }()
	d.ask("GET", "/api/studio", "", nil)
	for range 20 { // more than may wait, one after another, none of whom stays
		ctx, leave := context.WithTimeout(context.Background(), 20*time.Millisecond)
		request, _ := http.NewRequestWithContext(ctx, "GET", url+"/api/plan/scarce", nil)
		if early, err := (&http.Client{Transport: &http.Transport{}}).Do(request); err == nil {
			_ = early.Body.Close()
		}
		leave()
	}
	status, answer := d.ask("GET", "/api/plan/scarce", "", nil)
	assert.Equal(t, 200, status, answer)
}

// A program that is told to end does so, whatever is open: streams, half a request, a search.
func TestClosingWaitsForNobody(t *testing.T) {
	d := newDesk(t)
	url, stop := d.serve()
	stream, err := http.Get(url + "/api/events")
	require.NoError(t, err)
	defer stream.Body.Close()
	half, err := net.Dial("tcp", url[len("http://"):])
	require.NoError(t, err)
	defer half.Close()
	_, err = fmt.Fprint(half, "POST /api/orders HTTP/1.1\r\nHost: here\r\nContent-Length: 1000\r\n\r\n{")
	require.NoError(t, err)
	status, _ := d.ask("POST", "/api/search", object{"seconds": 600}, nil)
	require.Equal(t, 200, status)
	require.NoError(t, stop())
	_, err = bufio.NewReader(stream.Body).ReadString(0)
	assert.ErrorIs(t, err, io.EOF, "the stream has ended")
}
