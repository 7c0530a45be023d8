import { onUnmounted } from 'vue'

/** Do some work once the calls have paused, never twice at a time; calls made meanwhile are answered by one more. */
export function useLatest(work: () => Promise<unknown>, pauseMs = 0): () => void {
  let timer: number | undefined
  let isRunning = false
  let again = false

  async function go(): Promise<void> {
    if (isRunning) {
      again = true
      return
    }
    isRunning = true
    try {
      await work()
    } finally {
      isRunning = false
    }
    if (!again) return
    again = false
    call()
  }

  function call(): void {
    window.clearTimeout(timer)
    timer = window.setTimeout(() => void go(), pauseMs)
  }

  onUnmounted(() => window.clearTimeout(timer))
  return call
}
