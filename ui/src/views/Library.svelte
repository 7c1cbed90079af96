<!-- Serves the coach at the desk: what there is to choose from, for which bag and what for. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask, type Schemas } from '../lib/api/client'
  import type { Doc } from '../lib/bench/fields'
  import { kindName, kinds } from '../lib/bench/kinds.svelte'
  import { upper } from '../lib/format'
  import Button from '../lib/ui/Button.svelte'
  import Choice from '../lib/ui/Choice.svelte'
  import Notice from '../lib/ui/Notice.svelte'

  const library = createQuery(() => ({ queryKey: ['library'], queryFn: () => ask(api.GET('/api/library')) }))
  type Entry = Schemas['LibraryEntry']
  let bag = $state<Doc['kind'] | 'all'>('all')
  let purpose = $state('all')
  let level = $state('all')
  let size = $state('all')
  let tag = $state('all')
  let words = $state('')

  const sizes: Record<string, [number, number]> = { short: [1, 3], middle: [4, 7], long: [8, 400] }
  const levels: Record<string, [number, number]> = {
    '1 to 3': [0, 3],
    '3 to 5': [3, 5],
    '5 to 7': [5, 7],
    'over 7': [7, 11],
  }
  const matches = (e: Entry) =>
    (bag === 'all' || e.kind === bag) &&
    (purpose === 'all' || (purpose === 'own' ? e.drillId !== '' : e.purpose === purpose)) &&
    (level === 'all' || (e.level != null && e.level >= levels[level]![0] && e.level < levels[level]![1])) &&
    (tag === 'all' || e.tags.includes(tag)) &&
    (size === 'all' || (e.moves >= sizes[size]![0] && e.moves <= sizes[size]![1])) &&
    words
      .toLowerCase()
      .split(/\s+/)
      .every((w) => `${e.name} ${e.canonical} ${e.note} ${e.tags.join(' ')} ${e.purpose}`.toLowerCase().includes(w))
  const shown = $derived(library.data?.entries.filter(matches) ?? [])
  const groups = $derived(
    kinds.all
      .map(({ kind }) => ({ kind, entries: shown.filter((e) => e.kind === kind) }))
      .filter((g) => g.entries.length > 0),
  )
  const link = (e: Entry) =>
    e.drillId
      ? `#/${e.moves > 0 ? 'compose' : 'drills'}/${e.drillId}`
      : `#/${e.moves > 0 ? 'compose' : 'drills'}/new?library=${e.key}`
</script>

<svelte:head><title>Library · Melodromos</title></svelte:head>
<div class="flex flex-wrap items-end justify-between gap-4">
  <h1 class="text-3xl font-extrabold">
    {library.data ? `${shown.length} ${shown.length === 1 ? 'drill' : 'drills'}` : 'Library'}
  </h1>
  <label class="block w-full sm:w-80"
    ><span class="label">Search by words, numbers or moves</span><input
      class="input mt-1"
      type="search"
      bind:value={words}
      placeholder="slip lead" /></label>
</div>
<div class="mt-2 grid gap-x-8 md:grid-cols-2">
  <Choice
    label="Bag"
    value={bag}
    options={[
      { value: 'all', text: 'All' },
      ...kinds.all.map((m) => ({ value: m.kind, text: upper(m.name).replace(' bag', '') })),
    ]}
    onchange={(v) => (bag = v as typeof bag)} />
  <Choice
    label="Level, on this gym’s bags"
    value={level}
    options={[{ value: 'all', text: 'All' }, ...Object.keys(levels).map((v) => ({ value: v, text: upper(v) }))]}
    onchange={(v) => (level = String(v))} />
  <Choice
    label="For"
    value={purpose}
    options={[
      { value: 'all', text: 'All' },
      ...(library.data?.purposes ?? []).map((v) => ({ value: v, text: upper(v) })),
      { value: 'own', text: 'Our own' },
    ]}
    onchange={(v) => (purpose = String(v))} />
  <div class="flex flex-wrap gap-x-8">
    <Choice
      label="Length"
      value={size}
      options={[
        { value: 'all', text: 'All' },
        { value: 'short', text: '1 to 3 moves' },
        { value: 'middle', text: '4 to 7' },
        { value: 'long', text: '8 and more' },
      ]}
      onchange={(v) => (size = String(v))} />
    <Choice
      label="Tag"
      value={tag}
      options={[
        { value: 'all', text: 'All' },
        { value: 'flow drill', text: 'Flow drill' },
        { value: 'segment', text: 'Segment' },
        { value: 'one hand', text: 'One hand' },
        { value: 'finisher', text: 'Finisher' },
      ]}
      onchange={(v) => (tag = String(v))} />
  </div>
</div>
{#if library.isError}
  <Notice title="The library could not be read" text={library.error.message} again={() => library.refetch()} />
{:else if library.data && shown.length === 0}
  <Notice title="Nothing like that." text="Try fewer words or choices." />
{:else}
  {#each groups as g (g.kind)}
    <h2 class="seam mt-6 pt-3 text-xl font-bold">{kindName(g.kind)}</h2>
    <ul>
      {#each g.entries as e (e.key)}
        <li
          class="grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-1 border-b border-rope py-2.5 md:grid-cols-[16rem_1fr_auto]">
          <div class="grid grid-cols-[2.75rem_1fr] gap-x-2">
            <span class="figure row-span-2 self-center text-3xl" title="Level"
              >{e.level != null ? e.level.toFixed(1) : '–'}</span>
            <p class="font-bold">{e.name}</p>
            <p class="text-sm text-soft">
              {e.drillId ? 'Our own' : upper(e.purpose)}
            </p>
          </div>
          <div class="max-md:col-span-2 max-md:row-start-2">
            {#if e.moves > 0}<p class="font-semibold">{e.canonical}</p>{:else}<p>
                {e.figures
                  .slice(0, 2)
                  .map((f) => `${f.value} ${f.label}`)
                  .join(', ')}
              </p>{/if}
            <p class="text-sm text-soft">
              {e.note}{e.tags.length > 0 ? ` ${e.tags.map((t) => upper(t)).join(', ')}.` : ''}{e.twin
                ? ` The same as “${e.twin}”.`
                : ''}
            </p>
          </div>
          <Button href={link(e)} aria-label="{e.drillId ? 'Change' : 'Take'} {e.name}"
            >{e.drillId ? 'Change' : 'Take'}</Button>
        </li>
      {/each}
    </ul>
  {/each}
{/if}
