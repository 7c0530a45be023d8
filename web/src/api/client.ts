import createClient from 'openapi-fetch'
import { Offline, reach } from './connection'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type JobView = Schemas['JobView']
export type CarView = Schemas['CarView']
export type BookView = JobView | CarView
export type JobLine = Schemas['JobLine']
export type CarLine = Schemas['CarLine']
export type StepView = Schemas['StepView']
export type StepReadView = Schemas['StepReadView']
export type FieldView = Schemas['FieldView']
export type MethodView = Schemas['MethodView']
export type EntryView = Schemas['EntryView']
export type SheetView = Schemas['SheetView']
export type ChoicesView = Schemas['ChoicesView']
export type WheelView = Schemas['WheelView']
export type LoadsView = Schemas['LoadsView']
export type FastenerView = Schemas['FastenerView']
export type ShelfPart = Schemas['ShelfPartView']
export type InstrumentView = Schemas['InstrumentView']
export type StandInView = Schemas['StandInView']
export type WalkOrder = Schemas['WalkOrderView']
export type ReadingsPreview = Schemas['ReadingsPreview']
export type GeometryView = Schemas['GeometryView']
export type WheelPlanView = Schemas['WheelPlanView']
export type SidesApartView = Schemas['SidesApartView']
export type TurnsOfJobView = Schemas['TurnsOfJobView']
export type WheelTurnsView = Schemas['WheelTurnsView']
export type TriedCar = Schemas['TriedCar']
export type TriedView = Schemas['TriedView']
export type CurveView = Schemas['CurveView']
export type AxleToeView = Schemas['AxleToeView']
export type AxlePlanView = Schemas['AxlePlanView']
export type StandsView = Schemas['StandsView']
export type SpringsView = Schemas['SpringsView']
export type SitsView = Schemas['SitsView']
export type TriedSits = Schemas['TriedSits']
export type TrySprings = Schemas['TrySprings']
export type JointsView = Schemas['JointsView']
export type OwnListView = Schemas['OwnListView']
export type TorqueListView = Schemas['TorqueListView']
export type JointView = Schemas['JointView']
export type BoltView = Schemas['BoltView']
export type PlanView = Schemas['PlanView']
export type PlanOfJobView = Schemas['PlanOfJobView']
export type PlanStepView = Schemas['PlanStepView']
export type ProcedureView = Schemas['ProcedureView']
export type ProcedurePreview = Schemas['ProcedurePreview']
export type QuestionView = Schemas['QuestionView']
export type SchoolView = Schemas['SchoolView']
export type SchoolsView = Schemas['SchoolsView']
export type ExplainedView = Schemas['ExplainedView']
export type RecordView = Schemas['RecordView']
export type LessonsView = Schemas['LessonsView']
export type HistoryView = Schemas['HistoryView']
export type ComparedView = Schemas['ComparedView']
export type MeView = Schemas['MeView']
export type PersonView = Schemas['PersonView']
export type DeviceView = Schemas['DeviceView']
export type CodeView = Schemas['CodeView']
export type CopyView = Schemas['CopyView']
export type RestoreView = Schemas['RestoreView']
export type MeasuresView = Schemas['MeasuresView']
export type BayView = Schemas['BayView']
export type ExerciseView = Schemas['ExerciseView']
export type BayPicture = Schemas['BayPicture']
export type DebriefView = Schemas['DebriefView']
export type DebriefRow = Schemas['DebriefRow']
export type AxleMapView = Schemas['AxleMapView']
export type MapPartView = Schemas['MapPartView']
export type BoardView = Schemas['BoardView']
export type BoardLine = Schemas['BoardLine']
export type DueView = Schemas['DueView']
export type DayView = Schemas['DayView']
export type NeedView = Schemas['NeedView']
export type StopView = Schemas['StopView']
export type Brief = Schemas['Brief']
export type Fitting = Schemas['Fitting']
export type Joint = Schemas['Joint']
export type Bolt = Schemas['Bolt']
export type WorkStage = Schemas['Worked']['to']
export type TurnsView = Schemas['TurnsView']
export type FindingView = Schemas['FindingView']
export type LogLineView = Schemas['LogLineView']
export type VersionView = Schemas['VersionView']
export type ImportView = Schemas['ImportView']
export type UnitView = Schemas['UnitView']
export type DeliveredView = Schemas['DeliveredView']
export type EventCreate = Schemas['EventCreate']
export type Act = EventCreate['act']
/** One that becomes a line as it is. */
export type LineAct = Schemas['ReadRequest']['act']
export type Gauge = Schemas['Gauge']
export type Side = 'left' | 'right'
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

export { Offline }

const client = createClient<paths>({ baseUrl: '', fetch: reach })
export type Api = typeof client

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** A typed call of the contract. */
export type Call<T> = (api: Api) => Promise<Answer<T>>

export async function ask<T>(call: Call<T>): Promise<T> {
  const answer = await call(client).catch((error: unknown) => {
    if (!(error instanceof SyntaxError)) throw error
    throw new Offline('The answer of the workshop server was cut short.')
  })
  if (answer.data !== undefined || answer.response.status === 204) return answer.data as T
  throw new Refusal(answer.error as ErrorBody)
}

/** What a call that sends a file is told of it. */
export const sending = (file: Blob) => ({
  body: '',
  bodySerializer: () => file,
  headers: { 'Content-Type': 'application/octet-stream' },
})

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
