import { newId, send, type Bolt, type Joint } from '../api/client'

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

const number = (text: string) => Number(text.replace(',', '.')) || 0

interface Row {
  at: number[]
  thread?: string
  torque?: string
  note?: string
}

/** Places as rows of a table, apart by semicolons or tabs; or laid out by the core. */
async function places(one: JointDraft): Promise<Row[]> {
  if (one.pattern === 'free') {
    return one.rows
      .split('\n')
      .filter((row) => row.trim())
      .map((row) => row.split(/[;\t]/).map((cell) => cell.trim()))
      .map(([x = '', y = '', thread, torque, note]) => ({
        at: [number(x), number(y)],
        thread,
        torque,
        note,
      }))
  }
  const query = new URLSearchParams({
    pattern: one.pattern,
    count: String(Math.trunc(number(one.count))),
    width_mm: String(number(one.width)),
    height_mm: String(one.pattern === 'rectangle' ? number(one.height) : 0),
  })
  const laid = await send<{ places: number[][] }>('GET', `/api/joint-patterns?${query}`)
  return laid.places.map((at) => ({ at }))
}

function specOf(one: JointDraft): Bolt['spec'] {
  if (!one.torque.trim() && one.way !== 'angle' && one.way !== 'stretch') return null
  return {
    way: one.way as 'torque',
    torque: one.torque.trim() ? { text: one.torque, unit: one.unit } : null,
    torque_to: one.torqueTo.trim() ? { text: one.torqueTo, unit: one.unit } : null,
    angle_deg: one.way === 'torque_angle' || one.way === 'angle' ? number(one.angle) : 0,
    stretch_mm: one.way === 'stretch' ? number(one.stretch) : 0,
    condition: one.condition as 'dry',
    source: one.source,
    trust: one.trust as 'maker',
  }
}

function boltOf(one: JointDraft, row: Row, place: number): Bolt {
  const at = row.at
  const thread = (row.thread || one.thread).match(/^\s*M?\s*([\d.,]+)\s*[x×*]\s*([\d.,]+)\s*$/i)
  return {
    number: place + 1,
    x_mm: at[0] ?? 0,
    y_mm: at[1] ?? 0,
    diameter_mm: number(thread?.[1] ?? ''),
    pitch_mm: number(thread?.[2] ?? ''),
    length_mm: number(one.length),
    property_class: one.grade as Bolt['property_class'],
    head: one.head,
    nut: one.nut,
    hold: one.hold,
    single_use: one.single,
    aluminium: one.aluminium,
    condition: one.threadNow as Bolt['condition'],
    lock: one.lock as Bolt['lock'],
    slots: one.lock === 'cotter' ? Math.trunc(number(one.slots)) : 0,
    reach: one.reach,
    note: row.note ?? '',
    spec: specOf(row.torque ? { ...one, torque: row.torque } : one),
  }
}

/** The joint with its places laid out; what cannot be is refused by the server. */
export async function jointOf(one: JointDraft): Promise<Joint> {
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
    passes_pct: one.passes
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map(number),
    bolts: (await places(one)).map((row, place) => boltOf(one, row, place)),
  }
}
