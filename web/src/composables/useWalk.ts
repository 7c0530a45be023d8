import { computed, ref, watch, type ComputedRef, type Ref } from 'vue'
import type { FieldView } from '../api/client'
import { useJob } from '../stores/job'

export interface Walk {
  steps: ComputedRef<FieldView[]>
  at: Ref<string>
  field: ComputedRef<FieldView | undefined>
  place: ComputedRef<number>
  optional: Ref<boolean>
  left: ComputedRef<number>
  go(by: number): void
  /** On to the next thing that is not read yet; false where nothing is left. */
  onward(): boolean
}

/** The walk round the car: one field at a time, in the workshop's own order. */
export function useWalk(phase: Ref<'baseline' | 'check'>): Walk {
  const store = useJob()
  const optional = ref(false)
  const chosen = ref('')
  const fields = computed(() => new Map(store.sheet?.fields.map((one) => [one.key, one]) ?? []))
  const missing = computed(() => new Set(store.job?.missing[phase.value] ?? []))
  const isRead = (key: string) => !!store.job?.entries[key]

  const steps = computed(() =>
    (store.job?.walks[phase.value] ?? [])
      .map((key) => fields.value.get(key))
      .filter((one): one is FieldView => !!one)
      .filter(
        (one) => optional.value || one.required || isRead(one.key) || one.key === chosen.value,
      ),
  )
  const firstOpen = computed(
    () =>
      steps.value.find((one) => missing.value.has(one.key))?.key ??
      steps.value.find((one) => store.job?.entries[one.key]?.doubt)?.key ??
      steps.value[0]?.key ??
      '',
  )
  const at = computed({
    get: () =>
      steps.value.some((one) => one.key === chosen.value) ? chosen.value : firstOpen.value,
    set: (key: string) => (chosen.value = key),
  })
  // Where the walk begins is held, so that a saved reading does not move it on by itself.
  watch(firstOpen, (key) => (chosen.value ||= key), { immediate: true })
  watch(phase, () => (chosen.value = ''))
  const field = computed(() => fields.value.get(at.value))
  const place = computed(() => steps.value.findIndex((one) => one.key === at.value))
  const left = computed(() => missing.value.size)

  function go(by: number): void {
    const next = steps.value[place.value + by]
    if (next) chosen.value = next.key
  }

  function onward(): boolean {
    const rest = [...steps.value.slice(place.value + 1), ...steps.value.slice(0, place.value)]
    const open = (one: FieldView) =>
      optional.value ? !isRead(one.key) : missing.value.has(one.key)
    const next = rest.find(open)
    if (next) chosen.value = next.key
    return !!next
  }

  return { steps, at, field, place, optional, left, go, onward }
}
