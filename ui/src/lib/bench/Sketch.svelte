<!-- A kind of rig in a few strokes, for lists. -->
<script lang="ts">
  import type { Doc } from './fields'

  let { doc }: { doc: Doc } = $props()
  const diameter = $derived(
    'bagDiameter' in doc ? doc.bagDiameter : 'ballDiameter' in doc ? doc.ballDiameter : (doc.diameter ?? 0.2),
  )
  const wide = $derived(diameter * 60)
</script>

<svg viewBox="0 0 40 46" class="h-14 w-12 shrink-0" aria-hidden="true">
  {#if doc.kind === 'speed'}
    <path d="M2 3h36" stroke="var(--brass)" stroke-width="4" />
    <path
      d="M20 5C{20 - wide / 3} 12 {20 - wide} 20 {20 - wide} 29A{wide} {wide} 0 0 0 {20 + wide} 29C{20 + wide} 20 {20 +
        wide / 3} 12 20 5Z"
      fill="var(--ink)" />
  {:else if doc.kind === 'doubleEnd'}
    <path d="M8 2h24M8 44h24M20 2V44" stroke="var(--ink)" stroke-width="2" />
    <circle cx="20" cy="21" r={Math.max(4, wide * 0.7)} fill="var(--ink)" />
  {:else if doc.kind === 'reflex'}
    <path d="M8 44h24l-5 -5h-14Z" fill="var(--ink)" /><path d="M20 40V14" stroke="var(--ink)" stroke-width="2.5" />
    <circle cx="20" cy="10" r={Math.max(4, wide * 0.6)} fill="var(--ink)" />
  {:else if doc.kind === 'slip'}
    <path d="M8 2h24" stroke="var(--ink)" stroke-width="2" /><path
      d="M20 2L29 32"
      stroke="var(--ink)"
      stroke-width="1.5" />
    <circle cx="30" cy="36" r={Math.max(4, wide * 0.6)} fill="var(--ink)" />
  {:else}
    <path d="M8 2h24M20 2V12" stroke="var(--ink)" stroke-width="2.5" />
    {#if doc.shape === 'ball'}<circle cx="20" cy="26" r="13" fill="var(--ink)" />{:else}<rect
        x="13"
        y="12"
        width="14"
        height="31"
        rx="2.5"
        fill="var(--ink)" />{/if}
  {/if}
</svg>
