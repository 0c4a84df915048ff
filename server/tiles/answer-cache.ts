import { createHash } from 'node:crypto'
import Database from 'better-sqlite3'
import CachePolicy from 'http-cache-semantics'
import type { Response } from './http'

/** Answers of services that may be used again, in an SQLite file of its own. Source: RFC 9111, by the package http-cache-semantics. */
export interface AnswerCache {
  /** What is kept of an address: `fresh` if it need not be asked again; else the headers with which to ask whether it has changed. */
  find(address: string): Kept | undefined
  /** Keeps an answer if it may be kept. */
  keep(address: string, response: Response): void
  /** What was kept, after the service has said that it has not changed. */
  confirm(address: string, kept: Kept, response: Response): Response
  close(): void
}

interface Kept {
  response: Response
  isFresh: boolean
  headers: Record<string, string>
  policy: CachePolicy
}

/** The most bytes of answers that are kept. */
const MOST_BYTES = 256 * 1024 ** 2

/** So many answers are kept before the oldest are looked for. */
const SWEEP_EVERY = 200

const SCHEMA = `
  CREATE TABLE IF NOT EXISTS answers (
    address TEXT PRIMARY KEY,
    policy  TEXT NOT NULL,
    status  INTEGER NOT NULL,
    body    BLOB NOT NULL,
    used_at INTEGER NOT NULL
  ) STRICT;
  CREATE INDEX IF NOT EXISTS answers_by_use ON answers (used_at);
`

/** Addresses may hold a key: they are only known by their digests. */
const digestOf = (address: string) => createHash('sha256').update(address).digest('hex')

const requestOf = (address: string): CachePolicy.Request => ({ url: digestOf(address), method: 'GET', headers: {} })

/** Opens a cache, or makes one. A damaged one is begun anew: it holds nothing that cannot be asked for again. */
export function openAnswerCache(path: string): AnswerCache {
  const db = new Database(path)
  db.pragma('journal_mode = WAL')
  db.pragma('synchronous = OFF')
  db.pragma('busy_timeout = 2000')
  db.exec(SCHEMA)
  const get = db.prepare('SELECT policy, status, body FROM answers WHERE address = ?')
  const put = db.prepare('INSERT OR REPLACE INTO answers (address, policy, status, body, used_at) VALUES (?, ?, ?, ?, ?)')
  const touch = db.prepare('UPDATE answers SET used_at = ? WHERE address = ?')
  let kept = 0
  const sweep = () => {
    const { bytes } = db.prepare('SELECT coalesce(sum(length(body)), 0) AS bytes FROM answers').get() as { bytes: number }
    if (bytes <= MOST_BYTES) return
    // The half that was used longest ago, so that this is not done at each answer.
    db.prepare(
      'DELETE FROM answers WHERE used_at <= (SELECT used_at FROM answers ORDER BY used_at LIMIT 1 OFFSET (SELECT count(*) / 2 FROM answers))',
    ).run()
  }
  const write = (address: string, policy: CachePolicy, { status, body }: Response) => {
    put.run(digestOf(address), JSON.stringify(policy.toObject()), status, body, Date.now())
    if (++kept % SWEEP_EVERY === 0) sweep()
  }
  return {
    find(address) {
      const row = get.get(digestOf(address)) as { policy: string; status: number; body: Buffer } | undefined
      if (!row) return undefined
      const policy = CachePolicy.fromObject(JSON.parse(row.policy) as CachePolicy.CachePolicyObject)
      const response = { status: row.status, headers: policy.responseHeaders() as Record<string, string>, body: row.body }
      const isFresh = policy.satisfiesWithoutRevalidation(requestOf(address))
      if (isFresh) touch.run(Date.now(), digestOf(address))
      const { 'if-none-match': tag, 'if-modified-since': since } = policy.revalidationHeaders(requestOf(address)) as Record<string, string>
      return { response, isFresh, policy, headers: { ...(tag && { 'if-none-match': tag }), ...(since && { 'if-modified-since': since }) } }
    },
    keep(address, response) {
      const policy = new CachePolicy(requestOf(address), response, { shared: false })
      if (policy.storable()) write(address, policy, response)
    },
    confirm(address, known, response) {
      const { policy } = known.policy.revalidatedPolicy(requestOf(address), response)
      write(address, policy, known.response)
      return known.response
    },
    close: () => db.close(),
  }
}
