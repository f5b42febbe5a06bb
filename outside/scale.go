// Package outside speaks to what a studio may have beside Bractum: a scale, a label printer,
// and suppliers that take orders, each reached by an address over HTTP; and reads what
// sensors of the air send. All in the open formats of docs/formats; stand-ins of them ship
// with the program.
package outside

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"strings"
	"time"

	"bractum/core/studio"
)

// Services are the addresses of what is connected; empty where nothing is.
type Services struct {
	Scale    string
	Supplier string
	Printer  string
}

// Trouble is why something outside cannot be used now, and what to do.
type Trouble struct{ studio.Said }

func (t Trouble) Error() string { return t.String() }

// Say is trouble in words that stand in the program.
func Say(english string, with ...any) Trouble { return Trouble{studio.Say(english, with...)} }

// Scale is a scale at an address. It is safe for concurrent use.
type Scale struct {
	address string
	client  http.Client
}

// NewScale reaches a scale at an address such as http://127.0.0.1:8091.
func NewScale(address string) *Scale {
	return &Scale{address: strings.TrimRight(address, "/"), client: http.Client{Timeout: 800 * time.Millisecond}}
}

// Address is where the scale is reached.
func (s *Scale) Address() string { return s.address }

// Reading is what a scale shows: stable once it has come to rest.
type Reading struct {
	Milligrams studio.Milligrams `json:"milligrams"`
	Stable     bool              `json:"stable"`
}

// No kitchen scale shows more or less than this.
const (
	leastReading = -5_000_000
	mostReading  = 25_000_000
)

// Read asks the scale what it shows. An answer that is no weight is Trouble.
func (s *Scale) Read(ctx context.Context) (Reading, error) {
	var answer struct {
		Milligrams *json.Number `json:"milligrams"`
		Stable     bool         `json:"stable"`
	}
	body, err := s.ask(ctx, http.MethodGet, "/reading")
	if err != nil {
		return Reading{}, err
	}
	if err := json.Unmarshal(body, &answer); err != nil || answer.Milligrams == nil {
		return Reading{}, nonsense(body)
	}
	shown, err := answer.Milligrams.Int64()
	if err != nil || shown < leastReading || shown > mostReading {
		return Reading{}, nonsense(body)
	}
	return Reading{Milligrams: studio.Milligrams(shown), Stable: answer.Stable}, nil
}

// Tare sets the scale to nothing with what is on it.
func (s *Scale) Tare(ctx context.Context) error {
	_, err := s.ask(ctx, http.MethodPost, "/tare")
	return err
}

func nonsense(body []byte) error {
	return Say(
		"The scale answers %.40q, which is no weight. What was weighed is kept; read the display and type the figure.",
		body)
}

func (s *Scale) ask(ctx context.Context, method, path string) ([]byte, error) {
	request, err := http.NewRequestWithContext(ctx, method, s.address+path, nil)
	if err != nil {
		return nil, err
	}
	return exchange(
		&s.client,
		request,
		Say("The scale does not answer. What was weighed is kept; type the figures until it is back."),
	)
}

// exchange sends a request and reads an answer of a reasonable size.
func exchange(client *http.Client, request *http.Request, silent Trouble) ([]byte, error) {
	answer, err := client.Do(request)
	if err != nil {
		return nil, silent
	}
	defer answer.Body.Close()
	body, err := io.ReadAll(io.LimitReader(answer.Body, 1<<20))
	if err != nil {
		return nil, silent
	}
	if answer.StatusCode >= 300 {
		return nil, Say("%s (it answered %d %s)",
			silent,
			answer.StatusCode,
			bytes.TrimSpace(body[:min(len(body), 80)]))
	}
	return body, nil
}

// IsTrouble says whether an error is about something outside.
func IsTrouble(err error) bool {
	var t Trouble
	return errors.As(err, &t)
}
