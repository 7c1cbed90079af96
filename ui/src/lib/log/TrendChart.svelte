<!-- Shares of strikes that met the bag over time, each with what it may be off by, and the line through them with how sure it is. -->
<script lang="ts">
  import { scaleLinear, scaleTime } from 'd3-scale'
  import { area, line as curve } from 'd3-shape'
  import type { Schemas } from '../api/client'
  import { percent, shortDay } from '../format'
  import { session } from '../session.svelte'
  import Axes from './Axes.svelte'

  type Dated = Schemas['Point'] & { date: Date }

  let { trend }: { trend: Schemas['Trend'] } = $props()
  const dated = (list: Schemas['Point'][]): Dated[] => list.map((p) => ({ ...p, date: new Date(p.at) }))
  const points = $derived(dated(trend.points))
  const line = $derived(dated(trend.line))
  const apart = 3 * 24 * 3600 * 1000
  const domain = $derived([
    new Date((points[0]?.date.getTime() ?? 0) - apart / 3),
    new Date(Math.max(points.at(-1)?.date.getTime() ?? 0, (points[0]?.date.getTime() ?? 0) + apart) + apart / 3),
  ])
  const height = 176
  const y = scaleLinear([0, 1], [height - 26, 10])
  const along = $derived((width: number) => scaleTime(domain, [46, Math.max(47, width - 10)]))
  const told = $derived(
    `${trend.name}: ${trend.points.length} rounds, from ${percent(trend.points[0]?.share ?? 0)} to ${percent(trend.points.at(-1)?.share ?? 0)}.`,
  )
</script>

<figure class="m-0">
  <div data-picture={trend.name} class="h-[176px] max-w-[640px] bg-sheet" role="img" aria-label={told}>
    <Axes
      {height}
      left={46}
      across={(width) => {
        const x = along(width)
        return x.ticks(4).map((d) => ({
          at: x(d),
          text: shortDay(d.toISOString(), session.zone).replace(/^\w+ /, ''),
        }))
      }}
      up={[0, 0.25, 0.5, 0.75, 1].map((v) => ({ at: y(v), text: percent(v) }))}>
      {#snippet children(width)}
        {@const x = along(width)}
        {#if line.length > 0}
          <path
            class="fill-shade"
            d={area<Dated>()
              .x((p) => x(p.date))
              .y0((p) => y(p.low))
              .y1((p) => y(p.high))(line)} />
          <path
            class="fill-none stroke-ink stroke-2"
            d={curve<Dated>()
              .x((p) => x(p.date))
              .y((p) => y(p.share))(line)} />
        {/if}
        {#each points as p (p.run)}
          <line x1={x(p.date)} x2={x(p.date)} y1={y(p.low)} y2={y(p.high)} class="stroke-edge" />
          <circle cx={x(p.date)} cy={y(p.share)} r="4" class="fill-ink" />
        {/each}
      {/snippet}
    </Axes>
  </div>
  <figcaption class="mt-1 text-sm">{trend.said}</figcaption>
</figure>
