import { refDebounced, useTimeout } from '@vueuse/core'
import { computed, type ComputedRef } from 'vue'
import type { Call } from '../api/client'
import { useJob } from '../stores/job'
import { useRead, type Read } from './useRead'

export interface JobPart<T extends object> extends Read<T> {
  /** What was read belongs to the job as it stands now. */
  isOfNow: ComputedRef<boolean>
}

/** A part of the open job, read again with every line of its log; where it takes the server a while, once that has paused. */
export function useJobPart<T extends object>(
  part: string,
  call: (path: { job_id: string }) => Call<T>,
  pauseMs = 0,
): JobPart<T> {
  const store = useJob()
  const now = computed(() => store.version)
  const version = refDebounced(now, pauseMs)
  const ready = useTimeout(pauseMs)
  const id = computed(() => store.job?.id ?? '')
  const read = useRead<T>(
    () => ['jobs', id.value, part],
    (api) => call({ job_id: id.value })(api),
    { version, when: () => ready.value && id.value !== '' },
  )
  const isOfNow = computed(() => read.isCurrent.value && version.value === now.value)
  return { ...read, isOfNow }
}
