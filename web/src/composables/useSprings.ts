import { computed, ref, shallowRef, watch, type ComputedRef, type Ref, type ShallowRef } from 'vue'
import { ask, send, type SpringsView, type TriedSits, type TrySprings } from '../api/client'
import { useJob } from '../stores/job'
import { useGuarded } from './useGuarded'
import { useLatest } from './useLatest'

const SAMPLES = 5000
/** How sure it is takes the server a while: asked once the entering has stopped. */
const PAUSE_MS = 400

export interface Springs {
  view: ShallowRef<SpringsView | null>
  tried: ShallowRef<TriedSits | null>
  wish: Ref<Required<TrySprings>>
  moved: ComputedRef<boolean>
  problem: Ref<string>
  /** Sliders back to what is planned. */
  reset(): void
}

const tries = (wish: TrySprings) =>
  Object.values(wish).some((one) => Object.keys(one as object).length > 0)

/** The open job's car on its springs, and what the sliders try out. */
export function useSprings(): Springs {
  const store = useJob()
  const { problem, guarded } = useGuarded()
  const view = shallowRef<SpringsView | null>(null)
  const tried = shallowRef<TriedSits | null>(null)
  const wish = ref<Required<TrySprings>>(nothing())
  const answered = shallowRef(wish.value)
  /** Something is tried, and there is an answer to show. */
  const moved = computed(() => tries(wish.value) && tries(answered.value))

  function nothing(): Required<TrySprings> {
    return { turns: {}, seats_mm: {}, rates_pct: {}, holes: {} }
  }

  async function read(query: string): Promise<void> {
    const version = store.version
    await guarded(async () => {
      const found = await send<SpringsView>('GET', `${store.path}/springs${query}`)
      if (query && version !== store.version) return
      view.value = found
      if (!query) tryOut()
    })
  }

  const quick = useLatest(() => read(''))
  const sure = useLatest(() => read(`?samples=${SAMPLES}`), PAUSE_MS)

  /** One question at a time; what the sliders did meanwhile is asked next. */
  const tryOut = useLatest(async () => {
    const own = wish.value
    await guarded(async () => {
      tried.value = await ask((api) =>
        api.POST('/api/jobs/{job_id}/springs/try', {
          params: { path: { job_id: store.job!.id } },
          body: own,
        }),
      )
      answered.value = own
    })
  })

  function reset(): void {
    wish.value = nothing()
  }

  watch(
    () => store.job?.version,
    () => {
      quick()
      sure()
    },
    { immediate: true },
  )
  watch(wish, () => tryOut(), { deep: true })
  return { view, tried, wish, moved, problem, reset }
}
