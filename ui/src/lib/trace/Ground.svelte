<!-- What a trace stands on: the boards or turns, the line of rest, and a lane for each hand. -->
<script lang="ts">
  import type { View } from './view.svelte'

  let { v }: { v: View } = $props()
  const rest = $derived(v.cycle.passes.length > 0 ? 'low point' : v.boarded ? 'hangs' : 'at rest')
  const sides = $derived(v.lowest === -1 ? [1, -1] : [1])
  const levels = $derived([
    ...sides.map((side) => ({
      y: v.y(side),
      name: side === 1 ? 'far' : 'near',
      look: 'fill-brass font-semibold',
      stroke: v.boarded ? 'var(--brass)' : 'var(--edge)',
      wide: v.boarded ? 2 : 1,
      dash: undefined as string | undefined,
    })),
    { y: v.y(0), name: rest, look: 'fill-soft', stroke: 'var(--edge)', wide: 1, dash: '2 5' },
  ])
</script>

{#each levels as l (l.name)}
  <line
    x1={v.left}
    x2={v.width - v.right}
    y1={l.y}
    y2={l.y}
    stroke={l.stroke}
    stroke-width={l.wide}
    stroke-dasharray={l.dash} />
  <text x={v.left - 8} y={l.y + 4} text-anchor="end" class={l.look} font-size={v.label}>{l.name}</text>
{/each}
{#if !v.bare}
  <line x1={v.left} x2={v.width - v.right} y1={v.floor} y2={v.floor} stroke="var(--edge)" />
  <text x={v.left - 8} y={v.floor - 6} text-anchor="end" class="fill-soft" font-size={v.label}>hands</text>
{/if}
