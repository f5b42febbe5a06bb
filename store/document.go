package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"slices"
	"sync"
	"time"

	"bractum/core/climate"
	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// View says whose orders a document holds: those the plan in force is made for,
// or all as the lead wishes them now.
type View int

// The two views of a studio.
const (
	Accepted View = iota
	Wished
)

// Clock gives now from the calendar and the minute at which the studio's clock stands, if
// it does.
type Clock func(calendar studio.Calendar, standing *studio.Minute) studio.Minute

// Document assembles the studio at its latest journal number.
func (s *Store) Document(ctx context.Context, view View, clock Clock) (doc *studio.Document, n int64, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		if n, err = q.LastN(ctx); err != nil {
			return err
		}
		doc, err = s.document(ctx, q, view, clock)
		return err
	})
	return doc, n, err
}

// Document is the studio as it stands within the command.
func (t *Tx) Document(view View) (*studio.Document, error) {
	return t.store.document(t.ctx, t.q, view, func(studio.Calendar, *studio.Minute) studio.Minute { return t.now })
}

// LastN is the latest journal number, and the minute at which the clock stands
// if it does. ErrEmpty if nothing was ever written.
func (s *Store) LastN(ctx context.Context) (n int64, calendar studio.Calendar, standing *studio.Minute, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		if n, err = q.LastN(ctx); err != nil {
			return err
		}
		row, err := q.Studio(ctx)
		if errors.Is(err, sql.ErrNoRows) {
			return ErrEmpty
		}
		if err != nil {
			return err
		}
		calendar, standing, err = clockOf(row)
		return err
	})
	return n, calendar, standing, err
}

// LastMinute is the latest minute at which anything was written, zero if nothing was.
func (s *Store) LastMinute(ctx context.Context) (at studio.Minute, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		minute, err := q.LastMinute(ctx)
		at = studio.Minute(minute)
		return err
	})
	return at, err
}

func clockOf(row sqlcgen.StudioRow) (studio.Calendar, *studio.Minute, error) {
	epoch, err := time.Parse(time.RFC3339, row.Epoch)
	if err != nil {
		return studio.Calendar{}, nil, err
	}
	calendar, err := studio.NewCalendar(epoch, row.Zone)
	if row.StandingMinute.Valid {
		standing := studio.Minute(row.StandingMinute.Int64)
		return calendar, &standing, err
	}
	return calendar, nil, err
}

// document assembles one view of the studio.
func (s *Store) document(ctx context.Context, q *sqlcgen.Queries, view View, clock Clock) (*studio.Document, error) {
	a, _, err := s.assemble(ctx, q, clock, nil)
	if err != nil {
		return nil, err
	}
	doc := a.seen(view)
	return doc, a.err
}

// assemble reads all that the views of a studio share, and what they differ in. What the
// reuse has of before, and nobody has written to since, it takes from there.
func (s *Store) assemble(
	ctx context.Context,
	q *sqlcgen.Queries,
	clock Clock,
	from *reuse,
) (*assembler, sqlcgen.StudioRow, error) {
	row, err := q.Studio(ctx)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, row, ErrEmpty
	}
	if err != nil {
		return nil, row, err
	}
	calendar, standing, err := clockOf(row)
	if err != nil {
		return nil, row, err
	}
	doc := &studio.Document{
		Format:   studio.Format,
		Version:  studio.Version,
		Name:     row.Name,
		Zone:     row.Zone,
		Now:      clock(calendar, standing),
		Settings: studio.DefaultSettings(),
	}
	doc.Epoch, err = time.Parse(time.RFC3339, row.Epoch)
	a := &assembler{ctx: ctx, q: q, known: &s.recipes, doc: doc,
		err: errors.Join(err, json.Unmarshal([]byte(row.Settings), &doc.Settings))}
	var kept brought
	var air climate.Air
	a.decode(row.Brought, &kept)
	a.decode(row.Air, &air)
	doc.Readings, doc.Seen = kept.Readings, kept.Seen
	if from.has("book") {
		a.equipment = from.equipment
	} else {
		a.equipment = a.allEquipment()
	}
	a.equipment.into(doc)
	a.climate()
	air.Into(doc)
	if from.has("air") {
		doc.Sensors = from.doc.Sensors
	} else {
		a.sensors()
	}
	if from.has("standards") {
		doc.People = from.doc.People
	} else {
		a.people()
	}
	if from.has("book") {
		doc.Recipes, doc.Colourways = from.doc.Recipes, from.doc.Colourways
	} else {
		a.book()
	}
	if from.has("book", "standards", "work", "stores") {
		doc.Materials, doc.DryingClasses, doc.Places = from.doc.Materials, from.doc.DryingClasses, from.doc.Places
		doc.Suppliers, doc.Gates = from.doc.Suppliers, from.doc.Gates
		doc.Ordinals, doc.Offcuts, doc.Shelf, doc.Work, doc.Recorded = from.doc.Ordinals, from.doc.Offcuts, from.doc.Shelf, from.doc.Work, from.doc.Recorded
	} else {
		a.supplies()
		a.purchases()
		a.facts()
	}
	if from.has("orders") {
		a.orders = from.orders
	} else {
		a.standingOrders(from)
	}
	if from.has("timers") {
		a.timers = from.timers
	} else {
		for _, r := range rows(a, a.q.Timers) {
			a.timers = append(a.timers, timerOf(r))
		}
	}
	if from.has("wishes") {
		a.wished = from.wished
	} else {
		a.wished = rows(a, a.q.Wishes)
	}
	return a, row, a.err
}

// reuse is what was read for an earlier snapshot, and the topics that something was written
// about since.
type reuse struct {
	*assembler
	since []string
}

// has is true where nothing was written about some topics since; never of no reuse.
func (r *reuse) has(topics ...string) bool {
	return r != nil && !slices.ContainsFunc(topics, func(topic string) bool { return slices.Contains(r.since, topic) })
}

// seen is the document as a view has it; what views share, they share.
func (a *assembler) seen(view View) *studio.Document {
	doc := *a.doc
	a.ordersOf(view, &doc)
	a.wishesOf(view, &doc)
	return &doc
}

// brought is what a studio has of the document that it began with, and of nowhere else.
type brought struct {
	Readings []studio.Reading `json:"readings,omitempty"`
	Seen     []studio.Seen    `json:"seen,omitempty"`
}

// ofPerson is what of a person lies beyond skills, weekly hours and days away.
type ofPerson struct {
	Shifts         []studio.Span           `json:"shifts,omitempty"`
	Overtime       []studio.DayHours       `json:"overtime,omitempty"`
	OvertimeShifts []studio.Span           `json:"overtimeShifts,omitempty"`
	Colours        map[studio.ID]studio.ID `json:"colours,omitempty"`
	AwayTimes      []studio.Span           `json:"awayTimes,omitempty"`
	Rate           studio.Money            `json:"rate,omitempty"`
	OutOfUse       bool                    `json:"outOfUse,omitempty"`
}

// ofMaterial is what of a material no query asks for.
type ofMaterial struct {
	Price     studio.Money `json:"price,omitempty"`
	Allergens []string     `json:"allergens,omitempty"`
	Food      studio.Food  `json:"food,omitempty"`
	Label     string       `json:"label,omitempty"`

	Holder *studio.Holder `json:"holder,omitempty"`
	Box    *studio.Box    `json:"box,omitempty"`
}

// assembler reads one table after the other into a document until one fails.
type assembler struct {
	ctx    context.Context
	q      *sqlcgen.Queries
	known  *sync.Map // recipes that were read before, by id
	doc    *studio.Document
	orders []standingOrder
	timers []Timer
	wished []sqlcgen.Wish

	equipment equipment // as it is kept; in the document it has the air
	err       error
}

// rows reads one table unless an earlier one failed.
func rows[T any](a *assembler, query func(context.Context) ([]T, error)) []T {
	if a.err != nil {
		return nil
	}
	found, err := query(a.ctx)
	a.err = err
	return found
}

func (a *assembler) decode(text string, into any) {
	a.err = errors.Join(a.err, json.Unmarshal([]byte(text), into))
}

// climate is the standing profile of the room.
func (a *assembler) climate() {
	for _, r := range rows(a, a.q.Climate) {
		a.doc.Climate = append(
			a.doc.Climate,
			studio.Air{TenthsCelsius: r.TenthsCelsius, HumidityPerMille: studio.PerMille(r.HumidityPerMille)},
		)
	}
}

func (a *assembler) supplies() {
	d := a.doc
	for _, r := range rows(a, a.q.Materials) {
		var more ofMaterial
		a.decode(r.Beyond, &more)
		m := studio.Material{
			ID:          studio.ID(r.ID),
			Name:        r.Name,
			Unit:        studio.Unit(r.Unit),
			OnHand:      r.OnHand,
			Form:        r.Form,
			Supplier:    studio.ID(r.SupplierID),
			Pack:        r.Pack,
			KeepAtLeast: r.KeepAtLeast,
			Price:       more.Price,
			Allergens:   more.Allergens,
			Food:        more.Food,
			Label:       more.Label,
			Holder:      more.Holder,
			Box:         more.Box,
			OutOfUse:    r.OutOfUse == 1,
		}
		a.decode(r.Wire, &m.Wire)
		d.Materials = append(d.Materials, m)
	}
	a.classes()
	for _, r := range rows(a, a.q.Places) {
		d.Places = append(
			d.Places,
			studio.Place{
				ID:           studio.ID(r.ID),
				Name:         r.Name,
				Slots:        r.Slots,
				KeepsMinutes: studio.Minute(r.KeepsMinutes),
				In:           studio.ID(r.Surroundings),
				MadeBy:       studio.ID(r.MadeBy),
				Size:         studio.Micrometres(r.SizeUm),
				OutOfUse:     r.OutOfUse == 1,
			},
		)
	}
}

func (a *assembler) classes() {
	d := a.doc
	for _, r := range rows(a, a.q.DryingClasses) {
		d.DryingClasses = append(
			d.DryingClasses,
			studio.DryingClass{ID: studio.ID(r.ID), Name: r.Name, FirmMinutes: r.FirmMinutes, DryMinutes: r.DryMinutes,
				Thickness: studio.Micrometres(
					r.ThicknessUm,
				), Spread: studio.PerMille(r.SpreadPerMille), StallHumidity: studio.PerMille(r.StallHumidityPerMille),
				StiffMinutes: r.StiffMinutes, SoftensMinutes: studio.Minute(r.SoftensMinutes),
				Percentile: r.Percentile},
		)
	}
}

// purchases reads what was ordered and has not all come; what is outstanding is a delivery
// that lots may wait for.
func (a *assembler) purchases() {
	d := a.doc
	suppliers := map[studio.ID]string{}
	a.suppliers()
	for _, s := range d.Suppliers {
		suppliers[s.ID] = s.Name
	}
	materials := map[studio.ID]string{}
	for _, m := range d.Materials {
		materials[m.ID] = m.Name
	}
	for _, r := range rows(a, a.q.Purchases) {
		var p studio.Purchase
		a.decode(r.Body, &p)
		if p.State == studio.PurchaseSent || p.State == studio.PurchaseConfirmed {
			d.Gates = append(
				d.Gates,
				p.Gates(
					func(id studio.ID) string { return suppliers[id] },
					func(id studio.ID) string { return materials[id] },
				)...)
		}
	}
}

func (a *assembler) people() {
	at := map[string]int{}
	for i, r := range rows(a, a.q.People) {
		at[r.ID] = i
		var more ofPerson
		a.decode(r.Beyond, &more)
		a.doc.People = append(
			a.doc.People,
			studio.Person{ID: studio.ID(r.ID), Name: r.Name, Shifts: more.Shifts, Overtime: more.Overtime,
				OvertimeShifts: more.OvertimeShifts, Colours: more.Colours, AwayTimes: more.AwayTimes,
				Rate: more.Rate, OutOfUse: more.OutOfUse},
		)
	}
	for _, r := range rows(a, a.q.Skills) {
		p := &a.doc.People[at[r.PersonID]]
		p.Skills = append(p.Skills, studio.Skill{Skill: r.Skill, Pace: r.PaceHundredths})
	}
	for _, r := range rows(a, a.q.Hours) {
		p := &a.doc.People[at[r.PersonID]]
		if r.Day == "break" {
			p.Breaks = append(
				p.Breaks,
				studio.BreakTime{From: studio.TimeOfDay(r.FromMinute), To: studio.TimeOfDay(r.ToMinute)},
			)
			continue
		}
		p.Hours = append(
			p.Hours,
			studio.DayHours{
				Day:  studio.Weekday(r.Day),
				From: studio.TimeOfDay(r.FromMinute),
				To:   studio.TimeOfDay(r.ToMinute),
			},
		)
	}
	for _, r := range rows(a, a.q.Away) {
		p := &a.doc.People[at[r.PersonID]]
		day, err := studio.ParseDate(r.Day)
		a.err = errors.Join(a.err, err)
		p.Away = append(p.Away, day)
	}
}

// book reads the recipes, whose revisions never change: each is read once.
func (a *assembler) book() {
	for _, id := range rows(a, a.q.RecipeIDs) {
		a.doc.Recipes = append(a.doc.Recipes, a.recipe(id))
	}
	at := map[string]int{}
	for i, r := range rows(a, a.q.Colourways) {
		at[r.ID] = i
		a.doc.Colourways = append(
			a.doc.Colourways,
			studio.Colourway{ID: studio.ID(r.ID), Name: r.Name, Slots: map[string]studio.ID{}},
		)
	}
	for _, r := range rows(a, a.q.ColourwaySlots) {
		a.doc.Colourways[at[r.ColourwayID]].Slots[r.Slot] = studio.ID(r.MixID)
	}
}

// record is what is recorded of a task.
func (a *assembler) record(r sqlcgen.Task) studio.TaskRecord {
	record, err := taskRecord(r)
	a.err = errors.Join(a.err, err)
	return record
}

func taskRecord(r sqlcgen.Task) (studio.TaskRecord, error) {
	var used []studio.Used
	var weighed []studio.Milligrams
	var remarks []studio.Remark
	err := errors.Join(json.Unmarshal([]byte(r.Used), &used), json.Unmarshal([]byte(r.Weighed), &weighed),
		json.Unmarshal([]byte(r.Remarks), &remarks))
	if len(used) == 0 {
		used = nil
	}
	if len(weighed) == 0 {
		weighed = nil
	}
	if len(remarks) == 0 {
		remarks = nil
	}
	return studio.TaskRecord{
		Asks:    r.Asks,
		Remarks: remarks,
		Weighed: weighed,
		Step:    r.Step,
		State:   studio.TaskState(r.State),
		Person:  studio.ID(r.PersonID),
		Start:   studio.Minute(r.StartMinute),
		End:     studio.Minute(r.EndMinute),
		Good:    r.Good,
		Second:  r.Second,
		Broken:  r.Broken,
		Mend:    r.Mend,
		Machine: studio.ID(r.Machine),
		Used:    used,
	}, err
}

// facts reads the shelf and the lots that are not closed: those with work left to do, and
// those whose pieces are still there. Of closed ones it reads what they come to.
func (a *assembler) facts() {
	d := a.doc
	d.Ordinals = map[string]int{}
	for _, r := range rows(a, a.q.ClosedOrdinals) {
		d.Ordinals[r.GatherKey] = int(r.Highest)
	}
	for _, r := range rows(a, a.q.ClosedPieces) {
		d.Recorded = append(d.Recorded, studio.Recorded{Recipe: studio.ID(r.PageID), Good: r.Good, Lost: r.Lost})
	}
	reserved := map[string][]studio.Claim{}
	for _, r := range rows(a, a.q.Reservations) {
		reserved[r.OfLot] = append(reserved[r.OfLot], studio.Claim{Order: studio.ID(r.OrderID), Quantity: r.Quantity})
	}
	for _, r := range rows(a, a.q.Offcuts) {
		d.Offcuts = append(
			d.Offcuts,
			studio.Offcut{Material: studio.ID(r.MaterialID), Length: studio.Micrometres(r.LengthUm), Number: r.Number},
		)
	}
	for _, r := range rows(a, a.q.Shelf) {
		s := studio.ShelfLot{
			ID:       studio.ID(r.ID),
			Recipe:   studio.ID(r.RecipeID),
			Amount:   r.Amount,
			Quality:  studio.Quality(r.Quality),
			MadeOn:   studio.Minute(r.MadeMinute),
			From:     studio.ID(r.LotID.String),
			Variant:  r.Variant,
			Reached:  r.Reached,
			Reserved: reserved[r.ID],
			Place:    r.Place,
			Kept:     studio.Kept(r.Kept),
			In:       studio.ID(r.Surroundings),
		}
		a.decode(r.Mixes, &s.Mixes)
		if r.UseByMinute.Valid {
			useBy := studio.Minute(r.UseByMinute.Int64)
			s.UseBy = &useBy
		}
		d.Shelf = append(d.Shelf, s)
	}
	records := map[string][]studio.TaskRecord{}
	for _, r := range rows(a, a.q.OpenTasks) {
		records[r.LotID] = append(records[r.LotID], a.record(r))
	}
	book := studio.NewBook(d)
	for _, r := range rows(a, a.q.OpenLots) {
		w := a.lot(r, records[r.ID])
		w.Reserved = reserved[r.ID]
		a.made(w, book.Of(w.Made()))
		d.Work = append(d.Work, w)
	}
}

// lot is a lot with what has happened to it.
func (a *assembler) lot(r sqlcgen.Lot, records []studio.TaskRecord) studio.WorkLot {
	w := studio.WorkLot{
		ID:      studio.ID(r.ID),
		Recipe:  studio.ID(r.RecipeID),
		Ordinal: int(r.Ordinal),
		Need:    r.Need,
		Started: r.Started,
		Records: records,
		Variant: r.Variant,
		From:    studio.ID(r.StockLotID),
		Reached: r.Reached,
	}
	a.decode(r.Mixes, &w.Mixes)
	var known lying
	a.decode(r.Lying, &known)
	w.Checks, w.Puts = known.Checks, known.Puts
	return w
}

// wishesOf is what the lead has decided of lots that are not begun, and of tasks.
func (a *assembler) wishesOf(view View, d *studio.Document) {
	begun := map[studio.ID]bool{}
	for _, w := range d.Work {
		begun[w.ID] = true
	}
	for _, r := range a.wished {
		body := r.Wished
		if view == Accepted {
			body = r.Accepted
		}
		switch r.Thing {
		case wishOfLot:
			var lot *studio.DecidedLot
			if a.decode(body, &lot); lot != nil && !begun[studio.ID(r.ID)] {
				d.Decided = append(d.Decided, *lot)
			}
		case wishOfGroup:
			var division *studio.Division
			if a.decode(body, &division); division != nil {
				d.Divided = append(d.Divided, *division)
			}
		case wishOfTask:
			var pin *studio.Pin
			if a.decode(body, &pin); pin != nil {
				if still, stands := pin.From(d.Now); stands {
					d.Pins = append(d.Pins, still)
				}
			}
		}
	}
}

// made adds what came of a lot whose pieces are made to what is recorded of its recipe.
func (a *assembler) made(w studio.WorkLot, r *studio.Recipe) {
	came, made := w.Turnout(r)
	if !made || r.Kind == studio.KindMix {
		return
	}
	d := a.doc
	i := slices.IndexFunc(d.Recorded, func(known studio.Recorded) bool { return known.Recipe == r.Page() })
	if i < 0 {
		i, d.Recorded = len(d.Recorded), append(d.Recorded, studio.Recorded{Recipe: r.Page()})
	}
	d.Recorded[i].Good += came.Good
	d.Recorded[i].Lost += came.Lost
}
