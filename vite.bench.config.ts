import { defineConfig } from 'vite';

/** The benchmarks, built like the server so that what is measured is what runs. */
export default defineConfig({
  publicDir: false,
  build: {
    ssr: true,
    outDir: 'dist/bench',
    emptyOutDir: true,
    target: 'node20',
    rollupOptions: {
      input: {
        run: 'bench/run.ts',
        pgliteWorker: 'server/db/pglite/worker.ts',
        rehearsalThread: 'server/offers/rehearsalThread.ts',
        pricingThread: 'server/offers/pricingThread.ts',
        statementsThread: 'server/people/statementsThread.ts',
        pdfThread: 'server/pdfThread.ts',
      },
      output: { entryFileNames: '[name].js', chunkFileNames: 'part-[name]-[hash].js' },
    },
  },
});
