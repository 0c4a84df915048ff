import type { H3Event } from 'h3'
import { defineEventHandler, sendNoContent } from 'h3'
import { database, dataFolder } from '../storage/database'
import type { FiledKind } from '../storage/filed'
import { deleteFiled } from '../storage/filed'
import { idParameter, refusal } from './refuse'

const WORDS: Record<FiledKind, string> = { fonts: 'font', audio: 'sound', luts: 'LUT' }

/** A route that deletes a file of a kind that nothing uses, by its content hash. */
export const deletesFiled = (kind: FiledKind) =>
  defineEventHandler((event: H3Event) => {
    const refused = deleteFiled(database(), dataFolder(), kind, idParameter(event, 'hash'))
    if (refused === 'missing') throw refusal(404, `This ${WORDS[kind]} is not here.`)
    if (refused === 'used') throw refusal(409, `A journey uses this ${WORDS[kind]}, or one that was deleted and can be restored.`)
    return sendNoContent(event)
  })
