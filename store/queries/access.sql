-- name: Accesses :many
SELECT person_id, role, password, pin FROM access ORDER BY person_id;

-- name: PutAccess :exec
INSERT INTO access (person_id, role, password, pin) VALUES (?, ?, ?, ?)
ON CONFLICT (person_id) DO UPDATE SET role = excluded.role, password = excluded.password, pin = excluded.pin;

-- name: Sessions :many
SELECT token, id, kind, name, person_id, made, seen, ends FROM session WHERE ends > sqlc.arg(now) ORDER BY seen DESC, id;

-- name: SessionOf :one
SELECT token, id, kind, name, person_id, made, seen, ends FROM session WHERE token = ? AND ends > sqlc.arg(now);

-- name: AddSession :exec
INSERT INTO session (token, id, kind, name, person_id, made, seen, ends) VALUES (?, ?, ?, ?, ?, ?, ?, ?);

-- name: DropOldSessions :exec
DELETE FROM session WHERE ends <= sqlc.arg(now);

-- name: SeenSession :exec
UPDATE session SET seen = ?, person_id = ? WHERE id = ?;

-- name: DropSession :execrows
DELETE FROM session WHERE id = ?;

-- name: DropSessionsOf :exec
DELETE FROM session WHERE person_id = ? AND kind = 'person' AND id <> sqlc.arg(but);

-- name: DropSeats :exec
DELETE FROM seat WHERE session_id = ?;

-- name: PutSeat :exec
INSERT INTO seat (session_id, person_id, ends) VALUES (?, ?, ?)
ON CONFLICT (session_id, person_id) DO UPDATE SET ends = excluded.ends;

-- name: SeatsOf :many
SELECT person_id, ends FROM seat WHERE session_id = ?;

-- name: AddInvitation :exec
INSERT INTO invitation (code, name, ends) VALUES (?, ?, ?);

-- name: TakeInvitation :one
DELETE FROM invitation WHERE code = ? AND ends > sqlc.arg(now) RETURNING name;

-- name: DropOldInvitations :exec
DELETE FROM invitation WHERE ends <= sqlc.arg(now);

-- name: AddKey :exec
INSERT INTO access_key (id, secret, purpose, opens, name, made) VALUES (?, ?, ?, ?, ?, ?);

-- name: Keys :many
SELECT id, purpose, opens, name, made, seen FROM access_key ORDER BY made, id;

-- name: KeyOf :one
SELECT id, purpose, opens, name, made, seen FROM access_key WHERE secret = ?;

-- name: SeenKey :exec
UPDATE access_key SET seen = ? WHERE id = ?;

-- name: DropKey :execrows
DELETE FROM access_key WHERE id = ?;
