<!-- Serves the coach and the trainee right after the round: how it went, where it broke, what it was like. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { api, ask } from '../lib/api/client'
  import { clockTime, count, countdown, day, markNames, ms, percent, side, signedMs, verdicts } from '../lib/format'
  import { session } from '../lib/session.svelte'
  import ErrorStrip from '../lib/trace/ErrorStrip.svelte'
  import { faced, timelineMoves } from '../lib/trace/geometry'
  import SwingTrace from '../lib/trace/SwingTrace.svelte'
  import { editorOf } from '../lib/drills/doc'
  import Notice from '../lib/ui/Notice.svelte'

  let { params }: { params: { id: string } } = $props()
  const review = createQuery(() => ({
    queryKey: ['review', params.id],
    queryFn: () => ask(api.GET('/api/runs/{id}/review', { params: { path: { id: params.id } } })),
  }))
  const r = $derived(review.data)
  const client = useQueryClient()
  let problem = $state('')
  async function remove(removed: boolean) {
    problem = ''
    try {
      const path = { path: { id: params.id } }
      await (removed
        ? ask(api.POST('/api/runs/{id}/remove', { params: path }))
        : ask(api.POST('/api/runs/{id}/restore', { params: path })))
      await client.invalidateQueries()
    } catch (e) {
      problem = `${(e as Error).message} Nothing was changed.`
    }
  }
  let picked = $state<number | null>(null)
  // Opens where it first broke: that is what one wants to see.
  const chosen = $derived(picked ?? Math.max(0, r?.strikes.findIndex((s) => s.verdict !== 'clean') ?? 0))
  const strikes = $derived(r?.strikes.map((s, i) => ({ i, ...s, ...faced(s) })) ?? [])
  const centre = $derived(strikes[chosen]?.at ?? 0)
  const reach = $derived((r?.run.cycle.return ?? 0.5) * (r?.run.cycle.starts.length ? 0.55 : 1.7)) // a combination, or a few strikes
  const move = (by: number) => (picked = Math.min(strikes.length - 1, Math.max(0, chosen + by)))
  const roundClock = (at: number) => countdown(Math.max(0, at - (r?.run.timeline.start ?? 0) / 1e6))
</script>

<svelte:head><title>Review · Melodromos</title></svelte:head>
{#if review.isError}
  <Notice title="This round could not be read" text={review.error.message} again={() => review.refetch()}
    ><a class="button" href="#/log">To the log</a></Notice>
{:else if !r}
  <Notice title="Judging the round…" />
{:else}
  <p class="label">
    {r.run.trainee.name}, {r.run.drillName} on the {r.run.rigName}{r.startedAt
      ? `, ${day(r.startedAt, r.zone)} at ${clockTime(r.startedAt, r.zone)}`
      : ''}{r.ended === 'stopped'
      ? `, stopped at ${roundClock(r.untilUs / 1e6)}`
      : r.ended === 'vanished'
        ? `, screen lost at ${roundClock(r.untilUs / 1e6)}`
        : ''}
  </p>
  {#if r.run.removed}<p class="my-2 flex flex-wrap items-center gap-3 border-l-4 border-ink pl-3" role="status">
      <span
        ><strong>Removed from the log.</strong> It moves neither the ladder nor what is known of {r.run.trainee
          .name}.</span
      ><button class="button" onclick={() => remove(false)}>Bring it back</button>
    </p>{/if}
  {#if problem}<p class="my-2 border-l-4 border-ink pl-3 font-semibold" role="alert">{problem}</p>{/if}
  <div class="grid items-start gap-x-10 gap-y-4 lg:grid-cols-[1fr_auto]">
    <div>
      <h1 class="mt-1 text-4xl leading-tight font-extrabold tracking-tight">{r.headline}</h1>
      <div class="mt-3 grid gap-x-10 gap-y-3 md:grid-cols-2">
        <div>
          <p class="mb-1 text-soft">
            {r.keptBy === 'beat'
              ? 'The beat set the time: each strike is held against its planned moment.'
              : r.onScreen
                ? 'The bag on the screen set the time: each strike is due when it came back from the one before.'
                : 'The bag set the time: each strike is due when it came back from the one before, as hard as that one was.'}
          </p>
          <ul class="max-w-prose space-y-1 text-lg">
            {#each r.remarks as remark (remark)}<li>{remark}</li>{/each}
          </ul>
          {#if r.predicted != null && r.summary.counts && r.summary.hits > 0}<p class="mt-1 text-soft">
              {percent(r.predicted)} were predicted to meet the bag by the models; {percent(r.summary.share)} did.
            </p>{/if}
          {#if r.judged && !r.summary.counts && !r.run.removed}<p class="mt-1 text-soft">
              It was ended early, so it moves neither the ladder nor what is known of {r.run.trainee.name}.
            </p>{/if}
        </div>
        {#if r.recap.length > 0}<div>
            <h2 class="label">Next time, watch</h2>
            <ul class="list-[square] pl-5">
              {#each r.recap as line (line)}<li>{line}</li>{/each}
            </ul>
          </div>{/if}
      </div>
    </div>
    <div class="flex flex-wrap gap-2 lg:w-80 lg:justify-end">
      {#if r.run.assignmentId}<a class="button main" href="#/run/{r.run.assignmentId}">Run it again</a><a
          class="button"
          href="#{editorOf(r.run.doc, r.run.assignmentId)}">Change one thing</a
        >{/if}<a class="button quiet" href="#/log">To the log</a>{#if !r.run.removed}<button
          class="button quiet"
          onclick={() => remove(true)}>Remove from the log</button
        >{/if}
    </div>
  </div>

  {#if r.marks.length > 0}<p class="mt-3">
      Marked: {Object.entries(Object.groupBy(r.marks, (m) => m.kind))
        .map(
          ([k, list]) => `${count(list?.length ?? 0, markNames[k]?.toLowerCase() ?? k, markNames[k]?.toLowerCase())}`,
        )
        .join(', ')}.
    </p>{/if}

  {#if strikes.length > 0 && r.judged && r.hits.length > 0}
    <section class="mt-8" aria-labelledby="every">
      <h2 id="every" class="text-xl font-bold">
        Every strike{r.keptBy === 'bag' ? ' by the bag as it was struck' : ''}, early above and late below
      </h2>
      <p class="text-sm text-soft">
        {r.summary.clean} clean, {r.early} early, {r.late} late, {r.missed} missed, {r.wrongHand} with the other hand, {r.extra}
        extra. Choose one to see it on the swing; arrow keys go from strike to strike.
      </p>
      <ErrorStrip
        {strikes}
        marks={r.marks}
        from={r.run.timeline.start / 1e6}
        to={Math.max(r.untilUs / 1e6, strikes[strikes.length - 1]?.at ?? 0)}
        {chosen}
        onchoose={(i) => (picked = i)}
        onmove={move} />
    </section>
    <section class="mt-4" aria-label="The swing around the chosen strike">
      <div class="flex flex-wrap items-center gap-3">
        <span class="flex gap-2">
          <button class="button" onclick={() => move(-1)} aria-label="Strike before">←</button>
          <button class="button" onclick={() => move(1)} aria-label="Strike after">→</button>
        </span>
        <p class="font-semibold" aria-live="polite">
          Strike {chosen + 1} at {roundClock(centre)}, {strikes[chosen]?.hand}: {verdicts[
            strikes[chosen]?.verdict ?? 'missed'
          ]}{strikes[chosen]?.error != null ? `, ${signedMs(strikes[chosen].error)}` : ''}
        </p>
      </div>
      <div class="mt-2 bg-sheet py-2">
        <SwingTrace
          cycle={r.run.cycle}
          {strikes}
          hits={r.hits}
          tempo={r.run.tempo}
          moves={timelineMoves(r.run.timeline.events)}
          from={centre - reach}
          to={centre + reach}
          {chosen}
          height={300} />
      </div>
      <p class="mt-1 text-sm text-soft">
        Filled disc: clean. Open disc: early or late. Dashed: missed. Ring: where the hit really fell{r.offsetKept ||
        r.keptBy === 'bag'
          ? ''
          : ', the steady offset taken off'}. Cross: a hit that belongs to no strike. Shaded: the window, {ms(
          strikes[chosen]?.window ?? 0,
        )} at this strike.
      </p>
    </section>
    <div class="mt-8 grid gap-10 md:grid-cols-3">
      <section class="seam pt-3">
        <h2 class="font-bold">Hands</h2>
        <table class="mt-1 w-full text-left">
          <thead class="text-sm text-soft"
            ><tr
              ><th class="font-semibold">Hand</th><th class="text-right font-semibold">Clean</th><th
                class="text-right font-semibold">Mean</th
              ><th class="text-right font-semibold">Scatter</th></tr
            ></thead>
          <tbody
            >{#each r.hands as h (h.hand)}<tr class="border-b border-rope"
                ><td class="py-1.5 capitalize"
                  >{h.hand} <span class="text-soft normal-case">({side(h.hand, r.run.trainee.stance)})</span></td
                ><td class="text-right">{percent(h.clean / h.planned)}</td><td class="text-right"
                  >{h.bias == null ? '–' : signedMs(h.bias)}</td
                ><td class="text-right">{h.spread == null ? '–' : ms(h.spread)}</td></tr
              >{/each}</tbody>
        </table>
        {#if r.clock != null && r.motor != null}<p class="mt-2 text-sm text-soft">
            Of the scatter, {ms(r.clock)} is the inner clock's and {ms(r.motor)} the hand's (modelled).
          </p>{/if}
      </section>
      <section class="seam pt-3">
        <h2 class="font-bold">Where it broke</h2>
        {#if r.breaks.length === 0}<p class="mt-1 text-soft">No row of clean strikes was broken.</p>{/if}
        <ul class="mt-1 max-h-64 overflow-y-auto">
          {#each r.breaks as b (b.at)}
            <li class="border-b border-rope py-1.5">
              <button
                class="w-full text-left hover:underline"
                onclick={() => (picked = strikes.findIndex((s) => s.at === b.at))}
                >{roundClock(b.at)}
                <span class="text-soft"
                  >after {b.run} clean: {verdicts[b.verdict]}{b.recover != null
                    ? `, back in ${b.recover.toFixed(1)} s`
                    : ''}</span
                ></button>
            </li>
          {/each}
        </ul>
      </section>
      <section class="seam pt-3">
        <h2 class="font-bold">Pace by 15 s</h2>
        <table class="mt-1 w-full text-left">
          <thead class="text-sm text-soft"
            ><tr
              ><th class="font-semibold">From</th><th class="text-right font-semibold">Hits</th><th
                class="text-right font-semibold">A minute</th
              ></tr
            ></thead>
          <tbody
            >{#each r.paces as p (p.from)}<tr class="border-b border-rope"
                ><td class="py-1.5">{roundClock(p.from)}</td><td class="text-right">{p.hits}</td><td class="text-right"
                  >{p.tempo == null ? '–' : p.tempo.toFixed(0)}</td
                ></tr
              >{/each}</tbody>
        </table>
        <p class="mt-2 text-sm text-soft">
          {#if r.inbound != null}{percent(r.inbound)} of the hits met the bag on its way in.
          {/if}{#if r.drift != null}Drift {signedMs(r.drift)} a minute.{/if}{#if r.tempo != null && r.asked != null}
            {r.tempo.toFixed(0)} strikes a minute held; {r.asked.toFixed(0)} were asked.{/if}
        </p>
      </section>
    </div>
  {/if}
  {#if session.me?.demo}<p class="seam mt-8 pt-3 text-sm text-soft">
      Made-up people, and hits from the simulated sensor: planned times are modelled, hits measured, windows modelled.
    </p>{/if}
{/if}
