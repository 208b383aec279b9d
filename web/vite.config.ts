import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [vue()],
  // Nothing is put into the styles as a data address: our content policy lets in our own files only.
  build: { chunkSizeWarningLimit: 2000, assetsInlineLimit: 0 },
})
