<!-- The round as it runs: the call, the time that is left, the bag and its swing. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { isLine } from '../../lib/drills/doc'
  import { countdown } from '../../lib/format'
  import BagPicture from '../../lib/run/BagPicture.svelte'
  import SwayPicture from '../../lib/run/SwayPicture.svelte'
  import SwingTrace from '../../lib/trace/SwingTrace.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import type { Floor } from './floor.svelte'
  import Pads from './Pads.svelte'

  type Props = { floor: Floor; run: Schemas['Run']; marks: Schemas['MarkIn']['kind'][] }
  let { floor, run, marks }: Props = $props()
  const round = $derived(floor.round)
  let height = $state(300)
  let width = $state(800)

  const big = 'button min-h-16! min-w-16! wall:min-h-24! wall:px-8! wall:text-3xl!'
  const ending = $derived(round.phase === 'ending')
  const called = $derived(
    ending ? 'Time' : round.phase === 'paused' ? 'Paused' : round.countIn > 0 ? String(round.countIn) : round.call,
  )
  // A long combination is called smaller, so that the whole of it stands there.
  const size = $derived(
    round.call.length <= 16 || round.countIn > 0
      ? 'text-5xl sm:text-6xl lg:text-8xl wall:text-[9rem]'
      : round.call.length <= 50
        ? 'text-3xl sm:text-4xl lg:text-5xl wall:text-7xl'
        : 'text-xl sm:text-2xl lg:text-3xl wall:text-5xl',
  )
  const plays = $derived.by(() => {
    if (round.follows) return 'The bag follows the hits'
    if (run.plays === 'startThenFollow') return 'Plays, then follows the hits'
    return run.timeline.clock === 'bag' && run.plays === 'follow' ? 'Waits for the first hit' : 'Plays the beat'
  })
  const tempo = $derived(!isLine(run.doc) || run.doc.tempo ? `, ${Math.round(run.tempo)} a minute` : '')
  const kept = $derived(`${round.outbox?.waiting ?? 0} hits and marks are kept here and sent`)
  const trouble = $derived(
    round.outbox?.foreign
      ? `Somebody else is signed in with this browser. ${kept} when you sign in again.`
      : round.outbox?.offline
        ? `No connection. ${kept} as soon as it is back.`
        : '',
  )
  const span = $derived((run.cycle.passes.length > 0 ? 1.8 : 1) * Math.max(1.2, Math.min(2.2, width / 560)))
</script>

<header class="flex items-center gap-4 px-4 pt-3 sm:px-6">
  <div class="min-w-0">
    <p class="line-clamp-2 text-lg leading-tight font-bold sm:text-2xl wall:text-4xl">{run.trainee.name}</p>
    <p class="hidden truncate text-soft sm:block wall:text-2xl">
      {run.drillName}{tempo}. <span data-testid="plays">{plays}</span>
    </p>
  </div>
  <p class="figure ml-auto text-5xl sm:text-7xl wall:text-9xl" role="timer" aria-label="left">
    {countdown(round.left)}
  </p>
  <button class={big} onclick={() => round.togglePause()} disabled={ending}>
    {round.phase === 'paused' ? 'Go on' : 'Pause'}
  </button>
  <button class={big} onclick={() => round.stop()} disabled={ending}>Stop</button>
</header>

<div
  class="grid min-h-0 flex-1 grid-cols-1 grid-rows-[auto_1fr] gap-2 px-4 py-2 sm:px-6 lg:grid-cols-[minmax(16rem,26%)_1fr] lg:grid-rows-1">
  <section class="flex min-h-0 items-center gap-4 lg:flex-col lg:items-stretch lg:justify-center">
    <div class="h-28 w-40 shrink-0 sm:h-36 sm:w-52 lg:h-[38%] lg:w-full">
      {#if run.rig.kind !== 'speed'}
        <SwayPicture cycle={run.cycle} rig={run.rig} strikes={round.strikes} clock={round.now} />
      {:else if run.cycle.starts.length === 0}
        <BagPicture cycle={run.cycle} rig={run.rig} strikes={round.strikes} clock={round.now} />
      {/if}
    </div>
    <p class="figure text-balance first-letter:uppercase {size}" aria-live="assertive" data-testid="call">{called}</p>
  </section>
  <section class="flex min-h-0 min-w-0 flex-col justify-center" aria-label="The bag's swing, moving">
    <div class="flex min-h-0 flex-1 items-center" bind:clientHeight={height} bind:clientWidth={width}>
      <SwingTrace
        cycle={run.cycle}
        strikes={round.strikes}
        tempo={run.tempo}
        moves={round.moves}
        clock={round.now}
        hits={round.hits}
        height={Math.max(150, Math.min(height, Math.max(330, width * 0.58)))}
        {span}
        axis={false} />
    </div>
    <Problem text={trouble} />
    {#if !trouble && round.phase === 'paused'}
      <p class="text-lg text-soft">
        Paused at {countdown(round.left)} to go. Space goes on, Escape stops and keeps the hits.
      </p>
    {/if}
  </section>
</div>
<Pads {floor} {marks} keyed={run.source === 'keys'} recorded={run.source !== 'none'} />
