/** Numbered migrations; each runs once, in order, in a transaction. Never change one that has landed: add another. */
export const MIGRATIONS: readonly string[] = [
  `
  CREATE TABLE images (
    hash       TEXT PRIMARY KEY,
    format     TEXT NOT NULL,
    width      INTEGER NOT NULL,
    height     INTEGER NOT NULL,
    bytes      INTEGER NOT NULL,
    created_at INTEGER NOT NULL
  ) STRICT;

  CREATE TABLE journeys (
    id         TEXT PRIMARY KEY,
    name       TEXT NOT NULL,
    document   TEXT NOT NULL,
    revision   INTEGER NOT NULL,
    created_at INTEGER NOT NULL,
    updated_at INTEGER NOT NULL,
    deleted_at INTEGER
  ) STRICT;

  CREATE TABLE exports (
    id           TEXT PRIMARY KEY,
    journey_id   TEXT NOT NULL REFERENCES journeys (id) ON DELETE CASCADE,
    name         TEXT NOT NULL,
    document     TEXT NOT NULL,
    state        TEXT NOT NULL CHECK (state IN ('queued', 'running', 'done', 'failed', 'cancelled')),
    frames_done  INTEGER NOT NULL DEFAULT 0,
    frames_total INTEGER NOT NULL,
    bytes        INTEGER,
    error        TEXT,
    created_at   INTEGER NOT NULL,
    finished_at  INTEGER
  ) STRICT;

  CREATE INDEX exports_by_journey ON exports (journey_id, created_at);
  `,
  // Images are kept as tiles; some are drawings, and some say how they lie on the Earth.
  `
  ALTER TABLE images ADD COLUMN vector INTEGER NOT NULL DEFAULT 0;
  ALTER TABLE images ADD COLUMN georeference TEXT;
  `,
  // Some files have a georeference that cannot be used.
  `
  ALTER TABLE images ADD COLUMN note TEXT;
  `,
  // The undo steps of a journey's present revision.
  `
  CREATE TABLE pasts (
    journey_id TEXT PRIMARY KEY REFERENCES journeys (id) ON DELETE CASCADE,
    revision   INTEGER NOT NULL,
    steps      TEXT NOT NULL
  ) STRICT;
  `,
  // Films of several formats; the settings of those that were made before are not needed any more.
  `
  ALTER TABLE exports ADD COLUMN format TEXT NOT NULL DEFAULT 'mp4';
  ALTER TABLE exports ADD COLUMN settings TEXT;
  `,
  // Looks that people keep under names of their own.
  `
  CREATE TABLE styles (
    id         TEXT PRIMARY KEY,
    kind       TEXT NOT NULL,
    name       TEXT NOT NULL,
    look       TEXT NOT NULL,
    created_at INTEGER NOT NULL
  ) STRICT;
  `,
  // When the work on an export began, after it had waited for others: what it took says how long the next one will take.
  `
  ALTER TABLE exports ADD COLUMN started_at INTEGER;
  `,
  // A film may show one pass of the picture, not only all of it or all but the ground.
  `
  UPDATE exports SET settings = json_remove(
    json_set(settings, '$.shows', CASE json_extract(settings, '$.ground') WHEN 0 THEN 'over' ELSE 'all' END), '$.ground')
  WHERE settings IS NOT NULL;
  `,
  // Versions of a journey that are kept under names.
  `
  CREATE TABLE versions (
    id         TEXT PRIMARY KEY,
    journey_id TEXT NOT NULL REFERENCES journeys (id) ON DELETE CASCADE,
    name       TEXT NOT NULL,
    document   TEXT NOT NULL,
    created_at INTEGER NOT NULL
  ) STRICT;
  CREATE INDEX versions_of_journey ON versions (journey_id, created_at);
  `,
]
