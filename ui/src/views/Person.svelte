<!-- Serves the coach at the desk: one person, what comes next on each bag, what they can do, what they are spared, their weeks. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { toast } from 'svelte-sonner'
  import { api, ask, type Schemas } from '../lib/api/client'
  import { kindName, kinds } from '../lib/bench/kinds.svelte'
  import { ability, bands, dayIn, dayNames, figureNames, length, percent, shortDay, sure } from '../lib/format'
  import Form from '../lib/people/Form.svelte'
  import PutAway from '../lib/people/PutAway.svelte'
  import RungStrip from '../lib/people/RungStrip.svelte'
  import Spared from '../lib/people/Spared.svelte'
  import { moves, take } from '../lib/people/take'
  import { session } from '../lib/session.svelte'
  import LogRows from '../lib/ui/LogRows.svelte'
  import Notice from '../lib/ui/Notice.svelte'

  let { params }: { params: { id: string } } = $props()
  const client = useQueryClient()
  const page = createQuery(() => ({
    queryKey: ['person', params.id],
    queryFn: () => ask(api.GET('/api/trainees/{id}/page', { params: { path: { id: params.id } } })),
  }))
  const p = $derived(page.data)
  const t = $derived(p?.trainee)
  let editing = $state(false)
  let busy = $state(false)
  const next = $derived(p?.next && !p.next.barred ? p.next : undefined)
  const origins: Record<string, string> = {
    assumed: 'assumed, by the skill',
    stated: 'stated',
    tested: 'tested',
    rounds: 'from rounds',
  }
  const weeks = $derived(
    Object.entries(Object.groupBy(p?.sessions ?? [], (s) => s.week)).map(([week, days]) => ({
      week,
      days: days ?? [],
    })),
  )
  const today = dayIn(session.zone)

  async function run(b: Schemas['Proposal'], choice: 'accept' | 'change' = 'accept') {
    busy = true
    try {
      await take(b, choice)
      await client.invalidateQueries()
    } catch (e) {
      toast((e as Error).message)
    }
    busy = false
  }
</script>

<svelte:head><title>{t?.name ?? 'Person'} · Melodromos</title></svelte:head>
{#if page.isError}
  <Notice title="This person could not be read" text={page.error.message} again={() => page.refetch()}
    ><a class="button" href="#/people">To the people</a></Notice>
{:else if !p || !t}
  <Notice title="Reading…" />
{:else}
  <div class="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
    <p class="label">
      <b class="text-base text-ink">{t.name}</b>{t.archived ? ' (archived)' : ''}, {t.stance === 'southpaw'
        ? 'southpaw'
        : 'orthodox'}, {bands[t.band]?.toLowerCase()}{t.ageBand !== 'adult' ? `, ${t.ageBand}` : ''}{t.height
        ? `, ${length(t.height, session.units)} tall`
        : ''}{t.goals ? `. ${t.goals}` : ''}
    </p>
    <div class="flex flex-wrap gap-2">
      <a class="button" href="#/people/{t.id}/tests">Tests</a><button
        class="button"
        onclick={() => (editing = !editing)}>Change</button
      ><a class="button quiet" href="#/people">Everybody</a>
    </div>
  </div>
  {#if editing}
    <Form
      person={t}
      whole
      onsaved={() => {
        editing = false
        void client.invalidateQueries()
      }}
      onleave={() => (editing = false)} />
    <PutAway person={t} />
  {:else if next}
    <section class="mt-1 grid items-end gap-x-10 gap-y-4 lg:grid-cols-[1fr_auto]">
      <div>
        <h1 class="text-4xl leading-tight font-extrabold tracking-tight">{next.name}, on the {next.rigName}.</h1>
        <p class="mt-2 max-w-prose text-lg">{next.why} {next.note}</p>
        <div class="mt-4 flex flex-wrap gap-2">
          <button class="button main !px-8 !text-lg" disabled={busy} onclick={() => run(next)}>Run it</button><button
            class="button"
            disabled={busy}
            onclick={() => run(next, 'change')}>Change it first</button>
        </div>
      </div>
      <dl class="flex gap-8">
        {#if next.clean != null}<div>
            <dt class="label">clean, expected</dt>
            <dd class="figure text-7xl">{Math.round(100 * next.clean)}<span class="text-3xl"> %</span></dd>
          </div>{/if}
        <div>
          <dt class="label">streak to reach</dt>
          <dd class="figure text-7xl">{next.target}</dd>
        </div>
        {#if next.level != null}<div>
            <dt class="label">level</dt>
            <dd class="figure text-7xl">{next.level.toFixed(1)}</dd>
          </div>{/if}
      </dl>
    </section>
  {:else if p.bags.length > 0}
    <h1 class="mt-1 text-4xl leading-tight font-extrabold tracking-tight">Nothing today.</h1>
    <p class="mt-2 max-w-prose text-lg">{p.bags[0]?.why}</p>
  {:else}
    <Notice title="No bag hangs here yet." text="What comes next is worked out for the bags of this gym."
      ><a class="button main" href="#/bags/new">Add a bag</a></Notice>
  {/if}

  {#if !editing}
    <Spared trainee={t} cautions={p.cautions} />
    {#if p.bags.length > 0}
      <section class="seam mt-8 pt-3" aria-labelledby="bags">
        <h2 id="bags" class="text-xl font-bold">On each bag</h2>
        <ul class="mt-1">
          {#each p.bags as b (b.kind)}
            <li class="grid items-center gap-x-6 gap-y-1 border-b border-rope py-2.5 sm:grid-cols-[11rem_1fr_auto]">
              <a
                class="no-underline"
                href="#/people/{t.id}/ladder/{b.kind}"
                aria-label="The ladder on the {kinds.of(b.kind).name}"
                ><RungStrip of={b.of} standing={b.standing} at={b.index} /><span class="text-sm text-soft"
                  >{kindName(b.kind)}, {b.rigName}</span
                ></a>
              <div>
                <p>
                  <b>{b.name}</b>
                  <span class="text-soft"
                    >{moves[b.move]}{b.level != null ? `, level ${b.level.toFixed(1)}` : ''}{b.clean != null
                      ? `, ${percent(b.clean)} clean expected`
                      : ''}</span>
                </p>
                <p class="text-sm text-soft">{b.why}</p>
              </div>
              <button
                class="button"
                disabled={!!b.barred || busy}
                onclick={() => run(b)}
                aria-label="Run {b.name} on the {b.rigName}">Run it</button>
            </li>
          {/each}
        </ul>
      </section>
    {/if}
    <div class="mt-8 grid gap-10 lg:grid-cols-2">
      <section class="seam pt-3" aria-labelledby="can">
        <h2 id="can" class="text-xl font-bold">What {t.name.split(' ')[0]} can do</h2>
        <table class="mt-1 w-full text-left">
          <thead class="text-sm text-soft"
            ><tr
              ><th class="font-semibold">Figure</th><th class="text-right font-semibold">Now</th><th
                class="pl-4 font-semibold">Where it comes from</th
              ></tr
            ></thead>
          <tbody>
            {#each p.figures as f (f.figure)}
              <tr class="border-b border-rope align-baseline">
                <td class="py-1.5">{figureNames[f.figure]}</td>
                <td class="text-right font-bold whitespace-nowrap">{ability(f.figure, f.value, session.units)}</td>
                <td class="pl-4 text-sm text-soft"
                  >{origins[f.origin]}{f.found > 0
                    ? `, ${f.found === 1 ? 'once' : `${f.found} times`}`
                    : ''}{#if f.found > 0}, {sure(
                      f.figure,
                      f.spread,
                      session.units,
                    )}{/if}{#each f.bags as b (b.kind)}{#if f.bags.length > 1 || f.figure === 'bias'}; {kinds.of(b.kind)
                        .name}
                      {ability(f.figure, b.value, session.units)}{/if}{/each}</td>
              </tr>
            {/each}
          </tbody>
        </table>
        {#if p.figures.some((f) => f.trail.length > 0)}
          <details class="mt-2">
            <summary class="cursor-pointer font-semibold">How they were found</summary>
            <ul class="mt-1 max-h-64 overflow-y-auto text-sm">
              {#each p.figures
                .flatMap((f) => f.trail.map((x) => ({ ...x, figure: f.figure })))
                .toSorted((a, b) => b.at.localeCompare(a.at)) as x, i (i)}
                <li class="grid grid-cols-[6rem_1fr_auto] gap-x-3 border-b border-rope py-1">
                  <span class="text-soft">{shortDay(x.at, session.zone)}</span><span
                    >{figureNames[x.figure]}{x.floor ? ', at least' : ''} <span class="text-soft">{x.note}</span></span
                  ><span class="text-right whitespace-nowrap"
                    ><b>{ability(x.figure, x.value, session.units)}</b>
                    <span class="text-soft">{sure(x.figure, x.spread, session.units)}</span></span>
                </li>
              {/each}
            </ul>
          </details>
        {/if}
        <p class="mt-2 text-sm text-soft">
          Each figure weighs what was assumed, tested and heard in rounds by how sure it is and how old. <a
            href="#/people/{t.id}/tests">Test some of them</a
          >.
        </p>
      </section>
      <section class="seam pt-3" aria-labelledby="last">
        <h2 id="last" class="text-xl font-bold">Last rounds</h2>
        {#if p.recent.length === 0}<p class="mt-2 text-soft">No round yet.</p>{:else}<LogRows
            rows={p.recent.slice(0, 8)}
            zone={session.zone}
            dated />{/if}
        {#if t.notes}<p class="mt-3 text-sm">{t.notes}</p>{/if}
      </section>
    </div>
    <section class="seam mt-8 pt-3" aria-labelledby="weeks">
      <h2 id="weeks" class="text-xl font-bold">Weeks</h2>
      {#if weeks.length === 0}
        <p class="mt-1 text-soft">
          They come as they come. <button class="underline" onclick={() => (editing = true)}>Plan the weeks</button>: a
          round more at a time, every fourth week light.
        </p>
      {:else}
        <ol class="mt-2 flex gap-2 overflow-x-auto pb-2">
          {#each weeks as w (w.week)}
            <li
              class="min-w-24 flex-1 border-t-4 {w.days.some((d) => d.day <= today && d.done > 0)
                ? 'border-ink'
                : 'border-rope'} pt-1">
              <p class="label">Week {w.week}{w.days[0]?.light ? ', light' : ''}</p>
              {#each w.days as d (d.day)}
                <p
                  class="text-sm {d.day < today && d.done === 0 ? 'text-soft line-through' : ''}"
                  title="{d.why}: {d.emphasis.join(', ')}">
                  <b>{dayNames[new Date(`${d.day}T12:00`).getDay()]} {Number(d.day.slice(8))}</b>
                  {d.done > 0 ? `${d.done} of ${d.rounds}` : `${d.rounds} rounds`}
                </p>
              {/each}
            </li>
          {/each}
        </ol>
        {@const coming = p.sessions.find((s) => s.day >= today)}
        {#if coming}<p class="mt-1 text-sm text-soft">
            Next, {shortDay(`${coming.day}T12:00:00Z`, 'UTC')}: {coming.emphasis.join('; ')}.
          </p>{/if}
      {/if}
    </section>
  {/if}
{/if}
