import { inject, provide, type InjectionKey } from 'vue'
import type { Desk } from '../stores/book'

const DESK: InjectionKey<Desk> = Symbol('desk')

/** Say which job or car the fields below belong to. */
export function provideDesk(desk: Desk): void {
  provide(DESK, desk)
}

/** The job or car that the fields here belong to. */
export function useDesk(): Desk {
  const desk = inject(DESK)
  if (!desk) throw new Error('a field stands outside of any job or car')
  return desk
}
