package api

import (
	"context"
	"fmt"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/stores"
	"bractum/core/studio"
	"bractum/outside"
	"bractum/store"
)

func (s *Service) registerPurchases(to huma.API) {
	type purchasing struct {
		Who
		Body struct {
			Supplier studio.ID           `json:"supplier"`
			Packs    map[studio.ID]int64 `json:"packs" doc:"by material"`
		}
	}
	fact(s, to, post("/purchases", "order-purchase", "purchase ordered", "Order from a supplier"),
		func(c *change, in *purchasing) (Moved, error) {
			p, err := stores.Order(c.at.inForce.Doc, in.Body.Supplier, in.Body.Packs, newID)
			if err != nil {
				return Moved{}, err
			}
			c.Summary = fmt.Sprintf("Ordered from %s: %d lines", c.at.inForce.supplier(p.Supplier), len(p.Lines))
			if s.desk(c.at, p.Supplier) != nil {
				at := c.at
				c.after = func(ctx context.Context) error {
					write, err := s.send(ctx, at, p, 1)
					if err != nil {
						return err
					}
					_, err = s.carryOut(ctx, confirmed, Who{CommandID: newCommand(), Person: in.Person},
						func(c *change) (any, error) { return write(c) })
					return err
				}
			}
			return Moved{c.N()}, c.PutPurchase(p, 0)
		})
	type sending struct {
		Who
		Sees
		ID string `path:"id"`
	}
	errand(s, to, post("/purchases/{id}/send", "send-purchase", confirmed,
		"Send an order again that was not confirmed"),
		func(ctx context.Context, at *moment, in *sending) (func(*change) (Moved, error), error) {
			for _, state := range at.Purchases {
				if state.Purchase.ID == studio.ID(in.ID) {
					return s.send(ctx, at, state.Purchase, in.IfMatch)
				}
			}
			return nil, store.NotFound{Thing: "the purchase"}
		})
	type told struct {
		Who
		Sees
		ID   string `path:"id"`
		Body struct {
			Expected studio.WallTime     `json:"expected"`
			Said     string              `json:"said,omitempty" maxLength:"300"`
			Promised map[studio.ID]int64 `json:"promised" doc:"packs by line"`
		}
	}
	fact(s, to, post("/purchases/{id}/confirmed", "confirm-purchase", confirmed,
		"Keep what a supplier has said of an order that somebody sent by hand"),
		func(c *change, in *told) (Moved, error) {
			was, err := c.Purchase(studio.ID(in.ID))
			if err != nil {
				return Moved{}, err
			}
			p := was.Purchase
			p.Lines = slices.Clone(p.Lines)
			promised := map[string]int64{}
			for id, packs := range in.Body.Promised {
				promised[string(id)] = packs
			}
			err = stores.Confirm(&p, promised, c.at.Calendar, in.Body.Expected.String(), in.Body.Said)
			if err != nil {
				return Moved{}, err
			}
			c.Summary = c.at.inForce.supplier(p.Supplier) + " has confirmed"
			return Moved{c.N()}, c.PutPurchase(p, in.IfMatch)
		})
	type which struct {
		ID string `path:"id"`
	}
	download(s, to, get("/purchases/{id}/order.csv", "get-purchase-order", "An order as a table, to send it by hand"),
		func(_ context.Context, at *moment, in *which) (*file, error) {
			for _, state := range at.Purchases {
				if state.Purchase.ID == studio.ID(in.ID) {
					table, err := at.orderOf(state.Purchase).CSV()
					return &file{ContentType: "text/csv; charset=utf-8", Body: table,
						Disposition: `attachment; filename="order.csv"`}, err
				}
			}
			return nil, store.NotFound{Thing: "the purchase"}
		})
	type goods struct {
		Who
		Sees
		ID   string `path:"id"`
		Body struct {
			Came []stores.Arrived `json:"came"`
		}
	}
	fact(s, to, post("/purchases/{id}/arrived", "goods-in", "goods in", "Book what a supplier brought"),
		func(c *change, in *goods) (Moved, error) {
			was, err := c.Purchase(studio.ID(in.ID))
			if err != nil {
				return Moved{}, err
			}
			p, came, err := stores.GoodsIn(c.at.inForce.Doc, was.Purchase, in.Body.Came)
			if err != nil {
				return Moved{}, err
			}
			if err := c.PutPurchase(p, in.IfMatch); err != nil {
				return Moved{}, err
			}
			return c.moved(came, nil)
		})
}

// confirmed is how the journal names that a supplier confirms an order.
const confirmed = "purchase confirmed"

// send has the supplier confirm an order that is kept already; what it said is to be written.
func (s *Service) send(
	ctx context.Context,
	at *moment,
	p studio.Purchase,
	seen int64,
) (func(*change) (Moved, error), error) {
	order := at.orderOf(p)
	desk := s.desk(at, p.Supplier)
	if desk == nil {
		return nil, outside.Say("No order desk is connected; call the supplier, and book in what comes.")
	}
	said, err := desk.Order(ctx, order)
	if err != nil {
		return nil, err
	}
	p.Lines = slices.Clone(p.Lines)
	promised := map[string]int64{}
	for _, l := range said.Lines {
		promised[l.Line] = l.Packs
	}
	if err := stores.Confirm(&p, promised, at.Calendar, said.Expected, said.Said); err != nil {
		return nil, err
	}
	return func(c *change) (Moved, error) {
		c.Summary = fmt.Sprintf("%s confirms: %s", at.inForce.supplier(p.Supplier), said.Said)
		return Moved{c.N()}, c.PutPurchase(p, seen)
	}, nil
}

// orderOf is a purchase as it is sent.
func (at *moment) orderOf(p studio.Purchase) outside.PurchaseOrder {
	order := outside.PurchaseOrder{Reference: string(p.ID), Supplier: at.inForce.supplier(p.Supplier),
		Ordered: at.Calendar.Wall(p.Ordered), Expected: at.Calendar.Wall(p.Expected)}
	for _, l := range p.Lines {
		order.Lines = append(
			order.Lines,
			outside.PurchaseLine{Line: string(l.ID), Article: at.inForce.material(l.Material), Packs: l.Packs},
		)
	}
	return order
}

// newCommand is the id of a command that follows from another.
func newCommand() string { return string(newID()) }
