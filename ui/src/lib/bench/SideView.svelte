<!-- A rig from the side, to scale, with the person it is hung for. Each dimension line ends in a knob that can be dragged or
     moved with the arrow keys; the page asks what would be and draws it anew. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { length, type Units } from '../format'

  type Handle = Schemas['Handle']
  type Props = {
    side: Schemas['Side']
    setUp: Schemas['SetUpSheet']
    body: Schemas['Points'] | null
    stand: number
    units: Units
    tallest?: number // px
    still?: boolean // on paper: no knobs
    onset?: (changes: { field: string; to: number }[]) => void
    read?: (field: string) => number
  }
  let { side, setUp, body, stand, units, tallest = 470, still = false, onset, read }: Props = $props()

  let width = $state(420)
  let dragged = $state<{ handle: Handle; from: number; start: Record<string, number>; factor: number } | null>(null)

  const margin = 14
  const below = 20 // px under the floor, for what stands further off than the picture reaches
  // The person and an arm's length behind the bag are always in the picture; walls only where they are that near.
  const left = $derived(-stand - 0.62)
  const right = $derived(1.02)
  const walls = $derived(side.shapes.filter((s) => s.kind === 'wall'))
  const inside = $derived((m: number) => m > left && m < right)
  const top = $derived(Math.max(side.top, (body?.crown ?? 0) + 0.15))
  const scale = $derived(
    dragged?.factor ?? Math.min((width - 2 * margin) / (right - left), (tallest - margin - below) / top),
  )
  const height = $derived(Math.min(tallest, top * scale + margin + below))
  const x = $derived((m: number) => margin + (m - left) * scale + (width - 2 * margin - (right - left) * scale) / 2)
  const y = $derived((m: number) => height - below - m * scale)
  const band = $derived(setUp.needs === '' && setUp.high > 0)
  const solid = (kind: string) => side.shapes.filter((s) => s.kind === kind)

  const start = (h: Handle) => Object.fromEntries(h.moves.map((m) => [m.field, read?.(m.field) ?? 0]))
  const own = (h: Handle) => h.moves.find((m) => m.field === h.field)!.per

  /** Moves a measure to a value, and whatever hangs on it along. */
  function put(h: Handle, from: Record<string, number>, began: number, wanted: number) {
    const value = Math.min(h.max, Math.max(h.min, wanted))
    const metres = (value - began) / own(h)
    onset?.(h.moves.map((m) => ({ field: m.field, to: Math.round((from[m.field]! + m.per * metres) * 1e4) / 1e4 })))
  }
  function grab(e: PointerEvent, h: Handle) {
    if (still) return
    const knob = e.currentTarget as SVGElement
    knob.setPointerCapture(e.pointerId)
    knob.focus()
    dragged = { handle: h, from: h.upright ? -e.clientY : e.clientX, start: start(h), factor: scale }
    e.preventDefault()
  }
  function drag(e: PointerEvent) {
    if (!dragged) return
    const { handle, from, factor } = dragged
    const metres = ((handle.upright ? -e.clientY : e.clientX) - from) / factor
    const step = units === 'imperial' ? 0.00635 : 0.005
    put(handle, dragged.start, handle.value, Math.round((handle.value + own(handle) * metres) / step) * step)
  }
  function keys(e: KeyboardEvent, h: Handle) {
    const step = (units === 'imperial' ? 0.0127 : 0.01) * (e.shiftKey ? 5 : 1)
    const turn = { ArrowUp: 1, ArrowRight: 1, PageUp: 5, ArrowDown: -1, ArrowLeft: -1, PageDown: -5 }[e.key]
    if (turn === undefined) return
    put(h, start(h), h.value, h.value + turn * step)
    e.preventDefault()
  }
</script>

<div class="w-full" bind:clientWidth={width}>
  <svg
    {width}
    {height}
    viewBox="0 0 {width} {height}"
    class="block select-none"
    role="group"
    aria-label="The rig from the side, to scale">
    <line x1="0" x2={width} y1={y(0)} y2={y(0)} stroke="var(--ink)" stroke-width="2.5" />
    {#each walls as w (w.x1)}
      {#if inside(w.x1)}<line x1={x(w.x1)} x2={x(w.x1)} y1={y(0)} y2={y(top)} stroke="var(--ink)" stroke-width="4" />
      {:else}<text
          x={w.x1 > 0 ? width - 6 : 6}
          y={height - 6}
          text-anchor={w.x1 > 0 ? 'end' : 'start'}
          class="fill-soft text-[0.72rem]"
          >{w.x1 > 0 ? `wall at ${length(w.x1, units)} →` : `← wall at ${length(-w.x1, units)}`}</text
        >{/if}
    {/each}
    {#each solid('ceiling') as s, i (i)}
      <line x1={x(s.x1)} x2={x(s.x2)} y1={y(s.y1)} y2={y(s.y2)} stroke="var(--ink)" stroke-width="3" />
      <path d="M{x(s.x1)} {y(s.y1) - 7}H{x(s.x2)}" stroke="var(--rope)" stroke-width="9" stroke-dasharray="2 5" />
    {/each}

    {#if body}
      {@const px = x(-stand)}
      {@const unit = scale * body.crown}
      <g fill="none" stroke="var(--soft)" stroke-linecap="round" stroke-linejoin="round" opacity="0.5">
        <ellipse
          cx={px}
          cy={y((body.crown + body.chin) / 2)}
          rx={unit * 0.05}
          ry={(y(body.chin) - y(body.crown)) / 2}
          fill="var(--soft)"
          stroke="none" />
        <path
          d="M{px - unit * 0.01} {y(body.shoulder) + unit * 0.03}L{px - unit * 0.03} {y(body.hip)}"
          stroke-width={unit * 0.105} />
        <path
          d="M{px - unit * 0.03} {y(body.hip)}L{px + unit * 0.06} {y(body.knee)}L{px + unit * 0.05} {y(0.05)}h{unit *
            0.06}"
          stroke-width={unit * 0.058} />
        <path
          d="M{px - unit * 0.03} {y(body.hip)}L{px - unit * 0.09} {y(body.knee)}L{px - unit * 0.16} {y(0.05)}h{unit *
            0.06}"
          stroke-width={unit * 0.058} />
        <path
          d="M{px + unit * 0.01} {y(body.shoulder) + unit * 0.02}L{px + unit * 0.09} {y(body.shoulder) +
            unit * 0.15}L{px + unit * 0.13} {y(body.chin)}"
          stroke-width={unit * 0.042} />
      </g>
      {#each [{ at: body.eye, name: 'eyes' }, { at: body.chin, name: 'chin' }] as p (p.name)}
        <line
          x1={px - unit * 0.16}
          x2={px + unit * 0.07}
          y1={y(p.at)}
          y2={y(p.at)}
          stroke="var(--ink)"
          stroke-width="1" />
        <text x={px - unit * 0.17} y={y(p.at) + 4} text-anchor="end" class="fill-soft text-[0.72rem]">{p.name}</text>
      {/each}
    {/if}
    {#if band}
      <rect
        x={x(-0.25)}
        width={(right + 0.25) * scale}
        y={y(setUp.high)}
        height={Math.max(2, y(setUp.low) - y(setUp.high))}
        fill="var(--ink)"
        opacity="0.1" />
      <text
        x={x(right) - 4}
        y={y(setUp.high) - 5}
        text-anchor="end"
        class="dimension fill-ink text-[0.75rem] font-semibold">{setUp.point} here</text>
    {/if}

    {#each side.shapes as s, i (i)}
      {#if s.kind === 'board'}
        <rect
          x={x(s.x1)}
          y={y(s.y1) - 0.045 * scale}
          width={(s.x2 - s.x1) * scale}
          height={0.045 * scale}
          fill="var(--brass)" />
      {:else if s.kind === 'cord'}
        <line x1={x(s.x1)} x2={x(s.x2)} y1={y(s.y1)} y2={y(s.y2)} stroke="var(--ink)" stroke-width="2" />
      {:else if s.kind === 'chain'}
        <line
          x1={x(s.x1)}
          x2={x(s.x2)}
          y1={y(s.y1)}
          y2={y(s.y2)}
          stroke="var(--ink)"
          stroke-width="4"
          stroke-dasharray="5 3" />
      {:else if s.kind === 'pole'}
        <line x1={x(s.x1)} x2={x(s.x2)} y1={y(s.y1)} y2={y(s.y2)} stroke="var(--ink)" stroke-width="5" />
      {:else if s.kind === 'ball'}
        <circle cx={x(s.x1)} cy={y(s.y1)} r={(s.w / 2) * scale} fill="var(--ink)" />
      {:else if s.kind === 'cylinder'}
        <rect
          x={x(s.x1 - s.w / 2)}
          y={y(s.y1)}
          width={s.w * scale}
          height={(s.y1 - s.y2) * scale}
          rx={0.05 * scale}
          fill="var(--ink)" />
      {:else if s.kind === 'drop'}
        {@const r = (s.w / 2) * scale}
        {@const wide = y(s.y2) - r}
        <path
          d="M{x(0)} {y(s.y1)}C{x(0) - r * 0.3} {y(s.y1) + r * 0.4} {x(0) - r} {wide - r * 0.9} {x(0) -
            r} {wide}A{r} {r} 0 0 0 {x(0) + r} {wide}C{x(0) + r} {wide - r * 0.9} {x(0) + r * 0.3} {y(s.y1) +
            r * 0.4} {x(0)} {y(s.y1)}Z"
          fill="var(--ink)" />
      {:else if s.kind === 'base'}
        <path
          d="M{x(s.x1)} {y(0)}L{x(s.x1 * 0.5)} {y(s.y2)}H{x(s.x2 * 0.5)}L{x(s.x2)} {y(0)}Z"
          fill="var(--rope)"
          stroke="var(--ink)"
          stroke-width="2" />
      {:else if s.kind === 'anchor'}
        <circle cx={x(s.x1)} cy={y(s.y1)} r="5" fill="var(--ground)" stroke="var(--ink)" stroke-width="2.5" />
      {/if}
    {/each}

    {#each setUp?.targets ?? [] as t (t.name)}
      {@const barrel = side.shapes.find((s) => s.kind === 'cylinder')}
      {#if barrel}
        <line
          x1={x(barrel.x1 - barrel.w / 2)}
          x2={x(barrel.x1 + barrel.w / 2)}
          y1={y(t.height)}
          y2={y(t.height)}
          stroke="var(--ground)"
          stroke-width="4"
          stroke-dasharray="7 3" />
        <text x={x(barrel.x1)} y={y(t.height) - 6} text-anchor="middle" class="fill-ground text-[0.75rem] font-semibold"
          >{t.name}</text>
      {/if}
    {/each}

    {#each side.handles.filter((h) => inside(h.x2)) as h (h.field)}
      {@const tick = h.upright ? `h10m-10 0h-5` : `v8m0 -8v-8`}
      <g>
        <path
          d="M{x(h.x1)} {y(h.y1)}{h.upright ? 'm-5 0h10m-5 0' : ''}L{x(h.x2)} {y(h.y2)}{tick}"
          fill="none"
          stroke="var(--soft)"
          stroke-width="1.25" />
        {#if h.upright}
          <text x={x(h.x1) + 7} y={(y(h.y1) + y(h.y2)) / 2 + 4} class="dimension fill-ink text-[0.8rem] font-semibold"
            >{length(h.value, units)}</text>
        {:else}
          <text
            x={x(h.x2) + (h.x2 < 0 ? -11 : 11)}
            y={y(h.y2) + (h.y1 === h.y2 && h.y2 > 0.3 ? 18 : -8)}
            text-anchor={h.x2 < 0 ? 'end' : 'start'}
            class="dimension fill-ink text-[0.8rem] font-semibold">{length(h.value, units)}</text>
        {/if}
        {#if !still}
          <circle
            class="knob"
            class:upright={h.upright}
            data-field={h.field}
            cx={x(h.x2)}
            cy={y(h.y2)}
            r="8"
            fill="var(--sheet)"
            stroke="var(--ink)"
            stroke-width="2.5"
            role="slider"
            tabindex="0"
            aria-label="{h.label}, in the picture"
            aria-valuemin={h.min}
            aria-valuemax={h.max}
            aria-valuenow={h.value}
            aria-valuetext={length(h.value, units)}
            aria-orientation={h.upright ? 'vertical' : 'horizontal'}
            onpointerdown={(e) => grab(e, h)}
            onpointermove={drag}
            onpointerup={() => (dragged = null)}
            onpointercancel={() => (dragged = null)}
            onkeydown={(e) => keys(e, h)}><title>{h.label}</title></circle>
        {/if}
      </g>
    {/each}
  </svg>
</div>

<style>
  .knob {
    cursor: ew-resize;
    touch-action: none;
  }
  .knob.upright {
    cursor: ns-resize;
  }
  .dimension {
    paint-order: stroke;
    stroke: var(--ground);
    stroke-width: 4px;
    stroke-linejoin: round;
  }
</style>
