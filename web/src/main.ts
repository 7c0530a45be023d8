import '@fontsource/barlow/400.css'
import '@fontsource/barlow/600.css'
import '@fontsource/barlow-condensed/500.css'
import '@fontsource/barlow-condensed/600.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'
import './styles/tokens.css'
import './styles/base.css'
import './styles/print.css'

createApp(App).use(createPinia()).use(router).mount('#app')

// A page of an older version whose parts are gone on the server takes the new one.
window.addEventListener('vite:preloadError', () => location.reload())
