package api

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"math/big"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/studio"
	"bractum/store"
)

// WayAccess registers what is about coming in: it is in no journal where it holds a secret, and is nobody's command.
const WayAccess = "access"

// entered is an answer that lets a browser in, or out.
type entered struct {
	Cookie string `header:"Set-Cookie"`
	Body   AccessView
}

func access[I, O any](to huma.API, o operation, run func(context.Context, *I) (*O, error)) {
	huma.Register(
		to,
		o.described(WayAccess, 401, 403, 404, 409, 422, 429),
		func(ctx context.Context, in *I) (*O, error) {
			out, err := run(ctx, in)
			return out, problem(err)
		},
	)
}

// AdminView is who may come in, for a lead.
type AdminView struct {
	People   []PersonAccess `json:"people"`
	Browsers []Browser      `json:"browsers" doc:"tablets, and those in which somebody is signed in; the latest seen first"`
	Keys     []store.Key    `json:"keys"`
}

// PersonAccess is how somebody comes in.
type PersonAccess struct {
	Person   studio.ID `json:"person"`
	Role     string    `json:"role"`
	Password bool      `json:"password"`
	Pin      bool      `json:"pin"`
}

// Browser is one that is known.
type Browser struct {
	ID     string    `json:"id"`
	Kind   string    `json:"kind"`
	Name   string    `json:"name"`
	Person studio.ID `json:"person,omitempty"`
	Seen   time.Time `json:"seen"`
	This   bool      `json:"this" doc:"the one that asks"`
}

// Invitation is a code by which one tablet comes in.
type Invitation struct {
	Code string    `json:"code"`
	Ends time.Time `json:"ends"`
}

// NewKey is a key with its secret, which is shown once.
type NewKey struct {
	store.Key
	Secret string `json:"secret"`
}

func (s *Service) registerAccess(to huma.API) {
	access(to, get("/access", "get-access", "Whether people sign in here, and who has in this browser"),
		func(ctx context.Context, _ *none) (*body[AccessView], error) {
			v, err := s.accessView(ctx)
			return &body[AccessView]{v}, err
		})
	type signing struct {
		Body struct {
			Name     string `json:"name" maxLength:"80"`
			Password string `json:"password" maxLength:"400"`
		}
	}
	access(to, post("/access/sign-in", "sign-in", "", "Sign in with a password"),
		func(ctx context.Context, in *signing) (*entered, error) {
			return s.signIn(ctx, in.Body.Name, in.Body.Password)
		})
	access(to, post("/access/sign-out", "sign-out", "", "Sign this browser out"),
		func(ctx context.Context, _ *none) (*entered, error) {
			if who := AskerOf(ctx); who.Session.Kind == store.OfPerson {
				if err := s.store.DropSession(ctx, who.Session.ID); err != nil {
					return nil, err
				}
			}
			return &entered{
				Cookie: s.cookie("", -time.Second),
				Body:   AccessView{Locked: AskerOf(ctx).Locked, WithPin: []studio.ID{}, At: []string{}},
			}, nil
		})
	type joining struct {
		Body struct {
			Code string `json:"code" maxLength:"40"`
		}
	}
	access(
		to,
		post("/access/tablet", "join-as-tablet", "", "Make this browser a tablet of the studio, by a lead's code"),
		func(ctx context.Context, in *joining) (*entered, error) { return s.join(ctx, in.Body.Code) },
	)
	type sitting struct {
		Body struct {
			Person studio.ID `json:"person" format:"uuid"`
			Pin    string    `json:"pin,omitempty" maxLength:"40"`
		}
	}
	access(to, post("/access/seat", "sit-down", "", "Say who is at this tablet"),
		func(ctx context.Context, in *sitting) (*body[AccessView], error) {
			return s.sitDown(ctx, in.Body.Person, in.Body.Pin)
		})
	access(to, post("/access/leave", "leave-seat", "", "Nobody is at this tablet now"),
		func(ctx context.Context, _ *none) (*body[AccessView], error) {
			who := AskerOf(ctx)
			if who.Session.Kind == store.OfTablet {
				if err := s.store.Sits(ctx, who.Session.ID, "", time.Now()); err != nil {
					return nil, err
				}
				who.Session.Person = ""
			}
			v, err := s.accessView(who.With(ctx))
			return &body[AccessView]{v}, err
		})
	access(to, get("/access/all", "list-access", "Who may come in, by what"),
		func(ctx context.Context, _ *none) (*body[AdminView], error) {
			v, err := s.adminView(ctx)
			return &body[AdminView]{v}, err
		})
	type inviting struct {
		Body struct {
			Name string `json:"name" minLength:"1" maxLength:"60" doc:"what the tablet is called, as its bench"`
		}
	}
	access(
		to,
		post("/access/invitations", "invite-tablet", "", "A code by which one tablet comes in, good for ten minutes"),
		func(ctx context.Context, in *inviting) (*body[Invitation], error) {
			if err := s.lockedFirst(ctx); err != nil {
				return nil, err
			}
			code, now := codeWord(), time.Now()
			ends := now.Add(codeLasts)
			return &body[Invitation]{
					Invitation{code, ends.UTC()},
				}, s.store.Invite(
					ctx,
					hashed(code),
					in.Body.Name,
					now,
					ends,
				)
		},
	)
	type one struct {
		ID string `path:"id" maxLength:"60"`
	}
	access(to, remove("/access/browsers/{id}", "drop-browser", "", "A tablet or browser is let in no more"),
		func(ctx context.Context, in *one) (*body[AdminView], error) {
			if err := s.store.DropSession(ctx, in.ID); err != nil {
				return nil, err
			}
			v, err := s.adminView(ctx)
			return &body[AdminView]{v}, err
		})
	type making struct {
		Body struct {
			Name    string `json:"name" minLength:"1" maxLength:"60"`
			Purpose string `json:"purpose" enum:"sensor,reader,calendar"`
			Opens   string `json:"opens,omitempty" pattern:"^(hand-overs|drying|people/[0-9a-f-]{36})$" doc:"of a calendar: which"`
		}
	}
	access(to, post("/access/keys", "make-key", "", "A key for a device or a script, shown once"),
		func(ctx context.Context, in *making) (*body[NewKey], error) {
			if (in.Body.Purpose == "calendar") != (in.Body.Opens != "") {
				return nil, huma.Error422UnprocessableEntity("say which calendar the key opens; no other key opens one")
			}
			secret := token()
			key := store.Key{ID: string(newID()), Purpose: in.Body.Purpose, Opens: in.Body.Opens,
				Name: in.Body.Name, Made: time.Now().UTC()}
			return &body[NewKey]{NewKey{key, secret}}, s.store.AddKey(ctx, key, hashed(secret))
		})
	access(to, remove("/access/keys/{id}", "drop-key", "", "A key opens nothing any more"),
		func(ctx context.Context, in *one) (*body[AdminView], error) {
			if err := s.store.DropKey(ctx, in.ID); err != nil {
				return nil, err
			}
			v, err := s.adminView(ctx)
			return &body[AdminView]{v}, err
		})
	type setting struct {
		Who
		ID   studio.ID `path:"id" format:"uuid"`
		Body struct {
			Role     string  `json:"role" enum:"lead,maker,hand-over"`
			Password *string `json:"password,omitempty" maxLength:"400" doc:"another; none if empty"`
			Pin      *string `json:"pin,omitempty" pattern:"^([0-9]{4,12})?$" doc:"another; none if empty"`
			Current  string  `json:"current,omitempty" maxLength:"400" doc:"one's own password, to change it"`
		}
	}
	errand(s, to, put("/access/people/{id}", "set-access", "access changed", "How somebody comes in"),
		func(ctx context.Context, at *moment, in *setting) (func(*change) (Moved, error), error) {
			return s.setAccess(ctx, at, in.ID, in.Body.Role, in.Body.Password, in.Body.Pin, in.Body.Current)
		})
}

// lockedFirst refuses what has no sense while everybody is let in.
func (s *Service) lockedFirst(ctx context.Context) error {
	if is, err := s.Locked(ctx); err != nil || is {
		return err
	}
	return studio.Refuse("a lead needs a password first; until then everybody at this computer is let in")
}

// codeWord is easily read out and typed: eight of letters and digits that are not taken for one another.
func codeWord() string {
	const letters = "abcdefghjkmnpqrstuvwxyz23456789"
	var word strings.Builder
	for range 8 {
		n, _ := rand.Int(rand.Reader, big.NewInt(int64(len(letters)))) // never fails
		word.WriteByte(letters[n.Int64()])
	}
	return word.String()
}

func (s *Service) people(ctx context.Context) ([]studio.Person, error) {
	at, err := s.now(ctx)
	if err != nil {
		return nil, err
	}
	return at.inForce.Doc.People, nil
}

func (s *Service) signIn(ctx context.Context, name, password string) (*entered, error) {
	if err := s.lockedFirst(ctx); err != nil {
		return nil, err
	}
	people, err := s.people(ctx)
	if err != nil {
		return nil, err
	}
	all, err := s.store.Accesses(ctx)
	if err != nil {
		return nil, err
	}
	var person studio.Person
	for _, p := range people {
		if strings.EqualFold(p.Name, strings.TrimSpace(name)) && !p.OutOfUse {
			person = p
		}
	}
	guess := AskerOf(ctx).From + " signs in as " + strings.ToLower(name)
	if err := s.door.guesses.may(guess, time.Now()); err != nil {
		return nil, err
	}
	is, err := s.matches(ctx, password, accessOf(all, person.ID).Password)
	if err != nil {
		return nil, err
	}
	if !is {
		return nil, huma.Error401Unauthorized(
			"name or password is not right. Whoever lost one: bractum password --data FOLDER, at the studio's computer",
		)
	}
	s.door.guesses.right(guess)
	cookie, err := s.comesIn(
		ctx,
		store.Session{Kind: store.OfPerson, Name: person.Name, Person: person.ID},
		personLasts,
	)
	if err != nil {
		return nil, err
	}
	who := Asker{Locked: true, Role: accessOf(all, person.ID).Role, Person: person.ID,
		Session: store.Session{ID: "new", Kind: store.OfPerson, Name: person.Name, Person: person.ID}}
	v, err := s.accessView(who.With(ctx))
	return &entered{Cookie: cookie, Body: v}, err
}

func (s *Service) join(ctx context.Context, code string) (*entered, error) {
	guess := AskerOf(ctx).From + " tries codes"
	if err := s.door.guesses.may(guess, time.Now()); err != nil {
		return nil, err
	}
	name, err := s.store.Invited(ctx, hashed(strings.ToLower(strings.TrimSpace(code))), time.Now())
	if missing := (store.NotFound{}); errors.As(err, &missing) {
		return nil, huma.Error401Unauthorized(
			"this code is not right, was used, or is older than ten minutes; ask a lead for another",
		)
	}
	if err != nil {
		return nil, err
	}
	s.door.guesses.right(guess)
	cookie, err := s.comesIn(ctx, store.Session{Kind: store.OfTablet, Name: name}, tabletLasts)
	if err != nil {
		return nil, err
	}
	who := Asker{Locked: true, Role: store.Maker, Session: store.Session{ID: "new", Kind: store.OfTablet, Name: name}}
	v, err := s.accessView(who.With(ctx))
	return &entered{Cookie: cookie, Body: v}, err
}

func (s *Service) sitDown(ctx context.Context, person studio.ID, pin string) (*body[AccessView], error) {
	who := AskerOf(ctx)
	if who.Session.Kind != store.OfTablet {
		return nil, studio.Refuse("this is no tablet of the studio")
	}
	people, err := s.people(ctx)
	if err != nil {
		return nil, err
	}
	if !works(people, person) {
		return nil, store.NotFound{Thing: "this person"}
	}
	all, err := s.store.Accesses(ctx)
	if err != nil {
		return nil, err
	}
	if hash := accessOf(all, person).Pin; hash != "" {
		guess := who.Session.ID + " sits down as " + string(person)
		if err := s.door.guesses.may(guess, time.Now()); err != nil {
			return nil, err
		}
		is, err := s.matches(ctx, pin, hash)
		if err != nil {
			return nil, err
		}
		if !is {
			return nil, huma.Error401Unauthorized("this PIN is not right")
		}
		s.door.guesses.right(guess)
	}
	now := time.Now()
	if err := s.store.SitDown(ctx, who.Session.ID, person, now, now.Add(seatLasts)); err != nil {
		return nil, err
	}
	who.Session.Person = person
	v, err := s.accessView(who.With(ctx))
	return &body[AccessView]{v}, err
}

func works(people []studio.Person, id studio.ID) bool {
	for _, p := range people {
		if p.ID == id {
			return !p.OutOfUse
		}
	}
	return false
}

func (s *Service) adminView(ctx context.Context) (AdminView, error) {
	v := AdminView{People: []PersonAccess{}, Browsers: []Browser{}, Keys: []store.Key{}}
	people, err := s.people(ctx)
	if err != nil {
		return v, err
	}
	all, err := s.store.Accesses(ctx)
	if err != nil {
		return v, err
	}
	for _, p := range people {
		a := accessOf(all, p.ID)
		v.People = append(v.People, PersonAccess{p.ID, a.Role, a.Password != "", a.Pin != ""})
	}
	sessions, err := s.store.Sessions(ctx, time.Now())
	if err != nil {
		return v, err
	}
	for _, b := range sessions {
		v.Browsers = append(
			v.Browsers,
			Browser{b.ID, b.Kind, b.Name, b.Person, b.Seen, b.ID == AskerOf(ctx).Session.ID},
		)
	}
	v.Keys, err = s.store.Keys(ctx)
	return v, err
}

// setAccess says how somebody comes in. Nobody is left out by it: a studio that has a lead keeps one.
func (s *Service) setAccess(
	ctx context.Context,
	at *moment,
	id studio.ID,
	role string,
	password, pin *string,
	current string,
) (func(*change) (Moved, error), error) {
	var name string
	for _, p := range at.inForce.Doc.People {
		if p.ID == id {
			name = p.Name
		}
	}
	if name == "" {
		return nil, store.NotFound{Thing: "this person"}
	}
	all, err := s.store.Accesses(ctx)
	if err != nil {
		return nil, err
	}
	is := accessOf(all, id)
	was := is
	is.Role = role
	if password != nil {
		if who := AskerOf(ctx); was.Password != "" && who.Person == id {
			if err := s.door.guesses.may("changes "+string(id), time.Now()); err != nil {
				return nil, err
			}
			if right, err := s.matches(ctx, current, was.Password); err != nil || !right {
				return nil, errors.Join(err, studio.Problems{studio.Flaw("current", "is not your password")})
			}
			s.door.guesses.right("changes " + string(id))
		}
		if is.Password = ""; *password != "" {
			if err := GoodPassword(*password, name); err != nil {
				return nil, err
			}
			if is.Password, err = s.hash(ctx, *password); err != nil {
				return nil, err
			}
		}
	}
	if pin != nil {
		if is.Pin = ""; *pin != "" {
			if is.Pin, err = s.hash(ctx, *pin); err != nil {
				return nil, err
			}
		}
	}
	after := append([]store.Access{is}, all...)
	if locked(all) && !lockedAs(after, id) {
		return nil, studio.Refuse(
			"somebody has to be lead with a password, else everybody on the network is let in; " +
				"make another one lead first",
		)
	}
	return func(c *change) (Moved, error) {
		c.Summary = fmt.Sprintf("%s comes in as %s", name, role)
		if is.Password != was.Password {
			c.Summary = fmt.Sprintf("%s has another password", name)
		}
		return Moved{c.Tx.N()}, c.SetAccess(is, is.Password != was.Password, AskerOf(ctx).Session.ID)
	}, nil
}

// lockedAs is locked, of accesses whose first counts for its person.
func lockedAs(all []store.Access, changed studio.ID) bool {
	for i, a := range all {
		if (i == 0 || a.Person != changed) && a.Role == store.Lead && a.Password != "" {
			return true
		}
	}
	return false
}
