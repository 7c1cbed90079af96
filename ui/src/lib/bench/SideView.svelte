<!-- A rig from the side, to scale, with the person it is hung for. Each dimension line ends in a knob that can be dragged or
     moved with the arrow keys; the page asks what would be and draws it anew. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { length, type Units } from '../format'
  import Dimensions from './Dimensions.svelte'
  import Figure from './Figure.svelte'
  import type { Scale } from './scale'
  import Shapes from './Shapes.svelte'
  import Written from './Written.svelte'

  type Props = {
    side: Schemas['Side']
    setUp: Schemas['SetUpSheet']
    body: Schemas['Points'] | null
    stand: number
    units: Units
    tallest?: number // px
    still?: boolean // on paper: no knobs, and what the band is for stands beside the picture
    onset?: (changes: { field: string; to: number }[]) => void
    read?: (field: string) => number
  }
  let { side, setUp, body, stand, units, tallest = 470, still = false, onset, read }: Props = $props()

  let width = $state(420)
  let held = $state<number | null>(null) // px a metre while a knob is dragged: the picture does not grow under the finger

  const margin = 14
  const below = 20 // px under the floor, for what stands further off than the picture reaches
  // The person and an arm's length behind the bag are always in the picture; walls only where they are that near.
  const left = $derived(-stand - 0.62)
  const right = 1.02
  const inside = (m: number) => m > left && m < right
  const top = $derived(Math.max(side.top, (body?.crown ?? 0) + 0.15))
  const metre = $derived(held ?? Math.min((width - 2 * margin) / (right - left), (tallest - margin - below) / top))
  const height = $derived(Math.min(tallest, top * metre + margin + below))
  const scale = $derived<Scale>({
    metre,
    x: (m) => margin + (m - left) * metre + (width - 2 * margin - (right - left) * metre) / 2,
    y: (m) => height - below - m * metre,
  })
  const handles = $derived(side.handles.filter((h) => inside(h.x2)))
  const band = $derived(setUp.needs === '' && setUp.high > 0)
  const walls = $derived(side.shapes.filter((s) => s.kind === 'wall'))
  const barrel = $derived(side.shapes.find((s) => s.kind === 'cylinder'))
</script>

<div class="relative w-full" bind:clientWidth={width}>
  <svg
    {width}
    {height}
    viewBox="0 0 {width} {height}"
    class="block select-none"
    role="group"
    aria-label="The bag from the side, to scale">
    <line x1="0" x2={width} y1={scale.y(0)} y2={scale.y(0)} stroke="var(--ink)" stroke-width="2.5" />
    {#each walls as w (w.x1)}
      {#if inside(w.x1)}
        <path d="M{scale.x(w.x1)} {scale.y(0)}V{scale.y(top)}" stroke="var(--ink)" stroke-width="4" />
      {:else}
        <text
          x={w.x1 > 0 ? width - 6 : 6}
          y={height - 6}
          text-anchor={w.x1 > 0 ? 'end' : 'start'}
          class="fill-soft text-[0.72rem]"
          >{w.x1 > 0 ? `wall at ${length(w.x1, units)} →` : `← wall at ${length(-w.x1, units)}`}</text>
      {/if}
    {/each}
    {#if body}<Figure {body} at={scale.x(-stand)} {scale} />{/if}
    {#if band}
      <rect
        x={scale.x(-0.25)}
        width={(right + 0.25) * metre}
        y={scale.y(setUp.high)}
        height={Math.max(2, scale.y(setUp.low) - scale.y(setUp.high))}
        fill="var(--ink)"
        opacity="0.1" />
    {/if}
    <Shapes shapes={side.shapes} {scale} />
    {#each barrel ? setUp.targets : [] as t (t.name)}
      {@const y = scale.y(t.height)}
      <path
        d="M{scale.x(barrel!.x1 - barrel!.w / 2)} {y}h{barrel!.w * metre}"
        stroke="var(--ground)"
        stroke-width="4"
        stroke-dasharray="7 3" />
      <text x={scale.x(barrel!.x1)} y={y - 6} text-anchor="middle" class="fill-ground text-[0.75rem] font-semibold"
        >{t.name}</text>
    {/each}
    <Dimensions {handles} {scale} {units} {still} {read} {onset} onhold={(on) => (held = on ? metre : null)} />
    {#if band}
      <text
        x={scale.x(right) - 4}
        y={scale.y(setUp.high) - 5}
        text-anchor="end"
        class="dimension fill-ink text-[0.75rem] font-semibold">{still ? 'here' : `${setUp.point} here`}</text>
    {/if}
  </svg>
  {#if !still && onset}<Written {handles} {scale} {units} {read} {onset} />{/if}
</div>

<style>
  .dimension {
    paint-order: stroke;
    stroke: var(--ground);
    stroke-width: 4px;
    stroke-linejoin: round;
  }
</style>
