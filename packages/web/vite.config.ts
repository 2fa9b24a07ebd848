import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  build: { target: 'es2022', chunkSizeWarningLimit: 900 },
  worker: { format: 'es' },
  server: {
    host: '127.0.0.1',
    proxy: { '/api': { target: process.env['JIKO_API'] ?? 'http://127.0.0.1:4600' } },
  },
});
