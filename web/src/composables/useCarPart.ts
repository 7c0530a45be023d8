import { computed } from 'vue'
import type { Call } from '../api/client'
import { useCar } from '../stores/car'
import { useRead, type Read } from './useRead'

/** A part of the open car, read again with every line of its log. */
export function useCarPart<T extends object>(
  part: string,
  call: (path: { car_id: string }) => Call<T>,
): Read<T> {
  const store = useCar()
  const id = computed(() => store.car?.id ?? '')
  return useRead<T>(
    () => ['cars', id.value, part],
    (api) => call({ car_id: id.value })(api),
    { version: () => store.version, when: () => id.value !== '' },
  )
}
