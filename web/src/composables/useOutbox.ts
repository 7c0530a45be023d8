import { ref, type Ref } from 'vue'
import {
  newId,
  Offline,
  Refusal,
  send as request,
  type Act,
  type BookView,
  type EventCreate,
} from '../api/client'

export interface Refused {
  entry: EventCreate
  message: string
}

export interface Outbox<View> {
  /** Entries made here that the server has not acknowledged yet. */
  waiting: Ref<EventCreate[]>
  connected: Ref<boolean>
  /** Send an act; 'waiting' where the connection is lost. A Refusal is thrown to the caller. */
  send(act: Act, seen: number): Promise<View | 'waiting'>
  /** Try again what waits, in order. Refused entries are handed to `refused`. */
  deliver(): Promise<View | null>
  refused: Ref<Refused | null>
}

/** Entries of one job or car on their way to the server; kept in the browser until acknowledged. */
export function useOutbox<View extends BookView>(kind: string, id: string): Outbox<View> {
  const shelf = `fair-spindle/outbox/${id}`
  const waiting = ref<EventCreate[]>(JSON.parse(localStorage.getItem(shelf) ?? '[]'))
  const connected = ref(true)
  const refused = ref<Refused | null>(null)
  let line: Promise<unknown> = Promise.resolve()
  const ahead = new Set<string>()

  function keep(entries: EventCreate[]): void {
    waiting.value = entries
    localStorage.setItem(shelf, JSON.stringify(entries))
  }

  async function post(entry: EventCreate): Promise<View> {
    const view = await request<View>('POST', `/api/${kind}/${id}/events`, entry)
    connected.value = true
    // Entries made on top of this one, before it was acknowledged, have now seen it too.
    const behind = (later: EventCreate) =>
      later.seen === view.version - 1 ? { ...later, seen: view.version } : later
    keep(waiting.value.filter((one) => one.id !== entry.id).map(behind))
    return view
  }

  async function first(entry: EventCreate): Promise<View | 'waiting'> {
    try {
      return await post(entry)
    } catch (error) {
      if (error instanceof Offline) {
        connected.value = false
        return 'waiting'
      }
      keep(waiting.value.filter((one) => one.id !== entry.id))
      throw error
    }
  }

  function send(act: Act, seen: number): Promise<View | 'waiting'> {
    const entry: EventCreate = { id: newId(), seen, act }
    keep([...waiting.value, entry])
    ahead.add(entry.id)
    const turn = line.then(() => {
      ahead.delete(entry.id)
      const now = waiting.value[0]
      return now?.id === entry.id ? first(now) : ('waiting' as const)
    })
    line = turn.catch(() => undefined)
    return turn
  }

  /** What is on its way, or has its own turn ahead, is left to it: its answer belongs to whoever sent it. */
  function deliver(): Promise<View | null> {
    const turn = line.then(deliverWaiting)
    line = turn.catch(() => undefined)
    return turn
  }

  async function deliverWaiting(): Promise<View | null> {
    let view: View | null = null
    while (waiting.value[0] && !ahead.has(waiting.value[0].id)) {
      const entry = waiting.value[0]
      try {
        view = await post(entry)
      } catch (error) {
        if (!(error instanceof Refusal)) {
          connected.value = false
          return view
        }
        keep(waiting.value.slice(1))
        refused.value = { entry, message: error.message }
      }
    }
    return view
  }

  return { waiting, connected, send, deliver, refused }
}
