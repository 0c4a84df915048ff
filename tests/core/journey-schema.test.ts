import { readFileSync } from 'node:fs'
import { Ajv2020 } from 'ajv/dist/2020'
import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { bodySchema } from '#core/journey/body-schema'
import { journeyWithEveryKind } from '../support/every-kind'
import { demo } from '../support/journeys'

const PUBLISHED = 'docs/journey.schema.json'
/** What is published, from a name of the JSON Schema vocabulary (json-schema.org, draft 2020-12) to its value. */
type Published = Record<string, unknown>

const published = () => JSON.parse(readFileSync(PUBLISHED, 'utf8')) as Published

describe('the published JSON Schema of journeys', () => {
  it(`is that of the document: else "npx vitest run tests/core/journey-schema.test.ts -u" makes it anew`, async () => {
    const schema = z.toJSONSchema(bodySchema, { io: 'input', reused: 'ref' })
    await expect(`${JSON.stringify(schema, null, 1)}\n`).toMatchFileSnapshot(`../../${PUBLISHED}`)
  })

  // Ajv is a validator of its own: it knows nothing of ours.
  function errorsOf(journey: unknown): string[] {
    const validate = new Ajv2020({ validateFormats: false }).compile(published())
    return validate(journey) ? [] : validate.errors!.map(({ instancePath, keyword }) => `${instancePath} ${keyword}`)
  }

  it('takes the demo, and a journey with every kind of thing', () => {
    expect(errorsOf(demo())).toEqual([])
    expect(errorsOf(journeyWithEveryKind())).toEqual([])
  })

  it('refuses what the application refuses', () => {
    const journey = demo()
    expect(errorsOf({ ...journey, seconds: 601 })).toEqual(['/seconds maximum'])
    expect(errorsOf({ ...journey, frame: { ...journey.frame, rate: '31/1' } })).toEqual(['/frame/rate enum'])
    expect(errorsOf({ ...journey, cinema: true })).toEqual([' additionalProperties'])
    expect(errorsOf({ ...journey, camera: undefined })).toEqual([' required'])
  })
})

describe('the page on the journey format', () => {
  /** All names that a value may have: kinds, and choices. */
  function choicesIn(schema: unknown): string[] {
    if (Array.isArray(schema)) return schema.flatMap(choicesIn)
    if (typeof schema !== 'object' || schema === null) return []
    const { const: only, enum: some, ...rest } = schema as Published
    const here = [only, ...(Array.isArray(some) ? some : [])].filter((value) => typeof value === 'string')
    return [...here, ...choicesIn(Object.values(rest))]
  }

  /** Lists that the page leaves to the application. */
  const ELSEWHERE = ['artwork', 'icon']

  it('names every kind of thing and every choice', () => {
    const page = readFileSync('docs/journey-format.md', 'utf8')
    const schema = JSON.stringify(published(), (key, value: unknown) => (ELSEWHERE.includes(key) ? undefined : value))
    const missing = [...new Set(choicesIn(JSON.parse(schema)))].filter((choice) => !new RegExp(`(?<![\\w-])${choice}(?![\\w-])`).test(page))
    expect(missing).toEqual([])
  })
})
