<!-- What is done now, in letters for five metres, and what comes next. -->
<script lang="ts">
  import { countdown } from '../../lib/format'
  import type { ClassFloor } from '../../lib/class/floor.svelte'

  let { floor }: { floor: ClassFloor } = $props()
  const face = $derived(floor.face)
  const paused = $derived(floor.phase === 'paused')
  const own = $derived(face?.role === 'own')
  const inRound = $derived(!!face && !floor.resting && face.until !== face.bellAt)
  // The last ten seconds before a bell or another block are counted in figures, large.
  const count = $derived(floor.left <= 10 && !paused ? Math.ceil(floor.left) : 0)
  const comes = $derived.by(() => {
    const next = floor.next
    if (!next) return 'Then it is over'
    if (floor.resting) return ''
    if (next.block < 0) return 'Then rest'
    return `Then ${next.role === 'own' ? 'your drill' : next.title}`
  })
  // Now and then the room is told to breathe: it stands there for a while.
  const told = $derived(
    floor.class?.cues.findLast((c) => c.kind === 'loose' && c.at / 1e6 <= floor.time && floor.time < c.at / 1e6 + 6)
      ?.text ?? '',
  )
  const size = $derived(
    (face?.title.length ?? 0) > 30
      ? 'text-3xl sm:text-5xl wall:text-7xl'
      : own && !paused
        ? 'text-2xl text-soft sm:text-3xl wall:text-5xl'
        : 'text-5xl sm:text-7xl wall:text-9xl',
  )
</script>

<section class="flex items-end justify-between gap-6 px-4 py-2 sm:px-6 low:py-0" aria-label="Now">
  <div class="min-w-0">
    <p class="figure {size} text-balance low:text-xl" data-testid="now">
      {paused ? 'Paused' : own ? 'Your drill' : face?.title}
    </p>
    <p class="mt-1 text-lg text-soft sm:text-2xl low:hidden wall:text-4xl">
      {#if told}<span class="font-semibold text-ink">{told.charAt(0).toUpperCase() + told.slice(1)}.</span>
      {:else}{face?.under ?? ''}{/if}
    </p>
  </div>
  <div class="shrink-0 text-right">
    {#if count > 0}<p class="figure text-6xl sm:text-7xl wall:text-9xl" data-testid="count">{count}</p>
    {:else if inRound}<p class="figure text-3xl text-soft sm:text-5xl wall:text-7xl">{countdown(floor.left)}</p>{/if}
    <p class="text-lg text-soft sm:text-2xl low:text-base wall:text-4xl" data-testid="next">{comes}</p>
  </div>
</section>
<p class="sr-only" aria-live="assertive">{paused ? 'Paused' : `${face?.name ?? ''}. ${face?.title ?? ''}`}</p>
{#if floor.asking}
  <p class="px-6 text-lg" role="alert">
    End the class here? Press End now, or Escape once more: what was done is kept. Space to go on.
  </p>
{/if}
{#if floor.told}<p class="px-6 text-lg font-semibold" role="status">{floor.told}</p>{/if}
{#if floor.box?.offline}
  <p class="px-6 text-lg font-semibold" role="status">Offline. The class carries on; everything is saved here.</p>
{:else if floor.box?.problem}<p class="px-6 text-lg font-semibold" role="alert">{floor.box.problem}</p>{/if}
