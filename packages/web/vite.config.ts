import path from 'node:path';
import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const packages = path.resolve(import.meta.dirname, '..');

export default defineConfig({
  // A dependency of the unit conversion calls the global object by the name it has in Node.
  define: { global: 'globalThis' },
  plugins: [react(), tailwind()],
  resolve: {
    alias: [
      { find: /^@grammata\/core\/(.+)$/, replacement: `${packages}/core/src/$1/index.ts` },
      // What it offers browsers asks the page for the names of characters; a worker has no page.
      {
        find: 'decode-named-character-reference',
        replacement: path.resolve(packages, '../node_modules/decode-named-character-reference/index.js'),
      },
      { find: '@grammata/contract', replacement: `${packages}/contract/src/index.ts` },
    ],
  },
  worker: { format: 'es' },
  build: {
    outDir: path.resolve(packages, '../dist/web'),
    emptyOutDir: true,
    target: 'es2022',
    reportCompressedSize: false,
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4600' } },
});
