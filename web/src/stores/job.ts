import { defineStore } from 'pinia'
import { computed } from 'vue'
import { JOBS } from '../api/books'
import { jobWith } from '../composables/useWaiting'
import { openBook } from './book'
import { useChoices } from './choices'

/** The job that is open, as it is with what waits to be sent. */
export const useJob = defineStore('job', () => {
  const book = openBook(JOBS)
  const choices = useChoices()
  const job = computed(() => {
    const seen = book.view.value
    return seen && book.waiting.value.length ? jobWith(seen, book.waiting.value) : seen
  })
  /** While the car's move waits nobody knows whether rubber is loaded. */
  const gateWaits = computed(() =>
    book.waiting.value.some((one) => choices.choices.gate_kinds.includes(one.entry.act.kind)),
  )
  return { ...book, job, gateWaits, book: () => book }
})
