<!-- Serves the coach at the desk: the gym's rigs as they hang, and those that are archived. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { Act } from '../lib/act.svelte'
  import { api, ask, type Schemas } from '../lib/api/client'
  import { read } from '../lib/bench/fields'
  import { kindName, kinds, measuresOf, valueOf } from '../lib/bench/kinds.svelte'
  import Unsaved from '../lib/drafts/Unsaved.svelte'
  import Sketch from '../lib/bench/Sketch.svelte'
  import { session } from '../lib/session.svelte'
  import Button from '../lib/ui/Button.svelte'
  import Notice from '../lib/ui/Notice.svelte'
  import Unreadable from '../lib/ui/Unreadable.svelte'

  const list = (archived: boolean) => () => ask(api.GET('/api/rigs', { params: { query: { archived } } }))
  const bags = createQuery(() => ({ queryKey: ['rigs'], queryFn: list(false) }))
  const away = createQuery(() => ({ queryKey: ['rigs', 'archived'], queryFn: list(true) }))

  const act = new Act(useQueryClient())
  const path = (rig: Schemas['Rig']) => ({ params: { path: { id: rig.id } } })
  const hang = (rig: Schemas['Rig']) => ask(api.POST('/api/rigs/{id}/restore', path(rig)))
  function retire(rig: Schemas['Rig'], back: boolean) {
    if (back) return act.do(rig.id, () => hang(rig), { said: `${rig.name} is back.` })
    return act.do(rig.id, () => ask(api.DELETE('/api/rigs/{id}', path(rig))), {
      said: `${rig.name} is archived; its rounds stay in the log.`,
      undo: () => hang(rig),
      undone: `${rig.name} is back.`,
    })
  }
  // The first few measures tell rigs of a kind apart.
  const told = (doc: Schemas['RigDoc']) =>
    measuresOf(doc)
      .slice(0, 3)
      .map((m) => `${m.label.split(',')[0]!.toLowerCase()} ${valueOf(m.field, read(doc, {}, m.field), session.units)}`)
      .join(', ')
</script>

<svelte:head><title>Bags · Melodromos</title></svelte:head>
<div class="flex flex-wrap items-end justify-between gap-4">
  <h1 class="text-3xl font-extrabold">Bags</h1>
  <Button main href="#/bags/new">Add a bag</Button>
</div>
<Unsaved sort="bags" />
{#if bags.data}<Unreadable of={['bag']} />{/if}
{#if bags.isError}
  <Notice title="The bags could not be read" text={bags.error.message} again={() => bags.refetch()} />
{:else if bags.data?.length === 0}
  <Notice
    title="No bag yet."
    text="Measure one as it hangs: under its board, between its cords, on its pole, rope or chain." />
{:else}
  <ul class="seam mt-6">
    {#each bags.data ?? [] as b (b.id)}
      <li
        class="grid grid-cols-[auto_1fr] items-center gap-x-5 gap-y-2 border-b border-rope py-3 md:grid-cols-[auto_1fr_auto]">
        <Sketch doc={b.doc} />
        <div class="min-w-0">
          <p class="text-lg font-bold">{b.name}</p>
          <p>{b.sentence}</p>
          {#if b.wrong?.length}<p class="font-semibold">
              Wrong: {b.wrong.map((w, i) => (i === 0 ? w : w.charAt(0).toLowerCase() + w.slice(1))).join('; ')}.
            </p>{/if}
          <p class="text-sm text-soft">{kindName(b.doc.kind)}: {told(b.doc)}</p>
        </div>
        <span class="flex flex-wrap gap-2 max-md:col-span-2">
          <Button href="#/bags/{b.id}" aria-label="Set up {b.name}">Set up</Button>
          <Button quiet href="#/bags/new?copy={b.id}" aria-label="Copy {b.name}">Copy</Button>
          <Button quiet aria-label="Archive {b.name}" onclick={() => retire(b, false)}>Archive</Button>
        </span>
      </li>
    {/each}
  </ul>
{/if}
{#if away.data && away.data.length > 0}
  <details class="mt-6">
    <summary class="cursor-pointer font-semibold">Archived: {away.data.length}</summary>
    <ul class="mt-2">
      {#each away.data as b (b.id)}
        <li class="flex items-center justify-between gap-4 border-b border-rope py-2">
          <span>{b.name}, {kinds.of(b.doc.kind).name}</span>
          <Button aria-label="Bring back {b.name}" onclick={() => retire(b, true)}>Bring back</Button>
        </li>
      {/each}
    </ul>
  </details>
{/if}
