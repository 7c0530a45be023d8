import { computed, ref, shallowRef, watch, type ComputedRef, type Ref } from 'vue'
import {
  ask,
  newId,
  type Brief,
  type Fitting,
  type PlanView,
  type ProcedureView,
} from '../api/client'
import { useJob } from '../stores/job'
import { useGuarded } from './useGuarded'
import { useRead } from './useRead'

const PAUSE_MS = 150
const EMPTY: Brief = {
  fittings: [],
  schools: {},
  lift: 'both_ends',
  dropped: {},
  added: [],
  later: [],
}

export interface Plan {
  brief: Ref<Brief>
  procedures: Ref<ProcedureView[]>
  plan: Ref<PlanView | null>
  /** Why the brief cannot be planned. */
  problem: ComputedRef<string>
  /** The plan is being taken or kept; never while one is only tried, or a tap just after a choice would be lost. */
  busy: Ref<boolean>
  /** The brief differs from the plan the job has. */
  changed: ComputedRef<boolean>
  add(key: string, axle: string): void
  remove(place: number): void
  change(place: number, part: Partial<Fitting>): void
  take(): Promise<boolean>
  saveAs(key: string, title: string): Promise<boolean>
}

/** The brief of the open job, planned again with every change; taken into the job when the user says so. */
export function usePlan(): Plan {
  const store = useJob()
  const { problem: refused, busy, guarded } = useGuarded()
  const trial = useGuarded()
  const problem = computed(() => refused.value || read.problem.value || trial.problem.value)
  const brief = ref<Brief>(EMPTY)
  const kept = ref('')
  const procedures = shallowRef<ProcedureView[]>([])
  const plan = shallowRef<PlanView | null>(null)
  const changed = computed(() => JSON.stringify(brief.value) !== kept.value)
  let asked = 0
  const draftKey = () => `brief ${store.path}`

  const read = useRead(
    () => ['plan', store.job!.id],
    (api) => api.GET('/api/jobs/{job_id}/plan', { params: { path: { job_id: store.job!.id } } }),
  )
  async function tryOut(again = false): Promise<void> {
    const own = ++asked
    await new Promise((done) => setTimeout(done, PAUSE_MS))
    if (own !== asked || !(changed.value || again)) return
    if (!brief.value.fittings.length) {
      plan.value = null
      return
    }
    await trial.guarded(async () => {
      const found = await ask((api) =>
        api.POST('/api/jobs/{job_id}/plan/try', {
          params: { path: { job_id: store.job!.id } },
          body: { brief: brief.value },
        }),
      )
      if (own === asked)
        plan.value = { ...found, taken: !changed.value && !!store.job?.steps.length }
    })
  }

  function add(key: string, axle: string): void {
    const fitting = {
      procedure: key,
      axle: axle as Fitting['axle'],
      sides: ['left', 'right'] as Fitting['sides'],
      options: {},
      compared: {},
    }
    brief.value = { ...brief.value, fittings: [...brief.value.fittings, fitting] }
  }

  function remove(place: number): void {
    const fittings = brief.value.fittings.filter((_, at) => at !== place)
    brief.value = { ...brief.value, fittings, dropped: {}, later: [] }
  }

  function change(place: number, part: Partial<Fitting>): void {
    const fittings = brief.value.fittings.map((one, at) =>
      at === place ? { ...one, ...part } : one,
    )
    brief.value = { ...brief.value, fittings }
  }

  const take = () =>
    guarded(async () => {
      asked += 1
      const body = { id: newId(), seen: store.version, brief: brief.value }
      store.take(
        await ask((api) =>
          api.POST('/api/jobs/{job_id}/plan', {
            params: { path: { job_id: store.job!.id } },
            body,
          }),
        ),
      )
      sessionStorage.removeItem(draftKey())
      await read.again()
    })

  const saveAs = (key: string, title: string) =>
    guarded(async () => {
      const old = procedures.value.find((one) => one.key === key)
      const body = { key, title, brief: brief.value, seen: old?.version ?? 0 }
      const saved = await ask((api) =>
        api.POST('/api/jobs/{job_id}/plan/procedure', {
          params: { path: { job_id: store.job!.id } },
          body,
        }),
      )
      procedures.value = [...procedures.value.filter((one) => one.key !== key), saved]
    })

  /** What is chosen but not taken stays when the page is left. */
  watch(brief, () => {
    if (changed.value) sessionStorage.setItem(draftKey(), JSON.stringify(brief.value))
    else sessionStorage.removeItem(draftKey())
    void tryOut()
  })
  watch(
    () => store.version,
    () => void tryOut(true),
  )
  watch(
    read.found,
    (found) => {
      if (!found) return
      procedures.value = found.procedures
      plan.value = found.plan
      const stood = { ...EMPTY, ...found.brief }
      kept.value = JSON.stringify(stood)
      const draft = sessionStorage.getItem(draftKey())
      brief.value = draft ? { ...EMPTY, ...(JSON.parse(draft) as Brief) } : stood
    },
    { immediate: true },
  )
  return { brief, procedures, plan, problem, busy, changed, add, remove, change, take, saveAs }
}
