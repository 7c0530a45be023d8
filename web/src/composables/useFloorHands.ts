import { onKeyStroke, useSpeechSynthesis, useStorage, useWakeLock } from '@vueuse/core'
import { onMounted, onUnmounted, watch, type Ref } from 'vue'

export interface FloorHands {
  /** Whether the browser can read aloud at all. */
  canSpeak: boolean
  /** Whether each step is read aloud when it comes; off until somebody wants it. */
  aloud: Ref<boolean>
}

const isTyping = () =>
  !!document.activeElement?.matches('input, textarea, select, [contenteditable]')

/**
 * Work with gloves, or with no hand free: the screen stays awake, page and arrow keys (a foot switch that types them)
 * confirm and go back, and the step is read aloud.
 */
export function useFloorHands(
  said: Ref<string>,
  confirm: () => void,
  back: () => void,
): FloorHands {
  const awake = useWakeLock()
  onMounted(() => {
    if (awake.isSupported.value) void awake.request('screen').catch(() => undefined)
  })
  onUnmounted(() => void awake.release())

  const onKey = (keys: string[], act: () => void) =>
    onKeyStroke(keys, (event) => {
      if (isTyping() || event.repeat || event.altKey || event.ctrlKey || event.metaKey) return
      event.preventDefault()
      act()
    })
  onKey(['PageDown', 'ArrowRight'], confirm)
  onKey(['PageUp', 'ArrowLeft'], back)

  const aloud = useStorage('fair-spindle.aloud', false)
  const speech = useSpeechSynthesis(said, { lang: 'en' })
  watch([said, aloud], ([, on]) => {
    speech.stop()
    if (on && said.value) speech.speak()
  })
  onUnmounted(() => speech.stop())
  return { canSpeak: speech.isSupported.value, aloud }
}
