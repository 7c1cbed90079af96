<!-- A class as a rope: blocks along it by their length, the higher the harder; a knot at each bell. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { countdown } from '../../lib/format'

  type Face = Schemas['Display']
  type Props = { faces: Face[]; at?: number; chosen?: number; onchoose?: (face: Face) => void }
  let { faces, at = -1, chosen = -1, onchoose }: Props = $props()
  const from = $derived(faces[0]?.from ?? 0)
  const whole = $derived(Math.max(1, (faces.at(-1)?.until ?? 1) - from))
  const x = (t: number) => (1000 * (t - from)) / whole
  const heights: Record<string, number> = {
    own: 30,
    drill: 30,
    opener: 20,
    known: 28,
    new: 30,
    whole: 34,
    fast: 40,
    free: 24,
    counted: 38,
    off: 16,
  }
  const blocks = $derived(faces.filter((f) => f.block >= 0))
  const bells = $derived([...new Set(blocks.map((f) => f.bellAt))])
  const said = $derived(
    `${Math.round(whole / 6e7)} minutes: ` + [...new Set(blocks.map((f) => f.name))].map((name) => name).join(', '),
  )
  const labels = $derived(
    [...new Set(blocks.map((f) => f.lap))].map((lap) => {
      const own = blocks.filter((f) => f.lap === lap)
      const [a, b] = [own[0]!.from, own.at(-1)!.until]
      const name = own[0]!.name
      return { lap, x: x((a + b) / 2), wide: x(b) - x(a), text: /^Round (\d+)/.exec(name)?.[1] ?? name }
    }),
  )
</script>

<figure class="mt-4" aria-label="How the time goes">
  <svg
    viewBox="0 0 1000 66"
    class="block h-auto w-full overflow-visible"
    role="img"
    aria-label={said}
    preserveAspectRatio="none">
    <g aria-hidden="true">
      <line x1="0" x2="1000" y1="46" y2="46" stroke="var(--rope)" stroke-width="3" stroke-dasharray="7 3" />
      {#each blocks as f (f.id)}
        {@const high = heights[f.role] ?? 24}
        <rect
          x={x(f.from) + 0.6}
          y={46 - high}
          width={Math.max(1, x(f.until) - x(f.from) - 1.2)}
          height={high}
          fill={f.onBag ? 'var(--soft)' : 'var(--shade)'}
          fill-opacity={f.id === chosen ? 1 : at >= f.until ? 0.35 : 0.75}
          stroke="var(--ink)"
          stroke-width={f.id === chosen ? 2.4 : 0.8}
          role="presentation"
          class={onchoose ? 'cursor-pointer' : ''}
          onclick={() => onchoose?.(f)}>
          <title>{f.name}: {f.title}, {countdown((f.until - f.from) / 1e6)}</title>
        </rect>
      {/each}
      {#each bells as b (b)}<circle
          cx={x(b)}
          cy="46"
          r="3.4"
          fill="var(--ground)"
          stroke="var(--ink)"
          stroke-width="1.6" />{/each}
      {#if at >= 0}<path d="M{x(at)} 4 v46" stroke="var(--ink)" stroke-width="2.4" />{/if}
    </g>
  </svg>
  <div class="relative h-5 overflow-x-clip text-sm text-soft" aria-hidden="true">
    {#each labels as l (l.lap)}
      {#if l.wide > 6 + 7 * l.text.length || /^\d+$/.test(l.text)}
        <span
          class="absolute -translate-x-1/2 whitespace-nowrap {/^\d/.test(l.text) ? '' : 'max-sm:hidden'}"
          style:left="{l.x / 10}%">{l.text}</span>
      {/if}
    {/each}
  </div>
</figure>
