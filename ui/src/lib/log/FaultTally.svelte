<!-- What goes wrong, the oftenest first: how often, how lately, and how large it was each time. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { count, percent, shortDay, upper } from '../format'
  import { session } from '../session.svelte'

  type Props = { faults: Schemas['Tally'][]; people?: boolean }
  let { faults, people = false }: Props = $props()
  const height = (f: Schemas['Tally'], cost: number) =>
    18 * Math.min(1, cost / Math.max(0.02, ...f.past.map((p) => p.cost)))
</script>

{#if faults.length === 0}
  <p class="mt-1 text-soft">No fault was named so far.</p>
{:else}
  <table class="mt-1 w-full text-left">
    <thead class="text-sm text-soft">
      <tr>
        <th class="font-semibold">Fault</th>
        <th class="pl-4 text-right font-semibold">Rounds</th>
        <th class="pl-4 text-right font-semibold">{people ? 'People' : 'Of the last ten'}</th>
        <th class="pl-4 text-right font-semibold">Cost</th>
        <th class="hidden pl-4 font-semibold whitespace-nowrap sm:table-cell">Each time</th>
      </tr>
    </thead>
    <tbody>
      {#each faults as f (f.code)}
        <tr class="border-b border-rope align-top">
          <td class="py-1.5">
            <b>{upper(f.name)}</b>
            <span class="block text-sm text-soft">{f.remedy} Last on {shortDay(f.last, session.zone)}.</span>
          </td>
          <td class="py-1.5 text-right whitespace-nowrap"
            >{f.rounds}<span class="block text-sm text-soft"
              >{f.first > 0 ? `top fault ${f.first === 1 ? 'once' : `${f.first} times`}` : ''}</span
            ></td>
          <td class="py-1.5 text-right">{people ? f.people : f.lately}</td>
          <td class="py-1.5 text-right whitespace-nowrap">{percent(f.cost)}</td>
          <td class="hidden py-1.5 pl-4 sm:table-cell">
            <svg
              width={Math.min(12, f.past.length) * 9}
              height="20"
              role="img"
              aria-label="Its cost in the last {count(Math.min(12, f.past.length), 'round')}: {f.past
                .slice(-12)
                .map((p) => percent(p.cost))
                .join(', ')}">
              {#each f.past.slice(-12) as p, i (p.run)}
                <rect x={i * 9} y={19 - height(f, p.cost)} width="6" height={height(f, p.cost) + 1} class="fill-ink" />
              {/each}
            </svg>
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
