import { computed, onUnmounted, ref, type ComputedRef } from 'vue'
import type { StepView } from '../api/client'
import { useJob } from '../stores/job'

export interface Timer {
  key: string
  title: string
  /** What is left of the least time, in words; empty where it is over. */
  left: string
  until: string
}

const TICK_MS = 10_000
const HOUR_MS = 3_600_000
const clock = (at: number) =>
  new Date(at).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false })

function words(ms: number): string {
  const minutes = Math.ceil(ms / 60_000)
  return minutes >= 60 ? `${Math.floor(minutes / 60)} h ${minutes % 60} min` : `${minutes} min`
}

/** What works by itself just now: penetrant, threadlocker; from when its step was done. */
export function useTimers(): { timers: ComputedRef<Timer[]> } {
  const store = useJob()
  const now = ref(Date.now())
  const tick = window.setInterval(() => (now.value = Date.now()), TICK_MS)
  onUnmounted(() => window.clearInterval(tick))

  const isRunning = (step: StepView) =>
    step.state === 'done' &&
    step.wait_h.length > 0 &&
    Date.parse(step.at) + step.wait_h.at(-1)! * HOUR_MS > now.value
  const timers = computed(() =>
    (store.job?.steps ?? []).filter(isRunning).map((step) => {
      const ready = Date.parse(step.at) + step.wait_h[0]! * HOUR_MS
      const left = ready - now.value
      return {
        key: step.key,
        title: step.title,
        left: left > 0 ? words(left) : '',
        until: clock(ready),
      }
    }),
  )
  return { timers }
}
