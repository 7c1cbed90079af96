<!-- How tight a double-end bag's cords are, by the return of a half-power strike, between the gym's borders. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import Button from '../ui/Button.svelte'

  type Props = { cords: Schemas['Winding']; onwind: (way: 'looser' | 'tighter') => void }
  let { cords, onwind }: Props = $props()

  const from = 0.08
  const to = $derived(Math.max(0.6, cords.borders.slack + 0.12))
  const at = (t: number) => `${(100 * (Math.min(to, Math.max(from, t)) - from)) / (to - from)}%`
  const zones = $derived([
    {
      feel: 'tooTight',
      name: 'Too tight',
      from,
      to: cords.borders.tight,
      why: 'It hardly swings; there is nothing to time.',
    },
    {
      feel: 'combinations',
      name: 'Combinations',
      from: cords.borders.tight,
      to: cords.borders.head,
      why: 'Back for the second punch of a one-two.',
    },
    {
      feel: 'headMovement',
      name: 'Head movement',
      from: cords.borders.head,
      to: cords.borders.slack,
      why: 'Time to move the head; too slow for the next punch.',
    },
    {
      feel: 'tooSlack',
      name: 'Too slack',
      from: cords.borders.slack,
      to,
      why: 'It wanders back long after the hand is home.',
    },
  ])
  const now = $derived(zones.find((z) => z.feel === cords.feel)!)
</script>

<div aria-label="Tension of the cords">
  <p><b>{now.name}</b>: struck at half power the ball is back after <b>{cords.at.toFixed(2)} s</b>. {now.why}</p>
  <div class="relative mt-2 h-16">
    {#each zones as z (z.feel)}
      <div
        class="absolute top-0 h-7 overflow-hidden border-r-2 border-ground px-1 text-[0.78rem] leading-7 whitespace-nowrap {z.feel ===
        cords.feel
          ? 'bg-ink text-ground'
          : 'bg-shade text-soft'}"
        style:left={at(z.from)}
        style:right={`calc(100% - ${at(z.to)})`}>
        {z.name}
      </div>
    {/each}
    <div class="absolute top-0 h-9 w-0.5 bg-ink" style:left={at(cords.at)}></div>
    <div class="absolute top-7 size-3 -translate-x-1/2 rotate-45 bg-ink" style:left={at(cords.at)}></div>
    {#each [cords.borders.tight, cords.borders.head, cords.borders.slack] as b (b)}
      <span class="absolute top-10 -translate-x-1/2 text-sm text-soft" style:left={at(b)}>{b.toFixed(2)} s</span>
    {/each}
  </div>
  <div class="flex flex-wrap gap-2">
    <Button disabled={cords.looser.length === 0} onclick={() => onwind('looser')}>Let out a step</Button>
    <Button disabled={cords.tighter.length === 0} onclick={() => onwind('tighter')}>Wind up a step</Button>
  </div>
  <p class="mt-1 text-sm text-soft">A step is 3 % of each cord. The limits are our guess; change them under Gym.</p>
</div>
