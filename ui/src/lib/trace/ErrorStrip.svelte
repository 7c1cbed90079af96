<!-- A whole round at a glance: each planned strike along the time, its hit above where early and below where late. The band is
     the window. Shapes as on the trace: filled clean, open early or late, dashed missed. -->
<script lang="ts">
  import { markNames } from '../labels.gen'
  import type { TraceStrike } from './geometry'
  import { timeSteps } from './geometry'

  type Props = {
    strikes: TraceStrike[]
    marks: { at: number; kind: string }[]
    seen: Record<string, string> // what other marks are called
    from: number
    to: number
    chosen: number
    told: string // of the chosen strike
    onchoose: (i: number) => void
    onmove: (by: number) => void
  }
  let { strikes, marks, seen, from, to, chosen, told, onchoose, onmove }: Props = $props()

  let width = $state(900)
  const height = 150
  const left = 64
  const middle = 62
  const most = 2.6 // halves of a strike's own window
  const x = $derived((t: number) => left + ((t - from) / Math.max(0.1, to - from)) * (width - left - 14))
  const y = (halves: number) => middle + Math.max(-1, Math.min(1, halves / most)) * 52
  const size = $derived(Math.max(2.5, Math.min(6, (width - left) / Math.max(1, strikes.length) / 2.2)))

  function pick(e: MouseEvent & { currentTarget: SVGElement }) {
    const t =
      from + ((e.clientX - e.currentTarget.getBoundingClientRect().left - left) / (width - left - 14)) * (to - from)
    let best = 0
    for (const [i, s] of strikes.entries()) if (Math.abs(s.at - t) < Math.abs(strikes[best]!.at - t)) best = i
    onchoose(best)
  }

  function keys(e: KeyboardEvent) {
    const by = { ArrowLeft: -1, ArrowRight: 1, Home: -1e6, End: 1e6, PageUp: -10, PageDown: 10 }[e.key]
    if (by === undefined) return
    e.preventDefault()
    onmove(by)
  }
</script>

<div data-picture="Each strike" class="mt-2 w-full" bind:clientWidth={width}>
  <svg
    {width}
    {height}
    viewBox="0 0 {width} {height}"
    class="block cursor-pointer"
    role="slider"
    tabindex="0"
    aria-label="Strike"
    aria-valuemin="1"
    aria-valuemax={strikes.length}
    aria-valuenow={chosen + 1}
    aria-valuetext="Strike {chosen + 1} of {strikes.length}: {told}"
    onclick={pick}
    onkeydown={keys}>
    <rect x={left} y={y(-1)} width={width - left - 14} height={y(1) - y(-1)} fill="var(--shade)" />
    {#each [-1, 0, 1] as at (at)}<line
        x1={left}
        x2={width - 14}
        y1={y(at)}
        y2={y(at)}
        stroke="var(--edge)"
        stroke-dasharray={at ? '4 4' : undefined} />{/each}
    <text x={left - 8} y={y(-most) + 12} text-anchor="end" class="fill-soft text-[0.75rem]">early</text>
    <text x={left - 8} y={middle + 4} text-anchor="end" class="fill-ink text-[0.75rem] font-semibold">allowed</text>
    <text x={left - 8} y={y(most)} text-anchor="end" class="fill-soft text-[0.75rem]">late</text>
    {#if strikes[chosen]}<line
        x1={x(strikes[chosen].at)}
        x2={x(strikes[chosen].at)}
        y1="4"
        y2={height - 24}
        stroke="var(--ink)"
        stroke-width="1.5" />{/if}
    {#each strikes as s (s.i)}
      {@const clean = s.verdict === 'clean'}
      <circle
        cx={x(s.at)}
        cy={s.error == null ? middle : y((2 * s.error) / s.window)}
        r={size}
        fill={clean ? 'var(--strike)' : 'var(--ground)'}
        stroke="var(--strike)"
        stroke-width={clean ? 0 : 2}
        stroke-dasharray={s.verdict === 'missed' ? '2 2' : undefined} />
    {/each}
    {#each marks as m (m)}
      <g
        ><title>{markNames[m.kind] ?? seen[m.kind] ?? ''}</title><path
          d="M{x(m.at)} {height - 34}v10"
          stroke="var(--ink)"
          stroke-width="3" /></g>
    {/each}
    {#each timeSteps(0, to - from, width / 70) as t (t)}
      <text x={x(from + t)} y={height - 4} text-anchor={t === 0 ? 'start' : 'middle'} class="fill-soft text-[0.75rem]"
        >{t}{t === 0 ? ' s' : ''}</text>
    {/each}
  </svg>
</div>
