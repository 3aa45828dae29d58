/**
 * Programmes that start again and again: the server, its threads and its reader of files. In a few files each begins three
 * times sooner than by finding hundreds of modules. What brings files of its own, or is found by its name, stays outside.
 */
import { defineConfig } from 'rolldown';

export default defineConfig({
  input: {
    main: 'dist/main.js',
    thread: 'dist/worker.js',
    views: 'dist/catalog/views/thread.js',
    reader: 'dist/intake/read/child.js',
  },
  platform: 'node',
  external: [
    /^@velvet-shelf\/rulebooks/,
    /^dictionary-/,
    /^sharp$/,
    /^@node-rs\//,
    /^pg-native$/,
    /^pino/,
    /^@?koa/,
    /^exceljs$/,
  ],
  checks: { ineffectiveDynamicImport: false },
  output: { dir: 'dist/bundled', format: 'esm', sourcemap: true, sourcemapExcludeSources: true, cleanDir: true },
});
