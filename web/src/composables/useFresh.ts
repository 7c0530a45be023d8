import { useRegisterSW } from 'virtual:pwa-register/vue'
import type { Ref } from 'vue'

const HOURLY_MS = 3_600_000

/** Whether a newer version of the pages lies ready, and loading it. */
export function useFresh(): { waits: Ref<boolean>; load(): void } {
  const { needRefresh, updateServiceWorker } = useRegisterSW({
    onRegisteredSW(_address, worker) {
      if (worker) window.setInterval(() => void worker.update().catch(() => undefined), HOURLY_MS)
    },
  })
  return { waits: needRefresh, load: () => void updateServiceWorker(true) }
}
