<!-- What is tapped in a test: anywhere, between a disc that lights up and counts. -->
<script lang="ts">
  import type { Trial } from '../../lib/people/trial.svelte'

  let { trial, sides }: { trial: Trial; sides: boolean } = $props()
  const half = 'grid place-items-center border-2 border-edge text-2xl font-bold text-soft sm:text-5xl'

  function tap(e: PointerEvent) {
    e.preventDefault()
    trial.tap(e.timeStamp)
  }
</script>

<!-- svelte-ignore a11y_no_static_element_interactions -- keys do the same -->
<div
  class="grid h-[min(56vh,34rem)] touch-none grid-cols-[1fr_auto_1fr] items-stretch gap-2 select-none sm:gap-4"
  onpointerdown={tap}>
  <div class={half}>{sides ? 'Left' : ''}</div>
  <div class="grid w-28 place-items-center sm:w-56">
    <svg viewBox="0 0 120 120" class="w-full" role="img" aria-label={trial.lit ? 'Now' : 'Wait'}>
      <circle cx="60" cy="60" r="50" fill={trial.lit ? 'var(--ink)' : 'none'} stroke="var(--ink)" stroke-width="4" />
      <text
        x="60"
        y="77"
        text-anchor="middle"
        font-size="48"
        font-weight="800"
        class="figure"
        fill={trial.lit ? 'var(--sheet)' : 'var(--ink)'}>{trial.left}</text>
    </svg>
  </div>
  <div class={half}>{sides ? 'Right' : ''}</div>
</div>
