package api

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"bractum/core/bench"
	"bractum/core/plan"
	"bractum/core/stores"
	"bractum/core/studio"
	"bractum/store"
)

// OrderView is an order with what the plan says of it. A pending one is not in
// the plan in force yet; its outcome is that of the best plan that awaits acceptance.
type OrderView struct {
	Order         studio.Order     `json:"order"`
	Version       int64            `json:"version"`
	Pending       bool             `json:"pending"`
	Outcome       *studio.Outcome  `json:"outcome,omitempty" doc:"nil for a quote or a cancelled order"`
	EarliestLeave *studio.WallTime `json:"earliestLeave,omitempty" doc:"when a late order could leave with its safety span"`
	Limit         *LimitView       `json:"limit,omitempty" doc:"the task its date hangs on"`
	Buys          []OrderBuy       `json:"buys" doc:"what has to be ordered for it"`
	Fell          *FallView        `json:"fell,omitempty" doc:"how it lost slack in the last days"`
	Lines         []LineThere      `json:"lines" doc:"what is still to leave, and could leave now"`
	Met           []AllergyMet     `json:"met" doc:"what its allergies name and its flowers hold"`
	Approvals     []ApprovalView   `json:"approvals" doc:"what its client is to approve before it is mixed"`
	Uncompared    []string         `json:"uncompared" doc:"its allergies that no material and no list names"`
	TasksDone     int64            `json:"tasksDone"`
	TasksAll      int64            `json:"tasksAll"`
	Asks          []Ask            `json:"asks" enum:"late,allergy,accept,approval,lapsed,fell" doc:"why the lead has to look at it, the gravest first"`
}

// Ask is why the lead has to look at an order.
type Ask string

// Why the lead has to look at an order: it is late, its flowers hold what they must not, a change of it awaits
// acceptance, its client's word is waited for, what was said of a quote does not hold any longer, it lost slack.
const (
	AskLate     Ask = "late"
	AskAllergy  Ask = "allergy"
	AskAccept   Ask = "accept"
	AskApproval Ask = "approval"
	AskLapsed   Ask = "lapsed"
	AskFell     Ask = "fell"
)

// asks are why the lead has to look at an order that is seen, today being a day.
func (v *OrderView) asks(today studio.Date) []Ask {
	o, asks := v.Order, []Ask{}
	for _, one := range []struct {
		ask Ask
		is  bool
	}{
		{AskLate, v.Outcome != nil && (v.Outcome.Ready == nil || v.Outcome.Late > 0)},
		{AskAllergy, o.State != studio.OrderCancelled && len(v.Met)+len(v.Uncompared) > 0},
		{AskAccept, v.Pending},
		{AskApproval, o.State == studio.OrderOpen && slices.ContainsFunc(o.Approvals, studio.Approval.Awaited)},
		{AskLapsed, o.State == studio.OrderQuote && o.Quoted != nil && !o.Quoted.Until.IsZero() &&
			o.Quoted.Until.Compare(today) < 0},
		{AskFell, v.Fell != nil},
	} {
		if one.is {
			asks = append(asks, one.ask)
		}
	}
	return asks
}

// LineThere is how many flowers of a line are still to leave, and could leave now.
type LineThere struct {
	Line  studio.ID `json:"line"`
	Name  string    `json:"name"`
	Owed  int64     `json:"owed"`
	There int64     `json:"there"`
}

// OrderBody is an order as it is entered or changed.
type OrderBody struct {
	Name       string            `json:"name" maxLength:"80"`
	Occasion   string            `json:"occasion" maxLength:"200"`
	Leaves     string            `json:"leaves" doc:"local wall time, as 2027-10-02T14:00" maxLength:"16"`
	Leaving    string            `json:"leaving" maxLength:"40"`
	Importance int64             `json:"importance,omitempty" default:"10"`
	Allergies  []string          `json:"allergies,omitempty" maxItems:"20"`
	State      studio.OrderState `json:"state,omitempty" default:"open" enum:"open,quote"`
	Lines      []OrderLineBody   `json:"lines" maxItems:"100"`
	Client     *studio.Client    `json:"client,omitempty" doc:"who asks; nobody if left out"`
	Goes       string            `json:"goes,omitempty" maxLength:"400"`
	Eaten      string            `json:"eaten,omitempty" doc:"local wall time, as leaves" maxLength:"16"`
	Cakes      []studio.Cake     `json:"cakes,omitempty" maxItems:"20"`
	Approvals  []studio.Approval `json:"approvals,omitempty" maxItems:"40"`
	Pictures   []studio.Picture  `json:"pictures,omitempty" maxItems:"40"`
	Quoted     *studio.Quoted    `json:"quoted,omitempty" doc:"what was said of it when it was asked for"`
	Promise    string            `json:"promise,omitempty" maxLength:"36" doc:"the answer that it is entered by: its plan is offered with it, where it is still known"`
}

// OrderLineBody is one line of it. A line keeps its id when it is changed.
type OrderLineBody struct {
	ID           studio.ID       `json:"id,omitempty" format:"uuid"`
	Recipe       studio.ID       `json:"recipe"`
	Variant      string          `json:"variant,omitempty"`
	Colourway    studio.ID       `json:"colourway"`
	Quantity     int64           `json:"quantity"`
	ServiceLevel studio.PerMille `json:"serviceLevelPerMille,omitempty"`
}

// order makes an order of what was entered; problems name the field.
func (b OrderBody) order(id studio.ID, doc *studio.Document) (studio.Order, error) {
	o := studio.Order{
		ID:         id,
		Name:       b.Name,
		Occasion:   b.Occasion,
		Leaving:    b.Leaving,
		Importance: b.Importance,
		Allergies:  b.Allergies,
		State:      b.State,
		Client:     b.Client,
		Goes:       b.Goes,
		Cakes:      b.Cakes,
		Approvals:  b.Approvals,
		Pictures:   b.Pictures,
		Lines:      []studio.OrderLine{},
	}
	var unread studio.Problems
	read := func(field, text string, into *studio.WallTime) {
		if text == "" {
			return
		}
		if err := into.UnmarshalText([]byte(text)); err != nil {
			unread = append(unread, studio.Problem{Place: field, Message: err.Error()})
		}
	}
	read("leaves", b.Leaves, &o.Leaves)
	read("eaten", b.Eaten, &o.Eaten)
	if b.Quoted != nil {
		quoted := *b.Quoted
		quoted.At = cmp.Or(quoted.At, doc.Now)
		o.Quoted = &quoted
	}
	for _, l := range b.Lines {
		if l.ID == "" {
			l.ID = newID()
		}
		if l.ServiceLevel == 0 {
			l.ServiceLevel = doc.Settings.DefaultServiceLevel
		}
		o.Lines = append(o.Lines, studio.OrderLine{
			ID:           l.ID,
			Recipe:       l.Recipe,
			Variant:      l.Variant,
			Colourway:    l.Colourway,
			Quantity:     l.Quantity,
			ServiceLevel: l.ServiceLevel,
			Gone:         goneOf(doc, id, l.ID),
		})
	}
	if problems := append(unread, doc.CheckOrder(o)...); len(problems) > 0 {
		return o, problems
	}
	return o, nil
}

// goneOf is how many of a line of an order have left already.
func goneOf(doc *studio.Document, order, line studio.ID) int64 {
	for _, o := range doc.Orders {
		for _, l := range o.Lines {
			if o.ID == order && l.ID == line {
				return l.Gone
			}
		}
	}
	return 0
}

func newID() studio.ID { return studio.ID(uuid.Must(uuid.NewV7()).String()) }

// Entered is the answer to entering or changing an order.
type Entered struct {
	ID      studio.ID `json:"id"`
	Version int64     `json:"version"`
	N       int64     `json:"n"`
}

func (s *Service) registerOrders(to huma.API) {
	kept(s, to, get("/orders", "list-orders", "Orders that are not over, with what the plan says of each"),
		shows{topics: []string{"orders", "work", "stores"}, planned: true},
		func(ctx context.Context, at *moment, _ *none) ([]OrderView, error) {
			return at.orderViews(), nil
		})
	read(
		to,
		get(
			"/orders/past",
			"list-past-orders",
			"A page of the orders that have left or are cancelled, the latest first",
		),
		func(ctx context.Context, in *PageOfHistory) (store.Page[store.OrderState], error) {
			return s.store.PastOrders(ctx, in.sought())
		},
	)
	type enter struct {
		Who
		Body OrderBody
	}
	fact(s, to, post("/orders", "enter-order", "order entered",
		"Enter an order; it awaits acceptance of the plan it makes"),
		func(c *change, in *enter) (Entered, error) {
			o, err := in.Body.order(s.promisedAs(&in.Body, c.at.latestAnswer().Doc), c.at.inForce.Doc)
			if err != nil {
				return Entered{}, err
			}
			if err := c.knowsPictures(o); err != nil {
				return Entered{}, err
			}
			c.Summary = fmt.Sprintf("Order %q entered", o.Name)
			return Entered{
					ID:      o.ID,
					Version: 1,
					N:       c.N(),
				}, errors.Join(
					c.EnterOrder(o),
					c.SetClient(o.ID, o.Client),
					s.offerPromised(c, o, in.Body.Promise),
				)
		})
	type changing struct {
		Who
		Sees
		ID   string `path:"id"`
		Body OrderBody
	}
	fact(s, to, put("/orders/{id}", "change-order", "order changed", "Change an order whose version was seen"),
		func(c *change, in *changing) (Entered, error) {
			o, err := in.Body.order(studio.ID(in.ID), c.at.inForce.Doc)
			if err != nil {
				return Entered{}, err
			}
			if err := c.knowsPictures(o); err != nil {
				return Entered{}, err
			}
			c.Summary = fmt.Sprintf("Order %q changed", o.Name)
			if err := c.ChangeOrder(o, in.IfMatch); err != nil {
				return Entered{}, c.explainStale(err, o.ID)
			}
			return Entered{ID: o.ID, Version: in.IfMatch + 1, N: c.N()}, errors.Join(c.SetClient(o.ID, o.Client),
				s.offerPromised(c, o, in.Body.Promise))
		})
	type cancel struct {
		Who
		Sees
		ID string `path:"id"`
	}
	fact(s, to, post("/orders/{id}/cancel", "cancel-order", "order cancelled",
		"Cancel an order whose version was seen"),
		func(c *change, in *cancel) (Entered, error) {
			state, err := c.Order(studio.ID(in.ID))
			if err != nil {
				return Entered{}, err
			}
			o := state.Order
			o.State = studio.OrderCancelled
			c.Summary = fmt.Sprintf("Order %q cancelled", o.Name)
			return Entered{ID: o.ID, Version: in.IfMatch + 1, N: c.N()}, c.explainStale(c.ChangeOrder(o, in.IfMatch),
				o.ID)
		})
	type says struct {
		Who
		Sees
		ID       string    `path:"id"`
		Approval studio.ID `path:"approval"`
		Body     struct {
			State studio.ApprovalState `json:"state" enum:"to-make,sent,approved,another"`
			Note  string               `json:"note,omitempty" maxLength:"400"`
		}
	}
	fact(s, to, post("/orders/{id}/approvals/{approval}", "answer-approval", "sample answered",
		"Note how far the client's approval of a mix is; what waits for it follows"),
		func(c *change, in *says) (Entered, error) {
			state, err := c.Order(studio.ID(in.ID))
			if err != nil {
				return Entered{}, err
			}
			o := state.Order
			o.Approvals = slices.Clone(o.Approvals)
			i := slices.IndexFunc(o.Approvals, func(a studio.Approval) bool { return a.ID == in.Approval })
			if i < 0 {
				return Entered{}, huma.Error404NotFound("the order waits for no such approval")
			}
			o.Approvals[i].State, o.Approvals[i].Note = in.Body.State, cmp.Or(in.Body.Note, o.Approvals[i].Note)
			c.Summary = fmt.Sprintf("A sample for %q: %s", o.Name, in.Body.State)
			return Entered{
					ID:      o.ID,
					Version: in.IfMatch + 1,
					N:       c.N(),
				}, c.explainStale(
					c.ChangeOrder(o, in.IfMatch),
					o.ID,
				)
		})
	fact(s, to, post("/orders/{id}/hand-over", "hand-over", "order left",
		"Record that an order has left, with its flowers"),
		func(c *change, in *cancel) (Entered, error) { return c.handOver(studio.ID(in.ID), in.IfMatch, nil) })
	type part struct {
		Who
		Sees
		ID   string `path:"id"`
		Body struct {
			Lines []struct {
				Line     studio.ID `json:"line"`
				Quantity int64     `json:"quantity" minimum:"0"`
			} `json:"lines" minItems:"1" maxItems:"100" doc:"how many of which line leave now"`
		}
	}
	fact(s, to, post("/orders/{id}/hand-over-part", "hand-over-part", "part of an order left",
		"Record that some of an order's flowers have left; the rest is still owed"),
		func(c *change, in *part) (Entered, error) {
			lines := map[studio.ID]int64{}
			for _, l := range in.Body.Lines {
				lines[l.Line] += l.Quantity
			}
			return c.handOver(studio.ID(in.ID), in.IfMatch, lines)
		})
}

// knowsPictures refuses an order with a picture that is not kept.
func (c *change) knowsPictures(o studio.Order) error {
	for _, p := range o.Pictures {
		if err := c.KnowsPicture(p.ID); err != nil {
			return err
		}
	}
	return nil
}

// handOver records that an order has left, or a part of its lines.
func (c *change) handOver(id studio.ID, seen int64, part map[studio.ID]int64) (Entered, error) {
	state, err := c.Order(id)
	if err != nil {
		return Entered{}, err
	}
	if part != nil && state.Pending() {
		return Entered{}, studio.Refuse(
			"%q awaits acceptance; accept its plan, or take the change back, before a part of it leaves",
			state.Order.Name,
		)
	}
	o, moved, err := c.bench().HandOver(state.Order, part)
	if err != nil {
		return Entered{}, err
	}
	c.Summary = fmt.Sprintf("Order %q has left", o.Name)
	if o.State == studio.OrderOpen {
		var gone int64
		for _, l := range o.Lines {
			gone += part[l.ID]
		}
		c.Summary = fmt.Sprintf("%d flowers of order %q have left", gone, o.Name)
	}
	if err := c.HandOver(o, seen); err != nil {
		return Entered{}, c.explainStale(err, id)
	}
	return Entered{ID: id, Version: seen + 1, N: c.N()}, c.Book(studio.WorkLot{}, moved)
}

// explainStale adds to a refused write what somebody else has changed since.
func (c *change) explainStale(err error, id studio.ID) error {
	var stale store.Stale
	if !errors.As(err, &stale) {
		return err
	}
	was, e := c.OrderVersion(id, stale.Seen)
	now, failed := c.Order(id)
	if e != nil || failed != nil {
		return err
	}
	details := []error{staleVersion(stale)}
	changed := func(field string, before, after any) {
		a, _ := json.Marshal(before)
		b, _ := json.Marshal(after)
		if string(a) != string(b) {
			details = append(
				details,
				&huma.ErrorDetail{Location: "body." + field, Message: fmt.Sprintf("was %s", a), Value: after},
			)
		}
	}
	changed("name", was.Name, now.Order.Name)
	changed("occasion", was.Occasion, now.Order.Occasion)
	changed("leaves", was.Leaves, now.Order.Leaves)
	changed("leaving", was.Leaving, now.Order.Leaving)
	changed("importance", was.Importance, now.Order.Importance)
	changed("allergies", was.Allergies, now.Order.Allergies)
	changed("state", was.State, now.Order.State)
	changed("lines", was.Lines, now.Order.Lines)
	changed("goes", was.Goes, now.Order.Goes)
	changed("eaten", was.Eaten, now.Order.Eaten)
	changed("approvals", was.Approvals, now.Order.Approvals)
	changed("cakes", was.Cakes, now.Order.Cakes)
	return huma.Error412PreconditionFailed(stale.Error()+"; nothing of yours was written", details...)
}

// ApprovalView is an approval with the name of its mix, and until when the client's word is in time.
type ApprovalView struct {
	studio.Approval
	Name  string         `json:"name"`
	Until *studio.Minute `json:"until,omitempty" doc:"the latest that its mix may be begun"`
}

func (a *answer) approvals(o studio.Order) []ApprovalView {
	views := []ApprovalView{}
	for _, one := range o.Approvals {
		v := ApprovalView{Approval: one}
		if r := a.Book.Recipe(one.Mix); r != nil {
			v.Name = r.Name
		}
		if latest, waits := a.Plan.ApprovedBy(o.ID, one); waits {
			until := a.AtWork(latest)
			v.Until = &until
		}
		views = append(views, v)
	}
	return views
}

// LimitView is the task that an order's date hangs on.
type LimitView struct {
	ID       studio.ID        `json:"id"`
	Kind     string           `json:"kind" enum:"work,wait"`
	Name     string           `json:"name"`
	Of       string           `json:"of" doc:"the name of what is made"`
	Person   studio.ID        `json:"person,omitempty"`
	State    studio.TaskState `json:"state"`
	Start    studio.Minute    `json:"start"`
	End      studio.Minute    `json:"end"`
	Cause    studio.Cause     `json:"cause,omitempty"`
	CausedBy studio.ID        `json:"causedBy,omitempty"`
	Short    string           `json:"short,omitempty" doc:"the delivery or material it waits for"`
	ToOrder  bool             `json:"toOrder,omitempty" doc:"a material that is not on its way"`
}

// OrderBuy is a material that an order waits for and that has to be ordered.
type OrderBuy struct {
	Material studio.ID      `json:"material"`
	Name     string         `json:"name"`
	Unit     studio.Unit    `json:"unit"`
	Short    int64          `json:"short" doc:"for all orders"`
	Packs    int64          `json:"packs"`
	Supplier studio.ID      `json:"supplier"`
	From     string         `json:"from" doc:"the name of the supplier"`
	OrderBy  *studio.Minute `json:"orderBy,omitempty"`
	Shop     bool           `json:"shop,omitempty" doc:"it takes no orders: somebody goes there"`
	Price    studio.Money   `json:"price,omitempty" doc:"of the packs, at the last price"`
}

// buysByOrder is what has to be ordered for each order.
func (a *answer) buysByOrder() map[studio.ID][]OrderBuy {
	all := map[studio.ID][]OrderBuy{}
	lists, err := stores.Shopping(a.Doc, stores.Balances(a.Doc, a.Takes()))
	if err != nil {
		return all
	}
	for order, needed := range stores.NeededBy(a.Doc, a.Plan, lists) {
		for _, n := range needed {
			all[order] = append(all[order], a.orderBuy(n))
		}
	}
	return all
}

// orderBuy is something to be ordered, with its names.
func (a *answer) orderBuy(n stores.Needed) OrderBuy {
	buy := OrderBuy{Material: n.Material, Short: n.Short, Packs: n.Packs, OrderBy: n.OrderBy, Price: n.Price,
		Name: a.material(n.Material), Supplier: n.Supplier.ID, From: n.Supplier.Name,
		Shop: n.Supplier.Takes == studio.BoughtInShop}
	for _, m := range a.Doc.Materials {
		if m.ID == n.Material {
			buy.Unit = m.Unit
		}
	}
	return buy
}

func (a *answer) limit(t studio.Task) *LimitView {
	r := a.Book.Of(a.Lots[t.Lot].Made())
	step, _, _, _ := r.TaskOf(t.Step)
	v := &LimitView{ID: t.ID, Kind: "wait", Name: step.Name, Of: r.Name, Person: t.Person, State: t.State,
		Start: t.Start, End: t.End, Cause: t.Cause, CausedBy: t.CausedBy}
	if step.Work != nil {
		v.Kind = "work"
	}
	if t.Cause == studio.CauseGate {
		v.Short = a.called(t.CausedBy)
		_, v.ToOrder = studio.Ordered(t.CausedBy)
	}
	return v
}

// workByOrder is how far the work of each order is.
func (a *answer) workByOrder() map[studio.ID]bench.Done {
	return bench.DoneByOrder(a.Plan.Tasks, a.OrdersOf)
}

// orderViews lists orders: open ones by ready-by, then quotes, then the rest.
func (at *moment) orderViews() []OrderView {
	views := []OrderView{}
	_, best := at.bestChoice()
	work := map[*answer]map[studio.ID]bench.Done{at.inForce: at.inForce.workByOrder()}
	buys := map[*answer]map[studio.ID][]OrderBuy{at.inForce: at.inForce.buysByOrder()}
	if best != at.inForce {
		work[best], buys[best] = best.workByOrder(), best.buysByOrder()
	}
	atHand, today := bench.New(at.inForce.Doc, at.inForce.Plan), at.Calendar.Date(at.Now)
	for _, state := range at.Orders {
		v := OrderView{Order: state.Order, Version: state.Version, Pending: state.Pending(), Buys: []OrderBuy{},
			Lines: []LineThere{}}
		v.Approvals = at.latestAnswer().approvals(state.Order)
		v.Met, v.Uncompared = at.latestAnswer().met(state.Order)
		there := atHand.There(state.Order)
		for _, l := range state.Order.Lines {
			name := ""
			if r := at.latestAnswer().Book.Recipe(l.Recipe); r != nil {
				name = r.Name
			}
			v.Lines = append(v.Lines, LineThere{Line: l.ID, Name: name, Owed: l.Owed(), There: there[l.ID]})
		}
		from := at.inForce
		if v.Pending {
			from = best
		}
		if i := slices.IndexFunc(from.Plan.Orders,
			func(o studio.Outcome) bool { return o.Order == state.Order.ID }); i >= 0 {
			outcome := from.Plan.Orders[i]
			v.Outcome = &outcome
			if leave, ok := plan.EarliestLeave(from.Doc, at.Calendar, outcome); ok && outcome.Late > 0 {
				v.EarliestLeave = &leave
			}
			if limit := from.Tasks[outcome.Limit]; limit != nil {
				v.Limit = from.limit(*limit)
			}
			v.Fell = at.fell(outcome)
			v.Buys = append(v.Buys, buys[from][state.Order.ID]...)
			done := work[from][state.Order.ID]
			v.TasksDone, v.TasksAll = done.Done, done.Of
		}
		v.Asks = v.asks(today)
		views = append(views, v)
	}
	states := []studio.OrderState{studio.OrderOpen, studio.OrderQuote, studio.OrderLeft, studio.OrderCancelled}
	slices.SortFunc(views, func(a, b OrderView) int {
		return cmp.Or(cmp.Compare(slices.Index(states, a.Order.State), slices.Index(states, b.Order.State)),
			a.Order.Leaves.Compare(b.Order.Leaves), cmp.Compare(a.Order.ID, b.Order.ID))
	})
	return views
}
