import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { ask, Offline, type Act, type JobView, type SheetView } from '../api/client'
import { useOutbox, type Outbox } from '../composables/useOutbox'

const POLL_MS = 2000

/** The job that is open: as the server sees it, what waits to be sent, and half-typed fields. */
export const useJob = defineStore('job', () => {
  const job = shallowRef<JobView | null>(null)
  const sheet = shallowRef<SheetView | null>(null)
  const outbox = shallowRef<Outbox | null>(null)
  const drafts = ref<Record<string, Record<string, string>>>({})
  const missing = ref(false)
  let timer: number | undefined
  let openId = ''

  const connected = computed(() => outbox.value?.connected.value ?? true)
  const waiting = computed(() => outbox.value?.waiting.value.length ?? 0)
  const refused = computed(() => outbox.value?.refused.value ?? null)

  function take(view: JobView): void {
    if (!job.value || view.id !== job.value.id || view.version >= job.value.version)
      job.value = view
  }

  async function open(jobId: string): Promise<void> {
    close()
    job.value = null
    drafts.value = {}
    missing.value = false
    outbox.value = useOutbox(jobId)
    openId = jobId
    timer = window.setInterval(() => void look(), POLL_MS)
    try {
      sheet.value ??= await ask((api) => api.GET('/api/sheet'))
      await refresh(jobId)
    } catch (error) {
      if (!(error instanceof Offline)) missing.value = true
    }
  }

  function close(): void {
    window.clearInterval(timer)
  }

  async function refresh(jobId: string): Promise<void> {
    take(await ask((api) => api.GET('/api/jobs/{job_id}', { params: { path: { job_id: jobId } } })))
  }

  /** See whether anything changed on the server, and deliver what waits. */
  async function look(): Promise<void> {
    const box = outbox.value
    if (!box || !openId) return
    const jobId = openId
    try {
      const params = { path: { job_id: jobId } }
      const { version } = await ask((api) => api.GET('/api/jobs/{job_id}/version', { params }))
      box.connected.value = true
      const delivered = await box.deliver()
      if (delivered) take(delivered)
      sheet.value ??= await ask((api) => api.GET('/api/sheet'))
      if (version !== job.value?.version) await refresh(jobId)
    } catch (error) {
      if (error instanceof Offline) box.connected.value = false
    }
  }

  /**
   * Write an act; true once the server has it, false while it waits for the connection.
   * `seen` is the version it was made on, where that is older than what is shown now.
   */
  async function write(act: Act, seen?: number): Promise<boolean> {
    if (!outbox.value || !job.value) return false
    const answer = await outbox.value.send(act, seen ?? job.value.version)
    if (answer === 'waiting') return false
    take(answer)
    return true
  }

  function dismissRefusal(): void {
    if (outbox.value) outbox.value.refused.value = null
  }

  return {
    job,
    sheet,
    drafts,
    missing,
    connected,
    waiting,
    refused,
    open,
    close,
    look,
    write,
    dismissRefusal,
  }
})
