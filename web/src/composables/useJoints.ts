import { computed, ref, type ComputedRef, type Ref } from 'vue'
import { ask, newId, type JointView, type JointsView } from '../api/client'
import { useJob } from '../stores/job'
import { useRead } from './useRead'
import { inUnit, readTyped } from './useTyped'

export interface WrenchAdapter {
  wrench: string
  adapter: string
  angle: string
}

export interface Joints {
  view: ComputedRef<JointsView | null>
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

/** Where the values of some joints come from, in the order they stand. */
export function sourcesOf(joints: JointView[]): string[] {
  return joints.flatMap((one) => one.bolts.map((bolt) => bolt.source)).filter(Boolean)
}

/** The joints of the open job, read again with every line of its log. */
export function useJoints(): Joints {
  const store = useJob()
  const chosen = ref('')
  const adapter = ref<WrenchAdapter>({ wrench: '', adapter: '', angle: '0' })
  const {
    found: view,
    isCurrent,
    problem,
    guarded,
  } = useRead(
    () => ['jobs', store.job!.id, 'joints'],
    async (api) => {
      const path = { job_id: store.job!.id }
      const query = (await adapterOf(adapter.value)) ?? {}
      return api.GET('/api/jobs/{job_id}/joints', { params: { path, query } })
    },
    { version: () => [store.version, ...Object.values(adapter.value)].join(' ') },
  )
  const joint = computed(
    () => view.value?.joints.find((one) => one.key === chosen.value) ?? view.value?.joints[0],
  )

  const behind = computed(() => !isCurrent.value)

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

  return { view, chosen, joint, adapter, problem, behind, kept, keep }
}
