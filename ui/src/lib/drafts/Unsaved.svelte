<!-- What of a sort was begun or changed on this device and is not saved: gone on with, or dropped. -->
<script lang="ts">
  import { onMount } from 'svelte'
  import { changes } from '../changes.svelte'
  import { clockTime, shortDay } from '../format'
  import { session } from '../session.svelte'
  import Button from '../ui/Button.svelte'
  import { drafts, type Kept, type Sort } from './drafts.svelte'

  let { sort }: { sort: Sort } = $props()
  onMount(() => drafts.read())
  const left = $derived(drafts.all.filter((d) => d.sort === sort))
  const at = (d: Kept) => new Date(d.at).toISOString()

  function drop(d: Kept) {
    drafts.drop(d.sort, d.key)
    const back = async () => (drafts.keep(d), true)
    changes.add({ of: d.key, what: 'drop', said: `${d.name} is discarded.`, back })
  }
</script>

{#if left.length > 0}
  <section class="mt-4 border-l-4 border-ink pl-4" aria-label="Not saved yet">
    {#each left as d (d.key)}
      <p class="flex flex-wrap items-center gap-x-3 gap-y-1 py-1">
        <span
          ><b>Not saved yet:</b>
          {d.name}, from {shortDay(at(d), session.zone)}, {clockTime(at(d), session.zone)}.</span>
        <Button small href="#{d.to}" aria-label="Go on with {d.name}">Go on</Button>
        <Button small quiet onclick={() => drop(d)} aria-label="Discard {d.name}">Discard</Button>
      </p>
    {/each}
  </section>
{/if}
