<!-- What only some look for: folded away under its name until it is asked for. -->
<script lang="ts">
  import type { Snippet } from 'svelte'

  let { title, children }: { title: string; children: Snippet } = $props()
</script>

<details class="mt-4">
  <summary class="min-h-6 cursor-pointer font-semibold">{title}</summary>
  {@render children()}
</details>
