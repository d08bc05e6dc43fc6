import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [react(), tailwind()],
  // the content policy lets nothing in but files of this server
  build: { assetsInlineLimit: 0, manifest: true },
  server: { proxy: { '/api': 'http://127.0.0.1:8410' } },
  test: { setupFiles: ['src/ui/testing.ts'], restoreMocks: true, css: true, testTimeout: 30_000 },
});
