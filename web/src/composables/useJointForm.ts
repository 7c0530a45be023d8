import { ask, newId, type Bolt, type Joint } from '../api/client'
import { inUnit, readTyped, type TypedFormView } from './useTyped'

/** A joint as it is typed, before its places are laid out. */
export const emptyJoint = () => ({
  label: '',
  role: 'clamp',
  axle: '',
  side: '',
  bushing: '',
  arm: '',
  pattern: 'circle',
  rows: '',
  count: '5',
  width: '112',
  height: '80',
  order: 'star',
  passes: '100',
  thread: '',
  length: '',
  grade: '',
  head: '',
  nut: '',
  hold: '',
  way: 'torque',
  torque: '',
  torqueTo: '',
  unit: 'nm',
  angle: '',
  stretch: '',
  condition: '',
  threadNow: '',
  source: '',
  trust: '',
  single: false,
  aluminium: false,
  lock: '',
  slots: '6',
  reach: '',
})

export type JointDraft = ReturnType<typeof emptyJoint>

interface Row {
  at: number[]
  thread?: Thread | null
  torque?: string
  note?: string
}

type Thread = TypedFormView['threads'][string]
type Numbers = Record<string, number>

/** Places as they were typed, or laid out by the core. */
async function places(one: JointDraft, read: TypedFormView): Promise<Row[]> {
  if (one.pattern === 'free') {
    return read.rows.map(({ x_mm, y_mm, thread, torque, note }) => ({
      at: [x_mm, y_mm],
      thread,
      torque,
      note,
    }))
  }
  const query = {
    pattern: one.pattern as 'circle',
    count: read.numbers.count ?? 0,
    width_mm: read.numbers.width ?? 0,
    height_mm: one.pattern === 'rectangle' ? (read.numbers.height ?? 0) : 0,
  }
  const laid = await ask((api) => api.GET('/api/joint-patterns', { params: { query } }))
  return laid.places.map((at) => ({ at }))
}

function specOf(one: JointDraft, told: Numbers): Bolt['spec'] {
  if (!one.torque.trim() && one.way !== 'angle' && one.way !== 'stretch') return null
  return {
    way: one.way as 'torque',
    torque: one.torque.trim() ? { text: one.torque, unit: one.unit } : null,
    torque_to: one.torqueTo.trim() ? { text: one.torqueTo, unit: one.unit } : null,
    angle_deg: one.way === 'torque_angle' || one.way === 'angle' ? (told.angle ?? 0) : 0,
    stretch_mm: one.way === 'stretch' ? (told.stretch ?? 0) : 0,
    condition: one.condition as 'dry',
    source: one.source,
    trust: one.trust as 'maker',
  }
}

function boltOf(one: JointDraft, read: TypedFormView, row: Row, place: number): Bolt {
  const at = row.at
  const told = read.numbers
  return {
    number: place + 1,
    x_mm: at[0] ?? 0,
    y_mm: at[1] ?? 0,
    ...(row.thread ?? read.threads.thread!),
    length_mm: told.length ?? 0,
    property_class: one.grade as Bolt['property_class'],
    head: one.head,
    nut: one.nut,
    hold: one.hold,
    single_use: one.single,
    aluminium: one.aluminium,
    condition: one.threadNow as Bolt['condition'],
    lock: one.lock as Bolt['lock'],
    slots: one.lock === 'cotter' ? (told.slots ?? 0) : 0,
    reach: one.reach,
    note: row.note ?? '',
    spec: specOf(row.torque ? { ...one, torque: row.torque } : one, told),
  }
}

/** The joint with its places laid out; what cannot be is refused by the server. */
export async function jointOf(one: JointDraft): Promise<Joint> {
  const passes = one.passes.split(/[\s,;]+/).filter(Boolean)
  const read = await readTyped({
    numbers: {
      ...inUnit('mm', {
        width: one.width,
        height: one.height,
        length: one.length,
        stretch: one.stretch,
      }),
      ...inUnit('piece', { count: one.count, slots: one.slots }),
      ...inUnit('deg', { angle: one.angle }),
      ...inUnit('pct', Object.fromEntries(passes.map((text, n) => [`pass ${n + 1}`, text]))),
    },
    threads: { thread: one.thread },
    rows: one.pattern === 'free' ? one.rows : '',
  })
  const pivots = one.role === 'rubber_pivot'
  return {
    key: newId(),
    label: one.label,
    role: one.role as Joint['role'],
    axle: one.axle as Joint['axle'],
    side: one.side as Joint['side'],
    bushing: pivots ? (one.bushing as Joint['bushing']) : '',
    arm: pivots ? one.arm : '',
    pattern: one.pattern as Joint['pattern'],
    order: one.order as Joint['order'],
    passes_pct: passes.map((_, n) => read.numbers[`pass ${n + 1}`]!),
    bolts: (await places(one, read)).map((row, place) => boltOf(one, read, row, place)),
  }
}
