import { shallowRef, watch, type ShallowRef } from 'vue'
import { send, type TurnsOfJobView } from '../api/client'
import { useJob } from '../stores/job'
import { useGuarded } from './useGuarded'

const SAMPLES = 2000
/** How sure it is takes the server a while: asked once the tapping has stopped. */
const PAUSE_MS = 400

/** The turns of the open job, read again with every line of its log; how sure they are comes after. */
export function useTurns(): { turns: ShallowRef<TurnsOfJobView | null> } {
  const store = useJob()
  const { guarded } = useGuarded()
  const turns = shallowRef<TurnsOfJobView | null>(null)
  let asked = 0

  watch(
    () => store.job?.version,
    async () => {
      const own = ++asked
      await guarded(async () => {
        const quick = await send<TurnsOfJobView>('GET', `${store.path}/turns`)
        if (own === asked) turns.value = quick
        await new Promise((done) => setTimeout(done, PAUSE_MS))
        if (own !== asked) return
        const sure = await send<TurnsOfJobView>('GET', `${store.path}/turns?samples=${SAMPLES}`)
        if (own === asked) turns.value = sure
      })
    },
    { immediate: true },
  )
  return { turns }
}
