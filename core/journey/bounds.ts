import { z } from 'zod'

/**
 * The least and the greatest number that a field of the document may have, so that whatever edits it allows the same.
 *
 * @param path of the field within the schema, as in `casing.width`; in a union, the name of a kind (`dashed.space`), or a field that its kinds share
 * @param scale what one is shown as: 100 where shares are shown in percent
 * @throws TypeError where that is no number between two bounds
 */
export function boundsOf(schema: z.ZodType, path: string, scale = 1): { min: number; max: number } {
  const field = path.split('.').reduce<z.ZodType | undefined>((at, key) => at && fieldOf(at, key), schema)
  const number = field && withoutWrap(field)
  if (!(number instanceof z.ZodNumber) || number.minValue === null || number.maxValue === null)
    throw new TypeError(`“${path}” is no number between two bounds.`)
  return { min: number.minValue * scale, max: number.maxValue * scale }
}

function withoutWrap(schema: z.ZodType): z.ZodType {
  return schema instanceof z.ZodDefault ||
    schema instanceof z.ZodPrefault ||
    schema instanceof z.ZodOptional ||
    schema instanceof z.ZodNullable
    ? withoutWrap(schema.unwrap() as z.ZodType)
    : schema
}

function fieldOf(wrapped: z.ZodType, key: string): z.ZodType | undefined {
  const schema = withoutWrap(wrapped)
  if (schema instanceof z.ZodObject) return schema.shape[key] as z.ZodType | undefined
  if (schema instanceof z.ZodArray) return fieldOf(schema.element as z.ZodType, key)
  if (!(schema instanceof z.ZodUnion)) return undefined
  const kinds = (schema.options as z.ZodType[]).map(withoutWrap).filter((kind) => kind instanceof z.ZodObject)
  const named = kinds.find(({ shape }) => Object.values(shape).some((of) => of instanceof z.ZodLiteral && of.value === key))
  return named ?? (kinds.find(({ shape }) => key in shape)?.shape[key] as z.ZodType | undefined)
}
