<!-- What a rig is made of, from the side: the core says what there is and where, here is how each of it looks. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import type { Scale } from './scale'

  let { shapes, scale }: { shapes: Schemas['Segment'][]; scale: Scale } = $props()
  const x = $derived(scale.x)
  const y = $derived(scale.y)
  const m = $derived(scale.metre)
  const lines: Record<string, { wide: number; dash?: string }> = {
    cord: { wide: 2 },
    chain: { wide: 4, dash: '5 3' },
    pole: { wide: 5 },
  }
  /** A speed bag: narrow at its neck, round below. */
  function drop(s: Schemas['Segment']) {
    const r = (s.w / 2) * m
    const [cx, neck, wide] = [x(0), y(s.y1), y(s.y2) - r]
    const bend = (side: number) => `${cx + side * r * 0.3} ${neck + r * 0.4}`
    const out = (side: number) => `${cx + side * r} ${wide - r * 0.9}`
    return `M${cx} ${neck}C${bend(-1)} ${out(-1)} ${cx - r} ${wide}A${r} ${r} 0 0 0 ${cx + r} ${wide}C${out(1)} ${bend(1)} ${cx} ${neck}Z`
  }
</script>

{#each shapes as s, i (i)}
  {@const line = lines[s.kind]}
  {#if line}
    <path
      d="M{x(s.x1)} {y(s.y1)}L{x(s.x2)} {y(s.y2)}"
      stroke="var(--ink)"
      stroke-width={line.wide}
      stroke-dasharray={line.dash} />
  {:else if s.kind === 'ceiling'}
    <path d="M{x(s.x1)} {y(s.y1)}H{x(s.x2)}" stroke="var(--ink)" stroke-width="3" />
    <path d="M{x(s.x1)} {y(s.y1) - 7}H{x(s.x2)}" stroke="var(--edge)" stroke-width="9" stroke-dasharray="2 5" />
  {:else if s.kind === 'board'}
    {@const thick = 0.045 * m}
    <rect x={x(s.x1)} y={y(s.y1) - thick} width={(s.x2 - s.x1) * m} height={thick} fill="var(--brass)" />
  {:else if s.kind === 'ball'}
    <circle cx={x(s.x1)} cy={y(s.y1)} r={(s.w / 2) * m} fill="var(--ink)" />
  {:else if s.kind === 'cylinder'}
    <rect
      x={x(s.x1 - s.w / 2)}
      y={y(s.y1)}
      width={s.w * m}
      height={(s.y1 - s.y2) * m}
      rx={0.05 * m}
      fill="var(--ink)" />
  {:else if s.kind === 'drop'}
    <path d={drop(s)} fill="var(--ink)" />
  {:else if s.kind === 'base'}
    <path
      d="M{x(s.x1)} {y(0)}L{x(s.x1 * 0.5)} {y(s.y2)}H{x(s.x2 * 0.5)}L{x(s.x2)} {y(0)}Z"
      fill="var(--edge)"
      stroke="var(--ink)"
      stroke-width="2" />
  {:else if s.kind === 'anchor'}
    <circle cx={x(s.x1)} cy={y(s.y1)} r="5" fill="var(--ground)" stroke="var(--ink)" stroke-width="2.5" />
  {/if}
{/each}
