<!-- The swing trace: the bag's motion over time under its boards, the window in which it can be struck, and the hands'
     way out and back below. One picture for bench, drill, run and review.

     A slip bag, which nobody has to strike, is drawn from letting go: each pass a crossing stroke, and before it the stretch
     in which a slip may be begun, with an open lozenge.

     Still, it shows from `from` to `to`. With a `clock` it moves past a fixed now-line, in step with that clock. A strike is
     a filled disc with the letter of its hand (B for both, a square ring about a trap), a board sound a short upright tick, a
     hit that was captured a ring. -->
<script lang="ts">
  import { onMount } from 'svelte'
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
    span?: number // s across, with a clock
    clock?: () => number // s
    hits?: TraceHit[]
    height?: number
    axis?: boolean
    chosen?: number // index of a strike to point out
    moves?: TraceMove[] // defences and steps
    choices?: { count: number; at: number }[][] // returns that a strike could meet, by its i; with onreturn its disc is dragged there
    onreturn?: (i: number, count: number) => void
  }
  let {
    cycle,
    strikes,
    tempo,
    from = 0,
    to = 1,
    span = 3,
    clock,
    hits = [],
    height = 300,
    axis = true,
    chosen,
    moves = [],
    choices = [],
    onreturn,
  }: Props = $props()

  const id = $props.id()
  const v = new View(() => ({ cycle, strikes, hits, moves, from, to, span, height, axis, moving: !!clock }))
  let moving = $state<SVGSVGElement>()
  let nowLine = $state<SVGGElement>()
  const nowAt = 0.3 // of the plot's width

  onMount(() => {
    if (!clock) return
    const read = clock
    // Where motion is unwelcome the trace stands still, a page at a time, and the now-line goes along it.
    const still = matchMedia('(prefers-reduced-motion: reduce)').matches
    let frame = 0
    const step = () => {
      const now = read()
      if (now < v.chunk || now > v.chunk + span) v.chunk = Math.floor(now / span) * span
      const along = still ? -v.plot : nowAt * v.plot - (now - (v.chunk - span)) * v.scale
      const line = v.left + (still ? (now - v.chunk) * v.scale : nowAt * v.plot)
      if (moving) moving.style.transform = `translateX(${along.toFixed(2)}px)`
      nowLine?.setAttribute('transform', `translate(${line.toFixed(1)} 0)`)
      frame = requestAnimationFrame(step)
    }
    frame = requestAnimationFrame(step)
    return () => cancelAnimationFrame(frame)
  })
</script>

<div class="relative w-full overflow-hidden" style:height={`${height}px`} bind:clientWidth={v.width}>
  <svg width={v.width} {height} class="absolute inset-0 block select-none" aria-hidden="true">
    <Ground {v} />
    {#if clock}
      <g bind:this={nowLine}>
        <line y1={0} y2={height - v.foot} stroke="var(--ink)" stroke-width="2" />
        <text x="6" y={v.lanes - 13 + v.label} class="fill-ink font-bold" font-size={v.label}>now</text>
      </g>
    {/if}
  </svg>

  <div class="absolute top-0 h-full overflow-hidden" style:left={`${v.left}px`} style:right={`${v.right}px`}>
    <svg
      bind:this={moving}
      width={clock ? 3 * v.plot : v.plot}
      {height}
      class="block select-none {clock ? 'will-change-transform' : ''}"
      role="img"
      aria-labelledby="{id}-words">
      <title id="{id}-words">{describe(cycle, tempo, strikes)}</title>
      <Way {v} />
      <Moves {v} />
      <Discs {v} {chosen} {choices} {onreturn} />
      <Hits {v} />
      {#if axis}
        {#each timeSteps(v.begin, v.end, Math.max(3, v.plot / 70)) as t (t)}
          <line x1={v.x(t)} x2={v.x(t)} y1={height - v.foot + 4} y2={height - v.foot + 9} stroke="var(--soft)" />
          {#if v.x(t) > 14 && v.x(t) < v.plot - 14}
            <text x={v.x(t)} y={height - 4} text-anchor="middle" class="fill-soft text-[0.75rem]"
              >{t}{t === 0 ? ' s' : ''}</text>
          {/if}
        {/each}
      {/if}
    </svg>
  </div>
</div>
