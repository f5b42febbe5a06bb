package api

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/danielgtaylor/huma/v2"

	"bractum/core/studio"
	"bractum/store"
)

// A studio is open to whoever sits at its computer until a lead has a password; from then on every reader and writer
// has a session or a key.

// Cookie is what a browser that has come in is known by.
const Cookie = "bractum"

// How long things last. A lead's browser stays in for as long as it is used every day; at a tablet whoever sat down
// may send what was recorded without a connection until the end of a long day.
const (
	personLasts = 14 * 24 * time.Hour
	personIdle  = 16 * time.Hour
	tabletLasts = 365 * 24 * time.Hour
	seatLasts   = 14 * time.Hour
	codeLasts   = 10 * time.Minute
	seenEvery   = time.Minute
)

// leastPassword and most are how many letters a password has.
const (
	leastPassword = 10
	mostPassword  = 200
)

// Asking is what a request says of who asks.
type Asking struct {
	Path       string
	Operation  string
	Command    bool
	Token, Key string
	Person     string // as the request says
	From       string // the address
}

// Asker is who asks. Without a lead's password everybody is let in, and is nobody in particular.
type Asker struct {
	Locked  bool
	Role    string
	Person  studio.ID // who is signed in, or who sits at the tablet and asks
	Session store.Session
	From    string
}

type askerKey struct{}

// With is a context in which somebody asks.
func (a Asker) With(ctx context.Context) context.Context {
	return context.WithValue(ctx, askerKey{}, a)
}

// AskerOf is who asks in a context; nobody in particular where nobody was admitted.
func AskerOf(ctx context.Context) Asker {
	a, _ := ctx.Value(askerKey{}).(Asker)
	return a
}

func hashed(secret string) string {
	sum := sha256.Sum256([]byte(secret))
	return hex.EncodeToString(sum[:])
}

// Locked says whether people have to sign in: a lead has a password.
func (s *Service) Locked(ctx context.Context) (bool, error) {
	all, err := s.store.Accesses(ctx)
	return locked(all), err
}

func locked(all []store.Access) bool {
	return slices.ContainsFunc(all, func(a store.Access) bool { return a.Role == store.Lead && a.Password != "" })
}

func accessOf(all []store.Access, person studio.ID) store.Access {
	for _, a := range all {
		if a.Person == person {
			return a
		}
	}
	return store.Access{Person: person, Role: store.Maker}
}

// Admit lets a request in, or says as a problem why not. It is asked of every operation, before anything of it is read.
func (s *Service) Admit(ctx context.Context, in Asking) (Asker, error) {
	all, err := s.store.Accesses(ctx)
	if err != nil {
		return Asker{}, problem(err)
	}
	if !locked(all) {
		return Asker{From: in.From}, nil
	}
	who := Asker{Locked: true, From: in.From}
	if in.Key != "" {
		key, err := s.store.KeyOf(ctx, hashed(in.Key), time.Now())
		if err == nil && KeyMay(key, in.Operation, in.Path) {
			return who, nil
		}
		return who, huma.Error401Unauthorized("this key opens nothing here. Nothing was done")
	}
	if in.Token != "" {
		if who, err = s.seated(ctx, who, all, in); err != nil {
			return who, problem(err)
		}
	}
	switch {
	case May(who.Role, in.Operation):
		return who, nil
	case who.Role == "":
		return who, huma.Error401Unauthorized("sign in first. Nothing was done")
	}
	return who, huma.Error403Forbidden(notTheirs(who.Role))
}

// seated finds who asks by the browser, and whether they may say that they are who they say.
func (s *Service) seated(ctx context.Context, who Asker, all []store.Access, in Asking) (Asker, error) {
	now := time.Now()
	session, err := s.store.SessionOf(ctx, hashed(in.Token), now)
	if missing := (store.NotFound{}); errors.As(err, &missing) {
		return who, nil
	}
	if err != nil {
		return who, err
	}
	if session.Kind == store.OfPerson && now.Sub(session.Seen) > personIdle {
		return who, nil
	}
	who.Session = session
	if now.Sub(session.Seen) > seenEvery {
		if err := s.store.Sits(ctx, session.ID, session.Person, now); err != nil {
			return who, err
		}
	}
	if session.Kind == store.OfPerson {
		who.Person, who.Role = session.Person, accessOf(all, session.Person).Role
		if in.Command && studio.ID(in.Person) != session.Person {
			return who, huma.Error403Forbidden("somebody else is signed in here. Nothing was done")
		}
		return who, nil
	}
	who.Role = store.Maker // whoever looks on
	if !in.Command {
		who.Person = session.Person
		return who, nil
	}
	who.Person = studio.ID(in.Person)
	sat, err := s.store.SatAt(ctx, session.ID, who.Person, now)
	if err != nil {
		return who, err
	}
	if !sat {
		return who, huma.Error401Unauthorized("say who is at this bench first. Nothing was done")
	}
	if accessOf(all, who.Person).Role == store.HandOver {
		who.Role = store.HandOver
	}
	return who, nil
}

// Still says whether a browser that follows what happens may go on doing so.
func (s *Service) Still(ctx context.Context, token string) bool {
	is, err := s.Locked(ctx)
	if err != nil || !is {
		return err == nil
	}
	_, err = s.store.SessionOf(ctx, hashed(token), time.Now())
	return err == nil
}

// AccessView is what a browser knows of its own coming in.
type AccessView struct {
	Locked  bool        `json:"locked" doc:"people have to sign in"`
	Kind    string      `json:"kind,omitempty" enum:"person,tablet" doc:"what this browser is, where it has come in"`
	Name    string      `json:"name,omitempty"`
	Role    string      `json:"role,omitempty"`
	May     []string    `json:"may,omitempty" doc:"operations that the role may give; nothing where all"`
	Person  studio.ID   `json:"person,omitempty"`
	WithPin []studio.ID `json:"withPin" doc:"who gives a PIN to sit down at a tablet"`
	At      []string    `json:"at" doc:"addresses of this studio on its network"`
	Secure  bool        `json:"secure" doc:"it is read over HTTPS"`
	Root    string      `json:"root,omitempty" doc:"what the studio's own root certificate, /root.crt, is recognised by"`
}

func (s *Service) accessView(ctx context.Context) (AccessView, error) {
	who := AskerOf(ctx)
	v := AccessView{Locked: who.Locked, WithPin: []studio.ID{}, At: s.door.addresses,
		Secure: s.door.secure, Root: s.door.root}
	if v.At == nil {
		v.At = []string{}
	}
	if who.Session.ID == "" {
		return v, nil
	}
	v.May = AllOf(who.Role)
	v.Kind, v.Name, v.Role, v.Person = who.Session.Kind, who.Session.Name, who.Role, who.Session.Person
	all, err := s.store.Accesses(ctx)
	for _, a := range all {
		if a.Pin != "" {
			v.WithPin = append(v.WithPin, a.Person)
		}
	}
	return v, err
}

// door is how the application is reached, and how often it was knocked at in vain.
type door struct {
	guesses   guesses
	hashing   chan struct{}
	secure    bool   // over HTTPS
	root      string // what the studio's own root is recognised by
	addresses []string
}

// Door says how the studio is reached: by which addresses, and whether over HTTPS.
func (s *Service) Door(secure bool, addresses ...string) {
	s.door.secure, s.door.addresses = secure, addresses
}

// Trusted says what the root is recognised by that tablets are to trust.
func (s *Service) Trusted(fingerprint string) { s.door.root = fingerprint }

// nobodysHash takes as long as anybody's, for who is not known by name.
const nobodysHash = "$argon2id$v=19$m=65536,t=1,p=2$c29tZXRoaW5nIHNhbHR5$ZWFzaWx5IGd1ZXNzZWQgYnkgbm8gb25lIGF0IGFsbA"

// matches compares a secret with its hash, few at a time: each takes 64 MB for as long as it lasts.
func (s *Service) matches(ctx context.Context, secret, hash string) (bool, error) {
	select {
	case s.door.hashing <- struct{}{}:
		defer func() { <-s.door.hashing }()
	case <-ctx.Done():
		return false, ctx.Err()
	}
	is, err := argon2id.ComparePasswordAndHash(secret, cmp.Or(hash, nobodysHash))
	return is && hash != "", err
}

func (s *Service) hash(ctx context.Context, secret string) (string, error) {
	select {
	case s.door.hashing <- struct{}{}:
		defer func() { <-s.door.hashing }()
	case <-ctx.Done():
		return "", ctx.Err()
	}
	return Hash(secret)
}

// Hash is a password as it is kept.
func Hash(secret string) (string, error) {
	return argon2id.CreateHash(
		secret,
		&argon2id.Params{Memory: 64 * 1024, Iterations: 1, Parallelism: 2, SaltLength: 16, KeyLength: 32},
	)
}

// GoodPassword says what is wrong with a password; nothing if it will do.
func GoodPassword(password, name string) error {
	switch letters := len([]rune(password)); {
	case letters < leastPassword:
		return studio.Problems{
			{
				Place: "password",
				Message: fmt.Sprintf(
					"has %d letters; %d or more would be right, as three words have",
					letters,
					leastPassword,
				),
			},
		}
	case letters > mostPassword:
		return studio.Problems{studio.Flaw("password", "has more than %d letters", mostPassword)}
	case strings.Contains(strings.ToLower(password), strings.ToLower(name)),
		len(strings.Trim(password, password[:1])) == 0:
		return studio.Problems{
			{Place: "password", Message: "is guessed at once; three words that do not belong together would be right"},
		}
	}
	return nil
}

// token is a secret for a browser or a device: 256 bits.
func token() string {
	var b [32]byte
	_, _ = rand.Read(b[:]) // never fails
	return base64.RawURLEncoding.EncodeToString(b[:])
}

// comesIn keeps a new session, and gives the cookie that it is known by.
func (s *Service) comesIn(ctx context.Context, n store.Session, lasts time.Duration) (string, error) {
	secret, now := token(), time.Now()
	n.Token, n.ID, n.Made, n.Seen, n.Ends = hashed(secret), string(newID()), now, now, now.Add(lasts)
	if err := s.store.AddSession(ctx, n); err != nil {
		return "", err
	}
	return s.cookie(secret, lasts), nil
}

func (s *Service) cookie(secret string, lasts time.Duration) string {
	c := http.Cookie{Name: Cookie, Value: secret, Path: "/", MaxAge: int(lasts / time.Second), HttpOnly: true,
		SameSite: http.SameSiteStrictMode, Secure: s.door.secure}
	return c.String()
}
