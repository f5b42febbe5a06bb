package api

import (
	"cmp"
	"context"
	"slices"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/flower"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/core/workshop"
)

// StudioView is what every station needs to know: the clock, people, places,
// what can be ordered, and how things are called and coloured.
type StudioView struct {
	N          int64            `json:"n" doc:"the journal number this answers for"`
	Behind     bool             `json:"behind" doc:"the plan of what was recorded last is still being worked out"`
	Worked     int64            `json:"worked" doc:"another whenever counts, plans or offers are"`
	Name       string           `json:"name"`
	Epoch      time.Time        `json:"epoch" doc:"minute 0"`
	Zone       string           `json:"zone" doc:"IANA time zone"`
	Now        studio.Minute    `json:"now"`
	First      []workshop.Begun `json:"first,omitempty" doc:"how far it is to a first plan, while something is missing"`
	Manner     studio.Manner    `json:"manner" doc:"how figures are said"`
	Standing   bool             `json:"standing" doc:"true in the demo: the clock stands until it is moved"`
	Safety     studio.Minute    `json:"safetyMinutes"`
	Seat       studio.Minute    `json:"seatMinutes,omitempty" doc:"after how long a tablet forgets who is there"`
	People     []Named          `json:"people"`
	Flowers    []Flower         `json:"flowers" doc:"what can be ordered"`
	Colourways []Colourway      `json:"colourways"`
}

// Named is a thing by its id and name.
type Named struct {
	ID   studio.ID `json:"id"`
	Name string    `json:"name"`
	Form string    `json:"form,omitempty"`
}

// Flower is something that can be ordered, with its swatch in each colourway.
type Flower struct {
	Named
	Colours   map[studio.ID]string `json:"colours" doc:"by colourway; of none where all its slots have mixes of their own"`
	Variants  []string             `json:"variants"`
	Otherwise []string             `json:"otherwise" doc:"schools of its techniques that the book has not chosen, as a line's variant names them"`
	Latest    bool                 `json:"latest" doc:"false of an earlier revision, which orders may keep but not begin with"`
}

// catalogue is what can be ordered, and in what colours, of the recipes and colourways that
// were asked for last: the book seldom changes, the studio is asked for at every fact.
type catalogue struct {
	mu         sync.Mutex
	recipes    []studio.Recipe
	colourways []studio.Colourway
	flowers    []Flower
	ways       []Colourway
}

func (c *catalogue) of(a *answer) ([]Flower, []Colourway) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.flowers == nil || !studio.Shared(c.recipes, a.Doc.Recipes) || !studio.Shared(c.colourways, a.Doc.Colourways) {
		c.recipes, c.colourways = a.Doc.Recipes, a.Doc.Colourways
		c.flowers, c.ways = a.flowers(), a.ways()
	}
	return c.flowers, c.ways
}

// flowers are what can be ordered.
func (a *answer) flowers() []Flower {
	all, latest := []Flower{}, map[studio.ID]bool{}
	for _, r := range a.Doc.Current() {
		latest[r.ID] = true
	}
	for _, r := range a.Doc.Recipes {
		if r.Kind == studio.KindFlower || r.Kind == studio.KindSpray {
			all = append(all, a.flower(r, latest[r.ID]))
		}
	}
	return all
}

// ways are the colourways with their swatches.
func (a *answer) ways() []Colourway {
	all := []Colourway{}
	swatches := flower.Swatches(a.Doc, a.Book)
	for _, c := range a.Doc.Colourways {
		way := Colourway{Named: Named{ID: c.ID, Name: c.Name}, Swatches: swatches[c.ID], Mixes: []Named{}}
		for _, mix := range c.Slots {
			if r := a.Book.Recipe(mix); r != nil && !slices.Contains(way.Mixes, Named{ID: mix, Name: r.Name}) {
				way.Mixes = append(way.Mixes, Named{ID: mix, Name: r.Name})
			}
		}
		slices.SortFunc(way.Mixes, func(a, b Named) int { return cmp.Compare(a.Name, b.Name) })
		all = append(all, way)
	}
	return all
}

func (a *answer) flower(r studio.Recipe, latest bool) Flower {
	f := Flower{
		Named:    Named{ID: r.ID, Name: r.Name, Form: r.Form},
		Colours:  map[studio.ID]string{},
		Variants: []string{}, Otherwise: []string{},
		Latest: latest,
	}
	for _, v := range r.Variants {
		f.Variants = append(f.Variants, v.Name)
	}
	for _, t := range r.Techniques {
		for _, school := range append([]string{t.As}, schools(t)...) {
			if school != cmp.Or(t.Chosen, t.As) {
				f.Otherwise = append(f.Otherwise, studio.Otherwise("", t.Question, school))
			}
		}
	}
	if mixes, missing := a.Book.Resolve(studio.Made{Recipe: r.ID}, nil); len(missing) == 0 {
		f.Colours[""], _ = a.swatch(studio.Made{Recipe: r.ID}, mixes)
	}
	for _, c := range a.Doc.Colourways {
		mixes, _ := a.Book.Resolve(studio.Made{Recipe: r.ID}, c.Slots)
		f.Colours[c.ID], _ = a.swatch(studio.Made{Recipe: r.ID}, mixes)
	}
	return f
}

// schools are the names of those that a technique offers beside the recipe's own.
func schools(t studio.Technique) (names []string) {
	for _, s := range t.Schools {
		names = append(names, s.Name)
	}
	return names
}

// Colourway is a colourway with the swatches of its mixes.
type Colourway struct {
	Named
	Swatches []string `json:"swatches"`
	Mixes    []Named  `json:"mixes" doc:"those of its slots, each once, by name"`
}

func (s *Service) registerStudio(to huma.API) {
	kept(s, to, get("/studio", "get-studio", "The studio and its clock"),
		shows{topics: []string{everything}, planned: true, now: true, behind: true},
		func(ctx context.Context, at *moment, _ *none) (StudioView, error) {
			doc := at.inForce.Doc
			v := StudioView{N: at.N, Behind: at.Behind(), Worked: at.Worked,
				Name: doc.Name, Epoch: doc.Epoch, Zone: doc.Zone, Now: at.Now,
				Standing: at.Stands != nil && *at.Stands == at.Now, Safety: doc.Settings.SafetyMinutes,
				Seat:   doc.Settings.SeatMinutes,
				Manner: doc.Settings.Manner,
				People: []Named{}}
			for _, p := range doc.People {
				if !p.OutOfUse {
					v.People = append(v.People, Named{ID: p.ID, Name: p.Name})
				}
			}
			first := workshop.ForAFirstPlan(at.latestAnswer().Doc)
			if slices.ContainsFunc(first, func(b workshop.Begun) bool { return b.There == 0 }) {
				v.First = first
			}
			v.Flowers, v.Colourways = s.catalogue.of(at.inForce)
			return v, nil
		})
	type moveClock struct {
		Who
		Body struct {
			By      string        `json:"by" enum:"quarter,hour,next,morning,minutes" doc:"15 minutes, an hour, to the next thing that happens, to tomorrow morning, or so many minutes"`
			Minutes studio.Minute `json:"minutes,omitempty"`
		}
	}
	fact(s, to, post("/clock", "move-clock", "clock moved", "Move the demo's clock on"),
		func(c *change, in *moveClock) (Moved, error) {
			if c.at.Stands == nil {
				return Moved{}, huma.Error409Conflict("this studio's clock runs by itself; only the demo's is moved")
			}
			to, err := c.clockMoved(in.Body.By, in.Body.Minutes)
			if err != nil {
				return Moved{}, err
			}
			c.Summary = "Clock moved on to " + c.at.Calendar.Time(to).Format("Mon 2 Jan 15:04")
			return Moved{c.N()}, c.MoveClock(to)
		})
}

// mostMinutes is how far the demo's clock is moved on at once: four weeks.
const mostMinutes = 4 * 7 * 1440

// clockMoved is the minute to which the demo's clock is to be moved.
func (c *change) clockMoved(by string, minutes studio.Minute) (studio.Minute, error) {
	now := c.at.Now
	switch by {
	case "minutes":
		if minutes < 1 || minutes > mostMinutes {
			return now, huma.Error422UnprocessableEntity("from 1 minute to four weeks would be right",
				&huma.ErrorDetail{Location: "body.minutes", Message: "is out of range", Value: minutes})
		}
		return now + minutes, nil
	case "hour":
		return now + 60, nil
	case "next":
		if next, ok := plan.NextEvent(c.at.inForce.Plan); ok {
			return next, nil
		}
	case "morning":
		if next, ok := plan.NextMorning(c.at.inForce.Doc, c.at.Calendar); ok {
			return next, nil
		}
	}
	return now + 15, nil
}

// Moved is the journal number after a command.
type Moved struct {
	N int64 `json:"n"`
}
