import { computed, ref, shallowRef, type ComputedRef, type Ref, type ShallowRef } from 'vue'
import {
  Offline,
  send,
  type Act,
  type BookView,
  type EntryView,
  type SheetView,
} from '../api/client'
import { useListener, type Listener } from '../composables/useListener'
import { useOutbox, type Outbox, type Refused } from '../composables/useOutbox'

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
}

export interface Book<View extends BookView> extends Desk {
  view: ShallowRef<View | null>
  missing: Ref<boolean>
  connected: ComputedRef<boolean>
  waiting: ComputedRef<number>
  refused: ComputedRef<Refused | null>
  open(id: string): Promise<void>
  close(): void
  take(view: View): void
  dismissRefusal(): void
}

/** A job or car that is open: as the server sees it, what waits to be sent, half-typed fields. */
export function openBook<View extends BookView>(kind: 'jobs' | 'cars'): Book<View> {
  const view = shallowRef(null) as ShallowRef<View | null>
  const sheet = shallowRef<SheetView | null>(null)
  const outbox = shallowRef<Outbox<View> | null>(null)
  const drafts = ref<Record<string, Record<string, string>>>({})
  const missing = ref(false)
  const openId = ref('')
  let timer: number | undefined
  let listener: Listener | null = null

  const path = computed(() => `/api/${kind}/${openId.value}`)
  const version = computed(() => view.value?.version ?? 0)
  const entries = computed(() => view.value?.entries ?? {})
  const connected = computed(() => outbox.value?.connected.value ?? true)
  const waiting = computed(() => outbox.value?.waiting.value.length ?? 0)
  const refused = computed(() => outbox.value?.refused.value ?? null)

  function take(found: View): void {
    if (found.id !== openId.value) return
    if (view.value && found.version < view.value.version) return
    view.value = found
    if (found.shape !== sheet.value?.shape) void readSheet()
  }

  async function readSheet(): Promise<void> {
    const asked = openId.value
    const found = await send<SheetView>('GET', `${path.value}/sheet`).catch(() => null)
    if (found && asked === openId.value) sheet.value = found
  }

  async function open(id: string): Promise<void> {
    close()
    if (id !== openId.value) sheet.value = null
    openId.value = id
    view.value = null
    drafts.value = {}
    missing.value = false
    outbox.value = useOutbox<View>(kind, id)
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
    take(await send<View>('GET', path.value))
  }

  /** See whether anything changed on the server, and deliver what waits. */
  async function look(): Promise<void> {
    const box = outbox.value
    if (!box || !openId.value) return
    try {
      const now = await send<{ version: number }>('GET', `${path.value}/version`)
      box.connected.value = true
      const delivered = await box.deliver()
      if (delivered) take(delivered)
      if (now.version !== view.value?.version) await refresh()
      if (!sheet.value) await readSheet()
    } catch (error) {
      if (error instanceof Offline) box.connected.value = false
    }
  }

  /**
   * Write an act; true once the server has it, false while it waits for the connection.
   * `seen` is the version it was made on, where that is older than what is shown now.
   */
  async function write(act: Act, seen?: number): Promise<boolean> {
    if (!outbox.value || !view.value) return false
    const answer = await outbox.value.send(act, seen ?? view.value.version)
    if (answer === 'waiting') return false
    take(answer)
    return true
  }

  function dismissRefusal(): void {
    if (outbox.value) outbox.value.refused.value = null
  }

  return {
    view,
    sheet,
    drafts,
    missing,
    path,
    version,
    entries,
    connected,
    waiting,
    refused,
    open,
    close,
    look,
    take,
    write,
    dismissRefusal,
  }
}
