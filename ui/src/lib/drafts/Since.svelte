<!-- Says that what stands on the page was left unsaved before and is taken up again; and how to be rid of it. -->
<script lang="ts">
  import { clockTime, dayIn, shortDay } from '../format'
  import { session } from '../session.svelte'
  import Button from '../ui/Button.svelte'

  type Props = { since: Date | null; ondrop: () => void }
  let { since, ondrop }: Props = $props()
  const at = $derived(since?.toISOString() ?? '')
  const day = $derived(
    since && dayIn(session.zone, since) !== dayIn(session.zone) ? `${shortDay(at, session.zone)}, ` : '',
  )
</script>

{#if since}
  <p class="mt-2 flex flex-wrap items-center gap-x-3 border-l-4 border-ink pl-3 text-sm" role="status">
    <span><b>Not saved yet.</b> You were changing this at {day}{clockTime(at, session.zone)}.</span>
    <Button small onclick={ondrop}>Discard changes</Button>
  </p>
{/if}
