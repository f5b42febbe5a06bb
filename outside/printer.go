package outside

import (
	"bytes"
	"context"
	"net/http"
	"strings"
	"time"
)

// Printer is a label printer at an address.
type Printer struct {
	address string
	client  http.Client
}

// NewPrinter reaches a label printer at an address.
func NewPrinter(address string) *Printer {
	return &Printer{address: strings.TrimRight(address, "/"), client: http.Client{Timeout: 3 * time.Second}}
}

// Print has a label come out, a PNG.
func (p *Printer) Print(ctx context.Context, label []byte) error {
	request, err := http.NewRequestWithContext(ctx, http.MethodPost, p.address+"/print", bytes.NewReader(label))
	if err != nil {
		return err
	}
	request.Header.Set("Content-Type", "image/png")
	_, err = exchange(
		&p.client,
		request,
		Say("The label printer does not print. Look at it, or print the label from the browser."),
	)
	return err
}
