package api

import (
	"context"
	"fmt"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/bench"
	"bractum/core/climate"
	"bractum/core/room"
	"bractum/core/studio"
	"bractum/store"
)

// RoomView is the drying room as it stands.
type RoomView struct {
	N       int64         `json:"n"`
	Now     studio.Minute `json:"now"`
	Lying   []LyingCard   `json:"lying" doc:"what has a window first, then what is over first"`
	Shelves []ShelfView   `json:"shelves"`
	Alerts  []AlertView   `json:"alerts"`
	Places  []Named       `json:"places" doc:"surroundings beside the room"`
	Timers  []TimerView   `json:"timers" doc:"started by hand, the next first"`
}

// TimerView is a timer with who started it.
type TimerView struct {
	store.Timer
	By    string `json:"by"`
	Rings bool   `json:"rings"`
}

// LyingCard is what lies in a wait, with what it is called and whom it waits for.
type LyingCard struct {
	room.Lying
	Named                 // of what is made
	Colour    string      `json:"colour"`
	Mix       string      `json:"mix"`
	Wait      string      `json:"wait" doc:"the name of the wait"`
	Orders    []studio.ID `json:"orders"`
	NextName  string      `json:"nextName,omitempty"`
	NextBy    string      `json:"nextBy,omitempty"`
	FoundBy   string      `json:"foundBy,omitempty"`
	ClassName string      `json:"className,omitempty"`
	Batch     *BatchView  `json:"batch,omitempty" doc:"of lots that are made for each other"`
}

// ShelfView is one kind of place, or a machine, with what lies in it.
type ShelfView struct {
	Named
	Machine bool       `json:"machine"`
	Slots   int64      `json:"slots"`
	Free    int64      `json:"free"`
	In      studio.ID  `json:"in,omitempty"`
	MadeBy  string     `json:"madeBy,omitempty" doc:"of homemade ones, the recipe that makes them"`
	Taken   []SlotView `json:"taken"`
}

// SlotView is what takes slots of a place.
type SlotView struct {
	room.Slot
	Of     string       `json:"of"`
	Form   string       `json:"form"`
	Colour string       `json:"colour"`
	State  studio.Found `json:"state,omitempty"`
	Lying  studio.ID    `json:"lying,omitempty" doc:"the wait that it lies in, if it does"`
}

// AlertView is something to act on now, with what it is about.
type AlertView struct {
	room.Alert
	Quiet string `json:"quiet,omitempty" doc:"the sensor that is silent, or lies"`
	Of    string `json:"of,omitempty"`
	Next  string `json:"next,omitempty"`
	By    string `json:"by,omitempty"`
	Where string `json:"where,omitempty"`
}

func (s *Service) registerRoom(to huma.API) {
	kept(s, to, get("/drying-room", "get-drying-room", "What is drying, what is ready, what frees up"),
		shows{topics: []string{"work", "stores", "timers", "air"}, planned: true, now: true},
		func(ctx context.Context, at *moment, _ *none) (RoomView, error) {
			v := at.room()
			for _, timer := range at.Timers {
				v.Timers = append(
					v.Timers,
					TimerView{Timer: timer, By: at.inForce.person(timer.Person), Rings: timer.Ends <= at.Now},
				)
			}
			for _, sensor := range at.Sensors {
				if sensor.In != nil && climate.Quiet(sensor.Last, at.Now) {
					v.Alerts = append(v.Alerts, AlertView{Alert: room.Alert{Kind: room.Quiet, At: sensor.Last,
						In: *sensor.In}, Quiet: sensor.Device, Where: at.inForce.surroundings(*sensor.In)})
				}
			}
			return v, nil
		})
	type check struct {
		Who
		Task string `path:"task"`
		Body bench.Touched
	}
	fact(s, to, post("/lying/{task}/check", "check-drying", "touched", "Say what was found by touch"),
		func(c *change, in *check) (Lain, error) {
			lot, moved, err := c.bench().Touch(studio.ID(in.Task), studio.ID(in.Person), in.Body)
			said := string(in.Body.Found)
			if in.Body.Found == studio.FoundSpoilt {
				said = fmt.Sprintf("%d spoilt", in.Body.Pieces)
			}
			return c.lain(lot, moved, said, err)
		})
	type putElsewhere struct {
		Who
		Task string `path:"task"`
		Body bench.Elsewhere
	}
	fact(s, to, post("/lying/{task}/put", "put-elsewhere", "put elsewhere", "Say where what lies there was put"),
		func(c *change, in *putElsewhere) (Lain, error) {
			lot, err := c.bench().Put(studio.ID(in.Task), studio.ID(in.Person), in.Body)
			return c.lain(lot, nil, "put elsewhere", err)
		})
}

// Lain is the answer to a fact of the drying room.
type Lain struct {
	N  int64  `json:"n"`
	Of string `json:"of"`
}

// lain writes a fact of the drying room, if nothing is against it.
func (c *change) lain(lot studio.WorkLot, moved []studio.Movement, said string, err error) (Lain, error) {
	if err != nil {
		return Lain{}, err
	}
	of := c.at.inForce.Book.Of(lot.Made()).Name
	c.Summary = fmt.Sprintf("%s, drying: %s", of, said)
	if err := c.PutLying(lot); err != nil {
		return Lain{}, err
	}
	return Lain{N: c.N(), Of: of}, c.Book(lot, moved)
}

// seenFrom is what a drying room is seen from.
func (a *answer) seenFrom() room.Studio {
	return room.Studio{Doc: a.Doc, Book: a.Book, Plan: a.Plan, Lots: a.Lots, Tasks: a.Tasks,
		Instance: a.Instance(), Air: a.Air(), Activity: a.Activity}
}

// room is the drying room of the plan in force.
func (at *moment) room() RoomView {
	a := at.inForce
	r := room.Now(a.seenFrom())
	v := RoomView{N: at.N, Now: at.Now, Lying: []LyingCard{}, Shelves: []ShelfView{}, Alerts: []AlertView{},
		Places: []Named{}, Timers: []TimerView{}}
	for _, in := range a.Doc.Surroundings {
		v.Places = append(v.Places, Named{ID: in.ID, Name: in.Name})
	}
	lying := map[studio.ID]*room.Lying{}
	for i := range r.Lying {
		l := &r.Lying[i]
		lying[l.Lot] = l
		v.Lying = append(v.Lying, a.lyingCard(l))
	}
	slot := func(s room.Slot) SlotView {
		made := a.Lots[s.Lot]
		of := a.Book.Of(made.Made())
		view := SlotView{Slot: s, Of: of.Name, Form: of.Form}
		view.Colour, _ = a.swatch(made.Made(), made.Mixes)
		if l := lying[s.Lot]; l != nil {
			view.State, view.Lying = l.State, l.Task
		}
		return view
	}
	for _, shelf := range r.Shelves {
		view := ShelfView{
			Named:   Named{ID: shelf.Place},
			Machine: shelf.Machine,
			Slots:   shelf.Slots,
			Free:    shelf.Free,
			Taken:   []SlotView{},
		}
		for _, p := range a.Doc.Places {
			if p.ID == shelf.Place {
				view.Name, view.In = p.Name, p.In
				if made := a.Book.Recipe(p.MadeBy); made != nil {
					view.MadeBy = made.Name
				}
			}
		}
		for _, m := range a.Doc.Machines {
			if m.ID == shelf.Place {
				view.Name = m.Name
			}
		}
		for _, taken := range shelf.Taken {
			view.Taken = append(view.Taken, slot(taken))
		}
		v.Shelves = append(v.Shelves, view)
	}
	for _, alert := range r.Alerts {
		v.Alerts = append(v.Alerts, a.alert(alert))
	}
	return v
}

func (a *answer) lyingCard(l *room.Lying) LyingCard {
	lot := a.Lots[l.Lot]
	of := a.Book.Of(lot.Made())
	c := LyingCard{Lying: *l, Named: Named{ID: of.ID, Name: of.Name, Form: of.Form},
		Orders: append([]studio.ID{}, a.OrdersOf(l.Lot)...), Batch: a.batch(l.Lot)}
	c.Colour, c.Mix = a.swatch(lot.Made(), lot.Mixes)
	step, _ := of.Step(l.Step)
	c.Wait = step.Name
	if l.Class != "" {
		c.ClassName = a.Air().Class(l.Class).Name
	}
	if l.Found != nil {
		c.FoundBy = a.person(l.Found.Person)
	}
	if l.Next != nil {
		next := a.Tasks[l.Next.Task]
		c.NextName, c.NextBy = a.named(next.Lot, next.Step), a.person(l.Next.Person)
	}
	return c
}

func (a *answer) alert(alert room.Alert) AlertView {
	v := AlertView{Alert: alert, By: a.person(alert.Person), Where: a.surroundings(alert.In)}
	if lot := a.Lots[alert.Lot]; lot != nil {
		v.Of = a.Book.Of(lot.Made()).Name
	}
	for _, s := range a.Doc.Shelf {
		if s.ID == alert.Lot {
			v.Of = a.Book.Of(s.Made()).Name
		}
	}
	return v
}

// person is what somebody is called, empty for nobody.
func (a *answer) person(id studio.ID) string {
	for _, p := range a.Doc.People {
		if p.ID == id {
			return p.Name
		}
	}
	return ""
}
