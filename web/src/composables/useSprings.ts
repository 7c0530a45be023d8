import { ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue'
import { newId, send, type SpringsView, type TriedSits, type TrySprings } from '../api/client'
import { useJob } from '../stores/job'
import { useGuarded } from './useGuarded'

const SAMPLES = 5000

export interface Springs {
  view: ShallowRef<SpringsView | null>
  tried: ShallowRef<TriedSits | null>
  wish: Ref<Required<TrySprings>>
  problem: Ref<string>
  /** Sliders back to what is planned. */
  reset(): void
  /** Write what the heights taught into the car's record. */
  learn(): Promise<boolean>
}

/** The open job's car on its springs, and what the sliders try out. */
export function useSprings(): Springs {
  const store = useJob()
  const { problem, guarded } = useGuarded()
  const view = shallowRef<SpringsView | null>(null)
  const tried = shallowRef<TriedSits | null>(null)
  const wish = ref<Required<TrySprings>>(nothing())
  let asked = 0
  let asking = false
  let again = false

  function nothing(): Required<TrySprings> {
    return { turns: {}, seats_mm: {}, rates_pct: {}, holes: {} }
  }

  const load = () =>
    guarded(async () => {
      const own = ++asked
      const quick = await send<SpringsView>('GET', `${store.path}/springs`)
      if (own === asked) view.value = quick
      void tryOut()
      const sure = await send<SpringsView>('GET', `${store.path}/springs?samples=${SAMPLES}`)
      if (own === asked) view.value = sure
    })

  /** One question at a time; what the sliders did meanwhile is asked next. */
  async function tryOut(): Promise<void> {
    again = asking
    if (asking) return
    asking = true
    await guarded(async () => {
      tried.value = await send<TriedSits>('POST', `${store.path}/springs/try`, wish.value)
    })
    asking = false
    if (again) void tryOut()
  }

  function reset(): void {
    wish.value = nothing()
  }

  const learn = () =>
    guarded(async () => {
      view.value = await send<SpringsView>('POST', `${store.path}/springs/learned`, { id: newId() })
    })

  watch(() => store.job?.version, load, { immediate: true })
  watch(wish, () => void tryOut(), { deep: true })
  return { view, tried, wish, problem, reset, learn }
}
