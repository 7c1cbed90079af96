<!-- Serves the coach before and during a class: who is where in which round, changed by hand, planned anew. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { onMount } from 'svelte'
  import { push } from 'svelte-spa-router'
  import { Act } from '../../lib/act.svelte'
  import { api, ask, type Schemas } from '../../lib/api/client'
  import { clockTime, shortDay } from '../../lib/format'
  import { doings } from '../../lib/class/doings.svelte'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Unreadable from '../../lib/ui/Unreadable.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import Board from './Board.svelte'
  import Crew from './Crew.svelte'
  import DoneList from './Done.svelte'
  import Rope from './Rope.svelte'

  let { params }: { params: { id: string } } = $props()
  const at = $derived({ params: { path: { id: params.id } } })
  const theClass = createQuery(() => ({
    queryKey: ['hour', params.id],
    queryFn: () => ask(api.GET('/api/hours/{id}', { params: { path: { id: params.id } } })),
  }))
  const act = new Act(useQueryClient())
  let crew = $state<{ people: string[]; bags: string[] } | null>(null)
  onMount(() => void doings.load().catch(() => {}))
  const h = $derived(theClass.data)
  const over = $derived(h?.state === 'done' || h?.state === 'stopped')
  const begun = $derived(!!h && h.state !== 'ready')

  function changeCrew() {
    if (!h) return
    crew = {
      people: h.plan.people.filter((p) => !p.gone).map((p) => p.id),
      bags: h.plan.bags.filter((b) => !b.broken).map((b) => b.id),
    }
  }
  async function anew() {
    const asked = crew
    if (!asked) return
    const done = await act.do('anew', () => ask(api.POST('/api/hours/{id}/anew', { ...at, body: asked })), {
      said: 'The rest is re-planned.',
      unchanged: 'The plan stays as it was.',
    })
    if (done) crew = null
  }
  const seat = (round: number, person: string, bag: string) =>
    act.do('seat', () => ask(api.POST('/api/hours/{id}/seat', { ...at, body: { round, person, bag } })))
  const choose = (person: string, assignmentId: string) =>
    act.do('drill', () => ask(api.POST('/api/hours/{id}/drill', { ...at, body: { person, assignmentId } })))
  async function remove(x: Schemas['HeldClass']) {
    const gone = await act.do('remove', async () => (await ask(api.POST('/api/hours/{id}/remove', at)), true), {
      said: `${x.name} is removed.`,
      undo: () => ask(api.POST('/api/hours/{id}/restore', at)),
    })
    if (gone) void push('/class')
  }
</script>

<svelte:head><title>{h?.name ?? 'Class'} · Melodromos</title></svelte:head>
{#if theClass.isError}
  <Notice title="This class could not be read" text={theClass.error.message} again={() => theClass.refetch()}>
    <Button href="#/class">To the classes</Button>
  </Notice>
  <Unreadable of={['class']} id={params.id} />
{:else if !h}
  <Notice title="Reading the class…" />
{:else}
  <div class="flex flex-wrap items-start justify-between gap-x-6 gap-y-3">
    <div class="max-w-[44rem]">
      <h1 class="text-3xl font-extrabold">{h.name}</h1>
      <p class="mt-1 text-xl text-pretty">{h.plan.sentence}</p>
      {#if begun}<p class="text-soft">
          {shortDay(h.createdAt, session.zone)}, {clockTime(h.createdAt, session.zone)}: {over
            ? 'it is over'
            : h.state === 'paused'
              ? 'it is paused'
              : 'it is under way'}.
        </p>{/if}
    </div>
    <span class="flex flex-wrap gap-2">
      {#if !over}
        <Button main class="px-8!" href="#/floor/{h.id}">To the floor</Button>
        <Button onclick={changeCrew}>Change who is here</Button>
      {/if}
      <Button href="#/class/{h.id}/card">Print</Button>
      {#if h.state !== 'running'}<Button quiet disabled={act.busy !== ''} onclick={() => remove(h)}>Remove</Button>{/if}
    </span>
  </div>
  {#if h.plan.said.length > 0}
    <ul class="mt-3 max-w-prose border-l-4 border-rope pl-3">
      {#each h.plan.said as text (text)}<li>{text}</li>{/each}
    </ul>
  {/if}
  {#if crew}
    <section class="mt-4 border-2 border-ink p-4" aria-label="Who is here now">
      <Crew bind:people={crew.people} bind:bags={crew.bags} />
      <p class="mt-4 flex flex-wrap gap-2">
        <Button main disabled={act.busy !== '' || crew.people.length === 0} onclick={anew}>
          {begun ? 'Re-plan the rest' : 'Re-plan'}
        </Button>
        <Button quiet onclick={() => (crew = null)}>Cancel</Button>
      </p>
      <Problem text={act.problem} />
    </section>
  {/if}
  <Rope faces={h.faces} at={begun && !over ? h.clockUs : -1} />
  <Board theClass={h} {over} busy={act.busy !== ''} onseat={seat} onchoose={choose} />
  {#if h.done.length > 0}<DoneList theClass={h} />{/if}
{/if}
