import { fileURLToPath } from 'node:url'

import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig } from 'vitest/config'

const isolation = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
}

export default defineConfig({
  plugins: [vue(), vuetify()],
  resolve: {
    alias: {
      '@': fileURLToPath(new URL('src', import.meta.url)),
      // Which fonts ship, for what is drawn here with the same ones.
      '@fonts': fileURLToPath(new URL('../src/dunlin/fonts', import.meta.url)),
      // Words of messages, which the server and the command line tell in too.
      '@said': fileURLToPath(new URL('../src/dunlin/core/messages', import.meta.url)),
    },
  },
  build: {
    outDir: '../src/dunlin/page',
    emptyOutDir: true,
    target: 'es2022',
    chunkSizeWarningLimit: 1500,
    // The page of Dunlin, and that of the host of films that ships with it.
    rollupOptions: { input: ['index.html', 'host.html'] },
  },
  worker: { format: 'es' },
  server: {
    headers: isolation,
    proxy: { '/api': 'http://127.0.0.1:8600', '/fonts': 'http://127.0.0.1:8600' },
  },
  test: { environment: 'node', include: ['src/**/*.test.ts'] },
})
