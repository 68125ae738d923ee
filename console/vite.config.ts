import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [vue()],
  build: { target: 'es2022', sourcemap: false, chunkSizeWarningLimit: 900, assetsInlineLimit: 0 },
  // Workers load what they seldom need once they need it.
  worker: { format: 'es' },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:4790', ws: true } } },
});
