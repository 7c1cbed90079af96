<!-- The line: the bag's motion over time under its boards, with the windows in which it can be struck, and the hands' way out and back
     below. One picture for bench, drill, composer and review.

     A slip bag, which nobody has to strike, is drawn from letting go: each pass a crossing stroke, and before it the stretch
     in which a slip may be begun, with an open lozenge.

     A strike is a filled disc with its punch or its hand (a square about a trap), a rear hand's has a ring, a board sound is a
     short upright tick, a hit that was captured a ring. -->
<script lang="ts">
  import Discs from './Discs.svelte'
  import { describe, timeSteps, type Cycle, type TraceHit, type TraceMove, type TraceStrike } from './geometry'
  import Ground from './Ground.svelte'
  import Hits from './Hits.svelte'
  import Moves from './Moves.svelte'
  import { View } from './view.svelte'
  import Way from './Way.svelte'

  type Props = {
    cycle: Cycle
    strikes: TraceStrike[]
    tempo: number
    from?: number
    to?: number
    stance?: string // "" where it is not known
    hits?: TraceHit[]
    height?: number
    axis?: boolean
    zero?: number // where the axis begins to count, s
    chosen?: number // index of a strike to point out
    moves?: TraceMove[] // defences and steps
    choices?: { count: number; at: number }[][] // returns that a strike could meet, by its i; with onreturn its disc is dragged there
    onreturn?: (i: number, count: number) => void
    onpick?: (i: number) => void // a press on a strike that could meet another return
    called?: string // as a picture to take away
  }
  let {
    cycle,
    strikes,
    tempo,
    from = 0,
    to = 1,
    stance = '',
    hits = [],
    height = 300,
    axis = true,
    zero = 0,
    chosen,
    moves = [],
    choices = [],
    onreturn,
    onpick,
    called = 'The line',
  }: Props = $props()

  // Discs that can be pressed are no part of a picture.
  const role = $derived(onpick && choices.length > 0 ? 'group' : 'img')
  const v = new View(() => ({ cycle, strikes, hits, moves, from, to, height, axis, stance }))
</script>

<div
  data-picture={called}
  class="relative w-full overflow-hidden"
  style:height={`${height}px`}
  bind:clientWidth={v.width}>
  <svg width={v.width} {height} class="absolute inset-0 block select-none" aria-hidden="true">
    <Ground {v} />
  </svg>

  <div class="absolute top-0 h-full overflow-hidden" style:left={`${v.left}px`} style:right={`${v.right}px`}>
    <svg width={v.plot} {height} class="block select-none" {role} aria-label={describe(cycle, tempo, strikes)}>
      <g aria-hidden="true"><Way {v} /><Moves {v} /></g>
      <g aria-hidden={role === 'img' ? true : undefined}><Discs {v} {chosen} {choices} {onreturn} {onpick} /></g>
      <g aria-hidden="true"
        ><Hits {v} />
        {#if axis}
          {#each timeSteps(v.begin - zero, v.end - zero, Math.max(3, v.plot / 70)) as t, i (t)}
            {@const x = v.x(t + zero)}
            <line x1={x} x2={x} y1={height - v.foot + 4} y2={height - v.foot + 9} stroke="var(--soft)" />
            {#if x > 14 && x < v.plot - 14}
              <text {x} y={height - 4} text-anchor="middle" class="fill-soft text-[0.75rem]"
                >{t}{t === 0 || (zero && i === 1) ? ' s' : ''}</text>
            {/if}
          {/each}
        {/if}</g>
    </svg>
  </div>
</div>
