import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

// The page of proof links is a program of its own: who opens a link gets nothing of the rest.
export default defineConfig({
  base: '/proof/page/',
  plugins: [react()],
  build: { outDir: '../../dist/proof', emptyOutDir: true, target: 'es2022', sourcemap: false },
});
