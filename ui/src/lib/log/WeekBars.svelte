<!-- Rounds by week: what was done, and when nobody came. -->
<script lang="ts">
  import { scaleBand, scaleLinear } from 'd3-scale'
  import type { Schemas } from '../api/client'
  import { count, shortDay } from '../format'
  import Axes from './Axes.svelte'

  let { weeks }: { weeks: Schemas['Week'][] } = $props()
  const most = $derived(Math.max(4, ...weeks.map((w) => w.rounds)))
  const height = 160
  const y = $derived(scaleLinear([0, most], [height - 24, 18]))
  const along = $derived((width: number) =>
    scaleBand(
      weeks.map((w) => w.from),
      [30, Math.max(31, width - 8)],
    ).padding(0.3),
  )
  const from = (w: string) => shortDay(`${w}T12:00:00Z`, 'UTC').replace(/^\w+ /, '')
  const told = $derived(weeks.map((w) => `week of ${from(w.from)}: ${count(w.rounds, 'round')}`).join('; '))
</script>

<div
  data-picture="Rounds a week"
  class="h-[160px] max-w-[640px] bg-sheet"
  role="img"
  aria-label="Rounds a week. {told}">
  <Axes
    {height}
    left={30}
    across={(width) => {
      const x = along(width)
      return weeks
        .filter((_, i) => i % 3 === 2)
        .map((w) => ({ at: x(w.from)! + x.bandwidth() / 2, text: from(w.from) }))
    }}
    up={y.ticks(3).map((v) => ({ at: y(v), text: String(v) }))}>
    {#snippet children(width)}
      {@const x = along(width)}
      {#each weeks as w (w.from)}
        <rect x={x(w.from)} y={y(w.rounds)} width={x.bandwidth()} height={y(0) - y(w.rounds)} class="fill-ink" />
        {#if w.rounds > 0}
          <text x={x(w.from)! + x.bandwidth() / 2} y={y(w.rounds) - 4} text-anchor="middle" class="fill-ink"
            >{w.rounds}</text>
        {/if}
      {/each}
    {/snippet}
  </Axes>
</div>
