<!-- What was looked at on a rig: what is wrong first, each with its figure, the limit, where that comes from, and what to do. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { figure, upper, type Units } from '../format'

  type Props = { findings: Schemas['FindingRow'][]; units: Units; onset?: (changes: Schemas['Setting'][]) => void }
  let { findings, units, onset }: Props = $props()

  const order = { wrong: 0, mind: 1, right: 2 }
  const sorted = $derived(findings.toSorted((a, b) => order[a.weight] - order[b.weight]))
  const signs = {
    wrong: { text: 'Wrong', mark: 'M5 5l14 14m0 -14l-14 14' },
    mind: { text: 'Mind', mark: 'M12 4v10m0 4.5v1.5' },
    right: { text: 'Right', mark: 'M4 13l5 5L20 6' },
  }
</script>

<ul>
  {#each sorted as f (f.code + f.what)}
    <li class="grid grid-cols-[2rem_1fr] gap-x-2 border-b border-rope py-2 {f.weight === 'right' ? 'text-soft' : ''}">
      <svg viewBox="0 0 24 24" class="mt-0.5 size-6" role="img" aria-label={signs[f.weight].text}>
        <path
          d={signs[f.weight].mark}
          fill="none"
          stroke="currentColor"
          stroke-width={f.weight === 'right' ? 2 : 3.5} />
      </svg>
      <div>
        <p class={f.weight === 'right' ? '' : 'font-bold'}>{f.title}.</p>
        {#if f.figure !== null || f.what}
          <p class="text-sm">
            {#if f.figure !== null}{upper(f.what)}: <b>{figure(f.figure, f.unit, units)}</b>{#if f.limit !== null};
                limit {figure(f.limit, f.unit, units)}{/if}
            {:else}{upper(f.what)}{/if}
            <span class="text-soft">({f.source})</span>
          </p>
        {/if}
        {#if f.remedy}
          <p class="mt-0.5 flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
            <span class="font-semibold">{f.remedy}.</span>
            {#if f.change.length > 0 && onset}<button
                class="button !min-h-8 !px-2 !py-0 text-sm"
                onclick={() => onset(f.change)}>Try it</button
              >{/if}
          </p>
        {/if}
      </div>
    </li>
  {/each}
</ul>
