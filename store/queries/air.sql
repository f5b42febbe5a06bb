-- name: Sensors :many
SELECT * FROM sensor ORDER BY device;
-- name: SensorOf :one
SELECT * FROM sensor WHERE device = ?;
-- name: Sensor :one
SELECT * FROM sensor WHERE id = ?;
-- name: AddSensor :one
INSERT INTO sensor (device) VALUES (?) RETURNING *;
-- name: HeardOf :exec
UPDATE sensor SET last_minute = max(last_minute, sqlc.arg(minute)) WHERE id = sqlc.arg(id);
-- name: RefuseOf :exec
UPDATE sensor SET refused = refused + sqlc.arg(records), refusal = sqlc.arg(why), refused_minute = sqlc.arg(minute) WHERE id = sqlc.arg(id);
-- name: HangSensor :exec
UPDATE sensor SET surroundings = ? WHERE id = ?;
-- name: ReadingDay :one
SELECT body FROM reading_day WHERE sensor_id = ? AND day = ?;
-- name: PutReadingDay :exec
INSERT INTO reading_day (sensor_id, day, body) VALUES (?, ?, ?) ON CONFLICT (sensor_id, day) DO UPDATE SET body = excluded.body;
-- name: PutReadingHour :exec
INSERT INTO reading_hour (sensor_id, hour, tenths_celsius, humidity_per_mille, samples, outliers) VALUES (?, ?, ?, ?, ?, ?)
ON CONFLICT (sensor_id, hour) DO UPDATE SET tenths_celsius = excluded.tenths_celsius, humidity_per_mille = excluded.humidity_per_mille,
    samples = excluded.samples, outliers = excluded.outliers;
-- name: ReadingHours :many
SELECT * FROM reading_hour WHERE sensor_id = ? AND hour >= ? AND hour < ? ORDER BY hour;
-- name: Air :one
SELECT air FROM studio WHERE id = 1;
-- name: SetAir :exec
UPDATE studio SET air = ? WHERE id = 1;
-- name: SetLying :exec
UPDATE lot SET lying = ? WHERE id = ?;
-- name: LyingOf :one
SELECT lying FROM lot WHERE id = ?;
-- name: Timers :many
SELECT * FROM timer ORDER BY ends_minute, id;
-- name: Timer :one
SELECT * FROM timer WHERE id = ?;
-- name: PutTimer :exec
INSERT INTO timer (id, name, person_id, started_minute, ends_minute) VALUES (?, ?, ?, ?, ?);
-- name: DropTimer :exec
DELETE FROM timer WHERE id = ?;
