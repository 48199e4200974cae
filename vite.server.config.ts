import { defineConfig } from 'vite';

/**
 * The server, and what lays down the demo shop. Packages stay outside; the thread that owns the database is a file of
 * its own.
 */
export default defineConfig({
  publicDir: false,
  build: {
    ssr: true,
    outDir: 'dist/server',
    emptyOutDir: true,
    target: 'node20',
    rollupOptions: {
      input: {
        main: 'server/main.ts',
        pgliteWorker: 'server/db/pglite/worker.ts',
        rehearsalThread: 'server/offers/rehearsalThread.ts',
        pricingThread: 'server/offers/pricingThread.ts',
        statementsThread: 'server/people/statementsThread.ts',
        pdfThread: 'server/pdfThread.ts',
        fill: 'demo/fill.ts',
      },
      output: { entryFileNames: '[name].js', chunkFileNames: 'part-[name]-[hash].js' },
    },
  },
});
