import { defineAsyncComponent, readonly, ref, type Component } from 'vue'

const AT_LATEST_MS = 1500
const stands = ref(false)
let goOn: () => void
const shown = new Promise<void>((done) => (goOn = done)).then(() => void (stands.value = true))
window.setTimeout(() => goOn(), AT_LATEST_MS)

/** The first screen stands: what is below it, and what can wait, comes now. */
export const firstScreenStands = readonly(stands)

const nextFrame = (then: () => void) => void window.requestAnimationFrame(then)

/** What the page is about is there: once the next frame is painted, which is before another begins, it stands. */
export const isShown = () => nextFrame(() => nextFrame(() => window.setTimeout(goOn)))

/** A component that comes once the first screen stands. */
export const later = (load: () => Promise<Component>) =>
  defineAsyncComponent(() => shown.then(load))

const parts = () => import('./parts')

export const ElAlert = later(() => parts().then((one) => one.ElAlert))
export const ElButton = later(() => parts().then((one) => one.ElButton))
export const ElInput = later(() => parts().then((one) => one.ElInput))

/** Have them here before the connection may be lost: what then is to be said needs them. */
export const fetchParts = () => void shown.then(parts).catch(() => undefined)
