<!-- A rig from the side, to scale, with the person it is hung for. Each dimension line ends in a knob that can be dragged or
     moved with the arrow keys; the page asks what would be and draws it anew. -->
<script lang="ts">
  import { MediaQuery } from 'svelte/reactivity'
  import type { Schemas } from '../api/client'
  import { length, type Units } from '../format'
  import Dimensions from './Dimensions.svelte'
  import Figure from './Figure.svelte'
  import { spots } from './handles'
  import { placed, type Box } from './labels'
  import type { Scale } from './scale'
  import Shapes from './Shapes.svelte'
  import Written from './Written.svelte'

  type Props = {
    side: Schemas['SideView']
    setUp: Schemas['SetUpSheet']
    body: Schemas['BodyHeights'] | null
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
  const phone = new MediaQuery('max-width: 40rem')
  const line = 18 // px
  const wide = (text: string, px = 7.3) => px * text.length + 6
  const word = $derived(still ? 'here' : `${setUp.point} here`)
  /** What is drawn, for the labels to keep off. */
  const taken = $derived.by(() => {
    const boxes: Box[] = []
    const { x, y, metre } = scale
    for (const s of side.shapes) {
      const half = s.kind === 'ball' || s.kind === 'cylinder' || s.kind === 'drop' ? s.w / 2 : 0
      const [top, bottom] =
        s.kind === 'ball' ? [s.y1 + half, s.y1 - half] : [Math.max(s.y1, s.y2), Math.min(s.y1, s.y2)]
      const centre = s.kind === 'drop' ? 0 : s.x1
      if (half) boxes.push({ x: x(centre - half), y: y(top), w: 2 * half * metre, h: y(bottom) - y(top), weight: 2 })
      else if (s.kind === 'board' || s.kind === 'ceiling')
        boxes.push({ x: x(s.x1), y: y(s.y1) - 9, w: (s.x2 - s.x1) * metre, h: 11, weight: 2 })
      else if (s.kind !== 'wall') {
        const [from, to] = [Math.min(s.x1, s.x2), Math.max(s.x1, s.x2)]
        boxes.push({ x: x(from) - 2, y: y(top), w: (to - from) * metre + 4, h: y(bottom) - y(top), weight: 1 })
      }
    }
    for (const h of side.handles) {
      const [x1, x2, y1, y2] = [x(h.x1), x(h.x2), y(h.y1), y(h.y2)]
      boxes.push({ x: Math.min(x1, x2) - 1, y: Math.min(y1, y2), w: Math.abs(x1 - x2) + 2, h: Math.abs(y1 - y2) + 2 })
      if (!still) boxes.push({ x: x2 - 11, y: y2 - 11, w: 22, h: 22, weight: 3 })
    }
    if (body) {
      const at = x(-stand)
      const unit = metre * body.crown
      boxes.push(
        { x: at - unit * 0.06, y: y(body.crown), w: unit * 0.12, h: y(body.chin) - y(body.crown), weight: 4 },
        { x: at - unit * 0.17 - 30, y: y(body.eye) - 9, w: unit * 0.24 + 30, h: line, weight: 2 },
        { x: at - unit * 0.17 - 30, y: y(body.chin) - 9, w: unit * 0.24 + 30, h: line, weight: 2 },
        { x: at - unit * 0.09, y: y(body.shoulder), w: unit * 0.16, h: y(body.knee) - y(body.shoulder), weight: 0.5 },
        { x: at + unit * 0.06, y: y(body.chin), w: unit * 0.1, h: y(body.hip) - y(body.chin), weight: 0.3 },
      )
    }
    return boxes
  })
  /** Where the word of the band stands, and then the figures of the dimensions. */
  const labels = $derived.by(() => {
    const size = (h: (typeof handles)[number]) => ({
      w: Math.max(phone.current && !still ? 44 : 0, wide(length(h.value, units), 7.6)),
      h: still ? line : phone.current ? 44 : 24,
    })
    const w = wide(word, 6.9)
    const [over, under] = [scale.y(setUp.high), scale.y(setUp.low)]
    const near = [scale.x(right) - w, scale.x(0.3), scale.x(-0.25) + 4, scale.x(0.05)]
    const far = [scale.x(-0.25) - w, scale.x(-stand) + 24]
    const ups = [over - line - 2, under + 2, (over + under - line) / 2]
    const at = (xs: number[], ys: number[]) => ys.flatMap((y) => xs.map((x) => ({ x, y })))
    const words = band
      ? [{ w, h: line, spots: [...at(near, ups), ...at(near, [over - 2 * line, under + line]), ...at(far, ups)] }]
      : []
    const figures = handles.map((h) => ({ ...size(h), spots: spots(h, scale, size(h)) }))
    const boxes = placed([...words, ...figures], taken, { x: 0, y: 0, w: width, h: height - below })
    return { word: band ? boxes.shift()! : null, figures: boxes }
  })
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
    <Dimensions
      {handles}
      {scale}
      {units}
      {still}
      at={labels.figures}
      {read}
      {onset}
      onhold={(on) => (held = on ? metre : null)} />
    {#if labels.word}
      <text x={labels.word.x + 3} y={labels.word.y + 13} class="dimension fill-ink text-[0.75rem] font-semibold"
        >{word}</text>
    {/if}
  </svg>
  {#if !still && onset}<Written {handles} at={labels.figures} {units} {read} {onset} />{/if}
</div>

<style>
  .dimension {
    paint-order: stroke;
    stroke: var(--ground);
    stroke-width: 4px;
    stroke-linejoin: round;
  }
</style>
