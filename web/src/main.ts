import '@fontsource/barlow/400.css'
import '@fontsource/barlow/600.css'
import '@fontsource/barlow-condensed/500.css'
import '@fontsource/barlow-condensed/600.css'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { cache } from './api/cache'
import { connection, Offline } from './api/connection'
import App from './App.vue'
import { askForBoard } from './composables/useBoard'
import { fetchParts, isShown } from './parts/later'
import { router } from './router'
import './styles/parts'
import './styles/tokens.css'
import './styles/base.css'
import './styles/element.css'
import './styles/print.css'
import 'virtual:uno.css'

const MOST_MS = 300
const wait = (ms: number) => new Promise((done) => window.setTimeout(done, ms))
const app = createApp(App)
// That nothing is reached stands above every page; whoever asked has nothing to add to it.
app.config.errorHandler = (error) => {
  if (!(error instanceof Offline)) throw error
}
window.addEventListener('unhandledrejection', (event) => {
  if (event.reason instanceof Offline) event.preventDefault()
})
app.use(createPinia()).use(VueQueryPlugin, { queryClient: cache }).use(router)

if (location.pathname === '/') {
  // Drawn once it is known what stands on it, which it then says itself; the band alone where that takes long.
  void Promise.race([askForBoard(), wait(MOST_MS)]).then(() => app.mount('#app'))
} else {
  app.mount('#app')
  void router.isReady().then(isShown)
}
fetchParts()

// A page of an older version whose parts are gone on the server takes the new one; without a connection there is none.
window.addEventListener('vite:preloadError', () => {
  if (navigator.onLine && !connection.lost) location.reload()
})
