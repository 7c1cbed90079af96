<!-- What somebody can do, where each figure comes from, and how it was found. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { kinds } from '../../lib/bench/kinds.svelte'
  import { ability, shortDay, sure } from '../../lib/format'
  import { figureNames } from '../../lib/labels.gen'
  import { session } from '../../lib/session.svelte'
  import More from '../../lib/ui/More.svelte'

  type Figure = Schemas['PersonFigure']
  let { trainee, figures }: { trainee: Schemas['Trainee']; figures: Figure[] } = $props()
  const finer = new Set(['timing', 'motor', 'bias', 'force', 'miss']) // what a coach seldom asks for
  const units = $derived(session.units)
  const beginners: Record<string, string> = {
    'first-timer': 'a first-timer',
    beginner: 'a beginner',
    intermediate: 'an intermediate',
    advanced: 'an advanced boxer',
    expert: 'an expert',
  }
  const origins = $derived<Record<string, string>>({
    assumed: `estimate for ${beginners[trainee.band]}`,
    stated: 'stated',
    tested: 'tested',
    rounds: 'from rounds',
  })
  const trail = $derived(figures.flatMap((f) => f.trail).toSorted((a, b) => b.at.localeCompare(a.at)))

  function found(f: Figure) {
    if (f.found === 0) return origins[f.origin]
    const often = f.found === 1 ? 'once' : `${f.found} times`
    return `${origins[f.origin]}, ${often}, ${sure(f.figure, f.spread, units)}`
  }
  const byBag = (f: Figure) =>
    f.bags.length > 1 || f.figure === 'bias'
      ? f.bags.map((b) => `; ${kinds.of(b.kind).name} ${ability(f.figure, b.value, units)}`).join('')
      : ''
</script>

<section class="seam pt-3" aria-labelledby="can">
  <h2 id="can" class="text-xl font-bold">What {trainee.name.split(' ')[0]} can do</h2>
  {@render table(figures.filter((f) => !finer.has(f.figure)))}
  <p class="mt-2 text-sm"><a href="#/people/{trainee.id}/tests">Test some of them</a></p>
  <More title="Scatter, lateness and force">
    {@render table(figures.filter((f) => finer.has(f.figure)))}
  </More>
  {#if trail.length > 0}
    <More title="How they were found">
      <p class="mt-1 text-sm text-soft">
        Each figure weighs estimate, tests and rounds by how sure and how recent they are.
      </p>
      <ul class="mt-1 max-h-64 overflow-y-auto text-sm">
        {#each trail as x, i (i)}
          <li class="grid grid-cols-[6rem_1fr_auto] gap-x-3 border-b border-rope py-1">
            <span class="text-soft">{shortDay(x.at, session.zone)}</span>
            <span>{figureNames[x.figure]}{x.floor ? ', at least' : ''} <span class="text-soft">{x.note}</span></span>
            <span class="text-right whitespace-nowrap">
              <b>{ability(x.figure, x.value, units)}</b>
              <span class="text-soft">{sure(x.figure, x.spread, units)}</span>
            </span>
          </li>
        {/each}
      </ul>
    </More>
  {/if}
</section>

{#snippet table(list: Figure[])}
  <table class="mt-1 w-full text-left">
    <thead class="text-sm text-soft">
      <tr>
        <th class="font-semibold">Figure</th>
        <th class="text-right font-semibold">Now</th>
        <th class="pl-4 font-semibold">Where it comes from</th>
      </tr>
    </thead>
    <tbody>
      {#each list as f (f.figure)}
        <tr class="border-b border-rope align-baseline">
          <td class="py-1.5">{figureNames[f.figure]}</td>
          <td class="text-right font-bold whitespace-nowrap">{ability(f.figure, f.value, units)}</td>
          <td class="pl-4 text-sm text-soft">{found(f)}{byBag(f)}</td>
        </tr>
      {/each}
    </tbody>
  </table>
{/snippet}
