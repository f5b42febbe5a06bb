-- +goose Up
-- who may sign in and how: hashes by argon2id; nothing of this is in the studio document
CREATE TABLE access (
  person_id TEXT PRIMARY KEY,
  role TEXT NOT NULL CHECK (role IN ('lead', 'maker', 'hand-over')),
  password TEXT NOT NULL DEFAULT '',
  pin TEXT NOT NULL DEFAULT ''
) WITHOUT ROWID;
-- browsers that are known; the token itself is nowhere but in the browser
CREATE TABLE session (
  token TEXT PRIMARY KEY, -- sha256
  id TEXT NOT NULL UNIQUE,
  kind TEXT NOT NULL CHECK (kind IN ('person', 'tablet')),
  name TEXT NOT NULL,
  person_id TEXT NOT NULL DEFAULT '', -- whose it is; of a tablet, who sits at it
  made INTEGER NOT NULL, -- seconds since 1970, of the real clock
  seen INTEGER NOT NULL,
  ends INTEGER NOT NULL
) WITHOUT ROWID;
-- who has sat down at a tablet, and until when their work is taken from it
CREATE TABLE seat (
  session_id TEXT NOT NULL,
  person_id TEXT NOT NULL,
  ends INTEGER NOT NULL,
  PRIMARY KEY (session_id, person_id)
) WITHOUT ROWID;
CREATE TABLE invitation (
  code TEXT PRIMARY KEY, -- sha256
  name TEXT NOT NULL,
  ends INTEGER NOT NULL
) WITHOUT ROWID;
CREATE TABLE access_key (
  id TEXT PRIMARY KEY,
  secret TEXT NOT NULL UNIQUE, -- sha256
  purpose TEXT NOT NULL CHECK (purpose IN ('sensor', 'reader')),
  name TEXT NOT NULL,
  made INTEGER NOT NULL,
  seen INTEGER NOT NULL DEFAULT 0
) WITHOUT ROWID;

-- +goose Down
DROP TABLE access_key;
DROP TABLE invitation;
DROP TABLE seat;
DROP TABLE session;
DROP TABLE access;
