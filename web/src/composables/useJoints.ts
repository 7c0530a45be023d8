import { computed, ref, shallowRef, watch, type ComputedRef, type Ref, type ShallowRef } from 'vue'
import { newId, send, type JointView, type JointsView } from '../api/client'
import { useJob } from '../stores/job'
import { useGuarded } from './useGuarded'
import { useLatest } from './useLatest'

export interface WrenchAdapter {
  wrench: string
  adapter: string
  angle: string
}

export interface Joints {
  view: ShallowRef<JointsView | null>
  chosen: Ref<string>
  joint: ComputedRef<JointView | undefined>
  adapter: Ref<WrenchAdapter>
  problem: Ref<string>
  /** The joint whose map was kept in the car's record last. */
  kept: Ref<string>
  keep(joint: string): Promise<boolean>
}

const number = (text: string) => Number(text.replace(',', '.')) || 0

/** The adapter as the log takes it; null where none is on the wrench. */
export function adapterOf(one: WrenchAdapter) {
  const [wrench, adapter] = [number(one.wrench), number(one.adapter)]
  if (!wrench || !adapter) return null
  return { wrench_mm: wrench, adapter_mm: adapter, angle_deg: number(one.angle) }
}

/** The joints of the open job, read again with every line of its log. */
export function useJoints(): Joints {
  const store = useJob()
  const { problem, guarded } = useGuarded()
  const view = shallowRef<JointsView | null>(null)
  const chosen = ref('')
  const adapter = ref<WrenchAdapter>({ wrench: '', adapter: '', angle: '0' })
  const joint = computed(
    () => view.value?.joints.find((one) => one.key === chosen.value) ?? view.value?.joints[0],
  )

  const load = () =>
    guarded(async () => {
      const on = adapterOf(adapter.value)
      const query = on
        ? `?wrench_mm=${on.wrench_mm}&adapter_mm=${on.adapter_mm}&angle_deg=${on.angle_deg}`
        : ''
      view.value = await send<JointsView>('GET', `${store.path}/joints${query}`)
    })

  const kept = ref('')
  const keep = (key: string) =>
    guarded(async () => {
      await send('POST', `${store.path}/joints/keep`, { id: newId(), joint: key })
      kept.value = key
    })

  const again = useLatest(load)
  watch(() => store.job?.version, again, { immediate: true })
  watch(adapter, again, { deep: true })
  return { view, chosen, joint, adapter, problem, kept, keep }
}
