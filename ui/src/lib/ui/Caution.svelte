<!-- A caution where the hazard is: short, and it bars nothing. -->
<script lang="ts">
  import type { Snippet } from 'svelte'
  let { children }: { children: Snippet } = $props()
</script>

<p class="flex gap-3 border-l-4 border-ink py-1 pl-3 text-sm text-ink">
  <span><strong>Caution.</strong> {@render children()}</span>
</p>
