import { useIntervalFn } from '@vueuse/core'
import { computed, ref, type ComputedRef, type Ref } from 'vue'
import { useJob } from '../stores/job'
import { sayClock } from './useWords'

export interface Timer {
  title: string
  /** What is left until it may be relied on, in words; empty where it may be. */
  left: string
  until: string
}

const TICK_MS = 10_000

/** The hour, looked at every ten seconds. */
export function useClock(): Ref<number> {
  const now = ref(Date.now())
  useIntervalFn(() => (now.value = Date.now()), TICK_MS)
  return now
}

export function sayLeft(until: string, now: number): string {
  const minutes = Math.ceil((Date.parse(until) - now) / 60_000)
  if (minutes <= 0) return ''
  return minutes >= 60 ? `${Math.floor(minutes / 60)} h ${minutes % 60} min` : `${minutes} min`
}

/** What works by itself just now: penetrant, threadlocker; from when its step was done. */
export function useTimers(): { timers: ComputedRef<Timer[]> } {
  const store = useJob()
  const now = useClock()
  const timers = computed(() =>
    (store.job?.steps ?? [])
      .flatMap((step) => (step.works ? [step.works] : []))
      .filter((works) => Date.parse(works.over) > now.value)
      .map(({ title, ready }) => ({
        title,
        left: sayLeft(ready, now.value),
        until: sayClock(ready),
      })),
  )
  return { timers }
}
