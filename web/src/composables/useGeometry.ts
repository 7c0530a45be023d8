import { computed, ref, shallowRef, watch, type ComputedRef, type Ref } from 'vue'
import { ask, type GeometryView, type TriedCar, type TriedView } from '../api/client'
import { useCar } from '../stores/car'
import { useCarPart } from './useCarPart'
import { useGuarded } from './useGuarded'
import { useLatest } from './useLatest'

const SAMPLES = 2000

export interface Geometry {
  view: ComputedRef<GeometryView | null>
  tried: ComputedRef<Record<string, TriedView>>
  axles: ComputedRef<TriedCar['axles']>
  heights: Ref<Record<string, number>>
  turns: Ref<Record<string, Record<string, number>>>
  problem: ComputedRef<string>
  /** Set the sliders to what the plan turns. */
  follow(): void
  /** Set the sliders back: the planned height, nothing turned. */
  reset(): void
}

/** A car's geometry: its plan, how sure it is, and what the sliders try out. */
export function useGeometry(): Geometry {
  const store = useCar()
  const { problem: trial, guarded } = useGuarded()
  const quick = useCarPart(
    'geometry',
    (path) => (api) => api.GET('/api/cars/{car_id}/geometry', { params: { path } }),
  )
  const query = { samples: SAMPLES }
  const sure = useCarPart(
    'geometry with ±',
    (path) => (api) => api.GET('/api/cars/{car_id}/geometry', { params: { path, query } }),
  )
  const view = computed(() => (sure.isCurrent.value ? sure.found.value : quick.found.value))
  const answer = shallowRef<TriedCar | null>(null)
  const heights = ref<Record<string, number>>({})
  const turns = ref<Record<string, Record<string, number>>>({})

  function reset(): void {
    turns.value = Object.fromEntries(view.value?.wheels.map((one) => [one.key, {}]) ?? [])
    heights.value = Object.fromEntries(
      view.value?.wheels.map((one) => [one.key.split('.')[0]!, -one.travel_mm]) ?? [],
    )
  }

  function follow(): void {
    for (const wheel of view.value?.wheels ?? []) {
      turns.value[wheel.key] = Object.fromEntries(
        wheel.adjusters.map((one) => [one.name, one.set_turns ?? 0]),
      )
    }
  }

  /** One question at a time; what the slider did meanwhile is asked next. */
  const tryOut = useLatest(async () => {
    await guarded(async () => {
      const wanted = { heights_mm: heights.value, turns: turns.value }
      answer.value = await ask((api) =>
        api.POST('/api/cars/{car_id}/what-if', {
          params: { path: { car_id: store.car!.id } },
          body: wanted,
        }),
      )
    })
  })

  watch(
    quick.found,
    (now) => {
      if (!now) return
      if (!Object.keys(heights.value).length) reset()
      else tryOut()
    },
    { immediate: true },
  )
  watch([heights, turns], () => tryOut(), { deep: true })

  const tried = computed(() =>
    Object.fromEntries((answer.value?.wheels ?? []).map((one) => [one.key, one])),
  )
  const axles = computed(() => answer.value?.axles ?? [])

  const problem = computed(() => trial.value || quick.problem.value)

  return { view, tried, axles, heights, turns, problem, follow, reset }
}
