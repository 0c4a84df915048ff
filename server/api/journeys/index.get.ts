import { defineEventHandler } from 'h3'
import { database } from '../../storage/database'
import { listJourneys } from '../../storage/journeys'

export default defineEventHandler(() => listJourneys(database()))
