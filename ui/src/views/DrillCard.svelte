<!-- A drill on a card: what, how often, three things to watch. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { count, countdown } from '../lib/format'
  import Sheet from '../lib/print/Sheet.svelte'
  import Notice from '../lib/ui/Notice.svelte'
  import { readied } from './run/floor.svelte'

  let { params }: { params: { id: string } } = $props()
  const card = createQuery(() => ({ queryKey: ['run', params.id], queryFn: () => readied(params.id) }))
  const c = $derived(card.data)
  const reps = $derived(c?.preview.composed?.times ?? 0)
</script>

<svelte:head><title>{c?.drill.name ?? 'Card'} · Melodromos</title></svelte:head>
{#if card.isError}
  <Notice title="This card could not be made" text={card.error.message} again={() => card.refetch()} />
{:else if !c}
  <Notice title="Reading…" />
{:else}
  <Sheet large title={c.drill.name} back="#/run/{params.id}" caution={c.preview.before.join(' ')}>
    {#snippet children(pocket)}
      <p class="mt-2 {pocket ? 'text-base' : 'text-2xl'} font-bold">{c.trainee.name}, {c.rig.name}</p>
      <h2 class="label mt-3">What</h2>
      <p class={pocket ? '' : 'text-xl'}>{c.preview.sentence}</p>
      {#if c.preview.composed}<p class="figure {pocket ? 'text-2xl' : 'text-5xl'} mt-1">
          {c.preview.composed.canonical}
        </p>{/if}
      <h2 class="label mt-3">How often</h2>
      <p class={pocket ? '' : 'text-xl'}>
        {reps > 0 ? `${count(reps, 'rep')}, ` : ''}{count(c.preview.strikes, 'strike')} in {countdown(
          c.preview.seconds,
        )}. Goal in a row: {c.outlook.target}.
      </p>
      <h2 class="label mt-3">Three things to watch</h2>
      <ol class="list-decimal pl-6 {pocket ? '' : 'text-xl'}">
        {#each c.preview.watch as w (w)}<li>{w}</li>{/each}
      </ol>
      {#if c.preview.spared.length > 0}<p class="mt-2 font-semibold">{c.preview.spared.join('; ')}.</p>{/if}
    {/snippet}
  </Sheet>
{/if}
