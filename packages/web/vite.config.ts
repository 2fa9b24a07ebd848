import { createHash } from 'node:crypto';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

/** Writes the names of all files of the app into the service worker, which keeps them for a reload. */
function listFiles(): Plugin {
  return {
    name: 'list-files-for-the-service-worker',
    enforce: 'post',
    generateBundle: {
      order: 'post',
      handler(_options, bundle) {
        const worker = bundle['service-worker.js'];
        if (worker?.type !== 'chunk') return;
        const files = Object.values(bundle).filter((one) => one !== worker);
        const list = files.map((one) => {
          const content = one.type === 'chunk' ? one.code : one.source;
          // Hashed names change with their content; the others by their own hash.
          const revision = one.fileName.startsWith('assets/')
            ? null
            : createHash('sha256').update(content).digest('hex').slice(0, 16);
          return { url: `/${one.fileName}`, revision };
        });
        worker.code = worker.code.replace('self.__WB_MANIFEST', JSON.stringify(list));
      },
    },
  };
}

export default defineConfig({
  plugins: [react(), listFiles()],
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      input: { index: 'index.html', 'service-worker': 'src/offline/service-worker.ts' },
      output: {
        // A service worker serves what lies beside and below it.
        entryFileNames: ({ name }) =>
          name === 'service-worker' ? '[name].js' : 'assets/[name]-[hash].js',
      },
    },
  },
  worker: { format: 'es' },
  server: {
    host: '127.0.0.1',
    proxy: { '/api': { target: process.env['JIKO_API'] ?? 'http://127.0.0.1:4600' } },
  },
});
