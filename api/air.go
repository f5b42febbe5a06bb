package api

import (
	"context"
	"errors"
	"fmt"
	"mime"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"bractum/core/climate"
	"bractum/core/drying"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/outside"
	"bractum/store"
)

// Received is what came of readings that were sent.
type Received struct {
	Fresh    int              `json:"fresh" doc:"samples that are new"`
	Repeated int              `json:"repeated" doc:"samples of a minute that was known already, which stays as it was"`
	Refused  []outside.Unread `json:"refused" doc:"records that cannot be, or cannot be read, and why"`

	late bool // something became known of hours that are over
}

// AirView is the air of the studio's places.
type AirView struct {
	N       int64              `json:"n"`
	Now     studio.Minute      `json:"now"`
	Places  []PlaceAir         `json:"places"`
	Words   []climate.Word     `json:"words"`
	Stall   studio.PerMille    `json:"stallPerMille" doc:"the humidity at which the first of what dries here no longer does"`
	Taken   studio.Minute      `json:"taken" doc:"when the air that plans reckon with was taken; 0 never"`
	Moved   *climate.PlanMoved `json:"moved,omitempty" doc:"what that moved"`
	Sensors []SensorView       `json:"sensors"`
}

// PlaceAir is the air of the room or of surroundings within it: now, behind and ahead.
type PlaceAir struct {
	Named
	Closed bool        `json:"closed"`
	Latest *studio.Air `json:"latest,omitempty" doc:"what its sensors say now, if they do"`
	From   int64       `json:"from" doc:"the first hour of the curve"`
	Curve  []HourAir   `json:"curve"`
	Apart  bool        `json:"apart" doc:"its sensors contradict each other"`
	Aside  int         `json:"aside" doc:"samples of the last day that stood out and are left out of its hours"`
}

// HourAir is one hour of a curve.
type HourAir struct {
	climate.Point
	Speed int64 `json:"speed" doc:"of drying, in thousandths of that in standard air"`
}

// SensorView is a sensor and what is the matter with it.
type SensorView struct {
	store.Sensor
	Quiet bool `json:"quiet" doc:"nothing came for longer than should be"`
	Stuck bool `json:"stuck" doc:"it says the very same for hours"`
}

// shownAhead is how many of the coming hours are shown.
const shownAhead = 60

func (s *Service) registerAir(to huma.API) {
	type sent struct {
		ContentType string `header:"Content-Type"`
		RawBody     []byte `contentType:"application/senml+json"`
	}
	d := post(
		"/readings",
		"send-readings",
		"",
		"Readings of temperature and humidity, as SenML or CSV",
	).taking(mostReadings).
		described(WayDevice, http.StatusRequestEntityTooLarge, http.StatusUnsupportedMediaType,
			http.StatusUnprocessableEntity, http.StatusTooManyRequests, http.StatusServiceUnavailable)
	huma.Register(to, d, func(ctx context.Context, in *sent) (*body[Received], error) {
		answer, err := s.Receive(ctx, in.ContentType, in.RawBody)
		if err == nil {
			err = s.refreshAir(ctx, answer.late)
		}
		return &body[Received]{answer}, problem(err)
	})
	type history struct {
		Days int64 `query:"days" minimum:"1" maximum:"400" default:"1" doc:"how far back the curves go"`
	}
	ask(s, to, get("/air", "get-air", "The air of the studio: now, behind and ahead"),
		func(ctx context.Context, at *moment, in *history) (AirView, error) {
			return s.air(ctx, at, in.Days)
		})
	type say struct {
		Who
		Body struct {
			Feels string        `json:"feels" enum:"dry,damp,very damp"`
			Until studio.Minute `json:"until"`
		}
	}
	wish(s, to, post("/air/words", "say-of-air", "said of the air", "What the lead says of the coming air"),
		func(ctx context.Context, at *moment, in *say) (func(*change) (Moved, error), error) {
			word, err := climate.Say(in.Body.Feels, at.Now, in.Body.Until)
			if err != nil {
				return nil, err
			}
			word.ID = studio.ID(in.CommandID)
			said := "Said of the air: " + word.Said + " until " + at.Calendar.Time(word.Until).
				Format("Mon 2 Jan 15:04")
			return s.reworded(ctx, at, []climate.Word{word}, said)
		})
	type unsay struct {
		Who
	}
	wish(s, to, remove("/air/words", "unsay-of-air", "what was said of the air is taken back",
		"Let the sensors speak for themselves again"),
		func(ctx context.Context, at *moment, in *unsay) (func(*change) (Moved, error), error) {
			return s.reworded(ctx, at, []climate.Word{}, "What was said of the air is taken back")
		})
	type hang struct {
		Who
		Sensor int64 `path:"sensor"`
		Body   struct {
			In *studio.ID `json:"in,omitempty" doc:"the surroundings, the room if empty; nothing takes it down"`
		}
	}
	fact(s, to, post("/sensors/{sensor}/hang", "hang-sensor", "sensor hung", "Say where a sensor hangs"),
		func(c *change, in *hang) (Moved, error) {
			name := ""
			if in.Body.In != nil && *in.Body.In != "" {
				if name = c.at.inForce.surroundings(*in.Body.In); name == "" {
					return Moved{}, huma.Error422UnprocessableEntity("the studio has no such surroundings",
						&huma.ErrorDetail{Location: "body.in", Value: *in.Body.In})
				}
			}
			sensor, err := c.HangSensor(in.Sensor, in.Body.In)
			switch {
			case in.Body.In == nil:
				c.Summary = sensor.Device + " was taken down"
			case name == "":
				c.Summary = sensor.Device + " hangs in the room"
			default:
				c.Summary = sensor.Device + " hangs in " + name
			}
			c.after = func(ctx context.Context) error { return s.refreshAir(ctx, true) }
			return Moved{c.N()}, err
		})
}

// mostReadings is the largest body of readings, in bytes.
const mostReadings = 4 << 20

// Receive keeps what a device sent. What cannot be is named, the rest is kept.
func (s *Service) Receive(ctx context.Context, contentType string, sent []byte) (Received, error) {
	media, _, _ := mime.ParseMediaType(contentType) // of a type that cannot be read nothing is known
	now, calendar, err := s.situations.Now(ctx)
	if err != nil {
		return Received{}, err
	}
	var read []outside.Sent
	r := Received{}
	switch media {
	case "application/senml+json", "application/json":
		read, r.Refused, err = outside.ReadSenML(sent, calendar, now)
	case "text/csv":
		read, r.Refused, err = outside.ReadReadings(sent, calendar)
	default:
		return r, huma.NewError(
			http.StatusUnsupportedMediaType,
			"readings are taken as application/senml+json (RFC 8428) or text/csv",
		)
	}
	if err != nil {
		return r, huma.Error422UnprocessableEntity(err.Error() + "; nothing was kept")
	}
	of := map[string][]climate.Sample{}
	refused := map[string][]outside.Unread{}
	for _, one := range read {
		if err := climate.Sound(one.Sample, now); err != nil {
			why := outside.Unread{Record: one.Device + " at " + calendar.Wall(one.At).String(), Why: err.Error()}
			refused[one.Device] = append(refused[one.Device], why)
			r.Refused = append(r.Refused, why)
			continue
		}
		of[one.Device] = append(of[one.Device], one.Sample)
	}
	for device, samples := range of {
		slices.SortStableFunc(samples, func(a, b climate.Sample) int { return int(a.At - b.At) })
		taken, err := s.store.TakeSamples(ctx, device, samples)
		if err != nil {
			return r, err
		}
		r.Fresh, r.Repeated = r.Fresh+taken.Fresh, r.Repeated+taken.Repeated
		r.late = r.late || taken.Fresh > 0 && samples[0].At/60 < now/60
	}
	for device, why := range refused {
		if err := s.store.RefuseSamples(ctx, device, len(why), why[len(why)-1].Why, now); err != nil {
			return r, err
		}
	}
	r.Refused = append([]outside.Unread{}, r.Refused[:min(20, len(r.Refused))]...)
	if r.Fresh > 0 {
		s.listen(Event{Name: EventAir, N: int64(now)})
	}
	return r, nil
}

// refreshAir has plans reckon with the air as it has become, where that matters to what
// dries, and says what it moves. That is once an hour, and when something became known
// of hours that are over.
func (s *Service) refreshAir(ctx context.Context, late bool) error {
	s.breathing.Lock()
	defer s.breathing.Unlock()
	now, _, err := s.situations.Now(ctx)
	if err != nil || now/60 == s.breathed && !late {
		return err
	}
	const tries = 8
	for range tries {
		at, e := s.settled(ctx)
		if e != nil {
			return e
		}
		if err = s.takeAir(ctx, at); !errors.Is(err, errOvertaken) {
			break
		}
	}
	if err == nil {
		s.breathed = now / 60
	}
	return err
}

// Open has plans reckon with the air as it is when the application is opened.
func (s *Service) Open(ctx context.Context) error {
	if empty, err := s.empty(ctx); err != nil || empty {
		return err
	}
	return s.refreshAir(ctx, true)
}

func (s *Service) takeAir(ctx context.Context, at *moment) error {
	fresh, inUse, err := s.store.FreshAir(ctx, at.Now, nil)
	if err != nil {
		return err
	}
	if !climate.Due(at.inForce.Doc, at.Calendar, inUse, fresh) {
		return nil
	}
	if fresh.Moved, err = at.inForce.movedByAir(ctx, fresh); err != nil {
		return err
	}
	done, err := s.store.Do(ctx, store.Command{ID: uuid.NewString(), Kind: "air taken", Now: at.Now},
		func(tx *store.Tx) (any, error) {
			if tx.Base() != at.N {
				return nil, errOvertaken
			}
			tx.Summary = "The air is other than was reckoned with; " + tasksMove(fresh.Moved)
			return Moved{tx.N()}, tx.SetAir(fresh)
		})
	if err != nil {
		return err
	}
	_, err = s.situations.Recorded(ctx, done.N, done.Topics)
	s.listen(Event{Name: EventFacts, N: done.N, Topics: append(done.Topics, "air")})
	return err
}

func tasksMove(m *climate.PlanMoved) string {
	if m.Tasks == 1 {
		return "1 task moves"
	}
	return fmt.Sprintf("%d tasks move", m.Tasks)
}

// movedByAir is what another air would move in the plan.
func (a *answer) movedByAir(ctx context.Context, air climate.Air) (*climate.PlanMoved, error) {
	doc := *a.Doc
	air.Into(&doc)
	after, err := plan.Repair(&doc, a.Count, a.Plan, ctx.Done())
	if err != nil {
		return nil, err
	}
	d := plan.Compare(a.Plan, after)
	moved := &climate.PlanMoved{Tasks: int64(len(d.Moved))}
	for _, o := range d.Orders {
		i := slices.IndexFunc(a.Doc.Orders, func(order studio.Order) bool { return order.ID == o.Order })
		if i < 0 || o.Before == nil || o.After == nil || o.Before.Slack == nil || o.After.Slack == nil {
			continue
		}
		if by := *o.After.Slack - *o.Before.Slack; by/60 != 0 {
			moved.Slack = append(moved.Slack, climate.SlackMoved{Order: o.Order, Name: a.Doc.Orders[i].Name, By: by})
		}
	}
	return moved, nil
}

// reworded is what the lead says of the air, and what having plans reckon with it moves.
func (s *Service) reworded(
	ctx context.Context,
	at *moment,
	words []climate.Word,
	said string,
) (func(*change) (Moved, error), error) {
	fresh, _, err := s.store.FreshAir(ctx, at.Now, words)
	if err != nil {
		return nil, err
	}
	if fresh.Moved, err = at.inForce.movedByAir(ctx, fresh); err != nil {
		return nil, err
	}
	return func(c *change) (Moved, error) {
		c.Summary = said + "; " + tasksMove(fresh.Moved)
		return Moved{c.N()}, c.SetAir(fresh)
	}, nil
}

// surroundings is the name of surroundings, empty where there are none such.
func (a *answer) surroundings(id studio.ID) string {
	i := slices.IndexFunc(a.Doc.Surroundings, func(s studio.Surroundings) bool { return s.ID == id })
	if i < 0 {
		return ""
	}
	return a.Doc.Surroundings[i].Name
}

func (s *Service) air(ctx context.Context, at *moment, days int64) (AirView, error) {
	v := AirView{N: at.N, Now: at.Now, Places: []PlaceAir{}, Words: []climate.Word{}, Sensors: []SensorView{}}
	sensors, err := s.store.Sensors(ctx)
	if err != nil {
		return v, err
	}
	latest := map[studio.ID][]climate.Sample{}
	for _, sensor := range sensors {
		samples, err := s.store.Samples(ctx, sensor.ID, at.Now-climate.Unchanged, at.Now+climate.Ahead+1)
		if err != nil {
			return v, err
		}
		if sensor.In != nil {
			latest[*sensor.In] = append(latest[*sensor.In],
				samples[climate.Since(samples, at.Now-climate.Patience):]...)
		}
		v.Sensors = append(
			v.Sensors,
			SensorView{Sensor: sensor, Quiet: sensor.In != nil && climate.Quiet(sensor.Last, at.Now),
				Stuck: climate.Stuck(samples)},
		)
	}
	places := []PlaceAir{{Named: Named{Name: "The room"}}}
	for _, in := range at.inForce.Doc.Surroundings {
		places = append(places, PlaceAir{Named: Named{ID: in.ID, Name: in.Name}, Closed: in.Closed})
	}
	hour := int64(at.Now / 60)
	v.Stall = climate.Stall(at.inForce.Doc)
	behind, err := s.store.Air(ctx, at.Now, hour-24*days-12, hour+shownAhead)
	if err != nil {
		return v, err
	}
	v.Taken, v.Moved = studio.Minute(behind.InUse.Made)*60, behind.InUse.Moved
	v.Words = append(v.Words, behind.InUse.Words...)
	for _, p := range places {
		c := behind.Curves[p.ID]
		p.From = c.From
		_, p.Apart = climate.Together(behind.Measured[p.ID]...)
		for _, h := range slices.Concat(behind.Measured[p.ID]...) {
			if h.Hour >= hour-24 {
				p.Aside += h.Outliers
			}
		}
		for _, point := range c.Hours {
			p.Curve = append(p.Curve, HourAir{Point: point, Speed: drying.Speed(point.Air, v.Stall)})
		}
		p.Latest = climate.Latest(latest[p.ID])
		v.Places = append(v.Places, p)
	}
	return v, nil
}
