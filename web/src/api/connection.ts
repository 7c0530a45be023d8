import { reactive } from 'vue'

export const EPOCH = 'X-Workshop-Epoch'
const KEPT = 'X-Kept-At'
const MADE_BY = 'X-Made-By'
const PAGE = 'X-Page'
const WHO = 'fair-spindle/who'

/** The name of this page while it is open: it is not told of what it wrote itself. */
export const PAGE_NAME = crypto.getRandomValues(new Uint32Array(2)).join('-')

/** What the last answer told of the server: everything else that shows it reads this. */
export const connection = reactive({
  /** Nothing reached the server, or it cannot write. */
  lost: false,
  /** Why, in the server's words where it gave some. */
  words: '',
  /** When what is shown was read, where it comes from the browser's own store. */
  keptAt: '',
  /** Which life of the workshop's data this is; another begins when an older copy is put in its place. */
  epoch: '',
  /** This device was not let in, or is not any more. */
  shutOut: false,
  /** The person who was picked on this device, by id; empty where nobody was. */
  person: localStorage.getItem(WHO) ?? '',
})

export function pick(person: string): void {
  connection.person = person
  localStorage.setItem(WHO, person)
}

/** The server could not be reached, or could not do it now; trying again later may help. */
export class Offline extends Error {}

interface Words {
  code?: string
  message?: string
}

/** Addresses read before the browser's worker was there to keep what they answer: once it is, they are read again. */
const unkept = new Set<string>()
const worker = navigator.serviceWorker as ServiceWorkerContainer | undefined
worker?.addEventListener('controllerchange', () => {
  for (const url of unkept) void fetch(url).catch(() => undefined)
  unkept.clear()
})

/** Fetch from the workshop's server, and remember how that went. */
export async function reach(input: RequestInfo | URL, init: RequestInit = {}): Promise<Response> {
  const request = new Request(input, init)
  if (request.method === 'GET') {
    if (worker && !worker.controller) unkept.add(request.url)
  } else {
    request.headers.set(PAGE, PAGE_NAME)
    if (connection.person) request.headers.set(MADE_BY, connection.person)
    if (connection.epoch && !request.headers.has(EPOCH))
      request.headers.set(EPOCH, connection.epoch)
  }
  let answer: Response
  try {
    answer = await whole(request)
  } catch {
    lose('')
    throw new Offline('No connection to the workshop server.')
  }
  const kept = answer.headers.get(KEPT)
  if (kept) {
    lose('')
    connection.keptAt = kept
    return answer
  }
  const told = answer.status >= 500 ? await wordsOf(answer) : null
  if (told && told.code !== 'mishap') {
    lose(told.message ?? '')
    throw new Offline(told.message ?? 'The workshop server is in trouble.')
  }
  Object.assign(connection, { lost: false, words: '', keptAt: '' })
  connection.epoch = answer.headers.get(EPOCH) ?? connection.epoch
  connection.shutOut = answer.status === 401
  // What was entered waits until the device is let in again.
  if (connection.shutOut) throw new Offline('This device is not let in any more.')
  return answer
}

/** An answer with all of its body: one that is cut on its way was not reached either. */
async function whole(request: Request): Promise<Response> {
  const answer = await fetch(request)
  const body = answer.status === 204 ? null : await answer.arrayBuffer()
  return new Response(body, { status: answer.status, headers: answer.headers })
}

function lose(words: string): void {
  connection.lost = true
  connection.words = words
}

async function wordsOf(answer: Response): Promise<Words> {
  return (await answer
    .clone()
    .json()
    .catch(() => ({}))) as Words
}
