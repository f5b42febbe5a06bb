package rehearse

import (
	"fmt"
	"hash/fnv"
	"math"
	"math/rand/v2"
	"slices"

	"bractum/core/count"
	"bractum/core/drying"
	"bractum/core/risk"
	"bractum/core/studio"
)

// course is one course of things: what is asked for, how the air is, who is away, how long things really take and what
// breaks. It is the same whoever plans: what is drawn follows from the seed and from what it is drawn for.
type course struct {
	seed     uint64
	spreads  risk.Spreads
	calendar studio.Calendar
	from, to studio.Minute
	asks     []ask
	readings []studio.Reading
	air      drying.Room
	away     map[studio.ID][]studio.Date
}

// ask is an order, and when it is asked for.
type ask struct {
	at    studio.Minute
	order studio.Order
}

// draw is a source of its own for what a name stands for.
func (c *course) draw(names ...any) *rand.Rand {
	sum := fnv.New64a()
	fmt.Fprint(sum, names...)
	return rand.New(rand.NewPCG(c.seed, sum.Sum64()))
}

// newCourse draws some weeks of a studio: people away, the air, and orders until those that leave within the weeks fill
// so many percent of the hours that people are there.
func newCourse(doc *studio.Document, o Options) (*course, error) {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return nil, err
	}
	c := &course{seed: o.Seed, spreads: o.Spreads, calendar: calendar, from: doc.Now,
		to: doc.Now + studio.Minute(o.Weeks)*7*1440, away: map[studio.ID][]studio.Date{}}
	for _, p := range doc.People {
		random := c.draw("away", p.ID)
		for day := calendar.Date(doc.Now).Next(); calendar.At(day, 0) < c.to; day = day.Next() {
			if random.IntN(1000) < int(o.Spreads.Away) {
				c.away[p.ID] = append(c.away[p.ID], day)
			}
		}
	}
	c.weather(doc)
	return c, c.orders(doc, o)
}

// The air goes about what is expected of each hour: what it is off by fades by a twelfth an hour, and is drawn anew so
// that it is off by this much, in thousandths of humidity and tenths of a degree.
const (
	fades      = 12
	offHumid   = 60
	offCelsius = 12
)

// weather draws the air of every hour, and the drying clocks that go by it.
func (c *course) weather(doc *studio.Document) {
	known := *doc
	known.Readings = slices.Clone(doc.Readings)
	random, humid, warm := c.draw("air"), 0.0, 0.0
	keeps := 1 - 1.0/fades
	anew := math.Sqrt(1 - keeps*keeps)
	for hour := int64(c.from/60) + 1; studio.Minute(hour*60) < c.to+beyond; hour++ {
		if !c.spreads.Steady {
			humid = keeps*humid + anew*offHumid*random.NormFloat64()
			warm = keeps*warm + anew*offCelsius*random.NormFloat64()
		}
		air := studio.Air{TenthsCelsius: 200, HumidityPerMille: 500}
		if len(doc.Climate) == 24 {
			air = doc.Climate[c.calendar.Time(studio.Minute(hour*60)).Hour()]
		}
		air.HumidityPerMille = min(950, max(200, air.HumidityPerMille+studio.PerMille(humid)))
		air.TenthsCelsius += int64(warm)
		known.Readings = append(known.Readings, studio.Reading{Hour: hour, Air: air})
	}
	c.readings = known.Readings[len(doc.Readings):]
	known.Now = c.to + beyond
	c.air = drying.NewRoomSince(&known, c.calendar, c.from/60*60)
}

// Orders are asked for from a week to three before they leave, for two to five flowers, four to thirty of each.
const (
	leastAhead  = 7
	mostAhead   = 21
	leastLines  = 2
	mostLines   = 5
	leastOfLine = 4
	mostOfLine  = 30
)

// orders draws what is asked for.
func (c *course) orders(doc *studio.Document, o Options) error {
	random := c.draw("orders")
	flowers := slices.DeleteFunc(doc.Current(), func(r *studio.Recipe) bool { return r.Kind != studio.KindFlower })
	if len(flowers) == 0 || len(doc.Colourways) == 0 {
		return studio.Refuse("the book has no flower, or no colours; a rehearsal needs something to be asked for")
	}
	var hours studio.Minute
	for _, p := range doc.People {
		hours += studio.HoursOf(p, c.calendar, c.from, c.to).Worked(studio.Span{From: c.from, To: c.to})
	}
	left := float64(hours) * float64(o.Load) / 100
	own, err := minutesOf(doc)
	if err != nil {
		return err
	}
	left -= own
	for n, vain := 1, 0; left > 0 && vain < 100; n++ {
		leaves := c.calendar.Date(c.from).Plus(leastAhead + random.IntN(max(1, 7*o.Weeks-leastAhead)))
		for leaves.Weekday() == "sunday" {
			leaves = leaves.Next()
		}
		when := c.calendar.At(leaves, studio.TimeOfDay(60*(9+random.IntN(8))))
		a := ask{at: max(c.from, when-studio.Minute(1440*(leastAhead+random.IntN(mostAhead-leastAhead)))),
			order: studio.Order{
				ID:         studio.ID(fmt.Sprintf("asked %d", n)),
				Name:       fmt.Sprintf("Asked %d", n),
				Importance: 10,
				Leaves:     c.calendar.Wall(when),
				Leaving:    "collected",
				State:      studio.OrderOpen,
				Allergies:  []string{},
			}}
		for line := range leastLines + random.IntN(mostLines-leastLines+1) {
			a.order.Lines = append(a.order.Lines, studio.OrderLine{ID: studio.ID(fmt.Sprintf("asked %d %d", n, line)),
				Recipe:       flowers[random.IntN(len(flowers))].ID,
				Quantity:     leastOfLine + random.Int64N(mostOfLine-leastOfLine+1),
				Colourway:    doc.Colourways[random.IntN(len(doc.Colourways))].ID,
				ServiceLevel: doc.Settings.DefaultServiceLevel})
		}
		alone := *doc
		alone.Orders, alone.Shelf, alone.Work, alone.Decided, alone.Divided = []studio.Order{
			a.order,
		}, nil, nil, nil, nil
		minutes := 0.0
		if doc.CheckOrder(a.order) == nil {
			if minutes, err = minutesOf(&alone); err != nil {
				return err
			}
		}
		if minutes == 0 || minutes > left+float64(hours)/20 {
			vain++ // not in these colours, or too much for what is left
			continue
		}
		vain, left = 0, left-minutes
		c.asks = append(c.asks, a)
	}
	slices.SortStableFunc(c.asks, func(a, b ask) int { return int(a.at - b.at) })
	return nil
}

// minutesOf is how many attended minutes the open orders of a document take by the book.
func minutesOf(doc *studio.Document) (float64, error) {
	counted, err := count.Up(doc)
	if err != nil {
		return 0, err
	}
	var all studio.Milliminutes
	for _, lot := range studio.Route(doc, studio.NewBook(doc), counted.Lots, counted.Links, counted.Pegs).Lots {
		for _, t := range lot.Tasks {
			for _, e := range t.Work {
				all += e.Total()
			}
		}
	}
	return float64(all) / 1000, nil
}

// minutes is by how much attended time of a task is longer than the book has it, with a mean of one.
func (c *course) minutes(task studio.ID) float64 {
	sigma := float64(c.spreads.Minutes) / 1000
	return math.Exp(sigma*c.draw("minutes", task).NormFloat64() - sigma*sigma/2)
}

// breaks is how many of some pieces break at a task.
func (c *course) breaks(task studio.ID, of string, pieces int64, share float64) (lost int64) {
	random := c.draw("breaks", task, of)
	share *= float64(c.spreads.Breakage) / 1000
	for range pieces {
		if random.Float64() < share {
			lost++
		}
	}
	return lost
}

// slow is which percentile of its kind a lot's pieces are as they dry in a wait: 99 are the slowest.
func (c *course) slow(task studio.ID) int64 {
	if c.spreads.Steady {
		return 50
	}
	return 1 + c.draw("dries", task).Int64N(99)
}

// late is by how much a delivery comes later than it was promised, in order of being ordered.
func (c *course) late(supplier studio.ID, n int) (minutes studio.Minute) {
	for random := c.draw("late", supplier, n); random.IntN(1000) < int(c.spreads.Late); {
		minutes += 1440
	}
	return minutes
}
