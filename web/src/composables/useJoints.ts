import { computed, ref, shallowRef, watch, type ComputedRef, type Ref, type ShallowRef } from 'vue'
import { ask, newId, type JointView, type JointsView } from '../api/client'
import { useJob } from '../stores/job'
import { useGuarded } from './useGuarded'
import { useLatest } from './useLatest'
import { inUnit, readTyped } from './useTyped'

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
  /** The log has gone on and the joints shown are older than it: what stands there may be done already. */
  behind: ComputedRef<boolean>
  /** The joint whose map was kept in the car's record last. */
  kept: Ref<string>
  keep(joint: string): Promise<boolean>
}

/** The adapter as the log takes it; null where none is on the wrench or only half is told yet, a refusal where its
 * lengths are no numbers. */
export async function adapterOf(one: WrenchAdapter) {
  if (!one.wrench.trim() || !one.adapter.trim()) return null
  const { numbers } = await readTyped({
    numbers: {
      ...inUnit('mm', { wrench: one.wrench, adapter: one.adapter }),
      ...inUnit('deg', { angle: one.angle || '0' }),
    },
  })
  if (!numbers.adapter) return null
  return { wrench_mm: numbers.wrench!, adapter_mm: numbers.adapter, angle_deg: numbers.angle! }
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

  const readAt = ref(-1)
  const behind = computed(() => readAt.value !== (store.job?.version ?? -1))

  async function load(): Promise<void> {
    const version = store.job?.version ?? -1
    await guarded(async () => {
      const on = await adapterOf(adapter.value)
      view.value = await ask((api) =>
        api.GET('/api/jobs/{job_id}/joints', {
          params: { path: { job_id: store.job!.id }, query: on ?? {} },
        }),
      )
    })
    readAt.value = version
  }

  const kept = ref('')
  const keep = (key: string) =>
    guarded(async () => {
      await ask((api) =>
        api.POST('/api/jobs/{job_id}/joints/keep', {
          params: { path: { job_id: store.job!.id } },
          body: { id: newId(), joint: key },
        }),
      )
      kept.value = key
    })

  const again = useLatest(load)
  watch(() => store.job?.version, again, { immediate: true })
  watch(adapter, again, { deep: true })
  return { view, chosen, joint, adapter, problem, behind, kept, keep }
}
