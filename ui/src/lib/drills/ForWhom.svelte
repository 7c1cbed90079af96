<!-- Where others have a drill as well: whom a change of it is for. -->
<script lang="ts">
  import Button from '../ui/Button.svelte'
  import type { Desk } from './desk.svelte'

  let { desk }: { desk: Desk } = $props()
  const others = $derived(desk.drill?.others ?? [])
  const named = $derived(
    others.length > 3 ? `${others.slice(0, 2).join(', ')} and ${others.length - 2} more` : others.join(' and '),
  )
</script>

{#if desk.asking}
  <div class="mt-3 border-l-4 border-ink pl-3" role="alertdialog" aria-label="Who is the change for?">
    <p class="font-semibold">{named} {others.length === 1 ? 'has' : 'have'} this drill too. Who is the change for?</p>
    <div class="mt-2 flex flex-wrap gap-2">
      <Button main onclick={() => desk.saveFor('copy')}>{desk.drill?.trainee} alone, as a copy</Button>
      <Button onclick={() => desk.saveFor('all')}>Everybody who has it</Button>
      <Button quiet onclick={() => (desk.asking = false)}>Go back</Button>
    </div>
  </div>
{/if}
