import { computed, ref, shallowRef, watch, type ComputedRef, type Ref, type ShallowRef } from 'vue'
import { ask, send, type GeometryView, type TriedCar, type TriedView } from '../api/client'
import { useCar } from '../stores/car'
import { useGuarded } from './useGuarded'
import { useLatest } from './useLatest'

const SAMPLES = 2000

export interface Geometry {
  view: ShallowRef<GeometryView | null>
  tried: ComputedRef<Record<string, TriedView>>
  axles: ComputedRef<TriedCar['axles']>
  heights: Ref<Record<string, number>>
  turns: Ref<Record<string, Record<string, number>>>
  problem: Ref<string>
  /** Set the sliders to what the plan turns. */
  follow(): void
  /** Set the sliders back: the planned height, nothing turned. */
  reset(): void
}

/** A car's geometry: its plan, how sure it is, and what the sliders try out. */
export function useGeometry(): Geometry {
  const store = useCar()
  const { problem, guarded } = useGuarded()
  const view = shallowRef<GeometryView | null>(null)
  const answer = shallowRef<TriedCar | null>(null)
  const heights = ref<Record<string, number>>({})
  const turns = ref<Record<string, Record<string, number>>>({})

  const load = () =>
    guarded(async () => {
      view.value = await send<GeometryView>('GET', `${store.path}/geometry`)
      if (!Object.keys(heights.value).length) reset()
      else tryOut()
      view.value = await send<GeometryView>('GET', `${store.path}/geometry?samples=${SAMPLES}`)
    })

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

  watch(() => store.car?.version, load, { immediate: true })
  watch([heights, turns], () => tryOut(), { deep: true })

  const tried = computed(() =>
    Object.fromEntries((answer.value?.wheels ?? []).map((one) => [one.key, one])),
  )
  const axles = computed(() => answer.value?.axles ?? [])

  return { view, tried, axles, heights, turns, problem, follow, reset }
}
