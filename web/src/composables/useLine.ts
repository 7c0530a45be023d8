import { markRaw, reactive } from 'vue'

const SILENT_MS = 1200
const AGAIN_MS = 1500

/** What a gauge shows: one value, or one for each channel. */
export interface Shown {
  value: number | null
  values: Record<string, number> | null
  unit: string
}

export interface Line {
  state: 'connecting' | 'live' | 'silent' | 'fault' | 'closed'
  /** The last reading, null as soon as it is no longer current. */
  now: Shown | null
  held: Shown | null
  stable: boolean
  battery: number | null
  message: string
  standIn: boolean
  say(command: object): void
  hold(): void
  release(): void
  hangUp(): void
}

interface Heard {
  type?: string
  value?: number
  values?: Record<string, number>
  unit?: string
  stable?: boolean
  battery_pct?: number
  message?: string
  stand_in?: boolean
}

/** A gauge on the line: newline-delimited JSON over WebSocket, as in docs/gauges.md. */
export function useLine(address: string): Line {
  let socket: WebSocket | null = null
  let quiet: number | undefined
  let again: number | undefined
  let over = false
  const waiting: object[] = []

  const line: Line = reactive({
    state: 'connecting',
    now: null,
    held: null,
    stable: false,
    battery: null,
    message: '',
    standIn: false,
    say: markRaw(say),
    hold: markRaw(() => {
      if (line.state === 'live' && line.now) line.held = { ...line.now }
    }),
    release: markRaw(() => {
      line.held = null
    }),
    hangUp: markRaw(hangUp),
  })

  function say(command: object): void {
    if (socket?.readyState === WebSocket.OPEN) socket.send(`${JSON.stringify(command)}\n`)
    else waiting.splice(0, waiting.length, command)
  }

  function hangUp(): void {
    over = true
    window.clearTimeout(quiet)
    window.clearTimeout(again)
    socket?.close()
    line.state = 'closed'
  }

  function dial(): void {
    const base = window.location.origin.replace(/^http/, 'ws')
    socket = new WebSocket(new URL(address, base))
    socket.onopen = () => waiting.splice(0).forEach(say)
    socket.onmessage = (event) => {
      for (const text of String(event.data).split('\n')) if (text.trim()) hear(text)
    }
    socket.onclose = () => {
      line.now = null
      if (over || line.state === 'fault') return
      line.state = 'silent'
      line.message = 'No connection to the gauge.'
      again = window.setTimeout(dial, AGAIN_MS)
    }
  }

  function hear(text: string): void {
    let heard: Heard
    try {
      heard = JSON.parse(text) as Heard
    } catch {
      return
    }
    if (heard.type === 'hello') line.standIn = heard.stand_in ?? false
    if (heard.type === 'fault') fault(heard.message ?? 'The gauge reports a fault.')
    if (heard.type === 'reading') read(heard)
  }

  function fault(message: string): void {
    window.clearTimeout(quiet)
    Object.assign(line, { state: 'fault', now: null, stable: false, message })
  }

  function read(heard: Heard): void {
    const values = heard.values ?? null
    line.now = { value: heard.value ?? null, values, unit: heard.unit ?? '' }
    line.stable = heard.stable ?? true
    line.battery = heard.battery_pct ?? null
    line.state = 'live'
    line.message = ''
    window.clearTimeout(quiet)
    quiet = window.setTimeout(lose, SILENT_MS)
  }

  /** A reading that stopped coming is no reading: what was held stays, what was live goes. */
  function lose(): void {
    if (line.state !== 'live') return
    const message = 'Signal lost. Nothing is read until it is back.'
    Object.assign(line, { state: 'silent', now: null, stable: false, message })
  }

  dial()
  return line
}
