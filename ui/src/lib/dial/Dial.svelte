<!-- The dial: the bag's own way bent round a circle, because the bag sets the time. Angle is time, clockwise; radius is how far the bag
     is out. One turn is one cycle of a rhythm, with its strike at the top (left of it is early, right of it late), or one repetition of a
     combination, or a part of a long one. The bead is the bag: each real strike starts it anew, struck harder it comes round sooner. Each
     hit leaves a dot beside its strike. The middle says what to do next. -->
<script lang="ts">
  import { onMount, untrack } from 'svelte'
  import {
    describe,
    describeHits,
    type Cycle,
    type TraceHit,
    type TraceMove,
    type TraceStrike,
  } from '../trace/geometry'
  import { Face } from './face.svelte'
  import Marks from './Marks.svelte'
  import { far, near, radius, x, y } from './turn'

  type Props = {
    cycle: Cycle
    planned: TraceStrike[]
    strikes?: TraceStrike[] // as the hits have moved them
    moves: TraceMove[]
    tempo: number
    stance: string // "" where it is not known
    hits?: TraceHit[]
    clock?: () => number // s; without one the dial stands still
    said?: string // in place of what comes next
    under?: string // below that, in place of what comes next
    whose?: string // who is on which bag, before the description
    onpart?: (part: { told: string[]; now: number; rep: number }) => void
  }
  let {
    cycle,
    planned,
    strikes = planned,
    moves,
    tempo,
    stance,
    hits = [],
    clock,
    said = '',
    under = '',
    whose = '',
    onpart,
  }: Props = $props()
  const face = new Face(() => ({ cycle, planned, strikes, moves, hits, tempo, stance, whole: !clock }))
  let width = $state(2)
  let height = $state(1)
  const words = $derived(
    [whose, describe(cycle, tempo, planned), clock ? '' : describeHits(hits)].filter(Boolean).join(' '),
  )
  const narrow = $derived(width < 1.2 * height)
  const half = $derived(!face.film ? 106 : narrow ? 112 : 140) // names stand beside the curve of a combination
  let bead = $state<SVGCircleElement>()
  const size = (text: string, most: number) => Math.min(most, (1.8 * near) / Math.max(1, 0.5 * text.length))
  const main = $derived(said || face.now.main)
  const below = $derived(said ? under || face.now.main : face.now.then)
  const high = $derived(size(main, 34))

  $effect(() => {
    const now = { told: face.told, now: face.sections.length > 1 ? face.section : -1, rep: face.rep }
    untrack(() => onpart?.(now))
  })

  onMount(() => {
    if (!clock) return
    const read = clock
    let frame = 0
    const step = () => {
      const now = read()
      face.at(now)
      const spot = face.bead(now)
      bead?.setAttribute('transform', `translate(${x(spot).toFixed(2)} ${y(spot).toFixed(2)})`)
      bead?.setAttribute('visibility', face.next > 0 ? 'visible' : 'hidden') // it hides no strike before the first
      frame = requestAnimationFrame(step)
    }
    frame = requestAnimationFrame(step)
    return () => cancelAnimationFrame(frame)
  })
</script>

<svg
  viewBox="{-half} {face.film ? -108 : -106} {2 * half} {face.film ? 216 : 212}"
  bind:clientWidth={width}
  bind:clientHeight={height}
  data-picture="The dial"
  class="block h-full w-full select-none"
  role="img"
  aria-label={words}>
  <g aria-hidden="true">
    {#each [near, far] as r (r)}
      <circle
        {r}
        fill="none"
        stroke={face.boarded ? 'var(--brass)' : 'var(--edge)'}
        stroke-width={face.boarded ? 0.7 : 0.4} />
    {/each}
    <circle r={radius(0)} fill="none" stroke="var(--soft)" stroke-width="0.4" stroke-dasharray="0.6 2.4" />
    {#each face.discs as d (d.i)}
      <path d={d.window} fill="none" stroke="var(--strike)" stroke-width={1.3 * face.disc + 0.5} />
      <path
        d={d.window}
        fill="none"
        stroke="color-mix(in srgb, var(--strike) 34%, var(--ground))"
        stroke-width={1.3 * face.disc - 0.5} />
    {/each}
    <path d={face.way.curve(face.side)} fill="none" stroke="var(--ink)" stroke-width="1.5" stroke-linejoin="round" />
    <Marks {face} {half} large={narrow ? 1.3 : 1} />
    {#each face.dots as d (d.key)}
      <circle
        class="hit"
        cx={x(d.spot)}
        cy={y(d.spot)}
        r={!clock && face.dots.length > 60 ? 1 : 2.1}
        fill="var(--ink)"
        fill-opacity={d.strong} />
    {/each}
    {#if clock}
      <circle bind:this={bead} class="bead" r="4.4" fill="var(--ink)" stroke="var(--ground)" stroke-width="1.4" />
    {/if}
    <g text-anchor="middle" class="pointer-events-none" data-testid="next">
      <text y={below ? high * 0.22 : high * 0.36} class="figure fill-ink" font-size={high}>{main}</text>
      <text y={high * 0.22 + (narrow ? 15 : 13)} class="fill-soft" font-size={size(below, narrow ? 11 : 8)}
        >{below}</text>
    </g>
  </g>
</svg>
