<!-- The product's mark: a board, the swing of a bag under it, and the strike that stands on the curve. -->
<script lang="ts">
  let { size = 32 }: { size?: number } = $props()
</script>

<svg width={size} height={size} viewBox="0 0 40 40" aria-hidden="true">
  <path d="M4 7h32" stroke="var(--brass)" stroke-width="4" />
  <path
    d="M4 33C10 33 10 12 16 12s5 16 10 16 5-9 10-9"
    fill="none"
    stroke="var(--ink)"
    stroke-width="3"
    stroke-linecap="round" />
  <circle cx="26" cy="28" r="5" fill="var(--strike)" />
</svg>
