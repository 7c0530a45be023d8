import { QueryClient } from '@tanstack/vue-query'
import { watch } from 'vue'
import { connection } from './connection'

const KEPT_MS = 900_000

/** What was read from the server, by what it is: shown at once to whoever comes back, and read again. */
export const cache = new QueryClient({
  defaultOptions: {
    queries: {
      retry: false,
      refetchOnWindowFocus: false,
      refetchOnReconnect: false,
      // What the browser's worker keeps is read without a connection too.
      networkMode: 'always',
      structuralSharing: false,
      gcTime: KEPT_MS,
    },
  },
})

// Another life of the workshop's data: nothing of the one before is shown again.
watch(
  () => connection.epoch,
  (_, before) => {
    if (!before) return
    cache.removeQueries({ type: 'inactive' })
    void cache.invalidateQueries()
  },
)
