package api

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"sort"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/count"
	"bractum/core/stores"
	"bractum/core/studio"
	"bractum/store"
)

// CountView is the matrix of what has to be made: as it is accepted, or as the lead wishes
// it now.
type CountView struct {
	N       int64        `json:"n"`
	Pending bool         `json:"pending" doc:"true while something is wished that is not accepted"`
	Days    int64        `json:"days" doc:"the cells are those whose making must begin within so many days, today among them"`
	Later   int64        `json:"later" doc:"cells that can wait longer, or are beyond what is sent at once"`
	Started int64        `json:"started" doc:"pieces to start in all"`
	Shelf   int64        `json:"fromShelf" doc:"pieces taken dry from the shelf in all"`
	Cells   []CountCell  `json:"cells" doc:"what must begin first comes first"`
	Notes   []count.Note `json:"notes"`
	Orders  []Named      `json:"orders"`

	SparesFor     studio.SparesFor `json:"sparesFor" doc:"what spares by breakage are reckoned for"`
	RemakeMinutes studio.Minute    `json:"remakeMinutes" doc:"what making some more costs beside its setup"`
}

// CountCell is one gather key of the count with its names, lots and stock.
type CountCell struct {
	Key         string        `json:"key"`
	Gross       int64         `json:"gross"`
	FromShelf   int64         `json:"fromShelf"`
	FromWork    int64         `json:"fromWork"`
	Started     int64         `json:"started"`
	Spare       int64         `json:"spare"`
	Decided     int64         `json:"decided" doc:"what lots yield that the lead has decided on"`
	Late        bool          `json:"late,omitempty" doc:"some of it should have been begun by now"`
	Orders      []studio.ID   `json:"orders"`
	LatestStart studio.Minute `json:"latestStart"`

	Name    string           `json:"name"`
	Form    string           `json:"form"`
	Shape   *studio.Geometry `json:"shape,omitempty" doc:"of one piece as it is cut or rolled"`
	Kind    studio.Kind      `json:"kind"`
	Colour  string           `json:"colour"`
	Mix     string           `json:"mix"`
	Flowers []string         `json:"flowers" doc:"the flowers that this goes into, or it itself"`
}

// OpenedCell is a cell with how it was worked out, its lots and its stock.
type OpenedCell struct {
	CountCell
	Workings []studio.Working  `json:"workings"`
	LotList  []studio.Lot      `json:"lotList"`
	Stock    []studio.ShelfLot `json:"stock" doc:"what lies finished of it"`
}

// counted is what a figure of the count is shown with of what is recorded.
var counted = []string{"orders", "work", "stores", "wishes"}

func (s *Service) registerCount(to huma.API) {
	type counting struct {
		Wished bool   `query:"wished" doc:"as the lead wishes it now, accepted or not"`
		Days   int64  `query:"days" minimum:"0" maximum:"400" doc:"what must begin within so many days, today among them; 0 is as many as are seen at once"`
		Text   string `query:"text" maxLength:"80" doc:"words that are in the name, the colour or a flower of it"`
	}
	answerTo := func(at *moment, wished bool) *answer {
		if wished {
			return at.latestAnswer()
		}
		return at.inForce
	}
	kept(s, to, get("/count", "get-count", "What has to be made"),
		shows{topics: []string{"orders", "wishes"}, planned: true, now: true},
		func(ctx context.Context, at *moment, in *counting) (CountView, error) {
			v := at.countView(answerTo(at, in.Wished), in.Days, in.Text)
			v.Pending = at.wished != nil
			return v, nil
		})
	type opening struct {
		Wished bool   `query:"wished" doc:"as the lead wishes it now, accepted or not"`
		Key    string `query:"key" required:"true" doc:"of the cell"`
	}
	kept(s, to, get("/count/cell", "open-cell", "How a figure of the count was worked out, its lots and its stock"),
		shows{topics: counted, planned: true},
		func(_ context.Context, at *moment, in *opening) (OpenedCell, error) {
			return answerTo(at, in.Wished).openedCell(in.Key)
		})
	type decide struct {
		Who
		Lot  string `path:"lot"`
		Body count.Decision
	}
	wish(s, to, post("/lots/{lot}/decide", "decide-lot", "lot decided on", "Decide about a lot that is not begun"),
		func(_ context.Context, at *moment, in *decide) (func(*change) (Moved, error), error) {
			a := at.latestAnswer()
			decided, err := count.Decide(a.Doc, a.Count, studio.ID(in.Lot), in.Body)
			if err != nil {
				return nil, err
			}
			i := slices.IndexFunc(a.Count.Lots, func(l studio.Lot) bool { return l.ID == studio.ID(in.Lot) })
			return func(c *change) (Moved, error) {
				c.Summary = fmt.Sprintf("%s: %s", a.Book.Of(a.Count.Lots[i].Made()).Name, worded[in.Body.What])
				for _, d := range decided {
					if err := c.Decide(d.ID, d.Lot); err != nil {
						return Moved{}, err
					}
				}
				return Moved{c.N()}, nil
			}, nil
		})
	type spare struct {
		Who
		Body struct {
			For     studio.SparesFor `json:"for" enum:"remaking,service"`
			Minutes studio.Minute    `json:"minutes" minimum:"0" maximum:"14400" doc:"what making some more costs beside its setup"`
		}
	}
	fact(s, to, post("/count/spares", "set-spares", "spares set", "What spares by breakage are reckoned for"),
		func(c *change, in *spare) (Moved, error) {
			settings := c.at.inForce.Doc.Settings
			settings.SparesFor, settings.RemakeMinutes = in.Body.For, in.Body.Minutes
			c.Summary = sparesWorded[in.Body.For]
			if in.Body.For == studio.SparesForRemaking {
				c.Summary = fmt.Sprintf(c.Summary, in.Body.Minutes)
			}
			return Moved{c.N()}, c.SetSettings(settings)
		})
	type reserve struct {
		Who
		Stock string `path:"stock"`
		Body  struct {
			Order    studio.ID `json:"order" doc:"whom it is for; empty keeps it back from everything"`
			Quantity int64     `json:"quantity" doc:"how much of it in all; 0 gives it back"`
		}
	}
	fact(s, to, post("/stock/{stock}/reserve", "reserve-stock", "stock reserved",
		"Say how much of a shelf lot is for an order"),
		func(c *change, in *reserve) (Moved, error) {
			return c.moved(stores.Reserve(c.at.inForce.Doc, studio.ID(in.Stock), in.Body.Order, in.Body.Quantity))
		})
}

// sparesWorded is how the journal says what spares are reckoned for.
var sparesWorded = map[studio.SparesFor]string{
	studio.SparesForRemaking: "Spares cost the least, making more %d min",
	studio.SparesForService:  "Spares are for the service level",
}

// worded is how the journal says what was decided.
var worded = map[string]string{
	"keep":   "a lot is kept as it is",
	"start":  "another number to start",
	"split":  "a lot is split",
	"merge":  "lots are merged",
	"move":   "a lot is moved",
	"let go": "a decision is let go",
}

// A count is seen by cells whose making must begin within some days: by as many days as come to seenAtOnce cells at
// most where nobody says, and never by more than mostCells.
const (
	seenAtOnce = 100
	mostCells  = 200
)

// spans are the days that a count is seen by where nobody says, the longest first.
var spans = []int64{400, 7, 2, 1}

// countView are the cells of a count with words in them whose making must begin within some days, or in some of the spans.
func (at *moment) countView(a *answer, days int64, text string) CountView {
	v := CountView{N: at.N, Cells: []CountCell{}, Notes: a.Count.Notes, Orders: []Named{},
		SparesFor: a.Doc.Settings.SparesFor, RemakeMinutes: a.Doc.Settings.RemakeMinutes}
	for _, o := range a.Doc.Orders {
		v.Orders = append(v.Orders, Named{ID: o.ID, Name: o.Name})
	}
	words := strings.Fields(strings.ToLower(text))
	for _, item := range a.Count.Items {
		r := a.Book.Of(item.Made())
		if r == nil { // it went out of the book just now
			continue
		}
		c := a.countCell(item)
		if r.Kind != studio.KindMix {
			v.Started, v.Shelf = v.Started+c.Started, v.Shelf+c.FromShelf
		}
		if c.has(words) {
			v.Cells = append(v.Cells, c)
		}
	}
	slices.SortStableFunc(v.Cells, func(x, y CountCell) int { return cmp.Compare(x.LatestStart, y.LatestStart) })
	within := func(days int64) int {
		past := at.Calendar.At(at.Calendar.Date(at.Now+1440*studio.Minute(days)), 0)
		return sort.Search(len(v.Cells), func(i int) bool { return v.Cells[i].LatestStart >= past })
	}
	if v.Days = days; days == 0 {
		for _, v.Days = range spans {
			if within(v.Days) <= seenAtOnce {
				break
			}
		}
	}
	shown := within(v.Days)
	if v.Days == spans[0] {
		shown = len(v.Cells)
	}
	shown = min(shown, mostCells)
	v.Later, v.Cells = int64(len(v.Cells)-shown), v.Cells[:shown]
	return v
}

// has is true of a cell that has all of some words in its names.
func (c *CountCell) has(words []string) bool {
	all := strings.ToLower(strings.Join(append([]string{c.Name, c.Mix}, c.Flowers...), " "))
	return !slices.ContainsFunc(words, func(w string) bool { return !strings.Contains(all, w) })
}

func (a *answer) countCell(item count.Item) CountCell {
	r := a.Book.Of(item.Made())
	c := CountCell{Key: item.Key, Gross: item.Gross, FromShelf: item.FromShelf, FromWork: item.FromWork,
		Started: item.Started, Spare: item.Spare, Decided: item.Decided, Late: item.Latest < a.Doc.Now && item.Net > 0,
		Orders: append(
			[]studio.ID{},
			item.Orders...), LatestStart: a.AtWork(item.Latest), Name: r.Name, Form: r.Form, Shape: shapeOf(r),
		Kind: r.Kind, Flowers: a.flowersOf(r)}
	c.Colour, c.Mix = a.swatch(item.Made(), item.Mixes)
	return c
}

func (a *answer) openedCell(key string) (OpenedCell, error) {
	i := slices.IndexFunc(a.Count.Items, func(item count.Item) bool { return item.Key == key })
	if i < 0 || a.Book.Of(a.Count.Items[i].Made()) == nil {
		return OpenedCell{}, store.NotFound{Thing: "this in the count any more"}
	}
	o := OpenedCell{CountCell: a.countCell(a.Count.Items[i]),
		Workings: append([]studio.Working{}, a.Count.Items[i].Workings...), LotList: []studio.Lot{},
		Stock: []studio.ShelfLot{}}
	for _, l := range a.Plan.Lots {
		if l.Key == key {
			l.LatestStart = a.AtWork(l.LatestStart)
			o.LotList = append(o.LotList, l)
		}
	}
	for _, s := range a.Book.NewShelf(a.Doc).Finished(key) {
		o.Stock = append(o.Stock, s.ShelfLot)
	}
	return o, nil
}

// flowersOf names the flowers that need a recipe, through parts.
func (a *answer) flowersOf(r *studio.Recipe) []string {
	if r.Kind != studio.KindPart {
		return []string{r.Name}
	}
	names := []string{}
	for i := range a.Doc.Recipes {
		user := &a.Doc.Recipes[i]
		if slices.ContainsFunc(user.Parts, func(p studio.PartInput) bool { return p.Recipe == r.ID }) {
			for _, name := range a.flowersOf(user) {
				if !slices.Contains(names, name) {
					names = append(names, name)
				}
			}
		}
	}
	return names
}

// shapeOf is how large a piece is cut, rolled or drawn out; nothing of what is not shaped.
func shapeOf(r *studio.Recipe) *studio.Geometry {
	if r.Kind != studio.KindPart || len(r.Pastes) == 0 {
		return nil
	}
	return &r.Pastes[0].Shape
}
