<!-- How the bag swings when it is struck so. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { tempoOf } from '../../lib/format'
  import { sample } from '../../lib/trace/geometry'
  import SwingTrace from '../../lib/trace/SwingTrace.svelte'
  import type { Desk } from './desk.svelte'

  let { desk, a, stance }: { desk: Desk; a: Schemas['Sheet']; stance: string } = $props()
  const slipBag = $derived(desk.kind === 'slip')
  const strikes = $derived(slipBag ? [] : sample(a.cycle, ['lead', 'rear']))
  const shown = $derived.by(() => {
    if (slipBag) return { from: -0.25, to: a.cycle.trace.at(-1)!.at }
    const to = desk.kind === 'speed' ? a.cycle.return + 0.22 : a.cycle.return * (desk.rebounds > 1 ? 1.15 : 2.2)
    return { from: -Math.min(0.3 * a.cycle.return, 0.4), to: Math.max(0.75, to) }
  })
</script>

<div class="relative bg-sheet py-1 {desk.whatIf.pending ? 'opacity-70' : ''}" aria-busy={desk.whatIf.pending}>
  <SwingTrace cycle={a.cycle} {strikes} tempo={a.shown} {stance} {...shown} height={226} />
  {#if !a.feasible}
    <p class="absolute top-1 right-2 text-sm text-soft">
      Drawn at {tempoOf(a.shown)} a minute, the nearest this bag allows.
    </p>
  {/if}
</div>
