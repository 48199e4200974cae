import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';
import vuetify from 'vite-plugin-vuetify';

/** The pages. */
export default defineConfig({
  root: 'web',
  plugins: [vue(), vuetify({ autoImport: true })],
  build: {
    outDir: '../dist/web',
    emptyOutDir: true,
    target: 'es2022',
    // A strict Content-Security-Policy allows no inlined files.
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1200,
    rolldownOptions: {
      output: {
        // What every page needs is one file: a till that starts asks for a few, not for ninety.
        codeSplitting: { groups: [{ name: 'first', tags: ['$initial'] }] },
      },
    },
  },
  worker: { format: 'es' },
});
