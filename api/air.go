package api

import (
	"context"
	"fmt"
	"mime"
	"net/http"
	"slices"
	"strings"

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
	N       int64           `json:"n"`
	Now     studio.Minute   `json:"now"`
	Places  []PlaceAir      `json:"places"`
	Words   []climate.Word  `json:"words"`
	Stall   studio.PerMille `json:"stallPerMille" doc:"the humidity at which the first of what dries here no longer does"`
	Taken   studio.Minute   `json:"taken" doc:"when the air that plans reckon with was taken; 0 never"`
	Moves   string          `json:"moves,omitempty" doc:"what that moved"`
	Sensors []SensorView    `json:"sensors"`
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
	huma.Register(to, huma.Operation{OperationID: "send-readings", Method: http.MethodPost, Path: "/api/readings", Summary: "Readings of temperature and humidity, as SenML or CSV",
		MaxBodyBytes: mostReadings, Errors: []int{413, 415, 422, 429, 503}}, func(ctx context.Context, in *sent) (*body[Received], error) {
		answer, err := s.Receive(ctx, in.ContentType, in.RawBody)
		if err == nil {
			err = s.breathe(ctx, answer.late)
		}
		return &body[Received]{answer}, problem(err)
	})
	type history struct {
		Days int64 `query:"days" minimum:"1" maximum:"400" default:"1" doc:"how far back the curves go"`
	}
	get(to, "/air", "get-air", "The air of the studio: now, behind and ahead", func(ctx context.Context, in *history) (AirView, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return AirView{}, err
		}
		return s.air(ctx, at, in.Days)
	})
	type say struct {
		Who
		Body struct {
			Feels string        `json:"feels" enum:"dry,damp,very damp"`
			Until studio.Minute `json:"until"`
		}
	}
	command(to, http.MethodPost, "/air/words", "say-of-air", "What the lead says of the coming air", func(ctx context.Context, in *say) (Moved, error) {
		return s.reword(ctx, in.Who, "Said of the air", func(at *situation) ([]climate.Word, string, error) {
			word, err := climate.Say(in.Body.Feels, at.now, in.Body.Until)
			word.ID = studio.ID(in.CommandID)
			return []climate.Word{word}, word.Said + " until " + at.calendar.Time(word.Until).Format("Mon 2 Jan 15:04"), err
		})
	})
	type unsay struct {
		Who
	}
	command(to, http.MethodDelete, "/air/words", "unsay-of-air", "Let the sensors speak for themselves again", func(ctx context.Context, in *unsay) (Moved, error) {
		return s.reword(ctx, in.Who, "What was said of the air is taken back", func(*situation) ([]climate.Word, string, error) {
			return []climate.Word{}, "", nil
		})
	})
	type hang struct {
		Who
		Sensor int64 `path:"sensor"`
		Body   struct {
			In *studio.ID `json:"in,omitempty" doc:"the surroundings, the room if empty; nothing takes it down"`
		}
	}
	command(to, http.MethodPost, "/sensors/{sensor}/hang", "hang-sensor", "Say where a sensor hangs", func(ctx context.Context, in *hang) (Moved, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return Moved{}, err
		}
		if in.Body.In != nil && *in.Body.In != "" && at.inForce.surroundings(*in.Body.In) == "" {
			return Moved{}, huma.Error422UnprocessableEntity("the studio has no such surroundings", &huma.ErrorDetail{Location: "body.in", Value: *in.Body.In})
		}
		done, err := s.do(ctx, in.Who, "sensor hung", func(tx *store.Tx) (any, error) {
			sensor, err := tx.HangSensor(in.Sensor, in.Body.In)
			switch {
			case in.Body.In == nil:
				tx.Summary = sensor.Device + " was taken down"
			case *in.Body.In == "":
				tx.Summary = sensor.Device + " hangs in the room"
			default:
				tx.Summary = sensor.Device + " hangs in " + at.inForce.surroundings(*in.Body.In)
			}
			return Moved{}, err
		})
		if err != nil {
			return Moved{}, err
		}
		return Moved{done.N}, s.breathe(ctx, true)
	})
}

// mostReadings is the largest body of readings, in bytes.
const mostReadings = 4 << 20

// Receive keeps what a device sent. What cannot be is named, the rest is kept.
func (s *Service) Receive(ctx context.Context, contentType string, sent []byte) (Received, error) {
	media, _, _ := mime.ParseMediaType(contentType) // of a type that cannot be read nothing is known
	now, calendar, err := s.minute(ctx)
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
		return r, huma.NewError(http.StatusUnsupportedMediaType, "readings are taken as application/senml+json (RFC 8428) or text/csv")
	}
	if err != nil {
		return r, huma.Error422UnprocessableEntity(err.Error() + "; nothing was kept")
	}
	of := map[string][]climate.Sample{}
	refused := map[string][]outside.Unread{}
	for _, one := range read {
		if err := climate.Sound(one.Sample, now); err != nil {
			why := outside.Unread{Record: one.Device + " at " + string(calendar.Wall(one.At)), Why: err.Error()}
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
		s.listen(EventAir, int64(now))
	}
	return r, nil
}

// minute is now, without reckoning anything.
func (s *Service) minute(ctx context.Context) (studio.Minute, studio.Calendar, error) {
	_, calendar, standing, err := s.store.LastN(ctx)
	if err != nil {
		return 0, calendar, err
	}
	return s.clock(calendar, standing), calendar, nil
}

// breathe has plans reckon with the air as it has become, where that matters to what
// dries, and says what it moves. That is once an hour, and when something became known
// of hours that are over.
func (s *Service) breathe(ctx context.Context, late bool) error {
	s.breathing.Lock()
	defer s.breathing.Unlock()
	now, _, err := s.minute(ctx)
	if err != nil || now/60 == s.breathed && !late {
		return err
	}
	_, err = facts(ctx, s, func(at *situation) (nothing, error) { return nothing{}, s.takeAir(ctx, at) })
	if err == nil {
		s.breathed = now / 60
	}
	return err
}

// Open has plans reckon with the air as it is when the application is opened.
func (s *Service) Open(ctx context.Context) error { return s.breathe(ctx, true) }

func (s *Service) takeAir(ctx context.Context, at *situation) error {
	fresh, inUse, err := s.store.FreshAir(ctx, at.now, nil)
	if err != nil {
		return err
	}
	if !climate.Due(at.inForce.doc, at.calendar, inUse, fresh) {
		return nil
	}
	moves, err := at.inForce.with(fresh)
	if err != nil {
		return err
	}
	fresh.Moves = moves
	done, err := s.store.Do(ctx, store.Command{ID: uuid.NewString(), Kind: "air taken", Now: at.now}, func(tx *store.Tx) (any, error) {
		tx.Summary = "The air is other than was reckoned with; " + moves
		return Moved{}, errOr(at.unchanged(tx), func() error { return tx.SetAir(fresh) })
	})
	s.told(done, err)
	return err
}

func errOr(err error, then func() error) error {
	if err != nil {
		return err
	}
	return then()
}

// with says what another air would move in the plan.
func (a *answer) with(air climate.Air) (string, error) {
	doc := *a.doc
	air.Into(&doc)
	after, err := plan.Repair(&doc, a.count, a.plan)
	if err != nil {
		return "", err
	}
	d := plan.Compare(a.plan, after)
	says := fmt.Sprintf("%d tasks move", len(d.Moved))
	if len(d.Moved) == 1 {
		says = "1 task moves"
	}
	for _, o := range d.Orders {
		i := slices.IndexFunc(a.doc.Orders, func(order studio.Order) bool { return order.ID == o.Order })
		if i < 0 || o.Before == nil || o.After == nil || o.Before.Slack == nil || o.After.Slack == nil {
			continue
		}
		switch by := (*o.After.Slack - *o.Before.Slack) / 60; {
		case by < 0:
			says += fmt.Sprintf(", %s %d h less slack", a.doc.Orders[i].Name, -by)
		case by > 0:
			says += fmt.Sprintf(", %s %d h more slack", a.doc.Orders[i].Name, by)
		}
	}
	return says, nil
}

// reword changes what the lead says of the air, and has plans reckon with it.
func (s *Service) reword(ctx context.Context, who Who, kind string, change func(*situation) (words []climate.Word, said string, err error)) (Moved, error) {
	s.breathing.Lock()
	defer s.breathing.Unlock()
	return facts(ctx, s, func(at *situation) (Moved, error) {
		words, said, err := change(at)
		if err != nil {
			return Moved{}, err
		}
		fresh, _, err := s.store.FreshAir(ctx, at.now, words)
		if err != nil {
			return Moved{}, err
		}
		moves, err := at.inForce.with(fresh)
		if err != nil {
			return Moved{}, err
		}
		fresh.Moves = moves
		done, err := s.do(ctx, who, strings.ToLower(kind), func(tx *store.Tx) (any, error) {
			if tx.Summary = kind; said != "" {
				tx.Summary += ": " + said
			}
			tx.Summary += "; " + moves
			return Moved{}, errOr(at.unchanged(tx), func() error { return tx.SetAir(fresh) })
		})
		return Moved{done.N}, err
	})
}

// surroundings is the name of surroundings, empty where there are none such.
func (a *answer) surroundings(id studio.ID) string {
	i := slices.IndexFunc(a.doc.Surroundings, func(s studio.Surroundings) bool { return s.ID == id })
	if i < 0 {
		return ""
	}
	return a.doc.Surroundings[i].Name
}

func (s *Service) air(ctx context.Context, at *situation, days int64) (AirView, error) {
	v := AirView{N: at.n, Now: at.now, Places: []PlaceAir{}, Words: []climate.Word{}, Sensors: []SensorView{}}
	sensors, err := s.store.Sensors(ctx)
	if err != nil {
		return v, err
	}
	latest := map[studio.ID][]climate.Sample{}
	for _, sensor := range sensors {
		samples, err := s.store.Samples(ctx, sensor.ID, at.now-climate.Unchanged, at.now+climate.Ahead+1)
		if err != nil {
			return v, err
		}
		if sensor.In != nil {
			latest[*sensor.In] = append(latest[*sensor.In], samples[climate.Since(samples, at.now-climate.Patience):]...)
		}
		v.Sensors = append(v.Sensors, SensorView{sensor, sensor.In != nil && climate.Quiet(sensor.Last, at.now), climate.Stuck(samples)})
	}
	places := []PlaceAir{{Named: Named{Name: "The room"}}}
	for _, in := range at.inForce.doc.Surroundings {
		places = append(places, PlaceAir{Named: Named{ID: in.ID, Name: in.Name}, Closed: in.Closed})
	}
	hour := int64(at.now / 60)
	v.Stall = climate.Stall(at.inForce.doc)
	behind, err := s.store.Air(ctx, at.now, hour-24*days-12, hour+shownAhead)
	if err != nil {
		return v, err
	}
	v.Taken, v.Moves, v.Words = studio.Minute(behind.InUse.Made)*60, behind.InUse.Moves, append(v.Words, behind.InUse.Words...)
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
			p.Curve = append(p.Curve, HourAir{point, drying.Speed(point.Air, v.Stall)})
		}
		p.Latest = climate.Latest(latest[p.ID])
		v.Places = append(v.Places, p)
	}
	return v, nil
}
