import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { conditions: ['@kestfog/source', ...defaultClientConditions] },
  worker: { format: 'es' },
  // Fonts stay files of their own, so that the page needs no data: addresses.
  build: { assetsInlineLimit: 0, sourcemap: true, chunkSizeWarningLimit: 900 },
  server: { host: '127.0.0.1', port: 5173, strictPort: true, proxy: { '/api': `http://127.0.0.1:${process.env['PORT'] ?? 3000}` } },
});
