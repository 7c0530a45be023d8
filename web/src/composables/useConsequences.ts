import { ref, type Ref } from 'vue'
import { Offline, Refusal, ask as asked, type LineAct } from '../api/client'
import { useJob } from '../stores/job'

export interface Consequences {
  /** What would no longer hold; while it is shown the act waits for a yes. */
  lost: Ref<string[]>
  /** Do it at once where nothing is lost; otherwise show what is, and wait. */
  ask(act: LineAct, go: () => void): Promise<void>
  yes(): void
  no(): void
}

/** Before going back: what becomes invalid by it. */
export function useConsequences(): Consequences {
  const store = useJob()
  const lost = ref<string[]>([])
  let waiting: (() => void) | null = null

  async function ask(act: LineAct, go: () => void): Promise<void> {
    let found: string[] = []
    try {
      const path = { job_id: store.job!.id }
      const told = await asked((api) =>
        api.POST('/api/jobs/{job_id}/consequences', { params: { path }, body: { act } }),
      )
      found = told.lost
    } catch (error) {
      if (!(error instanceof Offline || error instanceof Refusal)) throw error
    }
    if (!found.length) return go()
    lost.value = found
    waiting = go
  }

  function yes(): void {
    lost.value = []
    waiting?.()
    waiting = null
  }

  function no(): void {
    lost.value = []
    waiting = null
  }

  return { lost, ask, yes, no }
}
