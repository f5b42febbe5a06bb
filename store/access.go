package store

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// Who may sign in is no part of the studio document: it does not go out with it, and is not taken back with undo.

// Roles of people; who has none said is a maker.
const (
	Lead     = "lead"
	Maker    = "maker"
	HandOver = "hand-over"
)

// Access is how somebody signs in. Password and Pin are hashes by argon2id, empty where there is none.
type Access struct {
	Person        studio.ID
	Role          string
	Password, Pin string
}

// Kinds of sessions: somebody's own browser, and a tablet that belongs to a bench.
const (
	OfPerson = "person"
	OfTablet = "tablet"
)

// Session is a browser that is known. Token is the hash of what only the browser has.
type Session struct {
	Token, ID, Kind, Name string
	Person                studio.ID
	Made, Seen, Ends      time.Time
}

// Key lets a device or a script in, for one purpose.
type Key struct {
	ID      string    `json:"id"`
	Purpose string    `json:"purpose" enum:"sensor,reader,calendar"`
	Opens   string    `json:"opens,omitempty" doc:"of a calendar: which, as its address has it"`
	Name    string    `json:"name"`
	Made    time.Time `json:"made"`
	Seen    time.Time `json:"seen"`
}

func moment(seconds int64) time.Time { return time.Unix(seconds, 0).UTC() }

func sessionOf(r sqlcgen.Session) Session {
	return Session{Token: r.Token, ID: r.ID, Kind: r.Kind, Name: r.Name, Person: studio.ID(r.PersonID),
		Made: moment(r.Made), Seen: moment(r.Seen), Ends: moment(r.Ends)}
}

func keyOf(r sqlcgen.KeysRow) Key {
	return Key{ID: r.ID, Purpose: r.Purpose, Opens: r.Opens, Name: r.Name, Made: moment(r.Made), Seen: moment(r.Seen)}
}

// Accesses are all who have a role, a password or a PIN.
func (s *Store) Accesses(ctx context.Context) ([]Access, error) {
	rows, err := s.reads.Accesses(ctx)
	if err != nil {
		return nil, plain(err)
	}
	all := make([]Access, len(rows))
	for i, r := range rows {
		all[i] = Access{Person: studio.ID(r.PersonID), Role: r.Role, Password: r.Password, Pin: r.Pin}
	}
	return all, nil
}

// SetAccess says how somebody signs in. Where the password is another, their own browsers but one are signed out.
func (t *Tx) SetAccess(a Access, otherPassword bool, but string) error {
	if err := t.q.PutAccess(t.ctx, sqlcgen.PutAccessParams{PersonID: string(a.Person), Role: a.Role, Password: a.Password,
		Pin: a.Pin}); err != nil ||
		!otherPassword {
		return err
	}
	return t.q.DropSessionsOf(t.ctx, sqlcgen.DropSessionsOfParams{PersonID: string(a.Person), But: but})
}

// changing runs what is no command: a sign-in, a tablet that was seen.
func (s *Store) changing(ctx context.Context, do func(*sqlcgen.Queries) error) error {
	tx, err := s.write.BeginTx(ctx, nil)
	if err != nil {
		return plain(err)
	}
	if err := do(s.writes.WithTx(tx)); err != nil {
		return plain(errors.Join(err, tx.Rollback()))
	}
	return plain(tx.Commit())
}

// AddSession keeps a browser that has come in, and forgets those whose time is over.
func (s *Store) AddSession(ctx context.Context, n Session) error {
	return s.changing(ctx, func(q *sqlcgen.Queries) error {
		if err := q.DropOldSessions(ctx, n.Made.Unix()); err != nil {
			return err
		}
		return q.AddSession(ctx, sqlcgen.AddSessionParams{Token: n.Token, ID: n.ID, Kind: n.Kind, Name: n.Name,
			PersonID: string(n.Person), Made: n.Made.Unix(), Seen: n.Seen.Unix(), Ends: n.Ends.Unix()})
	})
}

// SessionOf is the browser with a token; NotFound if there is none, or its time is over.
func (s *Store) SessionOf(ctx context.Context, token string, now time.Time) (Session, error) {
	row, err := s.reads.SessionOf(ctx, sqlcgen.SessionOfParams{Token: token, Now: now.Unix()})
	if errors.Is(err, sql.ErrNoRows) {
		return Session{}, NotFound{"this sign-in"}
	}
	return sessionOf(row), plain(err)
}

// Sessions are all browsers that are known, the latest seen first.
func (s *Store) Sessions(ctx context.Context, now time.Time) ([]Session, error) {
	rows, err := s.reads.Sessions(ctx, now.Unix())
	all := make([]Session, len(rows))
	for i, r := range rows {
		all[i] = sessionOf(r)
	}
	return all, plain(err)
}

// Sits notes that a browser was seen, and who is at it.
func (s *Store) Sits(ctx context.Context, id string, person studio.ID, now time.Time) error {
	return s.changing(ctx, func(q *sqlcgen.Queries) error {
		return q.SeenSession(ctx, sqlcgen.SeenSessionParams{Seen: now.Unix(), PersonID: string(person), ID: id})
	})
}

// SitDown lets somebody's work come from a tablet until a time.
func (s *Store) SitDown(ctx context.Context, id string, person studio.ID, now, until time.Time) error {
	return s.changing(ctx, func(q *sqlcgen.Queries) error {
		if err := q.PutSeat(ctx, sqlcgen.PutSeatParams{SessionID: id, PersonID: string(person), Ends: until.Unix()}); err != nil {
			return err
		}
		return q.SeenSession(ctx, sqlcgen.SeenSessionParams{Seen: now.Unix(), PersonID: string(person), ID: id})
	})
}

// SatAt is true of who has sat down at a tablet, and whose time there is not over.
func (s *Store) SatAt(ctx context.Context, id string, person studio.ID, now time.Time) (bool, error) {
	rows, err := s.reads.SeatsOf(ctx, id)
	for _, r := range rows {
		if r.PersonID == string(person) && r.Ends > now.Unix() {
			return true, nil
		}
	}
	return false, plain(err)
}

// DropSession signs a browser out.
func (s *Store) DropSession(ctx context.Context, id string) error {
	return s.changing(ctx, func(q *sqlcgen.Queries) error {
		if err := q.DropSeats(ctx, id); err != nil {
			return err
		}
		dropped, err := q.DropSession(ctx, id)
		if err == nil && dropped == 0 {
			err = NotFound{"this tablet or sign-in"}
		}
		return err
	})
}

// Invite lets whoever has a code bring in a tablet of a name, until a time; the code's hash is kept.
func (s *Store) Invite(ctx context.Context, code, name string, now, until time.Time) error {
	return s.changing(ctx, func(q *sqlcgen.Queries) error {
		if err := q.DropOldInvitations(ctx, now.Unix()); err != nil {
			return err
		}
		return q.AddInvitation(ctx, sqlcgen.AddInvitationParams{Code: code, Name: name, Ends: until.Unix()})
	})
}

// Invited takes a code, which is good once; NotFound if it is none, or too late.
func (s *Store) Invited(ctx context.Context, code string, now time.Time) (name string, err error) {
	err = s.changing(ctx, func(q *sqlcgen.Queries) error {
		name, err = q.TakeInvitation(ctx, sqlcgen.TakeInvitationParams{Code: code, Now: now.Unix()})
		if errors.Is(err, sql.ErrNoRows) {
			return NotFound{"this code"}
		}
		return err
	})
	return name, err
}

// AddKey keeps the hash of a key's secret.
func (s *Store) AddKey(ctx context.Context, k Key, secret string) error {
	return s.changing(ctx, func(q *sqlcgen.Queries) error {
		return q.AddKey(
			ctx,
			sqlcgen.AddKeyParams{ID: k.ID, Secret: secret, Purpose: k.Purpose, Opens: k.Opens, Name: k.Name,
				Made: k.Made.Unix()},
		)
	})
}

// Keys are all that there are, the oldest first.
func (s *Store) Keys(ctx context.Context) ([]Key, error) {
	rows, err := s.reads.Keys(ctx)
	all := make([]Key, len(rows))
	for i, r := range rows {
		all[i] = keyOf(r)
	}
	return all, plain(err)
}

// KeyOf is the key with a secret, which was seen now; NotFound if there is none.
func (s *Store) KeyOf(ctx context.Context, secret string, now time.Time) (Key, error) {
	row, err := s.reads.KeyOf(ctx, secret)
	if errors.Is(err, sql.ErrNoRows) {
		return Key{}, NotFound{"this key"}
	}
	if err != nil {
		return Key{}, plain(err)
	}
	k := keyOf(sqlcgen.KeysRow(row))
	if now.Sub(k.Seen) < time.Minute {
		return k, nil
	}
	return k, s.changing(ctx, func(q *sqlcgen.Queries) error {
		return q.SeenKey(ctx, sqlcgen.SeenKeyParams{Seen: now.Unix(), ID: k.ID})
	})
}

// DropKey has a key open nothing any more.
func (s *Store) DropKey(ctx context.Context, id string) error {
	return s.changing(ctx, func(q *sqlcgen.Queries) error {
		dropped, err := q.DropKey(ctx, id)
		if err == nil && dropped == 0 {
			err = NotFound{"this key"}
		}
		return err
	})
}
