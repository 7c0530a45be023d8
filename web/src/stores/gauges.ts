import { useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { useJob } from './job'
import { useLine, type Line } from '../composables/useLine'
import { useRead } from '../composables/useRead'

const SHELF = 'fair-spindle/paired'

/** The workshop's instruments, and those that are paired and speak. */
export const useGauges = defineStore('gauges', () => {
  const { found, again } = useRead(['instruments'], (api) => api.GET('/api/instruments'), {
    when: false,
  })
  const instruments = computed(() => found.value ?? [])
  const lines = ref<Record<string, Line>>({})
  const remembered = useStorage<string[]>(SHELF, [])
  const paired = computed(() => instruments.value.filter((one) => lines.value[one.id]))

  async function load(): Promise<void> {
    await again()
    const known = new Set(instruments.value.filter((one) => one.address).map((one) => one.id))
    for (const id of remembered.value) if (known.has(id)) pair(id)
  }

  function remember(): void {
    remembered.value = Object.keys(lines.value)
  }

  function pair(id: string): void {
    const found = instruments.value.find((one) => one.id === id)
    if (!found?.address || lines.value[id]) return
    lines.value = { ...lines.value, [id]: useLine(found.address) }
    remember()
  }

  function unpair(id: string): void {
    lines.value[id]?.hangUp()
    lines.value = Object.fromEntries(Object.entries(lines.value).filter(([one]) => one !== id))
    remember()
  }

  /** Tell every paired gauge what is being read, or set to; a real one may pass it over. */
  function aim(at: string, set?: number): void {
    const { job } = useJob()
    const bay = job?.practice ? { job: job.id } : {}
    for (const line of Object.values(lines.value)) line.say({ type: 'aim', at, set, ...bay })
  }

  return { instruments, lines, paired, load, pair, unpair, aim }
})
