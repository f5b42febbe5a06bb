package api

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/core/workshop"
	"bractum/store"
)

// Beginnings are what an empty folder can become.
type Beginnings struct {
	// Starter is what a studio of one's own begins from, with the book of flowers or without.
	Starter func(book bool) *studio.Document
	// Look opens a demo beside, in a folder of its own, and gives its address.
	Look func() (address string, err error)
}

// BeginningView says whether anything was begun here, and from what.
type BeginningView struct {
	Empty   bool     `json:"empty"`
	Flowers []string `json:"flowers" doc:"of the book that can be begun with"`
	Skills  []string `json:"skills" doc:"that its work asks for"`
	Look    bool     `json:"look" doc:"a demo can be opened beside"`
}

// OwnBeginning is what is asked of whoever begins a studio: no more than a first plan needs.
type OwnBeginning struct {
	Name   string             `json:"name" minLength:"1" maxLength:"80"`
	Zone   string             `json:"zone" doc:"where it is, as a name of the time zone database"`
	Book   bool               `json:"book" doc:"with the book of flowers"`
	Person string             `json:"person" minLength:"1" maxLength:"80" doc:"who begins it"`
	Skills []string           `json:"skills"`
	Hours  []studio.DayHours  `json:"hours"`
	Breaks []studio.BreakTime `json:"breaks"`
	Manner *studio.Manner     `json:"manner,omitempty" doc:"how figures are said"`
}

// Begins says what an empty folder can become.
func (s *Service) Begins(from Beginnings) { s.beginnings = from }

func (s *Service) empty(ctx context.Context) (bool, error) {
	_, _, _, err := s.store.LastN(ctx)
	if errors.Is(err, store.ErrEmpty) {
		return true, nil
	}
	return false, err
}

// Begin fills an empty file with a document that nobody works by yet. One by whose minutes the real clock is to
// run begins in the past.
func Begin(ctx context.Context, s *store.Store, doc *studio.Document, standing bool) error {
	if !standing && doc.Epoch.After(time.Now()) {
		return fmt.Errorf("its epoch, %s, lies in the future; a studio that is served begins in the past",
			doc.Epoch.Format(time.DateOnly))
	}
	once, err := plan.WeighedOnce(doc)
	if err != nil {
		return err
	}
	return s.Seed(ctx, once, standing)
}

// begun fills the empty file, and has the plan reckon with its air.
func (s *Service) begun(ctx context.Context, doc *studio.Document) (Moved, error) {
	if empty, err := s.empty(ctx); err != nil || !empty {
		return Moved{}, errors.Join(err, studio.Refuse("a studio is begun here already; nothing was written"))
	}
	if err := Begin(ctx, s.store, doc, false); err != nil {
		return Moved{}, huma.Error422UnprocessableEntity(err.Error() + ". Nothing was written")
	}
	n, _, _, err := s.store.LastN(ctx)
	return Moved{n}, errors.Join(err, s.Open(ctx))
}

// restored fills the empty file with a backup.
func (s *Service) restored(ctx context.Context, backup []byte) (Moved, error) {
	if empty, err := s.empty(ctx); err != nil || !empty {
		return Moved{}, errors.Join(err, studio.Refuse("a studio is begun here already; nothing was written"))
	}
	if err := s.store.TakeIn(ctx, bytes.NewReader(backup)); err != nil {
		return Moved{}, err
	}
	n, _, _, err := s.store.LastN(ctx)
	return Moved{n}, errors.Join(err, s.Open(ctx))
}

// own is a studio as somebody begins it.
func (s *Service) own(in OwnBeginning) (*studio.Document, error) {
	doc := s.beginnings.Starter(in.Book)
	doc.Name, doc.Zone = in.Name, in.Zone
	doc.Epoch = time.Now().UTC().Truncate(24*time.Hour).AddDate(0, 0, -1)
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return nil, studio.Problems{studio.Flaw("zone", "is not known; choose one, as Europe/Dublin")}
	}
	doc.Now = calendar.MinuteOf(time.Now())
	if in.Manner != nil {
		doc.Settings.Manner = *in.Manner
	}
	p := studio.Person{ID: newID(), Name: in.Person, Hours: in.Hours, Breaks: in.Breaks}
	for _, skill := range in.Skills {
		p.Skills = append(p.Skills, studio.Skill{Skill: skill, Pace: 100})
	}
	doc.People = []studio.Person{p}
	if problems := doc.Validate(); len(problems) > 0 {
		return nil, problems
	}
	return doc, nil
}

func (s *Service) registerBeginning(to huma.API) {
	read(to, get("/beginning", "get-beginning", "Whether a studio is begun here, and from what it can be"),
		func(ctx context.Context, _ *none) (v BeginningView, err error) {
			v = BeginningView{Flowers: []string{}, Skills: []string{}}
			if v.Empty, err = s.empty(ctx); err != nil || !v.Empty || s.beginnings.Starter == nil {
				return v, err
			}
			v.Look = s.beginnings.Look != nil
			book := s.beginnings.Starter(true)
			v.Skills = workshop.Skills(book)
			for _, r := range workshop.Flowers(book) {
				v.Flowers = append(v.Flowers, r.Name)
			}
			return v, nil
		})
	type own struct{ Body OwnBeginning }
	beginning(to, post("/beginning", "begin-studio", "", "Begin a studio of one's own in an empty folder"),
		func(ctx context.Context, in *own) (Moved, error) {
			if s.beginnings.Starter == nil {
				return Moved{}, studio.Refuse("this program begins no studio")
			}
			doc, err := s.own(in.Body)
			if err != nil {
				return Moved{}, err
			}
			return s.begun(ctx, doc)
		})
	type file struct {
		RawBody []byte `contentType:"application/octet-stream"`
	}
	beginning(to, post("/beginning/file", "begin-from-file", "",
		"Begin with a studio document or a backup in an empty folder").taking(MostBody),
		func(ctx context.Context, in *file) (Moved, error) {
			if bytes.HasPrefix(in.RawBody, []byte("SQLite format 3\x00")) {
				return s.restored(ctx, in.RawBody)
			}
			doc, err := studio.Read(bytes.NewReader(in.RawBody))
			var problems studio.Problems
			if errors.As(err, &problems) {
				return Moved{}, problems
			}
			if err != nil {
				return Moved{}, huma.Error422UnprocessableEntity("the file does not hold a studio: " + err.Error())
			}
			return s.begun(ctx, doc)
		})
	type looked struct {
		Address string `json:"address"`
	}
	beginning(to, post("/beginning/look", "look-round", "", "Open a demo beside; nothing of it is kept here"),
		func(context.Context, *none) (looked, error) {
			if s.beginnings.Look == nil {
				return looked{}, studio.Refuse("this program has no demo to look at")
			}
			address, err := s.beginnings.Look()
			return looked{address}, err
		})
}

// beginning registers what is done before there is anybody whom a command could name.
func beginning[I, O any](to huma.API, o operation, run func(context.Context, *I) (O, error)) {
	plainly(to, o.described(WayBegin, http.StatusConflict, http.StatusRequestEntityTooLarge,
		http.StatusUnprocessableEntity), run)
}
