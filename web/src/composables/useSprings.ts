import { computed, ref, shallowRef, watch, type ComputedRef, type Ref, type ShallowRef } from 'vue'
import { ask, type SpringsView, type TriedSits, type TrySprings } from '../api/client'
import { useJob } from '../stores/job'
import { useGuarded } from './useGuarded'
import { useJobPart } from './useJobPart'
import { useLatest } from './useLatest'

const SAMPLES = 5000
/** How sure it is takes the server a while: asked once the entering has stopped. */
const PAUSE_MS = 400

export interface Springs {
  view: ComputedRef<SpringsView | null>
  tried: ShallowRef<TriedSits | null>
  wish: Ref<Required<TrySprings>>
  moved: ComputedRef<boolean>
  problem: ComputedRef<string>
  /** Sliders back to what is planned. */
  reset(): void
}

const tries = (wish: TrySprings) =>
  Object.values(wish).some((one) => Object.keys(one as object).length > 0)

/** The open job's car on its springs, and what the sliders try out. */
export function useSprings(): Springs {
  const store = useJob()
  const { problem: trial, guarded } = useGuarded()
  const quick = useJobPart(
    'springs',
    (path) => (api) => api.GET('/api/jobs/{job_id}/springs', { params: { path } }),
  )
  const query = { samples: SAMPLES }
  const sure = useJobPart(
    'springs with ±',
    (path) => (api) => api.GET('/api/jobs/{job_id}/springs', { params: { path, query } }),
    PAUSE_MS,
  )
  const view = computed(() => (sure.isOfNow.value ? sure.found.value : quick.found.value))
  const tried = shallowRef<TriedSits | null>(null)
  const wish = ref<Required<TrySprings>>(nothing())
  const answered = shallowRef(wish.value)
  /** Something is tried, and there is an answer to show. */
  const moved = computed(() => tries(wish.value) && tries(answered.value))

  function nothing(): Required<TrySprings> {
    return { turns: {}, seats_mm: {}, rates_pct: {}, holes: {} }
  }

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

  watch(quick.found, (now) => now && tryOut(), { immediate: true })
  watch(wish, () => tryOut(), { deep: true })
  const problem = computed(() => trial.value || quick.problem.value)
  return { view, tried, wish, moved, problem, reset }
}
