<!-- The round as it runs: the time that is left, the dial of the bag with what to do next, and the bag itself where there is room. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { isLine } from '../../lib/drills/doc'
  import { countdown } from '../../lib/format'
  import Dial from '../../lib/dial/Dial.svelte'
  import BagPicture from '../../lib/run/BagPicture.svelte'
  import SwayPicture from '../../lib/run/SwayPicture.svelte'
  import FigureRow from '../../lib/ui/FigureRow.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import type { Floor } from './floor.svelte'
  import Partner from './Partner.svelte'
  import Pads from './Pads.svelte'

  type Props = { floor: Floor; run: Schemas['Run']; marks: Schemas['MarkIn']['kind'][] }
  let { floor, run, marks }: Props = $props()
  const round = $derived(floor.round)

  const big = 'button min-h-16! min-w-16! wall:min-h-24! wall:px-8! wall:text-3xl!'
  const ending = $derived(round.phase === 'ending')
  const said = $derived(
    ending ? 'Time' : round.phase === 'paused' ? 'Paused' : round.countIn > 0 ? String(round.countIn) : '',
  )
  const plays = $derived.by(() => {
    if (round.follows) return 'The bag follows the hits'
    if (run.plays === 'startThenFollow') return 'Plays, then follows the hits'
    return run.timeline.clock === 'bag' && run.plays === 'follow' ? 'Waits for the first hit' : 'Plays the beat'
  })
  const tempo = $derived(!isLine(run.doc) || run.doc.tempo ? `, ${Math.round(run.tempo)} a minute` : '')
  const kept = $derived(`${round.outbox?.waiting ?? 0} hits and marks are kept here and sent`)
  let part = $state.raw({ told: [] as string[], now: -1, rep: 0 }) // of a combination, as the dial shows it
  const reps = $derived(run.cycle.starts.length)
  const trouble = $derived(
    round.outbox?.foreign
      ? `Somebody else is signed in with this browser. ${kept} when you sign in again.`
      : round.outbox?.offline
        ? `No connection. ${kept} as soon as it is back.`
        : '',
  )
</script>

<header class="flex items-center gap-x-4 max-[22.5rem]:flex-wrap px-4 pt-3 sm:px-6 low:col-span-3 low:px-0 low:pt-1">
  <div class="min-w-0 max-[22.5rem]:basis-full">
    <p class="line-clamp-2 text-lg leading-tight font-bold sm:text-2xl wall:text-6xl">{run.trainee.name}</p>
    <p class="hidden truncate text-soft sm:block low:text-sm wall:text-4xl">
      {run.drillName}{tempo}. <span data-testid="plays">{plays}</span>
    </p>
  </div>
  <p
    class="figure ml-auto text-5xl max-[22.5rem]:mr-auto max-[22.5rem]:ml-0 sm:text-7xl low:text-6xl wall:text-9xl"
    role="timer"
    aria-label="left">
    {countdown(round.left)}
  </p>
  <button class={big} onclick={() => round.togglePause()} disabled={ending}>
    {round.phase === 'paused' ? 'Go on' : 'Pause'}
  </button>
  <button class={big} onclick={() => round.askToStop()} disabled={ending}>{round.asking ? 'Stop now' : 'Stop'}</button>
</header>

{#snippet whole()}
  {#each part.told as text, k (k)}
    <span class="inline-block lg:block {part.now < 0 || part.now === k ? 'font-semibold text-ink' : ''}">
      {text}{#if k + 1 < part.told.length}<span class="px-1.5 lg:hidden" aria-hidden="true">|</span>{/if}
    </span>
  {/each}
{/snippet}

{#if round.partner}<Partner cues={run.partner} clock={round.now} />{/if}
<div
  class="{round.partner
    ? 'hidden'
    : 'grid'} min-h-0 flex-1 grid-cols-1 gap-4 px-4 py-2 sm:px-6 low:row-start-2 low:p-0 {run.source === 'keys'
    ? 'low:col-start-2'
    : 'low:col-span-3'} lg:grid-cols-[minmax(12rem,18%)_1fr_minmax(12rem,18%)]">
  <div class="hidden min-h-0 flex-col justify-center gap-6 lg:flex">
    <div class="h-48 wall:h-80">
      {#if run.rig.kind !== 'speed'}
        <SwayPicture cycle={run.cycle} rig={run.rig} strikes={round.strikes} clock={round.now} />
      {:else if run.cycle.starts.length === 0}
        <BagPicture cycle={run.cycle} rig={run.rig} strikes={round.strikes} stance={floor.stance} clock={round.now} />
      {/if}
    </div>
    <p class="text-xl text-soft wall:text-3xl">{@render whole()}</p>
  </div>
  <section class="flex min-h-0 min-w-0 flex-col" aria-label="The bag's swing, moving">
    <div class="min-h-0 flex-1">
      <Dial
        cycle={run.cycle}
        planned={round.planned}
        strikes={round.strikes}
        moves={round.moves}
        tempo={run.tempo}
        stance={floor.stance}
        hits={round.hits}
        clock={round.now}
        {said}
        onpart={(p) => (part = p)} />
    </div>
    <p class="sr-only" aria-live="assertive" data-testid="call">{said || round.call}</p>
    {#if part.told.length > 1}<p class="text-center text-lg text-soft lg:hidden">{@render whole()}</p>{/if}
    <Problem text={trouble} />
    {#if !trouble && round.phase === 'paused'}
      <p class="text-center text-lg text-soft">
        {#if round.asking}
          End the round here? Press Stop now, or Escape once more: the hits are kept. Space to go on.
        {:else}
          Paused with {countdown(round.left)} to go. Space to go on.
        {/if}
      </p>
    {/if}
  </section>
  <FigureRow
    class="hidden content-center justify-items-end gap-6 text-right lg:grid"
    figures={reps > 0 ? [{ name: 'Rep', text: `${part.rep + 1} of ${reps}` }] : []} />
</div>
<Pads {floor} {marks} sees={run.sees} keyed={run.source === 'keys'} recorded={run.source !== 'none'} />
