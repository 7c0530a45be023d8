import type { EventCreate } from './client'

/** An entry that was made here and is not acknowledged yet. */
export interface Waiting {
  kind: 'jobs' | 'cars'
  book: string
  title: string
  epoch: string
  said: string
  entry: EventCreate
  /** It could not go out at once: until then it is on its way, and nothing is shown of it. */
  late?: boolean
}

const ENTRIES = 'fair-spindle/waits/'
const WRITTEN = 'fair-spindle/written/'
const BEFORE_0_2 = 'fair-spindle/outbox/'
let made = 0

/** Each entry lies under a key of its own, in the order made, so that two tabs never write over each other's. */
export function keep(one: Waiting): void {
  made += 1
  const order = `${Date.now()}-${String(made).padStart(6, '0')}`
  localStorage.setItem(`${ENTRIES}${order}/${one.entry.id}`, JSON.stringify(one))
}

/** Everything that waits, of every job and car, in the order it was made. */
export function all(): Waiting[] {
  return keys(ENTRIES).map((key) => JSON.parse(localStorage.getItem(key) ?? '{}') as Waiting)
}

export function change(one: Waiting): void {
  const key = keyOf(one.entry.id)
  if (key) localStorage.setItem(key, JSON.stringify(one))
}

export function forget(id: string): void {
  const key = keyOf(id)
  if (key) localStorage.removeItem(key)
}

/** Ids of the same queue that are written already, until nothing of it waits any more. */
export function written(book: string): string[] {
  return JSON.parse(localStorage.getItem(`${WRITTEN}${book}`) ?? '[]') as string[]
}

export function keepWritten(book: string, ids: string[]): void {
  if (ids.length) localStorage.setItem(`${WRITTEN}${book}`, JSON.stringify(ids))
  else localStorage.removeItem(`${WRITTEN}${book}`)
}

/** Hear what another tab keeps or forgets. */
export function listen(changed: () => void): void {
  window.addEventListener('storage', (event) => {
    if (event.key === null || event.key.startsWith(ENTRIES)) changed()
  })
}

const keyOf = (id: string) => keys(ENTRIES).find((key) => key.endsWith(`/${id}`))

function keys(prefix: string): string[] {
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(prefix))
    .sort()
}

/** A queue that version 0.1 left behind, whose books were not told: it was one list for each. */
export function takeOver(): void {
  for (const key of keys(BEFORE_0_2)) {
    const entries = JSON.parse(localStorage.getItem(key) ?? '[]') as EventCreate[]
    const book = key.slice(BEFORE_0_2.length)
    for (const entry of entries) {
      keep({ kind: 'jobs', book, title: '', epoch: '', said: '', entry })
    }
    localStorage.removeItem(key)
  }
}
