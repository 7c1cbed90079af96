<!-- What went wrong, the one thing to fix first, each with the drill that mends it; and what this round cannot show. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { percent, upper } from '../../lib/format'
  import Button from '../../lib/ui/Button.svelte'

  type Fault = Schemas['FaultOut']
  type Props = { r: Schemas['Review']; busy: boolean; onmend: (f: Fault) => void }
  let { r, busy, onmend }: Props = $props()
  const first = $derived(r.faults[0])
  const others = $derived(r.faults.slice(1))
  const cost = (f: Fault) => (f.cost < 0.005 ? '' : `It cost ${percent(f.cost)} of the strikes.`)
</script>

{#snippet mend(f: Fault, main: boolean)}
  {#if f.offer && !r.run.removed}
    <Button {main} small={!main} disabled={busy} onclick={() => onmend(f)}>{f.offer.title}</Button>
  {/if}
{/snippet}

{#if r.first}
  <section class="seam mt-6 pt-4" aria-labelledby="first">
    <h2 id="first" class="label">{first ? 'Fix this first' : 'What to fix'}</h2>
    {#if first}
      <p class="mt-1 text-3xl leading-tight font-extrabold">{upper(first.name)}</p>
      <p class="mt-1 max-w-prose text-lg">{first.evidence} {cost(first)} <b>{first.remedy}</b></p>
      <div class="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        {@render mend(first, true)}
        {#if first.offer}<span class="text-sm text-soft"
            >{first.offer.name}, for {r.run.trainee.name} on the {r.run.rigName}.</span
          >{/if}
      </div>
      {#if first.tells}<p class="mt-2 max-w-prose text-sm text-soft">{first.tells}</p>{/if}
    {:else}
      <p class="mt-1 text-lg">{r.first}</p>
    {/if}
    {#if others.length > 0}
      <h3 class="mt-5 font-bold">Then</h3>
      <ul class="mt-1">
        {#each others as f (f.code)}
          <li class="grid grid-cols-[1fr_auto] items-center gap-x-4 border-b border-rope py-2">
            <p>
              <b>{upper(f.name)}{f.seen ? ' (seen)' : ''}.</b>
              {f.evidence}
              {cost(f)} <span class="text-soft">{f.remedy}</span>
            </p>
            {@render mend(f, false)}
          </li>
        {/each}
      </ul>
    {/if}
  </section>
{/if}
{#if r.untold.length > 0}
  <details class="mt-4">
    <summary class="cursor-pointer font-semibold">What this round can’t show</summary>
    <ul class="mt-1 max-w-prose list-[square] pl-5 text-soft">
      {#each r.untold as u (u.what)}<li>{upper(u.what)}. You’d need {u.needs}.</li>{/each}
    </ul>
  </details>
{/if}
