import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue()],
  build: { chunkSizeWarningLimit: 2000 },
  test: { environment: 'jsdom' },
})
