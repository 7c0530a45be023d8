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
import { fetchParts, isShown } from './parts/later'
import { router } from './router'
import './styles/parts'
import './styles/tokens.css'
import './styles/base.css'
import './styles/element.css'
import './styles/print.css'
import 'virtual:uno.css'

const app = createApp(App)
// That nothing is reached stands above every page; whoever asked has nothing to add to it.
app.config.errorHandler = (error) => {
  if (!(error instanceof Offline)) throw error
}
window.addEventListener('unhandledrejection', (event) => {
  if (event.reason instanceof Offline) event.preventDefault()
})
app.use(createPinia()).use(VueQueryPlugin, { queryClient: cache }).use(router).mount('#app')

// The board says itself when its first screen stands; every other page brings what it needs with its own scripts.
void router.isReady().then(() => router.currentRoute.value.name === 'workshop' || isShown())
fetchParts()

// A page of an older version whose parts are gone on the server takes the new one; without a connection there is none.
window.addEventListener('vite:preloadError', () => {
  if (navigator.onLine && !connection.lost) location.reload()
})
