<!-- The bag's way: its curve, the windows in which it can be struck or slipped, its boards, turns and passes. -->
<script lang="ts">
  import { curve, free, windows } from './geometry'
  import type { View } from './view.svelte'

  let { v }: { v: View } = $props()
  const struck = $derived(windows(v.cycle, v.seen, v))
  const way = $derived.by(() => {
    if (v.film) return v.begins.map((b) => free(v.cycle.trace, { x: (t) => v.x(t + b), y: v.y })).join('')
    return v.bare ? free(v.cycle.trace, v) : curve(v.cycle, v.near, v)
  })
  const slips = $derived(
    v.passes
      .filter((p) => p.window > 0)
      .map((p) => {
        const b = v.film ? (v.begins.findLast((s) => s <= p.at) ?? 0) : 0
        return free(v.cycle.trace, { x: (t) => v.x(t + b), y: v.y }, p.opens - b, p.opens + p.window - b)
      }),
  )
</script>

<!-- A band is pale within its edge: the edge is what is seen at 3:1 (WCAG 2.2, 1.4.11). -->
<path d={struck} fill="none" stroke="var(--strike)" stroke-width="19" />
<path d={struck} fill="none" stroke="color-mix(in srgb, var(--strike) 24%, var(--sheet))" stroke-width="16.5" />
<path d={struck} fill="none" stroke="var(--strike)" stroke-width="1.5" stroke-dasharray="3 3" />
{#each slips as d (d)}
  <path {d} fill="none" stroke="var(--blue)" stroke-width="17" />
  <path {d} fill="none" stroke="color-mix(in srgb, var(--blue) 28%, var(--sheet))" stroke-width="14.5" />
{/each}
<path d={way} fill="none" stroke="var(--ink)" stroke-width="2.5" stroke-linejoin="round" />
{#each v.bare ? v.cycle.marks : [] as m (m.at)}
  {@const y = v.y(m.swing)}
  <line x1={v.x(m.at)} x2={v.x(m.at)} y1={y - 8} y2={y + 8} stroke="var(--brass)" stroke-width="3" />
{/each}
{#each v.passes as p (p.at)}
  {@const x = v.x(p.at)}
  {@const level = v.y(p.speed === 0 ? -1 : 0)}
  <path d="M{x - 9} {level + 12}L{x + 9} {level - 12}" stroke="var(--blue)" stroke-width="3.5" />
  {#if p.window > 0 && v.bare}
    {@const begun = p.opens + p.window / 2}
    <path
      d="M{v.x(begun) - 9} {v.y(v.swingOf(begun))}l9 -11l9 11l-9 11Z"
      fill="var(--sheet)"
      stroke="var(--blue)"
      stroke-width="2.5" />
  {/if}
{/each}
{#each v.bare ? [] : v.boards as b (b.key)}
  {@const y = v.y(b.side)}
  <line x1={v.x(b.at)} x2={v.x(b.at)} y1={y - 9} y2={y + 9} stroke="var(--brass)" stroke-width={v.boarded ? 4 : 3} />
{/each}
