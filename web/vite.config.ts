import vue from '@vitejs/plugin-vue'
import Components from 'unplugin-vue-components/vite'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [
    vue(),
    Components({ dirs: [], dts: 'src/components.d.ts', resolvers: [ElementPlusResolver()] }),
  ],
  build: {
    outDir: '../src/fair_spindle/web_app',
    emptyOutDir: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 800,
  },
})
