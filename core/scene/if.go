// Package scene answers what a studio would be if something were otherwise: a damp week, somebody away or staying
// longer, more formers, an order moved, a supplier late. A scene is any number of changes; With gives the document that
// they make of another, which is not touched. What follows from it, count and plan say.
package scene

import (
	"fmt"
	"slices"

	"bractum/core/studio"
)

// If is one thing that is otherwise, a change of the studio. Its kind says what it needs beside it.
type If struct {
	Kind Kind `json:"kind"`
	// Of is the person, place, machine, tool, material, supplier or order that it is about.
	Of studio.ID `json:"of,omitempty"`
	// Line is a line of an order, Colourway its new colours, Variant how it is to be made otherwise.
	Line      studio.ID `json:"line,omitempty"`
	Colourway studio.ID `json:"colourway,omitempty"`
	Variant   string    `json:"variant,omitempty"`
	// Number is how many: more of a thing, days later, of a line, in the material's unit, or a share in thousandths.
	Number int64 `json:"number,omitempty"`
	// Spans are when somebody is there besides, or from when to when.
	Spans []studio.Span `json:"spans,omitempty"`
	// Days are days from first to last, both of them in it.
	From  studio.Date `json:"from,omitzero"`
	Until studio.Date `json:"until,omitzero"`
	// Leaves is when an order is to leave.
	Leaves studio.WallTime `json:"leaves,omitzero"`
	// Skills and Name are a helper's, who works at the recipes' pace.
	Skills []string `json:"skills,omitempty"`
	Name   string   `json:"name,omitempty"`
}

// Kind is what kind of thing is otherwise.
type Kind string

// Kinds of changes, and what they are about.
const (
	Away      Kind = "away"      // Of a person, From one day Until another
	Stays     Kind = "stays"     // Of a person, who is there besides in Spans
	Helps     Kind = "helps"     // somebody of Name who has Skills, in Spans
	Places    Kind = "places"    // Number more slots Of a place; fewer below nothing
	Machines  Kind = "machines"  // Number more slots Of a machine
	Tools     Kind = "tools"     // Number more Of a tool
	Air       Kind = "air"       // Number thousandths of humidity more From one day Until another, where it is not closed
	Arrives   Kind = "arrives"   // Number Of a material, in its unit, at the start of its one span
	Late      Kind = "late"      // Of a supplier, by Number days; sooner below nothing
	Moved     Kind = "moved"     // Of an order, which Leaves otherwise
	Grown     Kind = "grown"     // Of an order, whose Line is of Number flowers; none takes the line away
	Recolour  Kind = "recolour"  // Of an order, whose Line is in another Colourway
	Otherwise Kind = "otherwise" // Of an order, whose Line is made by another Variant
	Cancelled Kind = "cancelled" // Of an order
	Spares    Kind = "spares"    // Of an order, spares for which are reckoned for Number thousandths of the times
	Freed     Kind = "freed"     // Of an order, whose reserved stock is free
	Parted    Kind = "parted"    // Of an order: Number of its Line leave by themselves at Leaves
	Prices    Kind = "prices"    // Of a material or, of none, of all: Number thousandths of what they were
)

// supposed are the kinds that nobody in a studio decides on.
var supposed = []Kind{Air, Late, Prices, Arrives}

// Decided is true of a change that a studio makes real by deciding on it; air, suppliers, prices and deliveries can
// only be supposed.
func (c If) Decided() bool { return !slices.Contains(supposed, c.Kind) }

// Refused is a change that a studio cannot have, by its place among others.
type Refused struct {
	At   int
	Says studio.Said
}

func (r Refused) Error() string { return fmt.Sprintf("change %d: %s", r.At+1, r.Says) }

// Words are what is wrong with it.
func (r Refused) Words() studio.Said { return r.Says }

// With is a document as changes make it, one after the other. One that it cannot have is answered as Refused.
func With(doc *studio.Document, changes []If) (*studio.Document, error) {
	d := *doc
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return nil, err
	}
	m := maker{doc: &d, calendar: calendar}
	for i, c := range changes {
		makes, known := kinds[c.Kind]
		if !known {
			return nil, Refused{i, studio.Say("%q is no kind of change", string(c.Kind))}
		}
		if said := makes(&m, c); said.English != "" {
			return nil, Refused{i, said}
		}
	}
	if problems := d.Validate(); len(problems) > 0 {
		return nil, problems
	}
	return &d, nil
}

// maker makes changes to a document of which nothing is shared that it writes to.
type maker struct {
	doc      *studio.Document
	calendar studio.Calendar
}

var fine = studio.Said{}

var kinds = map[Kind]func(*maker, If) studio.Said{
	Away:      (*maker).away,
	Stays:     (*maker).stays,
	Helps:     (*maker).helps,
	Places:    (*maker).places,
	Machines:  (*maker).machines,
	Tools:     (*maker).tools,
	Air:       (*maker).air,
	Arrives:   (*maker).arrives,
	Late:      (*maker).late,
	Moved:     (*maker).moved,
	Grown:     (*maker).grown,
	Recolour:  (*maker).recolour,
	Otherwise: (*maker).otherwise,
	Cancelled: (*maker).cancelled,
	Spares:    (*maker).spares,
	Freed:     (*maker).freed,
	Parted:    (*maker).parted,
	Prices:    (*maker).prices,
}

// one finds a thing in a copy of a list by its id, nil where it is not there.
func one[T any](list *[]T, id studio.ID, of func(*T) studio.ID) *T {
	*list = slices.Clone(*list)
	for i := range *list {
		if of(&(*list)[i]) == id {
			return &(*list)[i]
		}
	}
	return nil
}

var gone = studio.Say("what it is about is not there any more")

func (m *maker) person(id studio.ID) *studio.Person {
	return one(&m.doc.People, id, func(p *studio.Person) studio.ID { return p.ID })
}

// mostDays is for how many days at the most something is otherwise.
const mostDays = 366

// days are those from a change's first to its last.
func (c If) days() []studio.Date {
	var days []studio.Date
	for day := c.From; !c.From.IsZero() && day.Compare(c.Until) <= 0 && len(days) < mostDays; day = day.Next() {
		days = append(days, day)
	}
	return days
}

var noDays = studio.Say("say from which day until which")

func (m *maker) away(c If) studio.Said {
	p, days := m.person(c.Of), c.days()
	switch {
	case p == nil:
		return gone
	case len(days) == 0:
		return noDays
	}
	p.Away = slices.Clone(p.Away)
	for _, day := range days {
		if !slices.Contains(p.Away, day) {
			p.Away = append(p.Away, day)
		}
	}
	slices.SortFunc(p.Away, studio.Date.Compare)
	return fine
}

func (m *maker) stays(c If) studio.Said {
	p := m.person(c.Of)
	switch {
	case p == nil:
		return gone
	case len(c.Spans) == 0:
		return studio.Say("say from when until when somebody is there besides")
	}
	p.Shifts = append(slices.Clone(p.Shifts), c.Spans...)
	return fine
}

func (m *maker) helps(c If) studio.Said {
	if len(c.Skills) == 0 || len(c.Spans) == 0 {
		return studio.Say("say what the helper can do, and from when until when")
	}
	p := studio.Person{ID: studio.ID("helper " + c.Name), Name: c.Name, Shifts: c.Spans, Rate: studio.Money(c.Number)}
	for _, skill := range c.Skills {
		p.Skills = append(p.Skills, studio.Skill{Skill: skill, Pace: 100})
	}
	m.doc.People = append(slices.Clone(m.doc.People), p)
	return fine
}

// more is a number with some more of it, not below none.
func more(number *int64, by int64) studio.Said {
	if *number+by < 0 {
		return studio.Say("there are %d; so many fewer there cannot be", *number)
	}
	*number += by
	return fine
}

func (m *maker) places(c If) studio.Said {
	p := one(&m.doc.Places, c.Of, func(p *studio.Place) studio.ID { return p.ID })
	if p == nil {
		return gone
	}
	return more(&p.Slots, c.Number)
}

func (m *maker) machines(c If) studio.Said {
	machine := one(&m.doc.Machines, c.Of, func(p *studio.Machine) studio.ID { return p.ID })
	if machine == nil {
		return gone
	}
	return more(&machine.Slots, c.Number)
}

func (m *maker) tools(c If) studio.Said {
	t := one(&m.doc.Tools, c.Of, func(t *studio.Tool) studio.ID { return t.ID })
	if t == nil {
		return gone
	}
	return more(&t.Number, c.Number)
}

// air makes the hours of some days damper, in the room and in every place that its air gets into.
func (m *maker) air(c If) studio.Said {
	days := c.days()
	if len(days) == 0 {
		return noDays
	}
	if len(m.doc.Climate) == 0 {
		return studio.Say("nothing is known of the air here")
	}
	at := map[[2]any]int{}
	m.doc.Readings = slices.Clone(m.doc.Readings)
	for i, r := range m.doc.Readings {
		at[[2]any{r.Hour, r.In}] = i
	}
	rooms := []studio.Surroundings{{Hours: m.doc.Climate}}
	for _, s := range m.doc.Surroundings {
		if !s.Closed {
			rooms = append(rooms, s)
		}
	}
	from, to := m.calendar.At(days[0], 0), m.calendar.At(days[len(days)-1].Next(), 0)
	for hour := int64(studio.CeilDiv(max(from, m.doc.Now), 60)); studio.Minute(hour)*60 < to; hour++ {
		local := m.calendar.Time(studio.Minute(hour) * 60).Hour()
		for _, room := range rooms {
			i, known := at[[2]any{hour, room.ID}]
			if !known {
				i = len(m.doc.Readings)
				m.doc.Readings = append(m.doc.Readings, studio.Reading{Hour: hour, In: room.ID, Air: room.Hours[local]})
			}
			r := &m.doc.Readings[i]
			r.HumidityPerMille = min(1000, max(0, r.HumidityPerMille+studio.PerMille(c.Number)))
		}
	}
	slices.SortStableFunc(m.doc.Readings, func(a, b studio.Reading) int { return int(a.Hour - b.Hour) })
	return fine
}

func (m *maker) arrives(c If) studio.Said {
	material := one(&m.doc.Materials, c.Of, func(m *studio.Material) studio.ID { return m.ID })
	switch {
	case material == nil:
		return gone
	case c.Number <= 0 || len(c.Spans) != 1:
		return studio.Say("say how much comes, and when")
	}
	opens := c.Spans[0].From
	m.doc.Gates = append(slices.Clone(m.doc.Gates), studio.Gate{
		ID:   studio.ID(fmt.Sprintf("comes %d %s", len(m.doc.Gates), c.Of)),
		Name: material.Name, Opens: &opens, Material: c.Of, Amount: c.Number,
	})
	return fine
}

// late has a supplier take so many days more, and what is on its way from them come so much later.
func (m *maker) late(c If) studio.Said {
	s := one(&m.doc.Suppliers, c.Of, func(s *studio.Supplier) studio.ID { return s.ID })
	if s == nil {
		return gone
	}
	s.Days = max(0, s.Days+c.Number)
	theirs := map[studio.ID]bool{}
	for i := range m.doc.Materials {
		theirs[m.doc.Materials[i].ID] = m.doc.Materials[i].Supplier == c.Of
	}
	m.doc.Gates = slices.Clone(m.doc.Gates)
	for i := range m.doc.Gates {
		if g := &m.doc.Gates[i]; theirs[g.Material] && g.Opens != nil && *g.Opens > m.doc.Now {
			opens := max(m.doc.Now, *g.Opens+1440*studio.Minute(c.Number))
			g.Opens = &opens
		}
	}
	return fine
}

// prices makes a material, or all of them, dearer or cheaper.
func (m *maker) prices(c If) studio.Said {
	if c.Number < 0 || c.Number > 100_000 {
		return studio.Say(
			"%d thousandths of a price cannot be; from nothing to a hundred times as much would be right",
			c.Number,
		)
	}
	m.doc.Materials = slices.Clone(m.doc.Materials)
	found := c.Of == ""
	for i := range m.doc.Materials {
		if p := &m.doc.Materials[i]; c.Of == "" || p.ID == c.Of {
			p.Price, found = min(1_000_000_000, studio.Money(studio.CeilDiv(int64(p.Price)*c.Number, 1000))), true
		}
	}
	if !found {
		return gone
	}
	return fine
}
