package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// OrderState is an order as it stands in the file: the lead's latest wish, its
// version, and the version that the plan in force is made for (0 for none).
type OrderState struct {
	Order    studio.Order `json:"order"`
	Version  int64        `json:"version"`
	Accepted int64        `json:"accepted"`
}

// Pending is true while the plan in force does not know the latest wish.
func (o OrderState) Pending() bool {
	return o.Version != o.Accepted && (o.Accepted != 0 || o.Order.State == studio.OrderOpen)
}

func nullInt(n int64) sql.NullInt64 { return sql.NullInt64{Int64: n, Valid: n != 0} }

// ofOrder is what of a version of an order no query asks for.
type ofOrder struct {
	Goes  string          `json:"goes,omitempty"`
	Eaten studio.WallTime `json:"eaten,omitzero"`
	Cakes []studio.Cake   `json:"cakes,omitempty"`

	Approvals []studio.Approval `json:"approvals,omitempty"`
	Pictures  []studio.Picture  `json:"pictures,omitempty"`
}

func addOrderVersion(ctx context.Context, q *sqlcgen.Queries, o studio.Order, version int64) error {
	err := q.AddOrderVersion(
		ctx,
		sqlcgen.AddOrderVersionParams{OrderID: string(o.ID), Version: version, Name: o.Name, Occasion: o.Occasion,
			Leaves: o.Leaves.String(), Leaving: o.Leaving, Importance: o.Importance,
			Allergies: asJSON(append([]string{}, o.Allergies...)), State: string(o.State), Quoted: asJSON(o.Quoted),
			Beyond: asJSON(ofOrder{o.Goes, o.Eaten, o.Cakes, o.Approvals, o.Pictures})},
	)
	for i, line := range o.Lines {
		err = errors.Join(
			err,
			q.AddOrderLine(
				ctx,
				sqlcgen.AddOrderLineParams{
					OrderID:         string(o.ID),
					Version:         version,
					Position:        int64(i),
					ID:              string(line.ID),
					RecipeID:        string(line.Recipe),
					ColourwayID:     nullString(string(line.Colourway)),
					Quantity:        line.Quantity,
					ServicePerMille: int64(line.ServiceLevel),
					Variant:         line.Variant,
					Gone:            line.Gone,
				},
			),
		)
	}
	return err
}

func orderAt(ctx context.Context, q *sqlcgen.Queries, id string, version int64) (studio.Order, error) {
	row, err := q.OrderVersion(ctx, sqlcgen.OrderVersionParams{OrderID: id, Version: version})
	if err != nil {
		return studio.Order{}, err
	}
	lines, err := q.OrderLines(ctx, sqlcgen.OrderLinesParams{OrderID: id, Version: version})
	if err != nil {
		return studio.Order{}, err
	}
	return orderOf(row, lines)
}

func orderOf(row sqlcgen.OrderVersion, lines []sqlcgen.OrderLine) (studio.Order, error) {
	leaves, err := studio.ParseWallTime(row.Leaves)
	o := studio.Order{ID: studio.ID(row.OrderID), Name: row.Name, Occasion: row.Occasion,
		Leaves: leaves, Leaving: row.Leaving,
		Importance: row.Importance, State: studio.OrderState(row.State), Lines: []studio.OrderLine{}}
	for _, l := range lines {
		o.Lines = append(
			o.Lines,
			studio.OrderLine{
				ID:           studio.ID(l.ID),
				Recipe:       studio.ID(l.RecipeID),
				Colourway:    studio.ID(l.ColourwayID.String),
				Quantity:     l.Quantity,
				ServiceLevel: studio.PerMille(l.ServicePerMille),
				Variant:      l.Variant,
				Gone:         l.Gone,
			},
		)
	}
	var more ofOrder
	err = errors.Join(err, json.Unmarshal([]byte(row.Allergies), &o.Allergies),
		json.Unmarshal([]byte(row.Quoted), &o.Quoted), json.Unmarshal([]byte(row.Beyond), &more))
	o.Goes, o.Eaten, o.Cakes = more.Goes, more.Eaten, more.Cakes
	o.Approvals, o.Pictures = more.Approvals, more.Pictures
	return o, err
}

// standingOrder is an order as it is wished, and as it is accepted if it is.
type standingOrder struct {
	OrderState
	accepted *studio.Order
}

// revision names a version of an order, which never changes once it is written.
type revision struct {
	id      string
	version int64
}

// fewVersions is how many versions of orders are read one by one; of more, all are.
const fewVersions = 20

// standingOrders reads the orders. Versions that were read before, it takes over; the others
// it reads one by one where they are few, else in two queries, however many they are.
func (a *assembler) standingOrders(from *reuse) {
	heads := rows(a, a.q.OpenOrders)
	known := from.versions()
	var missing []revision
	for _, r := range heads {
		for _, v := range []revision{{id: r.ID, version: r.Version}, {id: r.ID, version: r.AcceptedVersion.Int64}} {
			if _, ok := known[v]; !ok && v.version > 0 {
				missing = append(missing, v)
			}
		}
	}
	if len(missing) > fewVersions {
		a.allVersions(known)
		missing = nil
	}
	for _, v := range missing {
		o, err := orderAt(a.ctx, a.q, v.id, v.version)
		a.err = errors.Join(a.err, err)
		known[v] = o
	}
	clients := map[string]*studio.Client{}
	for _, c := range rows(a, a.q.Clients) {
		clients[c.OrderID] = &studio.Client{Name: c.Name, Contact: c.Contact}
	}
	for _, r := range heads {
		o := standingOrder{
			OrderState: OrderState{
				Order:    known[revision{id: r.ID, version: r.Version}],
				Version:  r.Version,
				Accepted: r.AcceptedVersion.Int64,
			},
		}
		if was, ok := known[revision{id: r.ID, version: r.AcceptedVersion.Int64}]; ok {
			o.accepted = &was
			o.accepted.Client = clients[r.ID]
		}
		o.Order.Client = clients[r.ID]
		a.orders = append(a.orders, o)
	}
}

// versions are those of orders that an earlier snapshot has.
func (r *reuse) versions() map[revision]studio.Order {
	known := map[revision]studio.Order{}
	if r == nil {
		return known
	}
	for _, o := range r.orders {
		known[revision{id: string(o.Order.ID), version: o.Version}] = o.Order
		if o.accepted != nil {
			known[revision{id: string(o.Order.ID), version: o.Accepted}] = *o.accepted
		}
	}
	return known
}

func (a *assembler) allVersions(into map[revision]studio.Order) {
	lines := map[revision][]sqlcgen.OrderLine{}
	for _, l := range rows(a, a.q.StandingLines) {
		v := revision{id: l.OrderID, version: l.Version}
		lines[v] = append(lines[v], l)
	}
	for _, row := range rows(a, a.q.StandingVersions) {
		v := revision{id: row.OrderID, version: row.Version}
		o, err := orderOf(row, lines[v])
		a.err = errors.Join(a.err, err)
		into[v] = o
	}
}

// ordersOf are the orders of a view.
func (a *assembler) ordersOf(view View, d *studio.Document) {
	for _, o := range a.orders {
		switch {
		case view == Wished:
			d.Orders = append(d.Orders, o.Order)
		case o.accepted != nil:
			d.Orders = append(d.Orders, *o.accepted)
		}
	}
}

func orderState(ctx context.Context, q *sqlcgen.Queries, row sqlcgen.CustomerOrder) (OrderState, error) {
	o, err := orderAt(ctx, q, row.ID, row.Version)
	return OrderState{Order: o, Version: row.Version, Accepted: row.AcceptedVersion.Int64}, err
}

// Orders lists the orders that are not closed, as they stand.
func (s *Store) Orders(ctx context.Context) (orders []OrderState, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		a := &assembler{ctx: ctx, q: q}
		a.standingOrders(nil)
		orders = a.orderStates()
		return a.err
	})
	return orders, err
}

func (a *assembler) orderStates() (orders []OrderState) {
	for _, o := range a.orders {
		orders = append(orders, o.OrderState)
	}
	return orders
}

// OrderVersion is an order as it stood at a version.
func (t *Tx) OrderVersion(id studio.ID, version int64) (studio.Order, error) {
	o, err := orderAt(t.ctx, t.q, string(id), version)
	if errors.Is(err, sql.ErrNoRows) {
		return o, NotFound{"the order"}
	}
	return o, err
}

// EnterOrder writes a new order.
func (t *Tx) EnterOrder(o studio.Order) error {
	return t.putOrder(o, nil)
}

// ChangeOrder writes a new version of an order whose version the writer saw.
func (t *Tx) ChangeOrder(o studio.Order, seen int64) error {
	before, err := t.Order(o.ID)
	if err != nil {
		return err
	}
	if before.Version != seen {
		return Stale{Thing: "the order " + before.Order.Name, Seen: seen, Now: before.Version}
	}
	return t.putOrder(o, &before)
}

// HandOver writes, as a fact, what is left of an order once some or all of it has left: no acceptance is
// awaited.
func (t *Tx) HandOver(o studio.Order, seen int64) error {
	before, err := t.Order(o.ID)
	if err != nil {
		return err
	}
	if before.Version != seen {
		return Stale{Thing: "the order " + before.Order.Name, Seen: seen, Now: before.Version}
	}
	after := OrderState{Order: o, Version: before.Version + 1, Accepted: before.Version + 1}
	if err := t.writeOrder(after, &before); err != nil {
		return err
	}
	return addOrderVersion(t.ctx, t.q, after.Order, after.Version)
}

// Order is an order as it stands within the command.
func (t *Tx) Order(id studio.ID) (OrderState, error) {
	row, err := t.q.CustomerOrder(t.ctx, string(id))
	if errors.Is(err, sql.ErrNoRows) {
		return OrderState{}, NotFound{"the order"}
	}
	if err != nil {
		return OrderState{}, err
	}
	return orderState(t.ctx, t.q, row)
}

// AcceptOrders makes every order's latest wish the one the plan in force is for.
func (t *Tx) AcceptOrders() error {
	rows, err := t.q.OpenOrders(t.ctx)
	for _, row := range rows {
		before, e := orderState(t.ctx, t.q, row)
		if err = errors.Join(err, e); err != nil {
			return err
		}
		if before.Accepted != before.Version {
			after := before
			after.Accepted = after.Version
			err = t.writeOrder(after, &before)
		}
	}
	return err
}

func (t *Tx) putOrder(o studio.Order, before *OrderState) error {
	after := OrderState{Order: o, Version: 1}
	if before != nil {
		after.Version, after.Accepted = before.Version+1, before.Accepted
		if !before.Pending() && o.PlannedAs(before.Order) {
			after.Accepted = after.Version
		}
	}
	if err := t.writeOrder(after, before); err != nil {
		return err
	}
	return addOrderVersion(t.ctx, t.q, o, after.Version)
}

func (t *Tx) writeOrder(after OrderState, before *OrderState) error {
	t.touch("order", string(after.Order.ID), before, after)
	return t.q.PutOrder(
		t.ctx,
		sqlcgen.PutOrderParams{
			ID:              string(after.Order.ID),
			Version:         after.Version,
			AcceptedVersion: nullInt(after.Accepted),
			Closed:          closedColumn(after),
		},
	)
}

// Closed is true of an order that has left or is cancelled, when nothing of it awaits
// acceptance: it is no longer part of the document.
func (o OrderState) Closed() bool {
	return (o.Order.State == studio.OrderLeft || o.Order.State == studio.OrderCancelled) && !o.Pending()
}

func closedColumn(o OrderState) int64 {
	if o.Closed() {
		return 1
	}
	return 0
}

// restoreOrder takes an order back to what it was: what was accepted then, and
// as a new version what was wished then. One that did not exist is cancelled.
func (t *Tx) restoreOrder(touched sqlcgen.JournalTouch) error {
	var wanted *OrderState
	if err := json.Unmarshal([]byte(touched.Before), &wanted); err != nil {
		return err
	}
	now, err := t.Order(studio.ID(touched.ID))
	if err != nil {
		return err
	}
	after := now
	if wanted == nil {
		after.Order.State = studio.OrderCancelled
	} else {
		after.Order, after.Accepted = wanted.Order, wanted.Accepted
	}
	if wanted != nil && wanted.Version == now.Version {
		return t.writeOrder(after, &now)
	}
	after.Version++
	if wanted != nil && wanted.Accepted == wanted.Version {
		after.Accepted = after.Version
	}
	if err := t.writeOrder(after, &now); err != nil {
		return err
	}
	return addOrderVersion(t.ctx, t.q, after.Order, after.Version)
}
