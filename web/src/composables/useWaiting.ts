import type { Act, BookView, EntryView, JobView, SheetView, StepView } from '../api/client'
import type { Waiting } from '../api/shelf'
import { useChoices } from '../stores/choices'

export const POSITIONS: Record<string, string> = {
  on_wheels: 'on its wheels',
  hanging: 'hanging on stands',
  corner_carried: 'carried at one corner',
}
const OUTCOMES: Record<string, string> = {
  done: 'done',
  skipped: 'skipped',
  reopened: 'open again',
}

/** What an entry is called while it waits; the server says it in full once it is in the log. */
export function sayWaiting(act: Act, view: BookView, sheet: SheetView | null): string {
  const kind = useChoices().choices.entry_names[act.kind] ?? 'Entry'
  return `${kind}: ${detailOf(act, view, sheet)}`.replace(/: $/, '')
}

function detailOf(act: Act, view: BookView, sheet: SheetView | null): string {
  const steps = 'steps' in view ? view.steps : []
  switch (act.kind) {
    case 'entered': {
      const label = sheet?.fields.find((one) => one.key === act.key)?.label ?? act.key
      const typed = Object.values(act.typed ?? {}).map((one) => `${one.text} ${one.unit}`)
      return [label, act.choice, ...typed].filter(Boolean).join(', ')
    }
    case 'finished':
      return steps.find((one) => one.key === act.step)?.title ?? act.step
    case 'stepped':
      return `${steps.find((one) => one.key === act.step)?.title ?? act.step}, ${OUTCOMES[act.outcome ?? 'done']}`
    case 'moved':
      return [POSITIONS[act.to], act.corner ? `${act.axle} ${act.corner}` : '']
        .filter(Boolean)
        .join(', ')
    case 'worked': {
      const reading = act.reading ? `, ${act.reading.text} ${act.reading.unit}` : ''
      return `${useChoices().stage(act.to)?.said ?? act.to}, place ${act.places.join(', ')}${reading}`
    }
    case 'height_read':
      return `${act.axle} ${act.side}, ${act.height.text} ${act.height.unit}`
    case 'noted':
      return act.text
    default:
      return ''
  }
}

/** Fields with what was typed into them here and waits. */
export function entriesWith(
  entries: Record<string, EntryView>,
  waiting: Waiting[],
): Record<string, EntryView> {
  const typed = waiting.flatMap(({ entry: { act } }) => (act.kind === 'entered' ? [act] : []))
  if (!typed.length) return entries
  const shown = { ...entries }
  for (const act of typed) {
    shown[act.key] = {
      ...(entries[act.key] ?? BLANK),
      key: act.key,
      method: act.method ?? '',
      typed: act.typed ?? {},
      again: act.again ?? [],
      choice: act.choice ?? '',
      plus_minus: act.plus_minus ?? null,
      understood: 'waits to be sent',
      said: 'waits to be sent',
    }
  }
  return shown
}

const BLANK: EntryView = {
  key: '',
  label: '',
  said: '',
  event: '',
  at: '',
  method: '',
  typed: {},
  again: [],
  choice: '',
  plus_minus: null,
  carried: false,
  doubt: '',
  flags: [],
  gauge: '',
  source: '',
  understood: '',
}

/** A job as it is on the floor with what waits to be sent: where the car stands, and which steps were done. */
export function jobWith(job: JobView, waiting: Waiting[]): JobView {
  const acts = waiting.map((one) => one.entry.act)
  const moved = acts.findLast((act) => act.kind === 'moved')
  const steps = job.steps.map((step) => stepWith(step, acts))
  if (!moved || moved.kind !== 'moved') return { ...job, steps }
  const words = [POSITIONS[moved.to], moved.corner ? `${moved.axle} ${moved.corner}` : '']
  return {
    ...job,
    steps,
    position: moved.to,
    corner: moved.corner ?? null,
    carried_axle: moved.axle ?? 'front',
    position_said: `${words.filter(Boolean).join(', ')} (waits to be sent)`,
    settled: false,
  }
}

function stepWith(step: StepView, acts: Act[]): StepView {
  const last = acts.findLast((act) => isOf(step, act))
  if (last?.kind === 'finished') return { ...step, state: 'done' }
  if (last?.kind !== 'stepped') return step
  const state = last.outcome === 'reopened' ? 'open' : (last.outcome ?? 'done')
  return { ...step, state, reason: last.reason ?? '' }
}

const isOf = (step: StepView, act: Act) =>
  (act.kind === 'stepped' || act.kind === 'finished') && act.step === step.key
