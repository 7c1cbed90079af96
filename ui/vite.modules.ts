import { svelte } from '@sveltejs/vite-plugin-svelte'
import { defineConfig } from 'vite'

// Builds the interface's modules for their tests, into a folder that is named on the command line.
export default defineConfig({
  plugins: [svelte()],
  publicDir: false,
  logLevel: 'warn',
  build: { lib: { entry: 'src/modules.ts', formats: ['es'], fileName: 'modules' }, minify: false, emptyOutDir: true },
})
