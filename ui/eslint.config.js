import js from '@eslint/js'
import svelte from 'eslint-plugin-svelte'
import globals from 'globals'
import ts from 'typescript-eslint'
import svelteConfig from './svelte.config.js'

export default ts.config(
  { ignores: ['dist/', 'others/', 'tools/', 'src/lib/api/schema.gen.ts', '*.config.*', 'vite.modules.ts'] },
  js.configs.recommended,
  ts.configs.recommended,
  svelte.configs.recommended,
  {
    languageOptions: { globals: globals.browser },
    rules: {
      'no-undef': 'off', // TypeScript does that, and knows its own types
      'svelte/no-useless-mustaches': 'off', // {' '} keeps a space at the end of a line
      'svelte/prefer-svelte-reactivity': 'off', // maps and dates that nothing on the screen hangs on
      '@typescript-eslint/no-unused-vars': ['error', { ignoreRestSiblings: true, argsIgnorePattern: '^_' }],
      'svelte/no-unused-svelte-ignore': 'off', // svelte-check fails on warnings: what it needs is there
    },
  },
  {
    files: ['**/*.svelte', '**/*.svelte.ts'],
    languageOptions: { parserOptions: { extraFileExtensions: ['.svelte'], parser: ts.parser, svelteConfig } },
  },
)
