<!-- Serves the coach at the desk: what was run, by day. -->
<script lang="ts">
  import { createInfiniteQuery, createQuery } from '@tanstack/svelte-query'
  import { api, ask, type Schemas } from '../lib/api/client'
  import { kinds } from '../lib/bench/kinds.svelte'
  import { clockTime, count, day } from '../lib/format'
  import Files from '../lib/files/Files.svelte'
  import { logFiles } from '../lib/files/items'
  import FaultTally from '../lib/log/FaultTally.svelte'
  import WeekBars from '../lib/log/WeekBars.svelte'
  import { session } from '../lib/session.svelte'
  import Button from '../lib/ui/Button.svelte'
  import LogRows from '../lib/ui/LogRows.svelte'
  import Notice from '../lib/ui/Notice.svelte'
  import Unreadable from '../lib/ui/Unreadable.svelte'

  const page = 50
  let trainee = $state('')
  let kind = $state<Schemas['RigDoc']['kind'] | ''>('')
  let typed = $state('')
  let search = $state('')
  $effect(() => {
    const to = typed.trim()
    const wait = setTimeout(() => (search = to), 250)
    return () => clearTimeout(wait)
  })
  let removed = $state(false)
  const people = createQuery(() => ({ queryKey: ['trainees'], queryFn: () => ask(api.GET('/api/trainees')) }))
  const log = createInfiniteQuery(() => ({
    queryKey: ['runs', trainee, removed, kind, search],
    initialPageParam: '',
    queryFn: ({ pageParam }) =>
      ask(
        api.GET('/api/runs', {
          params: {
            query: {
              limit: page,
              ...(trainee ? { trainee } : {}),
              ...(removed ? { removed } : {}),
              ...(kind ? { kind } : {}),
              ...(search ? { search } : {}),
              ...(pageParam ? { before: pageParam } : {}),
            },
          },
        }),
      ),
    getNextPageParam: (last: Schemas['LogRow'][]) =>
      last.length === page ? last[last.length - 1]?.createdAt : undefined,
  }))
  const narrowed = $derived(!!(trainee || kind || search))
  const season = createQuery(() => ({ queryKey: ['progress', ''], queryFn: () => ask(api.GET('/api/progress')) }))
  const rows = $derived(log.data?.pages.flat() ?? [])
  const held = createQuery(() => ({ queryKey: ['hours'], queryFn: () => ask(api.GET('/api/hours')) }))
  // Classes stand in the log of everybody, as far back as its rounds were read.
  const classes = $derived(
    trainee || removed || kind
      ? []
      : (held.data ?? []).filter(
          (h) =>
            h.startedAt &&
            search.split(/\s+/).every((word) => h.name.toLowerCase().includes(word.toLowerCase())) &&
            (!log.hasNextPage || h.startedAt >= (rows.at(-1)?.createdAt ?? '')),
        ),
  )
  /** All of it is there: what came piece by piece would push what stands below. */
  const ready = $derived(!!log.data && !held.isPending && (narrowed || !season.isPending))
  const dayOf = (h: Schemas['ClassRow']) => day(h.startedAt!, session.zone)
  const days = $derived.by(() => {
    const byDay = new Map<string, Schemas['LogRow'][]>()
    const all = [
      ...rows.map((r) => ({ at: r.startedAt ?? r.createdAt, row: r })),
      ...classes.map((h) => ({ at: h.startedAt!, row: null })),
    ].toSorted((a, b) => b.at.localeCompare(a.at))
    for (const { at, row } of all) {
      const name = day(at, session.zone)
      byDay.set(name, [...(byDay.get(name) ?? []), ...(row ? [row] : [])])
    }
    return [...byDay]
  })
</script>

<svelte:head><title>Log · Melodromos</title></svelte:head>
<div class="flex flex-wrap items-end justify-between gap-4">
  <h1 class="text-3xl font-extrabold">{removed ? 'Removed from the log' : 'Log'}</h1>
  <div class="flex flex-wrap gap-3">
    <label class="w-56"
      ><span class="label">Look for</span>
      <input class="input mt-1" type="search" placeholder="a person, a drill, a bag" bind:value={typed} /></label>
    <label class="w-44"
      ><span class="label">Whose rounds</span>
      <select class="input mt-1" bind:value={trainee}>
        <option value="">Everybody's</option>
        {#each people.data ?? [] as t (t.id)}<option value={t.id}>{t.name}</option>{/each}
      </select>
    </label>
    <label class="w-44"
      ><span class="label">On which bag</span>
      <select class="input mt-1" bind:value={kind}>
        <option value="">Any</option>
        {#each kinds.all as k (k.kind)}<option value={k.kind}>{k.name}</option>{/each}
      </select>
    </label>
    <span class="self-end"
      ><Files
        of={people.data?.find((t) => t.id === trainee)?.name ?? 'the log'}
        items={[...logFiles(trainee), { text: 'Bring in a table', as: 'CSV', href: '/import' }]} /></span>
  </div>
</div>
{#if ready && !removed && !narrowed && season.data && season.data.rounds > 0}
  {@const s = season.data}
  <section class="seam mt-6 grid gap-x-10 gap-y-4 pt-4 lg:grid-cols-[1fr_26rem]" aria-labelledby="season">
    <div>
      <h2 id="season" class="text-xl font-bold">Commonest faults</h2>
      <FaultTally faults={s.faults.slice(0, 4)} people />
    </div>
    <div>
      <h2 class="text-xl font-bold">Rounds a week</h2>
      <div class="mt-2"><WeekBars weeks={s.weeks} /></div>
      <p class="mt-1 text-sm">
        {s.regular}
        {#if s.streaks[0]}Longest in a row: {s.streaks[0].longest} by {s.streaks[0].who || 'somebody'} on the {s
            .streaks[0].bagName}.{/if}
      </p>
    </div>
  </section>
{/if}

{#if ready && !removed}<Unreadable of={['round', 'class']} />{/if}
{#if log.isError}
  <Notice title="The log could not be read" text={log.error.message} again={() => log.refetch()} />
{:else if !ready}
  <Notice title="Reading the log…" />
{:else if days.length === 0}
  <Notice
    title={narrowed ? 'No round like that.' : removed ? 'Nothing was removed.' : 'No round yet.'}
    text={narrowed
      ? 'Look for something else, or for everybody’s.'
      : removed
        ? 'What you remove stands here, and can be brought back.'
        : 'Rounds stand here once they are started.'}><Button main href="#/">To today</Button></Notice>
{:else}
  {#each days as [name, list] (name)}
    <section class="seam mt-6 grid gap-x-8 pt-4 md:grid-cols-[14rem_1fr]">
      <h2 class="font-bold">
        {name}
        {#if list.length > 0}<span class="block text-sm font-normal text-soft">{count(list.length, 'round')}</span>{/if}
      </h2>
      <div>
        {#each classes.filter((h) => dayOf(h) === name) as h (h.id)}
          <p class="border-b border-rope py-3">
            <a class="font-bold" href="#/class/{h.id}">{h.name}</a>
            <span class="text-sm text-soft">at {clockTime(h.startedAt!, session.zone)}</span>
          </p>
        {/each}
        <LogRows rows={list} zone={session.zone} />
      </div>
    </section>
  {/each}
  {#if log.hasNextPage}<Button class="mt-6" disabled={log.isFetchingNextPage} onclick={() => log.fetchNextPage()}
      >Earlier rounds</Button
    >{/if}
{/if}
{#if ready || log.isError}
  <p class="mt-8">
    <Button quiet onclick={() => (removed = !removed)}>{removed ? 'Back to the log' : 'Show what was removed'}</Button>
  </p>
{/if}
