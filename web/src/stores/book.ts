import { computed, ref, shallowRef, type ComputedRef, type Ref, type ShallowRef } from 'vue'
import {
  Offline,
  Refusal,
  type Act,
  type BookView,
  type EntryView,
  type LineAct,
  type SheetView,
} from '../api/client'
import type { BookCalls } from '../api/books'
import { cache } from '../api/cache'
import { connection } from '../api/connection'
import type { Waiting } from '../api/shelf'
import { useListener, type Listener } from '../composables/useListener'
import { entriesWith, sayWaiting } from '../composables/useWaiting'
import { useQueue } from './queue'

const POLL_MS = 2000

/** What a field needs of the job or car it belongs to. */
export interface Desk {
  path: ComputedRef<string>
  version: ComputedRef<number>
  entries: ComputedRef<Record<string, EntryView>>
  sheet: ShallowRef<SheetView | null>
  drafts: Ref<Record<string, Record<string, string>>>
  write(act: Act, seen?: number): Promise<boolean>
  look(): Promise<void>
  /** How the core reads what is typed. */
  understand(act: LineAct): Promise<string>
}

export interface Book<View extends BookView> extends Desk {
  /** Which job or car is open, whether it is there or not. */
  id: Ref<string>
  view: ShallowRef<View | null>
  missing: Ref<boolean>
  /** How many entries are not acknowledged, those on their way among them. */
  unsent: ComputedRef<number>
  /** What was entered here and could not go out at once, in order. */
  waiting: ComputedRef<Waiting[]>
  /** One of them was refused, and a person has to say what becomes of it. */
  refused: ComputedRef<boolean>
  open(id: string): Promise<void>
  close(): void
  take(view: View): void
  /** What was typed into a field stands in it again, unsaved. */
  putBack(act: Act): void
}

/** A view as it was shown last, with the life of the workshop's data it belongs to. */
interface Kept<View> {
  view: View
  epoch: string
}

/** A job or car that is open: as the server sees it, what waits to be sent, half-typed fields. */
export function openBook<View extends BookView>(calls: BookCalls<View>): Book<View> {
  const view = shallowRef(null) as ShallowRef<View | null>
  const sheet = shallowRef<SheetView | null>(null)
  const drafts = ref<Record<string, Record<string, string>>>({})
  const missing = ref(false)
  const openId = ref('')
  const queue = useQueue()
  let epoch = ''
  let timer: number | undefined
  let listener: Listener | null = null

  const path = computed(() => `/api/${calls.kind}/${openId.value}`)
  const kept = () => [calls.kind, openId.value]
  const version = computed(() => view.value?.version ?? 0)
  const unsent = computed(() => queue.of(openId.value).length)
  const waiting = computed(() => queue.of(openId.value).filter((one) => one.late))
  const refused = computed(() => Boolean(queue.refusalOf(openId.value)))
  const entries = computed(() => entriesWith(view.value?.entries ?? {}, waiting.value))

  function take(found: View): void {
    if (found.id !== openId.value) return
    const sameLife = epoch === connection.epoch
    if (view.value && sameLife && found.version < view.value.version) return
    epoch = connection.epoch
    view.value = found
    cache.setQueryData<Kept<View>>(kept(), { view: found, epoch })
    if (found.shape !== sheet.value?.shape) void readSheet()
  }

  async function readSheet(): Promise<void> {
    const asked = openId.value
    const found = await calls.sheet(asked).catch(() => null)
    if (found && asked === openId.value) sheet.value = found
  }

  async function open(id: string): Promise<void> {
    close()
    if (id !== openId.value) sheet.value = null
    openId.value = id
    const last = cache.getQueryData<Kept<View>>(kept())
    view.value = last?.view ?? null
    epoch = last?.epoch ?? ''
    drafts.value = {}
    missing.value = false
    timer = window.setInterval(() => void look(), POLL_MS)
    listener = useListener(id, () => void look())
    try {
      await refresh()
    } catch (error) {
      if (!(error instanceof Offline)) missing.value = true
    }
  }

  function close(): void {
    window.clearInterval(timer)
    listener?.hangUp()
    listener = null
  }

  async function refresh(): Promise<void> {
    take(await calls.read(openId.value))
  }

  /** See whether anything changed on the server, and deliver what waits. */
  async function look(): Promise<void> {
    const id = openId.value
    if (!id) return
    try {
      const now = await calls.version(id)
      const delivered = await queue.deliver(id)
      if (id !== openId.value) return
      const stale = now.version !== view.value?.version || epoch !== connection.epoch
      if (delivered || stale) await refresh()
      missing.value = false
      if (!sheet.value) await readSheet()
    } catch (error) {
      if (!(error instanceof Offline || error instanceof Refusal)) throw error
    }
  }

  /**
   * Write an act; true once the server has it, false while it waits for the connection.
   * `seen` is the version it was made on, where that is older than what is shown now.
   */
  async function write(act: Act, seen?: number): Promise<boolean> {
    if (!view.value) return false
    const said = sayWaiting(act, view.value, sheet.value)
    const to = { book: view.value.id, title: nameOf(view.value), said }
    const answer = await queue.send(calls, to, act, seen ?? view.value.version, () => view.value)
    if (answer === 'waiting') return false
    take(answer)
    return true
  }

  const understand = async (act: LineAct) => (await calls.understand(openId.value, act)).understood

  function putBack(act: Act): void {
    if (act.kind !== 'entered') return
    const draft: Record<string, string> = {
      method: act.method ?? '',
      begunOn: String(version.value),
    }
    for (const [name, typed] of Object.entries(act.typed ?? {})) {
      draft[name] = typed.text
      draft[`unit:${name}`] = typed.unit
    }
    drafts.value[act.key] = draft
  }

  return {
    id: openId,
    view,
    sheet,
    drafts,
    missing,
    path,
    version,
    entries,
    unsent,
    waiting,
    refused,
    open,
    close,
    look,
    take,
    write,
    understand,
    putBack,
  }
}

const nameOf = (view: BookView) => `${view.car}${view.title ? `: ${view.title}` : ''}`
