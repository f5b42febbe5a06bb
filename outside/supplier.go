package outside

import (
	"bytes"
	"context"
	"encoding/csv"
	"encoding/json"
	"net/http"
	"strconv"
	"strings"
	"time"

	"bractum/core/studio"
)

// Supplier is the order desk of the studio's suppliers at an address.
type Supplier struct {
	address string
	client  http.Client
}

// NewSupplier reaches an order desk at an address.
func NewSupplier(address string) *Supplier {
	return &Supplier{address: strings.TrimRight(address, "/"), client: http.Client{Timeout: 3 * time.Second}}
}

// PurchaseOrder is what is sent. A reference that was sent before is answered as then.
type PurchaseOrder struct {
	Reference string          `json:"reference"`
	Supplier  string          `json:"supplier"`
	Ordered   studio.WallTime `json:"ordered"`
	Expected  studio.WallTime `json:"expected"`
	Lines     []PurchaseLine  `json:"lines"`
}

// PurchaseLine is a number of packs of an article, asked for or promised.
type PurchaseLine struct {
	Line    string `json:"line"`
	Article string `json:"article"`
	Packs   int64  `json:"packs"`
}

// CSV is an order as a table, one line a row, for an order desk that takes that, or for a person who sends it.
func (o PurchaseOrder) CSV() ([]byte, error) {
	var out bytes.Buffer
	w := csv.NewWriter(&out)
	_ = w.Write([]string{"reference", "supplier", "ordered", "expected", "line", "article", "packs"})
	for _, l := range o.Lines {
		_ = w.Write([]string{o.Reference, plainCell(o.Supplier), o.Ordered.String(), o.Expected.String(), l.Line,
			plainCell(l.Article), strconv.FormatInt(l.Packs, 10)})
	}
	w.Flush()
	return out.Bytes(), w.Error()
}

// plainCell is a text that no spreadsheet takes for a formula.
func plainCell(text string) string {
	if text != "" && strings.ContainsRune("=+-@\t\r", rune(text[0])) {
		return "'" + text
	}
	return text
}

// Confirmation is what a supplier answers: what comes, and when. Said is for people.
type Confirmation struct {
	Reference string         `json:"reference"`
	Expected  string         `json:"expected"` // a local time, or whatever they say
	Said      string         `json:"said"`
	Lines     []PurchaseLine `json:"lines"`
}

// Order sends an order and reads its confirmation.
func (s *Supplier) Order(ctx context.Context, o PurchaseOrder) (Confirmation, error) {
	silent := Say("The supplier's order desk does not answer. The order is kept here as sent and not confirmed; " +
		"send it again, or call them.")
	body, err := json.Marshal(o)
	if err != nil {
		return Confirmation{}, err
	}
	request, err := http.NewRequestWithContext(ctx, http.MethodPost, s.address+"/orders", bytes.NewReader(body))
	if err != nil {
		return Confirmation{}, err
	}
	request.Header.Set("Content-Type", "application/json")
	answer, err := exchange(&s.client, request, silent)
	if err != nil {
		return Confirmation{}, err
	}
	var c Confirmation
	if json.Unmarshal(answer, &c) != nil || c.Reference != o.Reference {
		return Confirmation{}, Say(
			"The supplier answers something else than a confirmation of this order. " +
				"It is kept here as sent; call them.")
	}
	return c, nil
}
