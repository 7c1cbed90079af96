<!-- Shares of strikes that met the bag over time, each with what it may be off by, and the line through them with how sure it is. -->
<script lang="ts">
  import { scaleTime } from 'd3-scale'
  import { Area, Axis, Chart, Layer, Spline } from 'layerchart/svg'
  import type { Schemas } from '../api/client'
  import { percent, shortDay } from '../format'
  import { session } from '../session.svelte'

  let { trend }: { trend: Schemas['Trend'] } = $props()
  const dated = (list: Schemas['Point'][]) => list.map((p) => ({ ...p, date: new Date(p.at) }))
  const points = $derived(dated(trend.points))
  const line = $derived(dated(trend.line))
  const apart = 3 * 24 * 3600 * 1000
  const domain = $derived([
    new Date((points[0]?.date.getTime() ?? 0) - apart / 3),
    new Date(Math.max(points.at(-1)?.date.getTime() ?? 0, (points[0]?.date.getTime() ?? 0) + apart) + apart / 3),
  ])
  const told = $derived(
    `${trend.name}: ${trend.points.length} rounds, from ${percent(trend.points[0]?.share ?? 0)} to ${percent(trend.points.at(-1)?.share ?? 0)}.`,
  )
</script>

<figure class="m-0">
  <div data-picture={trend.name} class="h-[176px] max-w-[640px] bg-sheet" role="img" aria-label={told}>
    <div class="h-full" aria-hidden="true">
      <Chart
        data={points}
        x="date"
        y="share"
        xScale={scaleTime()}
        xDomain={domain}
        yDomain={[0, 1]}
        padding={{ left: 46, right: 10, top: 10, bottom: 26 }}>
        {#snippet children({ context })}
          <Layer>
            <Axis
              placement="left"
              grid={{ class: 'stroke-rope' }}
              ticks={[0, 0.25, 0.5, 0.75, 1]}
              format={(v: number) => percent(v)}
              tickLabelProps={{ class: 'fill-soft text-xs' }} />
            <Axis
              placement="bottom"
              ticks={4}
              format={(v: Date) => shortDay(v.toISOString(), session.zone).replace(/^\w+ /, '')}
              tickLabelProps={{ class: 'fill-soft text-xs' }} />
            {#if line.length > 0}
              <Area data={line} x="date" y0="low" y1="high" class="fill-shade" />
              <Spline data={line} x="date" y="share" class="stroke-ink stroke-2" />
            {/if}
            {#each points as p (p.run)}
              {@const cx = context.xScale(p.date)}
              <line x1={cx} x2={cx} y1={context.yScale(p.low)} y2={context.yScale(p.high)} class="stroke-edge" />
              <circle {cx} cy={context.yScale(p.share)} r="4" class="fill-ink" />
            {/each}
          </Layer>
        {/snippet}
      </Chart>
    </div>
  </div>
  <figcaption class="mt-1 text-sm">{trend.said}</figcaption>
</figure>
