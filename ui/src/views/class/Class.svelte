<!-- Serves the coach at the door: who is here, and the class that comes of it. -->
<script lang="ts">
  import { states } from '../../lib/labels.gen'
  import { createQuery } from '@tanstack/svelte-query'
  import { untrack } from 'svelte'
  import { push } from 'svelte-spa-router'
  import { api, ask } from '../../lib/api/client'
  import { asked } from '../../lib/address'
  import { clockTime, shortDay } from '../../lib/format'
  import { newKey } from '../../lib/key'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Unreadable from '../../lib/ui/Unreadable.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import Crew from './Crew.svelte'

  const classes = createQuery(() => ({ queryKey: ['hours'], queryFn: () => ask(api.GET('/api/hours')) }))
  const sessions = createQuery(() => ({ queryKey: ['sessions', false], queryFn: () => ask(api.GET('/api/sessions')) }))
  let people = $state<string[]>([])
  let bags = $state<string[]>([])
  let minutes = $state(60)
  let chosen = $state(asked().get('session') ?? '') // in place of own drills
  let busy = $state(false)
  let problem = $state('')
  const key = newKey()
  // Who was here, and on which bags, the last time: most of them are here again.
  const last = createQuery(() => {
    const id = classes.data?.[0]?.id ?? ''
    return {
      queryKey: ['hour', id],
      enabled: id !== '',
      queryFn: () => ask(api.GET('/api/hours/{id}', { params: { path: { id } } })),
    }
  })
  const before = $derived(last.data?.plan.people.filter((p) => !p.gone).map((p) => p.id) ?? [])
  $effect(() => {
    const used = last.data?.plan.bags.filter((b) => !b.broken).map((b) => b.id) ?? []
    if (untrack(() => bags.length) === 0) bags = used
  })
  const all = $derived([
    ...(sessions.data?.own ?? []).map((s) => ({ key: s.id, name: s.session.name, session: s.session })),
    ...(sessions.data?.templates ?? [])
      .filter((t) => t.key !== 'class')
      .map((t) => ({ key: t.key, name: t.session.name, session: t.session })),
  ])

  async function plan() {
    busy = true
    problem = ''
    const picked = all.find((s) => s.key === chosen)?.session
    try {
      const theClass = await ask(
        api.POST('/api/hours', {
          params: { header: { 'Idempotency-Key': key } },
          body: { people, bags, ...(picked ? { session: picked } : { minutes }) },
        }),
      )
      void push(`/class/${theClass.id}`)
    } catch (e) {
      problem = (e as Error).message
    }
    busy = false
  }
</script>

<svelte:head><title>Class · Melodromos</title></svelte:head>
<div class="flex flex-wrap items-end justify-between gap-4">
  <h1 class="text-3xl font-extrabold">Who is here?</h1>
  <span class="flex flex-wrap gap-2"
    ><Button href="#/calendar">Calendar</Button><Button href="#/sessions">Sessions</Button></span>
</div>
{#each (classes.data ?? []).filter((h) => h.state === 'running' || h.state === 'paused') as h (h.id)}
  <p class="mt-4 flex flex-wrap items-center gap-3 border-l-4 border-ink pl-4">
    <b>{h.name} is {states[h.state]}.</b>
    <Button small main href="#/floor/{h.id}">To the floor</Button>
    <Button small href="#/class/{h.id}">Its plan</Button>
  </p>
{/each}
<Crew bind:people bind:bags last={before} />
<div class="seam mt-6 flex flex-wrap items-end gap-x-6 gap-y-3 pt-4">
  <label class="block">
    <span class="label">What they do</span>
    <select class="input mt-1 !w-72" bind:value={chosen}>
      <option value="">Everybody their own drill</option>
      {#each all as s (s.key)}<option value={s.key}>{s.name}</option>{/each}
    </select>
  </label>
  {#if !chosen}
    <label class="block">
      <span class="label">Minutes</span>
      <input class="input mt-1 !w-24" type="number" min="10" max="180" step="5" bind:value={minutes} />
    </label>
  {/if}
  <Button main class="px-8!" disabled={busy || people.length === 0} onclick={plan}>
    {busy ? 'Planning…' : 'Plan the class'}
  </Button>
  <Problem text={problem} />
</div>
{#if classes.data}<Unreadable of={['class']} />{/if}
{#if classes.isError}
  <Notice title="The classes could not be read" text={classes.error.message} again={() => classes.refetch()} />
{:else if (classes.data?.length ?? 0) > 0}
  <section class="mt-10" aria-labelledby="before">
    <h2 id="before" class="text-xl font-bold">Classes</h2>
    <ul class="mt-2">
      {#each classes.data ?? [] as h (h.id)}
        <li class="flex flex-wrap items-baseline justify-between gap-x-6 border-b border-rope py-2">
          <a class="inline-block min-h-6 font-bold" href="#/class/{h.id}">{h.name}</a>
          <span class="text-sm text-soft"
            >{shortDay(h.startedAt ?? h.createdAt, session.zone)}, {clockTime(
              h.startedAt ?? h.createdAt,
              session.zone,
            )}, {states[h.state]}</span>
        </li>
      {/each}
    </ul>
  </section>
{/if}
