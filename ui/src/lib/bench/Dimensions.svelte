<!-- The dimension lines of a rig, each with a knob that is dragged or moved by the arrow keys. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { length, type Units } from '../format'
  import { moved, own, standing } from './handles'
  import type { Box } from './labels'
  import type { Scale } from './scale'

  type Handle = Schemas['Handle']
  type Values = Record<string, number>
  type Props = {
    handles: Handle[]
    scale: Scale
    units: Units
    still: boolean
    at: Box[] // where each figure stands
    read: ((field: string) => number) | undefined
    onset: ((changes: { field: string; to: number }[]) => void) | undefined
    onhold: (on: boolean) => void
  }
  let { handles, scale, units, still, at, read, onset, onhold }: Props = $props()
  let dragged = $state<{ handle: Handle; from: number; start: Values; value: number; metre: number } | null>(null)

  const along = (h: Handle, e: PointerEvent) => (h.upright ? -e.clientY : e.clientX)

  const put = (h: Handle, from: Values, wanted: number) => onset?.(moved(h, from, wanted))
  function grab(e: PointerEvent, h: Handle) {
    const knob = e.currentTarget as SVGElement
    knob.setPointerCapture(e.pointerId)
    knob.focus()
    dragged = { handle: h, from: along(h, e), start: standing(h, read), value: h.value, metre: scale.metre }
    onhold(true)
    e.preventDefault()
  }
  function drag(e: PointerEvent) {
    if (!dragged) return
    const { handle, from, metre } = dragged
    const metres = (along(handle, e) - from) / metre
    const step = units === 'imperial' ? 0.00635 : 0.005
    onset?.(
      moved(
        { ...handle, value: dragged.value },
        dragged.start,
        Math.round((dragged.value + own(handle) * metres) / step) * step,
      ),
    )
  }
  function drop() {
    dragged = null
    onhold(false)
  }
  function keys(e: KeyboardEvent, h: Handle) {
    const step = (units === 'imperial' ? 0.0127 : 0.01) * (e.shiftKey ? 5 : 1)
    const turn = { ArrowUp: 1, ArrowRight: 1, PageUp: 5, ArrowDown: -1, ArrowLeft: -1, PageDown: -5 }[e.key]
    if (turn === undefined) return
    put(h, standing(h, read), h.value + turn * step)
    e.preventDefault()
  }

  const line = (h: Handle) => {
    const [x, y] = [scale.x, scale.y]
    const end = h.upright ? 'h10m-10 0h-5' : 'v8m0 -8v-8'
    return `M${x(h.x1)} ${y(h.y1)}${h.upright ? 'm-5 0h10m-5 0' : ''}L${x(h.x2)} ${y(h.y2)}${end}`
  }
</script>

{#each handles as h, i (h.field)}
  <path d={line(h)} fill="none" stroke="var(--soft)" stroke-width="1.25" />
  {#if still}
    <text x={at[i]!.x + 3} y={at[i]!.y + 14} class="dimension fill-ink text-[0.8rem] font-semibold"
      >{length(h.value, units)}</text>
  {:else}
    <circle
      class="knob"
      class:upright={h.upright}
      data-field={h.field}
      cx={scale.x(h.x2)}
      cy={scale.y(h.y2)}
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
      onpointerup={drop}
      onpointercancel={drop}
      onkeydown={(e) => keys(e, h)}><title>{h.label}</title></circle>
  {/if}
{/each}

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
