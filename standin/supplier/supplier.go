// Package supplier stands in for the order desks of a studio's suppliers: it takes orders
// in the format of docs/formats/purchase.md, as JSON or as CSV, confirms them, and is
// sometimes late or short, the same for the same reference.
package supplier

import (
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"io"
	"net/http"
	"strconv"
	"strings"
	"sync"
	"time"
)

const wall = "2006-01-02T15:04"

// Order is what it takes; expected is when the studio reckons with it.
type Order struct {
	Reference string `json:"reference"`
	Supplier  string `json:"supplier"`
	Ordered   string `json:"ordered"`
	Expected  string `json:"expected"`
	Lines     []Line `json:"lines"`
}

// Line is a number of packs of an article.
type Line struct {
	Line    string `json:"line"`
	Article string `json:"article"`
	Packs   int64  `json:"packs"`
}

// Confirmation is what it answers.
type Confirmation struct {
	Reference string `json:"reference"`
	Expected  string `json:"expected"`
	Said      string `json:"said"`
	Lines     []Line `json:"lines"`
}

// Desk is a stand-in for order desks. It is safe for concurrent use.
type Desk struct {
	mu    sync.Mutex
	taken map[string]Confirmation
}

// New makes a desk that has taken no order.
func New() *Desk { return &Desk{taken: map[string]Confirmation{}} }

// Confirm takes an order: one in four comes a working day or two late, one in five is
// short of a pack of its first line that has more than one. A reference that was taken
// before is answered as then.
func (d *Desk) Confirm(o Order) (Confirmation, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if c, known := d.taken[o.Reference]; known {
		return c, nil
	}
	expected, err := time.Parse(wall, o.Expected)
	switch {
	case o.Reference == "":
		return Confirmation{}, errors.New("an order has a reference")
	case err != nil:
		return Confirmation{}, fmt.Errorf("expected is %q; a time such as 2027-09-23T10:00 would be right", o.Expected)
	case len(o.Lines) == 0:
		return Confirmation{}, errors.New("an order has lines")
	}
	c := Confirmation{
		Reference: o.Reference,
		Said:      "Thank you, it comes as ordered.",
		Lines:     append([]Line{}, o.Lines...),
	}
	hash := fnv.New32a()
	_, _ = io.WriteString(hash, o.Reference)
	luck := hash.Sum32()
	if luck%4 == 0 {
		late := 1 + int(luck/4%2)
		for range late {
			for expected = expected.AddDate(0, 0, 1); expected.Weekday() == time.Saturday || expected.Weekday() == time.Sunday; {
				expected = expected.AddDate(0, 0, 1)
			}
		}
		c.Said = "Thank you. Our van is full; it comes " + []string{"a day", "two days"}[late-1] + " later."
	}
	if luck%5 == 0 {
		for i := range c.Lines {
			if c.Lines[i].Packs > 1 {
				c.Lines[i].Packs--
				c.Said += " We are a pack of " + c.Lines[i].Article + " short."
				break
			}
		}
	}
	c.Expected = expected.Format(wall)
	d.taken[o.Reference] = c
	return c, nil
}

// ServeHTTP takes orders: POST /orders, as application/json or text/csv.
func (d *Desk) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if r.Method != http.MethodPost || r.URL.Path != "/orders" {
		http.NotFound(w, r)
		return
	}
	var o Order
	var err error
	body := http.MaxBytesReader(w, r.Body, 1<<20)
	if strings.HasPrefix(r.Header.Get("Content-Type"), "text/csv") {
		o, err = readCSV(body)
	} else {
		err = json.NewDecoder(body).Decode(&o)
	}
	var c Confirmation
	if err == nil {
		c, err = d.Confirm(o)
	}
	if err != nil {
		http.Error(w, err.Error(), http.StatusUnprocessableEntity)
		return
	}
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(c)
}

// readCSV reads an order of one line a row: reference, supplier, ordered, expected, line,
// article, packs, with that heading.
func readCSV(from io.Reader) (o Order, err error) {
	rows, err := csv.NewReader(from).ReadAll()
	if err != nil || len(rows) < 2 ||
		strings.Join(rows[0], ",") != "reference,supplier,ordered,expected,line,article,packs" {
		return o, errors.New("the first row names reference,supplier,ordered,expected,line,article,packs")
	}
	for _, row := range rows[1:] {
		packs, err := strconv.ParseInt(row[6], 10, 64)
		if err != nil || packs < 1 {
			return o, fmt.Errorf("%q packs of %s cannot be ordered", row[6], row[5])
		}
		o.Reference, o.Supplier, o.Ordered, o.Expected = row[0], row[1], row[2], row[3]
		o.Lines = append(o.Lines, Line{Line: row[4], Article: row[5], Packs: packs})
	}
	return o, nil
}
