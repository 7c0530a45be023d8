import { shallowRef, watch, type ShallowRef } from 'vue'
import { send } from '../api/client'
import { useJob } from '../stores/job'
import { useGuarded, type Guarded } from './useGuarded'
import { useLatest } from './useLatest'

export interface JobPart<T> extends Guarded {
  found: ShallowRef<T | null>
}

/** A part of the open job under its own address, read again with every line of its log; asked once that has paused. */
export function useJobPart<T>(part: string, pauseMs = 0): JobPart<T> {
  const store = useJob()
  const { problem, busy, guarded } = useGuarded()
  const found = shallowRef<T | null>(null)
  const load = useLatest(
    () =>
      guarded(async () => {
        found.value = await send<T>('GET', `${store.path}/${part}`)
      }),
    pauseMs,
  )
  watch(
    () => store.job?.version,
    () => load(),
    { immediate: true },
  )
  return { found, problem, busy, guarded }
}
