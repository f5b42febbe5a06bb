package web_test

import (
	"context"
	"io"
	"net"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A name that leads here from elsewhere, and a page of another site, get nothing, whatever they ask; the studio's own
// pages and its devices do.
func TestOnlyItsOwnPagesAreAnswered(t *testing.T) {
	d := newDesk(t)
	d.app.Named("loft.local")
	on, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, stop := context.WithCancel(t.Context())
	served := make(chan error, 1)
	go func() { served <- d.app.Serve(ctx, on) }()
	defer func() { stop(); <-served }()
	client := &http.Client{Timeout: 10 * time.Second}
	port := on.Addr().String()[strings.LastIndex(on.Addr().String(), ":"):]
	ask := func(method, path, host string, headers ...string) (int, string) {
		body := ""
		if method == "POST" {
			body = `{"name": "Oven", "minutes": 15}`
		}
		request, err := http.NewRequest(method, "http://"+on.Addr().String()+path, strings.NewReader(body))
		require.NoError(t, err)
		request.Host = host
		for name, value := range map[string]string{"Content-Type": "application/json", "Command-Id": uuid.NewString(), "Person": string(d.person)} {
			request.Header.Set(name, value)
		}
		for i := 0; i < len(headers); i += 2 {
			request.Header.Set(headers[i], headers[i+1])
		}
		answer, err := client.Do(request)
		require.NoError(t, err)
		defer answer.Body.Close()
		said, err := io.ReadAll(answer.Body)
		require.NoError(t, err)
		return answer.StatusCode, string(said)
	}
	for _, host := range []string{"127.0.0.1" + port, "localhost" + port, "LOFT.local", "[::1]" + port, "localhost."} {
		code, said := ask("GET", "/api/studio", host)
		assert.Equal(t, 200, code, "%s: %s", host, said)
		code, said = ask("POST", "/api/timers", host, "Origin", "http://"+host, "Sec-Fetch-Site", "same-origin")
		assert.Equal(t, 200, code, "%s: %s", host, said)
	}
	for _, host := range []string{"evil.example", "evil.example" + port, "127.0.0.1.evil.example", "loft.local.evil.example",
		"192.168.1.77", "localhost@evil.example", "0x7f000001"} {
		for _, path := range []string{"/", "/api/studio", "/api/events", "/words.json"} {
			code, said := ask("GET", path, host)
			assert.Contains(t, []int{421, 400}, code, "%s %s: %s", host, path, said)
		}
		code, _ := ask("POST", "/api/timers", host)
		assert.Contains(t, []int{421, 400}, code, host)
	}
	before := len(objects(t, must(d.ask("GET", "/api/journal", "", nil))["lines"]))
	here := "127.0.0.1" + port
	for _, foreign := range [][]string{{"Origin", "http://evil.example"}, {"Origin", "null"}, {"Origin", "http://127.0.0.1:1"},
		{"Origin", "https://" + here + ".evil.example"}, {"Sec-Fetch-Site", "cross-site"}, {"Sec-Fetch-Site", "same-site"}} {
		for _, path := range []string{"/api/timers", "/api/scale/tare", "/api/backups", "/api/readings"} {
			code, said := ask("POST", path, here, foreign...)
			assert.Equal(t, 403, code, "%v %s: %s", foreign, path, said)
		}
		code, _ := ask("GET", "/api/orders", here, foreign...)
		assert.Equal(t, 403, code, foreign)
	}
	assert.Len(t, objects(t, must(d.ask("GET", "/api/journal", "", nil))["lines"]), before)
}

func must(_ int, said object) object { return said }
