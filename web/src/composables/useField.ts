import { computed, ref, watch, type ComputedRef, type Ref } from 'vue'
import type { EntryView, FieldView, Gauge, LineAct, MethodView } from '../api/client'
import { useActing } from './useActing'
import { useDesk } from './useDesk'

const PLUS_MINUS = 'plus_minus'
const CORNERS = ['front.left', 'front.right', 'rear.right', 'rear.left']
const isPoint = (key: string) => key.includes('.point.')
type Row = Record<string, { text: string; unit: string }>

export interface FieldEntry {
  method: Ref<string>
  current: ComputedRef<MethodView | undefined>
  texts: Ref<Record<string, string>>
  units: Ref<Record<string, string>>
  problem: Ref<string>
  hint: Ref<string>
  busy: Ref<boolean>
  dirty: ComputedRef<boolean>
  /** Readings kept so far; while `adding`, what is typed joins them instead of replacing them. */
  kept: ComputedRef<Row[]>
  adding: Ref<boolean>
  gauge: Ref<Gauge | null>
  typing(): void
  save(): Promise<boolean>
  again(): void
  drop(place: number): Promise<boolean>
  clear(): Promise<boolean>
  copyFrom(key: string): Promise<boolean>
}

/** One measured field: what is typed, how the core understands it, its repeats, and saving it. */
export function useField(field: FieldView): FieldEntry {
  const desk = useDesk()
  const { problem, busy, act } = useActing()
  const entry = computed(() => desk.entries.value[field.key])
  const method = ref('')
  const texts = ref<Record<string, string>>({})
  const units = ref<Record<string, string>>({})
  const hint = ref('')
  const adding = ref(false)
  const gauge = ref<Gauge | null>(null)
  let pause: number | undefined
  let touched = false
  let begunOn: number | undefined

  const current = computed(() => field.methods.find((one) => one.name === method.value))
  const kept = computed<Row[]>(() => (entry.value ? [entry.value.typed, ...entry.value.again] : []))

  /** The same reading at another wheel: its method and its carried numbers are offered again. */
  function sibling() {
    const keys = CORNERS.map((corner) => `${corner}.${field.name}`)
    const others = keys.filter((key) => key !== field.key).map((key) => desk.entries.value[key])
    const fits = (one: (typeof others)[number]) =>
      field.methods.some((method) => method.name === one?.method)
    return others.find(fits) ?? (isPoint(field.key) ? lastPoint(fits) : undefined)
  }

  /** Points are read one after the other by the same lines: the way of the last is offered for the next. */
  function lastPoint(fits: (one: EntryView | undefined) => boolean) {
    const points = Object.entries(desk.entries.value).filter(([key]) => isPoint(key))
    return points.map(([, one]) => one).findLast(fits)
  }

  function fill(): void {
    const saved = entry.value
    const like = saved ?? sibling()
    method.value = like?.method || field.methods[0]?.name || ''
    texts.value = {}
    units.value = {}
    for (const one of field.methods) {
      for (const part of one.parts) units.value[part.name] ??= part.unit
    }
    for (const part of current.value?.parts ?? []) {
      const typed = like?.typed[part.name]
      if (!typed) continue
      units.value[part.name] = typed.unit
      if ((saved && !adding.value) || part.carry) texts.value[part.name] = typed.text
    }
    if (saved && !adding.value) {
      texts.value[PLUS_MINUS] = saved.plus_minus?.text ?? ''
      if (saved.plus_minus) units.value[PLUS_MINUS] = saved.plus_minus.unit
    }
    gauge.value = null
    touched = false
  }

  function restore(): void {
    fill()
    const draft = desk.drafts.value[field.key]
    if (!draft) return
    const { method: drafted, begunOn: begun, ...rest } = draft
    method.value = drafted ?? method.value
    // eslint-disable-next-line no-restricted-syntax -- a version of ours, not what was typed
    begunOn = Number(begun)
    for (const [name, text] of Object.entries(rest)) {
      if (name.startsWith('unit:')) units.value[name.slice(5)] = text
      else texts.value[name] = text
    }
    touched = true
  }

  const dirty = computed(() => {
    const saved = adding.value ? undefined : entry.value
    const parts = current.value?.parts ?? []
    if (saved && saved.method !== method.value) return true
    if (!saved) return parts.some((part) => !part.carry && (texts.value[part.name] ?? '') !== '')
    return [...parts.map((part) => part.name), PLUS_MINUS].some((name) => {
      const before = name === PLUS_MINUS ? saved.plus_minus : saved.typed[name]
      const text = texts.value[name] ?? ''
      return text !== (before?.text ?? '') || (text !== '' && before?.unit !== units.value[name])
    })
  })

  function row(): Row {
    const filled = (current.value?.parts ?? []).filter((part) => texts.value[part.name]?.trim())
    return Object.fromEntries(
      filled.map((part) => [
        part.name,
        { text: texts.value[part.name] ?? '', unit: units.value[part.name] ?? part.unit },
      ]),
    )
  }

  function wanted(): LineAct {
    const rows = adding.value ? [...kept.value, row()] : [row(), ...(entry.value?.again ?? [])]
    return entered(rows)
  }

  function entered(rows: Row[]): LineAct {
    const pm = texts.value[PLUS_MINUS] ?? ''
    const unit = units.value[PLUS_MINUS] ?? current.value?.unit ?? ''
    return {
      kind: 'entered',
      key: field.key,
      method: method.value,
      typed: rows[0] ?? {},
      again: entry.value && entry.value.method !== method.value ? [] : rows.slice(1),
      plus_minus: pm.trim() ? { text: pm, unit } : null,
      gauge: gauge.value,
    }
  }

  async function understand(): Promise<void> {
    try {
      hint.value = await desk.understand(wanted())
    } catch {
      hint.value = ''
    }
  }

  function typing(): void {
    touched = true
    begunOn ??= desk.version.value
    problem.value = ''
    const draft: Record<string, string> = { method: method.value, begunOn: String(begunOn) }
    for (const [name, text] of Object.entries(texts.value)) draft[name] = text
    for (const [name, unit] of Object.entries(units.value)) draft[`unit:${name}`] = unit
    desk.drafts.value[field.key] = draft
    window.clearTimeout(pause)
    pause = window.setTimeout(() => void understand(), 250)
  }

  async function put(wantedAct: LineAct, seen?: number): Promise<boolean> {
    const taken = await act(wantedAct, seen)
    if (taken) settle()
    return taken
  }

  async function save(): Promise<boolean> {
    window.clearTimeout(pause)
    if (busy.value) return false
    if (!dirty.value && (adding.value || entry.value || !field.required)) {
      stopAdding()
      return true
    }
    const seen = begunOn
    begunOn = undefined
    return put(wanted(), seen)
  }

  function again(): void {
    adding.value = true
    fill()
  }

  function stopAdding(): void {
    adding.value = false
    if (!touched) fill()
  }

  const drop = (place: number) => put(entered(kept.value.filter((_, at) => at !== place)))
  const clear = () => put({ kind: 'cleared', key: field.key })

  async function copyFrom(key: string): Promise<boolean> {
    const other = desk.entries.value[key]
    if (!other) return false
    const { method: used, typed, choice, plus_minus, again: repeats } = other
    return put({
      kind: 'entered',
      key: field.key,
      method: used,
      typed,
      choice,
      plus_minus,
      again: repeats,
    })
  }

  function settle(): void {
    hint.value = ''
    delete desk.drafts.value[field.key]
    touched = false
    adding.value = false
    fill()
  }

  watch([entry, () => sibling()?.method], () => (touched ? undefined : fill()))
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
    kept,
    adding,
    gauge,
    typing,
    save,
    again,
    drop,
    clear,
    copyFrom,
  }
}
