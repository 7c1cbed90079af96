<!-- The person a rig is hung for, in a stance before it, with the heights that it is hung by. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import type { Scale } from './scale'

  let { body, at, scale }: { body: Schemas['BodyHeights']; at: number; scale: Scale } = $props()
  const unit = $derived(scale.metre * body.crown) // widths go by the height
  const y = $derived(scale.y)
  const x = (share: number) => at + unit * share
  const limb = (...points: [number, number][]) => 'M' + points.map(([share, y]) => `${x(share)} ${y}`).join('L')
  const foot = (share: number): [number, number][] => [
    [share, y(0.05)],
    [share + 0.06, y(0.05)],
  ]
  const limbs = $derived([
    { d: limb([-0.01, y(body.shoulder) + unit * 0.03], [-0.03, y(body.hip)]), wide: 0.105 },
    { d: limb([-0.03, y(body.hip)], [0.06, y(body.knee)], ...foot(0.05)), wide: 0.058 },
    { d: limb([-0.03, y(body.hip)], [-0.09, y(body.knee)], ...foot(-0.16)), wide: 0.058 },
    {
      d: limb([0.01, y(body.shoulder) + unit * 0.02], [0.09, y(body.shoulder) + unit * 0.15], [0.13, y(body.chin)]),
      wide: 0.042,
    },
  ])
  const heights = $derived([
    { at: body.eye, name: 'eyes' },
    { at: body.chin, name: 'chin' },
  ])
</script>

<g fill="none" stroke="var(--soft)" stroke-linecap="round" stroke-linejoin="round" opacity="0.5">
  <ellipse
    cx={at}
    cy={y((body.crown + body.chin) / 2)}
    rx={unit * 0.05}
    ry={(y(body.chin) - y(body.crown)) / 2}
    fill="var(--soft)"
    stroke="none" />
  {#each limbs as l (l.d)}<path d={l.d} stroke-width={unit * l.wide} />{/each}
</g>
{#each heights as p (p.name)}
  <path d="M{x(-0.16)} {y(p.at)}H{x(0.07)}" stroke="var(--ink)" />
  <text x={x(-0.17)} y={y(p.at) + 4} text-anchor="end" class="fill-soft text-[0.72rem]">{p.name}</text>
{/each}
