import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  build: { outDir: '../dist/web', emptyOutDir: true, target: 'es2022', sourcemap: false, chunkSizeWarningLimit: 1600 },
  worker: { format: 'es', rollupOptions: { output: { entryFileNames: 'assets/core-worker-[hash].js' } } },
  server: {
    host: '127.0.0.1',
    proxy: { '/api': { target: `http://127.0.0.1:${process.env.TASSEL_API_PORT ?? 4480}` } },
  },
});
