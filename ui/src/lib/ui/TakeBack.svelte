<!-- What was done last and can be taken back; it stays until something else is done. -->
<script lang="ts">
  import { changes } from '../changes.svelte'
  import Button from './Button.svelte'

  let busy = $state(false)
  const newest = $derived(changes.newest)
  async function back() {
    if (!newest || busy) return
    busy = true
    await changes.takeBack(newest)
    busy = false
  }
</script>

<div class="flex min-w-0 items-center gap-2 text-sm" role="status">
  {#if newest}
    <span class="min-w-0 max-w-[22rem] truncate max-lg:sr-only" title={newest.said}>{newest.said}</span>
    <Button small disabled={busy} onclick={back} aria-label="Undo {newest.what}: {newest.said}"
      >Undo {newest.what}</Button>
  {/if}
</div>
