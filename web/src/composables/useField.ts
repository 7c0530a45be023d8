import { computed, ref, watch, type ComputedRef, type Ref } from 'vue'
import { ask, type Act, type FieldView, type MethodView } from '../api/client'
import { useJob } from '../stores/job'
import { useActing } from './useActing'

const PLUS_MINUS = 'plus_minus'

export interface FieldEntry {
  method: Ref<string>
  current: ComputedRef<MethodView | undefined>
  texts: Ref<Record<string, string>>
  units: Ref<Record<string, string>>
  problem: Ref<string>
  hint: Ref<string>
  busy: Ref<boolean>
  dirty: ComputedRef<boolean>
  typing(): void
  save(): Promise<boolean>
  copyFrom(key: string): Promise<boolean>
}

/** One measured field: what is typed, how the core understands it, and saving it. */
export function useField(field: FieldView): FieldEntry {
  const store = useJob()
  const { problem, busy, act } = useActing()
  const entry = computed(() => store.job?.entries[field.key])
  const method = ref('')
  const texts = ref<Record<string, string>>({})
  const units = ref<Record<string, string>>({})
  const hint = ref('')
  let pause: number | undefined
  let touched = false
  let begunOn: number | undefined

  const current = computed(() => field.methods.find((one) => one.name === method.value))

  function fill(): void {
    const saved = entry.value
    method.value = saved?.method || field.methods[0]?.name || ''
    texts.value = {}
    units.value = {}
    for (const one of field.methods) {
      for (const part of one.parts) units.value[part.name] ??= part.unit
    }
    if (saved) {
      for (const [name, typed] of Object.entries(saved.typed)) {
        texts.value[name] = typed.text
        units.value[name] = typed.unit
      }
      texts.value[PLUS_MINUS] = saved.plus_minus?.text ?? ''
      if (saved.plus_minus) units.value[PLUS_MINUS] = saved.plus_minus.unit
    }
    touched = false
  }

  function restore(): void {
    fill()
    const draft = store.drafts[field.key]
    if (!draft) return
    const { method: drafted, begunOn: begun, ...rest } = draft
    method.value = drafted ?? method.value
    begunOn = Number(begun)
    for (const [name, text] of Object.entries(rest)) {
      if (name.startsWith('unit:')) units.value[name.slice(5)] = text
      else texts.value[name] = text
    }
    touched = true
  }

  const dirty = computed(() => {
    const saved = entry.value
    const names = current.value?.parts.map((part) => part.name) ?? []
    if (saved && saved.method !== method.value) return true
    return [...names, PLUS_MINUS].some((name) => {
      const before = name === PLUS_MINUS ? saved?.plus_minus : saved?.typed[name]
      const text = texts.value[name] ?? ''
      return text !== (before?.text ?? '') || (text !== '' && before?.unit !== units.value[name])
    })
  })

  function wanted(): Act {
    const parts = current.value?.parts ?? []
    const firstUnit = units.value[parts[0]?.name ?? ''] ?? ''
    const pm = texts.value[PLUS_MINUS] ?? ''
    return {
      kind: 'entered',
      key: field.key,
      method: method.value,
      typed: Object.fromEntries(
        parts
          .filter((part) => (texts.value[part.name] ?? '').trim())
          .map((part) => [
            part.name,
            { text: texts.value[part.name] ?? '', unit: units.value[part.name] ?? part.unit },
          ]),
      ),
      plus_minus: pm.trim() ? { text: pm, unit: units.value[PLUS_MINUS] ?? firstUnit } : null,
    }
  }

  async function understand(): Promise<void> {
    try {
      const act = wanted()
      hint.value = (await ask((api) => api.POST('/api/understand', { body: { act } }))).understood
    } catch {
      hint.value = ''
    }
  }

  function typing(): void {
    touched = true
    begunOn ??= store.job?.version
    problem.value = ''
    const kept: Record<string, string> = { method: method.value, begunOn: String(begunOn) }
    for (const [name, text] of Object.entries(texts.value)) kept[name] = text
    for (const [name, unit] of Object.entries(units.value)) kept[`unit:${name}`] = unit
    store.drafts[field.key] = kept
    window.clearTimeout(pause)
    pause = window.setTimeout(() => void understand(), 250)
  }

  async function save(): Promise<boolean> {
    window.clearTimeout(pause)
    if (busy.value) return false
    if (!dirty.value && (entry.value || !field.required)) return true
    const taken = await act(wanted(), begunOn)
    if (taken) settle()
    begunOn = undefined
    return taken
  }

  async function copyFrom(key: string): Promise<boolean> {
    const other = store.job?.entries[key]
    if (!other) return false
    const { method: used, typed, choice, plus_minus } = other
    const taken = await act({
      kind: 'entered',
      key: field.key,
      method: used,
      typed,
      choice,
      plus_minus,
    })
    if (taken) settle()
    return taken
  }

  function settle(): void {
    hint.value = ''
    delete store.drafts[field.key]
    touched = false
  }

  watch(entry, () => (touched ? undefined : fill()))
  restore()

  return {
    method,
    current,
    texts,
    units,
    problem,
    hint,
    busy,
    dirty,
    typing,
    save,
    copyFrom,
  }
}
