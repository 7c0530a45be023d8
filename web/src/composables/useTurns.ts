import { computed, type ComputedRef } from 'vue'
import type { TurnsOfJobView } from '../api/client'
import { useJobPart } from './useJobPart'

const SAMPLES = 2000
/** How sure it is takes the server a while: asked once the tapping has stopped. */
const PAUSE_MS = 400

type Named = { name: string }
const same = <One extends Named>(all: One[] | undefined, one: Named) =>
  all?.find((each) => each.name === one.name)

/** What was said of the ± stays until it is said anew, so that nothing moves under a tapping thumb. */
function carried(quick: TurnsOfJobView, before: TurnsOfJobView | null): TurnsOfJobView {
  const wheels = quick.wheels.map((wheel) => {
    const old = before?.wheels.find((one) => one.key === wheel.key)
    return {
      ...wheel,
      chance_pct: wheel.chance_pct ?? old?.chance_pct ?? null,
      counts: wheel.counts.map((one) => ({
        ...one,
        plus_minus_turns: one.plus_minus_turns ?? same(old?.counts, one)?.plus_minus_turns ?? null,
      })),
      targets: wheel.targets.map((one) => ({
        ...one,
        plus_minus_deg: one.plus_minus_deg ?? same(old?.targets, one)?.plus_minus_deg ?? null,
      })),
    }
  })
  const axles = quick.axles.map((axle) => {
    const old = before?.axles.find((one) => one.axle === axle.axle)
    return {
      ...axle,
      chance_pct: axle.chance_pct ?? old?.chance_pct ?? null,
      shares: axle.shares.length ? axle.shares : (old?.shares ?? []),
      together: axle.together.map((one) => ({
        ...one,
        plus_minus_deg: one.plus_minus_deg ?? same(old?.together, one)?.plus_minus_deg ?? null,
      })),
    }
  })
  return { ...quick, wheels, axles }
}

/** The turns of the open job, read again with every line of its log; how sure they are comes after. */
export function useTurns(): { turns: ComputedRef<TurnsOfJobView | null> } {
  const quick = useJobPart(
    'turns',
    (path) => (api) => api.GET('/api/jobs/{job_id}/turns', { params: { path } }),
  )
  const query = { samples: SAMPLES }
  const sure = useJobPart(
    'turns with ±',
    (path) => (api) => api.GET('/api/jobs/{job_id}/turns', { params: { path, query } }),
    PAUSE_MS,
  )
  const turns = computed(() => {
    if (sure.isOfNow.value) return sure.found.value
    return quick.found.value && carried(quick.found.value, sure.found.value)
  })
  return { turns }
}
