import babel from '@rolldown/plugin-babel'
import react, { reactCompilerPreset } from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

// Shared memory between page and workers needs these two; the server sends them as well.
const isolated = { 'Cross-Origin-Opener-Policy': 'same-origin', 'Cross-Origin-Embedder-Policy': 'require-corp' }

export default defineConfig({
  plugins: [react(), babel({ presets: [reactCompilerPreset()] })],
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 900 },
  server: {
    host: '127.0.0.1',
    headers: isolated,
    proxy: { '/api': { target: process.env.NEOTAXIS_API ?? 'http://127.0.0.1:4310', ws: true } },
  },
})
