import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { newId, Offline, Refusal, type Act, type BookView, type ErrorBody } from '../api/client'
import { callsOf, type BookCalls } from '../api/books'
import { connection } from '../api/connection'
import * as shelf from '../api/shelf'
import type { Waiting } from '../api/shelf'

const AGAIN_MS = 3000

/** Where an entry belongs, and what is said of it while it waits. */
export interface Addressed {
  book: string
  title: string
  said: string
}

/**
 * Entries of every job and car on their way to the server, kept in the browser until acknowledged.
 * They go in order; the first that is refused stops its own job or car until a person says what to do.
 */
export const useQueue = defineStore('queue', () => {
  shelf.takeOver()
  const waiting = ref<Waiting[]>(shelf.all())
  const refusals = ref<Record<string, { id: string; error: ErrorBody }>>({})
  let line: Promise<unknown> = Promise.resolve()
  const ahead = new Set<string>()

  const of = (book: string) => waiting.value.filter((one) => one.book === book)
  const refusalOf = (book: string) => refusals.value[book]
  const books = computed(() => [...new Map(waiting.value.map((one) => [one.book, one])).values()])
  function look(): void {
    waiting.value = shelf.all()
    const ids = new Set(waiting.value.map((one) => one.entry.id))
    for (const [book, one] of Object.entries(refusals.value)) {
      if (!ids.has(one.id)) settle(book)
    }
  }
  shelf.listen(look)

  function keep(one: Waiting): void {
    shelf.keep(one)
    look()
  }

  function forget(ids: string[]): void {
    ids.forEach(shelf.forget)
    look()
  }

  /** Send an act, on top of the view that is `shown` then; 'waiting' where others wait before it or nothing is reached. A Refusal is thrown to the caller. */
  function send<View extends BookView>(
    calls: BookCalls<View>,
    to: Addressed,
    act: Act,
    seen: number,
    shown: () => View | null = () => null,
  ): Promise<View | 'waiting'> {
    const entry = { id: newId(), seen, act, by: connection.person }
    keep({ ...to, kind: calls.kind, epoch: connection.epoch, entry })
    ahead.add(entry.id)
    const turn = line.then(() => {
      ahead.delete(entry.id)
      const isNext = of(to.book)[0]?.entry.id === entry.id && !refusals.value[to.book]
      return isNext ? first(calls, to, entry.id, shown) : putOff(entry.id)
    })
    line = turn.catch(() => undefined)
    return turn
  }

  async function first<View extends BookView>(
    calls: BookCalls<View>,
    to: Addressed,
    id: string,
    shown: () => View | null,
  ): Promise<View | 'waiting'> {
    const one = waiting.value.find((each) => each.entry.id === id)
    if (!one) return 'waiting'
    try {
      const view = await calls.write(to.book, one.entry, one.epoch, shown())
      forget([id])
      onTop(to.book, [id], view.version)
      return view
    } catch (error) {
      if (error instanceof Offline) return putOff(id)
      forget([id])
      throw error
    }
  }

  function putOff(id: string): 'waiting' {
    const one = waiting.value.find((each) => each.entry.id === id)
    if (one) shelf.change({ ...one, late: true })
    look()
    return 'waiting'
  }

  /** What was made on top of an entry before it was acknowledged has seen it too. */
  function onTop(book: string, ids: string[], version: number): void {
    const left = of(book)
    shelf.keepWritten(book, left.length ? [...shelf.written(book), ...ids] : [])
    for (const later of left) {
      if (later.entry.seen === version - 1) {
        shelf.change({ ...later, entry: { ...later.entry, seen: version } })
      }
    }
    look()
  }

  /** Send what waits for one job or car, unless a refusal waits for a person; true where something was written. */
  function deliver(book: string): Promise<boolean> {
    const turn = line.then(() => deliverNow(book))
    line = turn.catch(() => undefined)
    return turn
  }

  async function deliverNow(book: string): Promise<boolean> {
    const mine = of(book)
    const head = mine[0]
    // What has its own turn ahead is left to it: its answer belongs to whoever sent it.
    if (!head || refusals.value[book] || mine.some((one) => ahead.has(one.entry.id))) return false
    const body = { entries: mine.map((one) => one.entry), written: shelf.written(book) }
    try {
      const done = await callsOf(head.kind).deliver(book, body, head.epoch)
      if (done.refused) refusals.value[book] = done.refused
      forget(done.written)
      onTop(book, done.written, done.version)
      return done.written.length > 0
    } catch (error) {
      if (!(error instanceof Refusal)) return false
      refusals.value[book] = { id: head.entry.id, error: error.body }
      return false
    }
  }

  /** Try what was refused once more, over what is there now. */
  async function again(book: string, version: number): Promise<boolean> {
    const refused = refusals.value[book]
    if (!refused) return false
    for (const one of of(book)) {
      const stale = one.entry.id === refused.id || one.entry.seen > version
      const seen = stale ? version : one.entry.seen
      shelf.change({ ...one, epoch: connection.epoch, entry: { ...one.entry, seen } })
    }
    look()
    settle(book)
    return deliver(book)
  }

  /** Take entries out of the queue for good; the others go on. */
  function drop(book: string, ids: string[]): void {
    forget(ids)
    settle(book)
    void deliver(book)
  }

  function settle(book: string): void {
    delete refusals.value[book]
  }

  /** Send for every job and car; whichever page is open does it. */
  function deliverAll(): void {
    for (const one of books.value) void deliver(one.book)
  }

  window.setInterval(deliverAll, AGAIN_MS)
  deliverAll()

  return { waiting, books, of, refusalOf, send, deliver, again, drop }
})
