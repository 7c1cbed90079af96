<!-- Serves the coach at the desk and at the door: who trains here, where each stands, and what each does today. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { directions } from '../lib/labels.gen'
  import { toast } from 'svelte-sonner'
  import { push, replace, router } from 'svelte-spa-router'
  import { api, ask, type Schemas } from '../lib/api/client'
  import { kinds } from '../lib/bench/kinds.svelte'
  import Unsaved from '../lib/drafts/Unsaved.svelte'
  import { dayNames, percent } from '../lib/format'
  import { bands } from '../lib/labels.gen'
  import Archived from '../lib/people/Archived.svelte'
  import Form from '../lib/people/Form.svelte'
  import Predictions from '../lib/people/Predictions.svelte'
  import RungStrip from '../lib/people/RungStrip.svelte'
  import { take } from '../lib/people/take'
  import Button from '../lib/ui/Button.svelte'
  import Notice from '../lib/ui/Notice.svelte'

  const people = createQuery(() => ({ queryKey: ['trainees'], queryFn: () => ask(api.GET('/api/trainees')) }))
  const whole = createQuery(() => ({ queryKey: ['class'], queryFn: () => ask(api.GET('/api/class')) }))
  const calendar = createQuery(() => ({ queryKey: ['calendar'], queryFn: () => ask(api.GET('/api/calendar')) }))
  const weeks = $derived(
    calendar.data && calendar.data.some((d) => d.people.length > 0)
      ? [calendar.data.slice(0, 7), calendar.data.slice(7)]
      : [],
  )
  const proposed = $derived(new Map((whole.data ?? []).map((p) => [p.traineeId, p])))
  const asked = $derived(new URLSearchParams(router.querystring ?? '').get('draft'))
  let adding = $state(false)
  $effect(() => {
    if (asked) adding = true // somebody new was left unsaved
  })
  function leave() {
    adding = false
    void replace('/people')
  }
  let busy = $state('')

  async function run(p: Schemas['Proposal']) {
    busy = p.traineeId
    try {
      await take(p, 'accept')
    } catch (e) {
      toast((e as Error).message)
    }
    busy = ''
  }
</script>

<svelte:head><title>People · Melodromos</title></svelte:head>
<div class="flex flex-wrap items-end justify-between gap-4">
  <h1 class="text-3xl font-extrabold">People</h1>
  <Button main onclick={() => (adding = true)}>Add a person</Button>
</div>
{#if adding}
  <Form onsaved={(t) => void push(`/people/${t.id}`)} onleave={leave} />
{:else}
  <Unsaved sort="people" />
{/if}
{#if people.isError}
  <Notice title="The people could not be read" text={people.error.message} again={() => people.refetch()} />
{:else if people.data?.length === 0 && !adding}
  <Notice title="Nobody yet." text="Add somebody who trains here; a name and a stance will do." />
{:else}
  {#if whole.isError}<p class="mt-4 border-l-4 border-ink pl-3 font-semibold" role="alert">
      What comes next could not be worked out: {whole.error.message}
    </p>{/if}
  <ul class="seam mt-6">
    {#each people.data ?? [] as t (t.id)}
      {@const p = proposed.get(t.id)}
      <li
        class="grid items-center gap-x-6 gap-y-2 border-b border-rope py-3 md:min-h-[4.65rem] md:grid-cols-[13rem_11rem_1fr_auto]">
        <div>
          <a class="font-bold" href="#/people/{t.id}">{t.name}</a>
          <p class="text-sm text-soft">
            {t.stance === 'southpaw' ? 'Southpaw' : 'Orthodox'}, {bands[t.band]?.toLowerCase()}{t.ageBand !== 'adult'
              ? `, ${t.ageBand}`
              : ''}
          </p>
        </div>
        {#if p}
          <a
            class="no-underline"
            href="#/people/{t.id}/ladder/{p.kind}"
            aria-label="The ladder of {t.name} on the {kinds.of(p.kind).name}: {p.rigName}, {kinds.of(p.kind).name}"
            ><RungStrip of={p.of} standing={p.standing} at={p.index} /><span class="text-sm text-soft"
              >{p.rigName}, {kinds.of(p.kind).name}</span
            ></a>
          <div>
            <p>
              <b>{p.name}</b>
              <span class="text-soft"
                >{directions[p.move]}{p.level != null ? `, level ${p.level.toFixed(1)}` : ''}{p.clean != null
                  ? `, expect ${percent(p.clean)} clean`
                  : ''}</span>
            </p>
            <p class="text-sm text-soft">{p.why}</p>
          </div>
          <Button
            main={!p.barred}
            disabled={!!p.barred || busy === t.id}
            onclick={() => run(p)}
            aria-label="Run {p.name} with {t.name}">Run</Button>
        {:else if whole.isPending}
          <p class="text-sm text-soft md:col-span-2">Working out what comes next…</p>
        {:else if whole.data}
          <p class="text-sm text-soft md:col-span-2">No bag hangs in this gym yet. <a href="#/bags/new">Add one</a>.</p>
        {/if}
      </li>
    {/each}
  </ul>
  <!-- What stands below comes once the list above has its height. -->
  {#if weeks.length > 0 && people.data && !whole.isPending}
    <section class="mt-8" aria-labelledby="weeks">
      <h2 id="weeks" class="text-xl font-bold">This week and the next</h2>
      {#each weeks as week, k (k)}
        <ol class="mt-2 grid gap-x-2 gap-y-1 sm:grid-cols-7">
          {#each week as d (d.day)}
            <li
              class="border-t-4 pt-1 {d.today ? 'border-ink' : 'border-edge'} {d.people.length === 0
                ? 'max-sm:hidden'
                : ''}">
              <p class="label">{dayNames[new Date(`${d.day}T12:00`).getDay()]} {Number(d.day.slice(8))}</p>
              {#each d.people as m (m.traineeId)}<p class="text-sm">
                  <a href="#/people/{m.traineeId}">{m.name.split(' ')[0]}</a>
                  {m.done > 0 ? (m.rounds > 0 ? `${m.done} of ${m.rounds}` : m.done) : m.rounds}{m.light
                    ? ', light'
                    : ''}
                </p>{/each}
            </li>
          {/each}
        </ol>
      {/each}
      <p class="mt-1 text-sm text-soft">Rounds done and planned. Plan a person’s weeks on their page.</p>
    </section>
  {/if}
  {#if people.data && !whole.isPending && !calendar.isPending}
    <Predictions />
    <Archived />
  {/if}
{/if}
