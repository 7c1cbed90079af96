<!-- Which moments of a swing are tapped when a bag is calibrated: drawn on the swing as the bag is known now, and played with a sound. -->
<script lang="ts">
  import { onDestroy } from 'svelte'
  import type { Schemas } from '../api/client'
  import { RunClock } from '../run/clock'
  import { Sound } from '../run/sound'
  import { path as drawn, read } from '../trace/geometry'
  import Button from '../ui/Button.svelte'

  type Props = { moments: Schemas['Moments']; kind: Schemas['RigDoc']['kind']; words: Schemas['Tapping'] }
  let { moments, kind, words }: Props = $props()

  const lead = 0.6 // s of quiet before the strike
  let width = $state(420)
  const height = 170
  const mid = 84
  const end = $derived(moments.at.at(-1)! + 0.25)
  const reach = $derived(Math.max(...moments.trace.map((p) => Math.abs(p.swing)), 1e-9))
  const x = (at: number) => 34 + ((width - 54) * at) / end
  const y = (swing: number) => mid - (52 * swing) / reach
  const path = $derived(
    drawn(
      moments.trace.filter((p) => p.at <= end),
      { x, y },
    ),
  )
  const start = $derived(kind === 'slip' ? y(1) : y(moments.trace[0]?.swing ?? 0))

  let playing = $state(false)
  let at = $state(-1) // s since the strike, while it plays
  let clock: RunClock | null = null

  async function play() {
    if (playing) return
    playing = true
    clock = new RunClock()
    await clock.start(lead)
    const events = [
      { at: 0, kind: 'strike' },
      ...moments.at.map((m) => ({ at: Math.round(1e6 * m), kind: 'rebound' })),
    ] as Schemas['Event'][]
    const sound = new Sound(clock, () => events)
    sound.volume = 0.9
    sound.start()
    const step = () => {
      if (!clock) return
      at = clock.now()
      if (at < end) return void requestAnimationFrame(step)
      sound.stop()
      stop()
    }
    requestAnimationFrame(step)
  }
  function stop() {
    clock?.close()
    clock = null
    playing = false
    at = -1
  }
  onDestroy(stop)
</script>

<figure class="mt-2 bg-sheet p-2">
  <div bind:clientWidth={width}>
    <svg
      {width}
      {height}
      viewBox="0 0 {width} {height}"
      class="block"
      role="img"
      aria-label="Tap with the {words.first}, then at {moments.at.length} {words.counted}: {moments.at
        .map((m) => m.toFixed(2))
        .join(', ')} seconds after it.">
      <g aria-hidden="true">
        <line x1="28" x2={width - 10} y1={mid} y2={mid} stroke="var(--edge)" stroke-width="1" />
        {#if kind === 'speed'}{#each [1, -1] as side (side)}<line
              x1="28"
              x2={width - 10}
              y1={y(side)}
              y2={y(side)}
              stroke="var(--brass)"
              stroke-width="2" />{/each}{/if}
        <path d={path} fill="none" stroke="var(--ink)" stroke-width="2.5" />
        <circle cx={x(0)} cy={start} r="8" fill="var(--strike)" />
        <text x={x(0)} y={height - 6} text-anchor="middle" font-size="14" font-weight="700" fill="var(--strike)"
          >{words.first}</text>
        {#each moments.at as m, i (i)}
          {@const lit = playing && at >= m && at < m + 0.2}
          <line
            x1={x(m)}
            x2={x(m)}
            y1={y(read(moments.trace, m)) - 14}
            y2={y(read(moments.trace, m)) + 14}
            stroke="var(--brass)"
            stroke-width={lit ? 7 : 4} />
          <text x={x(m)} y={height - 6} text-anchor="middle" font-size="14" font-weight="700" fill="var(--brass)"
            >{width > 460 ? `tap ${i + 1}` : i + 1}</text>
        {/each}
        {#if playing && at >= 0}<circle
            cx={x(Math.min(at, end))}
            cy={y(read(moments.trace, at))}
            r="9"
            fill="var(--ground)"
            stroke="var(--ink)"
            stroke-width="3" />{/if}
      </g>
    </svg>
  </div>
  <figcaption class="flex flex-wrap items-center justify-between gap-2 text-sm text-soft">
    <span>{words.where}</span>
    <Button small disabled={playing} onclick={play}>{playing ? 'Playing…' : 'Watch and hear it'}</Button>
  </figcaption>
</figure>
