<!-- Serves the coach at the desk: the bags as they hang. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask } from '../lib/api/client'
  import { length } from '../lib/format'
  import { session } from '../lib/session.svelte'
  import Notice from '../lib/ui/Notice.svelte'

  const bags = createQuery(() => ({ queryKey: ['rigs'], queryFn: () => ask(api.GET('/api/rigs')) }))
</script>

<svelte:head><title>Bags · Melodromos</title></svelte:head>
<div class="flex flex-wrap items-end justify-between gap-4">
  <h1 class="text-3xl font-extrabold">Bags</h1>
  <a class="button main" href="#/bags/new">Add a bag</a>
</div>
{#if bags.isError}
  <Notice title="The bags could not be read" text={bags.error.message} again={() => bags.refetch()} />
{:else if bags.data?.length === 0}
  <Notice title="No bag yet." text="Measure one as it hangs: length, widest diameter, weight, and how far the swivel holds it below the board." />
{:else}
  <ul class="seam mt-6">
    {#each bags.data ?? [] as b (b.id)}
      <li class="grid grid-cols-[auto_1fr_auto] items-center gap-5 border-b border-rope py-3">
        <svg viewBox="0 0 40 46" class="h-14 w-12" aria-hidden="true">
          <path d="M2 3h36" stroke="var(--brass)" stroke-width="4" />
          <path d="M20 5C{20 - b.doc.bagDiameter * 30} {20 + b.doc.bagLength * 20} {20 - b.doc.bagDiameter * 100} {8 + b.doc.bagLength * 125} 20 {8 + b.doc.bagLength * 125}S{20 + b.doc.bagDiameter * 30} {20 + b.doc.bagLength * 20} 20 5Z" fill="var(--ink)" />
        </svg>
        <div>
          <p class="text-lg font-bold">{b.name}</p>
          <p>{b.sentence}</p>
          <p class="text-sm text-soft">Speed bag, {length(b.doc.bagLength, session.units)} long, {length(b.doc.bagDiameter, session.units)} wide{b.doc.boardHeight ? `, board at ${length(b.doc.boardHeight, session.units)}` : ''}</p>
        </div>
        <a class="button" href="#/bags/{b.id}">To the bench</a>
      </li>
    {/each}
  </ul>
{/if}
