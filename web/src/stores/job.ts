import { defineStore } from 'pinia'
import type { JobView } from '../api/client'
import { openBook } from './book'

/** The job that is open. */
export const useJob = defineStore('job', () => {
  const book = openBook<JobView>('jobs')
  return { ...book, job: book.view, book: () => book }
})
