import { createHash } from 'node:crypto';
import { createReadStream, existsSync, readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
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
        // Fonts and the like of documents are fetched when a page needs them.
        const files = Object.values(bundle).filter(
          (one) => one !== worker && !one.fileName.startsWith('pdf/'),
        );
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

/** Fonts, character maps and decoders that pages may need: served by the app, never from a network. */
function pdfFiles(): Plugin {
  const home = dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));
  const folders = ['standard_fonts', 'cmaps', 'wasm'];
  return {
    name: 'files-of-the-page-reader',
    generateBundle() {
      for (const folder of folders)
        for (const name of readdirSync(join(home, folder)))
          this.emitFile({
            type: 'asset',
            fileName: `pdf/${folder}/${name}`,
            source: readFileSync(join(home, folder, name)),
          });
    },
    configureServer(server) {
      server.middlewares.use('/pdf', (request, response, next) => {
        const asked = decodeURIComponent((request.url ?? '').split('?')[0] ?? '');
        const isOurs = /^\/(standard_fonts|cmaps|wasm)\/[\w.-]+$/.test(asked);
        const file = join(home, asked);
        if (!isOurs || !existsSync(file)) return next();
        if (file.endsWith('.js')) response.setHeader('Content-Type', 'text/javascript');
        createReadStream(file).pipe(response);
      });
    },
  };
}

export default defineConfig({
  plugins: [react(), pdfFiles(), listFiles()],
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
