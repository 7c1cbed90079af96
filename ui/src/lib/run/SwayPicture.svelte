<!-- A bag that is not under a board, from the side, swaying in step with a clock: between its cords, on its pole, its rope or its
     chain. -->
<script lang="ts">
  import { onMount } from 'svelte'
  import type { Schemas } from '../api/client'
  import { moving } from './moving'
  import { swingOn, type Cycle, type TraceStrike } from '../trace/geometry'

  type Props = { cycle: Cycle; rig: Schemas['RigDoc']; strikes: TraceStrike[]; clock: () => number }
  let { cycle, rig, strikes, clock }: Props = $props()
  let bag = $state<SVGGElement>()
  let cords = $state<SVGPathElement>()

  onMount(() => moving(clock, strikes[0]?.at ?? 0, draw))
  function draw(now: number) {
    const swing = swingOn(cycle, strikes, now)
    if (rig.kind === 'doubleEnd') {
      const x = (190 + 70 * swing).toFixed(1)
      bag?.setAttribute('transform', `translate(${(70 * swing).toFixed(1)} 0)`)
      cords?.setAttribute('d', `M190 12L${x} 130L190 248`)
    } else
      bag?.setAttribute(
        'transform',
        rig.kind === 'reflex'
          ? `rotate(${(22 * swing).toFixed(1)} 190 236)`
          : `rotate(${(-22 * swing).toFixed(1)} 190 14)`,
      )
  }
</script>

<svg viewBox="0 0 380 260" class="h-full w-full" aria-hidden="true">
  {#if rig.kind === 'doubleEnd'}<path
      bind:this={cords}
      d="M190 12V248"
      fill="none"
      stroke="var(--soft)"
      stroke-width="3" />{/if}
  {#if rig.kind === 'reflex'}<path d="M150 252h80l-18 -18h-44Z" fill="var(--edge)" />{:else}<path
      d="M110 12h160"
      stroke="var(--edge)"
      stroke-width="6" />{/if}
  <g bind:this={bag}>
    {#if rig.kind === 'reflex'}<path d="M190 236V70" stroke="var(--soft)" stroke-width="5" /><circle
        cx="190"
        cy="58"
        r="36"
        fill="var(--soft)" />
    {:else if rig.kind === 'doubleEnd'}<circle cx="190" cy="130" r="34" fill="var(--soft)" />
    {:else if rig.kind === 'slip'}<path d="M190 14V180" stroke="var(--soft)" stroke-width="3" /><circle
        cx="190"
        cy="200"
        r="28"
        fill="var(--soft)" />
    {:else}<path
        d="M190 14V70"
        stroke="var(--soft)"
        stroke-width="5"
        stroke-dasharray="7 4" />{#if rig.kind === 'hanging' && rig.shape === 'ball'}<circle
          cx="190"
          cy="132"
          r="62"
          fill="var(--soft)" />{:else}<rect
          x="156"
          y="70"
          width="68"
          height="172"
          rx="10"
          fill="var(--soft)" />{/if}{/if}
  </g>
</svg>
