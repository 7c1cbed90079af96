<!-- A ladder lying down: a bar for each rung between two ropes. Thick: past its gate. Ringed: where somebody stands. -->
<script lang="ts">
  type Props = { of: number; standing: number; at?: number; width?: number }
  let { of, standing, at = standing, width = 168 }: Props = $props()
  const step = $derived((width - 12) / Math.max(1, of))
  const x = $derived((i: number) => 6 + step * (i + 0.5))
</script>

<svg
  {width}
  height="26"
  class="block"
  role="img"
  aria-label="{standing} of {of} rungs passed{at < of ? `, rung ${at + 1} next` : ''}">
  <line x1="2" x2={width - 2} y1="5" y2="5" stroke="var(--edge)" stroke-width="3" />
  <line x1="2" x2={width - 2} y1="21" y2="21" stroke="var(--edge)" stroke-width="3" />
  {#each { length: of }, i (i)}
    <line
      x1={x(i)}
      x2={x(i)}
      y1="5"
      y2="21"
      stroke={i < standing ? 'var(--ink)' : 'var(--edge)'}
      stroke-width={i < standing ? 5 : 2}
      stroke-dasharray={i < standing ? undefined : '2 2'} />
    {#if i === at}<circle cx={x(i)} cy="13" r="6" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2.5" />{/if}
  {/each}
</svg>
