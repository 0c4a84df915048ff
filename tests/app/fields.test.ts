import { describe, expect, it } from 'vitest'
import type { z } from 'zod'
import { boundsOf } from '#core/journey/bounds'
import {
  afterSchema,
  easingSchema,
  inkSchema,
  landmarkSchema,
  lineSchema,
  paceMarkSchema,
  SHOT_KINDS,
  shotSchema,
  textStyleSchema,
  vehicleSchema,
  visitSchema,
} from '#core/journey/schema'
import { dollyFields, SHOT_FIELDS } from '~/components/camera/shot-fields'
import { AFTER_FIELDS, INK_PARTS, LINE_FIELDS } from '~/components/details/ink/ink-fields'
import type { FieldSpec } from '~/components/fields/field-list'
import { HALO_FIELDS, PLATE_FIELDS } from '~/components/text/text-fields'
import { EVERY_SHOT } from '../support/every-kind'

type Spec = FieldSpec<Record<string, unknown>>

/** Sets each of some fields to the ends of its range, and to the ends of its slider, in an object that holds them. */
function expectTaken(fields: readonly unknown[], holder: object, take: (value: unknown) => z.ZodSafeParseResult<unknown>): void {
  for (const field of fields as readonly Spec[]) {
    if (field.as !== 'number' && field.as !== 'percent') continue
    const { min = 0, max = 1 } = field
    const usual = field.as === 'number' ? (field.usual ?? []) : []
    for (const value of [min, max, ...usual])
      expect(take({ ...holder, [field.key]: value }).error, `${field.label} ${value}`).toBeUndefined()
    // One step further is not to be had: else the field keeps from the user what the document allows.
    for (const value of [min - 0.001, max + 0.001])
      expect(take({ ...holder, [field.key]: value }).success, `${field.label} ${value}`).toBe(false)
  }
}

describe('fields', () => {
  it.each(Object.entries(LINE_FIELDS))('of %s lines allow what the document does, and nothing else', (kind, fields) => {
    const holder = { kind, ...(kind === 'stamped' ? { stamp: 'chevron' } : {}) }
    expectTaken(fields, lineSchema.parse(holder), (value) => lineSchema.safeParse(value))
  })

  it.each(Object.entries(AFTER_FIELDS))('of a line that %s afterwards do', (kind, fields) => {
    expectTaken(fields, { kind }, (value) => afterSchema.safeParse(value))
  })

  it.each(Object.entries(INK_PARTS))('of the %s of a line do', (part, { fields, initial }) => {
    expectTaken(fields, initial, (value) => inkSchema.safeParse({ [part]: value }))
  })

  it('of letters do', () => {
    expectTaken(HALO_FIELDS, { colour: '#fbf6ea' }, (halo) => textStyleSchema.safeParse({ halo }))
    expectTaken(PLATE_FIELDS, { shape: 'box', colour: '#fbf6ea' }, (plate) => textStyleSchema.safeParse({ plate }))
  })

  it.each(Object.values(EVERY_SHOT))('of a $kind shot do', (shot) => {
    expectTaken(SHOT_FIELDS[shot.kind].own ?? [], shot, (value) => shotSchema.safeParse(value))
    expectTaken(dollyFields({ kind: 'rise', amount: 1 }), { kind: 'rise' }, (dolly) => shotSchema.safeParse({ ...shot, dolly }))
  })

  it('say what a shot is of wherever it is of something', () => {
    for (const shot of Object.values(EVERY_SHOT)) {
      const isOfSomething = 'stop' in shot || 'leg' in shot || 'travellers' in shot
      expect(SHOT_FIELDS[shot.kind].of !== undefined, SHOT_KINDS[shot.kind].title).toBe(isOfSomething)
    }
  })
})

describe('bounds', () => {
  // The numbers of docs/journey-format.md.
  it('are found through defaults, groups that can be left out, lists, and kinds', () => {
    expect(boundsOf(inkSchema, 'width')).toEqual({ min: 0.5, max: 100 })
    expect(boundsOf(inkSchema, 'wake')).toEqual({ min: 10, max: 8000 })
    expect(boundsOf(inkSchema, 'casing.width')).toEqual({ min: 0.5, max: 40 })
    expect(boundsOf(lineSchema, 'dashed.dash')).toEqual({ min: 1, max: 400 })
    expect(boundsOf(lineSchema, 'between')).toEqual({ min: 0.1, max: 0.8 })
    expect(boundsOf(vehicleSchema, 'facing')).toEqual({ min: -180, max: 180 })
    expect(boundsOf(visitSchema, 'layover')).toEqual({ min: 0, max: 600 })
    expect(boundsOf(landmarkSchema, 'shown.fade')).toEqual({ min: 0, max: 10 })
    expect(boundsOf(easingSchema, 'bends')).toEqual({ min: 0, max: 4 })
    expect(boundsOf(paceMarkSchema, 'at', 100)).toEqual({ min: 0.1, max: 99.9 })
  })

  it.each(['width.x', 'colour', 'nothing', 'casing'])('of %s are a mistake that is told', (path) => {
    expect(() => boundsOf(inkSchema, path)).toThrow(`“${path}” is no number between two bounds.`)
  })
})
