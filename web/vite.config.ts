import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const server = process.env.RED_EMBER_SERVER ?? 'http://127.0.0.1:4500';

export default defineConfig({
  root: import.meta.dirname,
  plugins: [react(), tailwindcss()],
  build: { outDir: 'dist', emptyOutDir: true, target: 'es2022', assetsInlineLimit: 0, chunkSizeWarningLimit: 800 },
  // The guard checks Host and Origin against each other, so the development server presents itself as the target.
  server: { port: 4501, strictPort: true, proxy: { '/api': { target: server, changeOrigin: true, headers: { origin: server } } } },
});
