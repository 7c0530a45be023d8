import { ref, type Ref } from 'vue'
import { Refusal, type Act } from '../api/client'
import { useDesk } from './useDesk'

export interface Acting {
  /** Why the last act was refused; empty where it was not. */
  problem: Ref<string>
  busy: Ref<boolean>
  /** Write an act; true where it was taken or waits to be. */
  act(act: Act, seen?: number): Promise<boolean>
}

/** Write acts from one place on the screen and keep the refusal there. */
export function useActing(): Acting {
  const store = useDesk()
  const problem = ref('')
  const busy = ref(false)

  async function act(wanted: Act, seen?: number): Promise<boolean> {
    busy.value = true
    problem.value = ''
    try {
      await store.write(wanted, seen)
      return true
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      if (error.body.code === 'conflict') await store.look()
      problem.value = error.message
      return false
    } finally {
      busy.value = false
    }
  }

  return { problem, busy, act }
}
