<!-- What a page says while it loads, when it is empty, and when something went wrong. -->
<script lang="ts">
  import type { Snippet } from 'svelte'
  import Button from './Button.svelte'
  let {
    title,
    text = '',
    again,
    children,
  }: { title: string; text?: string; again?: () => void; children?: Snippet } = $props()
</script>

<div class="max-w-prose py-8" role="status">
  <p class="text-xl font-bold">{title}</p>
  {#if text}<p class="mt-1 text-soft">{text}</p>{/if}
  <div class="mt-4 flex flex-wrap gap-2">
    {#if again}<Button onclick={again}>Try again</Button>{/if}
    {@render children?.()}
  </div>
</div>
