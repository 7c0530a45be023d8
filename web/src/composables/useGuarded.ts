import { ref, type Ref } from 'vue'
import { Offline, Refusal } from '../api/client'

export interface Guarded {
  problem: Ref<string>
  busy: Ref<boolean>
  /** Do something that may be refused; true where it was not. */
  guarded(work: () => Promise<void>): Promise<boolean>
}

/** The words of a refusal or of a lost connection; anything else is thrown on. */
export function sayRefusal(error: unknown): string {
  if (!(error instanceof Refusal || error instanceof Offline)) throw error
  return error.message
}

/** Keep the words of a refusal, or of a lost connection, where they can be read. */
export function useGuarded(): Guarded {
  const problem = ref('')
  const busy = ref(false)

  async function guarded(work: () => Promise<void>): Promise<boolean> {
    problem.value = ''
    busy.value = true
    try {
      await work()
      return true
    } catch (error) {
      problem.value = sayRefusal(error)
      return false
    } finally {
      busy.value = false
    }
  }

  return { problem, busy, guarded }
}
