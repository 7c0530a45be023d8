import UnoCSS from '@unocss/vite'
import vue from '@vitejs/plugin-vue'
import Components from 'unplugin-vue-components/vite'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import { VitePWA } from 'vite-plugin-pwa'
import { defineConfig } from 'vitest/config'

const DAYS_30 = 30 * 24 * 3600

export default defineConfig({
  plugins: [
    vue(),
    UnoCSS(),
    Components({
      dirs: [],
      dts: 'src/components.d.ts',
      resolvers: [ElementPlusResolver({ importStyle: false })],
    }),
    VitePWA({
      registerType: 'prompt',
      injectRegister: false,
      manifest: {
        name: 'Fair Spindle',
        short_name: 'Fair Spindle',
        description: 'Planner, calculator, floor guide and logbook for suspension tuners',
        start_url: '/',
        display: 'standalone',
        background_color: '#f4f1ea',
        theme_color: '#1c2628',
        icons: [
          { src: '/icon-192.png', sizes: '192x192', type: 'image/png' },
          { src: '/icon-512.png', sizes: '512x512', type: 'image/png', purpose: 'any maskable' },
          { src: '/mark.svg', sizes: 'any', type: 'image/svg+xml' },
        ],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//, /^\/ws(\/|$)/],
        cleanupOutdatedCaches: true,
        clientsClaim: true,
        runtimeCaching: [
          {
            // What was looked at last stays readable; files to save and cheap questions are not kept.
            urlPattern: ({ url, request, sameOrigin }) =>
              sameOrigin &&
              request.method === 'GET' &&
              url.pathname.startsWith('/api/') &&
              !/\.\w+$|\/(version|health|backup|pairing|me)$/.test(url.pathname),
            handler: 'NetworkFirst',
            options: {
              cacheName: 'last-seen',
              networkTimeoutSeconds: 6,
              expiration: { maxEntries: 300, maxAgeSeconds: DAYS_30 },
              cacheableResponse: { statuses: [200] },
              plugins: [
                {
                  // Runs in the worker: says with each answer from its store when that was read.
                  cachedResponseWillBeUsed: async ({ cachedResponse }) => {
                    if (!cachedResponse) return null
                    const headers = new Headers(cachedResponse.headers)
                    headers.set('X-Kept-At', headers.get('Date') ?? 'some time ago')
                    return new Response(await cachedResponse.blob(), { status: 200, headers })
                  },
                },
              ],
            },
          },
        ],
      },
    }),
  ],
  build: {
    outDir: '../src/fair_spindle/web_app',
    emptyOutDir: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 800,
    rolldownOptions: {
      output: {
        // What several pages stand on comes in one piece: each file is a way to the server and back.
        codeSplitting: {
          groups: [
            { name: 'frame', test: /node_modules.(@?vue|pinia|@tanstack|openapi-fetch|immutable|dayjs.dayjs)/ },
            { name: 'parts', test: /node_modules.(?!echarts|zrender|three)/, minShareCount: 6 },
            { name: 'ready', test: /preload-helper|export-helper|src.parts.later|RefusalNote/ },
            { name: 'shared', test: /src.(composables|stores|api)/, minShareCount: 6 },
            { name: 'pieces', test: /src.components/, minShareCount: 6 },
          ],
        },
      },
    },
  },
  test: {
    // The whole library as one file: its thousand modules take 15 s to read one by one.
    alias: [{ find: /^element-plus(\/es)?$/, replacement: 'element-plus/dist/index.full.min.mjs' }],
    environment: 'happy-dom',
    include: ['src/**/*.test.ts'],
    testTimeout: 20_000,
  },
})
