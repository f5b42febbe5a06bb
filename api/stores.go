package api

import (
	"context"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/stores"
	"bractum/core/studio"
	"bractum/store"
)

// StoresView is what there is, for whom, and what to buy.
type StoresView struct {
	N         int64                 `json:"n"`
	Now       studio.Minute         `json:"now"`
	Shelf     []StockRow            `json:"shelf"`
	Materials []MaterialRow         `json:"materials"`
	Cut       []CutRow              `json:"cut" doc:"wires that lie cut to a length"`
	Shopping  []ShoppingList        `json:"shopping"`
	Purchases []store.PurchaseState `json:"purchases" doc:"ordered and not all come"`
	Orders    []Named               `json:"orders" doc:"open ones"`
	Suppliers []studio.Supplier     `json:"suppliers"`
}

// StockRow is a shelf lot with names.
type StockRow struct {
	studio.ShelfLot
	Name   string      `json:"name"`
	Form   string      `json:"form"`
	Kind   studio.Kind `json:"kind"`
	Colour string      `json:"colour"`
	Mix    string      `json:"mix"`
	Step   string      `json:"step,omitempty" doc:"the step that half-made pieces have reached"`
	Free   int64       `json:"free"`
}

// MaterialRow is a balance with names.
type MaterialRow struct {
	stores.Balance
	Name string      `json:"name"`
	Unit studio.Unit `json:"unit"`
}

// CutRow is a number of cut wires with the name of their material.
type CutRow struct {
	studio.Offcut
	Name string `json:"name"`
}

// ShoppingList is what to buy from one supplier, with names.
type ShoppingList struct {
	Supplier *studio.Supplier `json:"supplier,omitempty"`
	Buys     []ShoppingLine   `json:"buys"`
	Total    studio.Money     `json:"total,omitempty" doc:"in minor units, where prices are known"`
	Unpriced int              `json:"unpriced,omitempty" doc:"lines without a price"`
}

// ShoppingLine is a line of a shopping list with the things that stand still without it.
type ShoppingLine struct {
	stores.Buy
	Name   string      `json:"name"`
	Unit   studio.Unit `json:"unit"`
	Stands []string    `json:"stands" doc:"the pieces that wait for it"`
	Orders []string    `json:"orders" doc:"the orders those are for"`
}

// StockCounts is what somebody counted.
type StockCounts struct {
	Counts []stores.Counted `json:"counts"`
}

func (s *Service) registerStores(to huma.API) {
	kept(s, to, get("/stores", "get-stores", "What there is and what to buy"),
		shows{topics: []string{"stores", "work", "orders"}, planned: true, now: true},
		func(ctx context.Context, at *moment, _ *none) (StoresView, error) {
			v, err := at.inForce.storesView()
			v.N, v.Now = at.N, at.Now
			v.Purchases = at.Purchases
			return v, err
		})
	type ledger struct {
		PageOfHistory
		Of     string `path:"of"`
		Length int64  `query:"length" doc:"of wires that lie cut, in micrometres"`
	}
	read(to, get("/stores/{of}/ledger", "get-ledger", "A page of the movements of one thing, newest first"),
		func(ctx context.Context, in *ledger) (store.Page[store.Line], error) {
			return s.store.Ledger(ctx, studio.ID(in.Of), studio.Micrometres(in.Length), in.sought())
		})
	type counted struct{ Body StockCounts }
	ask(s, to, post("/stores/differences", "compare-stock", "",
		"What was counted beside the books; nothing is written"),
		func(_ context.Context, at *moment, in *counted) ([]stores.StockDifference, error) {
			return stores.Differences(at.inForce.Doc, in.Body.Counts)
		})
	type mind struct {
		Body struct {
			Line      studio.ID `json:"line"`
			Colourway studio.ID `json:"colourway"`
		}
	}
	beside(s, to, post("/stores/mind", "change-mind", "",
		"What another colour of an order line would cost; nothing is written"),
		func(_ context.Context, at *moment, in *mind) (MindView, error) {
			a := at.latestAnswer()
			m, err := stores.Recolour(a.Doc, in.Body.Line, in.Body.Colourway)
			if err != nil {
				return MindView{}, err
			}
			return a.mindView(m), nil
		})
	s.registerStock(to)
	s.registerPurchases(to)
}

// registerStock are the commands about what lies there.
func (s *Service) registerStock(to huma.API) {
	type taken struct {
		Who
		Body StockCounts
	}
	fact(s, to, post("/stores/count", "take-stock", "stock taken", "Book what was counted"),
		func(c *change, in *taken) (Moved, error) {
			return c.moved(stores.TakeStock(c.at.inForce.Doc, in.Body.Counts))
		})
	type lost struct {
		Who
		Body struct {
			stores.Lost
			Confirmed bool `json:"confirmed,omitempty"`
		}
	}
	fact(s, to, post("/stores/spoil", "spoil-stock", "spoilt", "Book what is thrown away"),
		func(c *change, in *lost) (Moved, error) {
			return c.moved(stores.Spoil(c.at.inForce.Doc, in.Body.Lost, in.Body.Confirmed))
		})
	type got struct {
		Who
		Body stores.Got
	}
	fact(s, to, post("/stores/bought", "buy-material", "bought", "Book what was bought without an order"),
		func(c *change, in *got) (Moved, error) {
			return c.moved(stores.Acquire(c.at.inForce.Doc, in.Body))
		})
	type added struct {
		Who
		Body stores.Added
	}
	fact(s, to, post("/stores/stock", "add-stock", "stock added", "Put on the shelf what is in no book yet"),
		func(c *change, in *added) (Moved, error) {
			return c.moved(stores.Add(c.at.inForce.Doc, in.Body))
		})
	type away struct {
		Who
		Stock string `path:"stock"`
		Body  struct {
			Place string      `json:"place"`
			In    studio.ID   `json:"in,omitempty" doc:"the surroundings in whose air it lies, the room if empty"`
			Kept  studio.Kept `json:"kept,omitempty" doc:"of a mix: board, wrapped or cold"`
		}
	}
	fact(s, to, post("/stock/{stock}/keep", "keep-stock", "put away",
		"Say where a shelf lot lies and how a mix is kept"),
		func(c *change, in *away) (Moved, error) {
			k, err := stores.PutAway(c.at.inForce.Doc, studio.ID(in.Stock), in.Body.Place, in.Body.In, in.Body.Kept)
			if err != nil {
				return Moved{}, err
			}
			c.Summary = k.Summary
			return Moved{c.N()}, c.Keep(studio.ID(in.Stock),
				store.Keeping{Place: k.Place, In: k.In, Kept: k.Kept, UseBy: k.UseBy})
		})
	type cut struct {
		Who
		Body struct {
			Material  studio.ID     `json:"material"`
			Done      []stores.Done `json:"done"`
			Spoilt    int64         `json:"spoilt,omitempty" doc:"full wires of which nothing is left"`
			Confirmed bool          `json:"confirmed,omitempty"`
		}
	}
	fact(s, to, post("/wires/cut", "record-cutting", "wires cut", "Record a cutting as it was done"),
		func(c *change, in *cut) (Moved, error) {
			return c.moved(stores.Cut(c.at.inForce.Doc, in.Body.Material, in.Body.Done, in.Body.Spoilt,
				in.Body.Confirmed))
		})
}

// moved writes a change of the stores, if nothing is against it.
func (c *change) moved(by stores.Change, err error) (Moved, error) {
	if err != nil {
		return Moved{}, err
	}
	c.Summary = by.Summary
	c.Touched(by.About...)
	return Moved{c.N()}, c.Book(studio.WorkLot{}, by.Moved)
}

func (a *answer) supplier(id studio.ID) string {
	if i := slices.IndexFunc(a.Doc.Suppliers, func(s studio.Supplier) bool { return s.ID == id }); i >= 0 {
		return a.Doc.Suppliers[i].Name
	}
	return ""
}

func (a *answer) storesView() (StoresView, error) {
	v := StoresView{Shelf: []StockRow{}, Materials: []MaterialRow{}, Cut: []CutRow{}, Shopping: []ShoppingList{},
		Orders: []Named{}, Suppliers: append([]studio.Supplier{}, a.Doc.Suppliers...)}
	for _, o := range a.Doc.Orders {
		if o.State == studio.OrderOpen {
			v.Orders = append(v.Orders, Named{ID: o.ID, Name: o.Name})
		}
	}
	for _, stock := range a.Book.NewShelf(a.Doc).All() {
		v.Shelf = append(v.Shelf, a.stockRow(stock))
	}
	balances := stores.Balances(a.Doc, a.Takes())
	for i, m := range a.Doc.Materials {
		if m.OutOfUse && balances[i].OnHand == 0 && balances[i].Reserved == 0 {
			continue
		}
		v.Materials = append(v.Materials, MaterialRow{Balance: balances[i], Name: m.Name, Unit: m.Unit})
	}
	for _, o := range a.Doc.Offcuts {
		v.Cut = append(v.Cut, CutRow{Offcut: o, Name: a.material(o.Material)})
	}
	lists, err := stores.Shopping(a.Doc, balances)
	for _, l := range lists {
		list := ShoppingList{Supplier: l.Supplier, Buys: []ShoppingLine{}, Total: l.Total, Unpriced: l.Unpriced}
		for _, b := range l.Buys {
			list.Buys = append(list.Buys, a.shoppingLine(b))
		}
		v.Shopping = append(v.Shopping, list)
	}
	return v, err
}

func (a *answer) stockRow(stock *studio.Stock) StockRow {
	s := stock.ShelfLot
	r := a.Book.Of(s.Made())
	row := StockRow{ShelfLot: s, Name: r.Name, Form: r.Form, Kind: r.Kind, Free: stock.Left.Free()}
	row.Reserved = append([]studio.Claim{}, stock.Left.Reserved...)
	row.Colour, row.Mix = a.swatch(s.Made(), s.Mixes)
	if step, i := r.Step(s.Reached); i >= 0 {
		row.Step = step.Name
	}
	return row
}

func (a *answer) shoppingLine(b stores.Buy) ShoppingLine {
	i := slices.IndexFunc(a.Doc.Materials, func(m studio.Material) bool { return m.ID == b.Material })
	line := ShoppingLine{Buy: b, Name: a.Doc.Materials[i].Name, Unit: a.Doc.Materials[i].Unit, Stands: []string{},
		Orders: []string{}}
	for _, id := range b.Lots {
		l := a.Lots[id]
		if l == nil {
			continue
		}
		if name := a.Book.Of(l.Made()).Name; !slices.Contains(line.Stands, name) {
			line.Stands = append(line.Stands, name)
		}
		for _, claim := range studio.OfOrders(l.For) {
			if name := a.order(claim.Order); !slices.Contains(line.Orders, name) {
				line.Orders = append(line.Orders, name)
			}
		}
	}
	return line
}

func (a *answer) order(id studio.ID) string {
	if i := slices.IndexFunc(a.Doc.Orders, func(o studio.Order) bool { return o.ID == id }); i >= 0 {
		return a.Doc.Orders[i].Name
	}
	return ""
}

// MindView is what a change of mind costs, with names.
type MindView struct {
	Fates []FateRow `json:"fates"`
	Anew  []AnewRow `json:"anew"`
}

// FateRow is what becomes of some pieces, with names.
type FateRow struct {
	stores.Fate
	Name   string      `json:"name"`
	Kind   studio.Kind `json:"kind"`
	Form   string      `json:"form"`
	Colour string      `json:"colour"`
	Mix    string      `json:"mix"`
	To     []string    `json:"to" doc:"the orders that get what is freed"`
}

// AnewRow is what is begun more or less of, with names.
type AnewRow struct {
	stores.Anew
	Name   string      `json:"name"`
	Kind   studio.Kind `json:"kind"`
	Colour string      `json:"colour"`
	Mix    string      `json:"mix"`
}

func (a *answer) mindView(m *stores.Mind) MindView {
	v := MindView{Fates: []FateRow{}, Anew: []AnewRow{}}
	for _, f := range m.Fates {
		made := studio.Made{Recipe: f.Recipe, Variant: f.Variant}
		r := a.Book.Of(made)
		row := FateRow{Fate: f, Name: r.Name, Kind: r.Kind, Form: r.Form, To: []string{}}
		row.Colour, row.Mix = a.swatch(made, f.Mixes)
		for _, c := range f.For {
			row.To = append(row.To, a.order(c.Order))
		}
		v.Fates = append(v.Fates, row)
	}
	for _, n := range m.Anew {
		made := studio.Made{Recipe: n.Recipe, Variant: n.Variant}
		row := AnewRow{Anew: n, Name: a.Book.Of(made).Name, Kind: a.Book.Of(made).Kind}
		row.Colour, row.Mix = a.swatch(made, n.Mixes)
		v.Anew = append(v.Anew, row)
	}
	return v
}
