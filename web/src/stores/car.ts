import { defineStore } from 'pinia'
import type { CarView } from '../api/client'
import { openBook } from './book'

/** The car whose record is open. */
export const useCar = defineStore('car', () => {
  const book = openBook<CarView>('cars')
  return { ...book, car: book.view, book: () => book }
})
