<!-- Serves the coach at the desk, and on paper parents and a fighter's file: how somebody comes on, and what to work at. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask } from '../../lib/api/client'
  import { count, lower, shortDay } from '../../lib/format'
  import Files from '../../lib/files/Files.svelte'
  import { personFiles } from '../../lib/files/items'
  import FaultTally from '../../lib/log/FaultTally.svelte'
  import TrendChart from '../../lib/log/TrendChart.svelte'
  import WeekBars from '../../lib/log/WeekBars.svelte'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'

  let { params }: { params: { id: string } } = $props()
  const at = $derived({ params: { path: { id: params.id } } })
  const person = createQuery(() => ({
    queryKey: ['trainee', params.id],
    queryFn: () => ask(api.GET('/api/trainees/{id}', at)),
  }))
  const progress = createQuery(() => ({
    queryKey: ['progress', params.id],
    queryFn: () => ask(api.GET('/api/trainees/{id}/progress', at)),
  }))
  const p = $derived(progress.data)
  const name = $derived(person.data?.name ?? '')
  const bags = $derived(p?.trends.filter((t) => t.of === 'bag') ?? [])
  const drills = $derived(p?.trends.filter((t) => t.of === 'drill' && t.points.length >= 4) ?? [])
  const best = $derived(p?.streaks[0])
  const today = new Intl.DateTimeFormat('en-GB', { timeZone: session.zone, dateStyle: 'long' }).format(new Date())
  const failed = $derived(person.error ?? progress.error)
</script>

<svelte:head><title>{name || 'Progress'} · Progress · Melodromos</title></svelte:head>
{#if failed}
  <Notice
    title="The progress could not be read"
    text={failed.message}
    again={() => {
      void person.refetch()
      void progress.refetch()
    }}>
    <Button href="#/people/{params.id}">To the person</Button>
  </Notice>
{:else if !p || !person.data}
  <Notice title="Reading the log…" />
{:else}
  <article class="page">
    <header class="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
      <div>
        <p class="label">Progress of <b class="text-base text-ink">{name}</b>, {session.me?.gym}, {today}</p>
        <h1 class="mt-1 text-4xl leading-tight font-extrabold tracking-tight">
          {p.rounds === 0 ? 'No round yet.' : bags[0] ? `${bags[0].name}: ${lower(bags[0].said)}` : p.regular}
        </h1>
        {#if p.rounds > 0}
          <p class="mt-1 max-w-prose text-lg">
            {p.regular}
            {count(p.rounds, 'round')}, {p.strikes} strikes, {Math.round(p.minutes)} minutes in all.
            {#if best}Best: {best.longest} in a row on the {best.bagName}, {shortDay(best.at, session.zone)}.{/if}
          </p>
          {#if p.load}<p class="mt-1 max-w-prose border-l-4 border-ink pl-3">{p.load}</p>{/if}
        {/if}
      </div>
      <div class="flex flex-wrap gap-2 print:hidden">
        <Button main onclick={() => print()}>Print this page</Button>
        <Files of={name} items={personFiles(params.id).filter((i) => i.file)} />
        <Button quiet href="#/people/{params.id}">To {name}</Button>
      </div>
    </header>

    {#if p.rounds > 0}
      <section class="seam mt-6 pt-3" aria-labelledby="work">
        <h2 id="work" class="text-xl font-bold">What to work at</h2>
        <FaultTally faults={p.faults.slice(0, 6)} />
      </section>

      <section class="seam mt-6 pt-3" aria-labelledby="bags">
        <h2 id="bags" class="text-xl font-bold">Met the bag, by bag</h2>
        <div class="mt-2 grid gap-6 md:grid-cols-2">
          {#each bags as t (t.key)}
            <div>
              <h3 class="font-bold">{t.name}</h3>
              <TrendChart trend={t} />
            </div>
          {/each}
          <p class="self-end text-sm text-soft">
            Each dot is a round, its line the margin of error (two standard errors either way); the band is how sure the
            line is. Measured, but for rounds with times alone, which are estimated.
          </p>
        </div>
      </section>

      <div class="mt-6 grid gap-8 lg:grid-cols-2">
        <section class="seam pt-3" aria-labelledby="weeks">
          <h2 id="weeks" class="text-xl font-bold">Rounds a week</h2>
          <div class="mt-2"><WeekBars weeks={p.weeks} /></div>
        </section>
        <section class="seam pt-3" aria-labelledby="where">
          <h2 id="where" class="text-xl font-bold">On which bags</h2>
          <table class="mt-1 w-full text-left">
            <thead class="text-sm text-soft">
              <tr>
                <th class="font-semibold">Bag</th>
                <th class="text-right font-semibold">Rounds</th>
                <th class="text-right font-semibold">Strikes</th>
                <th class="text-right font-semibold">Minutes</th>
                <th class="text-right font-semibold">Best in a row</th>
              </tr>
            </thead>
            <tbody>
              {#each p.exposure as e (e.bag)}
                {@const s = p.streaks.find((x) => x.bag === e.bag)}
                <tr class="border-b border-rope">
                  <td class="py-1.5">{e.bagName}</td>
                  <td class="text-right">{e.rounds}</td>
                  <td class="text-right">{e.strikes || '–'}</td>
                  <td class="text-right">{Math.round(e.minutes)}</td>
                  <td class="text-right"
                    >{#if s}<a href="#/review/{s.run}">{s.longest}</a>, {shortDay(s.at, session.zone)}{:else}–{/if}</td>
                </tr>
              {/each}
            </tbody>
          </table>
        </section>
      </div>

      {#if drills.length > 0}
        <section class="seam mt-6 pt-3" aria-labelledby="drills">
          <h2 id="drills" class="text-xl font-bold">Met the bag, by drill</h2>
          <div class="mt-2 grid gap-6 {drills.length > 1 ? 'md:grid-cols-2' : ''}">
            {#each drills as t (t.key)}
              <div>
                <h3 class="font-bold">{t.name}</h3>
                <TrendChart trend={t} />
              </div>
            {/each}
          </div>
        </section>
      {/if}
    {/if}
  </article>
{/if}

<style>
  @media print {
    .page {
      font-size: 11pt;
    }
    .page h1 {
      font-size: 1.5rem;
    }
    .page .seam {
      margin-top: 1rem;
    }
    .page section {
      break-inside: avoid;
    }
  }
</style>
