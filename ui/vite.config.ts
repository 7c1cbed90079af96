import { svelte } from '@sveltejs/vite-plugin-svelte'
import tailwindcss from '@tailwindcss/vite'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [tailwindcss(), svelte()],
  // The placeholder in dist is kept in git; ./start and ./test clear what an earlier build left.
  build: {
    outDir: 'dist',
    emptyOutDir: false,
    assetsInlineLimit: 0,
    rolldownOptions: { checks: { pluginTimings: false } },
  },
  // For ./dev: what is asked of the server goes on to it.
  server: {
    proxy: Object.fromEntries(
      ['/api', '/calendar'].map((path) => [
        path,
        { target: `http://127.0.0.1:${process.env['PORT'] ?? 8090}`, ws: true },
      ]),
    ),
  },
})
