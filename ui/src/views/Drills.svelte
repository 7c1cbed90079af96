<!-- Serves the coach at the desk: the gym's drills, for which bag each is, and who has it. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { Act } from '../lib/act.svelte'
  import { api, ask, type Schemas } from '../lib/api/client'
  import { kindName } from '../lib/bench/kinds.svelte'
  import Carry from '../lib/drills/Carry.svelte'
  import { editorOf, isLine } from '../lib/drills/doc'
  import Give from '../lib/drills/Give.svelte'
  import Files from '../lib/files/Files.svelte'
  import { drillFiles } from '../lib/files/items'
  import Unsaved from '../lib/drafts/Unsaved.svelte'
  import Button from '../lib/ui/Button.svelte'
  import Notice from '../lib/ui/Notice.svelte'
  import Unreadable from '../lib/ui/Unreadable.svelte'

  type Drill = Schemas['Drill']
  const act = new Act(useQueryClient())
  let archived = $state(false)
  const drills = createQuery(() => ({
    queryKey: ['drills', archived],
    queryFn: () => ask(api.GET('/api/drills', { params: { query: { archived } } })),
  }))
  let giving = $state<Drill | null>(null)
  let carrying = $state<Drill | null>(null)
  const path = (d: Drill) => ({ params: { path: { id: d.id } } })
  const bringBack = (d: Drill) => ask(api.POST('/api/drills/{id}/restore', path(d)))
  const archive = (d: Drill) =>
    act.do(d.id, () => ask(api.DELETE('/api/drills/{id}', path(d))), {
      said: `${d.name} is archived; its rounds stay in the log.`,
      undo: () => bringBack(d),
    })
  const copy = (d: Drill) =>
    act.do(d.id, () => ask(api.POST('/api/drills/{id}/copy', path(d))), { said: (made) => `${made.name} is made.` })
  const figures = (d: Drill) =>
    (d.figures ?? []).map((f) => (f.label === 'round' ? f.value : `${f.value} ${f.label}`)).join(', ')
  /** Where a drill is opened: with the first who has it, or as a new one to be given. */
  const editor = (d: Drill) =>
    d.holders?.[0] ? `#${editorOf(d.doc, d.holders[0].assignmentId)}` : `#${editorOf(d.doc, 'new')}?drill=${d.id}`
</script>

<svelte:head><title>Drills · Melodromos</title></svelte:head>
<div class="flex flex-wrap items-end justify-between gap-4">
  <h1 class="text-3xl font-extrabold">{archived ? 'Archived drills' : 'Drills'}</h1>
  <span class="flex flex-wrap gap-2">
    <Button href="#/library">Library</Button>
    <Button href="#/compose/new">Compose a combination</Button>
    <Button href="#/import">Bring in a file</Button>
    <Button main href="#/drills/new">Make a drill</Button>
  </span>
</div>
<Unsaved sort="drills" />
{#if drills.data && !archived}<Unreadable of={['drill', 'assignment']} />{/if}
{#if drills.isError}
  <Notice title="The drills could not be read" text={drills.error.message} again={() => drills.refetch()} />
{:else if drills.data?.length === 0}
  <Notice
    title={archived ? 'Nothing is archived.' : 'No drill yet.'}
    text={archived
      ? 'What you archive stands here, and can be brought back.'
      : 'A drill is for one kind of bag; force and tempo are set for each person who gets it.'} />
{:else}
  <ul class="seam mt-6">
    {#each drills.data ?? [] as d (d.id)}
      <li class="grid items-center gap-x-6 gap-y-2 border-b border-rope py-3 lg:grid-cols-[18rem_1fr_auto]">
        <div>
          <p class="font-bold">{d.name}</p>
          <p class="text-sm text-soft">{kindName(d.kind)}; {figures(d)}</p>
        </div>
        <p class="text-sm">
          {#if d.holders?.length}
            {#each Object.entries(Object.groupBy(d.holders, (h) => h.rig)) as [bag, there], k (bag)}{k > 0
                ? '; '
                : ''}{#each there ?? [] as h, i (h.assignmentId)}{i > 0 ? ', ' : ''}<a
                  href="#/run/{h.assignmentId}"
                  aria-label="Run {d.name} with {h.trainee}">{h.trainee}</a
                >{/each} <span class="text-soft">on the {bag}</span>{/each}
          {:else if !archived}<span class="text-soft">Nobody has it.</span>{/if}
        </p>
        <span class="flex flex-wrap gap-2">
          {#if archived}
            <Button
              disabled={act.busy !== ''}
              onclick={() => act.do(d.id, () => bringBack(d), { said: `${d.name} is back.` })}
              aria-label="Bring back {d.name}">Bring back</Button>
          {:else}
            <Button aria-label="Give {d.name}" onclick={() => (giving = d)}>Give</Button>
            <Button class="max-sm:!hidden" aria-label="Change {d.name}" href={editor(d)}>Change</Button>
            <Files quiet of={d.name} items={drillFiles(d.id)} />
            <Button
              quiet
              class="max-sm:!hidden"
              disabled={act.busy !== ''}
              aria-label="Copy {d.name}"
              onclick={() => copy(d)}>Copy</Button>
            {#if isLine(d.doc)}<Button
                quiet
                class="max-sm:!hidden"
                aria-label="To another bag: {d.name}"
                onclick={() => (carrying = d)}>To another bag</Button
              >{/if}
            <Button
              quiet
              class="max-sm:!hidden"
              disabled={act.busy !== ''}
              aria-label="Archive {d.name}"
              onclick={() => archive(d)}>Archive</Button>
          {/if}
        </span>
      </li>
    {/each}
  </ul>
{/if}
{#if drills.data || drills.isError}
  <p class="mt-8">
    <Button quiet onclick={() => (archived = !archived)}
      >{archived ? 'Back to the drills' : 'Show what is archived'}</Button>
  </p>
{/if}
{#if giving}<Give drill={giving} onleave={() => (giving = null)} />{/if}
{#if carrying}<Carry drill={carrying} onleave={() => (carrying = null)} />{/if}
