import { immutableJSONPatch, type JSONPatchDocument } from 'immutable-json-patch'
import {
  ask,
  type Api,
  type BookView,
  type Call,
  type CarView,
  type DeliveredView,
  type EventCreate,
  type JobView,
  type LineAct,
  type Schemas,
  type SheetView,
  type VersionView,
} from './client'
import { EPOCH, reach } from './connection'

/** What can be asked of a job, and of a car, by its id. */
export interface BookCalls<View extends BookView> {
  kind: 'jobs' | 'cars'
  read(id: string): Promise<View>
  sheet(id: string): Promise<SheetView>
  version(id: string): Promise<VersionView>
  understand(id: string, act: LineAct): Promise<Schemas['UnderstoodView']>
  /** Write an entry on top of the view that is shown: what did not change in it stays the same objects. */
  write(id: string, entry: EventCreate, epoch: string, shown: View | null): Promise<View>
  deliver(id: string, queue: Schemas['QueueCreate'], epoch: string): Promise<DeliveredView>
}

const VIEW_TAG = 'X-View-Tag'
const VIEW_BASE = 'X-View-Base'
const PATCH = 'application/json-patch+json'
const tags = new WeakMap<object, string>()
const lifeOf = (epoch: string) => (epoch ? { headers: { [EPOCH]: epoch } } : {})

/** Ask for a view; the server, told which one is shown, may answer with what changed in it. */
async function viewed<View extends object>(
  shown: View | null,
  call: (api: Api, fetch: (request: Request) => Promise<Response>) => ReturnType<Call<View>>,
): Promise<View> {
  let tag = ''
  let changed: View | null = null
  const fetch = async (request: Request) => {
    const base = shown && tags.get(shown)
    if (base) request.headers.set(VIEW_BASE, base)
    const response = await reach(request)
    tag = response.headers.get(VIEW_TAG) ?? ''
    if (!shown || !response.headers.get('Content-Type')?.startsWith(PATCH)) return response
    changed = immutableJSONPatch(shown, (await response.json()) as JSONPatchDocument) as View
    return Response.json({}, { status: response.status })
  }
  const read = await ask((api) => call(api, fetch))
  const view = changed ?? read
  if (tag) tags.set(view, tag)
  return view
}

const job = (id: string) => ({ params: { path: { job_id: id } } })
const car = (id: string) => ({ params: { path: { car_id: id } } })

export const JOBS: BookCalls<JobView> = {
  kind: 'jobs',
  read: (id) => viewed(null, (api, fetch) => api.GET('/api/jobs/{job_id}', { ...job(id), fetch })),
  sheet: (id) => ask((api) => api.GET('/api/jobs/{job_id}/sheet', job(id))),
  version: (id) => ask((api) => api.GET('/api/jobs/{job_id}/version', job(id))),
  understand: (id, act) =>
    ask((api) => api.POST('/api/jobs/{job_id}/understand', { ...job(id), body: { act } })),
  write: (id, body, epoch, shown) =>
    viewed(shown, (api, fetch) =>
      api.POST('/api/jobs/{job_id}/events', { ...job(id), ...lifeOf(epoch), body, fetch }),
    ),
  deliver: (id, body, epoch) =>
    ask((api) => api.POST('/api/jobs/{job_id}/queue', { ...job(id), ...lifeOf(epoch), body })),
}

export const CARS: BookCalls<CarView> = {
  kind: 'cars',
  read: (id) => viewed(null, (api, fetch) => api.GET('/api/cars/{car_id}', { ...car(id), fetch })),
  sheet: (id) => ask((api) => api.GET('/api/cars/{car_id}/sheet', car(id))),
  version: (id) => ask((api) => api.GET('/api/cars/{car_id}/version', car(id))),
  understand: (id, act) =>
    ask((api) => api.POST('/api/cars/{car_id}/understand', { ...car(id), body: { act } })),
  write: (id, body, epoch, shown) =>
    viewed(shown, (api, fetch) =>
      api.POST('/api/cars/{car_id}/events', { ...car(id), ...lifeOf(epoch), body, fetch }),
    ),
  deliver: (id, body, epoch) =>
    ask((api) => api.POST('/api/cars/{car_id}/queue', { ...car(id), ...lifeOf(epoch), body })),
}

/** Calls of a job or a car, by which of the two it is. */
export const callsOf = (kind: 'jobs' | 'cars') => (kind === 'jobs' ? JOBS : CARS)
