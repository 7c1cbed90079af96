<!-- Hits that were captured: a ring where each met the bag, about the disc that it lies on; a cross where it belongs to none. -->
<script lang="ts">
  import { hitSwing } from './geometry'
  import type { View } from './view.svelte'

  let { v }: { v: View } = $props()
  const ink = [
    { colour: 'var(--sheet)', wide: 5.5 },
    { colour: 'var(--ink)', wide: 2.5 },
  ]
</script>

{#each v.hits as h, k (k)}
  {@const cx = v.x(h.at)}
  {@const cy = v.y(hitSwing(v.cycle, v.strikes, h.at))}
  {#each ink as line (line.colour)}
    {#if h.extra}
      <path d="M{cx - 5} {cy - 5}l10 10m0 -10l-10 10" stroke={line.colour} stroke-width={line.wide} />
    {:else}
      <circle {cx} {cy} r={v.disc + 3} fill="none" stroke={line.colour} stroke-width={line.wide} />
    {/if}
  {/each}
{/each}
