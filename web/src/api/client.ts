import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type JobView = Schemas['JobView']
export type JobLine = Schemas['JobLine']
export type CornerView = Schemas['CornerView']
export type StepView = Schemas['StepView']
export type GroupView = Schemas['GroupView']
export type PlaceView = Schemas['PlaceView']
export type FieldView = Schemas['FieldView']
export type MethodView = Schemas['MethodView']
export type SheetView = Schemas['SheetView']
export type NumberView = Schemas['NumberView']
export type TurnsView = Schemas['TurnsView']
export type FindingView = Schemas['FindingView']
export type LogLineView = Schemas['LogLineView']
export type ImportView = Schemas['ImportView']
export type UnitView = Schemas['UnitView']
export type EventCreate = Schemas['EventCreate']
export type Act = EventCreate['act']
export type Side = 'left' | 'right'
export type Stage = 'loose' | 'hand' | 'snug' | 'torqued'
export type Position = JobView['position']

export const SIDES: readonly Side[] = ['left', 'right']

export interface ErrorBody {
  code: string
  message: string
  field?: string | null
  details?: Record<string, unknown>
}

/** The server understood and said no; the message is for the user. */
export class Refusal extends Error {
  constructor(readonly body: ErrorBody) {
    super(body.message)
  }
}

/** The server could not be reached. */
export class Offline extends Error {}

const client = createClient<paths>({ baseUrl: '' })

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

export async function ask<T>(call: (api: typeof client) => Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await call(client)
  } catch {
    throw new Offline('No connection to the workshop server.')
  }
  if (answer.data !== undefined) return answer.data
  if (answer.response.status >= 500) throw new Offline('The workshop server is in trouble.')
  throw new Refusal(answer.error as ErrorBody)
}

export async function sendFile(content: Blob, apply: boolean): Promise<ImportView> {
  const response = await fetch(`/api/jobs/import?apply=${apply}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: content,
  }).catch(() => {
    throw new Offline('No connection to the workshop server.')
  })
  const body = await response.json()
  if (!response.ok) throw new Refusal(body as ErrorBody)
  return body as ImportView
}

export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('')
  return [
    hex.slice(0, 8),
    hex.slice(8, 12),
    hex.slice(12, 16),
    hex.slice(16, 20),
    hex.slice(20),
  ].join('-')
}
