<!-- What each rebound count allows within these hands' reach, on one scale of tempo, with the wanted tempo across all of them. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { range } from '../format'

  type Props = {
    rows: Schemas['Tempo'][]
    tempo: number
    rebounds: number
    caption?: string
    onchoose: (n: number) => void
  }
  let {
    rows,
    tempo,
    rebounds,
    caption = 'Tempos this bag allows (strikes a minute), by count',
    onchoose,
  }: Props = $props()

  // A logarithmic scale from 20 to 600 a minute: what is quicker is off every scale of a hand.
  const at = (v: number) => (100 * Math.log(Math.min(600, Math.max(20, v)) / 20)) / Math.log(30)
</script>

<table class="w-full border-collapse text-left">
  <caption class="label py-1 text-left">{caption}</caption>
  <thead class="sr-only"><tr><th>Rebounds</th><th>Range</th><th>Slowest to fastest</th></tr></thead>
  <tbody>
    {#each rows as r (r.rebounds)}
      <tr class="border-b border-rope {r.rebounds === rebounds ? 'bg-sheet' : ''}">
        <td class="w-12 py-1">
          <button
            class="size-9 font-bold underline decoration-edge"
            aria-label="Count {r.rebounds}"
            aria-pressed={r.rebounds === rebounds}
            onclick={() => onchoose(r.rebounds)}>{r.rebounds}</button>
        </td>
        <td class="relative">
          <span
            class="absolute top-1/2 h-2 -translate-y-1/2 {r.rebounds === rebounds ? 'bg-ink' : 'bg-edge'}"
            style:left={`${at(r.slowest)}%`}
            style:width={`${at(r.fastest) - at(r.slowest)}%`}></span>
          <span class="absolute inset-y-0 w-0.5 bg-ink" style:left={`${at(tempo)}%`}></span>
        </td>
        <td class="w-32 pl-3 text-right text-sm whitespace-nowrap"
          >{range(r.slowest, r.fastest)}{r.face === 'behind' ? ', behind' : ''}</td>
      </tr>
    {:else}
      <tr><td class="py-1 text-sm text-soft">None of these is within reach of these hands.</td></tr>
    {/each}
  </tbody>
</table>
