<!-- What was looked at on a rig: what is wrong first, each with its figure, the limit, where that comes from, and what to do. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { figure, upper, type Units } from '../format'
  import Button from '../ui/Button.svelte'
  import Icon from '../ui/Icon.svelte'

  type Props = { findings: Schemas['FindingRow'][]; units: Units; onset?: (changes: Schemas['Setting'][]) => void }
  let { findings, units, onset }: Props = $props()

  const order = { wrong: 0, mind: 1, right: 2 }
  const sorted = $derived(findings.toSorted((a, b) => order[a.weight] - order[b.weight]))
  const signs = {
    wrong: { text: 'Wrong', icon: 'cross', wide: 3.5 },
    mind: { text: 'Watch', icon: 'warning', wide: 2.5 },
    right: { text: 'Right', icon: 'tick', wide: 2 },
  } as const
</script>

<ul>
  {#each sorted as f (f.code + f.what)}
    {@const sign = signs[f.weight]}
    <li class="grid grid-cols-[2rem_1fr] gap-x-2 border-b border-rope py-2 {f.weight === 'right' ? 'text-soft' : ''}">
      <span class="mt-0.5"><Icon name={sign.icon} wide={sign.wide} label={sign.text} /></span>
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
            {#if f.change.length > 0 && onset}<Button small onclick={() => onset(f.change)}>Try it</Button>{/if}
          </p>
        {/if}
      </div>
    </li>
  {/each}
</ul>
