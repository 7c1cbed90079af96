<!-- The round by hand, by its breaks, and by time. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { ms, percent, signedMs, speed } from '../../lib/format'
  import { verdicts } from '../../lib/labels.gen'
  import { session } from '../../lib/session.svelte'
  import { handWord } from '../../lib/trace/hands'

  type Props = { r: Schemas['Review']; clock: (at: number) => string; onpick: (at: number) => void }
  let { r, clock, onpick }: Props = $props()
  const scatter = $derived(
    r.clock != null && r.motor != null
      ? `Behind the scatter: ${ms(r.clock)} in the inner clock, ${ms(r.motor)} in the hand (modelled).`
      : '',
  )
  const pace = $derived(
    [
      ...(r.inbound == null ? [] : [`${percent(r.inbound)} of the hits met the bag on its way in.`]),
      ...(r.drift == null
        ? []
        : [`Getting ${r.drift > 0 ? 'later' : 'earlier'} by ${ms(Math.abs(r.drift))} a minute.`]),
      ...(r.tempo == null || r.asked == null
        ? []
        : [`${r.tempo.toFixed(0)} strikes a minute; ${r.asked.toFixed(0)} were planned.`]),
    ].join(' '),
  )
  // where in the pattern: only where it has places, and no more than one can read
  const places = $derived(
    r.positions.length > 2 && r.positions.length <= 16 ? r.positions : ([] as Schemas['GroupOut'][]),
  )
  const parts = $derived([...r.thirds, ...r.parts, ...r.defended].filter((p) => p.planned > 0))
  const force = $derived(parts.some((p) => p.launch != null))
  const back = (b: Schemas['BreakOut']) => (b.recover == null ? '' : `, back in ${b.recover.toFixed(1)} s`)
</script>

{#snippet head(names: string[])}
  <thead class="text-sm text-soft">
    <tr>
      {#each names as name, i (name)}<th class="font-semibold {i === 0 ? '' : 'text-right'}">{name}</th>{/each}
    </tr>
  </thead>
{/snippet}

<div class="mt-2 grid gap-10 md:grid-cols-3">
  <section class="seam pt-3">
    <h2 class="font-bold">Hands</h2>
    <table class="mt-1 w-full text-left">
      {@render head(['Hand', 'Clean', 'On average', 'Scatter'])}
      <tbody>
        {#each r.hands as h (h.hand)}
          <tr class="border-b border-rope">
            <td class="py-1.5 capitalize">
              {h.hand} <span class="text-soft normal-case">({handWord(h.hand, r.run.trainee.stance)})</span>
            </td>
            <td class="text-right">{percent(h.clean / h.planned)}</td>
            <td class="text-right">{h.bias == null ? '–' : signedMs(h.bias)}</td>
            <td class="text-right">{h.spread == null ? '–' : ms(h.spread)}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if scatter}<p class="mt-2 text-sm text-soft">{scatter}</p>{/if}
    {#if places.length > 0}
      <table class="mt-4 w-full text-left">
        {@render head(['Place', 'Clean', 'On average', 'Scatter'])}
        <tbody>
          {#each places as p, i (i)}
            <tr class="border-b border-rope">
              <td class="py-1.5">{p.position + 1} <span class="text-soft">{p.hand}</span></td>
              <td class="text-right">{percent(p.clean / p.planned)}</td>
              <td class="text-right">{p.bias == null ? '–' : signedMs(p.bias)}</td>
              <td class="text-right">{p.spread == null ? '–' : ms(p.spread)}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    {/if}
    {#if parts.length > 0}
      <table class="mt-4 w-full text-left">
        {@render head(['Part', 'Clean', 'On average', ...(force ? ['Speed'] : [])])}
        <tbody>
          {#each parts as p (p.name)}
            <tr class="border-b border-rope">
              <td class="py-1.5 capitalize">{p.name}</td>
              <td class="text-right">{percent(p.clean / p.planned)}</td>
              <td class="text-right">{p.bias == null ? '–' : signedMs(p.bias)}</td>
              {#if force}<td class="text-right">{p.launch == null ? '–' : speed(p.launch, session.units)}</td>{/if}
            </tr>
          {/each}
        </tbody>
      </table>
    {/if}
  </section>
  <section class="seam pt-3">
    <h2 class="font-bold">Where it broke</h2>
    {#if r.breaks.length === 0}<p class="mt-1 text-soft">Nothing broke.</p>{/if}
    <ul class="mt-1 max-h-64 overflow-y-auto">
      {#each r.breaks as b (b.at)}
        <li class="border-b border-rope py-1.5">
          <button class="min-h-6 w-full text-left hover:underline" onclick={() => onpick(b.at)}>
            {clock(b.at)} <span class="text-soft">after {b.run} clean: {verdicts[b.verdict]}{back(b)}</span>
          </button>
        </li>
      {/each}
    </ul>
  </section>
  <section class="seam pt-3">
    <h2 class="font-bold">Pace by 15 s</h2>
    <table class="mt-1 w-full text-left">
      {@render head(['From', 'Hits', 'A minute'])}
      <tbody>
        {#each r.paces as p (p.from)}
          <tr class="border-b border-rope">
            <td class="py-1.5">{clock(p.from)}</td>
            <td class="text-right">{p.hits}</td>
            <td class="text-right">{p.tempo == null ? '–' : p.tempo.toFixed(0)}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    <p class="mt-2 text-sm text-soft">{pace}</p>
  </section>
</div>
