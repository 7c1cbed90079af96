<!-- The bag from the side, swinging under its board in step with a clock; the hands come from the left. -->
<script lang="ts">
  import { onMount } from 'svelte'
  import type { Schemas } from '../api/client'
  import { handLetter } from '../trace/hands'
  import { moving } from './moving'
  import { swingOn, type Cycle, type TraceStrike } from '../trace/geometry'

  type Props = {
    cycle: Cycle
    rig: Schemas['RigDocSpeed']
    strikes: TraceStrike[]
    stance: string
    clock: () => number
  }
  let { cycle, rig, strikes, stance, clock }: Props = $props()

  let bag = $state<SVGGElement>()
  let fists = $state<Record<string, SVGGElement | undefined>>({})

  const px = $derived(190 / rig.bagLength) // a bag's length fills the same height, whatever its size
  const radius = $derived((rig.bagDiameter / 2) * px)
  const arm = $derived((rig.bagLength - rig.bagDiameter / 2) * px)
  const pivot = $derived({ x: 190, y: 26 + rig.swivelDrop * px })
  const contact = $derived((cycle.contact * Math.PI) / 180)
  const meet = $derived.by(() => {
    const angle = cycle.strike * contact
    return {
      x: pivot.x + arm * Math.sin(angle) - radius * Math.cos(angle) - 20,
      y: pivot.y + arm * Math.cos(angle) + radius * Math.sin(angle) * 0.4,
    }
  })
  // below the bag's reach, so that it never swings behind a resting fist
  const home = { lead: { x: 72, y: 238 }, rear: { x: 24, y: 238 } }

  onMount(() => moving(clock, strikes[0]?.at ?? 0, draw))
  function draw(now: number) {
    const angle = (swingOn(cycle, strikes, now) * cycle.contact).toFixed(2)
    bag?.setAttribute('transform', `rotate(${-Number(angle)} ${pivot.x} ${pivot.y})`)
    for (const hand of ['lead', 'rear'] as const) {
      let near = Infinity
      for (const s of strikes) {
        if (s.at > now + 1) break
        if ((s.hand === hand || s.hand === 'both') && Math.abs(s.at - now) < near) near = Math.abs(s.at - now)
      }
      const out = near < cycle.reach ? Math.cos((near / cycle.reach) * (Math.PI / 2)) ** 2 : 0
      const h = home[hand]
      fists[hand]?.setAttribute(
        'transform',
        `translate(${(h.x + (meet.x - h.x) * out).toFixed(1)} ${(h.y + (meet.y - h.y) * out).toFixed(1)})`,
      )
    }
  }
</script>

<svg viewBox="0 0 380 260" class="h-full w-full" aria-hidden="true">
  <g bind:this={bag}>
    <path
      d="M{pivot.x} {pivot.y}C{pivot.x - radius * 0.55} {pivot.y + arm * 0.35} {pivot.x - radius} {pivot.y +
        arm -
        radius * 0.75} {pivot.x - radius} {pivot.y + arm}A{radius} {radius} 0 0 0 {pivot.x + radius} {pivot.y +
        arm}C{pivot.x + radius} {pivot.y + arm - radius * 0.75} {pivot.x + radius * 0.55} {pivot.y +
        arm * 0.35} {pivot.x} {pivot.y}Z"
      fill="var(--soft)" />
    <path
      d="M{pivot.x} {pivot.y + 8}V{pivot.y + arm + radius - 6}"
      stroke="var(--ground)"
      stroke-width="2"
      stroke-dasharray="6 5" />
  </g>
  <rect x="20" y="14" width="340" height="12" fill="var(--brass)" />
  <circle cx={pivot.x} cy={pivot.y} r="5" fill="var(--ink)" />
  {#each ['rear', 'lead'] as hand (hand)}
    <g bind:this={fists[hand]}>
      <circle r="20" fill="var(--strike)" stroke="var(--ground)" stroke-width="3" />
      <text text-anchor="middle" y="7" font-size="20" font-weight="800" fill="var(--ground)"
        >{handLetter(hand, stance)}</text>
    </g>
  {/each}
</svg>
