package api

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/store"
)

// StudioView is what every station needs to know: the clock, people, places,
// what can be ordered, and how things are called and coloured.
type StudioView struct {
	N          int64         `json:"n" doc:"the journal number this answers for"`
	Name       string        `json:"name"`
	Epoch      time.Time     `json:"epoch" doc:"minute 0"`
	Zone       string        `json:"zone" doc:"IANA time zone"`
	Now        studio.Minute `json:"now"`
	Standing   bool          `json:"standing" doc:"true in the demo: the clock stands until it is moved"`
	Safety     studio.Minute `json:"safetyMinutes"`
	People     []Named       `json:"people"`
	Flowers    []Flower      `json:"flowers" doc:"what can be ordered"`
	Colourways []Colourway   `json:"colourways"`
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
	Colours  map[studio.ID]string `json:"colours"`
	Variants []string             `json:"variants"`
	Latest   bool                 `json:"latest" doc:"false of an earlier revision, which orders may keep but not begin with"`
}

func (a *answer) flower(r studio.Recipe, latest bool) Flower {
	f := Flower{Named{r.ID, r.Name, r.Form}, map[studio.ID]string{}, []string{}, latest}
	for _, v := range r.Variants {
		f.Variants = append(f.Variants, v.Name)
	}
	for _, c := range a.doc.Colourways {
		mixes, _ := a.book.Resolve(studio.Made{Recipe: r.ID}, c.Slots)
		f.Colours[c.ID], _ = a.swatch(studio.Made{Recipe: r.ID}, mixes)
	}
	return f
}

// Colourway is a colourway with the swatches of its mixes.
type Colourway struct {
	Named
	Swatches []string `json:"swatches"`
}

func (s *Service) registerStudio(to huma.API) {
	get(to, "/studio", "get-studio", "The studio and its clock", func(ctx context.Context, _ *nothing) (StudioView, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return StudioView{}, err
		}
		doc := at.inForce.doc
		v := StudioView{N: at.n, Name: doc.Name, Epoch: doc.Epoch, Zone: doc.Zone, Now: at.now, Standing: at.standing, Safety: doc.Settings.SafetyMinutes,
			People: []Named{}, Flowers: []Flower{}, Colourways: []Colourway{}}
		for _, p := range doc.People {
			v.People = append(v.People, Named{ID: p.ID, Name: p.Name})
		}
		latest := map[studio.ID]bool{}
		for _, r := range doc.Current() {
			latest[r.ID] = true
		}
		for _, r := range doc.Recipes {
			if r.Kind == studio.KindFlower || r.Kind == studio.KindSpray {
				v.Flowers = append(v.Flowers, at.inForce.flower(r, latest[r.ID]))
			}
		}
		for _, c := range doc.Colourways {
			way := Colourway{Named{ID: c.ID, Name: c.Name}, []string{}}
			for _, slot := range []string{"inner petal", "petal", "dust"} {
				if r := at.inForce.book.Recipe(c.Slots[slot]); r != nil {
					way.Swatches = append(way.Swatches, r.Colour)
				}
			}
			v.Colourways = append(v.Colourways, way)
		}
		return v, nil
	})
	type moveClock struct {
		Who
		Body struct {
			By string `json:"by" enum:"quarter,hour,next,morning" doc:"15 minutes, an hour, to the next thing that happens, to tomorrow morning"`
		}
	}
	command(to, http.MethodPost, "/clock", "move-clock", "Move the demo's clock on", func(ctx context.Context, in *moveClock) (Moved, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return Moved{}, err
		}
		if !at.standing {
			return Moved{}, huma.Error409Conflict("this studio's clock runs by itself; only the demo's is moved")
		}
		to := at.now + 15
		switch in.Body.By {
		case "hour":
			to = at.now + 60
		case "next":
			if next, ok := plan.NextEvent(at.inForce.plan); ok {
				to = next
			}
		case "morning":
			if next, ok := plan.NextMorning(at.inForce.doc, at.calendar); ok {
				to = next
			}
		}
		done, err := s.do(ctx, in.Who, "clock moved", func(tx *store.Tx) (any, error) {
			tx.Summary = "Clock moved on to " + at.calendar.Time(to).Format("Mon 2 Jan 15:04")
			return Moved{}, tx.MoveClock(to)
		})
		return Moved{done.N}, err
	})
}

// Moved is the journal number after a command.
type Moved struct {
	N int64 `json:"n"`
}
