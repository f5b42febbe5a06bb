package api

import (
	"context"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/stores"
	"bractum/core/studio"
	"bractum/outside"
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
	get(to, "/stores", "get-stores", "What there is and what to buy", func(ctx context.Context, _ *nothing) (StoresView, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return StoresView{}, err
		}
		v, err := at.inForce.storesView()
		v.N, v.Now = at.n, at.now
		if err == nil {
			v.Purchases, err = s.store.OpenPurchases(ctx)
		}
		return v, err
	})
	type ledger struct {
		Of     string `path:"of"`
		Length int64  `query:"length" doc:"of wires that lie cut, in micrometres"`
	}
	get(to, "/stores/{of}/ledger", "get-ledger", "The latest movements of one thing", func(ctx context.Context, in *ledger) ([]store.Line, error) {
		lines, err := s.store.Ledger(ctx, studio.ID(in.Of), studio.Micrometres(in.Length))
		return append([]store.Line{}, lines...), err
	})
	type counted struct{ Body StockCounts }
	command(to, http.MethodPost, "/stores/differences", "compare-stock", "What was counted beside the books; nothing is written", func(ctx context.Context, in *counted) ([]stores.StockDifference, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return nil, err
		}
		return stores.Differences(at.inForce.doc, in.Body.Counts)
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
	command(to, http.MethodPost, "/stores/count", "take-stock", "Book what was counted", func(ctx context.Context, in *taken) (Moved, error) {
		return s.move(ctx, in.Who, "stock taken", func(a *answer) (stores.Change, error) { return stores.TakeStock(a.doc, in.Body.Counts) })
	})
	type lost struct {
		Who
		Body struct {
			stores.Lost
			Confirmed bool `json:"confirmed,omitempty"`
		}
	}
	command(to, http.MethodPost, "/stores/spoil", "spoil-stock", "Book what is thrown away", func(ctx context.Context, in *lost) (Moved, error) {
		return s.move(ctx, in.Who, "spoilt", func(a *answer) (stores.Change, error) { return stores.Spoil(a.doc, in.Body.Lost, in.Body.Confirmed) })
	})
	type added struct {
		Who
		Body stores.Added
	}
	command(to, http.MethodPost, "/stores/stock", "add-stock", "Put on the shelf what is in no book yet", func(ctx context.Context, in *added) (Moved, error) {
		return s.move(ctx, in.Who, "stock added", func(a *answer) (stores.Change, error) { return stores.Add(a.doc, in.Body) })
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
	command(to, http.MethodPost, "/stock/{stock}/keep", "keep-stock", "Say where a shelf lot lies and how a mix is kept", func(ctx context.Context, in *away) (Moved, error) {
		return facts(ctx, s, func(at *situation) (Moved, error) {
			done, err := s.do(ctx, in.Who, "put away", func(tx *store.Tx) (any, error) {
				k, err := stores.PutAway(at.inForce.doc, studio.ID(in.Stock), in.Body.Place, in.Body.In, in.Body.Kept)
				if err != nil {
					return nil, err
				}
				tx.Summary = k.Summary
				return Moved{}, tx.Keep(studio.ID(in.Stock), store.Keeping{Place: k.Place, In: k.In, Kept: k.Kept, UseBy: k.UseBy})
			})
			return Moved{done.N}, err
		})
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
	command(to, http.MethodPost, "/wires/cut", "record-cutting", "Record a cutting as it was done", func(ctx context.Context, in *cut) (Moved, error) {
		return s.move(ctx, in.Who, "wires cut", func(a *answer) (stores.Change, error) {
			return stores.Cut(a.doc, in.Body.Material, in.Body.Done, in.Body.Spoilt, in.Body.Confirmed)
		})
	})
	type mind struct {
		Body struct {
			Line      studio.ID `json:"line"`
			Colourway studio.ID `json:"colourway"`
		}
	}
	command(to, http.MethodPost, "/stores/mind", "change-mind", "What another colour of an order line would cost; nothing is written", func(ctx context.Context, in *mind) (MindView, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return MindView{}, err
		}
		a := at.latestAnswer()
		m, err := stores.Recolour(a.doc, in.Body.Line, in.Body.Colourway)
		if err != nil {
			return MindView{}, err
		}
		return a.mindView(m), nil
	})
}

// move runs a change of the stores as one command, anew while others are quicker.
func (s *Service) move(ctx context.Context, who Who, kind string, change func(*answer) (stores.Change, error)) (Moved, error) {
	return facts(ctx, s, func(at *situation) (Moved, error) {
		done, err := s.do(ctx, who, kind, func(tx *store.Tx) (any, error) {
			if err := at.unchanged(tx); err != nil {
				return nil, err
			}
			c, err := change(at.inForce)
			if err != nil {
				return nil, err
			}
			tx.Summary = c.Summary
			tx.Touched(c.About...)
			return Moved{}, tx.Book(studio.WorkLot{}, c.Moved)
		})
		return Moved{done.N}, err
	})
}

func (s *Service) registerPurchases(to huma.API) {
	type purchasing struct {
		Who
		Body struct {
			Supplier studio.ID           `json:"supplier"`
			Packs    map[studio.ID]int64 `json:"packs" doc:"by material"`
		}
	}
	command(to, http.MethodPost, "/purchases", "order-purchase", "Order from a supplier", func(ctx context.Context, in *purchasing) (Moved, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return Moved{}, err
		}
		p, err := stores.Order(at.inForce.doc, in.Body.Supplier, in.Body.Packs, newID)
		if err != nil {
			return Moved{}, err
		}
		done, err := s.do(ctx, in.Who, "purchase ordered", func(tx *store.Tx) (any, error) {
			tx.Summary = fmt.Sprintf("Ordered from %s: %d lines", at.inForce.supplier(p.Supplier), len(p.Lines))
			return Moved{}, tx.PutPurchase(p, 0)
		})
		if err != nil || done.Repeated || s.out.Supplier == nil {
			return Moved{done.N}, err
		}
		return s.send(ctx, Who{newCommand(), in.Person}, p, 1)
	})
	type sending struct {
		Who
		Sees
		ID string `path:"id"`
	}
	command(to, http.MethodPost, "/purchases/{id}/send", "send-purchase", "Send an order again that was not confirmed", func(ctx context.Context, in *sending) (Moved, error) {
		if s.out.Supplier == nil {
			return Moved{}, outside.Trouble{Message: "No order desk is connected; call the supplier, and book in what comes."}
		}
		open, err := s.store.OpenPurchases(ctx)
		if err != nil {
			return Moved{}, err
		}
		for _, state := range open {
			if state.Purchase.ID == studio.ID(in.ID) {
				return s.send(ctx, in.Who, state.Purchase, in.IfMatch)
			}
		}
		return Moved{}, store.NotFound{Thing: "the purchase"}
	})
	type goods struct {
		Who
		Sees
		ID   string `path:"id"`
		Body struct {
			Came []stores.Arrived `json:"came"`
		}
	}
	command(to, http.MethodPost, "/purchases/{id}/arrived", "goods-in", "Book what a supplier brought", func(ctx context.Context, in *goods) (Moved, error) {
		return facts(ctx, s, func(at *situation) (Moved, error) {
			done, err := s.do(ctx, in.Who, "goods in", func(tx *store.Tx) (any, error) {
				was, err := tx.Purchase(studio.ID(in.ID))
				if err != nil {
					return nil, err
				}
				p, c, err := stores.GoodsIn(at.inForce.doc, was.Purchase, in.Body.Came)
				if err != nil {
					return nil, err
				}
				if err := tx.PutPurchase(p, in.IfMatch); err != nil {
					return nil, err
				}
				tx.Summary = c.Summary
				tx.Touched(c.About...)
				return Moved{}, tx.Book(studio.WorkLot{}, c.Moved)
			})
			return Moved{done.N}, err
		})
	})
}

// send has the supplier confirm an order that is kept already, and keeps what it said.
func (s *Service) send(ctx context.Context, who Who, p studio.Purchase, seen int64) (Moved, error) {
	at, err := s.situation(ctx)
	if err != nil {
		return Moved{}, err
	}
	order := outside.PurchaseOrder{Reference: string(p.ID), Supplier: at.inForce.supplier(p.Supplier), Ordered: at.calendar.Wall(p.Ordered), Expected: at.calendar.Wall(p.Expected)}
	for _, l := range p.Lines {
		order.Lines = append(order.Lines, outside.PurchaseLine{Line: string(l.ID), Article: at.inForce.material(l.Material), Packs: l.Packs})
	}
	said, err := s.out.Supplier.Order(ctx, order)
	if err != nil {
		return Moved{}, err
	}
	p.Lines = slices.Clone(p.Lines)
	promised := map[string]int64{}
	for _, l := range said.Lines {
		promised[l.Line] = l.Packs
	}
	if err := stores.Confirm(&p, promised, at.calendar, said.Expected, said.Said); err != nil {
		return Moved{}, err
	}
	done, err := s.do(ctx, who, "purchase confirmed", func(tx *store.Tx) (any, error) {
		tx.Summary = fmt.Sprintf("%s confirms: %s", at.inForce.supplier(p.Supplier), said.Said)
		return Moved{}, tx.PutPurchase(p, seen)
	})
	return Moved{done.N}, err
}

// newCommand is the id of a command that follows from another.
func newCommand() string { return string(newID()) }

func (a *answer) supplier(id studio.ID) string {
	if i := slices.IndexFunc(a.doc.Suppliers, func(s studio.Supplier) bool { return s.ID == id }); i >= 0 {
		return a.doc.Suppliers[i].Name
	}
	return ""
}

func (a *answer) storesView() (StoresView, error) {
	v := StoresView{Shelf: []StockRow{}, Materials: []MaterialRow{}, Cut: []CutRow{}, Shopping: []ShoppingList{}, Orders: []Named{}, Suppliers: append([]studio.Supplier{}, a.doc.Suppliers...)}
	for _, o := range a.doc.Orders {
		if o.State == studio.OrderOpen {
			v.Orders = append(v.Orders, Named{ID: o.ID, Name: o.Name})
		}
	}
	for _, stock := range a.book.NewShelf(a.doc).All() {
		v.Shelf = append(v.Shelf, a.stockRow(stock))
	}
	balances := stores.Balances(a.doc, a.plan)
	for i, m := range a.doc.Materials {
		v.Materials = append(v.Materials, MaterialRow{balances[i], m.Name, m.Unit})
	}
	for _, o := range a.doc.Offcuts {
		v.Cut = append(v.Cut, CutRow{o, a.material(o.Material)})
	}
	lists, err := stores.Shopping(a.doc, balances)
	for _, l := range lists {
		list := ShoppingList{Supplier: l.Supplier, Buys: []ShoppingLine{}}
		for _, b := range l.Buys {
			list.Buys = append(list.Buys, a.shoppingLine(b))
		}
		v.Shopping = append(v.Shopping, list)
	}
	return v, err
}

func (a *answer) stockRow(stock *studio.Stock) StockRow {
	s := stock.ShelfLot
	r := a.book.Of(s.Made())
	row := StockRow{ShelfLot: s, Name: r.Name, Form: r.Form, Kind: r.Kind, Free: stock.Left.Free()}
	row.Reserved = append([]studio.Claim{}, stock.Left.Reserved...)
	row.Colour, row.Mix = a.swatch(s.Made(), s.Mixes)
	if step, i := r.Step(s.Reached); i >= 0 {
		row.Step = step.Name
	}
	return row
}

func (a *answer) shoppingLine(b stores.Buy) ShoppingLine {
	i := slices.IndexFunc(a.doc.Materials, func(m studio.Material) bool { return m.ID == b.Material })
	line := ShoppingLine{Buy: b, Name: a.doc.Materials[i].Name, Unit: a.doc.Materials[i].Unit, Stands: []string{}, Orders: []string{}}
	for _, l := range a.plan.Lots {
		if !slices.Contains(b.Lots, l.ID) {
			continue
		}
		if name := a.book.Of(l.Made()).Name; !slices.Contains(line.Stands, name) {
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
	if i := slices.IndexFunc(a.doc.Orders, func(o studio.Order) bool { return o.ID == id }); i >= 0 {
		return a.doc.Orders[i].Name
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
		r := a.book.Of(made)
		row := FateRow{Fate: f, Name: r.Name, Kind: r.Kind, Form: r.Form, To: []string{}}
		row.Colour, row.Mix = a.swatch(made, f.Mixes)
		for _, c := range f.For {
			row.To = append(row.To, a.order(c.Order))
		}
		v.Fates = append(v.Fates, row)
	}
	for _, n := range m.Anew {
		made := studio.Made{Recipe: n.Recipe, Variant: n.Variant}
		row := AnewRow{Anew: n, Name: a.book.Of(made).Name, Kind: a.book.Of(made).Kind}
		row.Colour, row.Mix = a.swatch(made, n.Mixes)
		v.Anew = append(v.Anew, row)
	}
	return v
}
