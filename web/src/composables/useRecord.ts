import { shallowRef, watch, type Ref, type ShallowRef } from 'vue'
import { send, type RecordView } from '../api/client'
import { useJob } from '../stores/job'
import { useGuarded } from './useGuarded'
import { useLatest } from './useLatest'

export interface Recorded {
  record: ShallowRef<RecordView | null>
  problem: Ref<string>
}

/** What the open job's record holds, read again with every line of its log. */
export function useRecord(): Recorded {
  const store = useJob()
  const { problem, guarded } = useGuarded()
  const record = shallowRef<RecordView | null>(null)
  const load = useLatest(() =>
    guarded(async () => {
      record.value = await send<RecordView>('GET', `${store.path}/record`)
    }),
  )
  watch(
    () => store.job?.version,
    () => load(),
    { immediate: true },
  )
  return { record, problem }
}
