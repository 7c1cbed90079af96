<!-- Every strike of a round over its time, and the swing around the one that is chosen. -->
<script lang="ts">
  import { onDestroy } from 'svelte'
  import type { Schemas } from '../../lib/api/client'
  import Dial from '../../lib/dial/Dial.svelte'
  import { countdown, percent } from '../../lib/format'
  import { verdicts } from '../../lib/labels.gen'
  import ErrorStrip from '../../lib/trace/ErrorStrip.svelte'
  import { faced, timelineMoves, timelineStrikes } from '../../lib/trace/geometry'
  import { handWord } from '../../lib/trace/hands'
  import SwingTrace from '../../lib/trace/SwingTrace.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Icon from '../../lib/ui/Icon.svelte'
  import More from '../../lib/ui/More.svelte'
  import { Listen } from './listen.svelte'
  import Tables from './Tables.svelte'

  type Props = { r: Schemas['Review']; busy: boolean; onsay: (strike: number, verdict: Verdict) => void }
  type Verdict = Schemas['Said']['verdict']
  let { r, busy, onsay }: Props = $props()
  const listen = new Listen()
  onDestroy(() => listen.stop())
  const says: Verdict[] = ['clean', 'early', 'late', 'wrongHand', 'missed']
  let picked = $state<number | null>(null)
  // Opens where it first broke: that is what one wants to see.
  const chosen = $derived(
    picked ??
      Math.max(
        0,
        r.strikes.findIndex((s) => s.verdict !== 'clean'),
      ),
  )
  const strikes = $derived(r.strikes.map((s, i) => ({ i, text: planned[i]?.text, ...s, ...faced(s) })))
  const planned = $derived(timelineStrikes([...r.run.timeline.events, ...(r.run.timeline.beyond ?? [])]))
  const moves = $derived(timelineMoves(r.run.timeline.events))
  const struck = $derived(
    r.strikes.flatMap((s, i) => (s.error == null ? [] : [{ at: s.at, hand: s.hand, i, off: s.error }])),
  )
  const strike = $derived(strikes[chosen])
  const centre = $derived(strike?.at ?? 0)
  // Around it: a whole combination, or a few strikes.
  const reach = $derived(r.run.cycle.return * (r.run.cycle.starts.length > 0 ? 0.55 : 1.7))
  const move = (by: number) => (picked = Math.min(strikes.length - 1, Math.max(0, chosen + by)))
  const from = $derived(r.run.timeline.start / 1e6)
  const clock = (at: number) => countdown(Math.max(0, at - from))
  const told = $derived(
    !strike
      ? ''
      : `Strike ${chosen + 1} at ${clock(centre)}, ${handWord(strike.hand, r.run.trainee.stance) || 'either hand'}: ${strike.told}.`,
  )
  const shifted = $derived(r.offsetKept || r.keptBy === 'bag' ? '' : ', the steady offset taken off')
</script>

<section class="mt-8" aria-labelledby="every">
  <h2 id="every" class="text-xl font-bold">
    Every strike{r.keptBy === 'bag' ? ' by the bag’s own time' : ''}: early above, late below
  </h2>
  <p class="text-sm text-soft">
    {r.summary.clean} clean, {r.early} early, {r.late} late, {r.missed} missed, {r.wrongHand} with the other hand,
    {r.extra} extra{r.harmless > 0 ? `, ${r.harmless} not scored` : ''}. Pick one to see it on the swing; arrow keys
    step through them.
  </p>
  <div class="mt-2 grid items-center gap-x-8 gap-y-4 lg:grid-cols-[26rem_1fr]">
    <div class="mx-auto aspect-[5/4] w-full max-w-md">
      <Dial
        cycle={r.run.cycle}
        {planned}
        {moves}
        hits={struck}
        tempo={r.run.tempo}
        stance={r.run.trainee.stance}
        whose="{r.run.trainee.name}, {r.run.drillName}: {percent(
          r.summary.share,
        )} clean, {r.early} early, {r.late} late, {r.missed} missed."
        said={percent(r.summary.share)}
        under="clean" />
      <p class="text-center text-sm text-soft">Each hit beside its strike; the later in the round, the further out.</p>
    </div>
    <div class="min-w-0">
      <ErrorStrip
        {strikes}
        marks={r.marks}
        seen={Object.fromEntries(r.run.sees.map((s) => [s.kind, s.name]))}
        {from}
        to={Math.max(r.untilUs / 1e6, strikes.at(-1)?.at ?? 0)}
        {chosen}
        told={strike?.told ?? ''}
        onchoose={(i) => (picked = i)}
        onmove={move} />
    </div>
  </div>
</section>
<section class="mt-4" aria-label="The swing around the chosen strike">
  <div class="flex flex-wrap items-center gap-3">
    <span class="flex gap-2">
      <Button onclick={() => move(-1)} aria-label="Strike before"><Icon name="left" size={20} /></Button>
      <Button onclick={() => move(1)} aria-label="Strike after"><Icon name="right" size={20} /></Button>
    </span>
    <Button
      onclick={() => (listen.playing ? listen.stop() : void listen.play(r, centre - 0.5))}
      aria-label={listen.playing ? 'Stop listening' : 'Listen to plan and hits from this strike'}
      >{listen.playing ? 'Stop' : 'Listen'}</Button>
    <p class="font-semibold" aria-live="polite">{told}</p>
  </div>
  {#if strike && !r.run.removed}
    <div class="mt-2 flex flex-wrap items-center gap-1" role="group" aria-label="What this strike really was">
      <span class="label mr-1">It was</span>
      {#each says.filter((v) => v !== strike.verdict) as v (v)}
        <Button small quiet disabled={busy} onclick={() => onsay(chosen, v)}>{verdicts[v]}</Button>
      {/each}
    </div>
  {/if}
  <div class="mt-2 bg-sheet py-2">
    <SwingTrace
      cycle={r.run.cycle}
      {strikes}
      hits={r.hits}
      tempo={r.run.tempo}
      stance={r.run.trainee.stance}
      {moves}
      from={centre - reach}
      to={centre + reach}
      zero={from}
      {chosen}
      height={300} />
  </div>
  <p class="mt-1 text-sm text-soft">
    Listen plays twelve seconds: a tick where a strike was due, a thud where a hit fell. Filled disc: clean. Open disc:
    early or late. Dashed: missed. Ring: the hit{shifted}. Cross: a hit that belongs to no strike. Shaded: what is
    allowed.
  </p>
</section>
<More title="By hand, by place and by time">
  <Tables {r} {clock} onpick={(at) => (picked = strikes.findIndex((s) => s.at === at))} />
</More>
