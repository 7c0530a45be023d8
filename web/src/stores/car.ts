import { defineStore } from 'pinia'
import { CARS } from '../api/books'
import { openBook } from './book'

/** The car whose record is open. */
export const useCar = defineStore('car', () => {
  const book = openBook(CARS)
  return { ...book, car: book.view, book: () => book }
})
