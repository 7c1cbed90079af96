<!-- Serves whoever gives the cues by hand: when, and from which side, seen in the corner of the eye and felt in the hand. -->
<script lang="ts">
  import { onMount } from 'svelte'
  import type { Schemas } from '../../lib/api/client'

  let { cues, clock }: { cues: Schemas['PartnerCue'][]; clock: () => number } = $props()
  const lingers = 0.6 // s that it stands there after the cue
  const buzz: Record<string, number[]> = { left: [220], right: [90, 70, 90], '': [60, 50, 60, 50, 60] }
  let told = $state(-1)
  const cue = $derived(told >= 0 ? cues[told] : undefined)
  const words: Record<string, string> = { left: 'From your left', right: 'From your right', '': 'Straight' }

  onMount(() => {
    const timer = setInterval(() => {
      const now = clock() * 1e6
      const i = cues.findIndex((c) => c.tell <= now && now < c.at + lingers * 1e6)
      if (i === told) return
      told = i
      if (cues[i]) navigator.vibrate?.(buzz[cues[i].from] ?? [])
    }, 30)
    return () => clearInterval(timer)
  })
</script>

<section
  class="flex min-h-0 flex-1 flex-col items-center justify-center gap-4 p-6 text-center"
  aria-label="For the partner">
  {#if cue}
    <p class="figure text-7xl sm:text-9xl" data-testid="cue">
      <span aria-hidden="true">{cue.from === 'left' ? '←' : cue.from === 'right' ? '→' : '↑'}</span>
      {words[cue.from]}
    </p>
    <p class="text-3xl text-soft">They {cue.move}.</p>
  {:else}
    <p class="figure text-6xl text-soft sm:text-8xl">Wait</p>
    <p class="text-xl text-soft">Until range and rhythm are back. Soft belt or towel, never at the eyes.</p>
  {/if}
  <p class="sr-only" aria-live="assertive">{cue ? words[cue.from] : ''}</p>
</section>
