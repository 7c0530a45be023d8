import { useQuery } from '@tanstack/vue-query'
import {
  computed,
  toValue,
  watch,
  type ComputedRef,
  type MaybeRefOrGetter,
  type WritableComputedRef,
} from 'vue'
import { ask, type Call } from '../api/client'
import { cache } from '../api/cache'
import { firstScreenStands } from '../parts/later'
import { sayRefusal, useGuarded, type Guarded } from './useGuarded'

export interface Read<T> extends Guarded {
  /** What was read last; what is set stands there as if it had been read. */
  found: WritableComputedRef<T | null>
  /** It was read for what is asked now, not for what stood before. */
  isCurrent: ComputedRef<boolean>
  again(): Promise<void>
}

interface When {
  /** Which state of things it is asked for: another is read anew, and the one before is shown until it is there. */
  version?: MaybeRefOrGetter<number | string>
  /** Ask only while this holds. */
  when?: MaybeRefOrGetter<boolean>
  /** It was read ahead: while the first screen is built it is not read again. */
  ahead?: boolean
}

const keyOf = (name: readonly string[], version: number | string = '') => [...name, version]

/** Read something before the page that shows it is there. */
export const readAhead = <T extends object>(name: readonly string[], call: Call<T>) =>
  cache.prefetchQuery({ queryKey: keyOf(name), queryFn: () => ask(call) })

/** Something read from the server, kept by its name: coming back shows at once what was there. */
export function useRead<T extends object>(
  name: MaybeRefOrGetter<readonly string[]>,
  call: Call<T>,
  { version = '', when = true, ahead = false }: When = {},
): Read<T> {
  const { problem, busy, guarded } = useGuarded()
  const key = computed(() => keyOf(toValue(name), toValue(version)))
  const same = (other: readonly unknown[] | undefined) =>
    toValue(name).every((one, at) => one === other?.[at])
  const { data, error, isPlaceholderData, refetch } = useQuery(
    {
      queryKey: key,
      queryFn: () => ask(call),
      enabled: () => toValue(when),
      staleTime: () => (ahead && !firstScreenStands.value ? Infinity : 0),
      placeholderData: (last, query) => (same(query?.queryKey) ? last : undefined),
      shallow: true,
    },
    cache,
  )
  const found = computed<T | null>({
    get: () => (data.value as T | undefined) ?? null,
    set: (now) => cache.setQueryData(key.value, now),
  })
  watch(error, (now) => (problem.value = now ? sayRefusal(now) : ''))
  const isCurrent = computed(() => data.value !== undefined && !isPlaceholderData.value)
  return { found, isCurrent, problem, busy, guarded, again: async () => void (await refetch()) }
}
