import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const NO_DISK = new URL('src/importing/no-disk.ts', import.meta.url).pathname;

export default defineConfig({
  plugins: [react()],
  worker: { format: 'es' },
  // libraries read files of a disk by these where there is one; a page has none
  resolve: { alias: { 'node:fs': NO_DISK, 'node:path': NO_DISK, 'node:module': NO_DISK } },
  build: { target: 'es2022', chunkSizeWarningLimit: 1500, assetsInlineLimit: 0 },
  server: { proxy: { '/api': 'http://127.0.0.1:4880' } },
});
