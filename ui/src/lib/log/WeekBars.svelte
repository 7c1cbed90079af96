<!-- Rounds by week: what was done, and when nobody came. -->
<script lang="ts">
  import { scaleBand } from 'd3-scale'
  import { Axis, Chart, Layer } from 'layerchart/svg'
  import type { Schemas } from '../api/client'
  import { count, shortDay } from '../format'

  let { weeks }: { weeks: Schemas['Week'][] } = $props()
  const most = $derived(Math.max(4, ...weeks.map((w) => w.rounds)))
  const from = (w: string) => shortDay(`${w}T12:00:00Z`, 'UTC').replace(/^\w+ /, '')
  const told = $derived(weeks.map((w) => `week of ${from(w.from)}: ${count(w.rounds, 'round')}`).join('; '))
</script>

<div
  data-picture="Rounds a week"
  class="h-[160px] max-w-[640px] bg-sheet"
  role="img"
  aria-label="Rounds a week. {told}">
  <div class="h-full" aria-hidden="true">
    <Chart
      data={weeks}
      x="from"
      y="rounds"
      xScale={scaleBand().padding(0.3)}
      yDomain={[0, most]}
      padding={{ left: 30, right: 8, top: 18, bottom: 24 }}>
      {#snippet children({ context })}
        <Layer>
          <Axis
            placement="left"
            ticks={3}
            grid={{ class: 'stroke-rope' }}
            tickLabelProps={{ class: 'fill-soft text-xs' }} />
          <Axis
            placement="bottom"
            format={(v: string) => (weeks.findIndex((w) => w.from === v) % 3 === 2 ? from(v) : '')}
            tickLabelProps={{ class: 'fill-soft text-xs' }} />
          {#each weeks as w (w.from)}
            {@const x = context.xScale(w.from)}
            {@const y = context.yScale(w.rounds)}
            <rect {x} {y} width={context.xScale.bandwidth?.() ?? 0} height={context.yScale(0) - y} class="fill-ink" />
            {#if w.rounds > 0}
              <text
                x={x + (context.xScale.bandwidth?.() ?? 0) / 2}
                y={y - 4}
                text-anchor="middle"
                class="fill-ink text-xs">{w.rounds}</text>
            {/if}
          {/each}
        </Layer>
      {/snippet}
    </Chart>
  </div>
</div>
