import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
// @ts-expect-error a plain script without types
import { DEFINED } from '../../scripts/lib/edition.mjs'

export default defineConfig({
  plugins: [vue()],
  define: DEFINED as Record<string, string>,
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 2000 },
  // `npm run dev`: the API is the server's, and memory is shared between threads as behind the server.
  server: {
    proxy: { '/api': process.env['FOGBATH_API'] ?? 'http://127.0.0.1:4680' },
    headers: { 'Cross-Origin-Opener-Policy': 'same-origin', 'Cross-Origin-Embedder-Policy': 'require-corp' },
  },
})
