package store

import (
	"cmp"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// What is over is read page by page, the newest first: closed orders, the journal, the
// ledger, closed lots.

// Sought is what of a history is wanted: what holds a text, of days From to To, both
// included, after the last line of the page before. All may be empty.
type Sought struct {
	Text     string
	From, To studio.Date
	After    string // the Next of the page before
	Most     int64  // lines of a page; mostOfAPage where it is 0
}

// Page is some lines, and what the next page comes after; empty where there is none.
type Page[T any] struct {
	Lines []T    `json:"lines"`
	Next  string `json:"next"`
}

// mostOfAPage is how many lines a page has at the most.
const mostOfAPage = 100

// ErrNoPage says that a page was asked for after something that is no line of a history.
var ErrNoPage = errors.New("no page comes after this; begin with the first")

// bounds are the minutes of the days sought.
func (w Sought) bounds(calendar studio.Calendar) (since, until int64) {
	since, until = math.MinInt64, math.MaxInt64
	if !w.From.IsZero() {
		since = int64(calendar.At(w.From, 0))
	}
	if !w.To.IsZero() {
		until = int64(calendar.At(w.To.Next(), 0))
	}
	return since, until
}

// number is the line that the page before ended with.
func (w Sought) number() (int64, error) {
	if w.After == "" {
		return math.MaxInt64, nil
	}
	n, err := strconv.ParseInt(w.After, 10, 64)
	if err != nil {
		return 0, ErrNoPage
	}
	return n, nil
}

// pair is the line that the page before ended with, by what it is sorted by and its id.
func (w Sought) pair() (by, id string, err error) {
	if w.After == "" {
		return "", "", nil
	}
	by, id, ok := strings.Cut(w.After, "/")
	if !ok {
		return "", "", ErrNoPage
	}
	return by, id, nil
}

// pageOf makes a page of the rows found, of which one more was asked for than it has lines.
func pageOf[R, T any](w Sought, found []R, line func(R) T, next func(R) string) Page[T] {
	page := Page[T]{Lines: []T{}}
	for i, row := range found {
		if int64(i) == w.most() {
			page.Next = next(found[i-1])
			break
		}
		page.Lines = append(page.Lines, line(row))
	}
	return page
}

func (w Sought) most() int64 { return min(mostOfAPage, cmp.Or(w.Most, mostOfAPage)) }

// history runs a query for a page with the studio's calendar.
func (s *Store) history(ctx context.Context, do func(q *sqlcgen.Queries, calendar studio.Calendar) error) error {
	return s.reading(ctx, func(q *sqlcgen.Queries) error {
		row, err := q.Studio(ctx)
		if err != nil {
			return err
		}
		calendar, _, err := clockOf(row)
		if err != nil {
			return err
		}
		return do(q, calendar)
	})
}

// Entry is one line of the journal.
type Entry struct {
	N       int64         `json:"n"`
	At      studio.Minute `json:"at"`
	Person  string        `json:"person"`
	Kind    string        `json:"kind"`
	Summary string        `json:"summary"`
	Undone  bool          `json:"undone"`
	Undoes  int64         `json:"undoes,omitempty"`
	Final   bool          `json:"final" doc:"true where nothing of it can be taken back"`
}

// Journal is a page of the journal: what was done, and by whom.
func (s *Store) Journal(ctx context.Context, w Sought) (page Page[Entry], err error) {
	before, err := w.number()
	if err != nil {
		return page, err
	}
	err = s.history(ctx, func(q *sqlcgen.Queries, calendar studio.Calendar) error {
		since, until := w.bounds(calendar)
		found, err := q.JournalPage(
			ctx,
			sqlcgen.JournalPageParams{Before: before, Since: since, Until: until, Text: w.Text,
				Most: w.most() + 1},
		)
		page = pageOf(w, found, func(r sqlcgen.JournalPageRow) Entry {
			return Entry{N: r.N, At: studio.Minute(r.AtMinute), Person: r.Person, Kind: r.Kind, Summary: r.Summary,
				Undone: r.Undone != 0, Undoes: r.Undoes.Int64,
				Final: r.Touched == 0 || r.Undoes.Valid}
		}, func(r sqlcgen.JournalPageRow) string { return strconv.FormatInt(r.N, 10) })
		return err
	})
	return page, err
}

// Line is a line of the ledger about one thing, with the command it belongs to.
type Line struct {
	N        int64               `json:"n"`
	Movement studio.MovementKind `json:"movement"`
	Amount   int64               `json:"amount"`
	Order    string              `json:"order,omitempty" doc:"the name of whom it was reserved for"`
	At       studio.Minute       `json:"at"`
	Person   string              `json:"person"`
	Summary  string              `json:"summary"`
}

// Ledger is a page of the movements of a shelf lot or a material, or of its wires that lie
// cut to a length.
func (s *Store) Ledger(
	ctx context.Context,
	of studio.ID,
	length studio.Micrometres,
	w Sought,
) (page Page[Line], err error) {
	before, err := w.number()
	if err != nil {
		return page, err
	}
	err = s.history(ctx, func(q *sqlcgen.Queries, calendar studio.Calendar) error {
		since, until := w.bounds(calendar)
		found, err := q.LedgerPage(
			ctx,
			sqlcgen.LedgerPageParams{Of: nullString(string(of)), Length: int64(length), Before: before,
				Since: since, Until: until, Text: w.Text, Most: w.most() + 1},
		)
		page = pageOf(w, found, func(r sqlcgen.LedgerPageRow) Line {
			return Line{N: r.N, Movement: studio.MovementKind(r.Movement), Amount: r.Amount, Order: r.OrderName,
				At: studio.Minute(r.AtMinute), Person: r.Person, Summary: r.Summary}
		}, func(r sqlcgen.LedgerPageRow) string { return strconv.FormatInt(r.ID, 10) })
		return err
	})
	return page, err
}

// PastOrders is a page of the orders that are closed, the latest to leave first. Text is
// looked for in their names and occasions, days are those on which they left.
func (s *Store) PastOrders(ctx context.Context, w Sought) (page Page[OrderState], err error) {
	before, id, err := w.pair()
	if err != nil {
		return page, err
	}
	asked := sqlcgen.PastOrdersParams{
		Since:    w.From.String(),
		Until:    "~",
		Before:   cmp.Or(before, "~"),
		BeforeID: id,
		Text:     w.Text,
		Most:     w.most() + 1,
	}
	if !w.To.IsZero() {
		asked.Until = w.To.Next().String()
	}
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		found, err := q.PastOrders(ctx, asked)
		if err != nil {
			return err
		}
		lines, err := linesOf(ctx, q, found)
		page = pageOf(w, found, func(r sqlcgen.PastOrdersRow) OrderState {
			o, e := orderOf(
				sqlcgen.OrderVersion{OrderID: r.OrderID, Version: r.Version, Name: r.Name, Occasion: r.Occasion,
					Leaves: r.Leaves, Leaving: r.Leaving, Importance: r.Importance, Allergies: r.Allergies, State: r.State,
					Quoted: r.Quoted, Beyond: r.Beyond},
				lines[r.OrderID],
			)
			err = errors.Join(err, e)
			return OrderState{Order: o, Version: r.Version, Accepted: r.AcceptedVersion.Int64}
		}, func(r sqlcgen.PastOrdersRow) string { return r.Leaves + "/" + r.OrderID })
		return err
	})
	return page, err
}

// linesOf are the lines of some orders, by order.
func linesOf(
	ctx context.Context,
	q *sqlcgen.Queries,
	orders []sqlcgen.PastOrdersRow,
) (map[string][]sqlcgen.OrderLine, error) {
	ids := make([]string, len(orders))
	for i, o := range orders {
		ids[i] = o.OrderID
	}
	wanted, err := json.Marshal(ids)
	if err != nil {
		return nil, err
	}
	rows, err := q.LinesOf(ctx, string(wanted))
	lines := map[string][]sqlcgen.OrderLine{}
	for _, l := range rows {
		lines[l.OrderID] = append(lines[l.OrderID], l)
	}
	return lines, err
}

// ClosedLot is a lot whose pieces are made and gone, and what came of it.
type ClosedLot struct {
	ID      studio.ID     `json:"id"`
	Recipe  studio.ID     `json:"recipe"`
	Name    string        `json:"name"`
	Variant string        `json:"variant,omitempty"`
	Started int64         `json:"started" doc:"pieces, or milligrams of a mix"`
	Good    int64         `json:"good"`
	Lost    int64         `json:"lost"`
	Minutes studio.Minute `json:"minutes" doc:"that people were at it"`
	Ended   studio.Minute `json:"ended"`
}

// ClosedLots is a page of the lots that are closed, the last to be finished first. Text is
// looked for in the names of their recipes.
func (s *Store) ClosedLots(ctx context.Context, w Sought) (page Page[ClosedLot], err error) {
	by, id, err := w.pair()
	before := int64(math.MaxInt64)
	if err == nil && by != "" {
		if before, err = strconv.ParseInt(by, 10, 64); err != nil {
			err = ErrNoPage
		}
	}
	if err != nil {
		return page, err
	}
	err = s.history(ctx, func(q *sqlcgen.Queries, calendar studio.Calendar) error {
		since, until := w.bounds(calendar)
		found, err := q.ClosedLots(ctx, sqlcgen.ClosedLotsParams{Since: sql.NullInt64{Int64: since, Valid: true},
			Until: sql.NullInt64{
				Int64: until,
				Valid: true,
			}, Before: sql.NullInt64{Int64: before, Valid: true}, BeforeID: id, Text: w.Text, Most: w.most() + 1})
		page = pageOf(w, found, func(r sqlcgen.ClosedLotsRow) ClosedLot {
			return ClosedLot{
				ID:      studio.ID(r.ID),
				Recipe:  studio.ID(r.RecipeID),
				Name:    r.Name,
				Variant: r.Variant,
				Started: r.Started,
				Good:    r.Good,
				Lost:    r.Lost,
				Minutes: studio.Minute(r.Minutes),
				Ended:   studio.Minute(r.Closed),
			}
		}, func(r sqlcgen.ClosedLotsRow) string { return fmt.Sprintf("%d/%s", r.Closed, r.ID) })
		return err
	})
	return page, err
}
