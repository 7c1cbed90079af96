<!-- Short cards of what a drill asks for, shown on request: what it is, and the three things to watch. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  let { cards }: { cards: Schemas['TechniqueCard'][] } = $props()
</script>

{#if cards.length > 0}
  <details class="seam mt-6 pt-3">
    <summary class="cursor-pointer text-lg font-bold"
      >{cards.length === 1 ? 'A short card' : `${cards.length} short cards`}: what to watch</summary>
    <ul class="mt-3 grid gap-x-8 gap-y-5 sm:grid-cols-2 xl:grid-cols-3">
      {#each cards as c (c.key)}
        <li>
          <h3 class="font-bold">{c.title}</h3>
          <p class="text-soft">{c.what}</p>
          <ul class="mt-1 list-[square] pl-5">
            {#each c.watch as line (line)}<li>{line}</li>{/each}
          </ul>
        </li>
      {/each}
    </ul>
  </details>
{/if}
