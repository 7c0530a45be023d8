import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { JOBS } from '../api/books'
import { type Act, type BookView, type EventCreate, type JobView } from '../api/client'
import { connection } from '../api/connection'
import { jobWith } from '../composables/useWaiting'
import { useQueue } from './queue'

const to = { kind: 'jobs' as const, book: 'job-00000001', title: 'A job', said: 'Note' }
const noted = (text: string): Act => ({ kind: 'noted', text, step: '' })

/** A server that takes entries as the real one does, refuses what is told, and can be gone. */
class Server {
  log: string[] = []
  asked: { path: string; epoch: string | null; body: { entries?: EventCreate[] } }[] = []
  gone = false
  refuses = ''

  answer = async (input: RequestInfo | URL): Promise<Response> => {
    if (this.gone) throw new TypeError('gone')
    const request = input as Request
    const path = new URL(request.url).pathname
    const body = (await request.json()) as EventCreate & { entries?: EventCreate[] }
    this.asked.push({ path, epoch: request.headers.get('X-Workshop-Epoch'), body })
    const written: string[] = []
    for (const entry of body.entries ?? [body]) {
      const text = entry.act.kind === 'noted' ? entry.act.text : entry.act.kind
      if (text === this.refuses) return this.#refused(entry, written, Boolean(body.entries))
      this.log.push(text)
      written.push(entry.id)
    }
    return Response.json({ id: to.book, written, version: this.log.length, refused: null })
  }

  #refused(entry: EventCreate, written: string[], queued: boolean): Response {
    const error = { code: 'conflict', message: 'Somebody else changed this.' }
    const told = { written, version: this.log.length, refused: { id: entry.id, error } }
    return queued ? Response.json(told) : Response.json(error, { status: 409 })
  }
}

let server: Server

beforeEach(() => {
  localStorage.clear()
  setActivePinia(createPinia())
  vi.useFakeTimers({ toFake: ['setInterval'] })
  server = new Server()
  vi.stubGlobal('fetch', server.answer)
  Object.assign(connection, { lost: false, words: '', keptAt: '', epoch: '', shutOut: false })
})

it('keeps what cannot be sent, in order, also for the next page, and sends it once', async () => {
  server.gone = true
  const queue = useQueue()
  for (const text of ['one', 'two', 'three'])
    expect(await queue.send(JOBS, to, noted(text), 7)).toBe('waiting')
  expect(connection.lost).toBe(true)
  expect(queue.of(to.book).every((one) => one.late)).toBe(true)
  setActivePinia(createPinia())
  const next = useQueue()
  expect(next.of(to.book).map((one) => one.entry.act)).toEqual(['one', 'two', 'three'].map(noted))
  server.gone = false
  await next.deliver(to.book)
  await next.deliver(to.book)
  expect(server.log).toEqual(['one', 'two', 'three'])
  expect([connection.lost, next.waiting]).toEqual([false, []])
})

it('stops at the first that is refused, and goes on as a person says', async () => {
  server.gone = true
  const queue = useQueue()
  for (const text of ['one', 'two', 'three', 'four']) await queue.send(JOBS, to, noted(text), 7)
  Object.assign(server, { gone: false, refuses: 'two' })
  await queue.deliver(to.book)
  expect(server.log).toEqual(['one'])
  expect(queue.refusalOf(to.book)?.error.message).toContain('Somebody else')
  await queue.deliver(to.book)
  expect(server.asked).toHaveLength(1)
  const [second, third] = queue.of(to.book)
  queue.drop(to.book, [second!.entry.id, third!.entry.id])
  await queue.deliver(to.book)
  expect(server.log).toEqual(['one', 'four'])
})

it('tries what was refused again over what is there now', async () => {
  server.gone = true
  const queue = useQueue()
  await queue.send(JOBS, to, noted('two'), 7)
  Object.assign(server, { gone: false, refuses: 'two' })
  await queue.deliver(to.book)
  connection.epoch = 'another life'
  server.refuses = ''
  await queue.again(to.book, 9)
  expect(server.asked.at(-1)).toMatchObject({
    epoch: 'another life',
    body: { entries: [{ seen: 9 }] },
  })
  expect(server.log).toEqual(['two'])
})

it('throws the refusal of an entry that went out at once, and forgets the entry', async () => {
  server.refuses = 'one'
  const queue = useQueue()
  await expect(queue.send(JOBS, to, noted('one'), 7)).rejects.toThrow('Somebody else')
  expect(queue.waiting).toEqual([])
})

it('keeps an entry of a device that was taken off, until it is let in again', async () => {
  vi.stubGlobal('fetch', () =>
    Promise.resolve(Response.json({ code: 'not_paired' }, { status: 401 })),
  )
  const queue = useQueue()
  expect(await queue.send(JOBS, to, noted('one'), 7)).toBe('waiting')
  await queue.deliver(to.book)
  expect([connection.shutOut, queue.of(to.book).length, queue.refusalOf(to.book)]).toEqual([
    true,
    1,
    undefined,
  ])
  vi.stubGlobal('fetch', server.answer)
  await queue.deliver(to.book)
  expect(server.log).toEqual(['one'])
})

it('takes over the list that version 0.1 left behind', () => {
  const entries = ['a', 'b'].map((text) => ({
    id: `entry-${text}`,
    seen: 1,
    act: noted(text),
    by: '',
  }))
  localStorage.setItem(`fair-spindle/outbox/${to.book}`, JSON.stringify(entries))
  expect(
    useQueue()
      .of(to.book)
      .map((one) => one.entry),
  ).toEqual(entries)
  expect(localStorage.getItem(`fair-spindle/outbox/${to.book}`)).toBeNull()
})

it('shows the job as it is with what waits', () => {
  const steps = [
    { key: 'a', state: 'open' },
    { key: 'b', state: 'done' },
  ]
  const seen = { id: to.book, position: 'on_wheels', settled: true, steps } as unknown as JobView
  const acts: Act[] = [
    { kind: 'stepped', step: 'a', outcome: 'done', reason: '' },
    { kind: 'moved', to: 'hanging', corner: null, axle: 'front' },
    { kind: 'stepped', step: 'b', outcome: 'reopened', reason: '' },
  ]
  const waiting = acts.map((act) => ({
    ...to,
    epoch: '',
    entry: { id: 'x', seen: 1, act, by: '' },
  }))
  const job = jobWith(seen, waiting)
  expect(job.steps.map((step) => step.state)).toEqual(['done', 'open'])
  expect([job.position, job.settled]).toEqual(['hanging', false])
  expect(job.position_said).toContain('waits to be sent')
  expect(jobWith(seen as BookView as JobView, [])).toMatchObject({ position: 'on_wheels' })
})

it('takes what changed into the view that is shown, and keeps the rest as it was', async () => {
  const told: (string | null)[] = []
  const first = {
    id: to.book,
    version: 7,
    steps: [{ key: 'a' }, { key: 'b' }],
    entries: { 'x/y': 1 },
  }
  const patch = [
    { op: 'replace', path: '/version', value: 8 },
    { op: 'replace', path: '/steps/1', value: { key: 'b', done: true } },
    { op: 'remove', path: '/entries/x~1y' },
  ]
  vi.stubGlobal('fetch', (request: Request) => {
    told.push(request.headers.get('X-View-Base'))
    const isPatch = request.method === 'POST'
    const headers = {
      'Content-Type': isPatch ? 'application/json-patch+json' : 'application/json',
      'X-View-Tag': isPatch ? 'second' : 'first',
    }
    return Promise.resolve(new Response(JSON.stringify(isPatch ? patch : first), { headers }))
  })
  const shown = await JOBS.read('job-00000001')
  const queue = useQueue()
  const next = await queue.send(JOBS, to, noted('one'), 7, () => shown)
  if (next === 'waiting') throw new Error('it was sent')
  expect(next).toEqual({
    ...first,
    version: 8,
    steps: [first.steps[0], patch[1]!.value],
    entries: {},
  })
  expect(next.steps[0]).toBe(shown.steps[0])
  expect(shown.version).toBe(7)
  await queue.send(JOBS, to, noted('two'), 8, () => next)
  expect(told).toEqual([null, 'first', 'second'])
})
